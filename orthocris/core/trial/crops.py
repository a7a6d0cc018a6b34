"""What a crop tells of its plants, so that nobody is asked: leaf, bloom, food, and size."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from orthocris.core.trial.care import Care
from orthocris.core.trial.setup import Setup


class Leaf(StrEnum):
    """How leaves take a spray."""

    SMOOTH = "smooth"
    WAXY = "waxy"
    HAIRY = "hairy"
    THIN = "thin"
    TOUGH = "tough"


class Habit(StrEnum):
    """How a plant grows, as it is drawn; of some the leaves are known to anybody."""

    ROSETTE = "rosette"
    UPRIGHT = "upright"
    BUSH = "bush"
    CLIMBER = "climber"
    TRAILING = "trailing"
    GRASS = "grass"
    TREE = "tree"
    TRAY = "tray"
    THREE = "three"  # leaves of three, low and on stalks
    FINGERS = "fingers"
    PAIRS = "pairs"  # leaves in crossed pairs


DELICATE = frozenset([Leaf.WAXY, Leaf.HAIRY, Leaf.THIN])  # soap and oil mark them
MONTHS = (
    *("January", "February", "March", "April", "May", "June"),
    *("July", "August", "September", "October", "November", "December"),
)


@dataclass(frozen=True, slots=True)
class Crop:
    """A garden or house plant, as one speaks of several.

    `eaten` is the part that is eaten, empty for none; `bloom` the months of the northern half of
    the earth in which bees visit its flowers; `ml` what wets a usual plant once. All typical.
    """

    key: str
    name: str
    other_names: tuple[str, ...]
    leaf: Leaf
    habit: Habit
    eaten: str
    bloom: tuple[int, ...]
    ml: float


@dataclass(frozen=True, slots=True)
class CropFacts:
    """A crop on a day: what a question's ticks would say of it, and the sentence for it."""

    key: str
    name: str
    other_names: tuple[str, ...]
    habit: Habit
    delicate: bool
    eaten: bool
    in_bloom: bool
    ml: float
    said: str


def facts_on(crop: Crop, day: date, *, south: bool) -> CropFacts:
    """Return what a crop tells on a day; in the south its months are half a year later."""
    bloom = [(month + 5) % 12 + 1 for month in crop.bloom] if south else list(crop.bloom)
    return CropFacts(
        key=crop.key,
        name=crop.name,
        other_names=crop.other_names,
        habit=crop.habit,
        delicate=crop.leaf in DELICATE,
        eaten=bool(crop.eaten),
        in_bloom=day.month in bloom,
        ml=crop.ml,
        said=_said(crop, bloom),
    )


def own_facts(
    trials: Iterable[tuple[date, Setup]], crops: Iterable[Crop], day: date
) -> tuple[CropFacts, ...]:
    """Return what was said in earlier trials of plants that nobody knows here, on a day.

    `trials` are their starts and setups, the newest first, which is what holds. They bloom in the
    months in which they were said to.
    """
    known = tuple(crops)
    said: dict[str, Setup] = {}
    bloom: dict[str, set[int]] = {}
    for start, setup in trials:
        name = setup.crop.strip().lower()
        if not name or crop_named(name, known) is not None:
            continue
        said.setdefault(name, setup)
        if setup.in_bloom:
            bloom.setdefault(name, set()).add(start.month)
    return tuple(
        CropFacts(
            key=f"own:{name}",
            name=name,
            other_names=(),
            habit=Habit.ROSETTE,
            delicate=setup.delicate,
            eaten=setup.eaten,
            in_bloom=day.month in bloom.get(name, ()),
            ml=Care().ml_per_plant,
            said=f"As you said of them before: {'delicate' if setup.delicate else 'tough'} leaves; "
            f"{'something' if setup.eaten else 'nothing'} of them is eaten.",
        )
        for name, setup in said.items()
    )


def crop_named(text: str, crops: Iterable[Crop]) -> Crop | None:
    """Return the crop that a text names, by its own or another name; None where there is none."""
    wanted = " ".join(text.casefold().split())
    return next((c for c in crops if wanted in (c.name, *c.other_names)), None)


def _said(crop: Crop, bloom: list[int]) -> str:
    leaf = {
        Leaf.SMOOTH: "Smooth leaves",
        Leaf.TOUGH: "Tough leaves",
        Leaf.WAXY: "Waxy leaves, which soap and oil mark",
        Leaf.HAIRY: "Hairy leaves, which hold the spray and scorch",
        Leaf.THIN: "Thin leaves, which burn soon",
    }[crop.leaf]
    eaten = (
        f"the {crop.eaten} are eaten" if crop.eaten[-1:] == "s" else f"the {crop.eaten} is eaten"
    )
    food = eaten if crop.eaten else "nothing of them is eaten"
    if not bloom:
        return f"{leaf}; {food}."
    first, last = MONTHS[bloom[0] - 1], MONTHS[bloom[-1] - 1]
    months = f"in {first}" if first == last else f"from {first} to {last}"
    return f"{leaf}; {food}; in bloom {months}."
