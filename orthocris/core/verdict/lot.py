"""The lot: every layout it could have drawn, and the statistics that each would have given."""

from __future__ import annotations

import numpy as np

from orthocris.core.verdict.layouts import IntArray
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray


class Lot:
    """The layouts of a trial, with the arithmetic that all statistics share.

    Many trials of one design share the layouts; each has its own covariate.

    Parameters
    ----------
    layout:
        The layout in use.
    layouts:
        The reference set, the layout in use first, (layouts, plants).
    x:
        The covariate of each plant, (trials, plants), or None.
    reference:
        Index of the control.
    """

    def __init__(
        self, layout: Layout, layouts: IntArray, x: FloatArray | None, reference: int
    ) -> None:
        self.layout, self.layouts, self.reference = layout, layouts, reference
        self.others = [r for r in range(layout.remedies) if r != reference]
        self._basis = _grouping_basis(layout)
        self._x = None if x is None else self._beside_groupings(x)
        member = np.take(np.eye(layout.remedies)[:, self.others], layouts.T, axis=0)
        self._flat = member.reshape(len(layout.remedy), -1)
        # Within blocks each layout has the same remedies in each block: one inverse serves all.
        own = member if layout.column is not None else member[:, :1]
        self._inverse = _inverses(self._basis, own.transpose(1, 0, 2))
        self._tilt = None if self._x is None else self._tilts(self._x)

    @property
    def df(self) -> int:
        """Residual degrees of freedom of the full model; below 1 the lot has nothing to say."""
        used = int(self._basis.shape[1]) + len(self.others) + (self._x is not None)
        return len(self.layout.remedy) - used

    def statistics(self, response: FloatArray, rows: IntArray) -> FloatArray:
        """Return the studentised difference of each remedy from the control.

        Parameters
        ----------
        response:
            Residuals beside blocks and covariate, (some trials, plants).
        rows:
            Which trials they are.

        Returns
        -------
        Shape (some trials, layouts, remedies - 1): analysis of covariance of every layout. With the
        covariate, the inverse of the cross-products is that without it, changed by one outer
        product (Sherman & Morrison 1950, Annals of Mathematical Statistics 21, 124-127).
        """
        along = self._along(response)
        effect = self._times_inverse(along)
        variance = np.broadcast_to(np.einsum("lii->li", self._inverse), effect.shape)
        if self._tilt is not None:
            tie, turned, free = (part[rows] for part in self._tilt)
            effect = effect + turned * (_dots(tie, effect) * free)[:, :, None]
            variance = variance + turned**2 * free[:, :, None]
        total = np.sum(response**2, axis=1)[:, None]
        rest = np.maximum(total - _dots(effect, along), 1e-12 * total + 1e-300)
        # Layouts that leave nothing to tell a remedy by have no variance, up to rounding.
        error = np.sqrt(rest[:, :, None] / max(self.df, 1) * np.maximum(variance, 0.0))
        return np.asarray(np.divide(effect, error, out=np.zeros_like(effect), where=error > 0))

    def residuals(self, response: FloatArray, freed: tuple[int, ...], rows: IntArray) -> FloatArray:
        """Return what blocks, covariate and the effects of the freed remedies leave unexplained.

        Under "the others do nothing" these are what the lot shuffles (Freedman & Lane 1983,
        Journal of Business & Economic Statistics 1, 292-298); with nothing freed it is exact.
        Plants without a number (nan) are taken to be as expected.
        """
        effects = (self.layout.remedy == np.array(freed, dtype=int)[:, None]).astype(float)
        free = self._beside_groupings(effects)
        if not np.isfinite(response).all():
            return np.stack([self._left(y, free, r) for y, r in zip(response, rows, strict=True)])
        left = self._beside_groupings(response)
        taken = np.broadcast_to(free, (len(rows), *free.shape))
        if self._x is not None:
            taken = np.concatenate([taken, self._x[rows][:, None, :]], axis=1)
        basis = _orthonormal(taken.swapaxes(1, 2))
        along = np.matmul(basis.swapaxes(1, 2), left[:, :, None])
        return np.asarray(left - np.matmul(basis, along)[:, :, 0])

    def _left(self, y: FloatArray, free: FloatArray, row: int) -> FloatArray:
        """The same of one trial, whose plants have not all a number."""
        taken = free if self._x is None else np.vstack([free, self._x[row]])
        known = np.isfinite(y)
        full = _orthonormal(np.column_stack([self._basis, taken.T])[known])
        left = np.zeros_like(y)
        left[known] = y[known] - full @ (full.T @ y[known])
        return np.asarray(self.residuals(left[None, :], (), np.array([row]))[0])

    def _tilts(self, x: FloatArray) -> tuple[FloatArray, FloatArray, FloatArray]:
        """What the covariate changes in each layout's arithmetic."""
        tie = self._along(x)
        turned = self._times_inverse(tie)
        square = np.sum(x**2, axis=1)[:, None]
        left = square - _dots(tie, turned)
        known = left > 1e-9 * (square + 1e-300)
        return tie, turned, np.divide(1.0, left, out=np.zeros_like(left), where=known)

    def _along(self, response: FloatArray) -> FloatArray:
        sums = response @ self._flat
        return np.asarray(sums.reshape(len(response), len(self.layouts), len(self.others)))

    def _times_inverse(self, along: FloatArray) -> FloatArray:
        if len(self._inverse) == 1:  # of all layouts, and symmetric
            return np.asarray(along @ self._inverse[0])
        return np.asarray(np.matmul(self._inverse, along[:, :, :, None])[:, :, :, 0])

    def _beside_groupings(self, values: FloatArray) -> FloatArray:
        return np.asarray(values - (values @ self._basis) @ self._basis.T)


def _dots(one: FloatArray, other: FloatArray) -> FloatArray:
    """Products summed over the remedies, (trials, layouts)."""
    return np.asarray(np.einsum("tlk,tlk->tl", one, other))


def _grouping_basis(layout: Layout) -> FloatArray:
    """An orthonormal basis of the constant, the blocks and the columns."""
    if layout.block is None:
        return np.full((len(layout.remedy), 1), len(layout.remedy) ** -0.5)
    blocks = np.eye(int(layout.block.max()) + 1)[layout.block]
    if layout.column is None:
        return np.asarray(blocks / np.sqrt(blocks.sum(axis=0)))
    columns = np.eye(int(layout.column.max()) + 1)[layout.column]
    found = _orthonormal(np.column_stack([blocks, columns]))
    return found[:, found.any(axis=0)]


def _inverses(basis: FloatArray, member: FloatArray) -> FloatArray:
    """Inverses of the remedies' cross-products beside the groupings, (layouts, k, k).

    A layout that ties a remedy to a block tells nothing of it: hence the pseudo-inverse.
    """
    within = np.matmul(basis.T, member)
    cross = -np.matmul(within.transpose(0, 2, 1), within)
    k = member.shape[2]
    cross[:, range(k), range(k)] += member.sum(axis=1)
    return np.linalg.pinv(cross, rcond=1e-9, hermitian=True)


def _orthonormal(columns: FloatArray) -> FloatArray:
    """An orthonormal basis of what the columns span, of one matrix or of many; zeros fill it up."""
    if not columns.shape[-1]:
        return columns
    left, size, _ = np.linalg.svd(columns, full_matrices=False)
    spans = size > 1e-9 * np.maximum(size[..., :1], 1e-12)
    return np.asarray(left * spans[..., None, :])
