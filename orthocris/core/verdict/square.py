"""A two-by-two: what each ingredient does, and whether they help each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.ranking import ratio_of
from orthocris.core.verdict.reading import Reading
from orthocris.core.verdict.words import percent


def square_answer(reading: Reading, *, one: str, other: str, both: str) -> tuple[str, ...]:
    """Read a two-by-two on the scale of survival.

    With levels c (neither), a, b, ab of the log of what is left, each ingredient does half of its
    difference alone and half of it beside the other: ((a - c) + (ab - b)) / 2. Two that act
    independently (Bliss 1939, Annals of Applied Biology 26, 585-615) leave the product of what each
    leaves: then ab - a - b + c is 0, and only what is beyond that is help or hindrance.
    """
    if not {one, other, both} <= set(reading.evidence.effects):
        return ("The four groups cannot be compared: see the warnings.",)
    a, b, ab = (reading.log_ratio(name) for name in (one, other, both))
    said = [
        _main(name, (alone + ab - beside) / 2)
        for name, alone, beside in ((one, a, b), (other, b, a))
    ]
    low, _, high = _limits(ab - a - b)
    if high < 0:
        said.append("Together they do more than the two apart.")
    elif low > 0:
        said.append("Together they do less than the two apart.")
    else:
        said.append("Whether together they do more than the two apart is not settled.")
    return tuple(said)


def _main(name: str, effect: FloatArray) -> str:
    low, middle, high = _limits(effect)
    sure = "" if high < 0 or low > 0 else ", which may be chance"
    return (
        f"{name}: about {_change(middle)} on its own and in the mix alike "
        f"(likely {_change(high)} to {_change(low)}){sure}."
    )


def _limits(draws: FloatArray) -> Sequence[float]:
    return [float(q) for q in np.quantile(draws, [0.025, 0.5, 0.975])]


def _change(log_ratio: float) -> str:
    efficacy = 1 - ratio_of(log_ratio)
    return f"{percent(-efficacy)} more" if efficacy < 0 else f"{percent(efficacy)} fewer"
