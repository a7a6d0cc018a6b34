"""Would the answer change? The same trial judged again without what may be doubted."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.judge import judge
from orthocris.core.verdict.observation import Observation
from orthocris.core.verdict.result import Verdict
from orthocris.core.verdict.table import make_table
from orthocris.core.verdict.two_looks import taken_together
from orthocris.core.verdict.words import percent
from orthocris.core.words import listing

DOUBTFUL = 3.5  # robust standard deviations from the others
NORMAL_MEDIAN = 0.6745  # the median distance from the middle of a normal distribution
MOST_DOUBTED = 0.1  # of the plants


@dataclass(frozen=True, slots=True)
class Check:
    """The trial judged in another way.

    `way` names it, `changed` tells whether another remedy, or none, would be recommended, and
    `says` what it says in words.
    """

    way: str
    changed: bool
    says: str


def sensitivity(
    observations: Sequence[Observation],
    verdict: Verdict,
    *,
    control: str,
    terms: Terms,
    told: Callable[[Sequence[Observation], Verdict], Verdict] = lambda _, verdict: verdict,
) -> tuple[Check, ...]:
    """Judge a trial again in the ways that a doubter would ask for.

    Parameters
    ----------
    observations, verdict:
        The trial, and its verdict.
    control, terms:
        As it was judged.
    told:
        What becomes of a verdict by the kind of the question.

    Returns
    -------
    Without the plants far from the others, without the counts before, without
    blocks, and by the classical formulas.
    """
    doubtful = doubtful_plants(observations, verdict, control, terms)
    groups = {o.plant: o.group for o in observations}
    other_ways = [
        ("Without the counts before", [o for o in observations if o.day > 0]),
        (
            "Without blocks",
            [o._replace(block=None, column=None, group=None) for o in observations]
            if not any(groups.values())
            else [],
        ),
    ]
    if doubtful:
        kept = [o for o in observations if o.plant not in doubtful]
        other_ways.insert(0, (f"Without {listing(doubtful)}, far from the others", kept))
    checks = [
        _again(way, seen, verdict, control, terms, told)
        for way, seen in other_ways
        if seen and seen != list(observations)
    ]
    return (*checks, *_classical(verdict))


def doubtful_plants(
    observations: Sequence[Observation], verdict: Verdict, control: str, terms: Terms
) -> tuple[str, ...]:
    """Name the plants far from the others with their remedy, at most a tenth of all.

    By the robust z score of the log of what is left, less what its start lets expect: distance from
    the remedy's median over the median distance of all plants (Iglewicz & Hoaglin 1993), which is
    never taken below counting chance.
    """
    gathered = taken_together(gather(observations), terms)
    data = collect(gathered, control=control, measure=verdict.measure, look=verdict.look)
    table = make_table(data)
    slope = float(str(verdict.method["slope_before"] or 0.0))
    starts = np.zeros(len(table.lines)) if table.x is None else table.x
    level = np.array([line.left.log for line in table.lines]) - slope * starts
    middle = np.zeros_like(level)
    for r in range(len(table.remedies)):
        own = table.layout.remedy == r
        middle[own] = np.median(level[own])
    away = np.abs(level - middle)
    chance = np.sqrt(1 / (np.median([line.left.harm for line in table.lines]) + 0.5))
    scale = max(float(np.median(away)) / NORMAL_MEDIAN, float(chance) / 2)
    most = max(1, int(MOST_DOUBTED * len(away)))
    far = [k for k in np.argsort(-away)[:most] if away[k] > DOUBTFUL * scale]
    return tuple(table.lines[k].plant for k in far)


def _again(
    way: str,
    seen: Sequence[Observation],
    verdict: Verdict,
    control: str,
    terms: Terms,
    told: Callable[[Sequence[Observation], Verdict], Verdict],
) -> Check:
    try:
        other = judge(
            seen,
            control=control,
            measure=verdict.measure,
            look=verdict.look,
            threshold=verdict.threshold,
            seed=int(str(verdict.method["seed"])),
            terms=terms,
        )
        other = told(seen, other)
    except InputError as error:
        return Check(way, changed=True, says=f"It could not be judged: {error.message}.")
    changed = other.recommended != verdict.recommended
    if not changed:
        return Check(way, changed=False, says=_same(other))
    named = other.recommended or "nothing"
    return Check(way, changed=True, says=f"Then {named} would be recommended. {other.sentence}")


def _same(other: Verdict) -> str:
    best = next((r for r in other.remedies if r.name == other.recommended), None)
    if best is None or best.efficacy is None:
        return "The answer is the same."
    return f"The answer is the same; {best.name} removes about {percent(best.efficacy)} there."


def _classical(verdict: Verdict) -> tuple[Check, ...]:
    formula = next(
        (
            key
            for key in ("henderson_tilton", "abbott", "schneider_orelli")
            if any(r.classic.get(key) is not None for r in verdict.remedies)
        ),
        None,
    )
    if formula is None:
        return ()
    sound = [r for r in verdict.remedies if r.classic.get(formula) is not None and not r.vetoed]
    if not sound:
        return ()
    best = max(sound, key=lambda r: r.classic[formula] or 0.0)
    value = best.classic[formula] or 0.0
    named = best.name if value >= verdict.threshold else None
    way = f"By the classical formula ({formula.replace('_', '–').title()})"
    says = f"{best.name} removes most, {percent(value)}; it says nothing of how sure that is."
    leader = max(sound, key=lambda r: r.efficacy or 0.0).name if verdict.recommended else None
    return (Check(way, changed=named != leader, says=says),)
