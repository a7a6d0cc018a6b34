"""Who is let in from the home network: the passcode, and a session for each device."""

from __future__ import annotations

import hashlib
import secrets
import threading
from dataclasses import dataclass
from datetime import datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError

from orthocris.core.door.passcodes import check_code, plain_code, spoken, wait_for
from orthocris.core.errors import NotAdmittedError, NotFoundError, TooManyError
from orthocris.services.context import Context
from orthocris.storage import door
from orthocris.storage.door import DoorRow, Session

TOUCHED_EVERY = timedelta(minutes=10)
UNUSED = timedelta(days=60)  # a season: then a device must give the passcode again
_HASHER = PasswordHasher()  # Argon2id with the library's own settings (RFC 9106, low memory)
_HASHING = threading.Lock()  # one at a time: each takes 64 MB and a core
_WAITING = threading.BoundedSemaphore(4)


@dataclass(frozen=True, slots=True)
class Admitted:
    """A device that is let in; `renewed`: it was seen anew, and stays as long again."""

    device: str
    renewed: bool


def set_passcode(context: Context, code: str | None, *, is_open: bool | None = None) -> str:
    """Set the passcode, or (None) make one; every device must give it anew.

    Returns the passcode: only a digest of it is kept, so it is told this once.
    """
    chosen = spoken(secrets.randbelow(10**8)) if code is None else code
    if code is not None:
        check_code(code)
    digest = _HASHER.hash(plain_code(chosen))
    with context.database.atomic() as connection:
        before = door.load(connection)
        stays = before.open if before and is_open is None else bool(is_open)
        door.keep(connection, digest, context.now(), is_open=stays)
        door.end_sessions(connection, None, context.now())
        door.forget_misses(connection, None)
    return chosen


def has_passcode(context: Context) -> bool:
    """Tell whether a passcode was ever set."""
    with context.database.reading() as connection:
        return door.load(connection) is not None


def is_kept_open(context: Context) -> bool:
    """Tell whether the door is to be opened at each start, as was said in the Yard."""
    with context.database.reading() as connection:
        found = door.load(connection)
    return found is not None and found.open


def keep_open(context: Context, *, is_open: bool) -> None:
    """Remember whether the door is opened at each start; needs a passcode."""
    with context.database.atomic() as connection:
        found = door.load(connection)
        if found is not None:
            door.keep(connection, found.passcode, context.now(), is_open=is_open)


def enter(context: Context, code: str, device: str, origin: str) -> str:
    """Let a device in that knows the passcode; return what it carries from now on.

    Parameters
    ----------
    device:
        What it calls itself, shown to whoever ends sessions.
    origin:
        Its address on the network: guessing is slowed by address, and for all together.

    Raises
    ------
    NotAdmittedError
        When the passcode is not the right one.
    TooManyError
        After too many wrong ones; says how long to wait.
    """
    now = context.now()
    _check_wait(context, origin, now)
    if not _WAITING.acquire(blocking=False):
        raise _wait(1.0, "others are at the door")
    try:
        with _HASHING:
            kept = _reserve(context, origin, now)
            right = kept is not None and _is_right(kept.passcode, code)
    finally:
        _WAITING.release()
    if not right:
        raise NotAdmittedError(
            "that is not the passcode",
            code="wrong_passcode",
            field="passcode",
            fix="It is shown where Orthocris was started, and can be made anew in the Yard there.",
        )
    token = secrets.token_urlsafe(32)
    with context.database.atomic() as connection:
        door.forget_misses(connection, origin)
        door.begin_session(connection, _digest(token), device.strip()[:120] or "a device", now)
    return token


def _reserve(context: Context, origin: str, now: datetime) -> DoorRow | None:
    """Count a try as a miss before it is looked at, so that no burst of them is looked at free."""
    with context.database.atomic() as connection:
        wait = wait_for(door.misses(connection), origin, now)
        if wait:
            raise _wait(wait.total_seconds())
        door.note_miss(connection, origin, now)
        return door.load(connection)


def _check_wait(context: Context, origin: str, now: datetime) -> None:
    """Refuse who must wait, at the price of a look; TooManyError says how long."""
    with context.database.reading() as connection:
        wait = wait_for(door.misses(connection), origin, now)
    if wait:
        raise _wait(wait.total_seconds())


def _wait(seconds: float, what: str = "too many wrong passcodes") -> TooManyError:
    return TooManyError(
        what,
        code="wait",
        fix=f"Wait {max(1, round(seconds))} seconds, then try again; the passcode "
        "can be made anew in the Yard, on the machine itself.",
    )


def admitted(context: Context, token: str) -> Admitted | None:
    """Return the device that was let in and not ended since, and note that it was here."""
    now = context.now()
    with context.database.reading() as connection:
        session = door.session_of(connection, _digest(token), now - UNUSED)
    if session is None:
        return None
    renewed = now - session.seen_at > TOUCHED_EVERY
    if renewed:
        with context.database.atomic() as connection:
            door.touch_session(connection, session.id, now)
    return Admitted(session.device, renewed)


def leave(context: Context, token: str) -> None:
    """End the session of the device that asks."""
    with context.database.atomic() as connection:
        session = door.session_of(connection, _digest(token), context.now() - UNUSED)
        if session is not None:
            door.end_sessions(connection, session.id, context.now())


def end_session(context: Context, session: int) -> None:
    """End the session of a device, or raise NotFoundError."""
    with context.database.atomic() as connection:
        if not door.end_sessions(connection, session, context.now()):
            raise NotFoundError(
                f"there is no session {session}",
                code="no_such_session",
                fix="Read the list anew: it may have ended already.",
            )


def sessions(context: Context) -> tuple[Session, ...]:
    """Return the devices that are let in, the last seen first."""
    with context.database.reading() as connection:
        return door.sessions(connection, context.now() - UNUSED)


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _is_right(kept: str, code: str) -> bool:
    try:
        return _HASHER.verify(kept, plain_code(code))
    except (VerifyMismatchError, InvalidHashError):
        return False
