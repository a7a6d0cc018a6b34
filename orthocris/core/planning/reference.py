"""The layouts that the lot could have drawn under the same rules, where rules restrict it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from orthocris.core.planning.allocation import DRAWS, Allocation, permuted
from orthocris.core.planning.drawn_layouts import DrawnLayouts
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.trial.trial import Plant
from orthocris.core.verdict.layouts import IntArray

MOST_KEPT, LEAST_KEPT, MAX_TURNS = 2048, 200, 16


def other_layouts(
    plants: Sequence[Plant], found: Allocation, *, setup: Setup, drift_cm: float, seed: int
) -> DrawnLayouts | None:
    """Draw layouts that keep the rule which the one in use keeps: no close pair more alike.

    Parameters
    ----------
    plants, found, setup, drift_cm:
        As the layout in use was drawn.
    seed:
        Seed of the draw.

    Returns
    -------
    None where no rule restricts the lot (then any layout within the blocks is as likely), and
    where too few are found to tell anything by: the verdict then takes the lot as unrestricted.
    """
    members = [p for p in plants if p.id in found.remedy_of]
    members.sort(key=lambda p: found.block_of[p.id])
    pairs = () if setup.shields else close_pairs(members, setup, drift_cm)
    if not pairs or setup.design is DesignKind.LATIN:
        return None
    fillings: dict[int, list[int]] = {}
    for plant in members:
        fillings.setdefault(found.block_of[plant.id], []).append(found.remedy_of[plant.id])
    place = {plant.id: k for k, plant in enumerate(members)}
    left = np.array([place[a] for a, _ in pairs])
    right = np.array([place[b] for _, b in pairs])
    rng = np.random.default_rng([seed, 1])
    kept: list[IntArray] = []
    for _ in range(MAX_TURNS):
        drawn = permuted(list(fillings.values()), DRAWS, rng)
        touching = (drawn[:, left] == drawn[:, right]).sum(axis=1)
        kept.append(drawn[touching <= found.side_by_side])
        if sum(map(len, kept)) >= MOST_KEPT:
            break
    rows = np.concatenate(kept)[:MOST_KEPT]
    if len(rows) < LEAST_KEPT:
        return None
    packed = rows.astype(np.uint8).tobytes()
    return DrawnLayouts(tuple(p.id for p in members), packed)
