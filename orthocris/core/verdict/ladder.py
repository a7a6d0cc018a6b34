"""A ladder of strengths: the weakest that is shown to be worth it, and the curve through them."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.reading import Reading
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.core.verdict.words import percent

SHOWN = 0.95
HALF, NINE_TENTHS = 0.5, 0.9


@dataclass(frozen=True, slots=True)
class Strength:
    """A strength at which a fraction is removed: median and 95% interval, in the ladder's unit.

    An end is 0 where weaker than the weakest rung, infinite where stronger than the strongest.
    """

    middle: float
    low: float
    high: float


def rising(efficacies: FloatArray) -> FloatArray:
    """Return each draw's efficacies (draws, rungs) made never to fall with strength.

    The isotonic regression with equal weights, by its min-max formula: at each rung the greatest,
    over rungs below, of the least mean from there to a rung above (Barlow et al. 1972, Statistical
    Inference under Order Restrictions, theorem 1.4).
    """
    rungs = efficacies.shape[1]
    total = np.concatenate([np.zeros((len(efficacies), 1)), np.cumsum(efficacies, axis=1)], axis=1)
    found = np.empty_like(efficacies)
    for j in range(rungs):
        below = [
            np.min(
                np.stack([(total[:, b + 1] - total[:, a]) / (b + 1 - a) for b in range(j, rungs)]),
                axis=0,
            )
            for a in range(j + 1)
        ]
        found[:, j] = np.max(np.stack(below), axis=0)
    return found


def strength_for(curve: FloatArray, strengths: Sequence[float], wanted: float) -> Strength:
    """Return the strength that removes a fraction, by a straight line in log strength.

    Parameters
    ----------
    curve:
        Draws of the efficacy at each rung, never falling, (draws, rungs).
    strengths:
        The rungs' strengths, weakest first, above 0.
    wanted:
        The fraction removed, such as 0.5 (ED50) or 0.9 (ED90). What dies by itself is in the
        control and not counted.
    """
    logs = np.log(np.asarray(strengths, dtype=float))
    above = curve >= wanted
    first = np.where(above.any(axis=1), above.argmax(axis=1), len(logs))
    inside = (first > 0) & (first < len(logs))
    found = np.where(first == 0, -np.inf, np.inf)
    rows = np.flatnonzero(inside)
    upper = first[rows]
    low, high = curve[rows, upper - 1], curve[rows, upper]
    share = (wanted - low) / np.maximum(high - low, 1e-12)
    found[rows] = logs[upper - 1] + share * (logs[upper] - logs[upper - 1])
    low_q, middle, high_q = np.quantile(found, [0.025, 0.5, 0.975], method="nearest")
    return Strength(*(float(np.exp(q)) for q in (middle, low_q, high_q)))


def ladder_answer(
    reading: Reading, verdict: Verdict, strengths: Mapping[str, float], unit: str = ""
) -> tuple[str, ...]:
    """Name the weakest strength shown to be worth it, then the strengths for half and nine tenths.

    A rung is shown when, efficacy never falling with strength, it reaches the threshold with a
    chance of 95%, beats the control and is not struck out for harm. As what is shown of a rung
    holds for all stronger ones, one chance of 5% covers them all.
    """
    rungs = sorted(
        (r for r in verdict.remedies if r.name in strengths and r.name in reading.evidence.effects),
        key=lambda r: strengths[r.name],
    )
    if not rungs:
        return ("No strength could be judged: see the warnings.",)
    curve = rising(np.column_stack([reading.efficacy(r.name) for r in rungs]))
    shown = np.mean(curve >= verdict.threshold, axis=0)
    said = [_weakest(rungs, shown, verdict.threshold)]
    doses = [strengths[r.name] for r in rungs]
    if len(rungs) > 1 and min(doses) > 0:
        said += [
            f"{percent(wanted)} would be removed at {_range(found, doses, unit)}."
            for wanted in (HALF, NINE_TENTHS)
            if (found := strength_for(curve, doses, wanted))
        ]
    return tuple(said)


def _weakest(rungs: Sequence[RemedyResult], shown: FloatArray, threshold: float) -> str:
    for rung, chance in zip(rungs, shown, strict=True):
        if chance >= SHOWN and rung.beats_control and not rung.vetoed:
            effect = f"{rung.name} removes about {percent(rung.efficacy or 0)}"
            if rung is rungs[-1]:
                return f"{effect}; only the strongest is shown to remove {percent(threshold)}."
            return f"{effect}: the weakest that is shown to remove {percent(threshold)} or more."
    nearest = max(zip(shown, rungs, strict=True), key=lambda pair: pair[0])
    return (
        f"No strength is shown to remove {percent(threshold)} or more; {nearest[1].name} comes "
        f"nearest, with a chance of {percent(float(nearest[0]))}."
    )


def _range(found: Strength, doses: Sequence[float], unit: str) -> str:
    unit = f" {unit}" if unit else ""
    if found.middle == 0:
        return f"less than {doses[0]:g}{unit}, the weakest here"
    if math.isinf(found.middle):
        return f"more than {doses[-1]:g}{unit}, the strongest here"
    low = f"under {doses[0]:g}" if found.low == 0 else f"{found.low:.3g}"
    high = f"over {doses[-1]:g}" if math.isinf(found.high) else f"{found.high:.3g}"
    return f"about {found.middle:.3g}{unit} (likely {low} to {high}{unit})"
