"""The passcode of the door for other devices: what it must be, and how guessing is slowed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from orthocris.core.errors import InputError

SHORTEST, LONGEST = 8, 64  # signs
FREE = 5  # wrong passcodes before anybody waits
FREE_FOR_ALL = 30  # wrong ones of all devices together
FIRST_WAIT, LONGEST_WAIT = timedelta(seconds=15), timedelta(minutes=15)
REMEMBERED = timedelta(hours=1)


def plain_code(said: str) -> str:
    """Return a passcode without the blanks and dashes by which people read it out."""
    return "".join(said.split()).replace("-", "").casefold()


def check_code(code: str) -> None:
    """Refuse a passcode that is quickly guessed, or raise InputError."""
    plain = plain_code(code)
    if not SHORTEST <= len(plain) <= LONGEST:
        raise InputError(
            f"the passcode has {len(plain)} signs",
            code="bad_passcode",
            field="passcode",
            fix=f"Choose {SHORTEST} to {LONGEST} letters or digits, or let the program make one.",
        )
    if len(set(plain)) < 4:
        raise InputError(
            "the passcode is made of too few different signs",
            code="bad_passcode",
            field="passcode",
            fix="Use at least four different ones.",
        )


def spoken(number: int) -> str:
    """Return a number below 10^8 as a passcode to be read out: 4271-5190."""
    digits = f"{number:08d}"
    return f"{digits[:4]}-{digits[4:]}"


def wait_after(misses: Sequence[datetime], now: datetime, free: int = FREE) -> timedelta:
    """Return how long to wait before the next try; no time at all after few wrong ones.

    Parameters
    ----------
    misses:
        When a wrong passcode was given, in any order; those older than an hour are forgotten.
    free:
        So many wrong ones cost nothing; from then on the wait doubles each time.
    """
    recent = [at for at in misses if now - at < REMEMBERED]
    if len(recent) < free:
        return timedelta()
    wait = min(FIRST_WAIT * (1 << min(len(recent) - free, 10)), LONGEST_WAIT)
    return max(max(recent) + wait - now, timedelta())
