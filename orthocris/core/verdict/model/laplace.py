"""Many trials of one design fitted at once: a Gaussian about the mode, for each dispersion.

For each dispersion of a grid the coefficients' posterior is approximated at its mode (Laplace;
Tierney & Kadane 1986, JASA 81, 82-86), and the dispersions are mixed by the marginal likelihood
this gives. Tails are those of Student's t, because the plants that tell the dispersion are few.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.frame import Frame, Layout
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood

LONGEST_STEP = 3.0  # in the linear predictor: e^3 = 20 times, so that a bad start cannot fly off
CLOSE = 1e-6
MOST_STEPS = 60
# A remedy is looked at as patchy when its plants differ so many times as much as the others'; that
# it is so is thought half as likely beforehand.
UNEVEN, FEWEST_UNEVEN = 3.0, 3
LOG_PATCHY = float(np.log(0.5))


@dataclass(frozen=True, slots=True)
class Posterior:
    """What is known of the remedies' levels in each trial: a mixture of multivariate t.

    Attributes
    ----------
    weight:
        Weight of each dispersion, (trials, dispersions).
    middle:
        Levels at an average block and an average count before, (trials, dispersions, remedies),
        on the scale of the link.
    covariance:
        Their scale matrices, (trials, dispersions, remedies, remedies).
    df:
        Degrees of freedom of each trial, at least 1.
    slope:
        Posterior mean of the slope on the count before, (trials,), or None without one.
    dispersion:
        Posterior mean of the dispersion, (trials,).
    blocks:
        Posterior mean of each block's deviation from the average block, (trials, blocks), or None.
    """

    weight: FloatArray
    middle: FloatArray
    covariance: FloatArray
    df: FloatArray
    slope: FloatArray | None
    dispersion: FloatArray
    blocks: FloatArray | None = None

    def middle_of(self, remedy: int, trial: int = 0) -> float:
        """Return the posterior mean of a remedy's level."""
        return float(self.weight[trial] @ self.middle[trial, :, remedy])


def fit(
    layout: Layout, likelihood: Likelihood, known: FloatArray, x: FloatArray | None
) -> Posterior:
    """Fit many trials of one design.

    Parameters
    ----------
    layout:
        The design of n plants.
    likelihood:
        The counts or shares of every trial.
    known:
        1 where a plant counts, 0 where not, (trials, n).
    x:
        The covariate (log or logit of the count before, centred), (trials, n), or None.

    Returns
    -------
    Posterior
        Levels have a common mean that is free, so that what is thought beforehand pulls them
        towards one another and never towards zero effect of a control that is shared; every
        level, the control's included, is normal about it.
    """
    frame = Frame(layout, x, likelihood.level_sd)
    rows = np.arange(len(known))
    found = _grid(frame, likelihood, rows, np.zeros_like(known))
    uneven = _uneven(layout, likelihood, found, known)
    some = np.flatnonzero(uneven.any(axis=1))
    if len(some):
        times = np.where(uneven[:, layout.remedy], likelihood.patchy, 0.0)
        found = found.beside(_grid(frame, likelihood, some, times[some]), some)
    share = np.exp(found.log_post - found.log_post.max(axis=1, keepdims=True))
    share /= share.sum(axis=1, keepdims=True)
    slopes = found.theta[:, :, frame.small - 1]
    return Posterior(
        weight=share,
        middle=frame.levels(found.theta),
        covariance=found.spread,
        df=np.maximum(known.sum(axis=1) - layout.remedies, 1.0),
        slope=None if x is None else np.sum(share * slopes, axis=1),
        dispersion=np.sum(share * found.phi, axis=1),
        blocks=_blocks(frame, found.theta, share),
    )


@dataclass(frozen=True, slots=True)
class _Grid:
    """Fits of trials at each dispersion of the grid, (trials, dispersions, …)."""

    phi: FloatArray
    log_post: FloatArray
    theta: FloatArray
    spread: FloatArray  # covariance of the levels
    residual: FloatArray  # squared, over the variance that the model gives a plant

    def beside(self, other: _Grid, rows: NDArray[np.intp]) -> _Grid:
        """Put the fits of some trials under another view beside these, thought less likely."""
        log_post = np.full_like(self.log_post, -np.inf)
        log_post[rows] = other.log_post + LOG_PATCHY
        both = []
        for mine, others in (
            (self.phi, other.phi),
            (self.theta, other.theta),
            (self.spread, other.spread),
            (self.residual, other.residual),
        ):
            filled = mine.copy()
            filled[rows] = others
            both.append(np.concatenate([mine, filled], axis=1))
        phi, theta, spread, residual = both
        return _Grid(
            phi, np.concatenate([self.log_post, log_post], axis=1), theta, spread, residual
        )


def _grid(frame: Frame, likelihood: Likelihood, trials: NDArray[np.intp], own: FloatArray) -> _Grid:
    """Fit trials at each dispersion; a plant whose `own` is not 0 has at least that dispersion."""
    phi, log_prior = likelihood.grid()
    t, k = len(trials), len(phi)
    middle = phi[np.searchsorted(phi, np.sqrt(phi[0] * phi[-1]))]
    theta = _start(frame, likelihood, trials)
    theta = _mode(frame, likelihood, trials, np.maximum(middle, own), theta)
    rows = np.repeat(trials, k)
    each = np.maximum(np.tile(phi, t)[:, None], np.repeat(own, k, axis=0))
    theta = _mode(frame, likelihood, rows, each, np.repeat(theta, k, axis=0))
    eta = frame.predict(theta, rows)
    _, weight = likelihood.slopes(eta, rows, each)
    information = frame.information(weight, rows)
    log_post = (
        likelihood.log_likelihood(eta, rows, each)
        - 0.5 * frame.prior_distance(theta)
        - 0.5 * information.log_determinant()
    )
    g = len(frame.reading)
    return _Grid(
        phi=np.broadcast_to(phi, (t, k)),
        log_post=log_post.reshape(t, k) + log_prior,
        theta=theta.reshape(t, k, -1),
        spread=information.of_levels(frame).reshape(t, k, g, g),
        residual=likelihood.residual(eta, rows, each).reshape(t, k, -1),
    )


def _uneven(
    layout: Layout, likelihood: Likelihood, found: _Grid, known: FloatArray
) -> NDArray[np.bool_]:
    """Remedies whose plants differ far more than the others' do, (trials, remedies).

    A remedy that works on some plants and not on others does not vary as the rest do. Fitted with
    one dispersion for all, its failures would be taken for bad blocks, and it for better than it
    is.
    """
    best = found.log_post.argmax(axis=1)
    residual = found.residual[np.arange(len(known)), best] * known
    member = np.eye(layout.remedies)[layout.remedy]
    total, count = residual @ member, known @ member
    own = total / np.maximum(count, 1.0)
    rest = (total.sum(axis=1, keepdims=True) - total) / np.maximum(
        count.sum(axis=1, keepdims=True) - count, 1.0
    )
    return np.asarray((own > UNEVEN * np.maximum(rest, 1e-3)) & (count >= FEWEST_UNEVEN))


def _blocks(frame: Frame, theta: FloatArray, share: FloatArray) -> FloatArray | None:
    if frame.size == frame.small:
        return None
    found = np.einsum("tk,tkb->tb", share, theta[:, :, frame.small :])
    return np.asarray(found - found.mean(axis=1, keepdims=True))


def _start(frame: Frame, likelihood: Likelihood, rows: NDArray[np.intp]) -> FloatArray:
    """Penalised least squares on the transformed numbers: near the mode for most trials."""
    weight = likelihood.known[rows] + 1e-9
    away = frame.gather(weight * likelihood.start()[rows], rows) + frame.pull_to_prior()
    return frame.information(weight, rows).solve(away)


def _mode(
    frame: Frame,
    likelihood: Likelihood,
    rows: NDArray[np.intp],
    phi: FloatArray,
    theta: FloatArray,
) -> FloatArray:
    """Newton's method from `theta`, each fit until it stands still."""
    theta = theta.copy()
    active = np.arange(len(rows))
    for _ in range(MOST_STEPS):
        own = rows[active]
        eta = frame.predict(theta[active], own)
        score, weight = likelihood.slopes(eta, own, phi[active])
        gradient = frame.gather(score, own) - frame.pull_of_prior(theta[active])
        step = frame.information(weight, own).solve(gradient)
        moved = np.abs(frame.predict(step, own)).max(axis=1)
        theta[active] += step * np.minimum(1.0, LONGEST_STEP / np.maximum(moved, 1e-12))[:, None]
        active = active[moved > CLOSE]
        if not len(active):
            break
    return theta
