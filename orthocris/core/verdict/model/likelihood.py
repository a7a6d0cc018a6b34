"""The two likelihoods: counts that clump (negative binomial), shares that clump (beta-binomial).

Both take numbers that are no whole ones: a percentage or a mean grade is read as a share of so many
equal parts, a mean over looks as so many counted together (see `verdict/amounts.py`).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.distributions import log_expit

FloatArray = NDArray[np.float64]

# Dispersions of counts, as in variance = mean + dispersion * mean^2, from hardly any to strong.
DISPERSIONS = np.geomspace(0.005, 4.0, 16)
# Correlations of the individuals on one plant, from hardly any to strong.
CORRELATIONS = np.geomspace(0.001, 0.6, 14)
# Where a share is taken to be after so many counts in vain: logits beyond carry nothing more.
FARTHEST = 30.0


class Likelihood(Protocol):
    """What the fit asks of a likelihood; every array is (fits, plants)."""

    @property
    def level_sd(self) -> float:
        """How far the remedies' levels are thought to lie from their common mean."""
        ...

    @property
    def known(self) -> FloatArray:
        """1 where a plant was counted, 0 where not, (trials, plants)."""
        ...

    def clumped(self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray) -> FloatArray:
        """Return the share of the plants' variance that the dispersion makes, (fits,)."""
        ...

    def only(self, plants: NDArray[np.bool_]) -> Likelihood:
        """Return it with the plants named alone, (trials, plants)."""
        ...

    def blend(self, level: FloatArray, other: FloatArray, share: FloatArray) -> FloatArray:
        """Return the level expected where so large a share of plants has the other level."""
        ...

    def grid(self) -> tuple[FloatArray, FloatArray]:
        """Return the dispersions mixed over, and the log of the prior weight of each."""
        ...

    def start(self) -> FloatArray:
        """Return a first guess of each plant's linear predictor, (trials, plants)."""
        ...

    def slopes(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> tuple[FloatArray, FloatArray]:
        """Return the first derivative and minus the second in the linear predictor."""
        ...

    def log_likelihood(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> FloatArray:
        """Return each fit's log likelihood, up to what no parameter changes."""
        ...

    def constant(self) -> FloatArray:
        """Return what no parameter changes, to compare with another likelihood, (trials,)."""
        ...


@dataclass(frozen=True, slots=True)
class Counts:
    """Negative binomial counts with a log link.

    Attributes
    ----------
    y:
        Counts, (trials, plants).
    offset:
        Log of the effort behind each, same shape.
    known:
        1 where a plant was counted, 0 where not, same shape.

    Notes
    -----
    Variance m + phi m^2. The square root of phi is exponential with rate 1/2 beforehand, so that
    no clumping at all and strong clumping are both thought possible.
    """

    y: FloatArray
    offset: FloatArray
    known: FloatArray
    level_sd: float = 3.0

    def clumped(self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray) -> FloatArray:
        """Return the mean of phi m / (1 + phi m)."""
        mean, known = np.exp(np.minimum(eta + self.offset[rows], FARTHEST)), self.known[rows]
        part = phi * mean / (1 + phi * mean)
        return np.asarray(np.sum(part * known, axis=1) / np.maximum(known.sum(axis=1), 1.0))

    def only(self, plants: NDArray[np.bool_]) -> Counts:
        """Return the counts of the plants named."""
        return replace(self, known=self.known * plants)

    def blend(self, level: FloatArray, other: FloatArray, share: FloatArray) -> FloatArray:
        """Return the log of the mean of the two expected counts."""
        return np.logaddexp(np.log1p(-share) + level, np.log(share) + other)

    def grid(self) -> tuple[FloatArray, FloatArray]:
        """Return the dispersions and the log of their prior weights (equal steps in log phi)."""
        root = np.sqrt(DISPERSIONS)
        return DISPERSIONS, np.log(root) - root / 2

    def start(self) -> FloatArray:
        """Return log((y + 1/2) / effort)."""
        return np.asarray(np.log(self.y + 0.5) - self.offset)

    def slopes(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> tuple[FloatArray, FloatArray]:
        """Return (y - m) / (1 + phi m) and m (1 + phi y) / (1 + phi m)^2."""
        y = self.y[rows]
        mean = np.exp(np.minimum(eta + self.offset[rows], FARTHEST))
        share = 1 / (1 + phi * mean)
        known = self.known[rows]
        return known * (y - mean) * share, known * mean * (1 + phi * y) * share * share

    def log_likelihood(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> FloatArray:
        """Return the sum of the negative binomial log chances."""
        from scipy import special

        y, size = self.y[rows], 1 / phi
        log_mean = np.minimum(eta + self.offset[rows], FARTHEST)
        each = (
            special.gammaln(y + size)
            - special.gammaln(size)
            + y * (np.log(phi) + log_mean)
            - (y + size) * np.log1p(phi * np.exp(log_mean))
        )
        return np.asarray(np.sum(self.known[rows] * each, axis=1))

    def constant(self) -> FloatArray:
        """Return minus the logs of the factorials."""
        from scipy.special import gammaln

        return np.asarray(-np.sum(self.known * gammaln(self.y + 1), axis=1))


@dataclass(frozen=True, slots=True)
class Shares:
    """Beta-binomial shares with a logit link: `y` of `of` parts are harm.

    Notes
    -----
    Variance n p (1 - p) (1 + (n - 1) rho). The correlation rho is even on the log scale within
    the grid, but for a factor that makes strong correlation less likely: (1 - rho).
    """

    y: FloatArray
    of: FloatArray
    known: FloatArray
    level_sd: float = 2.5

    def clumped(self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray) -> FloatArray:
        """Return 1: near all or nothing a share's own chance is no better known."""
        return np.ones(len(eta))

    def only(self, plants: NDArray[np.bool_]) -> Shares:
        """Return the shares of the plants named."""
        return replace(self, known=self.known * plants)

    def blend(self, level: FloatArray, other: FloatArray, share: FloatArray) -> FloatArray:
        """Return the logit of the mean of the two shares."""
        harm = np.logaddexp(np.log1p(-share) + log_expit(level), np.log(share) + log_expit(other))
        safe = np.logaddexp(np.log1p(-share) + log_expit(-level), np.log(share) + log_expit(-other))
        return np.asarray(harm - safe)

    def grid(self) -> tuple[FloatArray, FloatArray]:
        """Return the correlations and the log of their prior weights."""
        root = np.sqrt(CORRELATIONS)
        return CORRELATIONS, np.log(root) + np.log1p(-CORRELATIONS)

    def start(self) -> FloatArray:
        """Return the logit of (y + 1/2) / (of + 1)."""
        return np.asarray(np.log((self.y + 0.5) / (self.of - self.y + 0.5)))

    def slopes(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> tuple[FloatArray, FloatArray]:
        """Return the derivatives; the second is kept above a twentieth of the quasi information."""
        from scipy import special

        y, of, known = self.y[rows], self.of[rows], self.known[rows]
        size = 1 / phi - 1
        p = special.expit(np.clip(eta, -FARTHEST, FARTHEST))
        q = 1 - p
        a, b = p * size, q * size
        first = special.digamma(y + a) - special.digamma(a)
        first -= special.digamma(of - y + b) - special.digamma(b)
        second = special.polygamma(1, y + a) - special.polygamma(1, a)
        second += special.polygamma(1, of - y + b) - special.polygamma(1, b)
        dp = p * q
        score = size * first * dp
        exact = -(size * size * second * dp * dp + size * first * dp * (1 - 2 * p))
        least = of * dp / (1 + (of - 1) * phi) / 20
        return known * score, known * np.maximum(exact, least)

    def log_likelihood(
        self, eta: FloatArray, rows: NDArray[np.intp], phi: FloatArray
    ) -> FloatArray:
        """Return the sum of the beta-binomial log chances."""
        from scipy import special

        y, of = self.y[rows], self.of[rows]
        size = 1 / phi - 1
        p = special.expit(np.clip(eta, -FARTHEST, FARTHEST))
        a, b = p * size, (1 - p) * size
        each = special.betaln(y + a, of - y + b) - special.betaln(a, b)
        return np.asarray(np.sum(self.known[rows] * each, axis=1))

    def constant(self) -> FloatArray:
        """Return the logs of the binomial coefficients."""
        from scipy.special import gammaln

        rest = gammaln(self.of + 1) - gammaln(self.y + 1) - gammaln(self.of - self.y + 1)
        return np.asarray(np.sum(self.known * rest, axis=1))
