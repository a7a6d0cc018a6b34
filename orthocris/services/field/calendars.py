"""The jobs of all trials with their best hours, for Today and for a phone's calendar."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date

from orthocris.core.field.edibles import eat_trial, eating, last_of
from orthocris.core.field.progress import Job, JobKind, jobs
from orthocris.core.field.stopping import Next
from orthocris.core.trial.plan import Round, TrialPlan
from orthocris.core.trial.standing import Standing
from orthocris.core.weather.window_words import UNKNOWN_DAY
from orthocris.formats.calendar import CalendarJob, calendar_bytes
from orthocris.services.context import Context
from orthocris.services.field.rest import rest_jobs
from orthocris.services.field.schedule import rain_calls, stop_advice
from orthocris.services.pantry.remedy_cards import bottle_keys, card_of, oil_ids
from orthocris.services.seasons.years import GardenJob, garden_jobs
from orthocris.services.weather.outlook import Outlook, minds_weather, outlook_of
from orthocris.storage.database import Connection
from orthocris.storage.trial.standings import standings

DAYS_AHEAD = 60
AT_BEST_HOUR = (JobKind.SPRAY, JobKind.MIX)


def timed_jobs(
    connection: Connection, found: Sequence[Standing], outlook: Outlook, ahead_days: int = 7
) -> dict[int, tuple[Job, ...]]:
    """Return the jobs of trials by trial id, those that mind the weather with their best hour."""
    due = {standing.plan.id: _jobs(standing, outlook, ahead_days) for standing in found}
    plans = {standing.plan.id: standing.plan for standing in found}
    beside = rest_jobs(connection, plans, outlook.now, ahead_days)
    minding = [s for s in found if any(j.kind in AT_BEST_HOUR for j in due[s.plan.id])]
    decisions = stop_advice(connection, minding)
    for standing in minding:
        plan = standing.plan
        decision = decisions.get(plan.id)
        stop = decision is not None and decision.action in (Next.STOP, Next.CHANGE_PLAN)
        due[plan.id] = tuple(
            _advised(_timed(job, plan, outlook), stop=stop) for job in due[plan.id]
        )
    for trial_id, own in beside.items():
        timed = [_timed(job, plans[trial_id], outlook, round_) for job, round_ in own]
        due[trial_id] = tuple(sorted((*due[trial_id], *timed), key=lambda job: job.due_on))
    return due


def _jobs(standing: Standing, outlook: Outlook, ahead_days: int) -> tuple[Job, ...]:
    plan = standing.plan
    found = jobs(standing, outlook.now, bottle_keys(plan), ahead_days, oil_ids(plan))
    rain = rain_calls(standing, outlook)
    if rain is None:
        return found
    moved = Job(
        JobKind.PLAN,
        "Rain washed the spray off: move the next round",
        "rounds",
        outlook.now.date(),
        note=rain.reason,
    )
    return (moved, *found)


def _advised(job: Job, *, stop: bool) -> Job:
    """A spray that the last look advises against says so."""
    if job.kind is JobKind.SPRAY and stop:
        return replace(job, note="the last look says: spray no more")
    return job


def calendar_of(context: Context) -> bytes:
    """Return every job of the next two months as an iCalendar file.

    It names trials and rounds, never remedies, so that the counting stays blind.
    """
    entries: list[CalendarJob] = []
    with context.database.reading() as connection:
        outlook = outlook_of(connection, context.now())
        found = standings(connection, None)
        ahead = timed_jobs(connection, found, outlook, DAYS_AHEAD)
        garden = garden_jobs(connection, context.now(), outlook.place, DAYS_AHEAD)
    for standing in found:
        entries += _entries(standing.plan, ahead[standing.plan.id])
        entries += _eaten_again(standing, context.now().date())
    entries += [_garden_entry(job) for job in garden]
    return calendar_bytes(entries, f"Trials, {outlook.place.name}", context.now())


def _garden_entry(job: GardenJob) -> CalendarJob:
    text = f"{job.place}. {job.note}".strip()
    return CalendarJob(f"{job.key}@orthocris", job.title, text, job.due_on, None)


def _eaten_again(standing: Standing, today: date) -> Iterator[CalendarJob]:
    """The day from which something may be eaten again, where it lies ahead."""
    found = eating(standing, card_of, today)
    on = last_of(found)
    if on is not None and on > today:
        said = eat_trial(found, sealed=standing.sealed)
        yield CalendarJob(
            uid=f"trial-{standing.plan.id}-eaten@orthocris",
            title=f"Waiting time before eating ends: {standing.plan.name}",
            text=said,
            day=on,
            at=None,
        )


def _timed(job: Job, plan: TrialPlan, outlook: Outlook, round_: Round | None = None) -> Job:
    """Give a job that minds the weather its best hour, or say why there is none."""
    if job.kind not in AT_BEST_HOUR:
        return job
    day = max(job.due_on, outlook.now.date())
    if (day - outlook.now.date()).days >= outlook.days:
        return job
    round_ = round_ or next((r for r in plan.rounds if r.number == job.number), None)
    if round_ is not None and not minds_weather(plan, round_):
        return job
    view = outlook.best(plan, round_).get(day)
    if view is None:
        return job
    if view.best is None:  # what nobody knows is no bad hour
        known = view.why != UNKNOWN_DAY
        return replace(job, note=f"no open hour: {view.why}") if known else job
    if job.kind is JobKind.MIX:
        return replace(job, at=view.best, note="just before the spray")
    return replace(job, at=view.best, note=f"best hour of {view.open_hours} open")


def _entries(plan: TrialPlan, found: Sequence[Job]) -> list[CalendarJob]:
    """One entry a job; jobs of one kind and number (two of a patch test, say) are told apart."""
    seen: Counter[str] = Counter()
    entries = []
    for job in found:
        name = f"trial-{plan.id}-{job.kind.value}-{_part(job)}"
        seen[name] += 1
        again = f"-{seen[name]}" if seen[name] > 1 else ""
        entries.append(_entry(plan, job, f"{name}{again}@orthocris"))
    return entries


def _part(job: Job) -> str:
    """What tells jobs of one kind apart: the number of what it is of, else the first word."""
    beside = "rest-" if job.station == "rest" else ""
    return beside + (str(job.number) if job.number is not None else job.title.split()[0].casefold())


def _entry(plan: TrialPlan, job: Job, uid: str) -> CalendarJob:
    what = f" ({job.left} left of {job.of})" if job.of else ""
    return CalendarJob(
        uid=uid,
        title=f"{job.title}: {plan.name}",
        text=f"{job.title}{what}. {job.note}".strip(),
        day=job.due_on,
        at=job.at,
    )
