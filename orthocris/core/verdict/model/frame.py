"""The columns of the model, and the linear algebra that a step of the fit needs.

Each plant stands in one block, so the blocks' part of the information is diagonal and is eliminated
(Schur complement): what is solved has a row for each remedy, column and covariate only, however
many blocks there are.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.likelihood import FloatArray

IntArray = NDArray[np.int_]
BLOCK_SD = 1.0
SLOPE_MEAN, SLOPE_SD = 0.7, 0.5
# The common mean of the levels is free; this keeps it finite where nothing was left anywhere.
COMMON_SD = 10.0
MOST_PAIRS = 4_000_000  # products of columns kept ready; beyond, they are made as needed


@dataclass(frozen=True, slots=True)
class Layout:
    """A design as the analysis sees it: for each plant its remedy, block and column.

    `remedy` counts from 0; `block` and `column` are None where the design has none, and count
    from 0 where it has. `remedies` is how many there are, control included.
    """

    remedy: IntArray
    block: IntArray | None = None
    column: IntArray | None = None

    @property
    def remedies(self) -> int:
        """Number of remedies, the control included."""
        return int(self.remedy.max()) + 1


class Frame:
    """Coefficients in the order: remedies, columns, the slope (with a covariate), blocks.

    Parameters
    ----------
    layout:
        The design of n plants.
    x:
        The covariate, (trials, n), or None.
    level_sd:
        How far the remedies' levels are thought to lie from their common mean, which is free.
    """

    def __init__(self, layout: Layout, x: FloatArray | None, level_sd: float) -> None:
        g = layout.remedies
        parts = [np.eye(g)[layout.remedy]]
        across = 0
        if layout.column is not None:
            across = int(layout.column.max()) + 1
            parts.append(np.eye(across)[layout.column])
        self.fixed = np.column_stack(parts)  # (n, g + columns)
        self.x = x
        blocks = 0 if layout.block is None else int(layout.block.max()) + 1
        of = np.zeros(len(layout.remedy), dtype=int) if layout.block is None else layout.block
        self.block = (of[:, None] == np.arange(blocks)).astype(float)  # (n, blocks), maybe none
        p = g + across
        self.small = p + (x is not None)
        self.size = self.small + blocks
        self.precision = np.zeros((self.small, self.small))
        self.precision[:g, :g] = (np.eye(g) - 1 / g) / level_sd**2 + (g * COMMON_SD) ** -2
        self.precision[range(g, p), range(g, p)] = 1 / BLOCK_SD**2
        self.middle = np.zeros(self.small)
        if x is not None:
            self.precision[p, p], self.middle[p] = 1 / SLOPE_SD**2, SLOPE_MEAN
        self.reading = np.zeros((g, self.small))  # levels at an average column
        self.reading[:, :g] = np.eye(g)
        self.reading[:, g:p] = 1 / across if across else 0.0

    @cached_property
    def pairs(self) -> FloatArray | None:
        """Products of any two fixed columns, (n, p * p), or None where they are too many."""
        n, p = self.fixed.shape
        if n * p * p > MOST_PAIRS:
            return None
        return (self.fixed[:, :, None] * self.fixed[:, None, :]).reshape(n, -1)

    def predict(self, theta: FloatArray, rows: NDArray[np.intp]) -> FloatArray:
        """Return each plant's linear predictor, (fits, n)."""
        p = self.fixed.shape[1]
        eta = theta[:, :p] @ self.fixed.T
        if self.x is not None:
            eta += theta[:, [p]] * self.x[rows]
        return np.asarray(eta + theta[:, self.small :] @ self.block.T)

    def gather(self, score: FloatArray, rows: NDArray[np.intp]) -> FloatArray:
        """Return the sums of a number per plant over the coefficients' columns, (fits, size)."""
        parts = [score @ self.fixed]
        if self.x is not None:
            parts.append(np.einsum("mn,mn->m", score, self.x[rows])[:, None])
        return np.concatenate([*parts, score @ self.block], axis=1)

    def pull_of_prior(self, theta: FloatArray) -> FloatArray:
        """Return the prior precision times the distance from the prior middle, (fits, size)."""
        found = theta / BLOCK_SD**2
        found[:, : self.small] = (theta[:, : self.small] - self.middle) @ self.precision
        return np.asarray(found)

    def pull_to_prior(self) -> FloatArray:
        """Return the prior precision times the prior middle, (size,)."""
        found = np.zeros(self.size)
        found[: self.small] = self.precision @ self.middle
        return found

    def prior_distance(self, theta: FloatArray) -> FloatArray:
        """Return the squared distance from the prior middle in prior precisions, (fits,)."""
        away = theta[:, : self.small] - self.middle
        own = np.einsum("mi,ij,mj->m", away, self.precision, away)
        return np.asarray(own + np.sum(theta[:, self.small :] ** 2, axis=1) / BLOCK_SD**2)

    def levels(self, theta: FloatArray) -> FloatArray:
        """Return the remedies' levels at an average block and column, (…, remedies)."""
        found = theta[..., : self.small] @ self.reading.T
        if self.size > self.small:
            found += theta[..., self.small :].mean(axis=-1, keepdims=True)
        return np.asarray(found)

    def information(self, weight: FloatArray, rows: NDArray[np.intp]) -> Information:
        """Return the information of the plants' weights and of the prior."""
        p = self.fixed.shape[1]
        own = np.broadcast_to(self.precision, (len(weight), self.small, self.small)).copy()
        own[:, :p, :p] += self._products(weight)
        tilted = None
        if self.x is not None:
            tilted = weight * self.x[rows]
            cross = tilted @ self.fixed
            own[:, p, :p] += cross
            own[:, :p, p] += cross
            own[:, p, p] += np.einsum("mn,mn->m", tilted, self.x[rows])
        between = np.empty((len(weight), self.small, self.block.shape[1]))
        for j in range(p):
            between[:, j] = (weight * self.fixed[:, j]) @ self.block
        if tilted is not None:
            between[:, p] = tilted @ self.block
        return Information(own, between, weight @ self.block + 1 / BLOCK_SD**2)

    def _products(self, weight: FloatArray) -> FloatArray:
        p = self.fixed.shape[1]
        if self.pairs is not None:
            return np.asarray((weight @ self.pairs).reshape(-1, p, p))
        return np.stack([(self.fixed * w[:, None]).T @ self.fixed for w in weight])


@dataclass(frozen=True)
class Information:
    """Information matrices in parts: of the small coefficients, between, and of the blocks.

    `own` is (fits, small, small), `between` (fits, small, blocks), `diagonal` (fits, blocks).
    """

    own: FloatArray
    between: FloatArray
    diagonal: FloatArray

    @cached_property
    def _scaled(self) -> FloatArray:
        """What the small coefficients share with each block, over the block's own information."""
        return self.between / self.diagonal[:, None, :]

    @cached_property
    def _rest(self) -> FloatArray:
        """What is left of the small coefficients' information when blocks are eliminated."""
        return np.asarray(self.own - np.matmul(self._scaled, self.between.transpose(0, 2, 1)))

    def solve(self, right: FloatArray) -> FloatArray:
        """Return the information's inverse times a vector for each fit, (fits, size)."""
        small = self.own.shape[1]
        head, tail = right[:, :small], right[:, small:]
        reduced = head - np.einsum("mib,mb->mi", self._scaled, tail)
        top = np.linalg.solve(self._rest, reduced[:, :, None])[:, :, 0]
        bottom = tail / self.diagonal - np.einsum("mib,mi->mb", self._scaled, top)
        return np.concatenate([top, bottom], axis=1)

    def log_determinant(self) -> FloatArray:
        """Return the log determinant of each, (fits,)."""
        return np.asarray(np.linalg.slogdet(self._rest)[1] + np.log(self.diagonal).sum(axis=1))

    def of_levels(self, frame: Frame) -> FloatArray:
        """Return the covariance of the remedies' levels at an average block, (fits, g, g)."""
        inverse = np.linalg.inv(self._rest)
        blocks = max(self.diagonal.shape[1], 1)
        lean = frame.reading - self._scaled.sum(axis=2)[:, None, :] / blocks
        own = (1 / self.diagonal).sum(axis=1) / blocks**2
        return np.asarray(lean @ inverse @ lean.transpose(0, 2, 1) + own[:, None, None])
