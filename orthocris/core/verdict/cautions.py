"""What the reader must know before trusting a verdict: each finding has a code and a sentence."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from orthocris.core.trial.measures import Measure, MeasureKey, Scale
from orthocris.core.trial.plan import moment_words, on_moment
from orthocris.core.verdict.beside import shown_words
from orthocris.core.verdict.case import Case, Gone
from orthocris.core.verdict.dataset import Dataset
from orthocris.core.verdict.evenness import is_patchy
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.harm import Harm
from orthocris.core.verdict.observation import MOST_ADDITIONS
from orthocris.core.verdict.result import BesideReading, RemedyResult, Warning_
from orthocris.core.verdict.table import Table
from orthocris.core.verdict.words import change, percent
from orthocris.core.words import listing, many, verb

GROWTH = (MeasureKey.HEIGHT, MeasureKey.LEAVES, MeasureKey.PICKED)
FEW_PLANTS = 4
EARLY_DAYS = 3.0
DISAGREEMENT = 0.25
# Of 2, 3, 4 … plants none missed: the share that one in twenty would hide, 1 - 0.05^(1/n).
EVERY = (*["second"] * 4, *["third"] * 3, *["fourth"] * 3, *["fifth"] * 3)


def warnings_for(
    case: Case,
    results: Sequence[RemedyResult],
    usual: str = "",
    beside: tuple[BesideReading, ...] = (),
) -> tuple[Warning_, ...]:
    """Collect every warning, those about the comparison itself first.

    `usual` names the control where it is what is done anyway, `beside` what else was read.
    """
    found = [
        *_about_usual(usual),
        *_about_comparison(case),
        *_about_table(case.gathered, case.data),
        *_about_plants(case.data, case.table, results),
        *_about_counts(case.data, case.table, results),
        *_about_harm(case.data, results, case.harm),
        *_about_growth(beside),
        *_about_remedies(results, case.threshold, case.data.measure),
        *_about_spreads(case, results),
    ]
    return tuple(Warning_(code, text) for code, text in found)


def _about_growth(beside: tuple[BesideReading, ...]) -> Iterator[tuple[str, str]]:
    less = [
        f"{said} on plants of {name}"
        for measure, name, said in shown_words(tuple(b for b in beside if b.measure in GROWTH))
        if "less" in said
    ]
    if less:
        yield (
            "grows_less",
            f"Against the control, and more than luck: {listing(less)}. Weigh it as a price.",
        )


def _about_usual(usual: str) -> Iterator[tuple[str, str]]:
    if usual:
        yield (
            "nobody_untreated",
            f"No plant was left untreated: all is held against {usual}. Whether {usual} removes "
            "anything itself, this trial cannot say; where it does nothing, whatever is as good as "
            "it does nothing either.",
        )


def _about_comparison(case: Case) -> Iterator[tuple[str, str]]:
    data, table, evidence, gone = case.data, case.table, case.evidence, case.gone
    if data.control is None:
        yield (
            "no_control",
            "There is no untreated control: the pests may have gone by themselves, so efficacy "
            "cannot be computed.",
        )
    if gone is not Gone.NOWHERE:
        yield (
            "control_zero",
            f"Nothing was left {'on the control' if gone is Gone.ON_CONTROL else 'anywhere'}, so "
            "there is no number to compare with.",
        )
    if table.apart:
        yield (
            "not_comparable",
            f"{listing(table.apart)} stood in no block with the others, so the difference between "
            "blocks and between remedies cannot be told apart.",
        )
    if len(table.lines) <= len(table.remedies):
        yield (
            "no_replication",
            "Every remedy has too few plants to tell its effect from the difference between "
            "plants: numbers are shown without an interval.",
        )
    if len(table.remedies) < 2:
        yield ("one_remedy", "Only one remedy is left to judge, so there is nothing to compare.")
    if not evidence.exact:
        yield (
            "few_layouts",
            "The lot had so few ways to lay out these plants that even a perfect remedy could not "
            "be told from its luck. What is said rests on how such counts usually vary; one or two "
            "blocks more would make it stand by itself.",
        )
    blocks = {line.block for line in data.lines if line.block is not None}
    if len(blocks) > 1 and not table.blocks:
        unknown = sum(line.block is None for line in data.lines)
        why = (
            f"The block of {many(unknown, 'plant')} is not known"
            if unknown
            else "No block holds two remedies"
        )
        yield ("blocks_ignored", f"{why}, so the blocks were left out of the arithmetic.")


def _about_table(gathered: Gathered, data: Dataset) -> Iterator[tuple[str, str]]:
    if gathered.copied:
        yield (
            "copied_rows",
            "The whole table stands there twice, so the second copy was left out.",
        )
    if gathered.merged:
        yield (
            "leaves_merged",
            f"Several leaves of {listing(gathered.merged)} had the same remedy: they count as one, "
            "for leaves of one plant are no plants of their own.",
        )
    if gathered.one_plant is not None:
        yield (
            "one_plant",
            f"All of it stood on one plant, {gathered.one_plant}: other plants may differ, and "
            "what one leaf is given may reach the next, so that differences look too small.",
        )
    added = sum(line.added > 0 for line in data.lines)
    if added:
        left = MOST_ADDITIONS - data.additions
        yield (
            "plants_added",
            f"{many(added, 'plant')} {'was' if added == 1 else 'were'} added to the first ones. "
            "All are judged together, with the part of the 5 in 100 that was kept for it; "
            f"{'one more addition is the last' if left else 'this answer is final'}.",
        )
    if data.stray:
        days = listing([on_moment(day) for day in data.stray])
        yield (
            "stray_counts",
            f"{days[:1].upper()}{days[1:]} only few plants were counted, so the verdict is that of "
            f"{moment_words(data.days[-1])}.",
        )


def _about_plants(
    data: Dataset, table: Table, results: Sequence[RemedyResult]
) -> Iterator[tuple[str, str]]:
    died = [plant for plant, day in data.lost.items() if day is not None]
    if died:
        yield (
            "plants_lost",
            f"{listing(died)} {_were(died)} lost and left out of the counts: where plants died of "
            "a remedy, its count looks better than it is.",
        )
    uncounted = [plant for plant, day in data.lost.items() if day is None]
    if uncounted:
        yield (
            "plants_not_counted",
            f"{listing(uncounted)} {_were(uncounted)} not counted at this look and left out. If "
            "one died, record its death: else the count of its remedy looks better than it is.",
        )
    missing = [plant for plant, why in table.left_out if why == "no_before"]
    if missing:
        yield (
            "plants_without_before",
            f"{listing(missing)} had no count before and {_were(missing)} left out.",
        )
    unplaced = [plant for plant, why in table.left_out if why == "no_block"]
    if unplaced:
        yield (
            "plants_without_block",
            f"The block of {listing(unplaced)} is not known, so {_they(unplaced)} left out.",
        )
    single = [r.name for r in results if r.plants == 1]
    shown = any(r.efficacy_high is not None for r in results)
    if single:
        yield (
            "single_plant",
            f"{listing(single)} stood on one plant {verb(single, 'only', 'each')} and cannot win"
            + (
                f": what is sure of {verb(single, 'it', 'them')} borrows the spread of the other "
                "plants."
                if shown
                else "; nor can anything be told from one plant of each."
            ),
        )
    fewest = min((r.plants for r in results if r.plants), default=0)
    if 1 < fewest < FEW_PLANTS:
        yield (
            "few_plants",
            f"With {many(fewest, 'plant')} for a remedy only a very large difference can be seen.",
        )


def _about_counts(
    data: Dataset, table: Table, results: Sequence[RemedyResult]
) -> Iterator[tuple[str, str]]:
    if all(line.before is None for line in data.lines):
        yield (
            "no_before",
            "Nothing was counted before the spray: plants that started with fewer pests cannot "
            "be told from plants that were helped.",
        )
    elif table.x is None and any(line.start is None for line in data.lines):
        yield (
            "before_not_used",
            "Too many plants lack a count before, so it was not used to make the comparison fair.",
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
    if data.days[-1] < EARLY_DAYS:
        yield (
            "early_look",
            f"The look judged was {on_moment(data.days[-1])}: knock-down is not control, and burnt "
            "leaves show later.",
        )
    if data.measure.scale in (Scale.GRADE, Scale.PERCENT):
        yield (
            "approximate",
            f"The {data.measure.noun} is read by eye, and taken as a share of the worst there can "
            "be.",
        )


def _about_harm(
    data: Dataset, results: Sequence[RemedyResult], harm: Mapping[str, Harm]
) -> Iterator[tuple[str, str]]:
    for r in results:
        if r.kills:
            yield (
                "kills_plants",
                f"{r.name} lost {r.died} of {many(r.plants + r.lost, 'plant')}, so it cannot win.",
            )
        if r.vetoed and r.role == "remedy" and r.damage_beyond_control is not None and not r.kills:
            than = "the control's" if harm[r.name].beyond_control else "its own before"
            range_ = (
                ""
                if r.damage_low is None or r.damage_high is None
                else f" ({max(r.damage_low, -5):.1f} to {min(r.damage_high, 5):.1f})"
            )
            yield (
                "harms_plant",
                f"{r.name} raised leaf damage by {r.damage_beyond_control:.1f} steps of 5{range_} "
                f"beyond {than} on {many(r.damage_plants, 'plant')}, so it cannot win.",
            )
    remedies = [r for r in results if r.role == "remedy"]
    scored = [r for r in remedies if r.damage_beyond_control is not None]
    unscored = [r.name for r in remedies if r.damage_beyond_control is None]
    if unscored:
        yield (
            "damage_not_scored",
            "Leaf damage was not scored, so nobody knows what it cost the plants."
            if not scored
            else f"Leaf damage was not scored for {listing(unscored)}.",
        )
    if scored and data.control is not None and not harm[data.control].scored:
        yield (
            "control_damage_not_scored",
            "Leaf damage was not scored on the control; its leaves are taken to be as they were.",
        )


def _about_spreads(case: Case, results: Sequence[RemedyResult]) -> Iterator[tuple[str, str]]:
    """Plants that differ more under one remedy than another, and what few plants cannot show."""
    effects = case.evidence.effects
    differ = [r.name for r in results if r.name in effects and effects[r.name].spreads_differ]
    if differ:
        yield (
            "spreads_differ",
            f"The plants of {listing(differ)} differ among themselves otherwise than the "
            "control's. Some plants may be clumped where others are even: what is claimed holds "
            "for the plain means too, and is less sure than it looks.",
        )
    for r in results:
        if r.beats_control and r.failed_on == 0 and not r.missed and r.plants - 2 < len(EVERY):
            yield (
                "few_show_no_miss",
                f"None of the {r.plants} plants of {r.name} was missed, which cannot rule out that "
                f"every {EVERY[r.plants - 2]} would be: so few speak for themselves only.",
            )


def _about_remedies(
    results: Sequence[RemedyResult], threshold: float, measure: Measure
) -> Iterator[tuple[str, str]]:
    for r in results:
        if r.worse_than_control:
            yield (
                "worse_than_control",
                f"{r.name} left more than the control did, and that may be its doing: do not use "
                "it against this before it is tried again.",
            )
        if r.missed:
            yield (
                "patchy",
                f"{r.name} seems to have missed {len(r.missed)} of its {r.plants} plants: as many "
                "were left there as on untreated ones. What is said of it reckons with such plants "
                "to come. Look at how they were treated.",
            )
        elif is_patchy(r.failed_on, r.plants):
            yield (
                "patchy",
                f"{r.name} failed on {r.failed_on} of its {r.plants} plants: it removed less than "
                "half there of what it removes on the whole. Look at how those were treated.",
            )
    weak = [
        r.name
        for r in results
        if r.beats_control and r.efficacy_high is not None and r.efficacy_high < threshold
    ]
    if weak:
        yield (
            "below_threshold",
            f"{listing(weak)} {verb(weak, 'does', 'do')} something, but surely less than "
            f"{percent(threshold)}.",
        )
    for r in results:
        simple = r.classic.get("henderson_tilton")
        if simple is None or r.efficacy is None:
            continue
        if abs(max(simple, -1.0) - max(r.efficacy, -1.0)) > DISAGREEMENT:
            yield (
                "methods_disagree",
                f"{r.name}: {change(min(simple, 0.999), measure)} by the plain means, "
                f"{change(r.efficacy, measure)} by the model; a few plants far from the others "
                "pull the means.",
            )


def _effort(data: Dataset) -> float:
    return sum(line.after.effort for line in data.lines) / len(data.lines)


def _were(names: Sequence[str]) -> str:
    return "was" if len(names) == 1 else "were"


def _they(names: Sequence[str]) -> str:
    return "it was" if len(names) == 1 else "they were"
