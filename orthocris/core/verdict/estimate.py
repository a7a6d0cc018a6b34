"""The model: analysis of covariance on the log scale, with blocks.

log(after) = remedy + block + slope · (log(before) - its mean) + error, errors alike and normal.
"""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.trial.measures import Scale
from orthocris.core.verdict.dataset import Dataset, PlantLine
from orthocris.core.verdict.distributions import poisson_chance

FloatArray = NDArray[np.float64]

# Percentages and grades are read by eye; two readings of one leaf differ by about a tenth.
READING_VARIANCE = 0.01
MOST_LOG = 50.0  # a ratio of 5e21; counts and efforts allow less than 1e16


@dataclass(frozen=True, slots=True)
class Estimates:
    """Adjusted levels of the remedies and how sure they are.

    Attributes
    ----------
    remedies:
        Remedies the model can compare with one another, in the order first seen.
    levels:
        Adjusted mean of each on the log scale, shape (g,).
    covariance:
        Covariance matrix of the levels, shape (g, g); None when there is no spare degree of
        freedom.
    df:
        Residual degrees of freedom.
    slope:
        Coefficient of log(before), or None when it is not in the model.
    blocks_used:
        Number of blocks in the model, 0 when it has none.
    floored:
        True when the plants differed less than counting chance alone allows, so that the
        chance variance was used.
    lines:
        The plants the model was fitted to.
    left_out:
        Plants counted at the look that had to be left out, with the reason's code.
    apart:
        Remedies that share no block with the rest, so cannot be compared.
    """

    remedies: tuple[str, ...]
    levels: FloatArray
    covariance: FloatArray | None
    df: int
    slope: float | None
    blocks_used: int
    floored: bool
    lines: tuple[PlantLine, ...]
    left_out: tuple[tuple[str, str], ...]
    apart: tuple[str, ...]

    def level_of(self, remedy: str) -> float:
        """Return the adjusted log level of a remedy in the model."""
        return float(self.levels[self.remedies.index(remedy)])

    def standard_error(self, one: str, other: str) -> float | None:
        """Return the standard error of the difference of two levels, or None."""
        if self.covariance is None:
            return None
        i, j = self.remedies.index(one), self.remedies.index(other)
        c = self.covariance
        return math.sqrt(max(float(c[i, i] + c[j, j] - 2 * c[i, j]), 0.0))


def estimate(data: Dataset) -> Estimates:
    """Fit the model to the plants that can carry it.

    Parameters
    ----------
    data:
        One line a plant.

    Returns
    -------
    Estimates
        Complete, with what was left out and why. Assumes that the errors on the log scale
        are about equally large for all remedies; do not use it for remedies that leave
        almost nothing on all of many plants and nothing else (see docs/method.md).
    """
    lines, left_out, with_before = _usable_before(data)
    lines, without_block = _usable_blocks(lines)
    left_out = (*left_out, *without_block)
    blocked = _blocks_help(lines)
    lines, apart = _comparable(lines, data.control) if blocked else (lines, ())
    remedies = tuple(dict.fromkeys(line.remedy for line in lines))
    design, with_before = _design(lines, remedies, blocked=blocked, with_before=with_before)
    response = np.array([line.log_after for line in lines])
    inverse = np.linalg.inv(design.T @ design)
    coefficients = inverse @ design.T @ response
    df = len(lines) - design.shape[1]
    g = len(remedies)
    covariance, floored = None, False
    if df > 0:
        residual = float(np.sum((response - design @ coefficients) ** 2)) / df
        chance = _chance_variance(data, lines)
        variance, floored = max(residual, chance), chance > residual
        covariance = variance * inverse[:g, :g]
    return Estimates(
        remedies=remedies,
        levels=coefficients[:g],
        covariance=covariance,
        df=df,
        slope=float(coefficients[-1]) if with_before else None,
        blocks_used=len({line.block for line in lines}) if blocked else 0,
        floored=floored,
        lines=lines,
        left_out=left_out,
        apart=apart,
    )


def _usable_before(
    data: Dataset,
) -> tuple[tuple[PlantLine, ...], tuple[tuple[str, str], ...], bool]:
    """Use the counts before when every remedy keeps most of its plants that way."""
    having = [line for line in data.lines if line.log_before is not None]
    if not having:
        return data.lines, (), False
    kept = Counter(line.remedy for line in having)
    total = Counter(line.remedy for line in data.lines)
    if any(kept[remedy] < 0.75 * total[remedy] for remedy in total):
        return data.lines, (), False
    missing = tuple((line.plant, "no_before") for line in data.lines if line.log_before is None)
    return tuple(having), missing, True


def _usable_blocks(
    lines: tuple[PlantLine, ...],
) -> tuple[tuple[PlantLine, ...], tuple[tuple[str, str], ...]]:
    """Set apart single plants whose block is not known, where every remedy keeps most plants."""
    having = [line for line in lines if line.block is not None]
    kept = Counter(line.remedy for line in having)
    total = Counter(line.remedy for line in lines)
    if len(having) == len(lines) or any(kept[r] < 0.75 * total[r] for r in total):
        return lines, ()
    return tuple(having), tuple((line.plant, "no_block") for line in lines if line.block is None)


def _blocks_help(lines: tuple[PlantLine, ...]) -> bool:
    """Blocks are in the model when at least one holds two remedies."""
    by_block: dict[str | None, set[str]] = {}
    for line in lines:
        if line.block is None:
            return False
        by_block.setdefault(line.block, set()).add(line.remedy)
    return len(by_block) > 1 and any(len(found) > 1 for found in by_block.values())


def _comparable(
    lines: tuple[PlantLine, ...], control: str | None
) -> tuple[tuple[PlantLine, ...], tuple[str, ...]]:
    """Keep the remedies linked through shared blocks: with the control, or the largest group."""
    groups: list[tuple[set[str], set[str | None]]] = []
    for line in lines:
        joined = [g for g in groups if line.remedy in g[0] or line.block in g[1]]
        merged: tuple[set[str], set[str | None]] = ({line.remedy}, {line.block})
        for group in joined:
            merged[0].update(group[0])
            merged[1].update(group[1])
            groups.remove(group)
        groups.append(merged)
    with_control = [g for g in groups if control in g[0]]
    chosen = (with_control or sorted(groups, key=lambda g: -len(g[0])))[0][0]
    apart = dict.fromkeys(line.remedy for line in lines if line.remedy not in chosen)
    return tuple(line for line in lines if line.remedy in chosen), tuple(apart)


def _design(
    lines: tuple[PlantLine, ...], remedies: tuple[str, ...], *, blocked: bool, with_before: bool
) -> tuple[FloatArray, bool]:
    """Cell-means columns for remedies, sum-to-zero columns for groupings, the centred covariate."""
    base = np.column_stack(
        [np.array([float(line.remedy == r) for line in lines]) for r in remedies]
    )
    if blocked:
        base = np.column_stack([base, *_sum_to_zero([line.block for line in lines])])
        across = _sum_to_zero([line.column for line in lines])
        if across:
            base = _if_new(base, np.column_stack([base, *across]))
    if not with_before:
        return base, False
    before = np.array([line.log_before or 0.0 for line in lines])
    full = np.column_stack([base, before - before.mean()])
    kept = _if_new(base, full)
    return kept, kept is full


def _sum_to_zero(labels: list[str | None]) -> list[FloatArray]:
    """One column for each label but the last; none when a label is missing or all are alike."""
    names = list(dict.fromkeys(labels))
    if None in names:
        return []
    last = np.array([float(label == names[-1]) for label in labels])
    return [np.array([float(label == name) for label in labels]) - last for name in names[:-1]]


def _if_new(base: FloatArray, full: FloatArray) -> FloatArray:
    """Keep added columns only if the others do not tell them in full: they carry nothing then."""
    return full if np.linalg.matrix_rank(full, tol=1e-8) == full.shape[1] else base


def ratio_of(log_ratio: float) -> float:
    """Return the ratio of a difference of log levels, kept finite beyond any number of pests.

    A few plants that disagree wholly have an interval without end; exp of it has none either.
    """
    return math.exp(min(log_ratio, MOST_LOG))


def _chance_variance(data: Dataset, lines: tuple[PlantLine, ...]) -> float:
    """Return the least error variance on the log scale that counting allows.

    Insects that fall on plants independently give Poisson counts, and real ones clump and
    vary more; so the variance of log(Y + 1/2) with Y Poisson, averaged over plants at their
    remedy's mean, is a floor. It keeps a trial whose counts happen to agree (all zeros, say)
    from claiming certainty.
    """
    if data.measure.scale in (Scale.PERCENT, Scale.GRADE) or data.look == "auc":
        return READING_VARIANCE
    harm = {
        line.plant: math.exp(line.log_after)
        * ((line.after.of or 0) + 1 if line.after.of is not None else line.after.effort)
        - 0.5
        for line in lines
    }
    by_remedy: dict[str, list[float]] = {}
    for line in lines:
        by_remedy.setdefault(line.remedy, []).append(harm[line.plant])
    return sum(
        len(values) * poisson_log_variance((sum(values) + 0.5) / len(values))
        for values in by_remedy.values()
    ) / len(lines)


def poisson_log_variance(mean: float) -> float:
    """Return Var(log(Y + 1/2)) for Y Poisson with this mean (by its sum; 1/mean when large)."""
    if mean > 200:
        return 1 / mean
    y = np.arange(int(mean + 12 * math.sqrt(mean) + 20))
    weight = poisson_chance(y, mean)
    value = np.log(y + 0.5)
    centre = float(np.sum(weight * value))
    return float(np.sum(weight * (value - centre) ** 2))
