"""The layouts that the lot could have drawn: what a result by chance alone is measured against."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import product

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.frame import Layout

IntArray = NDArray[np.int_]
MOST_LISTED = 4096  # up to so many layouts all are used, beyond that so many are drawn
# Of very large trials fewer are drawn: the arithmetic takes layouts × plants × remedies.
MOST_CELLS, LEAST_DRAWN = 4_000_000, 400
MOST_ARRANGED = 6  # plants of a block whose orders are listed (720 at most) and drawn from the list


@dataclass(frozen=True, slots=True)
class LayoutSet:
    """The layouts that the lot could have drawn where a rule restricts it.

    `plants` and `remedies` are names, `rows` the index of each plant's remedy, (layouts, plants).
    """

    plants: tuple[str, ...]
    remedies: tuple[str, ...]
    rows: IntArray

    @classmethod
    def unpacked(
        cls, plants: tuple[str, ...], remedies: tuple[str, ...], packed: bytes
    ) -> LayoutSet:
        """Read layouts kept as one byte for each plant."""
        rows = np.frombuffer(packed, dtype=np.uint8).astype(np.int_)
        return cls(plants, remedies, rows.reshape(-1, len(plants)))

    @classmethod
    def beside(cls, parts: Sequence[LayoutSet]) -> LayoutSet:
        """Join the layouts of several lots, which were drawn apart, at random."""
        rng, most = np.random.default_rng(len(parts)), max(len(part.rows) for part in parts)
        names = tuple(dict.fromkeys(name for part in parts for name in part.remedies))
        rows = [
            np.array([names.index(name) for name in part.remedies])[
                part.rows[rng.integers(len(part.rows), size=most)]
            ]
            for part in parts
        ]
        plants = tuple(plant for part in parts for plant in part.plants)
        return cls(plants, names, np.concatenate(rows, axis=1))

    def of(self, plants: Sequence[str], remedies: Sequence[str]) -> IntArray | None:
        """Return the layouts of some plants, remedies counted in another order.

        None where a plant is not among these, or where a layout gives one of them a remedy that
        is not compared: then they cannot stand for the lot.
        """
        if not set(plants) <= set(self.plants):
            return None
        columns = [self.plants.index(plant) for plant in plants]
        place = {name: k for k, name in enumerate(remedies)}
        order = np.array([place.get(name, -1) for name in self.remedies])
        found = order[self.rows[:, columns]]
        return None if (found < 0).any() else np.asarray(found)


def reference_set(layout: Layout, seed: int, most: int | None = None) -> IntArray:
    """Return layouts as the lot could have drawn them, the one in use first, (layouts, plants).

    Parameters
    ----------
    layout:
        The layout in use. Remedies were allotted within blocks where there are blocks, by
        shuffled rows, columns and names in a Latin square, among all plants otherwise.
    seed:
        Seed of the draw where there are too many to list.
    most:
        Up to so many layouts all are listed (the set is then exact); else so many are drawn. None:
        what a trial of this size is judged with.
    """
    if most is None:
        cells = len(layout.remedy) * layout.remedies
        most = min(MOST_LISTED, max(MOST_CELLS // cells, LEAST_DRAWN))
    square = _square(layout)
    if square is not None:
        found = _squares(layout, *square, np.random.default_rng(seed), most)
    else:
        groups = _groups(layout)
        if layouts_possible(layout) <= most:
            found = _all_within(layout, groups)
        else:
            found = _drawn_within(layout, groups, np.random.default_rng(seed), most - 1)
    others = found[(found != layout.remedy).any(axis=1)] if len(found) < most - 1 else found
    return np.concatenate([layout.remedy[None, :], others])


def layouts_possible(layout: Layout) -> int:
    """Return how many different layouts the lot could have drawn.

    Within the blocks; of a Latin square those by shuffling rows, columns and names, counted from
    below: their classes under it are few, and from side 4 on all are many.
    """
    if _square(layout) is not None:
        side = layout.remedies
        return {1: 1, 2: 2, 3: 12, 4: 432}.get(side, math.factorial(side) ** 2)
    total = 1
    for members in _groups(layout):
        ways = math.factorial(len(members))
        for times in Counter(layout.remedy[members].tolist()).values():
            ways //= math.factorial(times)
        total *= ways
    return total


def _groups(layout: Layout) -> list[IntArray]:
    if layout.block is None:
        return [np.arange(len(layout.remedy))]
    return [np.flatnonzero(layout.block == b) for b in range(int(layout.block.max()) + 1)]


def _all_within(layout: Layout, groups: list[IntArray]) -> IntArray:
    """Every way to hand out each block's remedies to its plants."""
    ways = [list(_arrangements(Counter(layout.remedy[m].tolist()))) for m in groups]
    found = np.empty((math.prod(len(w) for w in ways), len(layout.remedy)), dtype=np.int_)
    for row, chosen in enumerate(product(*ways)):
        for members, labels in zip(groups, chosen, strict=True):
            found[row, members] = labels
    return found


def _arrangements(left: Counter[int]) -> Iterator[tuple[int, ...]]:
    if not left:
        yield ()
    for label in sorted(left):
        rest = left.copy()
        rest[label] -= 1
        for tail in _arrangements(+rest):
            yield label, *tail


def _drawn_within(
    layout: Layout, groups: list[IntArray], rng: np.random.Generator, count: int
) -> IntArray:
    found = np.empty((len(layout.remedy), count), dtype=np.int_)
    for members in groups:
        own = layout.remedy[members]
        if len(members) <= MOST_ARRANGED:
            ways = _ways(tuple(sorted(own.tolist())))
            found[members] = ways.take(rng.integers(ways.shape[1], size=count), axis=1)
        else:
            found[members] = own[np.argsort(rng.random((count, len(members))), axis=1).T]
    return found.T


@cache
def _ways(labels: tuple[int, ...]) -> IntArray:
    """Every different order of a small block's remedies, (plants, orders)."""
    return np.array(list(_arrangements(Counter(labels)))).T


def _square(layout: Layout) -> tuple[IntArray, int] | None:
    """The plants of a full Latin square in the order of its cells, and its side; else None."""
    if layout.block is None or layout.column is None:
        return None
    side = layout.remedies
    cells = layout.block * side + layout.column
    full = len(cells) == side * side and len(set(cells.tolist())) == side * side
    return (np.argsort(cells), side) if full and cells.max() == side * side - 1 else None


def _squares(
    layout: Layout, order: IntArray, side: int, rng: np.random.Generator, most: int
) -> IntArray:
    """Squares by shuffling rows, columns and names, each different one once."""
    grid = layout.remedy[order].reshape(side, side)
    count = most - 1
    rows, columns, names = (np.argsort(rng.random((count, side)), axis=1) for _ in range(3))
    shuffled = grid[rows[:, :, None], columns[:, None, :]]
    renamed = np.take_along_axis(names, shuffled.reshape(count, -1), axis=1)
    found = np.empty((count, side * side), dtype=np.int_)
    found[:, order] = renamed
    distinct = np.unique(found, axis=0)
    return distinct if len(distinct) < count // 4 else found
