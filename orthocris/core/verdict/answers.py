"""What a verdict answers for each kind of question: promised beforehand, read afterwards."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np

from orthocris.core.trial.setup import Kind
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.distributions import t_quantile
from orthocris.core.verdict.estimate import estimate, ratio_of
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.observation import Observation
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.core.verdict.words import listing, percent


def promise(kind: Kind, names: Sequence[str], threshold: float) -> str:
    """Say before the trial what its verdict will be able to say.

    `names` are those of the remedies beside the control, weakest first in a ladder.
    """
    some = listing(names) or "the remedies"
    worth = percent(threshold)
    if kind is Kind.LADDER:
        return (
            f"The verdict will name the weakest of {some} that still removes what a stronger one "
            f"does, if it removes {worth} or more."
        )
    if kind is Kind.SQUARE:
        return (
            "The verdict will say how much each ingredient does, and whether both together do "
            "more than the two apart."
        )
    if kind is Kind.PREVENTION:
        return (
            f"The verdict will say which of {some} keeps {worth} or more of the arrivals away, on "
            "plants that start clean."
        )
    if kind is Kind.EGGS:
        return (
            f"The verdict will say which of {some} keeps {worth} or more of the eggs from hatching."
        )
    return (
        f"The verdict will say which of {some} removes {worth} or more of what untreated plants "
        "have, which is best, and what it costs the leaves."
    )


def ladder_answer(verdict: Verdict, strengths: Mapping[str, float]) -> str:
    """Name the weakest strength that works as well as the best, from a judged ladder.

    A rung works when it beats the control, could be best, is not struck out for harm, and may
    reach the threshold (upper limit). Ties go to the weaker: that is the point of a ladder.
    """
    rungs = sorted(
        (r for r in verdict.remedies if r.name in strengths), key=lambda r: strengths[r.name]
    )
    for rung in rungs:
        reaches = rung.efficacy_high is not None and rung.efficacy_high >= verdict.threshold
        if rung.beats_control and rung.could_be_best and not rung.vetoed and reaches:
            return _weakest(rung, rungs[-1])
    return (
        "No strength could be named: none beats the control and may be as good as the best. See "
        "the sentence above for what would settle it."
    )


def _weakest(rung: RemedyResult, strongest: RemedyResult) -> str:
    effect = f"{rung.name} removes about {percent(rung.efficacy or 0)}"
    if rung is strongest:
        return f"{effect}; it takes the strongest, weaker ones fall behind."
    return f"{effect} and cannot be told from anything stronger: the weakest that still works."


def prevention_answer(
    observations: Sequence[Observation], measure: str, order: Sequence[str]
) -> tuple[str, ...]:
    """Say when the first arrived on each remedy's plants, and how many plants stayed clean.

    A plant's first arrival is the first day after the spray on which something was counted;
    the median over plants is named, or that half or more stayed clean to the end.
    """
    first: dict[str, dict[str, float]] = {name: {} for name in order}
    last = max((o.day for o in observations if o.measure == measure), default=0.0)
    for o in observations:
        if o.measure != measure or o.day <= 0:
            continue
        own = first[o.remedy]
        own.setdefault(o.plant, math.inf)
        if o.value > 0:
            own[o.plant] = min(own[o.plant], o.day)
    said = []
    for name in order:
        days = sorted(first[name].values())
        if not days:
            continue
        clean = sum(math.isinf(d) for d in days)
        # By this day half of the plants, or the first plants beyond half, had their first.
        middle = days[(len(days) - 1) // 2]
        arrival = (
            "half or more stayed clean"
            if math.isinf(middle)
            else f"first arrival by day {middle:g} on half of the plants"
        )
        said.append(f"{name}: {arrival}; {clean} of {len(days)} still clean on day {last:g}.")
    return tuple(said)


def square_answer(
    observations: Sequence[Observation],
    *,
    control: str,
    one: str,
    other: str,
    both: str,
    measure: str,
    look: str,
) -> tuple[str, ...]:
    """Read a two-by-two: the effect of each ingredient, and whether they help each other.

    On the log scale, with levels c (neither), a, b, ab of the judge's model: the first
    ingredient does ((a - c) + (ab - b)) / 2, the second ((b - c) + (ab - a)) / 2, and beyond
    the two apart they do ab - a - b + c, each with its t interval.
    """
    data = collect(gather(observations), control=control, measure=measure, look=look)
    fit = estimate(data)
    names = (control, one, other, both)
    if fit.covariance is None or not set(names) <= set(fit.remedies):
        return ("The four groups cannot be compared: see the warnings.",)
    index = [fit.remedies.index(name) for name in names]
    levels = fit.levels[index]
    covariance = fit.covariance[np.ix_(index, index)]
    said = []
    for name, weights in ((one, (-0.5, 0.5, -0.5, 0.5)), (other, (-0.5, -0.5, 0.5, 0.5))):
        low, middle, high = _contrast(levels, covariance, weights, fit.df)
        sure = "" if high < 0 or low > 0 else ", which may be chance"
        said.append(
            f"{name}: about {_change(middle)} on its own and in the mix alike "
            f"(likely {_change(high)} to {_change(low)}){sure}."
        )
    low, middle, high = _contrast(levels, covariance, (1, -1, -1, 1), fit.df)
    if high < 0:
        said.append("Together they do more than the two apart.")
    elif low > 0:
        said.append("Together they do less than the two apart.")
    else:
        said.append("Whether together they do more than the two apart is not settled.")
    return tuple(said)


def _contrast(
    levels: np.ndarray, covariance: np.ndarray, weights: Sequence[float], df: int
) -> tuple[float, float, float]:
    w = np.array(weights, dtype=float)
    middle = float(w @ levels)
    half = float(t_quantile(0.975, df)) * math.sqrt(max(float(w @ covariance @ w), 0.0))
    return middle - half, middle, middle + half


def _change(log_ratio: float) -> str:
    efficacy = 1 - ratio_of(log_ratio)
    return f"{percent(-efficacy)} more" if efficacy < 0 else f"{percent(efficacy)} fewer"
