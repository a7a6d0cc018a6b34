"""How sure a plan would be, at a glance, while it is still being said."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from orthocris.core.planning.benches import LEFT_BY_USUAL, Assumptions
from orthocris.core.planning.power import power_at, usual_assumptions
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.trial.setup import Setup
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
    plants: int, remedies: int, threshold: float, measure: str, *, usual: bool = False
) -> Glance:
    """Simulate a plan of whole plants in complete blocks.

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
    """
    blocks, over = divmod(plants, remedies)
    if blocks < LEAST_BLOCKS:
        least = LEAST_BLOCKS * remedies
        return Glance(
            blocks,
            over,
            f"{many(plants, 'plant')} shared by {remedies}, those compared with included, can tell "
            f"nothing: take at least {least}, or fewer remedies. What leaves or halves of them "
            "could tell is told on the next page.",
        )
    assumed = usual_assumptions(threshold, remedies, (), measure=measure)
    if usual:
        assumed = replace(assumed, growth=LEFT_BY_USUAL)
    clear = round(threshold + (1 - threshold) * HALFWAY, 2)
    useless = (0.0,) * (remedies - 2)
    chances = [
        Chance(
            f"A remedy that takes away {clear:.0%} is shown to {'do better' if usual else 'work'}",
            _run(assumed, (clear, *useless), blocks)[0],
        )
    ]
    if remedies > 2:
        said = f"The better is named, if two take away {clear:.0%} and {threshold:.0%}"
        chances.append(Chance(said, _run(assumed, (clear, threshold, *useless[1:]), blocks)[1]))
    each = f"{many(blocks, 'plant')} for each"
    goes = "goes to a remedy" if over == 1 else "go to remedies"
    left = f", and {many(over, 'plant')} left over {goes} by lot" if over else ""
    return Glance(blocks, over, f"{each}{left}.", tuple(chances))


def _run(assumed: Assumptions, efficacies: tuple[float, ...], blocks: int) -> tuple[float, float]:
    """How often the best is shown to work, and is named."""
    found = power_at(
        Setup(), replace(assumed, efficacies=efficacies), blocks, seed=blocks, trials=TRIALS
    )
    return (0.0, 0.0) if found is None else (found.best_beats, found.best_named)
