"""Which plants can be compared with which, and their numbers as the model and the lot read them."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

import numpy as np

from orthocris.core.trial.measures import Scale
from orthocris.core.verdict.amounts import Amount
from orthocris.core.verdict.dataset import Dataset, PlantLine
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import Counts, FloatArray, Likelihood, Shares

KEEP = 0.75  # of a remedy's plants, below which a count before is not asked of them
KEEP_BLOCKED = 0.5  # of a remedy's plants that may be set apart for a blank block


@dataclass(frozen=True, slots=True)
class Table:
    """The plants that are compared.

    Attributes
    ----------
    lines:
        The plants, in the order of every array.
    remedies:
        Remedies compared, in the order first seen; the layout counts them in this order.
    layout:
        Remedy, block and column of each plant.
    x:
        Log (shares: logit) of the count before, centred, (plants,), or None when it is not used.
    left_out:
        Plants counted at the look that had to be left out, with the reason's code.
    apart:
        Remedies that share no block with the rest, so cannot be compared.
    parts:
        Of how many parts a count can be at most (points of a cover), or None.
    """

    lines: tuple[PlantLine, ...]
    remedies: tuple[str, ...]
    layout: Layout
    x: FloatArray | None
    left_out: tuple[tuple[str, str], ...]
    apart: tuple[str, ...]
    parts: float | None = None

    @property
    def blocks(self) -> int:
        """Number of blocks in the model, 0 when it has none."""
        return 0 if self.layout.block is None else int(self.layout.block.max()) + 1

    def likelihoods(self) -> tuple[Likelihood, ...]:
        """Return the numbers of the look as the model reads them (one trial).

        A cover is read in two ways, as points that clump and as a share of the leaf: the numbers
        tell which is likelier.
        """
        left = [line.left for line in self.lines]
        harm = np.array([[amount.harm for amount in left]])
        known = np.ones_like(harm)
        if left[0].of is not None:
            return (Shares(harm, np.array([[amount.of or 0.0 for amount in left]]), known),)
        effort = np.array([[amount.effort for amount in left]])
        counts = Counts(harm, np.log(effort), known)
        if self.parts is None:
            return (counts,)
        return counts, Shares(harm, self.parts * effort, known)

    def responses(self, data: Dataset) -> list[FloatArray]:
        """Return the log harm of each plant at each look up to this one; nan where not counted.

        Plants that were added after a verdict make a further look: before it the others stand
        alone.
        """
        added = np.array([line.added for line in self.lines])
        now = np.array([line.left.log for line in self.lines])
        earlier = [
            np.array([_log(amounts.get(line.plant)) for line in self.lines])
            for amounts in data.earlier
        ]
        return [
            *(np.where(added, np.nan, response) for response in earlier),
            *(np.where(added > stage, np.nan, now) for stage in sorted(set(added.tolist()))),
        ]


def _log(amount: Amount | None) -> float:
    return np.nan if amount is None else amount.log


def make_table(data: Dataset) -> Table:
    """Choose the plants that can be compared, and code them."""
    lines, without_before, with_before = _usable_before(data)
    lines, without_block = _usable_blocks(lines)
    blocked = _blocks_help(lines)
    lines, apart = _comparable(lines, data.control) if blocked else (lines, ())
    remedies = tuple(dict.fromkeys(line.remedy for line in lines))
    starts = [line.start.log for line in lines if line.start is not None and with_before]
    x = np.array(starts) - np.mean(starts) if starts else None
    return Table(
        lines=lines,
        remedies=remedies,
        layout=Layout(
            remedy=np.array([remedies.index(line.remedy) for line in lines]),
            block=_coded([line.block for line in lines]) if blocked else None,
            column=_coded([line.column for line in lines]) if blocked else None,
        ),
        x=x if x is not None and np.ptp(x) > 1e-9 else None,
        left_out=(*without_before, *without_block),
        apart=apart,
        parts=data.measure.upper if data.measure.scale is Scale.PERCENT else None,
    )


def _coded(labels: list[str | None]) -> np.ndarray | None:
    """Number the labels from 0; None when one is missing or all are alike."""
    names = list(dict.fromkeys(labels))
    if None in names or len(names) < 2:
        return None
    return np.array([names.index(label) for label in labels])


def _usable_before(
    data: Dataset,
) -> tuple[tuple[PlantLine, ...], tuple[tuple[str, str], ...], bool]:
    """Use the counts before when every remedy keeps most of its plants that way."""
    having = [line for line in data.lines if line.start is not None]
    if not having:
        return data.lines, (), False
    kept = Counter(line.remedy for line in having)
    total = Counter(line.remedy for line in data.lines)
    if any(kept[remedy] < KEEP * total[remedy] for remedy in total):
        return data.lines, (), False
    missing = tuple((line.plant, "no_before") for line in data.lines if line.start is None)
    return tuple(having), missing, True


def _usable_blocks(
    lines: tuple[PlantLine, ...],
) -> tuple[tuple[PlantLine, ...], tuple[tuple[str, str], ...]]:
    """Set apart single plants whose block is not known, where every remedy keeps enough plants."""
    having = [line for line in lines if line.block is not None]
    kept = Counter(line.remedy for line in having)
    total = Counter(line.remedy for line in lines)
    if len(having) == len(lines) or any(kept[r] < KEEP_BLOCKED * total[r] for r in total):
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
