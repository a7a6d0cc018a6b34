"""A two-by-two: what each ingredient does, and whether they help each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.ranking import ratio_of
from orthocris.core.verdict.reading import Reading
from orthocris.core.verdict.words import percent, surplus

ENDS = (0.025, 0.5, 0.975)
INTERPLAY_SD = 0.7


def square_answer(reading: Reading, *, one: str, other: str, both: str) -> tuple[str, ...]:
    """Read a two-by-two on the scale of survival.

    With levels c (neither), a, b, ab of the log of what is left, each ingredient does half of its
    difference alone and half of it beside the other: ((a - c) + (ab - b)) / 2. Two that act
    independently (Bliss 1939, Annals of Applied Biology 26, 585-615) leave the product of what each
    leaves: then ab - a - b + c is 0, and only what is beyond that is help or hindrance.

    Where that is not settled, large interplay is thought less likely than none when the ingredients
    are read (normal about 0 with standard deviation 0.7, twice or half), for few pests left in the
    mix would else hide what each does. The interplay itself is never shrunk.
    """
    if not {one, other, both} <= set(reading.evidence.effects):
        return ("The four groups cannot be compared: see the warnings.",)
    a, b, ab = (reading.log_ratio(name) for name in (one, other, both))
    low, _, high = weighted_limits(ab - a - b)
    settled = high < 0 or low > 0
    weight = None if settled else weight_of_interplay(ab - a - b)
    said = [
        _main(name, (alone + ab - beside) / 2, weight)
        for name, alone, beside in ((one, a, b), (other, b, a))
    ]
    if high < 0:
        said.append("Together they do more than the two apart.")
    elif low > 0:
        said.append("Together they do less than the two apart.")
    else:
        said.append("Whether together they do more than the two apart is not settled.")
    return tuple(said)


def weight_of_interplay(beyond: FloatArray) -> FloatArray:
    """Return the weights of draws with a prior on the interplay, along the last axis."""
    return np.asarray(np.exp(-(beyond**2) / (2 * INTERPLAY_SD**2)) + 1e-300)


def weighted_limits(draws: FloatArray, weight: FloatArray | None = None) -> Sequence[float]:
    """Return the 2.5, 50 and 97.5% quantiles of weighted draws, (draws,)."""
    if weight is None:
        return [float(q) for q in np.quantile(draws, ENDS)]
    order = np.argsort(draws)
    place = np.cumsum(weight[order]) - weight[order] / 2
    return [float(q) for q in np.interp(ENDS, place / weight.sum(), draws[order])]


def _main(name: str, effect: FloatArray, weight: FloatArray | None) -> str:
    low, middle, high = weighted_limits(effect, weight)
    sure = "" if high < 0 or low > 0 else ", which may be chance"
    return (
        f"{name}: about {_change(middle)} on its own and in the mix alike "
        f"(likely {_change(high)} to {_change(low)}){sure}."
    )


def _change(log_ratio: float) -> str:
    efficacy = 1 - ratio_of(log_ratio)
    return f"{surplus(-efficacy)} more" if efficacy < 0 else f"{percent(efficacy)} fewer"
