"""An inspection of the plants as it is kept."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class Inspection:
    """An inspection as it is kept."""

    id: int
    seen_at: datetime
    place: str
    pest: str
    signs: tuple[str, ...]
    looked: int
    affected: int
    helpers: int
    vigorous: bool
    wilting: bool
    action: str
    reason: str
