"""The record of layouts."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class LayoutEvent:
    """A layout that was drawn (with its seed) or cleared, and why."""

    made_at: datetime
    kind: str
    seed: int | None
    reason: str
