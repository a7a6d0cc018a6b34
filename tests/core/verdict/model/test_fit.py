"""The fit: algebra against plain matrices, estimates against statsmodels and integrals."""

from __future__ import annotations

import unittest

import numpy as np
import statsmodels.api as sm

from orthocris.core.verdict.model.frame import COMMON_SD, Frame, Layout
from orthocris.core.verdict.model.laplace import fit
from orthocris.core.verdict.model.likelihood import Counts, FloatArray, Shares
from orthocris.core.verdict.model.reading import draw_levels

RNG = np.random.default_rng(20261127)


def blocks_of(remedies: int, blocks: int) -> Layout:
    """Complete blocks."""
    return Layout(np.tile(np.arange(remedies), blocks), np.repeat(np.arange(blocks), remedies))


class Algebra(unittest.TestCase):
    def test_eliminating_blocks_is_the_whole_matrix(self) -> None:
        """Solving, determinant and the levels' covariance as with the full information matrix."""
        side = 4
        row, column = np.repeat(np.arange(side), side), np.tile(np.arange(side), side)
        layout = Layout((row + column) % side, row, column)
        x = RNG.normal(size=(2, side * side))
        frame = Frame(layout, x, 3.0)
        weight = RNG.uniform(0.2, 2, (2, side * side))
        rows = np.arange(2)
        parts = frame.information(weight, rows)
        for t in range(2):
            columns = np.column_stack([frame.fixed, x[t], frame.block])
            whole = (columns.T * weight[t]) @ columns
            whole[: frame.small, : frame.small] += frame.precision
            whole[range(frame.small, frame.size), range(frame.small, frame.size)] += 1
            right = RNG.normal(size=(2, frame.size))
            np.testing.assert_allclose(parts.solve(right)[t], np.linalg.solve(whole, right[t]))
            self.assertAlmostEqual(parts.log_determinant()[t], np.linalg.slogdet(whole)[1])
            reading = np.column_stack([frame.reading, np.full((side, side), 1 / side)])
            expected = reading @ np.linalg.inv(whole) @ reading.T
            np.testing.assert_allclose(parts.of_levels(frame)[t], expected)


class AgainstStatsmodels(unittest.TestCase):
    def test_many_plants_give_the_maximum_likelihood_estimate(self) -> None:
        """120 plants each: what is thought beforehand hardly counts. statsmodels' negative binomial
        by maximum likelihood (NB2) has the same model but for priors and mixed dispersions, which
        move a contrast by less than 0.02 of logs, its error by less than a tenth."""
        n, truth = 120, np.array([0.0, -1.0, -2.5])
        remedy = np.repeat(np.arange(3), n)
        x = RNG.normal(0, 0.5, 3 * n)
        mean = np.exp(3 + truth[remedy] + 0.8 * x)
        y = RNG.poisson(mean * RNG.gamma(3, 1 / 3, 3 * n)).astype(float)
        found = fit(
            Layout(remedy),
            Counts(y[None], np.zeros((1, 3 * n)), np.ones((1, 3 * n))),
            (x - x.mean())[None],
        )
        design = np.column_stack([np.eye(3)[remedy], x])
        usual = sm.NegativeBinomial(y, design).fit(disp=0, maxiter=200)
        levels = draw_levels(found, 4096, 1)[0]
        for r in (1, 2):
            contrast = levels[:, r] - levels[:, 0]
            self.assertAlmostEqual(
                float(contrast.mean()), usual.params[r] - usual.params[0], delta=0.02
            )
            w = np.zeros(5)
            w[r], w[0] = 1, -1
            error = float(np.sqrt(w @ usual.cov_params() @ w))
            self.assertAlmostEqual(float(contrast.std()) / error, 1, delta=0.1)
        self.assertAlmostEqual(float(found.dispersion[0]), usual.params[-1], delta=0.08)
        self.assertAlmostEqual(float(found.slope[0]), usual.params[3], delta=0.03)  # type: ignore[index]


class AgainstIntegrals(unittest.TestCase):
    def test_two_levels_without_blocks(self) -> None:
        """The posterior over a fine grid of two levels and the dispersions, with normal tails.

        Means agree within 0.05 of logs and widths within 15%: the tails of t are wider on purpose,
        and a mode is not a mean.
        """
        remedy = np.repeat([0, 1], 6)
        y = np.array([[12.0, 30, 18, 25, 9, 21, 3, 8, 1, 5, 2, 6]])
        known = np.ones_like(y)
        found = fit(Layout(remedy), Counts(y, np.zeros_like(y), known), None)
        counts = Counts(y, np.zeros_like(y), known)
        a, b = np.meshgrid(np.linspace(1.5, 4.5, 140), np.linspace(0, 3.2, 140), indexing="ij")
        theta = np.stack([a.ravel(), b.ravel()])
        phi, log_prior = counts.grid()
        total, ratios = 0.0, []
        for p, prior in zip(phi, log_prior, strict=True):
            eta = theta[remedy].T
            rows = np.zeros(len(eta), dtype=int)
            log = counts.log_likelihood(eta, rows, np.full((len(eta), 1), p)) + prior
            log -= 0.5 * (theta[0] - theta[1]) ** 2 / 2 / 9
            log -= 0.5 * ((theta[0] + theta[1]) / 2) ** 2 / COMMON_SD**2
            ratios.append(log)
        weight = np.exp(np.array(ratios) - np.max(ratios))
        total = weight.sum()
        difference = np.broadcast_to(theta[1] - theta[0], weight.shape)
        mean = float((weight * difference).sum() / total)
        sd = float(np.sqrt((weight * (difference - mean) ** 2).sum() / total))
        levels = draw_levels(found, 4096, 1)[0]
        contrast = levels[:, 1] - levels[:, 0]
        self.assertAlmostEqual(float(np.median(contrast)), mean, delta=0.05)
        self.assertAlmostEqual(float(contrast.std()) / sd, 1.07, delta=0.12)


class Promises(unittest.TestCase):
    """Short versions of bench/calibration: 400 trials at once, bounds four standard errors wide."""

    def holds(self, start: float, survival: tuple[float, ...], clump: float, blocks: int) -> float:
        """The smallest share, over remedies, of intervals that hold the truth."""
        layout, trials = blocks_of(len(survival) + 1, blocks), 400
        n = len(layout.remedy)
        level = start * np.exp(RNG.normal(0, 0.4, (trials, blocks)))[:, layout.block]
        own = level * RNG.gamma(4, 0.25, (trials, n))
        after = own * np.array([1.0, *survival])[layout.remedy]
        if clump:
            after = after * RNG.gamma(clump, 1 / clump, after.shape)
        x = np.log(RNG.poisson(own) + 0.5)
        y, known = RNG.poisson(after).astype(float), np.ones((trials, n))
        found = fit(
            layout, Counts(y, np.zeros_like(y), known), x - x.mean(axis=1, keepdims=True), 0
        )
        levels = draw_levels(found, 1024, 1)
        low, high = np.quantile(levels[:, :, 1:] - levels[:, :, :1], [0.025, 0.975], axis=1)
        truth = np.log(survival)
        return float(((low <= truth) & (truth <= high)).mean(axis=0).min())

    def test_intervals_hold_where_almost_nothing_is_left(self) -> None:
        for start, clump, blocks in ((3.0, 0.0, 4), (8.0, 4.0, 4), (40.0, 1.0, 4), (8.0, 4.0, 8)):
            with self.subTest(start=start, clump=clump, blocks=blocks):
                self.assertGreater(self.holds(start, (0.05, 0.5, 1.0), clump, blocks), 0.905)

    def test_nothing_but_zeros_on_a_remedy_is_no_trouble(self) -> None:
        layout = blocks_of(3, 4)
        y = np.where(layout.remedy == 1, 0.0, 12.0)[None]
        known = np.ones_like(y)
        levels = draw_levels(fit(layout, Counts(y, np.zeros_like(y), known), None), 1024, 1)
        ratio = levels[0, :, 1] - levels[0, :, 0]
        # No pest where 48 were: with clumping unknown, at most a quarter or so may be left.
        self.assertLess(np.exp(np.quantile(ratio, 0.975)), 0.35)
        self.assertGreater(np.exp(np.quantile(ratio, 0.975)), 0.02)

    def test_shares_show_a_third_fewer_survivors(self) -> None:
        """Of 20, 95% of them alive untreated, 30% fewer with the remedy, 6 blocks, clumped: a
        quasi-binomial fit shows it in 0.89 of trials, so must this one."""
        layout, trials = blocks_of(3, 6), 200
        p = np.array([0.95, 0.665, 0.95])[layout.remedy]
        shift = RNG.normal(0, 0.3, (trials, 6))[:, layout.block]
        p = 1 / (1 + np.exp(-(np.log(p / (1 - p)) + shift)))
        y = RNG.binomial(20, RNG.beta(19 * p, 19 * (1 - p))).astype(float)
        known = np.ones_like(y)
        found = fit(layout, Shares(y, np.full_like(y, 20.0), known), None)
        harm = -np.logaddexp(0, -draw_levels(found, 1024, 1))
        high = np.quantile(harm[:, :, 1] - harm[:, :, 0], 0.975, axis=1)
        self.assertGreater(np.mean(high < 0), 0.88)


class TwoKindsOfPlants(unittest.TestCase):
    """What a remedy misses is no bad luck: eight plants of it, some with as many as untreated."""

    LAYOUT = Layout(np.repeat([0, 1, 2], 8))
    CONTROL = (38.0, 52, 31, 44, 60, 27, 41, 36)
    STEADY = (9.0, 6, 12, 7, 10, 5, 8, 9)

    def removed(self, *after: float) -> FloatArray:
        """2.5%, 50% and 97.5% of what the remedy removes, over future plants."""
        y = np.array([[*self.CONTROL, *after, *self.STEADY]])
        found = fit(self.LAYOUT, Counts(y, np.zeros_like(y), np.ones_like(y)), None, 0)
        levels = draw_levels(found, 8192, 1)[0]
        quantiles = np.quantile(levels[:, 1] - levels[:, 0], [0.975, 0.5, 0.025])
        return np.asarray(1 - np.exp(quantiles))

    def test_one_that_it_missed_of_eight_counts_as_one_of_eight(self) -> None:
        """Of plants to come a beta(1.5, 7.5) share is missed: 17%, 1.6% to 44%."""
        low, middle, high = self.removed(1, 0, 2, 1, 43, 0, 1, 1)
        self.assertAlmostEqual(low, 0.98 * (1 - 0.44), delta=0.05)
        self.assertAlmostEqual(middle, 0.98 * (1 - 0.145), delta=0.03)
        self.assertAlmostEqual(high, 0.98 * (1 - 0.016), delta=0.02)

    def test_half_of_them(self) -> None:
        low, middle, high = self.removed(1, 45, 39, 1, 43, 0, 1, 33)
        self.assertAlmostEqual(middle, 0.49, delta=0.04)
        self.assertTrue(0.15 < low < 0.25 and 0.75 < high < 0.85, (low, high))

    def test_a_plant_missed_in_a_bad_block_does_not_hide_itself(self) -> None:
        """The last block has many pests; 20 of the remedy there make it look a worse one still."""
        after = [(141, 26, 12, 108, 11, 9, 48, 105), (2, 0, 0, 0, 0, 0, 0, 20)]
        before = [(48, 26, 50, 56, 19, 20, 29, 85), (71, 18, 40, 22, 23, 11, 24, 28)]
        after.append((8, 5, 11, 5, 6, 5, 1, 21))
        before.append((23, 19, 71, 15, 38, 24, 29, 43))
        y = np.array(after, float).T.reshape(1, 24)
        x = np.log(np.array(before) + 0.5).T.reshape(1, 24)
        counts = Counts(y, np.zeros_like(y), np.ones_like(y))
        found = fit(blocks_of(3, 8), counts, x - x.mean(), 0)
        assert found.failing is not None
        self.assertEqual(np.flatnonzero(found.failing.plants[0]).tolist(), [22])
        self.assertGreater(found.weight[0, found.one_kind :].sum(), 0.9)

    def test_none_missed_is_sure(self) -> None:
        low, _, high = self.removed(1, 0, 2, 1, 1, 0, 1, 1)
        self.assertTrue(low > 0.9 and high > 0.98, (low, high))

    def test_plants_that_vary_as_plants_do_are_of_one_kind(self) -> None:
        layout, trials = blocks_of(3, 8), 1000
        mean = 40 * np.array([1.0, 0.2, 0.5])[layout.remedy] * RNG.gamma(4, 0.25, (trials, 24))
        y = RNG.poisson(mean).astype(float)
        found = fit(layout, Counts(y, np.zeros_like(y), np.ones_like(y)), None, 0)
        second = found.weight[:, found.one_kind :].sum(axis=1)
        self.assertLess(second.mean(), 0.06)
        self.assertLess(np.mean(second > 0.5), 0.03)

    def test_shares_too(self) -> None:
        """Of 20, all hatched untreated; treated 1 of 20, but on two plants of six nearly all."""
        layout = Layout(np.repeat([0, 1], 6))
        y = np.array([[18.0, 17, 19, 18, 16, 18, 1, 0, 17, 2, 18, 1]])
        found = fit(layout, Shares(y, np.full_like(y, 20.0), np.ones_like(y)), None, 0)
        levels = draw_levels(found, 8192, 1)[0]
        harm = -np.logaddexp(0, -levels)
        removed = 1 - np.exp(np.quantile(harm[:, 1] - harm[:, 0], [0.975, 0.5, 0.025]))
        self.assertAlmostEqual(removed[1], 0.95 * 4 / 6, delta=0.06)
        self.assertTrue(removed[0] < 0.35 and removed[2] < 0.93, removed)


class Freedom(unittest.TestCase):
    def test_what_chance_makes_in_counting_needs_no_plants_to_be_known(self) -> None:
        """Twelve plants, three remedies: nine free ones tell how strongly counts clump."""
        layout = blocks_of(3, 4)
        few = RNG.poisson(2.0, (1, 12)).astype(float)
        many = RNG.poisson(60 * RNG.gamma(1, 1, (1, 12))).astype(float)
        known = np.ones((1, 12))
        freedom = [fit(layout, Counts(y, 0 * y, known), None).freedom() for y in (few, many)]
        self.assertGreater(freedom[0], 15)
        self.assertIn(freedom[1], (9, 10))


if __name__ == "__main__":
    unittest.main()
