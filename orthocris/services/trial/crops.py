"""What the crops of the garden tell on a day, where this yard lies."""

from __future__ import annotations

from datetime import date

from orthocris.core.trial.crops import CropFacts, facts_on
from orthocris.knowledge import crops
from orthocris.services.context import Context
from orthocris.services.weather.yards import yard_of


def crops_on(context: Context, day: date) -> tuple[CropFacts, ...]:
    """Return every crop as it is on a day; months follow the half of the earth of the yard."""
    south = yard_of(context).latitude < 0
    return tuple(facts_on(crop, day, south=south) for crop in crops())
