"""Counting on the bench: keeping a number, and reading what was counted."""

from __future__ import annotations

from dataclasses import dataclass

from orthocris.core.counting.tally import TallyEntry, check_entry, day_counted
from orthocris.core.trial.lookup import find_look
from orthocris.core.trial.trial import Tally
from orthocris.services.context import Context
from orthocris.storage import counting
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class CountSheet:
    """What the counting screen needs of one look.

    `early` are the plants counted before the look's day, to be counted again; `totals` are what
    each plant was counted out of at looks before (the eggs of a cluster), by plant id.
    """

    tallies: tuple[Tally, ...]
    early: tuple[int, ...]
    totals: dict[int, float]


def keep_tally(
    context: Context, trial_id: int, look_number: int, entry: TallyEntry
) -> tuple[Tally, ...]:
    """Keep what was counted on one plant; return its whole history, the newest last.

    Parameters
    ----------
    look_number:
        0 for the count before, then 1, 2, …

    Raises
    ------
    InputError
        When the number is not one its measure allows.
    ConflictError
        When the look is out of turn; see `day_counted`.
    """
    with context.database.atomic() as connection:
        place = counting.place_of(connection, trial_id, look_number, entry.plant_id, entry.measure)
        check_entry(entry, place.measure)
        now = context.now()
        on = day_counted(place, entry, now.date())
        counting.keep(connection, place, entry, on, now)
        return counting.history(connection, place.look_id, entry.plant_id, entry.measure)


def tally_history(
    context: Context, trial_id: int, look_number: int, plant_id: int, measure: str
) -> tuple[Tally, ...]:
    """Return every count kept of one plant, look and measure, the oldest first."""
    with context.database.reading() as connection:
        look = find_look(reading.load_plan(connection, trial_id), look_number)
        return counting.history(connection, look.id, plant_id, measure)


def count_sheet(context: Context, trial_id: int, look_number: int) -> CountSheet:
    """Return what is counted at one look so far."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        look = find_look(plan, look_number)
        return CountSheet(
            counting.at_look(connection, look.id),
            counting.early_at(connection, look.id),
            counting.totals_before(connection, trial_id, look_number, plan.measure),
        )
