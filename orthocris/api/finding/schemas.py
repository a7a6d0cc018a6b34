"""Finding out over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from orthocris.api.base import In, Out
from orthocris.api.planning.schemas import Key, Whole
from orthocris.core.finding.triage import Action


class CandidateOut(Out):
    """A pest that fits some of the signs."""

    key: str
    fit: float
    seen: tuple[str, ...]
    unexplained: tuple[str, ...]


class SightingIn(In):
    """What was seen at an inspection."""

    pest: Key
    place: Key = ""
    signs: Annotated[list[Key], Field(max_length=40)] = Field(default_factory=list)
    looked: Whole
    affected: Whole
    helpers: Whole = 0
    vigorous: bool = True
    wilting: bool = False
    indoors: bool = False


class AdviceOut(Out):
    """What an inspection calls for, with the numbers that led to it."""

    action: Action
    reason: str
    share: float
    trend: str


class InspectionOut(Out):
    """An inspection as it is kept."""

    id: int
    seen_at: datetime
    place: str
    pest: str
    signs: tuple[str, ...]
    looked: int
    affected: int
    helpers: int
    action: Action
    reason: str
