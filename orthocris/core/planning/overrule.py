"""A finding that was overruled."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class Overrule:
    """A finding of the critic that the gardener overruled, and why."""

    code: str
    finding: str
    reason: str
    made_at: datetime
