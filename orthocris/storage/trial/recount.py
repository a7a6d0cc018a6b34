"""Keeping the numbers that the standing of a trial is read from, within each writing."""

from __future__ import annotations

import sqlite3


def recount_look(connection: sqlite3.Connection, look_id: int) -> None:
    """Count anew how many plants of the trial are counted at a look."""
    _recount_looks(connection, "l.id = :id", look_id)


def recount_round(connection: sqlite3.Connection, round_id: int) -> None:
    """Count anew how many plants of the trial are done with in a round."""
    _recount_rounds(connection, "r.id = :id", round_id)


def recount_trial(connection: sqlite3.Connection, trial_id: int) -> None:
    """Count anew after plants joined or left, or the measure changed."""
    _recount_looks(connection, "l.trial_id = :id", trial_id)
    _recount_rounds(connection, "r.trial_id = :id", trial_id)


def _recount_looks(connection: sqlite3.Connection, which: str, value: int) -> None:
    key = {"id": value}
    connection.execute(
        f"DELETE FROM look_count WHERE look_id IN (SELECT l.id FROM look l WHERE {which})",  # noqa: S608
        key,
    )
    connection.execute(
        "INSERT INTO look_count (look_id, counted_on, finished)"  # noqa: S608
        " SELECT n.look_id, n.counted_on, count(*) FROM look l"
        " JOIN trial t ON t.id = l.trial_id"
        " JOIN tally_now n ON n.look_id = l.id AND n.measure = t.measure"
        " JOIN plant p ON p.id = n.plant_id"
        f" WHERE {which} AND n.finished = 1 AND n.value IS NOT NULL"
        " AND p.set_aside IS NULL AND p.remedy_id IS NOT NULL GROUP BY n.look_id, n.counted_on",
        key,
    )


def _recount_rounds(connection: sqlite3.Connection, which: str, value: int) -> None:
    key = {"id": value}
    connection.execute(
        f"DELETE FROM round_count WHERE round_id IN (SELECT r.id FROM round r WHERE {which})",  # noqa: S608
        key,
    )
    connection.execute(
        "INSERT INTO round_count (round_id, sprayed, done, begun_at)"  # noqa: S608
        " SELECT s.round_id, count(DISTINCT CASE WHEN s.kind <> 'skipped'"
        " AND p.set_aside IS NULL THEN s.plant_id END),"
        " count(DISTINCT CASE WHEN p.set_aside IS NULL AND (r.remedies IS NULL OR EXISTS"
        " (SELECT 1 FROM json_each(r.remedies) j WHERE j.value = p.remedy_id))"
        " THEN s.plant_id END),"
        " (SELECT f.sprayed_at FROM spray f WHERE f.round_id = s.round_id AND f.undone_at IS NULL"
        " AND f.kind <> 'skipped' ORDER BY julianday(f.sprayed_at), f.id LIMIT 1)"
        " FROM round r JOIN spray s ON s.round_id = r.id AND s.undone_at IS NULL"
        f" JOIN plant p ON p.id = s.plant_id WHERE {which} GROUP BY s.round_id",
        key,
    )
