"""What each plant lost by itself, for the picture: a dot under its remedy's band."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from orthocris.core.verdict.dataset import PlantLine, at_look
from orthocris.core.verdict.gathering import Gathered


def against_own_block(
    gathered: Gathered, *, control: str, measure: str, look: str
) -> dict[str, tuple[float, ...]]:
    """Return the fraction removed from each plant, by remedy, against the control of its block.

    Where a block has several plants of the control their mean is taken, without blocks that of
    all; a plant whose block has none left out. Half a pest is added to both, as everywhere; the
    count before is not looked at, for plants of a block had about as many. Nothing is judged by it.
    """
    lines = at_look(gathered, control=control, measure=measure, look=look).lines
    untreated: dict[str | None, list[float]] = defaultdict(list)
    for line in lines:
        if line.remedy == control:
            untreated[line.block].append(_left(line))
    found: dict[str, list[float]] = defaultdict(list)
    for line in lines:
        if line.remedy != control and untreated[line.block]:
            beside = float(np.mean(untreated[line.block]))
            found[line.remedy].append(1 - _left(line) / beside)
    return {name: tuple(values) for name, values in found.items()}


def _left(line: PlantLine) -> float:
    of = line.left.effort if line.left.of is None else line.left.of + 1
    return (line.left.harm + 0.5) / of
