"""The ways of giving a remedy: what each wets and reaches, its usual unit and its work."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from orthocris.core.errors import InputError

Reach = Literal["leaves", "soil", "none"]


@dataclass(frozen=True, slots=True)
class Way:
    """One way of giving a remedy.

    `wets` tells whether leaves or soil get wet; `poured` whether what a plant gets is told in
    ml; `onto_leaves` whether it comes onto leaves and is patch-tested; `reach` what has to be
    reached on each plant; `unit` of its dose; `minutes` of work a plant, typical; `mind` what it
    may hurt, whatever is given so.
    """

    key: str
    name: str
    wets: bool
    poured: bool
    onto_leaves: bool
    reach: Reach
    unit: str
    minutes: float
    mind: str = ""

    @property
    def whole(self) -> bool:
        """True where a leaf, a shoot or a half alone cannot be given it."""
        return self.reach == "soil" or self.key in ("barrier", "trap", "air", "predator")


CATCHES = (
    "Outdoors cards and traps catch helpers, bees and small birds: behind a net, low, and away "
    "once it is over."
)
BRED = (
    "Only helpers that were bred: those taken from the wild carry parasites, fly off, and are "
    "missed where they came from. No spray for two weeks before and after."
)
WAYS: dict[str, Way] = {
    way.key: way
    for way in (
        Way("none", "left alone", False, False, False, "none", "", 0.0),
        Way("spray", "spray to run-off", True, True, True, "leaves", "ml", 1.0),
        Way("mist", "light mist", True, True, True, "leaves", "ml", 0.5),
        Way("jet", "jet of water", True, False, False, "leaves", "s", 0.5),
        Way("dab", "dab", True, True, True, "none", "ml", 3.0),
        Way("brush", "brush", False, False, False, "none", "min", 2.0),
        Way("bath", "bath of a part", True, True, True, "none", "min", 3.0),
        Way("drench", "soil drench", True, True, False, "soil", "ml", 0.5),
        Way("soil", "work on the soil", False, False, False, "soil", "min", 5.0),
        Way("dust", "dust", False, False, True, "leaves", "g", 0.5),
        Way("granule", "granules on the soil", False, False, False, "soil", "g", 0.5),
        Way("jar", "eggs taken off, in a jar", False, False, False, "none", "min", 3.0),
        Way("hand", "by hand", False, False, False, "none", "min", 2.0),
        Way("barrier", "barrier", False, False, False, "none", "pieces", 2.0),
        Way("trap", "trap", False, False, False, "none", "pieces", 0.5, CATCHES),
        Way("air", "moving or drier air", False, False, False, "none", "h", 0.2),
        Way("predator", "predators", False, False, False, "none", "releases", 1.0, BRED),
    )
}


def way_named(key: str) -> Way:
    """Return a way by its key; one that is not known is taken for a spray, the most careful."""
    return WAYS.get(key, WAYS["spray"])


def check_ways(ways: Iterable[str], field: str) -> None:
    """Refuse a way that nobody here knows: what must be minded of it would stay unsaid."""
    for way in ways:
        if way not in WAYS:
            raise InputError(
                f"{way!r} is no way of giving a remedy",
                code="no_such_way",
                field=field,
                fix=f"Use one of: {', '.join(WAYS)}.",
            )


def minutes_of(way: str, dose: float | None, dose_unit: str) -> float:
    """Return the typical minutes a plant: of the way, or the dose where that is in minutes."""
    return dose if dose and dose_unit == "min" else way_named(way).minutes


def keys_where(fits: Iterable[Way]) -> frozenset[str]:
    """Return the keys of some ways."""
    return frozenset(way.key for way in fits)


POURED = keys_where(way for way in WAYS.values() if way.poured)
ONTO_LEAVES = keys_where(way for way in WAYS.values() if way.onto_leaves)
WHOLE = keys_where(way for way in WAYS.values() if way.whole)
AT_LEAVES = keys_where(way for way in WAYS.values() if way.reach == "leaves") | {"bath"}
