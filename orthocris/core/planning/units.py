"""Few plants: what leaves or halves of them, or fewer remedies, could show."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, replace

from orthocris.core.planning.benches import Assumptions
from orthocris.core.planning.power import SURE, power_at
from orthocris.core.trial.plants import LEAST_BLOCKS, USUAL_BLOCKS
from orthocris.core.trial.setup import DesignKind, Setup, Unit

MOST_LEAVES = 16  # of one plant: more are hardly alike
TOLD = (0.5, 0.6, 0.7, 0.8, 0.9, 0.95)
SETS_ALONE = 6  # of one plant alone: from five pairs on the lot can speak


@dataclass(frozen=True, slots=True)
class Proposal:
    """So many units of a kind on each plant, and what a trial of them can show, in a sentence."""

    unit: Unit
    each: int
    says: str


def proposals(
    setup: Setup, remedies: int, plants: int, assumptions: Assumptions, seed: int
) -> Iterator[Proposal]:
    """Simulate what the plants at hand allow where they are too few for whole plants.

    Parameters
    ----------
    setup, remedies, plants:
        The plan, its remedies with the control, and how many plants there are.
    assumptions, seed:
        The assumed truth, and the seed of the simulation.

    Notes
    -----
    On several plants each has a unit of every remedy: more of them would be parts of one unit and
    never replicates. A single plant has several of each, and the answer is of that plant alone.
    """
    if setup.unit is not Unit.PLANT or not 0 < plants < USUAL_BLOCKS * remedies:
        return
    alone = plants < LEAST_BLOCKS
    sets = min(SETS_ALONE, MOST_LEAVES // remedies) if alone else 1
    if remedies > MOST_LEAVES or (alone and sets < LEAST_BLOCKS):
        return
    plan = replace(setup, unit=Unit.LEAF, design=DesignKind.COMPLETE, two_waves=False)
    least = _least_told(plan, assumptions, sets if alone else plants, seed)
    said = f"can tell {least:.0%}" if least else f"cannot tell even {TOLD[-1]:.0%}"
    if remedies == 2 and not alone:
        yield Proposal(Unit.HALF, 2, f"With {2 * plants} halves you {said} from nothing.")
    each = sets * remedies
    yield Proposal(Unit.LEAF, each, f"With {each * plants} leaves you {said} from nothing.")


def _least_told(setup: Setup, assumptions: Assumptions, blocks: int, seed: int) -> float | None:
    """The least that one remedy among useless ones must remove to be told from nothing."""
    useless = (0.0,) * (len(assumptions.efficacies) - 1)

    def told(removed: float) -> bool:
        assumed = replace(assumptions, efficacies=(removed, *useless))
        point = power_at(setup, assumed, blocks, seed=seed)
        return point is not None and point.best_beats >= SURE

    place = bisect_left(TOLD, True, key=told)
    return TOLD[place] if place < len(TOLD) else None
