"""The layouts that the lot could have drawn under the same rules, where rules restrict it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from orthocris.core.planning.allocation import DRAWS, permuted
from orthocris.core.planning.drawn_layouts import DrawnLayouts
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.trial.trial import Plant
from orthocris.core.verdict.layouts import IntArray

MOST_KEPT, LEAST_KEPT, MAX_TURNS = 2048, 200, 16


def restricted(plants: Sequence[Plant], setup: Setup, drift_cm: float) -> bool:
    """Tell whether a rule about neighbours restricts the lot beyond the blocks."""
    free = setup.shields or setup.design is DesignKind.LATIN
    return not free and bool(close_pairs(plants, setup, drift_cm))


def other_layouts(
    plants: Sequence[Plant],
    *,
    block_of: Mapping[int, int],
    remedy_of: Mapping[int, int],
    setup: Setup,
    drift_cm: float,
    seed: int,
) -> DrawnLayouts | None:
    """Draw layouts that keep the rule which the one in use keeps: no close pair more alike.

    Parameters
    ----------
    plants, setup, drift_cm:
        As the layout in use was drawn.
    block_of, remedy_of:
        That layout: block and index of the remedy of each plant, by the plant's id.
    seed:
        Seed of the draw.

    Returns
    -------
    None where no rule restricts the lot (then any layout within the blocks is as likely), and
    where too few are found to tell anything by: the verdict then takes the lot as unrestricted.
    """
    members = [p for p in plants if p.id in remedy_of]
    members.sort(key=lambda p: block_of[p.id])
    if not restricted(members, setup, drift_cm):
        return None
    pairs = close_pairs(members, setup, drift_cm)
    fillings: dict[int, list[int]] = {}
    for plant in members:
        fillings.setdefault(block_of[plant.id], []).append(remedy_of[plant.id])
    place = {plant.id: k for k, plant in enumerate(members)}
    left = np.array([place[a] for a, _ in pairs])
    right = np.array([place[b] for _, b in pairs])
    in_use = np.array([remedy_of[plant.id] for plant in members])
    alike = np.sum(in_use[left] == in_use[right])
    rng = np.random.default_rng([seed, 1])
    kept: list[IntArray] = []
    for _ in range(MAX_TURNS):
        drawn = permuted(list(fillings.values()), DRAWS, rng)
        touching = (drawn[:, left] == drawn[:, right]).sum(axis=1)
        kept.append(drawn[touching <= alike])
        if sum(map(len, kept)) >= MOST_KEPT:
            break
    rows = np.concatenate(kept)[:MOST_KEPT]
    if len(rows) < LEAST_KEPT:
        return None
    packed = rows.astype(np.uint8).tobytes()
    return DrawnLayouts(tuple(p.id for p in members), packed)
