"""What was measured of the plants themselves: how they grew and bore, and how dry they stood."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np

from orthocris.core.trial.measures import GROWN, MEASURES, MeasureKey
from orthocris.core.verdict.distributions import t_quantile
from orthocris.core.verdict.gathering import Gathered, Sample
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.result import BesideEffect, BesideReading

LEAST_DF = 2  # below, a spread is hardly known
ZERO = 0.5  # added to what was picked, for nothing picked is a number too


def read_grown(
    gathered: Gathered, *, control: str | None, until: float
) -> tuple[BesideReading, ...]:
    """Return how plants of each remedy differ from the control's in what was measured of them.

    Logs of the measure are fitted by least squares on remedy, block and the log measured before
    (where each has one); the interval is Student's, of 95%, for each remedy alone. What was picked
    is the sum of all looks; of the rest the newest measure counts. `efficacy` is one less the
    ratio: below nought they grew more. Nothing is read of fewer than two degrees of freedom.

    Parameters
    ----------
    gathered, control:
        The numbers, and what is compared with; nothing without it.
    until:
        The day of the look judged.
    """
    if control is None:
        return ()
    found = []
    for key in GROWN:
        samples = gathered.of(key)
        before = {p: s[0].value for p, days in samples.items() if (s := _until(days, 0))}
        after = {
            p: sum(x.value for x in s) if key == MeasureKey.PICKED else s[0].value
            for p, days in samples.items()
            if (s := [x for x in _until(days, until) if x.day > 0])
        }
        read = _compare(gathered, before, after, control)
        if read:
            found.append(BesideReading(key, MEASURES[key].label, read))
    return tuple(found)


def _until(days: Mapping[float, Sample], until: float) -> list[Sample]:
    """What was measured up to a day, the newest first."""
    return sorted((s for s in days.values() if s.day <= until), key=lambda s: -s.day)


def _compare(
    gathered: Gathered, before: Mapping[str, float], after: Mapping[str, float], control: str
) -> tuple[BesideEffect, ...]:
    plants = [p for p in after if p in gathered.homes]
    remedies = sorted({gathered.homes[p].remedy for p in plants})
    if control not in remedies or len(remedies) < 2:
        return ()
    others = [name for name in remedies if name != control]
    columns = [[float(gathered.homes[p].remedy == name) for p in plants] for name in others]
    groups = sorted({str(gathered.homes[p].block) for p in plants})
    columns += [[float(str(gathered.homes[p].block) == g) for p in plants] for g in groups]
    if all(p in before for p in plants) and len({before[p] for p in plants}) > 1:
        columns.append([math.log(before[p] + ZERO) for p in plants])
    design = np.array(columns).T
    response = np.log(np.array([after[p] for p in plants]) + ZERO)
    return _fitted(design, response, others)


def _fitted(
    design: FloatArray, response: FloatArray, names: Sequence[str]
) -> tuple[BesideEffect, ...]:
    """Least squares; the first columns are the remedies."""
    rank = int(np.linalg.matrix_rank(design))
    df = len(response) - rank
    if df < LEAST_DF or rank < design.shape[1]:
        return ()
    inverse = np.linalg.inv(design.T @ design)
    effect = inverse @ design.T @ response
    left = response - design @ effect
    spread = float(left @ left) / df
    half = t_quantile(0.975, df) * np.sqrt(spread * np.diag(inverse))
    return tuple(
        BesideEffect(
            name,
            1 - math.exp(effect[k]),
            1 - math.exp(effect[k] + half[k]),
            1 - math.exp(effect[k] - half[k]),
        )
        for k, name in enumerate(names)
    )
