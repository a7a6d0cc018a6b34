"""Three lessons of a minute each: why untreated plants, why the lot, why wait.

Each is the player's own plan in many gardens, done with and without the thing.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from orthocris.core.playing.garden import (
    LUCK,
    PlayPlan,
    Spray,
    check_plan,
    course,
    draw_truth,
    last_look,
    luck,
    own_levels,
    places,
    read,
    removed,
)
from orthocris.core.playing.hindsight import DAY_AFTER, seems_in_groups

GARDENS = 200
A_THIRD, FAR = 1 / 3, 0.2


class About(StrEnum):
    """What a lesson is about."""

    CONTROL = "control"
    LOT = "lot"
    WAIT = "wait"


@dataclass(frozen=True, slots=True)
class Lesson:
    """What so many gardens show.

    `without` and `with_` are, for each garden, what the first remedy seems to remove, less what it
    removes; `fooled` and `fooled_with` are the shares of gardens that mislead: those beyond
    `limit`, on either side where `either_way`.
    """

    about: About
    title: str
    says: str
    asks: str
    without: tuple[float, ...]
    with_: tuple[float, ...]
    fooled: float
    fooled_with: float
    limit: float
    either_way: bool


def lesson(plan: PlayPlan, about: About, seed: int) -> Lesson:
    """Play many gardens of a plan."""
    check_plan(plan)
    sprays = tuple(Spray(day, 1.0) for day in plan.rounds if day < last_look(plan))
    rng = np.random.default_rng([seed, *about.encode()])
    drawn = {About.CONTROL: _control, About.LOT: _lot, About.WAIT: _wait}[about]
    pairs = np.array([drawn(plan, sprays, rng) for _ in range(GARDENS)])
    either_way = about is not About.CONTROL
    limit = FAR if either_way else A_THIRD
    off = (np.abs(pairs) if either_way else pairs) > limit
    fooled, fooled_with = (float(share) for share in off.mean(axis=0))
    title, says, asks = _words(plan, about, fooled, fooled_with)
    return Lesson(
        about,
        title,
        says,
        asks,
        tuple(pairs[:, 0].tolist()),
        tuple(pairs[:, 1].tolist()),
        fooled,
        fooled_with,
        limit,
        either_way,
    )


def _control(plan: PlayPlan, _: tuple[Spray, ...], rng: np.random.Generator) -> tuple[float, float]:
    """A remedy that does nothing: how far its plants fell, and how far against the untreated."""
    truth = draw_truth(plan, rng)
    plants = (2, plan.blocks)
    own = own_levels(plan, plants, rng)
    now = course(plan, truth, (), np.zeros(1))[last_look(plan), 0, 0]
    before = read(plan, own, rng).sum(axis=1)
    after = read(plan, own * now * luck(LUCK, plants, rng), rng).sum(axis=1)
    fell = np.maximum(after, 0.5) / np.maximum(before, 0.5)
    return float(1 - fell[1]), float(1 - fell[1] / fell[0])


def _lot(plan: PlayPlan, _: tuple[Spray, ...], rng: np.random.Generator) -> tuple[float, float]:
    """A remedy that does nothing, at the far end of the bench and on places that were drawn."""
    truth = draw_truth(plan, rng)
    along = places(plan.plants)
    expected = course(plan, truth, (), along if rng.random() < 0.5 else -along)
    groups = seems_in_groups(plan, expected)[-1]
    drawn = seems_in_groups(plan, expected[:, :, rng.permutation(plan.plants)])[-1]
    return float(groups), float(drawn)


def _wait(
    plan: PlayPlan, sprays: tuple[Spray, ...], rng: np.random.Generator
) -> tuple[float, float]:
    """The last remedy a day after the first spray, and at the look that decides."""
    truth = draw_truth(plan, rng)
    true = removed(plan, truth, sprays, last_look(plan))[-1]
    return float(removed(plan, truth, sprays, DAY_AFTER)[-1] - true), 0.0


def _words(plan: PlayPlan, about: About, fooled: float, fooled_with: float) -> tuple[str, str, str]:
    name, last = plan.remedies[-1].name, last_look(plan)
    n, m = round(fooled * GARDENS), round(fooled_with * GARDENS)
    if about is About.CONTROL:
        return (
            "Why leave some untreated?",
            f"Here {name} does nothing at all. Yet in {n} of {GARDENS} gardens a third or more of "
            f"the pests on its plants were gone by day {last}: rain, heat and helpers took them. "
            f"Held against untreated plants it looks so in {m}.",
            f"What {name} seems to take away, though it takes nothing",
        )
    if about is About.LOT:
        return (
            "Why let the lot decide?",
            f"Here {name} does nothing at all. One end of the bench is sunnier, and pests grow "
            f"faster there. With each remedy on its own part of the bench, {name} seems to take "
            f"away, or to add, 20 points or more in {n} of {GARDENS} gardens; with places drawn by "
            f"lot in {m}.",
            f"What {name} seems to take away, in points, though it takes nothing",
        )
    return (
        "Why wait?",
        f"Counted a day after the first spray, {name} is off by 20 points or more from what it has "
        f"taken away by day {last} in {n} of {GARDENS} gardens: eggs hatch, and some remedies are "
        "slow.",
        f"How far off {name} seems a day after the spray, in points",
    )
