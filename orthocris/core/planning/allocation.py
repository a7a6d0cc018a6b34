"""Blocks from the match counts, and remedies allotted at random within them by a seed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import cycle

import numpy as np
from numpy.typing import NDArray

from orthocris.core.errors import ConflictError
from orthocris.core.planning.incomplete import incomplete_blocks
from orthocris.core.planning.matching import form_blocks
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.trial.plants import LEAST_BLOCKS, USUAL_BLOCKS
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.trial.trial import Plant, walking_key
from orthocris.core.words import many

IntArray = NDArray[np.int_]
LETTERS = "ABCDEFGHJKLM"  # no I: it reads as 1 on a wet tag
FIRST_DRAWS, DRAWS = 64, 4096
MAX_TURNS = 40
WALK_STEPS = 20_000


@dataclass(frozen=True, slots=True)
class Code:
    """The code of a remedy on its tags: a letter and a number of notches."""

    letter: str
    notches: int


@dataclass(frozen=True, slots=True)
class Allocation:
    """Which plant stands in which block and gets which remedy.

    Attributes
    ----------
    seed:
        The seed it was drawn with; the same plants, remedies and seed give the same result.
    block_of:
        Plant id to block number, from 1 (the block with the most pests) on; in a Latin
        square the blocks are the rows.
    remedy_of:
        Plant id to the index of its remedy in the list given.
    codes:
        One code for each remedy, in the order given; allotted at random too, so that a
        letter tells nothing to whoever counts.
    spare:
        Ids of plants that found no place in a block, or wait for a second wave.
    side_by_side:
        Pairs of neighbours within drift that had to get the same remedy (0 when the
        restriction could be kept).
    """

    seed: int
    block_of: dict[int, int]
    remedy_of: dict[int, int]
    codes: tuple[Code, ...]
    spare: tuple[int, ...]
    side_by_side: int = 0


def allocate(
    plants: Sequence[Plant],
    *,
    remedies: int,
    seed: int,
    setup: Setup | None = None,
    drift_cm: float = 0.0,
) -> Allocation:
    """Form blocks of plants most alike and allot the remedies at random within each.

    In complete blocks, plants left over go to remedies by lot, one in a block and none to a
    remedy twice: if they always went to the control, its letter would be the one on most tags.
    What is still left over is spare. A remedy's plants do not stand side by side within drift:
    among all allocations that keep this rule, each is equally likely (drawn by rejection; where
    none is found in 160,000 draws, or hardly any would be, by a random walk of exchanges, and
    the pairs that remain are reported).

    Parameters
    ----------
    plants:
        Plants that take part. All match counts or none: without any, neighbours form blocks.
        Where all are on plants (`host`), those on one plant form a block; the leaves of a single
        plant are matched like plants.
    remedies:
        How many remedies there are, the control among them.
    seed:
        Seed of the draw, 0 or larger.
    setup:
        Design, block size, spacing; complete blocks by count and place when None.
    drift_cm:
        How far the spray drifts.

    Raises
    ------
    ConflictError
        When some match counts are missing, there are fewer plants than two of each remedy,
        or the plants do not fit the design.
    """
    setup = setup or Setup()
    _check(plants, remedies)
    rng = np.random.default_rng(seed)
    blocks, fillings = _blocks(plants, remedies, setup, rng)
    if setup.two_waves:
        first = sorted(rng.permutation(len(blocks))[: len(blocks) // 2].tolist())
        if len(first) < LEAST_BLOCKS:
            raise ConflictError(
                f"{many(len(blocks), 'block')} for two waves",
                code="too_few_plants",
                field="plants",
                fix=f"Add plants: each wave needs {LEAST_BLOCKS} blocks or more; or plan one wave.",
            )
        blocks, fillings = [blocks[k] for k in first], [fillings[k] for k in first]
    members = [plant for block in blocks for plant in block]
    pairs = () if setup.shields else close_pairs(members, setup, drift_cm)
    if setup.design is DesignKind.LATIN:
        drawn, touching = _latin(remedies, rng), 0
    else:
        drawn, touching = _draw(members, fillings, pairs, rng)
    notches = rng.permutation(remedies).tolist()
    kept = {plant.id for plant in members}
    return Allocation(
        seed=seed,
        block_of={p.id: k + 1 for k, block in enumerate(blocks) for p in block},
        remedy_of={p.id: int(r) for p, r in zip(members, drawn, strict=True)},
        codes=tuple(Code(LETTERS[n], n + 1) for n in notches),
        spare=tuple(p.id for p in plants if p.id not in kept),
        side_by_side=touching,
    )


def _blocks(
    plants: Sequence[Plant], remedies: int, setup: Setup, rng: np.random.Generator
) -> tuple[list[list[Plant]], list[list[int]]]:
    """Return the plants of each block, and the remedies (by index) that fill it."""
    n = len(plants)
    if setup.design is DesignKind.LATIN:
        return _square_of(plants, remedies), []
    if setup.design is DesignKind.RANDOMISED:
        extra = rng.permutation(remedies).tolist()
        filling = list(range(remedies)) * (n // remedies) + extra[: n % remedies]
        return [sorted(plants, key=walking_key)], [filling]
    if setup.design is DesignKind.INCOMPLETE:
        size = setup.block_size or 2
        fillings = incomplete_blocks(remedies, size, n // size, rng)
        kept = _most_infested(plants, size * len(fillings))
        blocks = form_blocks(kept, [size] * len(fillings), match_place=setup.match_place)
        return blocks, fillings
    if len({(plant.host or "").casefold() for plant in plants}) > 1 and all(p.host for p in plants):
        return _blocks_of_hosts(plants, remedies, rng)
    count = n // remedies
    doubled = min(n - count * remedies, count)
    extra = rng.permutation(remedies).tolist()[:doubled]
    fillings = [[*range(remedies), *extra[b : b + 1]] for b in rng.permutation(count).tolist()]
    # form_blocks orders blocks by count, so sizes are given as they fall and matched up after.
    sizes = [len(filling) for filling in fillings]
    kept = _most_infested(plants, sum(sizes))
    blocks = form_blocks(kept, sizes, match_place=setup.match_place)
    by_size = {size: [f for f in fillings if len(f) == size] for size in set(sizes)}
    return blocks, [by_size[len(block)].pop() for block in blocks]


def _blocks_of_hosts(
    plants: Sequence[Plant], remedies: int, rng: np.random.Generator
) -> tuple[list[list[Plant]], list[list[int]]]:
    """Leaves, halves, clusters or traps on one plant form a block: it has every remedy alike.

    One that is left over on a plant after whole sets goes to a remedy by lot, to each in turn
    from plant to plant; the rest is spare. A plant with fewer units than remedies has no block.
    """
    by_host: dict[str, list[Plant]] = {}
    for plant in plants:
        by_host.setdefault((plant.host or "").casefold(), []).append(plant)
    turn = cycle(rng.permutation(remedies).tolist())
    blocks, fillings = [], []
    for units in by_host.values():
        sets, left = divmod(len(units), remedies)
        if sets:
            filling = [*range(remedies)] * sets + ([next(turn)] if left else [])
            blocks.append(_most_infested(units, len(filling)))
            fillings.append(filling)
    if len(blocks) < LEAST_BLOCKS:
        raise ConflictError(
            f"{len(blocks)} of {many(len(by_host), 'plant')} with units for {remedies} remedies",
            code="too_few_plants",
            fix=f"Use {LEAST_BLOCKS} plants or more with {remedies} units each, or fewer remedies.",
        )
    infested = [sum(p.match_count or 0 for p in block) / len(block) for block in blocks]
    order = sorted(range(len(blocks)), key=lambda k: -infested[k])
    return [blocks[k] for k in order], [fillings[k] for k in order]


def _most_infested(plants: Sequence[Plant], number: int) -> list[Plant]:
    """Leave out the plants with the fewest pests: they could show the least."""
    return sorted(plants, key=lambda p: (-(p.match_count or 0), walking_key(p)))[:number]


def _square_of(plants: Sequence[Plant], side: int) -> list[list[Plant]]:
    """Find a full square of neighbouring rows and places."""
    at = {(p.row, p.place): p for p in plants}
    for row, place in sorted(at):
        square = [[at.get((row + i, place + j)) for j in range(side)] for i in range(side)]
        full = [[p for p in line if p is not None] for line in square]
        if all(len(line) == side for line in full):
            return full
    raise ConflictError(
        f"no {side} rows of {side} plants without a gap were found",
        code="no_square",
        field="design",
        fix=f"A Latin square needs {side} × {side} neighbouring plants; move plants, or use "
        "complete blocks.",
    )


def _latin(side: int, rng: np.random.Generator) -> IntArray:
    """Draw a Latin square: the cyclic one with rows, columns and symbols permuted."""
    cyclic = (np.arange(side)[:, None] + np.arange(side)[None, :]) % side
    square = rng.permutation(side)[cyclic[rng.permutation(side)][:, rng.permutation(side)]]
    return np.asarray(square.ravel(), dtype=np.int_)


def _draw(
    members: Sequence[Plant],
    fillings: Sequence[Sequence[int]],
    pairs: Sequence[tuple[int, int]],
    rng: np.random.Generator,
) -> tuple[IntArray, int]:
    """Draw until no pair of close neighbours has the same remedy."""
    place = {plant.id: k for k, plant in enumerate(members)}
    left = np.array([place[a] for a, _ in pairs], dtype=np.int_)
    right = np.array([place[b] for _, b in pairs], dtype=np.int_)
    best, fewest = np.zeros(0, dtype=np.int_), len(pairs) + 1
    for draws in (1, FIRST_DRAWS, *(DRAWS,) * MAX_TURNS):
        drawn = permuted(fillings, draws, rng)
        touching = (drawn[:, left] == drawn[:, right]).sum(1)
        if draws == FIRST_DRAWS and _hopeless(touching):
            break
        k = int(np.argmin(touching))  # the first of equals, so the first that keeps the rule
        if touching[k] < fewest:
            best, fewest = drawn[k], int(touching[k])
        if fewest == 0 or not pairs:
            break
    if fewest:
        best, fewest = _walk(best, fillings, left, right, rng)
    return best, fewest


def _hopeless(touching: IntArray) -> bool:
    """Tell whether drawing on would hardly ever find an allocation without touching pairs.

    Touching pairs are about Poisson, so none are found in a share of exp(-mean); where fewer
    than one in a hundred of the draws to come would be expected to keep the rule, the walk
    begins at once instead of after them.
    """
    return bool(np.exp(-touching.mean()) * MAX_TURNS * DRAWS < 0.01)


def permuted(fillings: Sequence[Sequence[int]], draws: int, rng: np.random.Generator) -> IntArray:
    """Shuffle each block's remedies, so many times, (draws, plants)."""
    parts = [
        np.array(filling)[np.argsort(rng.random((draws, len(filling))), axis=1)]
        for filling in fillings
    ]
    return np.concatenate(parts, axis=1)


def _walk(
    start: IntArray,
    fillings: Sequence[Sequence[int]],
    left: IntArray,
    right: IntArray,
    rng: np.random.Generator,
) -> tuple[IntArray, int]:
    """Exchange remedies within blocks, cooling down, then wander among the best allocations."""
    now = [int(r) for r in start]
    ends = np.cumsum([len(filling) for filling in fillings])
    block = np.searchsorted(ends, np.arange(len(now)), side="right").tolist()
    members: list[list[int]] = [[] for _ in fillings]
    for k, own in enumerate(block):
        members[own].append(k)
    beside: list[list[int]] = [[] for _ in now]
    for a, b in zip(left.tolist(), right.tolist(), strict=True):
        beside[a].append(b)
        beside[b].append(a)

    def alike(*places: int) -> int:
        """Touching pairs in which at least one of these places stands, each counted once."""
        pairs = {(min(a, b), max(a, b)) for a in places for b in beside[a] if now[a] == now[b]}
        return len(pairs)

    touching = sum(now[a] == now[b] for a, b in zip(left.tolist(), right.tolist(), strict=True))
    best, fewest = list(now), touching
    for step in range(WALK_STEPS):
        i = int(rng.integers(len(now)))
        mates = [m for m in members[block[i]] if now[m] != now[i]]
        if not mates:
            continue
        j = mates[int(rng.integers(len(mates)))]
        before = alike(i, j)
        now[i], now[j] = now[j], now[i]
        change = alike(i, j) - before
        heat = max(0.02, 1.0 - step / (0.7 * WALK_STEPS))
        if change > 0 and rng.random() > np.exp(-change / heat):
            now[i], now[j] = now[j], now[i]
            continue
        touching += change
        if touching <= fewest:
            best, fewest = list(now), touching
    return np.array(best, dtype=np.int_), fewest


def _check(plants: Sequence[Plant], remedies: int) -> None:
    missing = [p.name for p in plants if p.match_count is None]
    if missing and len(missing) < len(plants):
        raise ConflictError(
            f"no match count of {many(len(missing), 'plant')}, {missing[0]} the first",
            code="match_count_missing",
            field="plants",
            fix="Count them too, or set them aside.",
        )
    if len(plants) < 2 * remedies:
        raise ConflictError(
            f"{many(len(plants), 'plant')} for {remedies} remedies, the control included",
            code="too_few_plants",
            field="plants",
            fix=f"Add plants: at least {LEAST_BLOCKS * remedies}, better "
            f"{USUAL_BLOCKS * remedies} or more; or compare fewer remedies.",
        )
