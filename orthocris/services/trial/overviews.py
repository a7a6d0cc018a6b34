"""What the screens show: a whole trial with its stations, what is due today, all trials."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from fractions import Fraction

from orthocris.core.field.edibles import eat_after, eat_trial, eating
from orthocris.core.field.progress import Job
from orthocris.core.field.thread import Station, stations
from orthocris.core.pantry.cautions import general_cautions
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.planning.matching import OddPlant, odd_plants
from orthocris.core.planning.neighbours import shields_needed
from orthocris.core.trial.crops import Crop, crop_named
from orthocris.core.trial.plan import TrialPlan
from orthocris.core.trial.record import Change
from orthocris.core.trial.standing import Standing
from orthocris.core.trial.trial import Trial
from orthocris.knowledge import Pest, cautions, crops, pest_named
from orthocris.services.context import Context
from orthocris.services.field.calendars import timed_jobs
from orthocris.services.field.schedule import standing_of
from orthocris.services.pantry.remedy_cards import (
    bottle_keys,
    card_of,
    cautions_of,
    laid_cost,
    needs_prices,
    unsuited,
)
from orthocris.services.revisions import revision_of
from orthocris.services.seasons.years import GardenJob, garden_jobs
from orthocris.services.trial.own_pests import pest_of
from orthocris.services.trial.questions import question_revision, records_in
from orthocris.services.weather.outlook import outlook_of
from orthocris.storage import record
from orthocris.storage import weather as yard
from orthocris.storage.counting import counts, notebook
from orthocris.storage.trial import plants, reading, trials
from orthocris.storage.trial.standings import standings
from orthocris.storage.trial.trials import TrialRow


@dataclass(frozen=True, slots=True)
class Overview:
    """A trial with everything its screens need.

    `cautions` maps a remedy's id to the warnings its recipe calls for; `holds` names what was
    observed or mixed in it; the revisions name the state of what can be edited; `changes` are
    those of its care; `odd` plants differ from the rest, `shields` name neighbours to part. `laid`
    is what cards, granules and the like of a remedy cost, by its id. `eating` says from which day
    plants may be eaten, `unsuited` what speaks against a remedy here, by its id.
    """

    trial: Trial
    standing: Standing
    now: datetime
    stations: tuple[Station, ...]
    jobs: tuple[Job, ...]
    pest: Pest | None
    crop: Crop | None
    layout_events: tuple[LayoutEvent, ...]
    cautions: dict[int, tuple[str, ...]]
    general_cautions: tuple[str, ...]
    holds: tuple[str, ...]
    question_revision: str
    care_revision: str
    changes: tuple[Change, ...]
    odd: tuple[OddPlant, ...]
    shields: tuple[tuple[int, int], ...]
    laid: dict[int, Fraction | None]
    eating: str
    unsuited: dict[int, tuple[str, ...]]


@dataclass(frozen=True, slots=True)
class TodayTrial:
    """What Today shows of a trial: its thread and its jobs."""

    plan: TrialPlan
    pest_name: str
    crop: str
    plants: int
    stations: tuple[Station, ...]
    jobs: tuple[Job, ...]
    eating: str


@dataclass(frozen=True, slots=True)
class Today:
    """What is due across all trials and beside them; which were put away (id, name, when)."""

    today: date
    trials: tuple[TodayTrial, ...]
    put_away: tuple[tuple[int, str, datetime], ...]
    garden: tuple[GardenJob, ...] = ()


def overview(context: Context, trial_id: int) -> Overview:
    """Return one trial as its screens show it."""
    now = context.now()
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        standing = standing_of(connection, trial_id)
        counted = counts.number_kept(connection, trial_id)
        noted = notebook.number_kept(connection, trial_id)
        events = plants.layout_events(connection, trial_id)
        changes = record.changes(connection, trial_id)
        pest = pest_of(connection, trial.pest)
        prices = yard.prices(connection) if needs_prices(trial) else ()
        due = timed_jobs(connection, [standing], outlook_of(connection, now))
    eaten = eating(standing, card_of, now.date())
    waits = {one.remedy.id: eat_after(one, sealed=standing.sealed) for one in eaten}
    return Overview(
        trial=trial,
        standing=standing,
        now=now,
        stations=stations(standing, now, bottle_keys(trial)),
        jobs=due[trial_id],
        pest=pest,
        crop=crop_named(trial.setup.crop, crops()),
        layout_events=events,
        cautions={r.id: cautions_of(r, waits.get(r.id, "")) for r in trial.remedies},
        general_cautions=general_cautions(cautions()),
        holds=records_in(trial, counted, noted),
        question_revision=question_revision(trial),
        care_revision=revision_of(trial.care),
        changes=changes,
        odd=odd_plants(trial.active_plants),
        shields=tuple(shields_needed(trial)),
        laid={r.id: laid_cost(trial, r, prices) for r in trial.remedies},
        eating=eat_trial(eaten, sealed=standing.sealed),
        unsuited=unsuited(trial, pest),
    )


def today(context: Context) -> Today:
    """Return all trials on the list, those with the earliest job first, finished ones last."""
    now = context.now()
    with context.database.reading() as connection:
        found = standings(connection, None)
        outlook = outlook_of(connection, now)
        due = timed_jobs(connection, found, outlook)
        put_away = trials.put_away_trials(connection)
        garden = garden_jobs(connection, now, outlook.place)
    rows = [_today_trial(standing, due[standing.plan.id], now) for standing in found]
    rows.sort(key=lambda row: (not row.jobs, row.jobs[0].due_on if row.jobs else date.max))
    return Today(now.date(), tuple(rows), put_away, tuple(garden))


def list_trials(context: Context, *, limit: int, after: int) -> tuple[TrialRow, ...]:
    """Return up to `limit` trials with ids above `after`, those put away too."""
    with context.database.reading() as connection:
        return trials.rows(connection, limit=limit, after=after)


def _today_trial(standing: Standing, due: tuple[Job, ...], now: datetime) -> TodayTrial:
    plan = standing.plan
    pest = pest_named(plan.pest)
    return TodayTrial(
        plan=plan,
        pest_name=pest.name if pest else plan.pest,
        crop=plan.setup.crop,
        plants=standing.active,
        stations=stations(standing, now, bottle_keys(plan)),
        jobs=due,
        eating=eat_trial(eating(standing, card_of, now.date()), sealed=standing.sealed),
    )
