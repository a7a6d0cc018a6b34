"""Requests sent twice: the second is answered with what the first has made."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from datetime import datetime

from orthocris.core.errors import ConflictError
from orthocris.storage import record as kept
from orthocris.storage.database import Connection


def once(
    connection: Connection,
    key: str | None,
    scope: str,
    payload: object,
    now: datetime,
    make: Callable[[], int],
) -> int:
    """Make something once for a key, within the transaction of `connection`.

    Parameters
    ----------
    key:
        What the sender calls this request; None: it is simply done.
    scope:
        What is made and where, such as ``plants of trial 3``.
    payload:
        A frozen record of what is asked for; the same key with another one is refused.
    make:
        Does it and returns an id (or any number) to answer with.

    Raises
    ------
    ConflictError
        When the key was used for something else.
    """
    before = made_before(connection, key, scope, payload)
    if before is not None:
        return before
    made = make()
    if key is not None:
        kept.keep_receipt(connection, key, scope, _digest(payload), made, now)
    return made


def made_before(connection: Connection, key: str | None, scope: str, payload: object) -> int | None:
    """Return what a request with this key has made already, or None; raises as `once`."""
    found = None if key is None else kept.receipt(connection, key)
    if found is None:
        return None
    check_same(found[:2], (scope, _digest(payload)))
    return found[2]


def check_same(before: object, wanted: object) -> None:
    """Refuse a key that was sent before with something else."""
    if before != wanted:
        raise ConflictError(
            "this key was sent before with something else",
            code="key_used",
            field="Idempotency-Key",
            fix="Give each new request a key of its own.",
        )


def _digest(payload: object) -> str:
    return hashlib.sha256(repr(payload).encode()).hexdigest()
