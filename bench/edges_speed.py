"""What once stood still at an edge, against its usual case: python -m bench.edges_speed.

Each line is a ratio within one run: a crowded bench with and without drawing on in vain, a
recipe of a thousand figures against an ordinary one, judging many blocks against few.
"""

from __future__ import annotations

from unittest.mock import patch

import numpy as np

from bench.windows_speed import best_of
from orthocris.core import Observation, judge
from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.reading import read_recipe
from orthocris.core.planning import allocation
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.trial import Plant


def main() -> None:
    """Print milliseconds and ratios."""
    for rows, places, remedies in ((4, 6, 2), (12, 20, 4)):
        crowded_bench(rows, places, remedies)
    recipes()
    few = judging(200)
    for blocks in (500, 1000):
        print(f"judge {4 * blocks} plants in {blocks} blocks / in 200: {judging(blocks) / few:.1f}")


def crowded_bench(rows: int, places: int, remedies: int) -> None:
    """Time a layout where drawing alone finds none without touching pairs."""
    rng = np.random.default_rng(3)
    plants = [
        Plant(
            row * places + place, f"S{row}-{place}", row + 1, place + 1, float(rng.integers(5, 60))
        )
        for row in range(rows)
        for place in range(places)
    ]

    def draw() -> None:
        close = Setup(place_cm=20.0, row_cm=20.0, match_place=False)
        allocation.allocate(plants, remedies=remedies, seed=7, setup=close, drift_cm=80.0)

    with patch.object(allocation, "_hopeless", return_value=False):
        before = best_of(draw, 1)
    now = best_of(draw, 2)
    print(
        f"layout of {len(plants)} plants close together: {now:.0f} ms; drawing on to the end"
        f" {before:.0f} ms, {before / now:.1f} times as long"
    )


def recipes() -> None:
    """Time a recipe with a number of a thousand figures against an ordinary one."""
    turn = iter(range(1000))

    def ordinary() -> None:
        read_recipe(f"{next(turn) + 1} ml soap in 1 litre of water")

    def endless() -> None:
        try:
            read_recipe(f"{next(turn) + 1}{'7' * 1000} ml soap in 1 litre of water")
        except InputError:
            return
        raise AssertionError("a number of a thousand figures was read")

    plain, long = best_of(ordinary, 20), best_of(endless, 20)
    print(f"recipe: {plain:.2f} ms; with 1,000 figures {long:.2f} ms, ratio {long / plain:.2f}")


def judging(blocks: int) -> float:
    """Return the milliseconds in which a table of four remedies in so many blocks is judged."""
    rng = np.random.default_rng(1)
    levels = {"water": 30.0, "soap": 6.0, "oil": 9.0, "milk": 25.0}
    table = [
        Observation(f"p{block}-{name}", str(block), name, day, "live", float(rng.poisson(mean)))
        for block in range(blocks)
        for name, level in levels.items()
        for day, mean in ((0.0, 30.0), (7.0, level))
    ]
    taken = best_of(lambda: judge(table, control="water"), 1)
    print(f"judge {4 * blocks} plants in {blocks} blocks: {taken:.0f} ms")
    return taken


if __name__ == "__main__":
    main()
