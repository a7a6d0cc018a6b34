"""What the reader must know before trusting a verdict: each finding has a code and a sentence."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orthocris.core.trial.measures import Scale
from orthocris.core.verdict.dataset import Dataset
from orthocris.core.verdict.estimate import Estimates
from orthocris.core.verdict.result import RemedyResult, Warning_
from orthocris.core.verdict.words import Gone, listing, percent

FEW_PLANTS = 4
EARLY_DAYS = 3.0
DISAGREEMENT = 0.25


def warnings_for(
    data: Dataset,
    fit: Estimates,
    results: Sequence[RemedyResult],
    *,
    threshold: float,
    gone: Gone,
) -> tuple[Warning_, ...]:
    """Collect every warning, those about the comparison itself first."""
    found = [
        *_about_comparison(data, fit, gone),
        *_about_plants(data, fit, results),
        *_about_counts(data, fit, results),
        *_about_remedies(results, threshold),
    ]
    return tuple(Warning_(code, text) for code, text in found)


def _about_comparison(data: Dataset, fit: Estimates, gone: Gone) -> Iterator[tuple[str, str]]:
    if data.control is None:
        yield (
            "no_control",
            "There is no untreated control: the pests may have gone by themselves, so efficacy "
            "cannot be computed.",
        )
    if gone is not Gone.NOWHERE:
        yield (
            "control_zero",
            f"Nothing was left {gone.value}, so there is no number to compare with.",
        )
    if fit.apart:
        yield (
            "not_comparable",
            f"{listing(fit.apart)} stood in no block with the others, so the difference between "
            "blocks and between remedies cannot be told apart.",
        )
    if fit.covariance is None:
        yield (
            "no_replication",
            "Every remedy has too few plants to tell its effect from the difference between "
            "plants: numbers are shown without an interval.",
        )
    if len(fit.remedies) < 2:
        yield ("one_remedy", "Only one remedy is left to judge, so there is nothing to compare.")
    blocks = {line.block for line in data.lines if line.block is not None}
    if len(blocks) > 1 and not fit.blocks_used:
        unknown = sum(line.block is None for line in data.lines)
        why = (
            f"The block of {unknown} plants is not known"
            if unknown
            else "No block holds two remedies"
        )
        yield ("blocks_ignored", f"{why}, so the blocks were left out of the arithmetic.")


def _about_plants(
    data: Dataset, fit: Estimates, results: Sequence[RemedyResult]
) -> Iterator[tuple[str, str]]:
    if data.lost:
        yield (
            "plants_lost",
            f"{listing(data.lost)} {_were(data.lost)} not counted at this look and left out; if "
            "plants died of a remedy, it looks better than it is.",
        )
    missing = [plant for plant, why in fit.left_out if why == "no_before"]
    if missing:
        yield (
            "plants_without_before",
            f"{listing(missing)} had no count before and {_were(missing)} left out.",
        )
    unplaced = [plant for plant, why in fit.left_out if why == "no_block"]
    if unplaced:
        yield (
            "plants_without_block",
            f"The block of {listing(unplaced)} is not known, so {_they(unplaced)} left out.",
        )
    single = [r.name for r in results if r.plants == 1]
    if single:
        yield (
            "single_plant",
            f"{listing(single)} stood on one plant only: its interval borrows the spread of the "
            "other remedies.",
        )
    fewest = min(r.plants for r in results)
    if 1 < fewest < FEW_PLANTS:
        yield (
            "few_plants",
            f"With {fewest} plants for a remedy only a very large difference can be seen.",
        )


def _about_counts(
    data: Dataset, fit: Estimates, results: Sequence[RemedyResult]
) -> Iterator[tuple[str, str]]:
    if all(line.before is None for line in data.lines):
        yield (
            "no_before",
            "Nothing was counted before the spray: plants that started with fewer pests cannot "
            "be told from plants that were helped.",
        )
    elif fit.slope is None and any(line.log_before is None for line in data.lines):
        yield (
            "before_not_used",
            "Too many plants lack a count before, so it was not used to make the comparison fair.",
        )
    if fit.floored:
        yield (
            "chance_floor",
            "The plants agreed more than counting chance allows, so that chance was used for "
            "the intervals.",
        )
    control = next((r for r in results if r.role == "control"), None)
    if (
        control is not None
        and data.measure.scale is Scale.COUNT
        and control.mean_after is not None
        and 0 < control.mean_after * _effort(data) < 5
    ):
        yield (
            "low_counts",
            "The control had fewer than 5 on a plant at this look: with so few, even a perfect "
            "remedy can hardly be told from luck.",
        )
    if data.look == "last" and data.days[-1] < EARLY_DAYS:
        yield (
            "early_look",
            f"The last look was on day {data.days[-1]:g}: knock-down is not control, and burnt "
            "leaves show later.",
        )
    if data.measure.scale in (Scale.GRADE, Scale.PERCENT) or data.look == "auc":
        yield (
            "approximate",
            f"{data.measure.label} is treated like an amount on the log scale, an approximation.",
        )


def _about_remedies(results: Sequence[RemedyResult], threshold: float) -> Iterator[tuple[str, str]]:
    for r in results:
        if r.vetoed and r.role == "remedy":
            yield (
                "harms_plant",
                f"{r.name} raised leaf damage by {r.damage_beyond_control:.1f} steps of 5 beyond "
                "the control's, so it cannot win.",
            )
    scored = [r for r in results if r.damage_beyond_control is not None]
    unscored = [r.name for r in results if r.damage_beyond_control is None and r.role == "remedy"]
    if unscored:
        yield (
            "damage_not_scored",
            "Leaf damage was not scored, so nobody knows what it cost the plants."
            if not scored
            else f"Leaf damage was not scored for {listing(unscored)}.",
        )
    weak = [
        r.name
        for r in results
        if r.beats_control and r.efficacy_high is not None and r.efficacy_high < threshold
    ]
    if weak:
        yield (
            "below_threshold",
            f"{listing(weak)} does something, but surely less than {percent(threshold)}.",
        )
    for r in results:
        simple = r.classic.get("henderson_tilton")
        if simple is None or r.efficacy is None:
            continue
        if abs(max(simple, -1.0) - max(r.efficacy, -1.0)) > DISAGREEMENT:
            yield (
                "methods_disagree",
                f"{r.name}: group means say {percent(simple)}, the model "
                f"{percent(r.efficacy)}; a few plants with very many pests pull the means.",
            )


def _effort(data: Dataset) -> float:
    return sum(line.after.effort for line in data.lines) / len(data.lines)


def _were(names: Sequence[str]) -> str:
    return "was" if len(names) == 1 else "were"


def _they(names: Sequence[str]) -> str:
    return "it was" if len(names) == 1 else "they were"
