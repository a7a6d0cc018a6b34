"""The passcode of the door for other devices: what it must be, and how guessing is slowed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from itertools import pairwise

from orthocris.core.errors import InputError

SHORTEST, LONGEST = 8, 64  # signs
FREE = 5  # wrong passcodes before anybody waits
FREE_FOR_ALL = 30  # wrong ones of all devices together, of which one adds no more than FREE
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
    if _is_common(plain):
        raise InputError(
            "this passcode is among the first that anybody tries",
            code="bad_passcode",
            field="passcode",
            fix="Choose another, such as two or three words that do not belong together.",
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
        When a wrong passcode was given, in any order; those older than an hour are forgotten,
        and those after `now`.
    free:
        So many wrong ones cost nothing; from then on the wait doubles each time.
    """
    # One in the future was noted before the clock was set back: it says nothing of now.
    recent = [at for at in misses if timedelta() <= now - at < REMEMBERED]
    if len(recent) < free:
        return timedelta()
    wait = min(FIRST_WAIT * (1 << min(len(recent) - free, 10)), LONGEST_WAIT)
    return max(max(recent) + wait - now, timedelta())


def wait_for(misses: Sequence[tuple[str, datetime]], origin: str, now: datetime) -> timedelta:
    """Return how long a device waits: for its own wrong ones, and for those of all together.

    Parameters
    ----------
    misses:
        From where and when wrong passcodes came. One device counts no more than `FREE` times
        among all, so that no single one keeps the others out.
    """
    own = [at for who, at in misses if who == origin]
    others = [
        at
        for who in {who for who, _ in misses}
        for at in sorted((at for other, at in misses if other == who and at <= now))[-FREE:]
    ]
    return max(wait_after(own, now), wait_after(others, now, FREE_FOR_ALL))


def _is_common(plain: str) -> bool:
    """Tell whether a passcode is a run of neighbours, a piece said again, or a well-worn word."""
    for row in _ROWS:
        near = (0, 1, len(row) - 1)  # on the spot, beside it, or once around
        steps = [
            {a, b} <= set(row) and abs(row.find(b) - row.find(a)) in near
            for a, b in pairwise(plain)
        ]
        if sum(steps) >= len(steps) - 1:
            return True
    if any(plain == (plain[:k] * len(plain))[: len(plain)] for k in range(1, len(plain) // 2 + 1)):
        return True
    word = "".join(filter(str.isalpha, plain.translate(_DISGUISED).rstrip("i!")))
    bare = "".join(filter(str.isalpha, plain))
    return not _WORN.isdisjoint({word, bare, plain})


_ROWS = ("1234567890", "abcdefghijklmnopqrstuvwxyz", "qwertyuiop", "qwertzuiop", "azertyuiop",
         "asdfghjkl", "yxcvbnm", "zxcvbnm")  # fmt: skip
_DISGUISED = str.maketrans("013457@$", "oieastas")
_WORN_WORDS = """
password passwort passcode letmein welcome iloveyou sunshine princess football baseball superman
trustnoone admin administrator garden gardener orthocris changeme computer internet qwerty qwertz
azerty abc abcd asdf dragon monkey master shadow secret whatever default guest user test testtest
hello home homehome flower flowers pokemon michael jennifer passpass pass passw login access please
charlie jordan qazwsx qazwsxedc 1q2w3e4r 1qaz2wsx q1w2e3r4 zaq12wsx
"""
_WORN = frozenset(_WORN_WORDS.split())
