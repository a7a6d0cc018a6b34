"""Trials of few plants, judged many times: leaves, halves, no untreated, jars, rules, two looks.

Run: .venv/bin/python -m bench.calibration.designs [trials]. Prints the rows of the table in
docs/method.md ("What each design can show"); see `__main__.py` for the cores.
"""

from __future__ import annotations

import sys
import zlib
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from orthocris.core.planning.benches import LEFT_BY_USUAL
from orthocris.core.planning.many_trials import Tables, judge_many
from orthocris.core.verdict.model.frame import Layout

CHUNK = 250
DRAWS, LAYOUTS = 4096, 2500
THRESHOLD = 0.6
CLUMP = 4.0  # gamma shape by which plants vary
BETWEEN = 0.4  # by how much neighbourhoods differ, in logs
RULE_ABOVE = 12.0  # left on a plant after two rounds, of 40


@dataclass(frozen=True)
class World:
    """Trials of one design: its layout, what was counted, and what each remedy truly left.

    `left` is (trials, remedies), the control first, on the plants the answer is about.
    """

    layout: Layout
    tables: Tables
    left: np.ndarray


Draw = Callable[[int, np.random.Generator], World]


@dataclass(frozen=True)
class Design:
    """A row of the table."""

    name: str
    draw: Draw


def blocks_of(remedies: int, blocks: int) -> Layout:
    """Complete blocks."""
    return Layout(np.tile(np.arange(remedies), blocks), np.repeat(np.arange(blocks), remedies))


def _counted(
    layout: Layout, left: np.ndarray, start: float, rng: np.random.Generator, clump: float = CLUMP
) -> Tables:
    """Counts before and after on units that vary by block and among themselves."""
    trials, units = len(left), len(layout.remedy)
    block = np.zeros(units, dtype=int) if layout.block is None else layout.block
    level = start * np.exp(rng.normal(0, BETWEEN, (trials, int(block.max()) + 1))[:, block])
    own = level * rng.gamma(CLUMP, 1 / CLUMP, level.shape)
    after = own * left * rng.gamma(clump, 1 / clump, own.shape)
    return Tables(rng.poisson(after).astype(float), None, np.log(rng.poisson(own) + 0.5))


def on_one_plant(
    leaves: int, truth: tuple[float, ...], carried: float, trials: int, rng: np.random.Generator
) -> World:
    """Leaves of one plant, blocks of neighbours; the plant answers in its own way.

    `carried` is the share of what a remedy does that reaches the next leaf along the stem.
    """
    layout = blocks_of(len(truth) + 1, leaves)
    own = np.exp(rng.normal(0, 0.3, (trials, 1)))  # this plant's own answer
    left = np.column_stack([np.ones(trials), np.array(truth) ** own])
    here = np.log(left[:, layout.remedy])
    beside = np.concatenate([here[:, 1:], here[:, -1:]], axis=1)
    return World(layout, _counted(layout, np.exp(here + carried * beside), 15.0, rng, 6.0), left)


def in_pots(pots: int, truth: tuple[float, ...], trials: int, rng: np.random.Generator) -> World:
    """A half or a leaf for each remedy on every plant: the plants are the blocks."""
    layout = blocks_of(len(truth) + 1, pots)
    left = np.tile([1.0, *truth], (trials, 1))
    return World(layout, _counted(layout, left[:, layout.remedy], 20.0, rng), left)


def beside_the_usual(
    plants: int, truth: tuple[float, ...], trials: int, rng: np.random.Generator
) -> World:
    """Nobody is left untreated: what is done anyway is the control, and others are held to it."""
    layout = blocks_of(len(truth) + 1, plants)
    left = np.tile([1.0, *truth], (trials, 1))
    tables = _counted(layout, LEFT_BY_USUAL * left[:, layout.remedy], 40.0, rng)
    return World(layout, tables, left)


def in_jars(jars: int, truth: tuple[float, ...], trials: int, rng: np.random.Generator) -> World:
    """Egg clusters of 12 to 40 in jars of their own: hatched out of all, clusters differ."""
    layout = blocks_of(len(truth) + 1, jars)
    left = np.tile([1.0, *truth], (trials, 1))
    p = np.clip(0.8 * left[:, layout.remedy], 1e-4, 0.9999)
    size = 1 / 0.1 - 1
    hatch = rng.beta(p * size, (1 - p) * size)
    of = 24
    return World(layout, Tables(rng.binomial(of, hatch).astype(float), float(of), None), left)


def by_rule(plants: int, soap: float, neem: float, trials: int, rng: np.random.Generator) -> World:
    """Remedy one changes for all its plants where a look finds too many; remedy two does nothing.

    Two rounds of soap leave `soap`; two more leave as much again of that, or `neem`. What is true
    of a trial is what its own programme did: the rule is part of the remedy.
    """
    layout = blocks_of(3, plants)
    shape = (trials, len(layout.remedy))
    level = 40 * np.exp(rng.normal(0, BETWEEN, (trials, plants))[:, layout.block])
    own = level * rng.gamma(CLUMP, 1 / CLUMP, shape)
    stays = rng.gamma(2 * CLUMP, 0.5 / CLUMP, shape)
    soaped = layout.remedy == 1
    midway = rng.poisson(own * stays * np.where(soaped, soap, 1.0))
    fired = midway[:, soaped].mean(axis=1) > RULE_ABOVE
    left = np.ones((trials, 3))
    left[:, 1] = soap * np.where(fired, neem, soap)
    after = own * stays * left[:, layout.remedy] * rng.gamma(2 * CLUMP, 0.5 / CLUMP, shape)
    tables = Tables(rng.poisson(after).astype(float), None, np.log(rng.poisson(own) + 0.5))
    return World(layout, tables, left)


def at_looks(
    plants: int,
    course: tuple[tuple[float, float], ...],
    looks: int,
    trials: int,
    rng: np.random.Generator,
) -> World:
    """Counts at the last of two looks, or at both together, of few pests on a plant.

    `course` is what each remedy has left at the one and the other. Most of how plants differ is
    there again at the next look, and untreated plants have half as many again by then.
    """
    layout = blocks_of(len(course) + 1, plants)
    left = np.array([(1.0, 1.0), *course]) * [1.0, 1.5]
    left = left[:, -looks:]
    level = 8 * np.exp(rng.normal(0, BETWEEN, (trials, plants))[:, layout.block])
    own = level * rng.gamma(CLUMP, 1 / CLUMP, level.shape)
    stays = rng.gamma(CLUMP / 0.7, 0.7 / CLUMP, own.shape)
    mood = rng.gamma(CLUMP / 0.3, 0.3 / CLUMP, (looks, *own.shape))
    after = rng.poisson(own * stays * mood * left[layout.remedy].T[:, None, :]).sum(axis=0)
    truth = left.sum(axis=1) / left[0].sum()
    tables = Tables(after.astype(float), None, np.log(rng.poisson(own) + 0.5))
    return World(layout, tables, np.tile(truth, (trials, 1)))


def judged(design: Design, trials: int) -> str:
    """One row: how often the interval holds the truth, a useless one works, the best is shown."""
    rng = np.random.default_rng(zlib.crc32(design.name.encode()))
    holds: list[np.ndarray] = []
    false: list[np.ndarray] = []
    shown: list[np.ndarray] = []
    for start in range(0, trials, CHUNK):
        world = design.draw(min(CHUNK, trials - start), rng)
        found = judge_many(
            world.layout, world.tables, threshold=THRESHOLD, seed=1, draws=DRAWS, layouts=LAYOUTS
        )
        truth = 1 - world.left[:, 1:]
        useless = np.isclose(truth, 0)
        holds.append((found.low <= truth) & (truth <= found.high))
        false.append((found.beats & useless).any(axis=1)[useless.any(axis=1)])
        best = truth.argmax(axis=1)
        works = truth.max(axis=1) > 0
        shown.append(found.beats[np.arange(len(best)), best][works])
    cells = [np.concatenate(part) for part in (holds, false, shown)]
    told = [f"{100 * cell.mean():5.1f}" if cell.size else "    –" for cell in cells]
    return f"| {design.name} | {' | '.join(told)} |"


def designs() -> Iterator[Design]:
    """The rows."""
    for leaves in (3, 5, 8):
        draw = partial(on_one_plant, leaves, (0.2,), 0.0)
        yield Design(f"one plant, {leaves} leaves each, 80%", draw)
        none = partial(on_one_plant, leaves, (1.0, 1.0), 0.0)
        yield Design(f"one plant, {leaves} leaves each, two useless", none)
    leaky = partial(on_one_plant, 5, (0.2,), 0.2)
    yield Design("one plant, 5 leaves each, 80%, a fifth carried to the next leaf", leaky)
    for pots in (3, 4, 6, 8):
        yield Design(f"halves of {pots} pots, 80%", partial(in_pots, pots, (0.2,)))
        yield Design(f"halves of {pots} pots, useless", partial(in_pots, pots, (1.0,)))
    for pots in (3, 6):
        draw = partial(in_pots, pots, (0.2, 1.0))
        yield Design(f"a leaf for each on {pots} pots, 80% and useless", draw)
    for plants in (4, 6, 8):
        against = partial(beside_the_usual, plants, (0.35, 1.0))
        name = f"against the usual, {plants} plants each, 65% fewer and no better"
        yield Design(name, against)
    for jars in (3, 4, 6):
        draw = partial(in_jars, jars, (0.2, 1.0))
        yield Design(f"jars, {jars} each, 80% and useless", draw)
    for plants in (4, 6, 8):
        for soap, neem in ((0.5, 0.2), (0.3, 0.2), (1.0, 1.0)):
            rule = partial(by_rule, plants, soap, neem)
            name = f"a rule, {plants} plants each, soap leaves {soap:.0%}, then neem {neem:.0%}"
            yield Design(name, rule)
    for plants in (4, 6, 8):
        for looks, first, said in (
            (1, 0.2, "the last look"),
            (2, 0.2, "two looks, as much at both"),
            (2, 0.3, "two looks, 70% at the first"),
        ):
            course = ((first, 0.2), (1.0, 1.0))
            name = f"{plants} plants each, 8 on a plant, 80% and useless, {said}"
            yield Design(name, partial(at_looks, plants, course, looks))


def main() -> None:
    """Judge every design."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print("| design | holds | a useless one works | the best is shown |\n|---|---|---|---|")
    with ProcessPoolExecutor() as pool:
        for line in pool.map(partial(judged, trials=trials), designs()):
            print(line, flush=True)


if __name__ == "__main__":
    main()
