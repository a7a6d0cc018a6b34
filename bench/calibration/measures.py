"""The other measures: do the intervals hold for what is no plain count in whole blocks?

Percentages and grades read by eye, hatched and dead, catches of traps that hung for unequal days,
the area under all looks, unequal effort, plants that never had pests, plants that differ by wider
laws than the model has, and many remedies at once. Each trial is judged as a table, one by one.

Run: .venv/bin/python -m bench.calibration.measures [trials].
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from orthocris.core import Observation, Verdict, judge

Rng = np.random.Generator
Numbers = np.ndarray  # (blocks, remedies), the control first
LEFT = (1.0, 0.05, 0.5, 1.0)
TEN = (1.0, 0.03, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.8, 1.0, 1.0)
USELESS, EVEN = (1.0, 1.0, 1.0, 1.0), (0.05, 0.05, 0.05)
NAMES = ("control", *"abcdefghij")
NAME_WIDTH = 40
MOST_SAID = 0.999  # no interval ends at 100%: whatever removed more is held where this is


@dataclass(frozen=True)
class World:
    """A truth, and how its tables are made: what each remedy leaves, blocks, and the look."""

    table: Callable[[Rng, np.ndarray, int], list[Observation]]
    left: tuple[float, ...] = LEFT
    blocks: int = 6
    look: str = "last"
    on_trial: Callable[[Rng, np.ndarray, int], np.ndarray] | None = None
    """What was removed from the plants on trial, where that is asked and not the long run."""


def rows(
    after: Numbers,
    before: Numbers | None = None,
    *,
    measure: str = "live",
    day: float = 7.0,
    of: float | None = None,
    effort: tuple[Numbers, Numbers] | None = None,
    blocked: bool = True,
) -> list[Observation]:
    """Write numbers as a table; `effort` is that after and that before."""
    found = []
    for (b, r), value in np.ndenumerate(after):
        block = f"b{b}" if blocked else None
        now, then = (1.0, 1.0) if effort is None else (float(e[b, r]) for e in effort)
        plant, name = f"p{b}.{r}", NAMES[r]
        if before is not None:
            start = float(before[b, r])
            found.append(Observation(plant, block, name, 0.0, measure, start, of, then))
        found.append(Observation(plant, block, name, day, measure, float(value), of, now))
    return found


def level(rng: Rng, left: np.ndarray, blocks: int, mean: float, sd: float = 0.4) -> Numbers:
    """What each plant's block would have, (blocks, remedies)."""
    return np.repeat(mean * np.exp(rng.normal(0, sd, (blocks, 1))), len(left), axis=1)


@dataclass(frozen=True)
class Plants:
    """Counted plants: some never have pests, they vary by a law, the count before tells less.

    `by_block` is how a remedy's effect differs from block to block, in logs.
    """

    start: float = 40.0
    clean: float = 0.0
    law: str = "gamma"
    slope: float = 1.0
    sd: float = 0.4
    effort: bool = False
    blocked: bool = True
    by_block: float = 0.0


PLAIN = Plants()


def counts(rng: Rng, left: np.ndarray, blocks: int, plants: Plants = PLAIN) -> list[Observation]:
    """Counts before and after."""
    block = level(rng, left, blocks, plants.start, plants.sd)
    own = {
        "gamma": rng.gamma(4, 0.25, block.shape),
        "lognormal": np.exp(rng.normal(-0.25, 0.7, block.shape)),
        "t": np.exp(0.35 * np.clip(rng.standard_t(3, block.shape), -15, 15)),  # at most 190 times
    }[plants.law]
    has = rng.random(block.shape) >= plants.clean
    mean = block * own**plants.slope * left * rng.gamma(4, 0.25, block.shape) * has
    if plants.by_block:
        sd = plants.by_block * (left != 1)
        mean = mean * np.exp(rng.normal(-(sd**2) / 2, sd, block.shape))
    then, now = (rng.integers(1, 7, block.shape) / 6.0 for _ in range(2))
    if plants.effort:
        numbers = rng.poisson(mean * now), rng.poisson(block * own * has * then)
        return rows(*numbers, effort=(now, then))
    return rows(rng.poisson(mean), rng.poisson(block * own * has), blocked=plants.blocked)


def colonies(rng: Rng, left: np.ndarray, blocks: int, *, number: int) -> list[Observation]:
    """Counts of plants with so many colonies, which a remedy wipes out or leaves whole."""
    own, stays = _colonies(rng, left, blocks, number)
    return rows(rng.poisson(stays), rng.poisson(own))


def gone(rng: Rng, left: np.ndarray, blocks: int, *, number: int) -> np.ndarray:
    """What `colonies` drawn from the same state removed from its own plants."""
    own, stays = _colonies(rng, left, blocks, number)
    return np.asarray(1 - stays.sum(axis=0) / own.sum(axis=0))


def _colonies(rng: Rng, left: np.ndarray, blocks: int, number: int) -> tuple[Numbers, Numbers]:
    own = level(rng, left, blocks, 40.0)
    own *= rng.gamma(4, 0.25, own.shape)
    size = rng.gamma(1.0, 1.0, (number, *own.shape))
    stays = rng.random(size.shape) < left
    return own, own * (size * stays).sum(axis=0) / size.sum(axis=0)


def clumps(rng: Rng, left: np.ndarray, blocks: int, *, phi: tuple[float, ...]) -> list[Observation]:
    """Counts from 40 whose clumping is each remedy's own: gamma laws with these variances."""
    own = level(rng, left, blocks, 40.0) * rng.gamma(20, 1 / 20, (blocks, len(left)))
    law = np.array(phi)
    mean = own * left * rng.gamma(1 / law, law, own.shape)
    return rows(rng.poisson(mean), rng.poisson(own))


def covers(
    rng: Rng,
    left: np.ndarray,
    blocks: int,
    *,
    even: float = 10.0,
    before: bool = True,
    law: str = "beta",
    middle: float = 0.35,
) -> list[Observation]:
    """Per cent of the leaf area, in whole points; plants vary by a beta law or in logs."""
    base = np.minimum(level(rng, left, blocks, middle, 0.3), 0.8)
    if law == "lognormal":
        own = base * np.exp(rng.normal(-0.125, 0.5, base.shape))
        after = own * left * np.exp(rng.normal(-0.125, 0.5, base.shape))
        then, now = (np.round(100 * np.minimum(share, 1.0)) for share in (own, after))
    else:
        mean = np.clip(base * left, 1e-3, 0.95)
        then, now = (np.round(100 * rng.beta(m * even, (1 - m) * even)) for m in (base, mean))
    return rows(now, then if before else None, measure="cover")


def grades(
    rng: Rng, left: np.ndarray, blocks: int, *, leaves: int = 3, law: str = "beta"
) -> list[Observation]:
    """Grades 0 to 5 of some leaves of each plant; plants vary by a beta law or in logits."""
    mean = np.clip(np.minimum(level(rng, left, blocks, 0.5, 0.2), 0.9) * left, 1e-3, 0.95)
    own = _plants_about(rng, mean, 12.0, law)
    return [o for _ in range(leaves) for o in rows(rng.binomial(5, own), measure="rating")]


def _plants_about(rng: Rng, mean: Numbers, even: float, law: str) -> Numbers:
    """Each plant's own share: by a beta law, or normal on the logit scale about the same mean."""
    if law == "beta":
        return rng.beta(even * mean, even * (1 - mean))
    spread = 1.5 / np.sqrt(even / 4)
    # What a normal logit has to lie about for its mean to be this (Zeger et al. 1988).
    middle = np.log(mean / (1 - mean)) * np.sqrt(1 + 0.346 * spread**2)
    return np.asarray(1 / (1 + np.exp(-rng.normal(middle, spread))))


def shares(
    rng: Rng,
    left: np.ndarray,
    blocks: int,
    *,
    measure: str,
    natural: float,
    of: int = 15,
    law: str = "beta",
) -> list[Observation]:
    """Hatched or dead out of all, of which a share hatches or lives untreated."""
    mean = np.clip(natural * left, 1e-3, 0.999) * np.ones((blocks, 1))
    alive = rng.binomial(of, _plants_about(rng, mean, 19.0, law))
    return rows(alive if measure == "hatched" else of - alive, measure=measure, of=float(of))


def under_the_curve(
    rng: Rng, left: np.ndarray, blocks: int, *, law: str = "gamma"
) -> list[Observation]:
    """Three looks after the spray."""
    block = level(rng, left, blocks, 40.0) * _about_one(rng, (blocks, len(left)), law)
    stays = _about_one(rng, block.shape, law)
    found = rows(rng.poisson(block), day=0.0)
    for day in (3.0, 7.0, 14.0):
        now = block * left * stays * rng.gamma(8, 1 / 8, block.shape)
        found += rows(rng.poisson(now), day=day)
    return found


def _about_one(rng: Rng, shape: tuple[int, ...], law: str) -> Numbers:
    """What plants differ by, with mean 1: by a gamma law, or in logs."""
    if law == "gamma":
        return rng.gamma(4, 0.25, shape)
    return np.exp(rng.normal(-0.125, 0.5, shape))


def traps(rng: Rng, left: np.ndarray, blocks: int, *, law: str = "gamma") -> list[Observation]:
    """Catches of traps that hung for five, seven or nine days."""
    days = rng.choice([5.0, 7.0, 9.0], (blocks, len(left)))
    mean = level(rng, left, blocks, 5.0) * left * _about_one(rng, days.shape, law) * days
    return rows(rng.poisson(mean), measure="catch", effort=(days, days))


WORLDS = {
    "a third of the plants clean": World(partial(counts, plants=Plants(clean=0.3))),
    "half of the plants clean, 8 blocks": World(
        partial(counts, plants=Plants(clean=0.5)), blocks=8
    ),
    "start 3, a third clean": World(partial(counts, plants=Plants(start=3.0, clean=0.3))),
    "plants lognormal": World(partial(counts, plants=Plants(law="lognormal"))),
    "plants by Student's t of 3": World(partial(counts, plants=Plants(law="t"))),
    "the count before tells nothing": World(partial(counts, plants=Plants(slope=0.0))),
    "blocks differ by 1.5 logs": World(partial(counts, plants=Plants(sd=1.5))),
    "no blocks, 5 plants each": World(partial(counts, plants=Plants(blocked=False)), blocks=5),
    "effort 1 to 6": World(partial(counts, plants=Plants(effort=True))),
    "start 500": World(partial(counts, plants=Plants(start=500.0))),
    "99.5%, 98%, 70%": World(counts, (1.0, 0.005, 0.02, 0.3)),
    "ten remedies, 3 blocks": World(counts, TEN, 3),
    "ten remedies, 6 blocks from 8": World(partial(counts, plants=Plants(start=8.0)), TEN),
    "cover": World(covers),
    "cover, none before": World(partial(covers, before=False)),
    "cover, even plants": World(partial(covers, even=60.0)),
    "cover, uneven plants, 4 blocks": World(partial(covers, even=5.0), blocks=4),
    "cover, lognormal": World(partial(covers, law="lognormal", middle=0.25)),
    "cover, lognormal, 4 blocks, none before": World(
        partial(covers, law="lognormal", middle=0.2, before=False), blocks=4
    ),
    "grades of three leaves": World(grades),
    "grades of one leaf": World(partial(grades, leaves=1)),
    "hatched out of 15": World(partial(shares, measure="hatched", natural=0.9)),
    "hatched out of 8, 4 blocks": World(
        partial(shares, measure="hatched", natural=0.9, of=8), blocks=4
    ),
    "dead out of 15, a tenth by itself": World(partial(shares, measure="dead", natural=0.9)),
    "dead out of 15, a third by itself": World(partial(shares, measure="dead", natural=0.7)),
    "area under the curve": World(under_the_curve, look="auc"),
    "catch per trap and day": World(traps),
    "remedy by block, 0.5 logs": World(partial(counts, plants=Plants(by_block=0.5))),
    "whole colonies of five wiped out": World(partial(colonies, number=5)),
    "– of five, on the plants on trial": World(
        partial(colonies, number=5), on_trial=partial(gone, number=5)
    ),
    "whole colonies of two, 8 blocks": World(partial(colonies, number=2), blocks=8),
    "– of two, on the plants on trial": World(
        partial(colonies, number=2), blocks=8, on_trial=partial(gone, number=2)
    ),
    "grades of three leaves, logit normal": World(partial(grades, law="logit")),
    "hatched out of 15, logit normal": World(
        partial(shares, measure="hatched", natural=0.9, law="logit")
    ),
    "dead out of 15, logit normal": World(
        partial(shares, measure="dead", natural=0.9, law="logit")
    ),
    "area under the curve, lognormal": World(partial(under_the_curve, law="lognormal"), look="auc"),
    "catch, lognormal": World(partial(traps, law="lognormal")),
    "control clumps (phi 1), 4 blocks": World(partial(clumps, phi=(1.0, *EVEN)), USELESS, 4),
    "control clumps (phi 2), 4 blocks": World(partial(clumps, phi=(2.0, *EVEN)), USELESS, 4),
    "control clumps (phi 2), 6 blocks": World(partial(clumps, phi=(2.0, *EVEN)), USELESS),
    "remedies clump (phi 1), 4 blocks": World(
        partial(clumps, phi=(0.05, 1.0, 1.0, 1.0)), USELESS, 4
    ),
    "remedies clump (phi 2), 6 blocks": World(partial(clumps, phi=(0.05, 2.0, 2.0, 2.0)), USELESS),
    "one remedy clumps (phi 2), 6 blocks": World(
        partial(clumps, phi=(0.05, 2.0, 0.05, 0.05)), USELESS
    ),
}


def one(seed: int, name: str) -> tuple[list[float], list[bool], bool, bool, bool, bool]:
    """Judge one trial: held by remedy, shown by remedy, false claim, wrong winner, named, worse."""
    world = WORLDS[name]
    left = np.array(world.left)
    start = [seed, len(name), ord(name[0])]
    seen = world.table(np.random.default_rng(start), left, world.blocks)
    verdict = judge(seen, look=world.look)
    found = {r.name: r for r in verdict.remedies}
    removed = 1 - left
    if world.on_trial is not None:
        gone_here = world.on_trial(np.random.default_rng(start), left, world.blocks)
        removed = np.minimum(gone_here, MOST_SAID)
    here = dict(zip(NAMES[1:], removed[1:], strict=False))
    truth = dict(zip(NAMES[1:], 1 - left[1:], strict=False))
    held = [
        float(r.efficacy_low <= here[n] <= r.efficacy_high)
        if r.efficacy_low is not None and r.efficacy_high is not None
        else np.nan
        for n, r in ((n, found[n]) for n in truth)
    ]
    shown = [found[n].beats_control for n in truth if truth[n] > 0]
    false = any(found[n].beats_control for n in truth if truth[n] <= 0)
    winner = _winner(verdict)
    best = max(truth, key=lambda n: truth[n])
    worse = any(found[n].worse_than_control for n in truth if truth[n] >= 0)
    return held, shown, false, winner not in (None, best), winner == best, worse


def _winner(verdict: Verdict) -> str | None:
    alone = [r.name for r in verdict.remedies if r.could_be_best]
    return alone[0] if verdict.outcome.value == "winner" and len(alone) == 1 else None


def main() -> None:
    """Print a line for each world."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print(f"{'world':{NAME_WIDTH}s} holds min max  false  wrong winner  power  best named  worse")
    with ProcessPoolExecutor() as pool:
        for name in WORLDS:
            told = list(pool.map(partial(one, name=name), range(trials), chunksize=20))
            held = np.nanmean([t[0] for t in told], axis=0)
            shown, false, wrong, named, worse = (
                float(np.mean([t[k] for t in told])) if told[0][k] != [] else np.nan
                for k in range(1, 6)
            )
            print(
                f"{name:{NAME_WIDTH}s} {held.min():.3f} {held.max():.3f}  {false:.3f}  "
                f"{wrong:.3f}  {shown:.3f}  {named:.3f}  {worse:.3f}",
                flush=True,
            )


if __name__ == "__main__":
    main()
