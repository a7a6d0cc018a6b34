"""A ladder of strengths: the strength for what was asked, and which rungs do it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from orthocris.core.trial.measures import Measure
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.reading import Reading
from orthocris.core.verdict.result import Outcome, RemedyResult, Verdict
from orthocris.core.verdict.words import after_deaths, odds, percent, treat_rest, with_harm

SHOWN, LIKELY = 0.95, 0.8
HALF, NINE_TENTHS = 0.5, 0.9


@dataclass(frozen=True, slots=True)
class Strength:
    """A strength at which a fraction is removed: median and 95% interval, in the ladder's unit.

    An end is 0 where weaker than the weakest rung, infinite where stronger than the strongest.
    """

    middle: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class LadderAnswer:
    """What a ladder answers.

    `strength` is the sentence of the strength for the asked share ("" where none can be told) and
    `rungs` those of the rungs that do it; `beside` are the strengths for other shares. `likely`
    names the weakest rung that likely removes what was asked.
    """

    strength: str
    rungs: tuple[str, ...]
    beside: tuple[str, ...] = ()
    likely: str | None = None

    @property
    def lines(self) -> tuple[str, ...]:
        """All of it, in the order in which it is read."""
        return tuple(filter(None, (self.strength, *self.rungs, *self.beside)))


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
) -> LadderAnswer:
    """Say which strength removes what was asked, then which rungs do.

    The strength for the asked share lies on the curve through the rungs, with its interval. Then
    come the weakest rung that removes so much with a chance of 80%, and the weakest that is shown
    to: with a chance of 95%, beating the control. Both are rungs that are not struck out for harm.
    As efficacy never falls with strength, what is shown of a rung holds for all stronger ones, so
    one chance of 5% covers them all.
    """
    rungs = sorted(
        (r for r in verdict.remedies if r.name in strengths and r.name in reading.evidence.effects),
        key=lambda r: strengths[r.name],
    )
    if not rungs:
        return LadderAnswer("", ("No strength could be judged: see the warnings.",))
    curve = rising(np.column_stack([reading.efficacy(r.name) for r in rungs]))
    reached = np.mean(curve >= verdict.threshold, axis=0)
    doses = [strengths[r.name] for r in rungs]
    wanted = (verdict.threshold, *(w for w in (HALF, NINE_TENTHS) if w != verdict.threshold))
    said = (
        [
            f"{percent(share)} would be removed at "
            f"{_range(strength_for(curve, doses, share), doses, unit)}."
            for share in wanted
        ]
        if len(rungs) > 1 and min(doses) > 0
        else []
    )
    said_rungs, likely = _rungs(rungs, reached, verdict.threshold)
    return LadderAnswer("".join(said[:1]), said_rungs, tuple(said[1:]), likely)


def weakest_first(
    verdict: Verdict, answer: LadderAnswer, measure: Measure, usual: str = ""
) -> tuple[Verdict, tuple[str, ...]]:
    """Return the verdict of a ladder, which begins with the strength asked for, and what follows.

    Where a remedy is recommended, that is the weakest rung that likely removes what was asked, not
    the one that removes most. Where nothing is, what the trial could not settle comes after the
    strength. The verdict stays while the plan's decisive look is to come, and where every rung
    harms the plant.
    """
    if verdict.so_far or not answer.strength or all(r.vetoed for r in verdict.remedies):
        return verdict, answer.lines
    settled = verdict.outcome in (Outcome.WINNER, Outcome.TIE)
    if not settled or verdict.recommended is None or answer.likely is None:
        led = after_deaths(answer.strength, verdict.sentence, verdict.remedies)
        return replace(verdict, sentence=led), (*answer.rungs, *answer.beside)
    main = f"{answer.strength} {answer.rungs[0]}"
    step = f"Of a ladder the weakest that likely does it is taken: {answer.likely}."
    told = replace(
        verdict,
        recommended=answer.likely,
        sentence=with_harm(main, verdict.remedies, measure, usual),
        advice=treat_rest(answer.likely),
        reasons=(*verdict.reasons, step),
    )
    return told, (*answer.rungs[1:], *answer.beside)


def likely_rung(reached: FloatArray, sound: Sequence[bool]) -> int | None:
    """Return the weakest sound rung that reaches what was asked with a chance of 80%, or None."""
    found = [k for k, ok in enumerate(sound) if ok and reached[k] >= LIKELY]
    return found[0] if found else None


def _rungs(
    rungs: Sequence[RemedyResult], reached: FloatArray, threshold: float
) -> tuple[tuple[str, ...], str | None]:
    """What is said of the rungs, and the weakest that likely does it."""
    likely = likely_rung(reached, [not r.vetoed for r in rungs])
    sure = [
        r
        for r, chance in zip(rungs, reached, strict=True)
        if chance >= SHOWN and r.beats_control and not r.vetoed
    ]
    if likely is None:
        nearest = max(zip(reached, rungs, strict=True), key=lambda pair: pair[0])
        return (
            f"No strength here is likely to remove {percent(threshold)} or more; "
            f"{nearest[1].name} comes nearest, with a chance of {odds(float(nearest[0]))}.",
        ), None
    rung = rungs[likely]
    said = [
        f"{rung.name} is the weakest here that likely removes {percent(threshold)} or more: a "
        f"chance of {odds(float(reached[likely]))} (80% is asked)."
    ]
    if sure and sure[0] is not rung:
        said.append(f"{sure[0].name} is the weakest that is shown to, with 95%; weaker may do.")
    elif not sure:
        said.append("None is shown to, with 95%.")
    return tuple(said), rung.name


def _range(found: Strength, doses: Sequence[float], unit: str) -> str:
    unit = f" {unit}" if unit else ""
    if found.middle == 0:
        return f"less than {doses[0]:g}{unit}, the weakest here"
    if math.isinf(found.middle):
        return f"more than {doses[-1]:g}{unit}, the strongest here"
    low = f"under {doses[0]:g}" if found.low == 0 else _two_figures(found.low)
    high = f"over {doses[-1]:g}" if math.isinf(found.high) else _two_figures(found.high)
    return f"about {_two_figures(found.middle)}{unit} (likely {low} to {high}{unit})"


def _two_figures(value: float) -> str:
    return f"{float(f'{value:.2g}'):g}"
