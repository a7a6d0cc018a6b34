"""Against the control by the lot itself: how often would other layouts have looked as good?

Had no remedy done anything, each plant would carry the same number under every layout that the lot
could have drawn. So the statistic is computed for all of them (or many), and the share that does at
least as well as the layout in use is the chance of a false claim, whatever the counts look like
(Fisher 1935). The greatest statistic over the remedies keeps the error of all claims together.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.layouts import MOST_LISTED, IntArray
from orthocris.core.verdict.lot import Lot
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.observation import MOST_ADDITIONS

FAMILY_ERROR = 0.05
EARLY_ERROR = 0.007  # for all looks before the decisive one, which recommend nothing
FIRST_ERROR = 0.04  # up to the decisive look; five pairs may speak: their least chance is 1/32
# Where a hundredth is less than one layout: six pairs may speak with three of their 64.
FEW_LAYOUTS, FIRST_OF_FEW = 100, 0.047
BoolArray = NDArray[np.bool_]
# With fewer layouts than this the exact test cannot be sharp: see `claims`.
ENOUGH_LAYOUTS = 2000


def spending(looks: int, early: int, layouts: int = MOST_LISTED) -> tuple[float, ...]:
    """Return how much of the 5% may be spent up to each look, in order.

    Parameters
    ----------
    looks:
        Looks up to the one judged; plants added after a verdict make a further look at all plants.
    early:
        How many of them come before the decisive one.
    layouts:
        How many layouts the lot had at the decisive one: the error is spent in whole ones.

    Returns
    -------
    Looks before the decisive one share .007, each half of what is left of it, so that any number of
    them may come (in the manner of Lan & DeMets 1983, Biometrika 70, 659-663). Up to the decisive
    one it is .04 (.047 of few layouts). What is left is kept for two additions, half each; after
    them all is spent.
    """
    first = FIRST_OF_FEW if layouts < FEW_LAYOUTS else FIRST_ERROR
    kept = (FAMILY_ERROR - first) / MOST_ADDITIONS
    return tuple(
        EARLY_ERROR * (1 - 0.5 ** (k + 1))
        if k < early
        else first + kept * min(k - early, MOST_ADDITIONS)
        for k in range(looks)
    )


@dataclass(frozen=True, slots=True)
class Claims:
    """Family-wise p of each remedy being better, and being worse, than the control.

    Shape (trials, remedies), one-sided, scaled so that 5% is the limit at this look; 1 for the
    control. `least` is the smallest p that any result could have had with the layouts there are,
    `spent` how much of the 5% may be spent up to this look.
    """

    better: FloatArray
    worse: FloatArray
    least: float
    spent: float


def claims(
    lot: Lot,
    responses: list[FloatArray],
    *,
    exact: bool,
    early: int = 0,
    layouts: int = MOST_LISTED,
    worse: bool = True,
) -> Claims:
    """Test every remedy against the control, better and worse, over all looks so far.

    Parameters
    ----------
    lot:
        The layouts and what they share.
    responses:
        Log harm of each plant at each look up to the one judged, in order, each (trials, plants);
        nan where a plant was not counted.
    exact:
        False where the lot has fewer than `ENOUGH_LAYOUTS` ways.
    early:
        How many of these looks come before the decisive one (see `spending`).
    layouts:
        How many layouts there were at the decisive one.
    worse:
        False to leave out the other side.

    Returns
    -------
    Claims
        By the studentised maximum, step-down: the strongest is tested among all, the next among
        the rest with the first one's effect taken out, and so on (Romano & Wolf 2005,
        Econometrica 73, 1237-1282). Where the lot has few ways, each remedy is tested with the
        effects of all others taken out, for two that work would otherwise hide behind one another's
        layouts; that is no longer exact, but the model must agree too (bench/calibration).

        A remedy is shown at a look when its share of layouts, those in which an earlier look would
        have claimed anything counted in, is within what may be spent by then; or when it was shown
        so at an earlier look and the present one alone still says it at 5%: that claim is paid.
    """
    spent = spending(len(responses), early, layouts)
    tests = _Tests(lot, responses, exact, spent, {} if worse else None)
    better = tests.stepwise(-1.0)
    return Claims(
        better=better,
        worse=tests.stepwise(1.0) if worse else np.ones_like(better),
        least=FAMILY_ERROR / spent[-1] / len(lot.layouts),
        spent=spent[-1],
    )


@dataclass(frozen=True, slots=True)
class _Tests:
    """Step-down tests of many trials, those that need the same tables together.

    `kept` holds the tables of all trials for the other side, None where there is none.
    """

    lot: Lot
    responses: list[FloatArray]
    exact: bool
    spent: tuple[float, ...]
    kept: dict[tuple[int, ...], FloatArray] | None

    def stepwise(self, sign: float) -> FloatArray:
        """Return the scaled family-wise p of each remedy, (trials, remedies)."""
        trials, k = len(self.responses[0]), len(self.lot.others)
        p, reached = np.ones((trials, self.lot.layout.remedies)), np.zeros(trials)
        waiting: dict[tuple[int, ...], list[int]] = {tuple(range(k)): list(range(trials))}
        while waiting:
            left, members = waiting.popitem()
            chance = self._chances(np.array(members), left, sign)
            for t, own in zip(members, chance, strict=True):
                first = int(np.argmin(own))
                shown = max(reached[t], own[first]) < FAMILY_ERROR
                for place in [first] if shown else range(len(left)):
                    p[t, self.lot.others[left[place]]] = min(max(reached[t], own[place]), 1.0)
                reached[t] = max(reached[t], own[first])
                rest = tuple(j for j in left if j != left[first])
                if shown and rest:
                    waiting.setdefault(rest, []).append(t)
        return p

    def _chances(self, members: IntArray, left: tuple[int, ...], sign: float) -> FloatArray:
        """The scaled p of each remedy that is left, (members, remedies left)."""
        k = len(self.lot.others)
        if self.exact:
            tables = self._tables(members, tuple(j for j in range(k) if j not in left))
            return self._p(sign * tables, left)
        columns = []
        for place, j in enumerate(left):
            tables = self._tables(members, tuple(i for i in range(k) if i != j))
            columns.append(self._p(sign * tables, left)[:, place])
        return np.stack(columns, axis=1)

    def _p(self, tables: FloatArray, left: tuple[int, ...]) -> FloatArray:
        """Each trial's p of each remedy left, from its statistics at each look.

        Tables are (looks, trials, layouts, k), the result (trials, remedies left).
        """
        trials, layouts, _ = tables[0].shape
        found = shown = np.ones((trials, len(left)))  # `shown` at any earlier look
        gone = np.zeros((trials, layouts), dtype=bool)
        for look, (table, limit) in enumerate(zip(tables, self.spent, strict=True)):
            peak = reduce(np.maximum, (table[:, :, j] for j in left))
            ahead = peak[:, :, None] >= table[:, :1, left] - 1e-9
            now = FAMILY_ERROR / limit * np.mean(gone[:, :, None] | ahead, axis=1)
            found = np.minimum(now, np.maximum(shown, np.mean(ahead, axis=1)))
            shown = np.minimum(shown, now)
            if look + 1 < len(tables):
                gone = np.stack([_spend(g, p, limit) for g, p in zip(gone, peak, strict=True)])
        return np.asarray(found)

    def _tables(self, members: IntArray, freed: tuple[int, ...]) -> FloatArray:
        """The statistics at every look, (looks, members, layouts, k)."""
        every = np.array_equal(members, np.arange(len(self.responses[0])))
        if every and self.kept and freed in self.kept:
            return self.kept[freed]
        out = tuple(self.lot.others[j] for j in freed)
        left = [self.lot.residuals(r[members], out, members) for r in self.responses]
        rows = np.tile(members, len(left))
        found = self.lot.statistics(np.concatenate(left), rows)
        tables = found.reshape(len(left), len(members), *found.shape[1:])
        if every and self.kept is not None:
            self.kept[freed] = tables
        return tables


def _spend(gone: BoolArray, peak: FloatArray, limit: float) -> BoolArray:
    """Mark the layouts that would have claimed something by this look, within what may be spent."""
    most = int(np.floor(limit * len(peak) + 1e-9)) - int(gone.sum())
    if most <= 0:
        return gone
    left = np.where(gone, -np.inf, peak)
    bar = np.sort(left)[::-1][min(most, len(left) - 1)]
    return np.asarray(gone | (left > bar + 1e-9))
