"""How many plants: this very design, simulated many times and judged each time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from orthocris.core.errors import InputError
from orthocris.core.planning.incomplete import fewest_linked, incomplete_blocks
from orthocris.core.planning.many_tables import Layout, TablesResult, analyse_tables
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.verdict.distributions import normal_quantile

FloatArray = NDArray[np.float64]
TRIALS = 1000
CHUNK = 250
SURE = 0.8  # the usual chance with which a trial should show what it looks for
USUAL_START = 30.0  # pests on a plant when nothing was counted yet; typical
USUAL_SPREAD = 0.5


@dataclass(frozen=True, slots=True)
class Assumptions:
    """What is taken to be true in the simulated gardens.

    Attributes
    ----------
    efficacies:
        True fraction removed by each remedy but the control, at least one.
    growth:
        Pests after over pests before on the control.
    dispersion:
        Clumping: the gamma shape of the extra variation between plants; about 1 is strong
        clumping, 10 little.
    starts:
        Match counts; the simulated plants take their levels from these. Empty: a usual bench.
    counted:
        True for counts, False for percentages and grades.
    """

    efficacies: tuple[float, ...]
    growth: float = 1.0
    dispersion: float = 4.0
    starts: tuple[float, ...] = ()
    counted: bool = True


@dataclass(frozen=True, slots=True)
class PowerPoint:
    """What to expect of one size of the trial; chances are shares of the simulated trials.

    `best_named`: the verdict names the truly best remedy the winner. `false_winner`: it names
    another (or any, when the best is not alone). `best_beats`, `second_beats`: that remedy is
    shown to beat the control. `width`: median width of the best remedy's 95% interval, as a
    fraction; NaN where plants are too few for any interval.
    """

    blocks: int
    plants: int
    trials: int
    best_named: float
    false_winner: float
    best_beats: float
    second_beats: float
    width: float


def usual_assumptions(
    threshold: float, remedies: int, starts: Sequence[float], *, counted: bool
) -> Assumptions:
    """Take one remedy to be clearly worth it, one just worth it, the others useless.

    `remedies` counts the control in. The clear one removes three eighths of what the
    threshold leaves: 75% for a threshold of 60%.
    """
    clear = threshold + (1 - threshold) * 0.375
    usual = (clear, threshold) if remedies > 2 else (threshold,)
    return Assumptions(
        efficacies=usual + (0.0,) * (remedies - 1 - len(usual)),
        starts=tuple(starts),
        counted=counted,
    )


def sizes_around(blocks: int) -> tuple[int, ...]:
    """Return up to five numbers of blocks around the one at hand."""
    wanted = {max(2, round(blocks * f)) for f in (0.5, 0.75, 1.0, 1.5, 2.0)}
    return tuple(sorted(wanted | {max(2, blocks)}))[:6]


def fewest_blocks(setup: Setup, remedies: int) -> int:
    """Return the fewest blocks whose remedies can be compared with one another at all."""
    if setup.design is DesignKind.INCOMPLETE and setup.block_size:
        return fewest_linked(remedies, setup.block_size)
    return 2


def layout_for(setup: Setup, remedies: int, blocks: int, seed: int, *, doubled: int = 0) -> Layout:
    """Return the design with this many blocks as the analysis sees it.

    `doubled` complete blocks have the control twice, as plants left over are used.
    """
    if setup.design is DesignKind.RANDOMISED:
        return Layout(np.tile(np.arange(remedies), blocks), None)
    if setup.design is DesignKind.INCOMPLETE and setup.block_size:
        fill = incomplete_blocks(remedies, setup.block_size, blocks, np.random.default_rng(seed))
        block = np.repeat(np.arange(blocks), setup.block_size)
        return Layout(np.array([r for filling in fill for r in filling]), block)
    if setup.design is DesignKind.LATIN:
        row = np.repeat(np.arange(remedies), remedies)
        column = np.tile(np.arange(remedies), remedies)
        return Layout((row + column) % remedies, row, column)
    fillings = [[*range(remedies), *([0] if b < doubled else [])] for b in range(blocks)]
    return Layout(
        np.array([r for filling in fillings for r in filling]),
        np.repeat(np.arange(blocks), [len(filling) for filling in fillings]),
    )


def power_at(
    setup: Setup,
    assumptions: Assumptions,
    blocks: int,
    *,
    seed: int,
    doubled: int = 0,
    trials: int = TRIALS,
    proceed: Callable[[float], bool] = lambda _: True,
) -> PowerPoint | None:
    """Simulate one size of a trial.

    Parameters
    ----------
    setup, assumptions, blocks:
        The design, the assumed truth, and its number of blocks (replicates when it has none).
    seed:
        Seed of the simulation.
    doubled:
        In how many complete blocks the control stands twice.
    trials:
        Simulated trials.
    proceed:
        Called with the share done after each part; returning False stops (None is returned).
    """
    _check(assumptions)
    remedies = len(assumptions.efficacies) + 1
    if blocks < fewest_blocks(setup, remedies):
        raise InputError(
            f"{blocks} blocks cannot link {remedies} remedies",
            code="too_few_blocks",
            field="blocks",
            fix=f"Plan at least {fewest_blocks(setup, remedies)}, or larger blocks.",
        )
    layout = layout_for(setup, remedies, blocks, seed, doubled=doubled)
    rng = np.random.default_rng(seed)
    counts = np.zeros(4, dtype=np.int64)
    widths: list[FloatArray] = []
    done = 0
    while done < trials:
        part = min(CHUNK, trials - done)
        before, after = simulate(layout, assumptions, part, rng)
        found = analyse_tables(layout, before, after, counted=assumptions.counted, seed=seed)
        new, width = _counts(found, assumptions.efficacies)
        counts += new
        widths.append(width)
        done += part
        if not proceed(done / trials):
            return None
    named, false, first, second = (float(n) / trials for n in counts)
    return PowerPoint(
        blocks=blocks if setup.design is not DesignKind.LATIN else remedies,
        plants=len(layout.remedy),
        trials=trials,
        best_named=named,
        false_winner=false,
        best_beats=first,
        second_beats=second,
        width=float(np.median(np.concatenate(widths))),
    )


def _counts(
    found: TablesResult, efficacies: tuple[float, ...]
) -> tuple[NDArray[np.int64], FloatArray]:
    """In how many trials the best was named, another was, the best and the second beat the
    control; and how wide the best's interval was in each trial."""
    best = int(np.argmax(efficacies))
    alone = efficacies.count(max(efficacies)) == 1
    order = np.argsort(-np.array(efficacies), kind="stable")
    second = int(order[min(1, len(order) - 1)])
    right = (found.winner == best + 1) & alone
    false = (found.winner > 0) & ~right
    events = (right, false, found.beats[:, best], found.beats[:, second])
    width: FloatArray = found.high[:, best] - np.maximum(found.low[:, best], -1.0)
    return np.array([int(e.sum()) for e in events]), width


def simulate(
    layout: Layout, assumptions: Assumptions, trials: int, rng: np.random.Generator
) -> tuple[FloatArray, FloatArray]:
    """Draw counts before and after, each of shape (trials, plants).

    A plant's own level is spread over the match counts as they are, block by block from the
    most to the least infested; remedies fall at random on the plants of a block, for the
    levels of a block are shuffled in every trial. After is gamma about own level × growth ×
    survival, counts are Poisson about both, so that counts are negative binomial.
    """
    n = len(layout.remedy)
    own = np.broadcast_to(_levels(assumptions, n), (trials, n)).copy()
    groups = [np.arange(n)] if layout.block is None else _members(layout.block)
    for members in groups:
        own[:, members] = rng.permuted(own[:, members], axis=1)
    survival = 1 - np.array([0.0, *assumptions.efficacies])[layout.remedy]
    k = assumptions.dispersion
    after = own * assumptions.growth * survival * rng.gamma(k, 1 / k, (trials, n))
    if not assumptions.counted:
        return own * rng.gamma(25, 1 / 25, (trials, n)), np.minimum(after, 100.0)
    return rng.poisson(own).astype(float), rng.poisson(after).astype(float)


def answer(point: PowerPoint, assumptions: Assumptions) -> str:
    """Say in a sentence what a trial of this size can tell and what not."""
    clear = max(assumptions.efficacies)
    rest = sorted(assumptions.efficacies, reverse=True)[1:]
    second = rest[0] if rest else 0.0
    lowest = second if 0 < second < clear else clear
    chance = point.second_beats if 0 < second < clear else point.best_beats
    nothing = f"tell {lowest:.0%} from nothing"
    if len(rest) == 0 or not 0 < second < clear:
        can = chance >= SURE
        return f"With your {point.plants} plants you {'can' if can else 'cannot'} {nothing}."
    apart = f"{second:.0%} from {clear:.0%}"
    if chance >= SURE and point.best_named >= SURE:
        return f"With your {point.plants} plants you can {nothing}, and {apart} too."
    if chance >= SURE:
        return f"With your {point.plants} plants you can {nothing}, but not {apart}."
    return f"With your {point.plants} plants you cannot {nothing}, nor {apart}."


def _members(label: NDArray[np.int_]) -> list[NDArray[np.intp]]:
    return [np.flatnonzero(label == b) for b in range(int(label.max()) + 1)]


def _levels(assumptions: Assumptions, plants: int) -> FloatArray:
    """Levels of the plants in falling order: quantiles of the match counts, or a usual spread."""
    share = (np.arange(plants) + 0.5) / plants
    if len(assumptions.starts) >= 4:
        levels = np.quantile(np.array(assumptions.starts), share)
    else:
        start = float(np.mean(assumptions.starts)) if assumptions.starts else USUAL_START
        levels = start * np.exp(USUAL_SPREAD * normal_quantile(share))
    return np.asarray(np.maximum(levels, 0.05)[::-1])


def _check(assumptions: Assumptions) -> None:
    if not assumptions.efficacies or not all(-1 <= e < 1 for e in assumptions.efficacies):
        raise InputError(
            "an assumed efficacy is not below 100%",
            code="bad_efficacy",
            field="efficacies",
            fix="Give a percentage below 100 for each remedy.",
        )
    for field in ("growth", "dispersion"):
        if not 0.05 <= getattr(assumptions, field) <= 50:
            raise InputError(
                f"{field} is {getattr(assumptions, field):g}",
                code="bad_assumption",
                field=field,
                fix="Give a number from 0.05 to 50.",
            )
