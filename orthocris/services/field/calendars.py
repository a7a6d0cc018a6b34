"""The jobs of all trials with their best hours, for Today and for a phone's calendar."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.field.progress import Job, JobKind, jobs
from orthocris.core.field.stopping import Next
from orthocris.core.trial.trial import Trial
from orthocris.formats.calendar import CalendarJob, calendar_bytes
from orthocris.services.context import Context
from orthocris.services.field.schedule import last_decision, rain_calls
from orthocris.services.pantry.remedy_cards import bottle_ids, oil_ids
from orthocris.services.weather.ribbons import Ribbon, best_on, trial_ribbon
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.trial import trials

DAYS_AHEAD = 60
AT_BEST_HOUR = (JobKind.SPRAY, JobKind.MIX)


def timed_jobs(
    connection: Connection, trial: Trial, context: Context, ahead_days: int = 7
) -> tuple[Job, ...]:
    """Return a trial's jobs, those that mind the weather with their best hour."""
    found = jobs(trial, context.now(), bottle_ids(trial), ahead_days, oil_ids(trial))
    rain = rain_calls(connection, trial, context.now())
    if rain is not None:
        moved = Job(
            JobKind.PLAN,
            "Rain washed the spray off: move the next round",
            "rounds",
            context.now().date(),
            note=rain.reason,
        )
        found = (moved, *found)
    if not any(job.kind in AT_BEST_HOUR for job in found):
        return found
    ribbon = trial_ribbon(connection, trial, context.now())
    decision = last_decision(trial)
    stop = decision is not None and decision.action in (Next.STOP, Next.CHANGE_PLAN)
    return tuple(_advised(_timed(job, ribbon), stop=stop) for job in found)


def _advised(job: Job, *, stop: bool) -> Job:
    """A spray that the last look advises against says so."""
    if job.kind is JobKind.SPRAY and stop:
        return replace(job, note="the last look says: spray no more")
    return job


def calendar_of(context: Context) -> bytes:
    """Return every job of the next two months as an iCalendar file.

    It names trials and rounds, never remedies, so that the counting stays blind.
    """
    entries = []
    with context.database.reading() as connection:
        name = yard.load(connection).name
        for trial in trials.load_all(connection):
            ahead = timed_jobs(connection, trial, context, DAYS_AHEAD)
            entries += _entries(trial, ahead)
    return calendar_bytes(entries, f"Trials, {name}", context.now())


def _timed(job: Job, ribbon: Ribbon) -> Job:
    if job.kind not in AT_BEST_HOUR:
        return job
    day = max(job.due_on, ribbon.now.date())
    view = next((d for d in ribbon.days if d.day == day), None)
    if view is None:
        return job
    best = best_on(ribbon, day)
    if best is None:
        return replace(job, note=f"no open hour: {view.why}")
    if job.kind is JobKind.MIX:
        return replace(job, at=best, note="just before the spray")
    return replace(job, at=best, note=f"best hour of {view.open_hours} open")


def _entries(trial: Trial, found: Sequence[Job]) -> list[CalendarJob]:
    """One entry a job; jobs of one kind and number (two of a patch test, say) are told apart."""
    seen: Counter[str] = Counter()
    entries = []
    for job in found:
        name = f"trial-{trial.id}-{job.kind.value}-{_part(job)}"
        seen[name] += 1
        again = f"-{seen[name]}" if seen[name] > 1 else ""
        entries.append(_entry(trial, job, f"{name}{again}@orthocris"))
    return entries


def _part(job: Job) -> str:
    """What tells jobs of one kind apart: the number of a look or round, else the first word."""
    return str(job.number) if job.number is not None else job.title.split()[0].casefold()


def _entry(trial: Trial, job: Job, uid: str) -> CalendarJob:
    what = f" ({job.left} left of {job.of})" if job.of else ""
    return CalendarJob(
        uid=uid,
        title=f"{job.title}: {trial.name}",
        text=f"{job.title}{what}. {job.note}".strip(),
        day=job.due_on,
        at=job.at,
    )
