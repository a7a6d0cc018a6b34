"""What the crops of the garden tell on a day, where this yard lies."""

from __future__ import annotations

from datetime import date

from orthocris.core.trial.crops import CropFacts, facts_on, own_facts
from orthocris.knowledge import crops
from orthocris.services.context import Context
from orthocris.storage import weather as yards
from orthocris.storage.trial import trials


def crops_on(context: Context, day: date) -> tuple[CropFacts, ...]:
    """Return every crop as it is on a day; months follow the half of the earth of the yard.

    Those that nobody knows here follow, as they were said to be in earlier trials.
    """
    with context.database.reading() as connection:
        south = yards.load(connection).latitude < 0
        setups = trials.setups(connection)
    known = tuple(facts_on(crop, day, south=south) for crop in crops())
    return (*known, *own_facts(setups, crops(), day))
