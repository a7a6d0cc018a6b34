"""Ladders, two-by-twos, prevention, and a verdict read at every look.

Run: .venv/bin/python -m bench.calibration.questions [trials].
"""

from __future__ import annotations

import re
import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from types import MappingProxyType

import numpy as np

from bench.calibration.gardens import Garden, draw
from bench.calibration.measures import NAMES, rows
from orthocris.core import Observation, judge
from orthocris.core.planning.benches import Assumptions
from orthocris.core.planning.many_trials import Judged, judge_many
from orthocris.core.planning.power import answered
from orthocris.core.trial.plan import Role
from orthocris.core.trial.setup import Kind
from orthocris.core.verdict.arrivals import courses, log_rank
from orthocris.core.verdict.both import both_words
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.going_on import left_out
from orthocris.core.verdict.ladder import likely_rung, rising, strength_for
from orthocris.core.verdict.observation import MOST_ADDITIONS
from orthocris.core.verdict.reading import read_trial

CHUNK = 250
FOUR_LOOKS = Terms(planned=(3.0, 7.0, 10.0, 14.0))


def answers(garden: Garden, kind: Kind, trials: int) -> tuple[float, float]:
    """Shares of trials in which a question is answered rightly, and wrongly."""
    rng = np.random.default_rng(7)
    efficacies = tuple(garden.truth)
    assumed = Assumptions(efficacies, kind=kind, threshold=0.6)
    right = wrong = 0
    for start in range(0, trials, CHUNK):
        part = draw(garden, min(CHUNK, trials - start), rng)
        found: Judged = judge_many(
            part.layout, part.tables, threshold=0.6, seed=1, draws=4096, layouts=2500
        )
        yes, no = answered(found, assumed)
        right, wrong = right + int(yes.sum()), wrong + int(no.sum())
    return right / trials, wrong / trials


def ladder(blocks: float, trials: int) -> str:
    """Truths of 40, 50, 65 and 75% against 60%: a rung below it named, and the right one."""
    right, wrong = answers(Garden("", (0.6, 0.5, 0.35, 0.25), int(blocks)), Kind.LADDER, trials)
    return f"ladder, {blocks} blocks: right {right:.3f}, a rung too weak {wrong:.3f}"


WIDE = ((1.0, 0.2), (3.0, 0.5), (9.0, 0.8), (27.0, 0.95))  # strengths, and what they remove
NEEDED = 3.0 * 3.0 ** (1 / 3)  # where the line between them reaches 60%


def wide_ladder(blocks: float, trials: int) -> str:
    """Steps of three: whether the interval holds the strength for 60%, and the likely rung."""
    rng = np.random.default_rng(int(blocks))
    names = [f"rung {dose:g}" for dose, _ in WIDE]
    held = right = 0
    for _ in range(trials):
        seen = []
        for b in range(int(blocks)):
            for name, removed in (("control", 0.0), *zip(names, (e for _, e in WIDE), strict=True)):
                start = 30 * rng.gamma(4, 0.25)
                after = start * (1 - removed) * rng.gamma(6, 1 / 6)
                for day, mean in ((0.0, start), (7.0, after)):
                    count = float(rng.poisson(mean))
                    seen.append(Observation(f"{name}/{b}", str(b), name, day, "live", count))
        reading = read_trial(seen, control="control", measure="live", look="last", seed=1)
        curve = rising(np.column_stack([reading.efficacy(name) for name in names]))
        found = strength_for(curve, [dose for dose, _ in WIDE], 0.6)
        held += found.low <= NEEDED <= found.high
        right += likely_rung(np.mean(curve >= 0.6, axis=0), [True] * len(WIDE)) == 2
    return (
        f"ladder in steps of three, {blocks:g} blocks: interval of the strength for 60% holds "
        f"{held / trials:.3f}, right rung {right / trials:.3f}"
    )


def two_by_two(start: float, trials: int) -> str:
    """Two of 90% that act independently: an interplay that is not there."""
    garden = Garden("", (0.1, 0.1, 0.01), 6, start)
    right, wrong = answers(garden, Kind.SQUARE, trials)
    return f"two-by-two from {start:g}: right {right:.3f}, a false interplay {wrong:.3f}"


def arrivals(keeps: float, trials: int) -> str:
    """Plants that start clean: a remedy keeps a share of arrivals away, another none."""
    rng = np.random.default_rng(3)
    shown = false = 0
    for t in range(trials):
        seen = list(_clean(keeps, rng))
        tested = log_rank(courses(gather(seen), "live"), "control", t)
        found = {r.remedy: r.p < 0.05 for r in tested}
        shown += found["a"]
        false += found["b"] or (keeps == 0 and found["a"])
    return (
        f"prevention, {keeps:.0%} kept away, 8 blocks: shown {shown / trials:.3f}, "
        f"false {false / trials:.3f}"
    )


def _clean(keeps: float, rng: np.random.Generator) -> Iterator[Observation]:
    for block in range(8):
        pace = 0.15 * np.exp(rng.normal(0, 0.3))
        for name, left in (("control", 1.0), ("a", 1 - keeps), ("b", 1.0)):
            first = rng.exponential(1 / (pace * left)) if left else np.inf
            for day in (3.0, 7.0, 10.0, 14.0):
                yield Observation(
                    f"{name}{block}", f"b{block}", name, day, "live", float(day >= first)
                )


def peeking(clump: float, trials: int) -> str:
    """Nothing works, four looks, a verdict read at each: anything recommended, or said to work."""
    rng = np.random.default_rng(int(10 * clump))
    named = beats = 0
    for _ in range(trials):
        seen = list(_looks(clump, rng))
        found = [
            judge([o for o in seen if o.day <= day], terms=FOUR_LOOKS) for day in (3, 7, 10, 14)
        ]
        named += any(v.recommended is not None for v in found)
        beats += any(r.beats_control for v in found for r in v.remedies)
    return (
        f"four looks, nothing works, gamma shape {clump:g}: recommended {named / trials:.3f}, "
        f"said to work {beats / trials:.3f}"
    )


def _looks(
    clump: float,
    rng: np.random.Generator,
    removed: Mapping[str, Mapping[float, float]] = MappingProxyType({}),
    blocks: int = 4,
) -> Iterator[Observation]:
    """Four remedies in blocks; `removed` is what a remedy removes by each day."""
    for block in range(blocks):
        level = 40 * np.exp(rng.normal(0, 0.4))
        for name in ("control", "a", "b", "c"):
            own = level * rng.gamma(4, 0.25)
            plant = Observation(f"{name}{block}", f"b{block}", name, 0.0, "live", 0.0)
            yield plant._replace(value=float(rng.poisson(own)))
            stays = own * rng.gamma(2 * clump, 0.5 / clump)
            for day in (3.0, 7.0, 10.0, 14.0):
                now = stays * rng.gamma(2 * clump, 0.5 / clump)
                now *= 1 - removed.get(name, {}).get(day, 0.0)
                yield plant._replace(day=day, value=float(rng.poisson(now)))


def following(clump: float, trials: int) -> str:
    """Nothing works, and whoever reads "N more plants would settle it" adds them, up to thrice.

    What is out of question gets no further plants, as in the application.
    """
    rng = np.random.default_rng(int(100 * clump))
    beats = added = 0
    for _ in range(trials):
        names = ["control", "a", "b", "c"]
        seen = list(_wave(0, 4, clump, rng, names))
        for wave in range(1, 4):
            found = judge(seen)
            if any(r.beats_control for r in found.remedies):
                break
            more = re.search(r"(\d+) more plants? of each", found.advice)
            if not more or wave > MOST_ADDITIONS:
                break
            out = left_out(found)
            names = [name for name in names if name not in out]
            seen += _wave(wave, int(more[1]), clump, rng, names)
            added += 1
        beats += any(r.beats_control for r in judge(seen).remedies)
    return (
        f"advice followed, nothing works, gamma shape {clump:g}: said to work "
        f"{beats / trials:.3f}, {added / trials:.2f} additions a trial"
    )


def _wave(
    wave: int, blocks: int, clump: float, rng: np.random.Generator, names: Sequence[str]
) -> Iterator[Observation]:
    for block in range(blocks):
        level = 40 * np.exp(rng.normal(0, 0.4))
        for name in names:
            own = level * rng.gamma(4, 0.25)
            plant = Observation(f"{name}{wave}.{block}", f"b{block}", name, 0.0, "live", 0.0)
            for day, now in ((0.0, own), (7.0, own * rng.gamma(clump, 1 / clump))):
                yield plant._replace(day=day, value=float(rng.poisson(now)), added=wave)


SLOW = {"a": {3.0: 0.05, 7.0: 0.3, 10.0: 0.6, 14.0: 0.85}}
LASTING = {name: dict.fromkeys((3.0, 7.0, 10.0, 14.0), e) for name, e in (("a", 0.95), ("b", 0.5))}


def slow(looks: float, trials: int) -> str:
    """A remedy that works late, four looks or the last alone in the table; no plan is told."""
    rng = np.random.default_rng(5)
    shown = false = 0
    for _ in range(trials):
        seen = [o for o in _looks(4.0, rng, SLOW) if looks > 1 or o.day in (0.0, 14.0)]
        found = {r.name: r.beats_control for r in judge(seen).remedies}
        shown += found["a"]
        false += found["b"] or found["c"]
    return (
        f"slow remedy, {looks:g} looks in the table: shown {shown / trials:.3f}, "
        f"false {false / trials:.3f}"
    )


def mixed(blocks: float, trials: int) -> str:
    """95%, 50% and nothing, as on the grid: with four planned looks, and with the last alone."""
    told = []
    for days in ((3.0, 7.0, 10.0, 14.0), (14.0,)):
        rng = np.random.default_rng(int(blocks))
        shown = false = 0.0
        for _ in range(trials):
            seen = [o for o in _looks(4.0, rng, LASTING, int(blocks)) if o.day in (0.0, *days)]
            found = {
                r.name: r.beats_control for r in judge(seen, terms=Terms(planned=days)).remedies
            }
            shown += (found["a"] + found["b"]) / 2
            false += found["c"]
        told.append(f"{len(days)} planned: shown {shown / trials:.3f}, false {false / trials:.3f}")
    return f"95, 50 and 0%, {blocks:g} blocks, looks " + "; ".join(told)


def two_pests(blocks: float, trials: int) -> str:
    """Two pests on the same plants, each judged alone; half of a plant's luck is of both."""
    rng = np.random.default_rng(int(blocks))
    truths = np.array([1, 0.1, 0.5, 1.0]), np.array([1, 1.0, 0.4, 0.1])
    named = wrong = held = false = 0
    for _ in range(trials):
        found = []
        shared = rng.gamma(4, 0.25, (int(blocks), 4))
        for left in truths:
            before = (
                30
                * np.exp(rng.normal(0, 0.4, (int(blocks), 1)))
                * np.sqrt(shared * rng.gamma(4, 0.25, shared.shape))
            )
            after = rng.poisson(before * left * rng.gamma(4, 0.25, shared.shape))
            found.append(judge(rows(after, rng.poisson(before)), threshold=0.5))
        for verdict, left in zip(found, truths, strict=True):
            for result in verdict.remedies:
                if result.role == Role.REMEDY and result.efficacy_low is not None:
                    true = 1 - left[NAMES.index(result.name)]
                    held += result.efficacy_low <= true <= (result.efficacy_high or 1)
                    false += result.beats_control and true == 0
        said = both_words(found[0], found[1], ("a", "b"))
        taken = [f"Against both, take {name}" for name in NAMES]
        named += said.startswith(taken[2])
        wrong += said.startswith((taken[1], taken[3]))
    return (
        f"two pests, {blocks:g} blocks: named what works on both {named / trials:.3f}, what works "
        f"on one alone {wrong / trials:.3f}; intervals hold {held / trials / 6:.3f}, useless "
        f"ones work {false / trials / 2:.3f}"
    )


def main() -> None:
    """Run them all."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    jobs: list[tuple[Callable[[float, int], str], float]] = [
        *((ladder, blocks) for blocks in (4, 8, 12)),
        *((wide_ladder, blocks) for blocks in (4, 8)),
        *((two_by_two, start) for start in (5.0, 20.0, 80.0)),
        *((arrivals, keeps) for keeps in (0.0, 0.7, 0.9)),
        *((peeking, clump) for clump in (4.0, 1.0)),
        *((slow, looks) for looks in (1.0, 4.0)),
        *((mixed, blocks) for blocks in (3.0, 4.0, 6.0, 8.0)),
        *((following, clump) for clump in (4.0, 1.0)),
        *((two_pests, blocks) for blocks in (4.0, 6.0, 8.0)),
    ]
    with ProcessPoolExecutor() as pool:
        for line in [pool.submit(job, argument, trials) for job, argument in jobs]:
            print(line.result(), flush=True)


if __name__ == "__main__":
    main()
