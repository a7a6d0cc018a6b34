"""Rounds and looks by the life cycle: generations, proposals, the stopping rule, moved rounds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

import numpy as np

from orthocris.core.errors import NotFoundError
from orthocris.core.field.lifecycle import Generations, Proposal, generations, next_round
from orthocris.core.field.progress import last_complete
from orthocris.core.field.stopping import StopAdvice, stop_after, while_sealed
from orthocris.core.trial.plan import TrialPlan
from orthocris.core.trial.stages import LifeCycle, RoundRhythm, Stage
from orthocris.core.trial.standing import RoundStanding, Standing
from orthocris.core.weather.windows import local_hour, where_it_stands
from orthocris.core.words import weekday_and_day
from orthocris.knowledge import life_cycles
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.weather.outlook import Outlook, outlook_of
from orthocris.services.weather.stations import weather_at
from orthocris.storage import weather as yard
from orthocris.storage.counting import counts
from orthocris.storage.database import Connection
from orthocris.storage.trial.standings import standings

HEAVY_SHARE = 0.25  # of what was there before: still heavy


@dataclass(frozen=True, slots=True)
class Schedule:
    """What comes next in a trial and why.

    `proposals` has one for each rhythm, the chosen one first; `moved` is a change of the plan
    that rain or a missed day calls for, None when there is none; `next_number` the round that
    would be moved (one more than those planned: a new one). `degree_days` tells whether a
    station's temperatures were used.
    """

    stages: tuple[Stage, ...]
    generations: Generations | None
    last_spray: date | None
    proposals: tuple[Proposal, ...]
    advice: StopAdvice | None
    decided_at: int | None
    next_number: int | None
    next_on: date | None
    moved: Proposal | None
    degree_days: bool


def schedule_of(context: Context, trial_id: int) -> Schedule:
    """Return the schedule of a trial as it stands now."""
    with context.database.reading() as connection:
        standing = standing_of(connection, trial_id)
        plan = standing.plan
        cycle = cycle_of(plan)
        sprayed = _sprayed(standing)
        look = last_complete(standing)
        following = _following(standing)
        number = following.round.number if following else len(plan.rounds) + 1
        bare = Schedule(
            stages=cycle.stages if cycle else (),
            generations=None,
            last_spray=None,
            proposals=(),
            advice=stop_advice(connection, [standing]).get(trial_id),
            decided_at=look.number if look else None,
            next_number=number if sprayed else None,
            next_on=plan.date_of(following.round.day) if following else None,
            moved=None,
            degree_days=False,
        )
        if cycle is None or sprayed is None:
            return _shown(bare, standing)
        found = _proposed(connection, standing, cycle, sprayed, bare, context.now())
    return _shown(found, standing)


def _shown(found: Schedule, standing: Standing) -> Schedule:
    if not standing.sealed or found.advice is None:
        return found
    return replace(found, advice=while_sealed(found.advice))


def standing_of(connection: Connection, trial_id: int) -> Standing:
    """Return how far one trial has come, or raise NotFoundError."""
    found = standings(connection, trial_id)
    if not found:
        raise NotFoundError(
            f"there is no trial {trial_id}", code="no_such_trial", fix="Choose one from Today."
        )
    return found[0]


def is_sealed(connection: Connection, plan: TrialPlan) -> bool:
    """Tell whether nobody may be told yet which letter is which remedy."""
    return plan.key_opened_at is None and standing_of(connection, plan.id).sealed


def cycle_of(plan: TrialPlan) -> LifeCycle | None:
    """Return the development of the trial's pest, the gardener's own stages first."""
    known = life_cycles().get(plan.pest)
    own = plan.care.stages
    if own is None:
        return known
    return LifeCycle(own, known.egg_days if known else 0.0, known.young_days if known else 0.0)


def rain_calls(standing: Standing, outlook: Outlook) -> Proposal | None:
    """Return the move that a wash-off of the last round calls for; None when there is none."""
    last = _sprayed(standing)
    if last is None or last.washed_off is None:
        return None
    return _moved(standing, last, outlook)


def stop_advice(connection: Connection, found: Sequence[Standing]) -> dict[int, StopAdvice]:
    """Return what the newest complete look calls for, by trial id; none before there is one."""
    asked = {s.plan.id: look for s in found if (look := last_complete(s)) is not None}
    if not asked:
        return {}
    courses = counts.courses(
        connection,
        [
            (s.plan.looks[0].id, asked[s.plan.id].id, s.plan.measure)
            for s in found
            if s.plan.id in asked
        ],
    )
    # Where the control is a remedy itself, its fall is no sign that the pest goes by itself.
    usual = {s.plan.control.id for s in found if s.plan.control and usual_of(s.plan)}
    told = {remedy: course for remedy, course in courses.items() if remedy not in usual}
    return {s.plan.id: stop_after(s, asked[s.plan.id], told) for s in found if s.plan.id in asked}


def _proposed(
    connection: Connection,
    standing: Standing,
    cycle: LifeCycle,
    last: RoundStanding,
    bare: Schedule,
    now: datetime,
) -> Schedule:
    """Add to a schedule what the pest's development and the weather call for."""
    plan = standing.plan
    sprayed_at = last.begun_at or now
    found, known = generations_after(connection, plan, cycle, sprayed_at, now)
    left = bare.advice.best_left if bare.advice else None
    heavy = left is None or left > HEAVY_SHARE
    most = bare.advice.most_left if bare.advice else None
    outlook = outlook_of(connection, now)
    proposals = (
        next_round(rhythm, found, sprayed_at.date(), planned=bare.next_on, heavy=heavy, left=most)
        for rhythm in sorted(RoundRhythm, key=lambda s: s is not plan.care.round_rhythm)
    )
    return replace(
        bare,
        generations=found,
        last_spray=sprayed_at.date(),
        proposals=tuple(_open_day(proposal, plan, outlook) for proposal in proposals),
        moved=_moved(standing, last, outlook),
        degree_days=known,
    )


def _sprayed(standing: Standing) -> RoundStanding | None:
    """The last round in which a plant was sprayed."""
    done = [r for r in standing.rounds if r.begun_at is not None]
    return done[-1] if done else None


def _following(standing: Standing) -> RoundStanding | None:
    """The round that comes next: neither begun nor left out, and behind those begun."""
    last = _sprayed(standing)
    after = 0 if last is None else last.round.number
    open_ = [r for r in standing.rounds if r.begun_at is None and not r.left_out]
    return next((r for r in open_ if r.round.number > after), None)


def _open_day(proposal: Proposal, plan: TrialPlan, outlook: Outlook) -> Proposal:
    """Shift a proposal to the nearest day that fits and has an open hour; never into the past."""
    today = outlook.now.date()
    if proposal.on is None or proposal.rhythm is RoundRhythm.PLAN:
        return proposal
    on = max(proposal.on, today)
    first = max(proposal.first or on, today)
    last = max(proposal.last or on, first)
    fitting = [first + timedelta(days=k) for k in range((last - first).days + 1)]
    seen = outlook.best(plan)
    good = [d for d in fitting if d in seen and seen[d].best is not None]
    if on in seen and seen[on].best is None and good:
        on = min(good, key=lambda d: (abs((d - on).days), d))
    return replace(proposal, on=on)


def generations_after(
    connection: Connection, plan: TrialPlan, cycle: LifeCycle, sprayed_at: datetime, now: datetime
) -> tuple[Generations, bool]:
    """Return what becomes of eggs that a spray left, and whether its warmth is known."""
    start = local_hour(sprayed_at)
    room = plan.care.spot.room
    if not plan.care.spot.outdoors and room is not None:
        return generations(cycle, np.full(24, room), start), True
    hours = max(int((now - sprayed_at) / timedelta(hours=1)), 0) + 6 * 24
    outside, _ = weather_at(connection, yard.load(connection), start, min(hours, 24 * 120), now)
    weather = where_it_stands(outside, plan.care.spot)
    known = bool(weather.known().any()) and plan.care.spot.outdoors
    temperature = weather.temperature if known else weather.temperature[:0]
    return generations(cycle, temperature, start), known


def _moved(standing: Standing, last: RoundStanding, outlook: Outlook) -> Proposal | None:
    """What rain or a missed day calls for: the next open hour that the interval allows."""
    plan, today = standing.plan, outlook.now.date()
    following = _following(standing)
    planned = plan.date_of(following.round.day) if following else None
    missed = planned is not None and planned < today
    if last.begun_at is None or (last.washed_off is None and not missed):
        return None
    rest = timedelta(days=max(plan.care.days_between, 1))
    earliest = max(today, last.begun_at.date() + rest)
    if not missed and planned is not None and planned <= earliest:
        return None  # the plan comes soon enough by itself
    days = [earliest + timedelta(days=k) for k in range(5)]
    on = next((d for d in days if outlook.best_on(plan, d) is not None), earliest)
    if on == planned:
        return None
    why = (
        f"the day planned, {weekday_and_day(planned)}, was missed"
        if missed and planned is not None
        else f"{last.washed_off:.0f} mm of rain washed round {last.round.number} off"
    )
    return Proposal(
        plan.care.round_rhythm,
        earliest,
        None,
        on,
        f"{why}: this is the next day with an open hour that leaves the plants their rest.",
    )
