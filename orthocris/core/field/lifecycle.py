"""Rounds by the pest's life cycle: development in degree-days at the real temperature."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from orthocris.core.trial.stages import LifeCycle, Phase, RoundRhythm, Stage, check_cycle
from orthocris.core.weather.hours import Hours

MOST_HATCHED = 0.9  # of the eggs left behind
HORIZON_DAYS = 60
HARDLY_ANY = 0.05  # of what was there before: so few that their eggs hardly count
SURVIVED = (3, 7)  # days to the next spray where more are left, usual
USUAL_TEMPERATURE = 18.0  # °C where no station reads
CEILING = 33.0  # °C above which nothing develops faster, typical


RHYTHM_REASONS = {
    RoundRhythm.PLAN: "Fixed days: everybody can keep them, and they are the same in any weather.",
    RoundRhythm.EGG_CYCLE: "Once most eggs have hatched and before their daughters lay: one spray "
    "meets the whole generation.",
    RoundRhythm.EVERY_3: "Every 2 to 3 days while it is heavy: nothing that hatches gets old.",
    RoundRhythm.TWICE_WEEKLY: "Twice a week for weeks: misses little, and costs the leaves most.",
    RoundRhythm.WATCH: "Watch and repeat: spray again only when a look finds them back.",
}


def degree_days(temperature: Hours, t0: float) -> Hours:
    """Return degree-days gathered by the end of each hour.

    They are the sum of max(min(T, 33) - T0, 0) / 24 (horizontal cut-off: above the ceiling
    warmth adds nothing). Unknown hours count as `USUAL_TEMPERATURE`.
    """
    known = np.where(np.isnan(temperature), USUAL_TEMPERATURE, temperature)
    return np.cumsum(np.maximum(np.minimum(known, CEILING) - t0, 0.0)) / 24


@dataclass(frozen=True, slots=True)
class Generations:
    """What becomes of eggs that a spray left behind, day by day from the spray.

    Each list has one number a day: the share (0 to 1) of those eggs that are still eggs,
    young or hidden, and grown. `hatched_on` is when most (90%) have hatched, `lays_on` when
    the first daughters begin to lay; None beyond the horizon. `safe_stages` names what the
    spray does not reach.
    """

    days: tuple[date, ...]
    eggs: tuple[float, ...]
    young: tuple[float, ...]
    grown: tuple[float, ...]
    hatched_on: date | None
    lays_on: date | None
    safe_stages: tuple[str, ...]


def generations(cycle: LifeCycle, temperature: Hours, sprayed_at: datetime) -> Generations:
    """Follow the eggs that were on the plant when it was sprayed.

    Parameters
    ----------
    cycle:
        Stages with their degree-days.
    temperature:
        Hourly, °C, from the hour of the spray on; its last day is repeated as needed.

    Notes
    -----
    Eggs of every age are there, evenly, so the share hatched rises as degree-days over K.
    Whoever hatches in an hour passes the other stages one after the other, each above its own
    threshold, in the warmth of its own days. Without an egg stage, young that were missed
    take their place.
    """
    check_cycle(cycle)
    hours = _prolonged(temperature)
    egg = [s for s in cycle.stages if s.phase is Phase.EGG]
    rest = [s for s in cycle.stages if s.phase is not Phase.EGG]
    hatched = _left_share(egg, hours)
    exits = _exits(rest, hours)
    # At each point of time: the share of those whose entry lies before the last that has left.
    gone = np.searchsorted(exits, np.arange(len(hours) + 1), side="right") - 1
    grown = np.where(gone >= 0, hatched[np.maximum(gone, 0)], 0.0)
    days = range(HORIZON_DAYS + 1)
    at = [24 * d for d in days]
    most = np.flatnonzero(hatched >= MOST_HATCHED - 1e-9)
    first_lays = int(exits[0])
    return Generations(
        days=tuple(sprayed_at.date() + timedelta(days=d) for d in days),
        eggs=tuple(float(1 - hatched[i]) for i in at),
        young=tuple(float(hatched[i] - grown[i]) for i in at),
        grown=tuple(float(grown[i]) for i in at),
        hatched_on=_on(sprayed_at, int(most[0])) if len(most) else None,
        lays_on=_on(sprayed_at, first_lays) if first_lays <= len(hours) else None,
        safe_stages=tuple(s.name for s in cycle.stages if s.phase in (Phase.EGG, Phase.HIDDEN)),
    )


@dataclass(frozen=True, slots=True)
class Proposal:
    """When to spray next: the first and last day that fit, the day proposed, and why.

    `on` is None when a look is to decide.
    """

    rhythm: RoundRhythm
    first: date | None
    last: date | None
    on: date | None
    reason: str


def next_round(
    rhythm: RoundRhythm,
    found: Generations,
    last_spray: date,
    *,
    planned: date | None,
    heavy: bool = True,
    left: float | None = None,
) -> Proposal:
    """Propose the next round after the last spray, by a rhythm.

    Parameters
    ----------
    planned:
        The day of the plan, for the rhythm of fixed days.
    heavy:
        Whether the last look still found many; ends the rhythms that go on "while heavy".
    left:
        The share that survived on the worst plants of a remedy, None where nobody has looked: the
        egg cycle follows eggs, and survivors lay new ones meanwhile.
    """
    why = RHYTHM_REASONS[rhythm]
    if rhythm is RoundRhythm.PLAN:
        return Proposal(rhythm, planned, planned, planned, why)
    if rhythm is RoundRhythm.WATCH:
        return Proposal(rhythm, None, None, None, why)
    if rhythm in (RoundRhythm.EVERY_3, RoundRhythm.TWICE_WEEKLY):
        gap = (2, 3) if rhythm is RoundRhythm.EVERY_3 else (3, 4)
        if rhythm is RoundRhythm.EVERY_3 and not heavy:
            return Proposal(rhythm, None, None, None, "It is no longer heavy: watch it now.")
        first, last = (last_spray + timedelta(days=d) for d in gap)
        return Proposal(rhythm, first, last, last, why)
    return _unless_they_lay(_by_eggs(found, last_spray, why), last_spray, left)


def _unless_they_lay(by_eggs: Proposal, last_spray: date, left: float | None) -> Proposal:
    """Return the usual days where survivors lay before the eggs' own day comes."""
    soonest, latest = (last_spray + timedelta(days=d) for d in SURVIVED)
    if by_eggs.on is None or by_eggs.on <= latest or (left is not None and left <= HARDLY_ANY):
        return by_eggs
    said = "Nobody has looked yet how many are left" if left is None else "Some are left"
    return Proposal(
        by_eggs.rhythm,
        soonest,
        latest,
        latest,
        f"{said}, and they lay before the eggs have hatched: 3 to 7 days after the last spray, "
        "as is usual, until hardly any are left.",
    )


def _by_eggs(found: Generations, last_spray: date, why: str) -> Proposal:
    rhythm = RoundRhythm.EGG_CYCLE
    hatched, lays = found.hatched_on, found.lays_on
    if hatched is None and lays is None:
        return Proposal(
            rhythm, None, None, None, "It is too cold for eggs to develop: look, and wait."
        )
    if lays is not None and (hatched is None or hatched >= lays):
        on = max(lays - timedelta(days=1), last_spray + timedelta(days=1))
        said = "Eggs hatch so slowly that the first daughters lay before the last egg has hatched"
        return Proposal(
            rhythm, on, lays, on, f"{said}: spray just before, and once more when all have hatched."
        )
    assert hatched is not None  # noqa: S101 - the two cases above leave only this
    last = lays - timedelta(days=1) if lays else hatched + timedelta(days=7)
    last = max(last, hatched)
    on = max(hatched + (last - hatched) // 2, last_spray + timedelta(days=1))
    return Proposal(rhythm, hatched, last, on, why)


def _gathered(hours: Hours, t0: float) -> Hours:
    """Degree-days from the start to each point of time, one more than there are hours."""
    return np.concatenate([[0.0], degree_days(hours, t0)])


def _left_share(eggs: Sequence[Stage], hours: Hours) -> Hours:
    """Share (0 to 1) of evenly aged eggs that have hatched, at each point of time."""
    share: Hours = np.ones(len(hours) + 1)
    for stage in eggs:
        share = np.minimum(_gathered(hours, stage.t0) / stage.k, share)
    return share


def _exits(stages: Sequence[Stage], hours: Hours) -> NDArray[np.int64]:
    """For each point of time, when one who enters then has passed all stages, in hours.

    Beyond the hours known it is one more than there are.
    """
    never = len(hours) + 1
    at = np.arange(never, dtype=np.int64)
    for stage in stages:
        total = _gathered(hours, stage.t0)
        inside = np.minimum(at, len(hours))
        found = np.searchsorted(total, total[inside] + stage.k - 1e-9, side="left")
        at = np.where(at > len(hours), never, found).astype(np.int64)
    return at


def _prolonged(temperature: Hours) -> Hours:
    """Repeat the last day (or the usual temperature) up to the horizon."""
    wanted = (HORIZON_DAYS + 1) * 24
    if not len(temperature):
        return np.full(wanted, USUAL_TEMPERATURE)
    day = temperature[-24:]
    more = max(0, wanted - len(temperature))
    tail = np.tile(day, more // len(day) + 1)[:more]
    return np.concatenate([temperature, tail])[:wanted]


def _on(start: datetime, hour: int) -> date:
    return (start + timedelta(hours=hour)).date()
