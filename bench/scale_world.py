"""A garden after years: sixty trials and a quarter of a million tallies, written as plain rows.

It is made in the tables of version 0.2 (migrations 1 to 4), so that any later program can be
measured on the same garden: it brings the file up to date when it starts.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path

import numpy as np

from orthocris.storage import database

REMEDIES: tuple[tuple[str, str, str, str | None, list[tuple[str, float]]], ...] = (
    ("Water only", "control", "Plain rain water.", "water_only", []),
    ("Mild soap", "remedy", "10 ml soap in 1 litre of water.", "mild_soap", [("soap", 10.0)]),
    (
        "Sunflower oil",
        "remedy",
        "10 ml sunflower oil and 2 ml soap in 1 litre.",
        "oil_soap",
        [("oil", 10.0), ("soap", 2.0)],
    ),
    ("Own brew", "remedy", "20 ml soap and 5 ml oil in 1 litre.", None, []),
)
ROUND_DAYS = (0, 5, 10, 15, 20)
DONE = 16  # days since the first spray
LAST_DAY = 60


@dataclass(frozen=True, slots=True)
class Size:
    """How large one trial is: `lines` tallies are kept of each plant, look and measure."""

    plants: int
    looks: int
    lines: int


USUAL = Size(96, 11, 2)  # 96 plants, 11 looks, two measures, each number corrected once: 4,224
LARGE = Size(240, 31, 1)  # 14,880


def write_world(
    file: Path,
    now: datetime,
    trials: int = 60,
    *,
    usual: Size | None = None,
    large: Size | None = None,
) -> int:
    """Write the garden into a new file, the large trial first; return how many tallies it has."""
    first, others = large or LARGE, usual or USUAL
    with closing(sqlite3.connect(file, isolation_level=None)) as connection:
        connection.execute("PRAGMA synchronous = OFF")
        connection.execute("BEGIN")
        _make_tables(connection)
        yard = {"name": "Quillon Yard", "latitude": 41.0, "station": "simulated", "seed": 4711}
        connection.execute("INSERT INTO yard VALUES (1, :s)", {"s": json.dumps(yard)})
        rng = np.random.default_rng(8)
        for number in range(1, trials + 1):
            _write_trial(connection, number, first if number == 1 else others, now, rng)
        connection.execute("COMMIT")
        count = connection.execute("SELECT count(*) FROM tally").fetchone()[0]
    return int(count)


def _make_tables(connection: sqlite3.Connection) -> None:
    connection.execute(
        "CREATE TABLE migration ("
        "number INTEGER PRIMARY KEY, name TEXT NOT NULL, applied_at TEXT NOT NULL) STRICT"
    )
    folder = Path(database.__file__).parent / "migrations"
    for script in sorted(folder.glob("000[1-4]_*.sql")):
        statement = ""
        for line in script.read_text("utf-8").splitlines(keepends=True):
            statement += line
            if sqlite3.complete_statement(statement):
                connection.execute(statement)
                statement = ""
        connection.execute(
            "INSERT INTO migration VALUES (:n, :name, '')",
            {"n": int(script.name[:4]), "name": script.name},
        )


def _write_trial(
    connection: sqlite3.Connection, number: int, size: Size, now: datetime, rng: np.random.Generator
) -> None:
    zero = now.date() - timedelta(days=DONE)
    connection.execute(
        "INSERT INTO trial (id, name, pest, measure, threshold, start_on, sprayed_on, seed,"
        " created_at, setup, care) VALUES (:id, :name, 'aphids', 'live', 0.6, :zero, :zero, 7,"
        " :now, '{}', :care)",
        {
            "id": number,
            "name": f"Bed {number}",
            "zero": zero.isoformat(),
            "now": (now - timedelta(days=DONE + 5, minutes=number)).isoformat(),
            "care": json.dumps({"days_between": 3, "spot": {"sun_from": float(number % 4)}}),
        },
    )
    _write_remedies(connection, number, zero, now)
    _write_plants(connection, number, size)
    _write_rounds(connection, number, size, zero, now)
    _write_looks(connection, number, size)
    connection.executemany(
        "INSERT INTO tally (look_id, plant_id, measure, session, step, value, effort, finished,"
        " counted_at, counted_on) VALUES (?, ?, ?, ?, 1, ?, 1, 1, ?, ?)",
        _tallies(number, size, zero, now, rng),
    )


def _write_remedies(connection: sqlite3.Connection, trial: int, zero: date, now: datetime) -> None:
    for position, (name, role, recipe, key, holds) in enumerate(REMEDIES):
        traits = {
            "catalogue": key,
            "way": "spray",
            "ingredients": [{"key": k, "amount": a, "unit": "ml/L"} for k, a in holds],
        }
        connection.execute(
            "INSERT INTO remedy (id, trial_id, position, name, role, recipe, letter, notches,"
            " traits) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                trial * 10 + position,
                trial,
                position,
                name,
                role,
                recipe,
                "ABCD"[position],
                position + 1,
                json.dumps(traits),
            ),
        )
        if role == "remedy":
            for round_day in ROUND_DAYS[:4]:
                at = datetime.combine(zero + timedelta(days=round_day), now.timetz())
                connection.execute(
                    "INSERT INTO batch (trial_id, remedy_id, title, kind, recipe, volume, parts,"
                    " mixed_at, use_by, acknowledged, mixed_by, note) VALUES (?, ?, ?, 'mix', ?,"
                    " 1000, '[]', ?, ?, '[]', '', '')",
                    (
                        trial,
                        trial * 10 + position,
                        name,
                        recipe,
                        at.isoformat(),
                        (at + timedelta(days=1)).isoformat(),
                    ),
                )


def _write_plants(connection: sqlite3.Connection, trial: int, size: Size) -> None:
    connection.executemany(
        "INSERT INTO plant (id, trial_id, name, row, place, match_count, block, remedy_id)"
        " VALUES (?, ?, ?, ?, ?, 30, ?, ?)",
        [
            (trial * 1000 + k, trial, f"P{k}", k // 24 + 1, k % 24 + 1, k // 4 + 1, remedy)
            for k in range(size.plants)
            for remedy in (trial * 10 + (k + k // 4) % 4,)
        ],
    )


def _write_rounds(
    connection: sqlite3.Connection, trial: int, size: Size, zero: date, now: datetime
) -> None:
    for k, day in enumerate(ROUND_DAYS):
        round_id = trial * 100 + k
        connection.execute(
            "INSERT INTO round (id, trial_id, number, day) VALUES (?, ?, ?, ?)",
            (round_id, trial, k + 1, day),
        )
        if day > DONE:
            continue
        at = datetime.combine(zero + timedelta(days=day), now.timetz()).isoformat()
        connection.execute(
            "INSERT INTO round_start (round_id, started_at, batches, overruled) VALUES (?, ?, '{}',"
            " '{}')",
            (round_id, at),
        )
        connection.executemany(
            "INSERT INTO spray (round_id, plant_id, sprayed_at, volume) VALUES (?, ?, ?, 40)",
            [(round_id, trial * 1000 + p, at) for p in range(size.plants)],
        )


def _look_days(size: Size) -> list[int]:
    return [round(k * LAST_DAY / (size.looks - 1)) for k in range(size.looks)]


def _write_looks(connection: sqlite3.Connection, trial: int, size: Size) -> None:
    connection.executemany(
        "INSERT INTO look (id, trial_id, number, day) VALUES (?, ?, ?, ?)",
        [(trial * 100 + k, trial, k, day) for k, day in enumerate(_look_days(size))],
    )


def _tallies(
    trial: int, size: Size, zero: date, now: datetime, rng: np.random.Generator
) -> Iterator[tuple[object, ...]]:
    """Every number of every look; those of days to come stand in for years of numbers."""
    for look, day in enumerate(_look_days(size)):
        on = zero + timedelta(days=day)
        at = datetime.combine(on, now.timetz()).isoformat()
        for measure in ("live", "damage"):
            for line in range(size.lines):
                values = rng.poisson(30 if look == 0 else 8, size.plants)
                for plant in range(size.plants):
                    value = float(values[plant] if measure == "live" else values[plant] % 3)
                    session = f"s{trial}-{look}-{plant}-{measure}-{line}".ljust(8, "-")
                    yield (
                        trial * 100 + look,
                        trial * 1000 + plant,
                        measure,
                        session,
                        value,
                        at,
                        on.isoformat(),
                    )
