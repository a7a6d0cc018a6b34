"""The door over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import StringConstraints

from orthocris.api.base import In, Out

Code = Annotated[str, StringConstraints(min_length=1, max_length=100)]


class EnterIn(In):
    """The passcode."""

    passcode: Code


class DoorIn(In):
    """Whether the door is to be open; `kept`: at each start from now on."""

    open: bool
    kept: bool = False


class PasscodeIn(In):
    """A passcode of one's own; null: one is made."""

    passcode: Code | None = None


class SessionOut(Out):
    """A device that was let in."""

    id: int
    device: str
    made_at: datetime
    seen_at: datetime


class DoorOut(Out):
    """Whether other devices may come in, where, and which did."""

    possible: bool
    open: bool
    kept: bool
    address: str | None
    others: tuple[str, ...]
    fingerprint: str | None
    has_passcode: bool
    sessions: tuple[SessionOut, ...]
    passcode: str | None = None
