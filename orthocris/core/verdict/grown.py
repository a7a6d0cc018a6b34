"""What was measured of the plants themselves: how they grew and bore, and how dry they stood."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from orthocris.core.trial.measures import GROWN, MEASURES, Measure, MeasureKey
from orthocris.core.verdict.beside import Read, ReadEffect, removed
from orthocris.core.verdict.dataset import Dataset, PlantLine, line_of
from orthocris.core.verdict.distributions import t_quantile
from orthocris.core.verdict.evidence import said_by_the_lot
from orthocris.core.verdict.gathering import Gathered, Sample
from orthocris.core.verdict.layouts import LayoutSet
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.result import BesideEffect
from orthocris.core.verdict.table import Table, make_table

LEAST_DF = 2  # below, a spread is hardly known


def read_grown(
    gathered: Gathered,
    *,
    control: str,
    until: float,
    seed: int,
    layouts: LayoutSet | None,
) -> tuple[Read, ...]:
    """Return how plants of each remedy differ from the control's in what was measured of them.

    The middle and the interval are least squares on the log of the measure and a half, by remedy,
    block, column and the log before; the interval is Student's, of 95%. Whether the difference is
    more than the luck of the draw the lot says, as it does of pests (`rerandomise.claims`). What
    was picked is the sum over all days on which any was weighed, so a plant that was not weighed on
    one of them while it lived is left out; of the rest the newest measure counts. Nothing is read
    of fewer than two degrees of freedom.

    Parameters
    ----------
    gathered, control:
        The numbers, and what is compared with.
    until:
        The day of the look judged.
    seed, layouts:
        As in `evidence.weigh`.
    """
    found = []
    for key in GROWN:
        lines = _lines(gathered, MEASURES[key], until)
        if not lines or control not in {line.remedy for line in lines}:
            continue
        data = Dataset(MEASURES[key], "last", (until,), lines, (), (), {}, (), control)
        table = make_table(data)
        read = _read(table, data, control, seed, layouts)
        if read:
            found.append(Read(key, read))
    return tuple(found)


def _lines(gathered: Gathered, measure: Measure, until: float) -> tuple[PlantLine, ...]:
    samples = gathered.of(measure.key)
    days = sorted({day for own in samples.values() for day in own if 0 < day <= until})
    found = []
    for plant, own in samples.items():
        after = _picked(own, days, gathered.lost_on.get(plant, math.inf))
        if measure.key != MeasureKey.PICKED:
            after = next((own[day] for day in reversed(days) if day in own), None)
        before = max((s for day, s in own.items() if day <= 0), key=lambda s: s.day, default=None)
        if after is not None:
            found.append(line_of(plant, gathered.homes[plant], measure, before, after))
    return tuple(found)


def _picked(own: Mapping[float, Sample], days: list[float], lost_on: float) -> Sample | None:
    """All that was picked of a plant while it lived; None where a day is missing."""
    lived = [day for day in days if day < lost_on]
    if not lived or any(day not in own for day in lived):
        return None
    return Sample(lived[-1], sum(own[day].value for day in lived), None, 1.0)


def _read(
    table: Table, data: Dataset, control: str, seed: int, layouts: LayoutSet | None
) -> tuple[ReadEffect, ...]:
    """What each remedy did to it; the lot's word counts where the interval agrees."""
    if control not in table.remedies or len(table.remedies) < 2:
        return ()
    index = table.remedies.index(control)
    fitted = _fitted(table, index)
    if fitted is None:
        return ()
    response = table.responses(data)[-1]
    said, exact = said_by_the_lot(table, [response], control=control, seed=seed, layouts=layouts)
    found = []
    for r, (middle, half) in fitted.items():
        low, high = middle - half, middle + half
        effect = BesideEffect(table.remedies[r], removed(middle), removed(high), removed(low))
        less = float(said.better[0, r]) if exact and high < 0 else 1.0
        more = float(said.worse[0, r]) if exact and low > 0 else 1.0
        found.append(ReadEffect(effect, less, more))
    return tuple(found)


def _fitted(table: Table, control: int) -> dict[int, tuple[float, float]] | None:
    """Least squares: each remedy's difference in logs from the control, and half its interval."""
    layout = table.layout
    others = [r for r in range(len(table.remedies)) if r != control]
    columns = [layout.remedy == r for r in others]
    columns += [layout.block == b for b in range(table.blocks)] or [np.ones(len(layout.remedy))]
    if layout.column is not None:
        columns += [layout.column == c for c in range(1, int(layout.column.max()) + 1)]
    if table.x is not None:
        columns.append(table.x)
    design = np.array(columns, dtype=float).T
    response = np.array([line.left.log for line in table.lines])
    rank = int(np.linalg.matrix_rank(design))
    df = len(response) - rank
    if df < LEAST_DF or rank < design.shape[1]:
        return None
    inverse: FloatArray = np.linalg.inv(design.T @ design)
    effect = inverse @ design.T @ response
    left = response - design @ effect
    half = t_quantile(0.975, df) * np.sqrt(float(left @ left) / df * np.diag(inverse))
    return {r: (float(effect[k]), float(half[k])) for k, r in enumerate(others)}
