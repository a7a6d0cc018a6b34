"""A leaf as it might lie under a lens, grown from a seed, and the truth of what is on it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from orthocris.core.counting.leaf.looks import CREATURES, PATCHES, Colour, CreatureLook
from orthocris.core.errors import InputError

Grid = NDArray[np.float64]
Stage = Literal["live", "young", "eggs", "dead"]
Thing = Literal["live", "young", "eggs", "dead", "skin", "wax", "honeydew"]
STAGES: tuple[Stage, ...] = ("live", "young", "eggs", "dead")

HEIGHT = 0.75  # of a picture, as a share of its width
MIDDLE = HEIGHT / 2
FIRST, LAST = 0.07, 0.93  # where the blade begins and ends
MOST_OF_EACH = 150
TRIES = 60  # to find a free place
APART = 0.75  # of the mean length of two: closer than that one would lie on the other


@dataclass(frozen=True, slots=True)
class LeafPlan:
    """What a leaf shall bear: numbers by stage (adults and young apart), per cent of its area."""

    pest: str
    live: int = 0
    young: int = 0
    eggs: int = 0
    dead: int = 0
    cover: float = 0.0

    def count(self, stage: Stage) -> int:
        """Return how many of a stage are wanted."""
        wanted: int = getattr(self, stage)
        return wanted


@dataclass(frozen=True, slots=True)
class Figure:
    """One thing on a leaf: its middle and length as shares of the picture's width, its turn."""

    thing: Thing
    x: float
    y: float
    length: float
    angle: float  # radians


@dataclass(frozen=True, slots=True)
class Truth:
    """What is on a leaf; `live` are all that live, the young among them."""

    live: int
    young: int
    eggs: int
    dead: int
    cover: float


@dataclass(frozen=True, slots=True)
class Leaf:
    """A leaf with all that lies on it.

    `bulge` and `tip` give its shape, `green` its colour, `body` the colour of the live ones,
    `patches` middle and radius of each, `light` where the light comes from (radians), `shade` how
    much darker the far side is.
    """

    pest: str
    seed: int
    bulge: float
    tip: float
    green: Colour
    body: Colour | None
    light: float
    shade: float
    figures: tuple[Figure, ...]
    patches: tuple[tuple[float, float, float], ...]
    cover: float

    def truth(self) -> Truth:
        """Return what a perfect count of it would be."""
        numbers = {stage: sum(f.thing == stage for f in self.figures) for stage in STAGES}
        return Truth(
            numbers["live"] + numbers["young"],
            numbers["young"],
            numbers["eggs"],
            numbers["dead"],
            self.cover,
        )

    def half_width(self, x: float) -> float:
        """Return half the width of the blade at `x`, 0 outside of it."""
        along = (x - FIRST) / (LAST - FIRST)
        if not 0 < along < 1:
            return 0.0
        return float(self.bulge * math.sin(math.pi * along**self.tip) ** 0.8)


def grow(seed: int, plan: LeafPlan) -> Leaf:
    """Grow a leaf; the same seed and plan give the same leaf.

    Raises
    ------
    InputError
        For a pest whose look is not known, or for more than a leaf can bear.
    """
    _check(plan)
    rng = np.random.default_rng([seed, 77])
    look = CREATURES.get(plan.pest)
    leaf = Leaf(
        pest=plan.pest,
        seed=seed,
        bulge=float(rng.uniform(0.25, 0.32)),
        tip=float(rng.uniform(0.75, 1.1)),
        green=_jittered(rng, (0.30, 0.50, 0.22), 0.05),
        body=None if look is None else look.bodies[int(rng.integers(len(look.bodies)))],
        light=float(rng.uniform(0, 2 * math.pi)),
        shade=float(rng.uniform(0.1, 0.35)),
        figures=(),
        patches=(),
        cover=plan.cover,
    )
    if look is not None:
        leaf = replace(leaf, figures=_populate(rng, leaf, look, plan))
    if plan.pest in PATCHES and plan.cover > 0:
        leaf = replace(leaf, patches=_patches(rng, leaf, PATCHES[plan.pest].radius, plan.cover))
    return leaf


def blade(leaf: Leaf, width: int) -> NDArray[np.bool_]:
    """Return which pixels of a picture of this width are leaf."""
    xs = (np.arange(width) + 0.5) / width
    ys = (np.arange(round(width * HEIGHT)) + 0.5) / width
    half = np.array([leaf.half_width(float(x)) for x in xs])
    inside: NDArray[np.bool_] = np.abs(ys[:, None] - MIDDLE) < half[None, :]
    return inside


def patch_field(leaf: Leaf, width: int) -> Grid:
    """Return how deep each pixel lies in a patch: above 0 it is covered, 1 at a patch's middle.

    The level is set so that the share of the blade above it is the leaf's `cover`.
    """
    xs = (np.arange(width) + 0.5) / width
    ys = (np.arange(round(width * HEIGHT)) + 0.5) / width
    rng = np.random.default_rng([leaf.seed, 78])
    field = np.full((len(ys), len(xs)), 1e-9)
    for x, y, radius in leaf.patches:
        phase, swing = rng.uniform(0, 2 * math.pi), rng.uniform(0.03, 0.12)
        across, down = (_window(grid, at, 4 * radius) for grid, at in ((xs, x), (ys, y)))
        dx, dy = xs[None, across] - x, ys[down, None] - y
        # Wobbling edges: the radius swings with the angle.
        turn = np.arctan2(dy, dx) + phase
        wobble = 1 + swing * (np.sin(2 * turn) + np.sin(5 * turn + phase))
        own = np.exp(-(dx**2 + dy**2) / (radius * wobble) ** 2)
        field[down, across] = np.maximum(field[down, across], own)
    inside = blade(leaf, width)
    level = np.quantile(field[inside], 1 - min(leaf.cover, 100.0) / 100)
    if not leaf.patches:
        return np.full_like(field, -1.0)
    above: Grid = (field - level) / max(1 - level, 1e-6)
    return np.where(inside, above, -1.0)


def _window(grid: Grid, at: float, reach: float) -> slice:
    low, high = np.searchsorted(grid, [at - reach, at + reach])
    return slice(int(low), int(high))


def _check(plan: LeafPlan) -> None:
    if plan.pest not in CREATURES and plan.pest not in PATCHES:
        raise InputError(
            f"there is no drawing of {plan.pest}",
            code="no_drawing",
            field="pest",
            fix=f"Choose one of {', '.join([*CREATURES, *PATCHES])}.",
        )
    if not 0 <= plan.cover <= 100 or any(
        not 0 <= plan.count(stage) <= MOST_OF_EACH for stage in STAGES
    ):
        raise InputError(
            "more than a leaf can bear",
            code="too_much",
            field="live",
            fix=f"At most {MOST_OF_EACH} of each, and 0 to 100%.",
        )


def _populate(
    rng: np.random.Generator, leaf: Leaf, look: CreatureLook, plan: LeafPlan
) -> tuple[Figure, ...]:
    """Place what is counted, then what lies about; colonies sit near the midrib."""
    colonies = [_place(rng, leaf, 0.02) for _ in range(int(rng.integers(2, 5)))]
    placed: list[Figure] = []
    wanted: list[tuple[Thing, int]] = [(stage, plan.count(stage)) for stage in STAGES]
    litter = round(0.25 * (plan.live + plan.young)) + int(rng.integers(0, 4))
    wanted += [("skin", litter if look.skins else 0), ("wax", litter if look.wax else 0)]
    wanted += [("honeydew", litter if look.honeydew else 0)]
    for thing, number in wanted:
        for _ in range(number):
            placed.append(_settle(rng, leaf, look, thing, colonies, placed))
    return tuple(placed)


def _settle(
    rng: np.random.Generator,
    leaf: Leaf,
    look: CreatureLook,
    thing: Thing,
    colonies: list[tuple[float, float]],
    placed: list[Figure],
) -> Figure:
    """Find a place for one thing, apart from the others where there is room."""
    length = size_of(look, thing) * float(rng.uniform(0.85, 1.15))
    angle = float(rng.uniform(0, 2 * math.pi))
    best: tuple[float, Figure] | None = None
    for _ in range(TRIES):
        x, y = _place(rng, leaf, length)
        if rng.random() < 0.7:
            home = colonies[int(rng.integers(len(colonies)))]
            x, y = home[0] + rng.normal(0, 0.07), home[1] + rng.normal(0, 0.05)
        if abs(y - MIDDLE) > leaf.half_width(x) - 0.6 * length:
            continue
        room = min(
            (
                math.hypot(x - f.x, y - f.y) / (APART * (length + f.length) / 2)
                for f in placed
                if f.thing != "honeydew"
            ),
            default=2.0,
        )
        if best is None or room > best[0]:
            best = (room, Figure(thing, float(x), float(y), length, angle))
        if room >= 1:
            break
    return best[1] if best else Figure(thing, 0.5, MIDDLE, length, angle)


def size_of(look: CreatureLook, thing: Thing) -> float:
    """Return the usual length of a thing."""
    return (
        look.length
        * {
            "live": 1.0,
            "young": look.young_size,
            "eggs": look.egg_size,
            "dead": 0.9,
            "skin": 0.7,
            "wax": 0.6,
            "honeydew": 0.8,
        }[thing]
    )


def _patches(
    rng: np.random.Generator, leaf: Leaf, radius: float, cover: float
) -> tuple[tuple[float, float, float], ...]:
    """Place about as many patches as the area needs; their level is set when they are drawn."""
    area = leaf.bulge * 1.2 * (LAST - FIRST) * cover / 100
    number = min(max(round(area / (math.pi * radius**2)), 1), 400)
    return tuple(
        (*_place(rng, leaf, 0.01), radius * float(rng.uniform(0.6, 1.4))) for _ in range(number)
    )


def _place(rng: np.random.Generator, leaf: Leaf, margin: float) -> tuple[float, float]:
    while True:
        x = float(rng.uniform(FIRST + 0.08, LAST - 0.08))
        room = leaf.half_width(x) - margin
        if room > 0:
            return x, MIDDLE + float(rng.uniform(-room, room))


def _jittered(rng: np.random.Generator, colour: Colour, by: float) -> Colour:
    lighter = rng.normal(0, by)
    red, green, blue = (float(min(max(c + lighter + rng.normal(0, by / 3), 0), 1)) for c in colour)
    return red, green, blue
