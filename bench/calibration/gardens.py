"""The gardens that are simulated: what is true in them, and how they are counted."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from orthocris.core import Observation
from orthocris.core.planning.many_trials import Tables
from orthocris.core.verdict.model.frame import Layout

LETTERS = "abcdefg"


@dataclass(frozen=True)
class Garden:
    """A truth to simulate.

    Attributes
    ----------
    survival:
        What each remedy leaves; None: drawn anew for each trial, evenly from nothing to all, or
        with `logs` evenly on the log scale.
    blocks, start, clump, block_sd:
        Plants of each remedy, mean count before, the gamma shape of what plants vary by after (0:
        Poisson), and how blocks differ in logs.
    kind:
        ``counts``; ``square`` (Latin, of as many sides as remedies); ``shares`` (survivors of
        `of`, `rise` the control's survival, `correlation` within a plant); ``patchy`` (the first
        `patchy` remedies work on seven plants of ten only).
    missing:
        Remedies that each block lacks (incomplete blocks); the control stands in all.
    before:
        False where nothing was counted before.
    rise:
        What the control grows by.
    lost:
        The chance that a plant is lost; such trials are judged one by one.
    """

    name: str
    survival: tuple[float, ...] | None
    blocks: int = 4
    start: float = 40.0
    clump: float = 4.0
    block_sd: float = 0.4
    kind: str = "counts"
    missing: int = 0
    before: bool = True
    rise: float = 1.0
    lost: float = 0.0
    leaves: int = 0
    of: int = 20
    correlation: float = 0.05
    remedies: int = 4
    logs: bool = False
    patchy: int = 1

    @property
    def truth(self) -> tuple[float, ...]:
        """The fraction truly removed by each remedy."""
        return tuple(1 - s for s in self.survival or ())

    @property
    def count(self) -> int:
        """Number of remedies, the control included."""
        return self.remedies if self.survival is None else len(self.survival) + 1


@dataclass(frozen=True)
class Drawn:
    """Trials of a garden: their design, their numbers, and what each remedy truly leaves.

    `left` is what it leaves in the long run, `here` what it left on the plants of the trial; both
    are (trials, remedies), the control first.
    """

    layout: Layout
    tables: Tables
    left: np.ndarray
    here: np.ndarray | None = None


def layout_of(garden: Garden) -> Layout:
    """Return the garden's design."""
    g, b = garden.count, garden.blocks
    if garden.kind == "square":
        row, column = np.repeat(np.arange(g), g), np.tile(np.arange(g), g)
        return Layout((row + column) % g, row, column)
    remedy, block = [], []
    for k in range(b):
        out = {1 + (k + j) % (g - 1) for j in range(garden.missing)}
        inside = [r for r in range(g) if r not in out]
        remedy += inside
        block += [k] * len(inside)
    return Layout(np.array(remedy), np.array(block))


def draw(garden: Garden, trials: int, rng: np.random.Generator) -> Drawn:
    """Draw many trials of a garden."""
    layout = layout_of(garden)
    left = np.ones((trials, garden.count))
    left[:, 1:] = (
        _any_truth(garden, trials, rng) if garden.survival is None else np.array(garden.survival)
    )
    if garden.kind == "shares":
        return Drawn(layout, _shares(garden, layout, left, rng), left)
    level = garden.start * np.exp(_spread(garden, layout.block, trials, rng))
    level *= np.exp(_spread(garden, layout.column, trials, rng))
    own = level * rng.gamma(4, 0.25, level.shape)
    mean = own * left[:, layout.remedy] * garden.rise
    here = None
    if garden.kind == "patchy":
        works = np.where(rng.random(mean.shape) < 0.7, 0.02, 1.0)
        some = (layout.remedy > 0) & (layout.remedy <= garden.patchy)
        mean = np.where(some, own * works, mean)
        here = left.copy()
        for remedy in range(1, garden.patchy + 1):
            here[:, remedy] = works[:, layout.remedy == remedy].mean(axis=1)
    if garden.clump:
        mean = mean * rng.gamma(garden.clump, 1 / garden.clump, mean.shape)
    start = np.log(rng.poisson(own) + 0.5) if garden.before else None
    return Drawn(layout, Tables(rng.poisson(mean).astype(float), None, start), left, here)


def _any_truth(garden: Garden, trials: int, rng: np.random.Generator) -> np.ndarray:
    size = (trials, garden.count - 1)
    return np.exp(rng.uniform(np.log(0.01), 0, size)) if garden.logs else rng.uniform(0.01, 1, size)


def _spread(
    garden: Garden, label: np.ndarray | None, trials: int, rng: np.random.Generator
) -> np.ndarray:
    if label is None:
        return np.zeros((trials, 1))
    return rng.normal(0, garden.block_sd, (trials, int(label.max()) + 1))[:, label]


def _shares(garden: Garden, layout: Layout, left: np.ndarray, rng: np.random.Generator) -> Tables:
    p = np.clip(garden.rise * left[:, layout.remedy], 1e-4, 1 - 1e-4)
    shift = rng.normal(0, 0.3, (len(left), garden.blocks))[:, layout.block]
    p = 1 / (1 + np.exp(-(np.log(p / (1 - p)) + shift)))
    if garden.correlation:
        size = 1 / garden.correlation - 1
        p = rng.beta(np.maximum(p * size, 1e-6), np.maximum((1 - p) * size, 1e-6))
    return Tables(rng.binomial(garden.of, p).astype(float), float(garden.of), None)


def observations(
    garden: Garden, drawn: Drawn, trial: int, rng: np.random.Generator
) -> Iterator[Observation]:
    """Write one trial as a table, with plants lost and leaves of one plant where there are any."""
    layout, tables = drawn.layout, drawn.tables
    for k, r in enumerate(layout.remedy):
        name = "control" if r == 0 else LETTERS[r - 1]
        block = None if layout.block is None else f"b{layout.block[k]}"
        seen = Observation(f"p{k}", block, name, 7.0, "live", float(tables.harm[trial, k]))
        days = [] if rng.random() < garden.lost else [seen]
        if tables.start is not None:
            before = float(round(np.exp(tables.start[trial, k]) - 0.5))
            days.append(seen._replace(day=0.0, value=before))
        for one in days:
            if not garden.leaves:
                yield one
                continue
            left = int(one.value)
            for leaf in range(garden.leaves):
                part = rng.binomial(left, 1 / (garden.leaves - leaf))
                left -= part
                name = f"{one.plant}.{leaf}"
                yield one._replace(plant=name, block=None, group=block, value=float(part))


MIXED = (0.05, 0.5, 1.0)
NOTHING = (1.0, 1.0, 1.0, 1.0)
CLUMPS = {0.0: "Poisson", 4.0: "clumped", 1.0: "strongly clumped"}


def grid() -> tuple[Garden, ...]:
    """The published grid."""
    mixed = [
        Garden(f"mixed, start {s:g}, {b} blocks, {CLUMPS[c]}", MIXED, b, s, c)
        for b in (3, 4, 6, 8)
        for s in (3.0, 8.0, 40.0, 200.0)
        for c in CLUMPS
    ]
    nothing = [
        Garden(f"nothing works, start {s:g}, {b} blocks, {CLUMPS[c]}", NOTHING, b, s, c)
        for b in (3, 4, 8)
        for s, c in ((3.0, 0.0), (40.0, 4.0), (40.0, 1.0))
    ]
    return (*mixed, *nothing, *SPECIAL)


SPECIAL = (
    Garden("any truth, start 40, 4 blocks", None, 4),
    Garden("any truth, start 8, 6 blocks", None, 6, 8.0),
    Garden("any truth, 6 remedies, start 40, 8 blocks", None, 8, remedies=7),
    Garden("any truth in logs, start 40, 4 blocks", None, 4, logs=True),
    Garden("any truth in logs, start 8, 6 blocks", None, 6, 8.0, logs=True),
    Garden("any truth in logs, 6 remedies, 8 blocks", None, 8, remedies=7, logs=True),
    Garden("one remedy, 6 blocks", (0.1,), 6),
    Garden("one remedy, 4 blocks", (0.1,), 4),
    Garden("two remedies, 3 blocks", (0.1, 1.0), 3),
    Garden("two remedies, 4 blocks", (0.1, 1.0), 4),
    Garden("two useless remedies, 4 blocks", (1.0, 1.0), 4),
    Garden("one useless remedy, 6 blocks", (1.0,), 6),
    Garden("five remedies, 6 blocks", (0.05, 0.2, 0.5, 0.8, 1.0), 6),
    Garden("two tie at 80%, 6 blocks", (0.2, 0.2, 1.0), 6),
    Garden("three tie at 90%, 8 blocks", (0.1, 0.1, 0.1), 8),
    Garden("five clear remedies, 4 blocks", (0.05, 0.3, 0.5, 0.7, 0.9), 4),
    Garden("97% and 90% from 15, 4 blocks", (0.03, 0.1, 0.6), 4, 15.0),
    Garden("truths 0, 20, 40%, worth from 60%, 4 blocks", (1.0, 0.8, 0.6), 4),
    Garden("all at 55%, worth from 60%, 8 blocks", (0.45, 0.45, 0.45), 8),
    Garden("all at 65%, worth from 60%, 8 blocks", (0.35, 0.35, 0.35), 8),
    Garden("plants lost (15%), 6 blocks", MIXED, 6, lost=0.15),
    Garden("no count before, 6 blocks", MIXED, 6, before=False),
    Garden("crash: a tenth left untreated, 6 blocks", MIXED, 6, rise=0.1),
    Garden("boom: five times untreated, 6 blocks", MIXED, 6, start=20.0, rise=5.0),
    Garden("ten times worse, 4 blocks", (0.3, 10.0), 4),
    Garden("incomplete blocks, 8 of 4 in 5", (0.05, 0.3, 0.5, 1.0), 8, missing=1),
    Garden("Latin square of 4", (0.05, 0.5, 1.0), 4, kind="square"),
    Garden("Latin square of 5", (0.05, 0.3, 0.5, 1.0), 5, kind="square"),
    Garden("two leaves in each of 6 plants", MIXED, 6, leaves=2),
    Garden("patchy 69% against steady 80%, 8 blocks", (0.314, 0.2), 8, kind="patchy"),
    Garden("patchy 69% twice, steady 80%", (0.314, 0.314, 0.2), 8, kind="patchy", patchy=2),
    Garden("patchy 69%, steady 80%, 4 blocks", (0.314, 0.2), 4, kind="patchy"),
    Garden("shares of 20, 95% live, 6 blocks", (0.05, 0.7, 1.0), 6, kind="shares", rise=0.95),
    Garden("shares, clumped, 4 blocks", MIXED, 4, kind="shares", rise=0.8, correlation=0.2),
    Garden("shares, 50% live, 6 blocks", (0.1, 0.5, 1.0), 6, kind="shares", rise=0.5),
)
