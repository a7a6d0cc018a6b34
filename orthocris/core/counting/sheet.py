"""What the counting screen shows of one look: numbers, what is early, what contradicts itself."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from orthocris.core.trial.trial import Tally


@dataclass(frozen=True, slots=True)
class Side:
    """What one session counted on a sample, by measure; `held` where it holds for now.

    `device` is what the device calls itself, empty for the machine of the program.
    """

    session: str
    values: dict[str, float | None]
    counted_at: datetime
    held: bool
    device: str = ""


@dataclass(frozen=True, slots=True)
class Contest:
    """A sample that was counted on two devices, neither of which knew of the other."""

    plant_id: int
    sample: int
    sides: tuple[Side, ...]


@dataclass(frozen=True, slots=True)
class Earlier:
    """What a marked leaf had at the look before."""

    plant_id: int
    sample: int
    value: float


@dataclass(frozen=True, slots=True)
class CountSheet:
    """What the counting screen needs of one look.

    `tallies` hold one number a sample and measure (sample 0: the plant as a whole); `early` are
    the plants counted before the look's day, to be counted again; `totals` are what each plant was
    counted out of at looks before (the eggs of a cluster), by plant id; `contests` are to be
    settled by whoever counted; `damage_before` is the leaf damage of each plant before the first
    spray, by plant id; `earlier` what marked leaves had when they were counted last.
    """

    tallies: tuple[Tally, ...]
    early: tuple[int, ...]
    totals: dict[int, float]
    contests: tuple[Contest, ...] = ()
    damage_before: dict[int, float] = field(default_factory=dict)
    earlier: tuple[Earlier, ...] = ()
