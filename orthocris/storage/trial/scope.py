"""Which trials a statement reads, and its rows by what they belong to."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable

# One trial (:t), or all that are on the list (:t is NULL).
SCOPE = "(SELECT id FROM trial WHERE id = :t OR (:t IS NULL AND put_away_at IS NULL))"
Grouped = dict[int, list[sqlite3.Row]]


def grouped(rows: Iterable[sqlite3.Row], by: str = "trial_id") -> Grouped:
    """Return rows by the trial (or what else) they belong to, in their order."""
    found: Grouped = {}
    for row in rows:
        found.setdefault(row[by], []).append(row)
    return found
