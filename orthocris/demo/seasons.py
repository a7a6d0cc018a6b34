"""The journal of Quillon Yard: three years of looks round, beside its trials."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

from orthocris.core.seasons.journal import EntryDraft, EntryKind, Level

STAIRS, RAIL, GUTTERS, BORDER = "the stairs", "the rail", "the gutters", "the long border"
SILL = "the sill by the door"

# Years ago, days from today's date, where, what, how many, and who was about.
LOOKS = (
    (3, -25, RAIL, "aphids", Level.FEW, False),
    (3, 12, STAIRS, "thrips", Level.SOME, False),
    (2, -33, RAIL, "aphids", Level.SOME, True),
    (2, 9, STAIRS, "whiteflies", Level.FEW, False),
    (2, 16, STAIRS, "thrips", Level.FEW, False),
    (2, 22, GUTTERS, "spider_mites", Level.SOME, False),
    (1, -50, BORDER, "powdery_mildew", Level.SOME, False),
    (1, -41, RAIL, "aphids", Level.MANY, False),
    (1, -4, STAIRS, "whiteflies", Level.SOME, False),
    (1, 9, STAIRS, "thrips", Level.FEW, False),
    (1, 15, GUTTERS, "spider_mites", Level.FEW, True),
    (0, -66, BORDER, "powdery_mildew", Level.FEW, False),
    (0, -46, RAIL, "aphids", Level.SOME, True),
    (0, -40, RAIL, "aphids", Level.MANY, True),
    (0, -37, RAIL, "aphids", Level.SOME, True),
    (0, -8, GUTTERS, "spider_mites", Level.FEW, False),
    (0, -6, STAIRS, "whiteflies", Level.FEW, False),
    (0, -6, STAIRS, "thrips", Level.NONE, False),
    (0, -2, SILL, "thrips", Level.NONE, False),
)
TREATED = (
    (-45, RAIL, "aphids", "Garlic water, a handful of cloves left overnight"),
    (-39, RAIL, "aphids", "A jet of water each morning"),
)
TASK = (2, STAIRS, "Refill the yellow cards", 14)
AIR = ((-5, STAIRS, 66.0), (-1, STAIRS, 71.0))
NEWCOMER = (-9, SILL, "Fuchsia from the plant swap")


def journal_on(day: date) -> Iterator[EntryDraft]:
    """Yield the lines of the journal as it stands on a day."""
    for years, days, place, pest, level, helpers in LOOKS:
        on = _years_before(day, years) + timedelta(days=days)
        yield EntryDraft(EntryKind.LOOK, on, place, pest, level, helpers)
    for days, place, pest, what in TREATED:
        on = day + timedelta(days=days)
        yield EntryDraft(EntryKind.TREATED, on, place, pest, what=what)
    for days, place, humidity in AIR:
        on = day + timedelta(days=days)
        yield EntryDraft(EntryKind.AIR, on, place, humidity=humidity)
    days, place, what, every = TASK
    on = day + timedelta(days=days)
    yield EntryDraft(EntryKind.TASK, on, place, what=what, every=every)
    days, place, what = NEWCOMER
    yield EntryDraft(EntryKind.NEWCOMER, day + timedelta(days=days), place, what=what)


def _years_before(day: date, years: int) -> date:
    leap = day.month == 2 and day.day == 29
    return day.replace(year=day.year - years, day=28 if leap else day.day)
