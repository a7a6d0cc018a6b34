"""How many plants: this very design, simulated many times and judged each time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.planning.benches import Assumptions, check_assumptions, simulate
from orthocris.core.planning.incomplete import fewest_linked, incomplete_blocks
from orthocris.core.planning.many_trials import BoolArray, Judged, judge_many
from orthocris.core.trial.setup import DesignKind, Kind, Setup
from orthocris.core.verdict.ladder import LIKELY, rising
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.square import weight_of_interplay, weighted_limits

TRIALS = 280  # a chance is then within 3 points (its standard error) at most
CHUNK = TRIALS  # in one go: parts of it cost more than they spare
SURE = 0.8  # the usual chance with which a trial should show what it looks for


@dataclass(frozen=True, slots=True)
class PowerPoint:
    """What to expect of one size of the trial; chances are shares of the simulated trials.

    `best_named`: the question is answered rightly, that is, the verdict names the truly best remedy
    the winner, the truly weakest strength that is worth it, or reads each ingredient of a
    two-by-two as it is. `false_winner`: it is answered wrongly (another remedy, or any when the
    best is not alone; a strength below the threshold; an interplay that is not there).
    `best_beats`, `second_beats`: that remedy is shown to beat the control. `width`: median width of
    the best
    remedy's 95% interval, as a fraction.
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
    threshold: float,
    remedies: int,
    starts: Sequence[float],
    *,
    measure: str,
    kind: Kind = Kind.COMPARE,
) -> Assumptions:
    """Take one remedy to be clearly worth it, one just worth it, the others useless.

    `remedies` counts the control in. The clear one removes three eighths of what the threshold
    leaves: 75% for a threshold of 60%. In a ladder the two strongest are clear, the others fall
    short; in a two-by-two the first ingredient is clear, the second idle, and the mix as the first.
    """
    clear = threshold + (1 - threshold) * 0.375
    usual = (clear, threshold) if remedies > 2 else (threshold,)
    efficacies = usual + (0.0,) * (remedies - 1 - len(usual))
    if kind is Kind.LADDER:
        steps = (clear + (1 - clear) / 2, clear, threshold / 2, threshold / 4)
        efficacies = (steps + (0.0,) * remedies)[: remedies - 1][::-1]
    if kind is Kind.SQUARE and remedies == 4:
        efficacies = (clear, 0.0, clear)
    return Assumptions(
        efficacies=efficacies,
        starts=tuple(starts),
        measure=measure,
        kind=kind,
        threshold=threshold,
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

    In `doubled` complete blocks one remedy stands twice, each time another, as plants left over
    are used.
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
    extra = np.random.default_rng(seed).permutation(remedies).tolist()[:doubled]
    fillings = [[*range(remedies), *extra[b : b + 1]] for b in range(blocks)]
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
        In how many complete blocks a remedy stands twice.
    trials:
        Simulated trials.
    proceed:
        Called with the share done after each part; returning False stops (None is returned).
    """
    check_assumptions(assumptions)
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
    judged: list[Judged] = []
    done = 0
    while done < trials:
        part = min(CHUNK, trials - done)
        tables = simulate(layout, assumptions, part, rng)
        found = judge_many(layout, tables, threshold=assumptions.threshold, seed=seed, worse=False)
        judged.append(found)
        done += part
        if not proceed(done / trials):
            return None
    shown = blocks if setup.design is not DesignKind.LATIN else remedies
    return point_of(judged, assumptions, shown, len(layout.remedy))


def point_of(
    judged: Sequence[Judged], assumptions: Assumptions, blocks: int, plants: int
) -> PowerPoint:
    """Add up how simulated trials of one size were judged."""
    best = int(np.argmax(assumptions.efficacies))
    counts = np.zeros(4)
    for found in judged:
        counts += [int(event.sum()) for event in _events(found, assumptions)]
    widths = [found.high[:, best] - np.maximum(found.low[:, best], -1.0) for found in judged]
    trials = sum(len(found.winner) for found in judged)
    named, false, first, second = (float(n) / trials for n in counts)
    return PowerPoint(
        blocks=blocks,
        plants=plants,
        trials=trials,
        best_named=named,
        false_winner=false,
        best_beats=first,
        second_beats=second,
        width=float(np.median(np.concatenate(widths))),
    )


def _events(
    found: Judged, assumptions: Assumptions
) -> tuple[BoolArray, BoolArray, BoolArray, BoolArray]:
    """In which trials the question is answered rightly, wrongly, and the best and the second beat
    the control."""
    order = np.argsort(-np.array(assumptions.efficacies), kind="stable")
    second = int(order[min(1, len(order) - 1)])
    right, wrong = answered(found, assumptions)
    return right, wrong, found.beats[:, order[0]], found.beats[:, second]


def answered(found: Judged, assumptions: Assumptions) -> tuple[BoolArray, BoolArray]:
    """Return in which trials the kind of question asked is answered rightly, and wrongly."""
    efficacies = np.array(assumptions.efficacies)
    if assumptions.kind is Kind.LADDER:
        return _rung(found, assumptions)
    if assumptions.kind is Kind.SQUARE and len(efficacies) == 3:
        return _ingredients(found, efficacies)
    alone = np.count_nonzero(efficacies == efficacies.max()) == 1
    right = (found.winner == int(np.argmax(efficacies)) + 1) & alone
    return right, (found.winner > 0) & ~right


def _rung(found: Judged, assumptions: Assumptions) -> tuple[BoolArray, BoolArray]:
    """The weakest strength that is likely worth it, as a ladder's answer names it."""
    trials, draws, groups = found.levels.shape
    efficacy = 1 - np.exp(found.levels[:, :, 1:] - found.levels[:, :, :1])
    curve = rising(efficacy.reshape(-1, groups - 1)).reshape(trials, draws, groups - 1)
    shown = np.mean(curve >= assumptions.threshold, axis=1) >= LIKELY
    named = shown.any(axis=1)
    rung = shown.argmax(axis=1)
    worth = np.array(assumptions.efficacies) >= assumptions.threshold - 1e-9
    right = named & (rung == worth.argmax()) & worth.any()
    return right, named & ~worth[rung]


def _ingredients(found: Judged, efficacies: FloatArray) -> tuple[BoolArray, BoolArray]:
    """Whether each ingredient of a two-by-two, and their interplay, is read as it is."""
    a, b, ab = (found.levels[:, :, k] - found.levels[:, :, 0] for k in (1, 2, 3))
    true_a, true_b, true_ab = np.log1p(-efficacies)
    right = np.ones(len(a), dtype=bool)
    low, high = np.quantile(ab - a - b, [0.025, 0.975], axis=1)
    open_ = (low <= 0) & (high >= 0)
    weight = np.where(open_[:, None], weight_of_interplay(ab - a - b), 1.0)
    for draws, truth in (((a + ab - b) / 2, true_a), ((b + ab - a) / 2, true_b)):
        ends = np.array([weighted_limits(d, w) for d, w in zip(draws, weight, strict=True)])
        right &= (ends[:, 2] < 0) if truth < 0 else (ends[:, 0] <= 0) & (ends[:, 2] >= 0)
    beyond = true_ab - true_a - true_b
    wrong = (low > min(beyond, 0) + 1e-9) | (high < max(beyond, 0) - 1e-9)
    wrong &= (low > 0) | (high < 0)
    return right & ~wrong, wrong


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
