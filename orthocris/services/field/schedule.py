"""Rounds and looks by the life cycle: generations, proposals, the stopping rule, moved rounds."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from orthocris.core.field.lifecycle import Generations, Proposal, generations, next_round
from orthocris.core.field.progress import counted_in_time
from orthocris.core.field.stopping import Course, Next, StopDecision, after_look
from orthocris.core.trial.setup import Kind
from orthocris.core.trial.sprays import EventKind
from orthocris.core.trial.stages import LifeCycle, RoundSchool, Stage
from orthocris.core.trial.trial import Look, Remedy, Role, Round, Tally, Trial
from orthocris.core.weather.windows import local_hour
from orthocris.knowledge import life_cycles
from orthocris.services.context import Context
from orthocris.services.weather.ribbons import Ribbon, best_on, trial_ribbon
from orthocris.services.weather.weathering import weather_at
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.trial import trials

HEAVY_SHARE = 0.25  # of what was there before: still heavy


@dataclass(frozen=True, slots=True)
class Schedule:
    """What comes next in a trial and why.

    `proposals` has one for each school, the chosen one first; `moved` is a change of the plan
    that rain or a missed day calls for, None when there is none; `next_number` the round that
    would be moved (one more than those planned: a new one). `degree_days` tells whether a
    station's temperatures were used.
    """

    stages: tuple[Stage, ...]
    generations: Generations | None
    last_spray: date | None
    proposals: tuple[Proposal, ...]
    decision: StopDecision | None
    decided_at: int | None
    next_number: int | None
    next_on: date | None
    moved: Proposal | None
    degree_days: bool


def schedule_of(context: Context, trial_id: int) -> Schedule:
    """Return the schedule of a trial as it stands now."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        return _schedule(connection, trial, context.now())


def cycle_of(trial: Trial) -> LifeCycle | None:
    """Return the development of the trial's pest, the gardener's own stages first."""
    known = life_cycles().get(trial.pest)
    own = trial.care.stages
    if own is None:
        return known
    return LifeCycle(own, known.egg_days if known else 0.0, known.young_days if known else 0.0)


def rain_calls(connection: Connection, trial: Trial, now: datetime) -> Proposal | None:
    """Return the move that a wash-off of the last round calls for; None when there is none."""
    done = [r for r in trial.rounds if trial.sprayed_in(r)]
    if not done or not any(
        e.kind is EventKind.WASHED_OFF and e.round_id == done[-1].id for e in trial.events
    ):
        return None
    later = [r for r in trial.rounds if r.number > done[-1].number and not trial.left_out(r)]
    planned = trial.date_of(later[0].day) if later else None
    return _moved(connection, trial, done[-1], planned, now)


def last_decision(trial: Trial) -> StopDecision | None:
    """Return what the newest complete look calls for; None before there is one."""
    look = _last_look(trial)
    if look is None:
        return None
    done = sum(bool(trial.sprayed_in(r)) for r in trial.rounds)
    left = sum(not trial.sprayed_in(r) and not trial.left_out(r) for r in trial.rounds)
    return _decide(trial, look, done, left)


def _schedule(connection: Connection, trial: Trial, now: datetime) -> Schedule:
    cycle = cycle_of(trial)
    done = [r for r in trial.rounds if trial.sprayed_in(r)]
    open_ = [r for r in trial.rounds if not trial.sprayed_in(r) and not trial.left_out(r)]
    look = _last_look(trial)
    decision = _decide(trial, look, len(done), len(open_)) if look else None
    following = [r for r in open_ if not done or r.number > done[-1].number]
    planned = trial.date_of(following[0].day) if following else None
    number = following[0].number if following else len(trial.rounds) + 1
    if cycle is None or not done:
        return Schedule(
            stages=cycle.stages if cycle else (),
            generations=None,
            last_spray=None,
            proposals=(),
            decision=decision,
            decided_at=look.number if look else None,
            next_number=number if done else None,
            next_on=planned,
            moved=None,
            degree_days=False,
        )
    sprayed_at = trial.first_sprayed_at(done[-1])
    assert sprayed_at is not None  # noqa: S101 - the round has sprayed plants
    found, known = _generations(connection, trial, cycle, sprayed_at, now)
    heavy = decision is None or decision.best_left is None or decision.best_left > HEAVY_SHARE
    schools = sorted(RoundSchool, key=lambda s: s is not trial.care.round_school)
    ribbon = trial_ribbon(connection, trial, now)
    proposals = tuple(
        _open_day(next_round(s, found, sprayed_at.date(), planned=planned, heavy=heavy), ribbon)
        for s in schools
    )
    return Schedule(
        stages=cycle.stages,
        generations=found,
        last_spray=sprayed_at.date(),
        proposals=proposals,
        decision=decision,
        decided_at=look.number if look else None,
        next_number=number,
        next_on=planned,
        moved=_moved(connection, trial, done[-1], planned, now),
        degree_days=known,
    )


def _open_day(proposal: Proposal, ribbon: Ribbon) -> Proposal:
    """Shift a proposal to the nearest day that fits and has an open hour; never into the past."""
    today = ribbon.now.date()
    if proposal.on is None or proposal.school is RoundSchool.PLAN:
        return proposal
    on = max(proposal.on, today)
    first = max(proposal.first or on, today)
    last = max(proposal.last or on, first)
    fitting = [first + timedelta(days=k) for k in range((last - first).days + 1)]
    seen = {d.day: d.best for d in ribbon.days}
    good = [d for d in fitting if seen.get(d) is not None]
    if seen.get(on, ribbon.now) is None and good:
        on = min(good, key=lambda d: (abs((d - on).days), d))
    return replace(proposal, on=on)


def _generations(
    connection: Connection, trial: Trial, cycle: LifeCycle, sprayed_at: datetime, now: datetime
) -> tuple[Generations, bool]:
    start = local_hour(sprayed_at)
    hours = max(int((now - sprayed_at) / timedelta(hours=1)), 0) + 6 * 24
    weather, _ = weather_at(connection, yard.load(connection), start, min(hours, 24 * 120), now)
    known = bool(weather.known().any()) and trial.care.spot.outdoors
    temperature = weather.temperature if known else weather.temperature[:0]
    return generations(cycle, temperature, start), known


def _moved(
    connection: Connection, trial: Trial, last: Round, planned: date | None, now: datetime
) -> Proposal | None:
    """What rain or a missed day calls for: the next open hour that the interval allows."""
    washed = [e for e in trial.events if e.round_id == last.id and e.kind is EventKind.WASHED_OFF]
    missed = planned is not None and planned < now.date()
    sprayed_at = trial.first_sprayed_at(last)
    if sprayed_at is None or not (washed or missed):
        return None
    earliest = max(now.date(), sprayed_at.date() + timedelta(days=max(trial.care.days_between, 1)))
    if not missed and planned is not None and planned <= earliest:
        return None  # the plan comes soon enough by itself
    ribbon = trial_ribbon(connection, trial, now)
    days = [earliest + timedelta(days=k) for k in range(5)]
    on = next((d for d in days if best_on(ribbon, d) is not None), earliest)
    if on == planned:
        return None
    if washed and not missed:
        why = f"{washed[0].amount:.0f} mm of rain washed round {last.number} off"
    else:
        why = f"the day planned, {planned:%a %d %b %Y}, was missed"
    return Proposal(
        trial.care.round_school,
        earliest,
        None,
        on,
        f"{why}: this is the next day with an open hour that leaves the plants their rest.",
    )


def _last_look(trial: Trial) -> Look | None:
    """The newest look after the spray at which every plant was counted, on its day."""
    plants = {p.id for p in trial.trial_plants}
    done = [k for k in trial.looks if k.number and plants and plants <= counted_in_time(trial, k)]
    return done[-1] if done else None


def _decide(trial: Trial, look: Look, rounds_done: int, rounds_left: int) -> StopDecision:
    if trial.setup.kind in (Kind.PREVENTION, Kind.EGGS):
        action = Next.NEXT_ROUND if rounds_left else Next.STOP
        return StopDecision(action, "This question keeps the rounds it planned.", None, None)
    control = trial.control
    courses = [
        c
        for r in trial.remedies
        if r.role is Role.REMEDY and (c := _course(trial, r, look)) is not None
    ]
    later = [k for k in trial.looks if k.number > look.number]
    return after_look(
        courses,
        _course(trial, control, look) if control else None,
        threshold=trial.threshold,
        rounds_done=rounds_done,
        rounds_left=rounds_left if later else 0,
    )


def _course(trial: Trial, remedy: Remedy, look: Look) -> Course | None:
    """Means over the remedy's plants that were counted both times."""
    before = trial.tallies_at(trial.looks[0], trial.measure)
    after = trial.tallies_at(look, trial.measure)
    pairs = [
        (_level(before[p.id]), _level(after[p.id]))
        for p in trial.trial_plants
        if p.remedy_id == remedy.id and p.id in before and p.id in after
    ]
    if not pairs:
        return None
    count = len(pairs)
    return Course(sum(b for b, _ in pairs) / count, sum(a for _, a in pairs) / count)


def _level(tally: Tally) -> float:
    """How much of the pest is left: per effort, or for shares the share alive or hatched."""
    value = tally.value or 0.0
    if tally.of:
        return (tally.of - value if tally.measure == "dead" else value) / tally.of
    return value / tally.effort
