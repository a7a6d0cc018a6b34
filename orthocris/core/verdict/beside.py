"""What was counted beside the measure that decides: each read by the same model, none a claim."""

from __future__ import annotations

import math

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import JUDGED_IN_ORDER, MEASURES
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.evidence import MOST_LOG, Effect, weigh
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.result import BesideEffect, BesideReading
from orthocris.core.verdict.table import make_table


def read_beside(
    gathered: Gathered, decides: str, *, control: str | None, look: str, seed: int
) -> tuple[BesideReading, ...]:
    """Return the fraction removed of everything else that was counted at the same look.

    Young and eggs beside the live tell whether a remedy leaves what hatches later. They are read
    one by one: a claim is made of the measure alone that the question named before the trial.
    Empty without a control; a measure that was not counted at this look, or has no spread to be
    read by, is left out.
    """
    if control is None:
        return ()
    found = []
    for key in JUDGED_IN_ORDER:
        days = {day for samples in gathered.of(key).values() for day in samples}
        if key == decides or max(days, default=0) <= 0:
            continue
        try:
            data = collect(gathered, control=control, measure=key, look=look)
            table = make_table(data)
            effects = weigh(table, table.responses(data), control=control, seed=seed).effects
        except InputError:
            continue
        if effects:
            read = tuple(_effect(name, effect) for name, effect in effects.items())
            found.append(BesideReading(key, MEASURES[key].label, read))
    return tuple(found)


def _effect(name: str, effect: Effect) -> BesideEffect:
    return BesideEffect(name, *(_removed(x) for x in (effect.middle, effect.high, effect.low)))


def _removed(log_ratio: float) -> float:
    return 1 - math.exp(min(log_ratio, MOST_LOG))
