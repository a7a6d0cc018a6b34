"""Batches as they are kept: what was really mixed, when and of what."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum


class MixKind(StrEnum):
    """How a remedy comes into the bottle."""

    MIX = "mix"  # ingredients in water
    BREW = "brew"  # a kitchen brew: stock, then diluted
    PRODUCT = "product"  # ready-made: the label rules
    STOCK = "stock"  # a stock solution diluted to a strength, or used as it is
    NONE = "none"  # nothing is mixed


@dataclass(frozen=True, slots=True)
class PouredPart:
    """What went into the bottle: `amount` ml or g as measured, and with which tool."""

    name: str
    amount: float
    unit: str
    tool: str


@dataclass(frozen=True, slots=True)
class Batch:
    """One bottle.

    `volume` in ml; `use_by` None when the mix
    does not spoil; `acknowledged` are the keys of the strong cautions that were read;
    `mixed_by` names a helper who mixed it, so that the counting stays blind; `step` is the part
    of its remedy that it holds, 0 for the first.
    """

    id: int
    trial_id: int
    remedy_id: int
    title: str
    kind: MixKind
    recipe: str
    volume: float
    parts: tuple[PouredPart, ...]
    mixed_at: datetime
    use_by: datetime | None
    acknowledged: tuple[str, ...] = ()
    mixed_by: str = ""
    cost: float | None = None
    note: str = ""
    discarded_at: datetime | None = None
    step: int = 0

    def usable(self, now: datetime) -> bool:
        """True while it is neither poured away nor past its life."""
        return self.discarded_at is None and (self.use_by is None or now <= self.use_by)
