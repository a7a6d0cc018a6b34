"""The likelihoods against scipy's distributions, their slopes against differences."""

from __future__ import annotations

import unittest

import numpy as np
from scipy import stats

from orthocris.core.verdict.model.likelihood import Counts, Likelihood, Shares

ROWS = np.array([0])
Y = np.array([[0.0, 3.0, 17.0, 40.0]])
ETA = np.array([[-1.2, 0.4, 2.1, 3.9]])


class AgainstScipy(unittest.TestCase):
    def differences(self, likelihood: Likelihood, phi: float) -> None:
        """First and second derivatives by central differences; the error is of the order 1e-6."""
        at = np.array([[phi]])
        score, weight = likelihood.slopes(ETA, ROWS, at)
        step = 1e-4
        for k in range(ETA.shape[1]):
            up, down = ETA.copy(), ETA.copy()
            up[0, k] += step
            down[0, k] -= step
            value = [float(likelihood.log_likelihood(e, ROWS, at)[0]) for e in (up, ETA, down)]
            self.assertAlmostEqual(score[0, k], (value[0] - value[2]) / (2 * step), places=5)
            second = -(value[0] - 2 * value[1] + value[2]) / step**2
            if weight[0, k] > 0.2:  # smaller ones of shares may be kept up on purpose
                self.assertAlmostEqual(weight[0, k], second, delta=2e-3 * max(1, second))

    def test_counts_are_the_negative_binomial_with_effort(self) -> None:
        """scipy's nbinom(n, p) with n = 1/phi and p = n/(n + mean); efforts 1, 2, 1, 3."""
        effort = np.array([[1.0, 2.0, 1.0, 3.0]])
        counts = Counts(Y, np.log(effort), np.ones_like(Y))
        for phi in (0.01, 0.5, 3.0):
            mean = np.exp(ETA) * effort
            expected = stats.nbinom.logpmf(Y, 1 / phi, 1 / (1 + phi * mean)).sum()
            expected += np.sum(_log_factorial(Y))  # what no parameter changes is left out
            found = counts.log_likelihood(ETA, ROWS, np.array([[phi]]))[0]
            self.assertAlmostEqual(float(found), float(expected), places=6)
            self.differences(counts, phi)

    def test_shares_are_the_beta_binomial(self) -> None:
        """scipy's betabinom with a + b = 1/rho - 1."""
        of = np.full_like(Y, 50.0)
        shares = Shares(Y, of, np.ones_like(Y))
        for rho in (0.01, 0.2):
            p, size = 1 / (1 + np.exp(-ETA)), 1 / rho - 1
            expected = stats.betabinom.logpmf(Y, 50, p * size, (1 - p) * size).sum()
            expected -= np.sum(_log_factorial(of) - _log_factorial(Y) - _log_factorial(of - Y))
            found = shares.log_likelihood(ETA, ROWS, np.array([[rho]]))[0]
            self.assertAlmostEqual(float(found), float(expected), places=6)
            self.differences(shares, rho)

    def test_a_plant_that_was_not_counted_says_nothing(self) -> None:
        known = np.array([[1.0, 1.0, 1.0, 0.0]])
        for likelihood in (
            Counts(Y, np.zeros_like(Y), known),
            Shares(Y, np.full_like(Y, 50.0), known),
        ):
            at = np.array([[0.1]])
            score, weight = likelihood.slopes(ETA, ROWS, at)
            self.assertEqual((score[0, 3], weight[0, 3]), (0.0, 0.0))
            moved = ETA + np.array([[0.0, 0.0, 0.0, 2.0]])
            one, two = (likelihood.log_likelihood(e, ROWS, at)[0] for e in (ETA, moved))
            self.assertEqual(one, two)


def _log_factorial(n: np.ndarray) -> np.ndarray:
    return np.asarray(-stats.poisson.logpmf(n, 1.0) - 1)  # log n! = -log(e^-1 / n!) - 1


if __name__ == "__main__":
    unittest.main()
