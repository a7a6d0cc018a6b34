"""What would settle an unsettled trial: this very trial, carried on in simulation."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.distributions import normal_quantile
from orthocris.core.verdict.evidence import Evidence
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.table import Table

RUNS = 600
LIKELY = 0.8  # the usual chance with which a trial should show what it looks for
MOST_TIMES = 4.0  # nobody plants more than four times the trial again
# What an addition may spend: half of the hundredth kept, and what it shares with what was spent.
ADDED_ERROR = 0.01


@dataclass(frozen=True, slots=True)
class Further:
    """What would settle it, with which chance: 80% or more, or else the most that was tried.

    So many `plants` more of each remedy, or, with `look`, one more look at the same.
    """

    plants: int
    look: bool
    chance: float


def what_would_settle(
    table: Table,
    evidence: Evidence,
    *,
    control: str,
    sound: Sequence[str],
    threshold: float,
    seed: int,
) -> Further | None:
    """Simulate this trial further, from what it has shown up to now.

    Parameters
    ----------
    table, evidence:
        The plants, and what was found of them.
    control:
        The control's name.
    sound:
        Remedies that are not struck out.
    threshold:
        Fraction removed that is worth it.
    seed:
        Seed of the simulation.

    Returns
    -------
    None when nothing is left to settle.

    Notes
    -----
    The truth is drawn from the posterior; so many more plants give an estimate about it whose
    variance is the present one over their share of the plants there are; both are put together, and
    it is settled when some remedy beats the control at the family's error or all are surely below
    the threshold (normal approximation on the log scale). One more look halves what counting chance
    has in the variance of a plant, and leaves what plants differ by.
    """
    if not sound or control not in evidence.remedies:
        return None
    columns = [evidence.remedies.index(name) for name in sound]
    ratio = evidence.log_harm[:, columns] - evidence.log_harm[:, [evidence.remedies.index(control)]]
    rng = np.random.default_rng(seed)
    now = sum(line.remedy == control for line in table.lines)
    needed = _needed(ratio, [evidence.effects[name].better for name in sound])
    by_look = _settled(ratio, _gain_of_look(table, evidence, columns), threshold, needed, rng)
    if by_look >= LIKELY:
        return Further(0, True, by_look)
    more, chance = 0, 0.0
    for more in sorted({1, 2, 3, *range(4, math.ceil(MOST_TIMES * now) + 1, 2)}):
        chance = _settled(ratio, more / now, threshold, needed, rng)
        if chance >= LIKELY:
            break
    return Further(more, False, chance)


def _needed(ratio: FloatArray, p: Sequence[float]) -> float:
    """How many standard errors a remedy must lie below nothing for the lot to grant it.

    The family's, times what the lot asked for beyond the model up to now: an effect of so many
    errors had the p that it had.
    """
    usual = float(normal_quantile(1 - ADDED_ERROR / len(p)))
    now = -ratio.mean(axis=0) / ratio.std(axis=0)
    best = int(np.argmax(now))
    granted = float(normal_quantile(1 - min(max(p[best] / len(p), 1e-4), 0.5)))
    return usual * min(max(1.0, float(now[best]) / granted if granted > 0 else 1.0), 2.0)


def _settled(
    ratio: FloatArray, share: float, threshold: float, needed: float, rng: np.random.Generator
) -> float:
    """The chance that as many plants again, times `share`, settle it."""
    if share <= 0:
        return 0.0
    truth = ratio[rng.integers(len(ratio), size=RUNS)]
    now = ratio.mean(axis=0)
    covariance = np.atleast_2d(np.cov(ratio.T))
    new = truth + rng.multivariate_normal(np.zeros(len(now)), covariance / share, size=RUNS)
    together = (now + share * new) / (1 + share)
    error = np.sqrt(np.diag(covariance) / (1 + share))
    beats = (together < -needed * error).any(axis=1)
    below = (together - 1.96 * error > math.log1p(-threshold)).all(axis=1)
    return float(np.mean(beats | below))


def _gain_of_look(table: Table, evidence: Evidence, columns: Sequence[int]) -> float:
    """By how much of the trial's plants one more look at the same plants is worth."""
    wanted = {evidence.remedies[c] for c in columns}
    found = [line.left.harm for line in table.lines if line.remedy in wanted]
    chance = 1 / max(float(np.mean(found)), 0.5)
    own = float(evidence.posterior.dispersion[0])
    return (chance + own) / (chance / 2 + own) - 1
