"""Do plants of one remedy differ among themselves far more than those of another?

The model has one dispersion for all plants, and the lot shuffles logs. Where the plants of the
control clump and those of a remedy are even, or the reverse, the mean of the logs differs though
just as many pests are left: a remedy then looks worse, or better, than it is. So spreads are
compared, and where they differ a claim must also hold for the plain means, each remedy with the
spread of its own plants.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.distributions import f_between, t_quantile
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.laplace import TOLD, Posterior
from orthocris.core.verdict.model.likelihood import Counts, FloatArray, Likelihood

SURELY = 0.1  # two-sided level at which spreads are called different
HARDLY = 0.15  # and at which they are no longer called alike
SIDE, CLAIM = 0.975, 0.99  # one-sided, of the interval and of a claim
CLAIM_MISSED = 0.9  # where some plants seem missed, which the model reckons with
FEWEST = 3
LEAST_COUNT = 1.0  # below it chance alone makes plants differ, however they clump
TINY = 1e-9


@dataclass(frozen=True, slots=True)
class Spreads:
    """Each remedy against the control, each with its own plants' spread; (trials, remedies).

    `differ` tells where they spread differently beyond chance, `alike` where they seem to spread
    alike; `low` and `high` bound the log of the ratio of plain means with 95% (Welch 1947,
    Biometrika 34, 28-35, by the delta method; 80% where plants seem missed); `less` and
    `more` tell where that ratio lies below or above 1 with 99%.
    """

    differ: NDArray[np.bool_]
    alike: NDArray[np.bool_]
    low: FloatArray
    high: FloatArray
    less: NDArray[np.bool_]
    more: NDArray[np.bool_]

    def where(self, rows: NDArray[np.bool_]) -> Spreads:
        """Return it with nothing said of the other trials."""
        some = rows[:, None]
        return replace(self, differ=self.differ & some, alike=self.alike | ~some)

    def allow(self, remedy: int | slice, claimed: Any, *, worse: bool) -> NDArray[np.bool_]:
        """Return which claims of a remedy, or several, stand.

        That it is worse: where spreads are alike, and of plain means too. That it works: of plain
        means too where spreads differ.
        """
        ask = self.alike & self.more if worse else ~self.differ | self.less
        return np.asarray(claimed & ask[:, remedy])


def own_spreads(
    layout: Layout,
    likelihood: Likelihood,
    posterior: Posterior,
    x: FloatArray | None,
    reference: int,
) -> Spreads | None:
    """Compare each remedy's spread with the control's, and with the other remedies' together.

    None for shares, whose spread follows from how large they are, and where a group is too small.
    """
    member = np.eye(layout.remedies)[layout.remedy]
    n = member.sum(axis=0)
    if not isinstance(likelihood, Counts) or n[reference] < FEWEST:
        return None
    scale = likelihood.offset.copy()
    if x is not None and posterior.slope is not None:
        scale += posterior.slope[:, None] * x
    if layout.block is not None and posterior.blocks is not None:
        scale += posterior.blocks[:, layout.block]
    missed = np.zeros((len(scale), layout.remedies), dtype=bool)
    if posterior.failing is not None:
        told = posterior.weight[:, posterior.one_kind :].sum(axis=1) > TOLD
        missed = told[:, None] & (posterior.failing.count > 0)
    return _compared(likelihood.y * np.exp(-scale), scale, member, reference, missed)


def _compared(
    rate: FloatArray,
    scale: FloatArray,
    member: FloatArray,
    reference: int,
    missed: NDArray[np.bool_],
) -> Spreads:
    n = member.sum(axis=0)
    free = np.maximum(n - 1, 1)
    mean = rate @ member / n
    logs = np.log(rate + 0.5 * np.exp(-scale))
    spread = _variance(logs, member, n)
    chance = (1 / (np.exp(scale) * (mean @ member.T) + 0.5)) @ member / n
    usual = np.sum(free * np.maximum(spread - chance, 0), axis=1) / free.sum()
    own = (spread + TINY) / (usual[:, None] + chance + TINY)
    control, df = own[:, [reference]], free[reference]
    others = np.arange(len(n)) != reference
    pooled = np.sum((own * free)[:, others], axis=1) / free[others].sum()
    pair = own / control
    far = ~f_between(pair, free, df, SURELY)
    far |= ~f_between(pooled[:, None] / control, free[others].sum(), df, SURELY)
    alike = f_between(pair, free, df, HARDLY)
    alike &= f_between(pooled[:, None] / control, free[others].sum(), df, HARDLY)
    error = _variance(rate, member, n) / n / np.maximum(mean, 1e-12) ** 2
    total = error + error[:, [reference]]
    parts = error**2 / free + error[:, [reference]] ** 2 / df
    free_of = np.maximum(total**2 / np.maximum(parts, 1e-300), 1.0)
    reach, claim, claim_missed = (
        t_quantile(side, free_of) * total**0.5 for side in (SIDE, CLAIM, CLAIM_MISSED)
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        middle = np.log(mean / mean[:, [reference]])
    count = mean * (np.exp(scale) @ member / n)
    ok = (n >= FEWEST) & others & (count >= LEAST_COUNT)
    return Spreads(
        differ=far & ok,
        alike=alike | ~ok,
        low=middle - np.where(missed, claim_missed, reach),
        high=middle + np.where(missed, claim_missed, reach),
        less=middle + np.where(missed, claim_missed, claim) < 0,
        more=middle - claim > 0,
    )


def _variance(values: FloatArray, member: FloatArray, n: FloatArray) -> FloatArray:
    """Variances within remedies, (trials, remedies)."""
    away = values - (values @ member / n) @ member.T
    return np.asarray((away**2) @ member / np.maximum(n - 1, 1))
