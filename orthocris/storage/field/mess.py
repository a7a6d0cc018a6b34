"""What remedies were like to use, round by round."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from datetime import datetime

from orthocris.core.trial.mess import MessKind, RoundMess


def keep_mess(
    connection: sqlite3.Connection,
    round_id: int,
    remedy_id: int,
    kinds: Sequence[MessKind],
    now: datetime,
) -> None:
    """Keep what was said of a remedy after a round, in place of what was said before."""
    connection.execute(
        "INSERT INTO round_mess (round_id, remedy_id, kinds, noted_at)"
        " VALUES (:round, :remedy, :kinds, :now) ON CONFLICT (round_id, remedy_id)"
        " DO UPDATE SET kinds = excluded.kinds, noted_at = excluded.noted_at",
        {
            "round": round_id,
            "remedy": remedy_id,
            "kinds": json.dumps(list(dict.fromkeys(kinds))),
            "now": now.isoformat(),
        },
    )


def mess_of(connection: sqlite3.Connection, trial_id: int) -> tuple[RoundMess, ...]:
    """Return what was said in a trial, round by round."""
    rows = connection.execute(
        "SELECT r.number, m.remedy_id, m.kinds FROM round r JOIN round_mess m"
        " ON m.round_id = r.id WHERE r.trial_id = :t ORDER BY r.number, m.remedy_id",
        {"t": trial_id},
    )
    return tuple(
        RoundMess(r["number"], r["remedy_id"], tuple(json.loads(r["kinds"]))) for r in rows
    )
