"""Reading what was counted: the sheet of a look, and the record of one plant."""

from __future__ import annotations

from orthocris.core.counting.sheet import CountSheet
from orthocris.core.trial.lookup import find_look
from orthocris.core.trial.trial import Tally
from orthocris.services.context import Context
from orthocris.storage.counting import counts
from orthocris.storage.trial import reading


def tally_history(
    context: Context, trial_id: int, look_number: int, plant_id: int, measure: str
) -> tuple[Tally, ...]:
    """Return every count kept of one plant, look and measure, the oldest first."""
    with context.database.reading() as connection:
        look = find_look(reading.load_plan(connection, trial_id), look_number)
        return counts.history(connection, look.id, plant_id, measure)


def count_sheet(context: Context, trial_id: int, look_number: int) -> CountSheet:
    """Return what is counted at one look so far."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        look = find_look(plan, look_number)
        return CountSheet(
            counts.samples_at(connection, look.id),
            counts.early_at(connection, look.id),
            counts.totals_before(connection, trial_id, look_number, plan.measure),
            counts.contests_at(connection, look.id),
            counts.damage_before(connection, trial_id),
        )
