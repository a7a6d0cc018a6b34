"""How a pest grows: its stages and their degree-days, and by which school rounds follow them."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.errors import InputError


class Phase(StrEnum):
    """What a stage is in the life cycle."""

    EGG = "egg"  # contact sprays do not reach it
    YOUNG = "young"
    HIDDEN = "hidden"  # in the soil or under a shell; leaf sprays do not reach it
    LAYING = "laying"  # adult, until it lays


@dataclass(frozen=True, slots=True)
class Stage:
    """A stage that takes `k` degree-days above `t0` (°C); typical values, to be changed."""

    name: str
    phase: Phase
    k: float
    t0: float


@dataclass(frozen=True, slots=True)
class LifeCycle:
    """Stages from egg to laying, and the same in fixed days for those who count days.

    `egg_days` and `young_days` are typical times in warm weather. A pest that bears live
    young, or a disease without a hidden stage, has no egg stage.
    """

    stages: tuple[Stage, ...]
    egg_days: float
    young_days: float


class RoundRhythm(StrEnum):
    """How the next round is chosen; each has its followers."""

    PLAN = "plan"  # fixed days, as planned
    EGG_CYCLE = "egg_cycle"  # after most eggs hatched, before their daughters lay
    EVERY_3 = "every_3"  # every 2 to 3 days while heavy
    TWICE_WEEKLY = "twice_weekly"
    WATCH = "watch"  # only when the next look calls for it


def check_cycle(cycle: LifeCycle) -> None:
    """Refuse stages that no pest has, naming the stage."""
    for k, stage in enumerate(cycle.stages):
        if not 1 <= stage.k <= 5000 or not -5 <= stage.t0 <= 25:
            raise InputError(
                f"{stage.name}: {stage.k:g} degree-days above {stage.t0:g} °C",
                code="bad_stage",
                field=f"stages.{k}",
                fix="Give 1 to 5000 degree-days and a threshold from -5 to 25 °C.",
            )
