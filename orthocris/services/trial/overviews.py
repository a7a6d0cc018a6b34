"""What the screens show: a whole trial with its stations, and what is due today."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from orthocris.core.field.progress import Job
from orthocris.core.field.thread import Station, stations
from orthocris.core.pantry.cautions import cautions_for, general_cautions
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.trial.record import Change
from orthocris.core.trial.trial import Trial
from orthocris.knowledge import Pest, cautions, pest_named
from orthocris.services.context import Context
from orthocris.services.field.calendars import timed_jobs
from orthocris.services.pantry.remedy_cards import bottle_ids
from orthocris.services.revisions import revision_of
from orthocris.services.trial.questions import question_revision, records_in
from orthocris.storage import record as kept
from orthocris.storage.trial import plants, trials


@dataclass(frozen=True, slots=True)
class Overview:
    """A trial with everything its screens need.

    `cautions` maps a remedy's id to the warnings its recipe calls for; `holds` names what was
    observed or mixed in it; the revisions name the state of what can be edited; `changes` are
    those of its care.
    """

    trial: Trial
    today: date
    now: datetime
    stations: tuple[Station, ...]
    jobs: tuple[Job, ...]
    pest: Pest | None
    layout_events: tuple[LayoutEvent, ...]
    cautions: dict[int, tuple[str, ...]]
    general_cautions: tuple[str, ...]
    holds: tuple[str, ...]
    question_revision: str
    care_revision: str
    changes: tuple[Change, ...]


def overview(context: Context, trial_id: int) -> Overview:
    """Return one trial as its screens show it."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        events = plants.layout_events(connection, trial_id)
        changes = kept.changes(connection, trial_id)
        due = timed_jobs(connection, trial, context)
    return _overview(context, trial, events, due, changes)


def today(context: Context) -> tuple[Overview, ...]:
    """Return all trials, those with the earliest job first, finished ones last."""
    with context.database.reading() as connection:
        found = [
            _overview(context, t, (), timed_jobs(connection, t, context), ())
            for t in trials.load_all(connection)
        ]
    return tuple(
        sorted(found, key=lambda o: (not o.jobs, o.jobs[0].due_on if o.jobs else date.max))
    )


def _overview(
    context: Context,
    trial: Trial,
    events: tuple[LayoutEvent, ...],
    due: tuple[Job, ...],
    changes: tuple[Change, ...],
) -> Overview:
    now = context.now()
    return Overview(
        trial=trial,
        today=now.date(),
        now=now,
        stations=stations(trial, now, bottle_ids(trial)),
        jobs=due,
        pest=pest_named(trial.pest),
        layout_events=events,
        cautions={r.id: cautions_for(f"{r.name} {r.recipe}", cautions()) for r in trial.remedies},
        general_cautions=general_cautions(cautions()),
        holds=records_in(trial),
        question_revision=question_revision(trial),
        care_revision=revision_of(trial.care),
        changes=changes,
    )
