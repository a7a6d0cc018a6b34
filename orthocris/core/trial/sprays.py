"""Spray rounds as they are kept: starts, marks and events."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from enum import StrEnum

START_HOLDS = timedelta(hours=6)  # after that the window and the bottle are checked again


class SprayKind(StrEnum):
    """What happened to a plant in a round."""

    SPRAYED = "sprayed"
    SKIPPED = "skipped"
    AGAIN = "again"  # a second time, recorded as a deviation


@dataclass(frozen=True, slots=True)
class SprayEntry:
    """One plant as it is recorded.

    `volume` in ml; `neighbour_id` a plant that was hit as well; `deviation` the reason for
    what the plan does not allow (too soon, twice); `note` why it was skipped; `key` names the
    tap, so that one sent twice is kept once; `tapped_at` is when it was done by the clock of a
    device that was out of reach.
    """

    plant_id: int
    kind: SprayKind = SprayKind.SPRAYED
    volume: float | None = None
    undersides: bool = True
    drifted: bool = False
    neighbour_id: int | None = None
    deviation: str = ""
    note: str = ""
    key: str | None = None
    tapped_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class RoundStart:
    """When a round was started or taken up again, with the batch of each remedy.

    `overruled` maps the code of what spoke against it to the reason the gardener gave;
    `limits` are the gardener's own limits then in force (°C, km/h); `done_on` is the day it was
    really done on when it was entered later, else None.
    """

    round_id: int
    started_at: datetime
    batches: dict[int, int]
    overruled: dict[str, str]
    limits: dict[str, float] = field(default_factory=dict)
    done_on: date | None = None

    def holds(self, now: datetime) -> bool:
        """True while nothing has to be checked again."""
        return self.started_at <= now <= self.started_at + START_HOLDS

    def time_of(self, tapped_at: datetime | None, now: datetime) -> datetime:
        """Return when something was done: as the device says where that can be, else now."""
        if tapped_at is None or not self.started_at <= tapped_at <= now:
            return now
        return tapped_at.astimezone(now.tzinfo)


class EventKind(StrEnum):
    """Something that happened to a round."""

    WASHED_OFF = "washed_off"
    HEAT_AFTER_OIL = "heat_after_oil"
    MOVED = "moved"
    UNDONE = "undone"
    DRY_LEAF = "dry_leaf"  # of a whole round: kept in gardens older than `mess.DRY_LEAF`
    LEFT_OUT = "left_out"


@dataclass(frozen=True, slots=True)
class RoundEvent:
    """An event of a round; `amount` is mm of rain, °C or days moved."""

    round_id: int
    at: datetime
    kind: EventKind
    amount: float
    text: str
