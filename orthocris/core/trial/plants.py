"""Rules for the list of plants."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import Measure, check_value, measure_named
from orthocris.core.trial.trial import Plant
from orthocris.core.words import day_words

MAX_PLANTS = 240
MAX_ROWS = 40
MAX_PLACES = 60
LEAST_BLOCKS = 2  # plants of each remedy below which nothing can be compared
USUAL_BLOCKS = 4  # better


def check_plant(plant: Plant, others: Iterable[Plant], measure: str) -> None:
    """Check one plant against its fields' rules and the other plants of the trial."""
    name = plant.name.strip()
    if not 1 <= len(name) <= 40:
        raise InputError(
            "the plant has no name" if not name else f"the name is {len(name)} letters long",
            code="empty" if not name else "too_long",
            field="name",
            fix="Give each plant a name of 1 to 40 letters, such as S1.",
        )
    for field, limit in (("row", MAX_ROWS), ("place", MAX_PLACES)):
        if not 1 <= getattr(plant, field) <= limit:
            raise InputError(
                f"{field} is {getattr(plant, field)}",
                code="bad_place",
                field=field,
                fix=f"Count rows and places from 1; {field} goes up to {limit}.",
            )
    if plant.host is not None and not 1 <= len(plant.host.strip()) <= 40:
        raise InputError(
            f"the plant it is on has a name of {len(plant.host.strip())} letters",
            code="bad_host",
            field="host",
            fix="Name that plant in 1 to 40 letters, or leave it empty.",
        )
    _check_numbers(plant, measure)
    for other in others:
        if other.id != plant.id:
            _check_apart(plant, other)


def check_death(plant: Plant, sprayed_on: date | None, today: date) -> None:
    """Refuse the death of a plant that takes part, or that was not after the first spray."""
    if plant.died_on is None:
        return
    if plant.set_aside is None:
        raise InputError(
            f"{plant.name} died and takes part",
            code="dead_and_counted",
            field="set_aside",
            fix="Set it aside and say why; its counts so far stay.",
        )
    if sprayed_on is None or not sprayed_on <= plant.died_on <= today:
        raise InputError(
            f"died on {day_words(plant.died_on)}",
            code="bad_day",
            field="died_on",
            fix="Give the day, from the first spray to today; a plant that died before it is only "
            "set aside.",
        )


def _check_numbers(plant: Plant, measure: str) -> None:
    if plant.match_count is not None:
        try:
            check_value(_match_measure(measure), plant.match_count, None)
        except InputError as error:
            raise InputError(
                error.message, code=error.code, field="match_count", fix=error.fix
            ) from None
    if plant.size is not None and not 0 < plant.size <= 100_000:
        raise InputError(
            f"the size is {plant.size:g}",
            code="bad_size",
            field="size",
            fix="Give leaves or centimetres, more than 0 and the same measure for every plant.",
        )


def _check_apart(plant: Plant, other: Plant) -> None:
    name = plant.name.strip()
    if other.name.strip().casefold() == name.casefold():
        raise InputError(
            f"there is a plant called {name!r} already",
            code="same_name",
            field="name",
            fix="Give each plant a name of its own.",
        )
    if (other.row, other.place) == (plant.row, plant.place):
        raise InputError(
            f"{other.name} stands in row {plant.row}, place {plant.place} already",
            code="same_place",
            field="place",
            fix="Give each plant a place of its own.",
        )


def _match_measure(measure: str) -> Measure:
    """Match counts of share measures are plain counts (of eggs or pests)."""
    key = measure if measure not in ("dead", "hatched") else "live"
    return measure_named(key)


def next_plants(
    existing: Sequence[Plant],
    *,
    prefix: str,
    rows: int,
    per_row: int,
) -> list[tuple[str, int, int]]:
    """Name and place a whole bench of new plants behind those already there.

    Parameters
    ----------
    existing:
        Plants of the trial so far; new rows follow the last of them.
    prefix:
        Letters before the running number of each name.
    rows, per_row:
        The size of the new part of the bench.

    Returns
    -------
    (name, row, place) of each new plant, names not used before.
    """
    if not (1 <= rows <= MAX_ROWS and 1 <= per_row <= MAX_PLACES):
        raise InputError(
            f"{rows} rows of {per_row}",
            code="bad_bench",
            field="rows" if not 1 <= rows <= MAX_ROWS else "per_row",
            fix=f"Give 1 to {MAX_ROWS} rows of 1 to {MAX_PLACES} plants.",
        )
    if len(existing) + rows * per_row > MAX_PLANTS:
        raise InputError(
            f"that makes {len(existing) + rows * per_row} plants",
            code="too_many_plants",
            field="rows",
            fix=f"A trial holds at most {MAX_PLANTS} plants; more than one can count in a day.",
        )
    last_row = max((p.row for p in existing), default=0)
    if last_row + rows > MAX_ROWS:
        raise InputError(
            f"that makes {last_row + rows} rows",
            code="too_many_rows",
            field="rows",
            fix=f"A bench holds at most {MAX_ROWS} rows.",
        )
    used = {p.name.strip().casefold() for p in existing}
    fresh: list[tuple[str, int, int]] = []
    number = 0
    for row in range(last_row + 1, last_row + rows + 1):
        for place in range(1, per_row + 1):
            number += 1
            while f"{prefix}{number}".casefold() in used:
                number += 1
            fresh.append((f"{prefix}{number}", row, place))
    return fresh
