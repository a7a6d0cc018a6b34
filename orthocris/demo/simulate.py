"""Pests on plants: a small stochastic model that stands in for a real bench."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True, slots=True)
class Effect:
    """What one remedy does: the share that survives each round, and the burn it leaves.

    `burn` is the mean rise of the 0-5 leaf damage score after the first round.
    """

    survival: float
    burn: float = 0.0


@dataclass(frozen=True, slots=True)
class Outbreak:
    """A pest on a bench.

    `start` is the mean count (or % cover) on a plant, `gradient` how much it rises (on the
    log scale) along a row, `spread` the standard deviation of plants on the log scale,
    `growth` the rate per day on an untreated plant, `ceiling` what a plant can hold.
    """

    start: float
    gradient: float
    spread: float
    growth: float
    ceiling: float
    jitter: float = 0.25


class Bench:
    """The true number of pests on each plant, moved through days and sprays.

    Parameters
    ----------
    outbreak:
        The pest.
    positions:
        Place of each plant along its row, from 0 to 1.
    rng:
        Source of chance.
    """

    def __init__(
        self, outbreak: Outbreak, positions: list[float], rng: np.random.Generator
    ) -> None:
        self._outbreak = outbreak
        self._rng = rng
        place = np.array(positions)
        self.level = outbreak.start * np.exp(
            outbreak.gradient * (place - 0.5) + rng.normal(0, outbreak.spread, len(place))
        )
        self.burn = np.clip(rng.normal(0.2, 0.35, len(place)), 0, 5)

    def grow(self, days: float) -> None:
        """Let the pest grow logistically, with chance from plant to plant."""
        outbreak = self._outbreak
        chance = self._rng.normal(0, outbreak.jitter * np.sqrt(days / 7), len(self.level))
        grown = self.level * np.exp(outbreak.growth * days + chance)
        self.level = grown / (1 + grown / outbreak.ceiling)

    def spray(self, plant: int, effect: Effect, *, first: bool) -> None:
        """Treat one plant."""
        missed = np.exp(self._rng.normal(0, 0.3))  # undersides are never reached alike
        self.level[plant] *= min(effect.survival * missed, 1.0)
        rise = effect.burn if first else effect.burn / 3
        self.burn[plant] += max(0.0, rise * np.exp(self._rng.normal(0, 0.3)))

    def count(self, plant: int) -> float:
        """Count the insects on one plant: Poisson about the true number."""
        return float(self._rng.poisson(self.level[plant]))

    def cover(self, plant: int) -> float:
        """Read the per cent of leaf area covered, in steps of one as an eye does."""
        seen = self.level[plant] * np.exp(self._rng.normal(0, 0.12))
        return float(np.clip(round(seen), 0, 100))

    def damage(self, plant: int) -> float:
        """Score leaf damage 0 to 5."""
        return float(np.clip(round(self.burn[plant] + self._rng.normal(0, 0.25)), 0, 5))


def on_leaves(rng: np.random.Generator, total: float, leaves: int) -> list[int]:
    """Spread a plant's count over some of its leaves, as unevenly as pests sit."""
    shares = rng.dirichlet(np.full(leaves, 2.0))
    return [int(count) for count in rng.multinomial(int(total), shares)]
