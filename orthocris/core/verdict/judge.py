"""The judge: observations in, verdict out. This file only conducts the steps."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist

from orthocris.core.errors import InputError
from orthocris.core.verdict.cautions import warnings_for
from orthocris.core.verdict.classic import classic_for, group_means
from orthocris.core.verdict.compare import (
    Against,
    against_control,
    chance_below,
    chance_of_best,
    could_be_best,
    error_draws,
)
from orthocris.core.verdict.damage import damage_beyond_control, harms_plant
from orthocris.core.verdict.dataset import Dataset, PlantLine, collect, rate
from orthocris.core.verdict.decide import decide
from orthocris.core.verdict.estimate import Estimates, estimate, ratio_of
from orthocris.core.verdict.gathering import Gathered, gather
from orthocris.core.verdict.observation import Observation, check_observations
from orthocris.core.verdict.result import Design, RemedyResult, Verdict
from orthocris.core.verdict.words import Gone, advice, sentence

METHOD = "ancova_log_dunnett"


def judge(
    observations: Sequence[Observation],
    *,
    control: str | None = "control",
    measure: str | None = None,
    look: str = "last",
    threshold: float = 0.6,
    seed: int = 0,
) -> Verdict:
    """Judge a trial.

    Parameters
    ----------
    observations:
        Every number counted, before and after. Several of one plant, day and measure are
        subsamples, never replicates.
    control:
        Name of the control among the remedies, or None when there is none.
    measure:
        The measure judged; by default the first present of live, dead, hatched, cover,
        rating, catch.
    look:
        ``last``, ``auc`` (area under the curve of all looks after the spray) or a day.
    threshold:
        Fraction removed, 0 up to 1, from which a remedy is worth it.
    seed:
        Seed of the quasi-random draws; the same input and seed give the same verdict.

    Returns
    -------
    Verdict
        Analysis of covariance on log(after + 1/2) with log(before + 1/2) and blocks, Dunnett's
        comparison with the control, Hsu's comparison with the best.

    Raises
    ------
    InputError
        When the observations or the options cannot be used.

    Examples
    --------
    >>> counts = {"control": (30, 41, 35, 52), "soap": (3, 6, 2, 5)}
    >>> seen = [
    ...     Observation(f"{name}{i}", f"b{i}", name, 7, "live", value)
    ...     for name, values in counts.items()
    ...     for i, value in enumerate(values)
    ... ]
    >>> judge(seen).outcome.value
    'winner'
    """
    check_observations(observations)
    _check_options(threshold, seed)
    gathered = gather(observations)
    data = collect(gathered, control=control, measure=measure, look=str(look))
    fit = estimate(data)
    gone = _where_gone(data, fit)
    damage = damage_beyond_control(gathered, control)
    comparisons = _compare(fit, control, damage, seed, gone)
    results = _results(gathered, data, fit, comparisons, damage, threshold)
    informative = gone is Gone.NOWHERE and bool(comparisons.against)
    decision = decide(
        results, has_control=control is not None, threshold=threshold, informative=informative
    )
    return Verdict(
        outcome=decision.outcome,
        recommended=decision.recommended,
        sentence=sentence(decision, results, data.measure, threshold=threshold, gone=gone),
        advice=advice(
            decision,
            results,
            more_blocks=_more_blocks(fit, comparisons, threshold),
            threshold=threshold,
        ),
        measure=data.measure.key,
        look=data.look,
        threshold=threshold,
        design=_design(data, fit),
        remedies=results,
        warnings=warnings_for(data, fit, results, threshold=threshold, gone=gone),
        method=_method(data, fit, seed),
    )


@dataclass(frozen=True, slots=True)
class _Comparisons:
    """What the joint draws say; empty when there is no error estimate."""

    against: dict[str, Against]
    best: tuple[str, ...]
    prob_best: dict[str, float]


def _check_options(threshold: float, seed: int) -> None:
    if not (math.isfinite(threshold) and 0 < threshold < 1):
        raise InputError(
            f"the threshold is {threshold:g}",
            code="bad_threshold",
            field="threshold",
            fix="Give a fraction above 0 and below 1, such as 0.6.",
        )
    if seed < 0:
        raise InputError(
            f"the seed is {seed}",
            code="bad_seed",
            field="seed",
            fix="Give a whole number, 0 or larger.",
        )


def _compare(
    fit: Estimates,
    control: str | None,
    damage: dict[str, float | None],
    seed: int,
    gone: Gone,
) -> _Comparisons:
    if fit.covariance is None or gone is Gone.EVERYWHERE:
        return _Comparisons({}, (), {})
    draws = error_draws(fit.covariance, fit.df, seed)
    remedies = [name for name in fit.remedies if name != control]
    sound = [name for name in remedies if not harms_plant(damage.get(name))]
    judged = control is not None and control in fit.remedies and gone is Gone.NOWHERE
    return _Comparisons(
        against=against_control(fit, draws, control) if control is not None and judged else {},
        best=could_be_best(fit, draws, sound),
        prob_best=chance_of_best(fit, draws, remedies),
    )


def _where_gone(data: Dataset, fit: Estimates) -> Gone:
    if all(_harm(data, line) == 0 for line in fit.lines):
        return Gone.EVERYWHERE
    of_control = [line for line in fit.lines if line.remedy == data.control]
    if of_control and all(_harm(data, line) == 0 for line in of_control):
        return Gone.ON_CONTROL
    return Gone.NOWHERE


def _harm(data: Dataset, line: PlantLine) -> float:
    """Return what should become less, in numbers: survivors for `dead`, else the value."""
    if data.measure.key == "dead":
        return (line.after.of or 0.0) - line.after.value
    return line.after.value


def _results(
    gathered: Gathered,
    data: Dataset,
    fit: Estimates,
    comparisons: _Comparisons,
    damage: dict[str, float | None],
    threshold: float,
) -> tuple[RemedyResult, ...]:
    means = {name: group_means(name, data, gathered) for name in data.remedies}
    rank = sorted(
        data.remedies,
        key=lambda name: fit.level_of(name) if name in fit.remedies else math.inf,
    )
    worth = math.log1p(-threshold)
    results = []
    for name in rank:
        role = "control" if name == data.control else "remedy"
        against = comparisons.against.get(name)
        ratio = _ratio(fit, name, rank[0], data.control, comparisons)
        efficacy = None if data.control is None or role == "control" or ratio is None else 1 - ratio
        classic = classic_for(means[name], means.get(data.control or ""), role)
        results.append(
            RemedyResult(
                name=name,
                role=role,
                plants=sum(line.remedy == name for line in data.lines),
                mean_before=_mean_rate(data, name, before=True),
                mean_after=_mean_rate(data, name, before=False),
                efficacy=efficacy,
                efficacy_low=None if against is None else 1 - ratio_of(against.high),
                efficacy_high=None if against is None else 1 - ratio_of(against.low),
                rate_ratio=ratio,
                p_adjusted=None if against is None else against.p_adjusted,
                beats_control=against is not None
                and against.p_adjusted < 0.05
                and against.difference < 0,
                prob_best=comparisons.prob_best.get(name),
                prob_worth_it=None if against is None else chance_below(against, fit.df, worth),
                could_be_best=name in comparisons.best,
                damage_beyond_control=damage.get(name) if role == "remedy" else None,
                vetoed=role == "remedy" and harms_plant(damage.get(name)),
                classic=classic.values,
                classic_notes=classic.notes,
            )
        )
    return tuple(results)


def _ratio(
    fit: Estimates, name: str, first: str, control: str | None, comparisons: _Comparisons
) -> float | None:
    """Return the ratio to the control, or to the first in rank where there is none."""
    reference = first if control is None else control
    if name not in fit.remedies or reference not in fit.remedies:
        return None
    if control is not None and fit.covariance is not None and not comparisons.against:
        return None  # nothing left on the control: no ratio exists
    return ratio_of(fit.level_of(name) - fit.level_of(reference))


def _mean_rate(data: Dataset, remedy: str, *, before: bool) -> float | None:
    samples = [
        line.before if before else line.after for line in data.lines if line.remedy == remedy
    ]
    rates = [rate(data.measure, sample) for sample in samples if sample is not None]
    return sum(rates) / len(rates) if rates else None


def _more_blocks(fit: Estimates, comparisons: _Comparisons, threshold: float) -> int | None:
    """How many more plants of each remedy would show the threshold with a chance of 80%.

    From (z_crit + z_power)^2 · 2 · variance / log(1 - threshold)^2 with the error seen here
    (normal approximation); planned from the threshold, not from the effect that was seen.
    """
    if not comparisons.against:
        return None
    k = len(comparisons.against)
    error = max(a.standard_error for a in comparisons.against.values())
    fewest = min(sum(line.remedy == name for line in fit.lines) for name in comparisons.against)
    critical = NormalDist().inv_cdf(1 - 0.05 / (2 * k)) + NormalDist().inv_cdf(0.8)
    needed = fewest * (error * critical / math.log1p(-threshold)) ** 2
    return max(math.ceil(needed) - fewest, 0)


def _design(data: Dataset, fit: Estimates) -> Design:
    blocks: dict[str | None, set[str]] = {}
    for line in data.lines:
        blocks.setdefault(line.block, set()).add(line.remedy)
    if not fit.blocks_used:
        kind = "completely_randomised"
    elif all(line.column is not None for line in data.lines):
        kind = "latin_square"
    elif all(len(found) == len(data.remedies) for found in blocks.values()):
        kind = "complete_blocks"
    else:
        kind = "incomplete_blocks"
    return Design(
        kind=kind, blocks=fit.blocks_used, plants=len(data.lines), remedies=len(data.remedies)
    )


def _method(data: Dataset, fit: Estimates, seed: int) -> dict[str, object]:
    return {
        "name": METHOD,
        "seed": seed,
        "confidence": 0.95,
        "df": fit.df,
        "slope_before": fit.slope,
        "days": list(data.days),
        "comparison_with_control": "dunnett_two_sided",
        "comparison_with_best": "hsu_one_sided",
        "ratio_to": data.control or "first in rank",
    }
