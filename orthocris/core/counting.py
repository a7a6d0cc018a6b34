"""Counting: the numbers that are kept, and which are refused."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, slots=True)
class TallyEntry:
    """A number to keep.

    `session` names one spell of counting on one device; within it, `step` rises with every
    tap, so that a request that arrives late cannot undo a newer one. `counted_on` is the day it
    was really counted on.
    """

    look_id: int
    plant_id: int
    measure: str
    session: str
    step: int
    value: float | None
    of: float | None
    effort: float
    finished: bool
    counted_on: date | None = None
