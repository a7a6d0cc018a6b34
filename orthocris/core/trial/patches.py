"""Patch tests as they are kept: what was put on which leaves, and what was seen."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum


class PatchWait(StrEnum):
    """How long to wait before a patch test has passed."""

    DAY = "day"
    TWO_DAYS = "two_days"
    WEEK = "week"


class Harm(StrEnum):
    """The kind of leaf damage."""

    NONE = "none"
    SPOTS = "spots"
    EDGE_BURN = "edge_burn"
    YELLOWING = "yellowing"
    DROP = "drop"
    LOSS_OF_BLOOM = "loss_of_bloom"
    STICKY = "sticky"
    WILTING = "wilting"


@dataclass(frozen=True, slots=True)
class PatchReading:
    """A look at a patch test: worst treated leaf and the unsprayed leaf beside it, 0 to 5."""

    hours: int
    seen_at: datetime
    treated: int
    beside: int
    harm: Harm = Harm.NONE


@dataclass(frozen=True, slots=True)
class PatchTest:
    """A remedy put on a few leaves of one kind of plant.

    `strength` is the share of the recipe's strength (1 as written); `treated_before` and
    `beside_before` are the scores when it was put on; `hours` the planned looks.
    """

    id: int
    remedy_id: int
    leaf_kind: str
    leaves: int
    strength: float
    hours: tuple[int, ...]
    applied_at: datetime
    treated_before: int = 0
    beside_before: int = 0
    readings: tuple[PatchReading, ...] = ()
