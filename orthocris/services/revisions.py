"""Two windows on one thing: what is changed must still be what was read."""

from __future__ import annotations

import hashlib

from orthocris.core.errors import ChangedElsewhereError


def revision_of(*things: object) -> str:
    """Return a short name for a state of frozen records: equal states have equal names."""
    return hashlib.sha256(repr(things).encode()).hexdigest()[:16]


def check_unchanged(expected: str | None, now: str, what: str, whole: str | None = None) -> None:
    """Refuse a change to something that is no longer as it was read.

    Parameters
    ----------
    expected:
        The revision that was read, alone or among those of the whole it is a part of, with dots
        between; None from a caller that does not say: then the last writer wins.
    now:
        The revision in the data.
    what:
        What is being changed, for the message.
    whole:
        The revision of all things of its kind there, for a caller that read them together.
    """
    if expected is not None and not {now, whole} & set(expected.strip('W/" ').split(".")):
        raise ChangedElsewhereError(
            f"{what} was changed in another window since this one was opened",
            fix="Look at what is there now, then change it again; what you typed is still here.",
        )
