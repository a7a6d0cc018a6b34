"""How sure a plan would be, at a glance, while it is still being said."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from orthocris.core.planning.benches import LEFT_BY_USUAL, Assumptions
from orthocris.core.planning.power import power_at, usual_assumptions
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.trial.setup import UNIT_WORDS, Setup, Unit
from orthocris.core.words import many

TRIALS = 200  # right to ±3 points near 80%, within a second
HALFWAY = 0.5  # a clear remedy takes away half of what the worthwhile one leaves


@dataclass(frozen=True, slots=True)
class Chance:
    """How often something would be shown, as a share of simulated trials, and its sentence."""

    says: str
    share: float


@dataclass(frozen=True, slots=True)
class Glance:
    """What so many plants make of a plan: blocks, plants left over, a sentence, and chances."""

    blocks: int
    over: int
    says: str
    chances: tuple[Chance, ...] = ()


@lru_cache(maxsize=256)
def glance(
    plants: int,
    remedies: int,
    threshold: float,
    measure: str,
    *,
    usual: bool = False,
    unit: Unit = Unit.PLANT,
    each: int = 1,
) -> Glance:
    """Simulate a plan in complete blocks: of whole plants, or of so many parts on each.

    Parameters
    ----------
    plants, remedies:
        How many there are, the control among the remedies.
    threshold:
        The share removed from which a remedy is worth it.
    measure:
        What is counted.
    usual:
        Whether the control is what is done anyway, which leaves fewer to tell remedies by.
    unit, each:
        What gets one remedy, and how many of them each plant has, where it is a part of a plant.
    """
    setup = Setup(unit=unit)
    if setup.shares_plants:
        blocks, over, says = _on_plants(plants, remedies, unit, each)
        if not blocks:
            return Glance(blocks, over, says)
    else:
        blocks, over = divmod(plants, remedies)
        says = _whole(blocks, over)
    if blocks < LEAST_BLOCKS:
        least = LEAST_BLOCKS * remedies
        return Glance(
            blocks,
            over,
            f"{many(plants, 'plant')} shared by {remedies}, those compared with included, can tell "
            f"nothing: take at least {least}, fewer remedies, or leaves or halves of these.",
        )
    assumed = usual_assumptions(threshold, remedies, (), measure=measure)
    if usual:
        assumed = replace(assumed, growth=LEFT_BY_USUAL)
    clear = round(threshold + (1 - threshold) * HALFWAY, 2)
    useless = (0.0,) * (remedies - 2)
    chances = [
        Chance(
            f"A remedy that takes away {clear:.0%} is shown to {'do better' if usual else 'work'}",
            _run(setup, assumed, (clear, *useless), blocks)[0],
        )
    ]
    if remedies > 2:
        said = f"The better is named, if two take away {clear:.0%} and {threshold:.0%}"
        chances.append(
            Chance(said, _run(setup, assumed, (clear, threshold, *useless[1:]), blocks)[1])
        )
    return Glance(blocks, over, says, tuple(chances))


def _whole(blocks: int, over: int) -> str:
    goes = "goes to a remedy" if over == 1 else "go to remedies"
    left = f", and {many(over, 'plant')} left over {goes} by lot" if over else ""
    return f"{many(blocks, 'plant')} for each{left}."


def _on_plants(plants: int, remedies: int, unit: Unit, each: int) -> tuple[int, int, str]:
    """The blocks that parts of plants make, how many are left over, and what is said of it.

    On several plants each has one part for every remedy; more of them would be parts of one unit
    and never replicates. A single plant has several, and the answer is of it alone.
    """
    part, parts = UNIT_WORDS[unit]
    if plants > 1:
        if each < remedies:
            return (
                0,
                0,
                f"Each plant needs one {part} for each of the {remedies} that are compared.",
            )
        over = (each - remedies) * plants
        left = f" More {parts} on a plant would tell nothing more." if over else ""
        return plants, over, f"One {part} on each of the {plants} plants for each.{left}"
    blocks, over = divmod(each, remedies)
    if blocks < LEAST_BLOCKS:
        least = LEAST_BLOCKS * remedies
        return (
            0,
            0,
            f"{each} {parts} can tell nothing: mark at least {least}, or take fewer remedies.",
        )
    return blocks, over, f"{blocks} {parts} for each. The answer is of this one plant alone."


def _run(
    setup: Setup, assumed: Assumptions, efficacies: tuple[float, ...], blocks: int
) -> tuple[float, float]:
    """How often the best is shown to work, and is named."""
    found = power_at(
        setup, replace(assumed, efficacies=efficacies), blocks, seed=blocks, trials=TRIALS
    )
    return (0.0, 0.0) if found is None else (found.best_beats, found.best_named)
