"""How a trial is cared for: leaves to patch-test, schools, spot, amounts; changeable at any time.

Unlike the setup, none of this is part of the question, so it may change after the first spray.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.errors import InputError
from orthocris.core.ranges import check_ranges
from orthocris.core.trial.patches import PatchWait
from orthocris.core.trial.stages import LifeCycle, RoundRhythm, Stage, check_cycle

MAX_KINDS = 6
MOST_RISE = 30.0  # °C


class Side(StrEnum):
    """A side of the bench as it is drawn, row 1 on top."""

    NONE = "none"
    TOP = "top"
    RIGHT = "right"
    BOTTOM = "bottom"
    LEFT = "left"


@dataclass(frozen=True, slots=True)
class Spot:
    """Where the bench stands.

    `sun_from` to `sun_to` are the hours of the clock in which the sun can reach it; `bees`
    tells whether bees visit there. `covered` is a tunnel or greenhouse, which rain and wind do
    not reach, and `rise` how much warmer than outside it is there in full sun, °C; `night` says
    that it is sprayed by lamplight too, when no bee flies. Indoors only the lamp counts
    (`lamp_from` to `lamp_to`) and the `room`'s own temperature, °C. `sun_side` and `wind_side` are
    the sides of the bench they mostly come from, as it is drawn: row 1 on top.
    """

    outdoors: bool = True
    bees: bool = True
    sun_from: float = 0.0
    sun_to: float = 24.0
    lamp_from: float | None = None
    lamp_to: float | None = None
    covered: bool = False
    rise: float = 15.0  # 10 to 20 °C in a closed one, typical
    night: bool = False
    room: float | None = None
    sun_side: Side = Side.NONE
    wind_side: Side = Side.NONE


@dataclass(frozen=True, slots=True)
class Care:
    """Choices around the rounds of one trial.

    `leaf_kinds` are the kinds of plant whose leaves are patch-tested; `slow_leaves` says that
    they are thick and slow; `ml_per_plant` and `margin` (a fraction) size a batch;
    `days_between` is the least time between two sprays of one plant. `low`, `high`, `wind`
    replace the remedies' own limits where given; `stages` replaces the pest's development.
    """

    leaf_kinds: tuple[str, ...] = ("the trial's plants",)
    patch_wait: PatchWait = PatchWait.TWO_DAYS
    slow_leaves: bool = False
    round_rhythm: RoundRhythm = RoundRhythm.PLAN
    spot: Spot = Spot()
    ml_per_plant: float = 40.0
    margin: float = 0.1
    days_between: int = 3
    low: float | None = None
    high: float | None = None
    wind: float | None = None
    stages: tuple[Stage, ...] | None = None


def check_care(care: Care) -> None:
    """Check the choices, or raise InputError for the first fault, naming its field."""
    kinds = [kind.strip() for kind in care.leaf_kinds]
    if not 1 <= len(kinds) <= MAX_KINDS or not all(1 <= len(k) <= 60 for k in kinds):
        raise InputError(
            f"{len(kinds)} kinds of leaf",
            code="bad_leaf_kinds",
            field="leaf_kinds",
            fix=f"Name 1 to {MAX_KINDS} kinds of plant, each with up to 60 letters.",
        )
    if len({k.casefold() for k in kinds}) != len(kinds):
        raise InputError(
            "two kinds of leaf have one name",
            code="duplicate_name",
            field="leaf_kinds",
            fix="Name each kind once.",
        )
    check_ranges(
        care,
        (
            ("ml_per_plant", 0.1, 5000.0, "ml"),
            ("margin", 0.0, 1.0, "%"),
            ("days_between", 0, 60, "days"),
            ("low", -10.0, 30.0, "°C"),
            ("high", 5.0, 45.0, "°C"),
            ("wind", 1.0, 60.0, "km/h"),
        ),
    )
    if care.low is not None and care.high is not None and care.low >= care.high:
        raise InputError(
            f"from {care.low:g} to {care.high:g} °C nothing is open",
            code="out_of_range",
            field="low",
            fix="The lower limit must lie below the upper one.",
        )
    _check_spot(care.spot)
    if care.stages is not None:
        check_cycle(LifeCycle(care.stages, 0.0, 0.0))


def _check_spot(spot: Spot) -> None:
    for field in ("sun_from", "sun_to", "lamp_from", "lamp_to"):
        value = getattr(spot, field)
        if value is not None and not 0 <= value <= 24:
            raise InputError(
                f"{value:g} o'clock",
                code="bad_hour",
                field=f"spot.{field}",
                fix="Give an hour of the clock from 0 to 24.",
            )
    if spot.room is not None and not -10 <= spot.room <= 45:
        raise InputError(
            f"a room of {spot.room:g} °C",
            code="bad_spot",
            field="spot.room",
            fix="Give its usual temperature, from -10 to 45 °C, or nothing.",
        )
    if not 0 <= spot.rise <= MOST_RISE:
        raise InputError(
            f"{spot.rise:g} °C warmer than outside",
            code="bad_spot",
            field="spot.rise",
            fix=f"Say how much warmer it is under cover in full sun, 0 to {MOST_RISE:g} °C.",
        )
    if (spot.lamp_from is None) != (spot.lamp_to is None):
        raise InputError(
            "one end of the lamp's hours is missing",
            code="bad_hour",
            field="spot.lamp_to",
            fix="Give both, or leave both empty where there is no lamp.",
        )
