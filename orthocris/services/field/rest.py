"""What to do now: the plants outside a trial, treated by what its verdict recommends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta

from orthocris.core.errors import ConflictError, NotFoundError
from orthocris.core.field.edibles import Eating, eat_after
from orthocris.core.field.lifecycle import next_round
from orthocris.core.field.progress import Job, JobKind, hours_until_passed
from orthocris.core.field.rest import (
    Act,
    Done,
    Pace,
    Promise,
    ProposeSpray,
    RestDraft,
    RestStanding,
    Treatment,
    check_done,
    rest_standing,
)
from orthocris.core.field.rounds import Blocker, Checks, HourNow, blockers
from orthocris.core.trial.plan import Remedy, Round, TrialPlan
from orthocris.core.trial.ways import AT_LEAVES, ONTO_LEAVES, POURED
from orthocris.services.context import Context
from orthocris.services.field.schedule import cycle_of, generations_after
from orthocris.services.pantry.remedy_cards import (
    card_of,
    oil_ids,
)
from orthocris.services.receipts import once
from orthocris.services.weather.ribbons import hour_now
from orthocris.storage.database import Connection
from orthocris.storage.field import rest
from orthocris.storage.trial import reading

USUAL_REST = 7  # days between two times where nothing of the pest is known
HEAVY = 0.25  # of what was there before


@dataclass(frozen=True, slots=True)
class RestView:
    """A treatment as it is followed: what is due, and what is ticked before the next spray."""

    treatment: Treatment
    remedy: Remedy
    shown: Promise
    standing: RestStanding
    eating: str
    asked: tuple[str, ...]
    hour: HourNow


@dataclass(frozen=True, slots=True)
class Said:
    """What is said when an act is kept: what was done, and the ticks before a spray."""

    done: Done
    checks: Checks


def rest_of(context: Context, trial_id: int, treatment_id: int) -> RestView:
    """Return a treatment as it is followed, or raise NotFoundError."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        treatment, shown = _kept(connection, trial_id, treatment_id)
        return view_of(connection, plan, treatment, shown, context.now())


def keep_act(
    context: Context, trial_id: int, treatment_id: int, said: Said, key: str | None = None
) -> int:
    """Keep what was done, and return its id.

    Raises
    ------
    InputError
        When it is not what comes next, or its numbers or day cannot be.
    ConflictError
        Code ``round_held`` naming the first of what holds a spray of today back.
    """
    now = context.now()
    with context.database.atomic() as connection:
        plan = reading.load_plan(connection, trial_id)
        treatment, shown = _kept(connection, trial_id, treatment_id)
        view = view_of(connection, plan, treatment, shown, now)

        def make() -> int:
            check_done(said.done, view.standing, treatment.done, now.date())
            held = _held(view, said, now) if said.done.act is Act.SPRAY else ()
            if held:
                raise ConflictError(
                    held[0].text, code="round_held", field=held[0].code, fix=held[0].fix
                )
            reason = said.checks.reasons.get("window_closed", "").strip()
            done = replace(said.done, reason=reason)
            return rest.keep_act(connection, treatment_id, done, now)

        return once(connection, key, f"act of treatment {treatment_id}", said, now, make)


def take_back(context: Context, trial_id: int, treatment_id: int) -> None:
    """Take the last act back, or the end that the gardener set; nothing where nothing was done."""
    with context.database.atomic() as connection:
        treatment, _ = _kept(connection, trial_id, treatment_id)
        if treatment.ended_on is not None:
            rest.end(connection, treatment_id, None)
        else:
            rest.take_back(connection, treatment_id, context.now())


def end(context: Context, trial_id: int, treatment_id: int) -> None:
    """End a treatment today, whatever its rule says."""
    with context.database.atomic() as connection:
        treatment, _ = _kept(connection, trial_id, treatment_id)
        if treatment.ended_on is None:
            rest.end(connection, treatment_id, context.now().date())


def rest_jobs(
    connection: Connection, plans: Mapping[int, TrialPlan], now: datetime, ahead_days: int
) -> dict[int, tuple[tuple[Job, Round], ...]]:
    """Return what is due in the treatments of trials on the list, by trial id.

    Each job comes with a round of its remedy alone, by which its best hour is found.
    """
    found: dict[int, tuple[tuple[Job, Round], ...]] = {}
    limit = now.date() + timedelta(days=ahead_days)
    for trial_id, kept in rest.of_trials(connection, None).items():
        plan = plans.get(trial_id)
        if plan is None:
            continue
        own = [
            (job, _round(treatment.draft.remedy_id))
            for treatment, shown in kept
            if (job := _job(connection, plan, treatment, shown, now)) and job.due_on <= limit
        ]
        found[trial_id] = tuple(own)
    return found


_KINDS = {
    Act.PATCH: JobKind.PATCH,
    Act.PATCH_LOOK: JobKind.PATCH,
    Act.COUNT: JobKind.COUNT,
    Act.SPRAY: JobKind.SPRAY,
}
_TITLES = {
    Act.PATCH: "Try {name} on a few leaves of the rest",
    Act.PATCH_LOOK: "Look at the leaves tried with {name}",
    Act.COUNT: "Count on a few plants of the rest",
    Act.SPRAY: "Treat the rest: {name}",
}


def _job(
    connection: Connection, plan: TrialPlan, treatment: Treatment, shown: Promise, now: datetime
) -> Job | None:
    remedy = _remedy(plan, treatment.draft.remedy_id)
    due = _standing(connection, plan, remedy, treatment, shown, now).due
    if due is None:
        return None
    title = _TITLES[due.act].format(name=remedy.name)
    plants = treatment.draft.plants if due.act is Act.SPRAY else 0
    place = treatment.draft.place
    return Job(_KINDS[due.act], title, "rest", due.on, treatment.id, plants, plants, note=place)


def _round(remedy_id: int) -> Round:
    return Round(0, 0, 0, frozenset({remedy_id}))


def view_of(
    connection: Connection, plan: TrialPlan, treatment: Treatment, shown: Promise, now: datetime
) -> RestView:
    remedy = _remedy(plan, treatment.draft.remedy_id)
    standing = _standing(connection, plan, remedy, treatment, shown, now)
    sprays = [one.on for one in treatment.done if one.act is Act.SPRAY]
    if standing.due is not None and standing.due.act is Act.SPRAY:
        sprays.append(max(standing.due.on, now.date()))
    hour = HourNow()
    if standing.due is not None and set(remedy.traits.ways) & (AT_LEAVES | POURED):
        hour = hour_now(connection, plan, _round(remedy.id), now)
    return RestView(
        treatment=treatment,
        remedy=remedy,
        shown=shown,
        standing=standing,
        eating=eating(remedy, max(sprays), eaten=treatment.draft.eaten) if sprays else "",
        asked=_asked(remedy, treatment.draft, hour),
        hour=hour,
    )


def _asked(remedy: Remedy, draft: RestDraft, hour: HourNow) -> tuple[str, ...]:
    """What is ticked before a spray, as before a trial's round."""
    ways = set(remedy.traits.ways)
    asked = []
    if ways & (AT_LEAVES | POURED):
        asked.append("cautions")
    if ways & AT_LEAVES:
        asked.append("bees")
        if draft.eaten:
            asked.append("fruit")
    if not hour.known:
        asked.append("weather")
    return tuple(asked)


def _held(view: RestView, said: Said, now: datetime) -> tuple[Blocker, ...]:
    late = said.done.on < now.date()
    checks = replace(said.checks, done_on=said.done.on if late else None)
    return blockers((), (), (), view.hour, checks, now, asked=view.asked)


def _standing(
    connection: Connection,
    plan: TrialPlan,
    remedy: Remedy,
    treatment: Treatment,
    shown: Promise,
    now: datetime,
) -> RestStanding:
    pace = Pace.of(remedy.traits, patch_days(plan, remedy))
    propose = proposing(connection, plan, remedy, treatment.draft, now)
    return rest_standing(treatment, pace, shown, propose)


def patch_days(plan: TrialPlan, remedy: Remedy) -> int:
    """Days from a patch test to its last look; 0 for what never comes onto leaves."""
    if not set(remedy.traits.ways) & ONTO_LEAVES:
        return 0
    return -(-hours_until_passed(plan, remedy.id, oil_ids(plan)) // 24)


def proposing(
    connection: Connection, plan: TrialPlan, remedy: Remedy, draft: RestDraft, now: datetime
) -> ProposeSpray:
    """The day of the next spray by the pest's development, and never before its leaves rested."""
    cycle = cycle_of(plan)
    rest_days = max(card_of(remedy).interval_days, plan.care.days_between, 1)

    def propose(last: date, left: float | None) -> tuple[date | None, str]:
        soonest = last + timedelta(days=rest_days)
        usual = max(last + timedelta(days=USUAL_REST), soonest)
        if cycle is None:
            return usual, "A week after the last, typical."
        sprayed_at = datetime.combine(last, time(12), now.tzinfo)
        eggs, _ = generations_after(connection, plan, cycle, sprayed_at, max(now, sprayed_at))
        heavy = left is None or left > HEAVY
        found = next_round(draft.rhythm, eggs, last, planned=usual, heavy=heavy, left=left)
        return (None if found.on is None else max(found.on, soonest)), found.reason

    return propose


def eating(remedy: Remedy, last: date, *, eaten: bool) -> str:
    """From when on what is treated may be eaten; empty where nothing has to be said."""
    if not eaten:
        return ""
    waits = [card_of(part).eat_after_days for part in remedy.parts]
    if None in waits:
        return eat_after(Eating(remedy, None), sealed=False)
    days = max(wait for wait in waits if wait is not None)
    if not days:
        return ""
    return eat_after(Eating(remedy, last + timedelta(days=days), days), sealed=False)


def _remedy(plan: TrialPlan, remedy_id: int) -> Remedy:
    return next(r for r in (*plan.remedies, *plan.left_out_remedies) if r.id == remedy_id)


def _kept(connection: Connection, trial_id: int, treatment_id: int) -> tuple[Treatment, Promise]:
    for one, shown in rest.of_trials(connection, trial_id).get(trial_id, ()):
        if one.id == treatment_id:
            return one, shown
    raise NotFoundError(
        f"this trial has no treatment {treatment_id} of the rest",
        code="no_such_treatment",
        fix="Choose one from the verdict.",
    )
