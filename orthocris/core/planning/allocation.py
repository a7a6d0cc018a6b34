"""Blocks from the match counts, and remedies allotted at random within them by a seed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.errors import ConflictError
from orthocris.core.trial import Plant, walking_key

LETTERS = "ABCDEFGHJKLM"  # no I: it reads as 1 on a wet tag


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
        Plant id to block number, from 1 (the block with the most pests) on.
    remedy_of:
        Plant id to the index of its remedy in the list given.
    codes:
        One code for each remedy, in the order given; allotted at random too, so that a
        letter tells nothing to whoever counts.
    spare:
        Ids of plants that found no place in a block.
    """

    seed: int
    block_of: dict[int, int]
    remedy_of: dict[int, int]
    codes: tuple[Code, ...]
    spare: tuple[int, ...]


def allocate(plants: Sequence[Plant], *, remedies: int, control: int, seed: int) -> Allocation:
    """Form blocks of plants most alike and allot the remedies at random within each.

    Plants are sorted by match count and cut into as many blocks as hold every remedy once.
    Plants left over strengthen the control, one in a block (every remedy is compared with it,
    so it gains most from a second plant); what is still left over is spare.

    Parameters
    ----------
    plants:
        Plants that take part. All match counts or none: without any, neighbours form blocks.
    remedies:
        How many remedies there are, the control among them.
    control:
        Index of the control among the remedies.
    seed:
        Seed of the draw, 0 or larger.

    Raises
    ------
    ConflictError
        When some match counts are missing, or there are fewer plants than two blocks need.
    """
    _check(plants, remedies)
    rng = np.random.default_rng(seed)
    blocks = len(plants) // remedies
    doubled = min(len(plants) - blocks * remedies, blocks)
    spare = len(plants) - blocks * remedies - doubled
    ordered = sorted(plants, key=lambda p: (-(p.match_count or 0), walking_key(p)))
    # The spare plants are those with the fewest pests: they could show the least.
    kept, left = ordered[: len(ordered) - spare], ordered[len(ordered) - spare :]
    has_double = set(rng.permutation(blocks)[:doubled].tolist())
    block_of: dict[int, int] = {}
    remedy_of: dict[int, int] = {}
    start = 0
    for block in range(blocks):
        filling = [*range(remedies), *([control] if block in has_double else [])]
        members = kept[start : start + len(filling)]
        start += len(filling)
        for plant, place in zip(members, rng.permutation(len(filling)).tolist(), strict=True):
            block_of[plant.id] = block + 1
            remedy_of[plant.id] = filling[place]
    notches = rng.permutation(remedies).tolist()
    return Allocation(
        seed=seed,
        block_of=block_of,
        remedy_of=remedy_of,
        codes=tuple(Code(LETTERS[n], n + 1) for n in notches),
        spare=tuple(p.id for p in left),
    )


def _check(plants: Sequence[Plant], remedies: int) -> None:
    missing = [p.name for p in plants if p.match_count is None]
    if missing and len(missing) < len(plants):
        raise ConflictError(
            f"{len(missing)} plants have no match count, {missing[0]} the first",
            code="match_count_missing",
            field="plants",
            fix="Count them too, or set them aside.",
        )
    if len(plants) < 2 * remedies:
        raise ConflictError(
            f"{len(plants)} plants for {remedies} remedies, the control included",
            code="too_few_plants",
            field="plants",
            fix=f"Add plants: at least {2 * remedies}, better {4 * remedies} or more; or compare "
            "fewer remedies.",
        )
