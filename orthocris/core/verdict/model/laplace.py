"""Many trials of one design fitted at once: a Gaussian about the mode, for each dispersion.

For each dispersion of a grid the coefficients' posterior is approximated at its mode (Laplace;
Tierney & Kadane 1986, JASA 81, 82-86), and the dispersions are mixed by the marginal likelihood
this gives. Tails are those of Student's t, because the plants that tell the dispersion are few.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.failing import Failing, find_failing
from orthocris.core.verdict.model.frame import Frame, Layout
from orthocris.core.verdict.model.likelihood import FloatArray, Likelihood

LONGEST_STEP = 3.0  # in the linear predictor: e^3 = 20 times, so that a bad start cannot fly off
CLOSE = 1e-4  # a last step so small leaves an error of its square
MOST_STEPS = 60
FEW_STEPS = 2  # where a good start is all there is to mend
LOG_PATCHY = float(np.log(0.3))  # two kinds of plants are thought a third as likely as one
TOLD = 0.7  # a chance of two kinds from which plants are named: false in 0 to 4% of trials
COARSER = 2  # the second view is looked at with every second dispersion


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
        Degrees of freedom of each trial and dispersion, (trials, dispersions).
    slope:
        Posterior mean of the slope on the count before, (trials,), or None without one.
    dispersion:
        Posterior mean of the dispersion, (trials,).
    blocks:
        Posterior mean of each block's deviation from the average block, (trials, blocks), or None.
    failing:
        Plants of another kind, or None. The dispersions from `one_kind` on are fits without them,
        in which `middle` is a remedy's level where it works.
    evidence:
        Log of how likely the numbers are under this likelihood, (trials,).
    """

    weight: FloatArray
    middle: FloatArray
    covariance: FloatArray
    df: FloatArray
    slope: FloatArray | None
    dispersion: FloatArray
    blocks: FloatArray | None
    evidence: FloatArray
    failing: Failing | None = None
    one_kind: int = 0

    def freedom(self, trial: int = 0) -> int:
        """Return the degrees of freedom over all dispersions, as plants (harmonic mean)."""
        return round(float(1 / np.sum(self.weight[trial] / self.df[trial])))

    def missed(self, trial: int = 0) -> NDArray[np.intp]:
        """Return the plants that a remedy missed, where it is likely enough to be said.

        At most half of its plants: what fails on more of them fails.
        """
        told = self.weight[trial, self.one_kind :].sum() > TOLD
        if self.failing is None or not told:
            return np.zeros(0, dtype=np.intp)
        few = self.failing.count[trial] <= self.failing.of[trial] / 2
        return np.flatnonzero(self.failing.plants[trial] & few[self.failing.remedy])

    def middle_of(self, remedy: int, trial: int = 0) -> float:
        """Return the posterior mean of a remedy's level."""
        return float(self.weight[trial] @ self.middle[trial, :, remedy])


def fit(
    layout: Layout,
    likelihood: Likelihood,
    x: FloatArray | None,
    reference: int | None = None,
) -> Posterior:
    """Fit many trials of one design.

    Parameters
    ----------
    layout:
        The design of n plants.
    likelihood:
        The counts or shares of every trial.
    x:
        The covariate (log or logit of the count before, centred), (trials, n), or None.
    reference:
        The control, as which a remedy may do on some of its plants; None without one.

    Returns
    -------
    Posterior
        Levels have a common mean that is free, so that what is thought beforehand pulls them
        towards one another and never towards zero effect of a control that is shared; every
        level, the control's included, is normal about it.
    """
    frame = Frame(layout, x, likelihood.level_sd)
    rows = np.arange(len(likelihood.known))
    found = _grid(frame, likelihood, rows)
    failing = None
    if reference is not None:
        best = found.log_post.argmax(axis=1)
        theta, phi = found.theta[rows, best], found.phi[rows, best]
        like_control = _as_control(frame, layout, theta, rows, reference)
        told = partial(_by_others, frame, layout, likelihood, (theta, phi), reference)
        failing = find_failing(layout, likelihood, like_control, told, reference)
        if len(failing.trials):
            second = _second(frame, layout, likelihood, failing, reference)
            found = found.beside(second, failing.trials)
    most = found.log_post.max(axis=1, keepdims=True)
    share = np.exp(found.log_post - most)
    total = share.sum(axis=1, keepdims=True)
    share /= total
    priors = likelihood.grid()[1]
    spread = len(frame.reading) * np.log(likelihood.level_sd) + np.logaddexp.reduce(priors)
    slopes = found.theta[:, :, frame.small - 1]
    return Posterior(
        weight=share,
        middle=frame.levels(found.theta),
        covariance=found.spread,
        df=_df(layout, likelihood, found),
        slope=None if x is None else np.sum(share * slopes, axis=1),
        dispersion=np.sum(share * found.phi, axis=1),
        blocks=_blocks(frame, found.theta, share),
        failing=failing if failing is not None and failing.plants.any() else None,
        one_kind=len(likelihood.grid()[0]),
        evidence=(most + np.log(total))[:, 0] - spread + likelihood.constant(),
    )


@dataclass(frozen=True, slots=True)
class _Grid:
    """Fits of trials at each dispersion of the grid, (trials, dispersions, …)."""

    phi: FloatArray
    log_post: FloatArray
    theta: FloatArray
    spread: FloatArray  # covariance of the levels
    clumped: FloatArray  # share of the plants' variance that the dispersion makes

    def beside(self, other: _Grid, rows: NDArray[np.intp]) -> _Grid:
        """Put the fits of some trials under another view beside these, thought less likely."""
        log_post = np.full((len(self.phi), other.phi.shape[1]), -np.inf)
        log_post[rows] = other.log_post + LOG_PATCHY
        both = []
        k = other.phi.shape[1]
        for mine, others in (
            (self.phi, other.phi),
            (self.theta, other.theta),
            (self.spread, other.spread),
            (self.clumped, other.clumped),
        ):
            filled = mine[:, :k].copy()  # of no weight where there is no other view
            filled[rows] = others
            both.append(np.concatenate([mine, filled], axis=1))
        phi, theta, spread, clumped = both
        return _Grid(phi, np.concatenate([self.log_post, log_post], axis=1), theta, spread, clumped)


def _grid(frame: Frame, likelihood: Likelihood, trials: NDArray[np.intp], every: int = 1) -> _Grid:
    """Fit trials at each dispersion, or at every so manieth."""
    phi, log_prior = (part[::every] for part in likelihood.grid())
    t, k = len(trials), len(phi)
    middle = np.full((t, 1), phi[np.searchsorted(phi, np.sqrt(phi[0] * phi[-1]))])
    theta = _start(frame, likelihood, trials)
    theta = _mode(frame, likelihood, trials, middle, theta)
    rows = np.repeat(trials, k)
    each = np.tile(phi, t)[:, None]
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
        log_post=log_post.reshape(t, k) + log_prior + np.log(every),
        theta=theta.reshape(t, k, -1),
        spread=information.of_levels(frame).reshape(t, k, g, g),
        clumped=likelihood.clumped(eta, rows, each).reshape(t, k),
    )


def _df(layout: Layout, likelihood: Likelihood, found: _Grid) -> FloatArray:
    """Degrees of freedom, (trials, dispersions).

    Plants less remedies tell the part of the variance that the dispersion makes; the part that
    chance makes in counting is known. Free plants over that part (in tenths): between all plants
    alike and Satterthwaite's square of it (1946, Biometrics Bulletin 2, 110-114), which is too sure
    where plants are few (bench/calibration).
    """
    free = np.maximum(likelihood.known.sum(axis=1) - layout.remedies, 1.0)
    part = np.maximum(np.round(found.clumped, 1), 0.1)
    return np.asarray(free[:, None] / part)


def _as_control(
    frame: Frame, layout: Layout, theta: FloatArray, rows: NDArray[np.intp], reference: int
) -> FloatArray:
    """What each plant would have under the control, on the scale of the link, (fits, plants)."""
    return frame.predict(theta, rows) + theta[:, [reference]] - theta[:, layout.remedy]


def _by_others(
    frame: Frame,
    layout: Layout,
    likelihood: Likelihood,
    fits: tuple[FloatArray, FloatArray],
    reference: int,
    remedy: int,
    trials: NDArray[np.intp],
) -> FloatArray:
    """What plants would have under the control, told without one remedy's plants.

    From the coefficients and dispersions of the whole trials (`fits`) it is a step or two away.
    """
    theta, phi = fits[0][trials], fits[1][trials][:, None]
    others = np.broadcast_to(layout.remedy != remedy, likelihood.known.shape)
    told = _mode(frame, likelihood.only(others), trials, phi, theta, FEW_STEPS)
    return _as_control(frame, layout, told, trials, reference)


def _second(
    frame: Frame, layout: Layout, likelihood: Likelihood, failing: Failing, reference: int
) -> _Grid:
    """Fit the trials that have failing plants without them; those are judged as the control's."""
    trials = failing.trials
    found = _grid(frame, likelihood.only(~failing.plants), trials, COARSER)
    t, k = found.log_post.shape
    rows = np.repeat(trials, k)
    like_control = _as_control(frame, layout, found.theta.reshape(t * k, -1), rows, reference)
    failed = likelihood.only(failing.plants)
    told = failed.log_likelihood(like_control, rows, found.phi.reshape(-1, 1)).reshape(t, k)
    return replace(found, log_post=found.log_post + told + failing.log_prior(trials)[:, None])


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
    most: int = MOST_STEPS,
) -> FloatArray:
    """Newton's method from `theta`, each fit until it stands still."""
    theta = theta.copy()
    active = np.arange(len(rows))
    for _ in range(most):
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
