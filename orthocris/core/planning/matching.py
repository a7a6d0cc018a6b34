"""Matching: like with like in blocks, by match count, place and size together; odd plants named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.trial.trial import Plant, walking_key

FloatArray = NDArray[np.float64]
COUNT_WEIGHT = 2.0  # the count before explains the count after best
PLACE_WEIGHT = 0.7
SIZE_WEIGHT = 1.0
ODD_AT = 3.5  # robust z score; the usual bound of Iglewicz & Hoaglin 1993


@dataclass(frozen=True, slots=True)
class OddPlant:
    """A plant unlike the others, and why."""

    plant_id: int
    reason: str


def form_blocks(
    plants: Sequence[Plant], sizes: Sequence[int], *, match_place: bool
) -> list[list[Plant]]:
    """Group plants into blocks of these sizes so that each block is as alike as possible.

    Plants are sorted by match count and cut, then pairs are exchanged as long as that lowers
    the sum of squares within blocks over log(count + 1), place and size (each standardised
    and weighted). Blocks come in the order of their mean count, the most infested first.

    Parameters
    ----------
    plants:
        As many as the sizes add up to.
    sizes:
        Plants in each block.
    match_place:
        Whether place on the bench counts beside the match count. Without any match counts
        it always does.
    """
    ordered = sorted(plants, key=lambda p: (-(p.match_count or 0), walking_key(p)))
    label = np.repeat(np.arange(len(sizes)), sizes)
    if match_place or any(p.size is not None for p in plants):  # by count alone, sorting is best
        label = _exchange(_features(ordered, match_place=match_place), label)
    blocks = [[p for p, b in zip(ordered, label, strict=True) if b == k] for k in range(len(sizes))]
    return sorted(blocks, key=lambda block: -_mean_count(block))


def odd_plants(plants: Sequence[Plant]) -> tuple[OddPlant, ...]:
    """Name plants whose count or size is far from the others' (robust z above 3.5)."""
    found = []
    for reading, word in ((_log_counts, "pests"), (_sizes, "in size")):
        values = reading(plants)
        known = ~np.isnan(values)
        if known.sum() < 6:
            continue
        centre = float(np.median(values[known]))
        spread = float(np.median(np.abs(values[known] - centre))) / 0.6745
        if spread < 1e-9:
            continue
        for plant, value in zip(plants, values, strict=True):
            z = (value - centre) / spread
            if abs(z) > ODD_AT:
                much = "far more" if z > 0 else "far fewer"
                reason = f"{much} pests than the others"
                if word == "in size":
                    reason = f"far {'larger' if z > 0 else 'smaller'} than the others"
                found.append(OddPlant(plant.id, reason))
    return tuple(found)


def _features(plants: Sequence[Plant], *, match_place: bool) -> FloatArray:
    counted = any(p.match_count is not None for p in plants)
    columns = [(_log_counts(plants), COUNT_WEIGHT)] if counted else []
    if match_place or not counted:
        columns += [
            (np.array([float(p.row) for p in plants]), PLACE_WEIGHT),
            (np.array([float(p.place) for p in plants]), PLACE_WEIGHT),
        ]
    columns.append((_sizes(plants), SIZE_WEIGHT))
    ready = []
    for values, weight in columns:
        if np.isnan(values).any() or values.std() < 1e-12:
            continue
        ready.append(weight * (values - values.mean()) / values.std())
    return np.column_stack(ready) if ready else np.zeros((len(plants), 1))


def _exchange(x: FloatArray, label: NDArray[np.int_]) -> NDArray[np.int_]:
    """Swap pairs between blocks while the within-block sum of squares falls.

    That sum is const - sum over blocks of |block sum|^2 / size, so a swap changes it through
    two block sums only.
    """
    label = label.copy()
    blocks = int(label.max()) + 1
    size = np.bincount(label, minlength=blocks).astype(float)
    sums = np.zeros((blocks, x.shape[1]))
    np.add.at(sums, label, x)
    for _ in range(30):
        moved = False
        for i in range(len(x)):
            a = label[i]
            step = x - x[i]  # what block a gains when i leaves for j
            gain = (((sums[a] + step) ** 2).sum(1) - (sums[a] ** 2).sum()) / size[a] + (
                ((sums[label] - step) ** 2).sum(1) - (sums[label] ** 2).sum(1)
            ) / size[label]
            gain[label == a] = -np.inf
            j = int(np.argmax(gain))
            if gain[j] > 1e-9:
                sums[a] += step[j]
                sums[label[j]] -= step[j]
                label[i], label[j] = label[j], a
                moved = True
        if not moved:
            break
    return label


def _log_counts(plants: Sequence[Plant]) -> FloatArray:
    return np.array([np.nan if p.match_count is None else np.log1p(p.match_count) for p in plants])


def _sizes(plants: Sequence[Plant]) -> FloatArray:
    return np.array([np.nan if p.size is None else p.size for p in plants])


def _mean_count(block: Sequence[Plant]) -> float:
    return sum(p.match_count or 0.0 for p in block) / max(len(block), 1)
