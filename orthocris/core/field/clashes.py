"""What must not follow one another on a plant: sulphur and oil within four weeks."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from orthocris.core.field.rounds import Blocker
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.trial.plan import Remedy
from orthocris.core.words import weekday_and_day

APART = timedelta(weeks=4)
CODE = "oil_and_sulphur"
OPPOSED = ((Trait.SULPHUR, Trait.OIL, "sulphur"), (Trait.OIL, Trait.SULPHUR, "oil"))


@dataclass(frozen=True, slots=True)
class SprayedBefore:
    """A remedy sprayed in another trial: its name and recipe, and the last day of it."""

    trial: str
    said: str
    on: date


def clashes(
    given: Sequence[Remedy], before: Sequence[SprayedBefore], on: date
) -> Iterator[Blocker]:
    """Hold a round back whose sulphur (or oil) comes too soon after the other, elsewhere.

    The program cannot know whether they are the same plants, or stand within drift of them; so it
    asks. Within a trial each plant has one remedy, and shields keep drift from its neighbours.
    """
    for trait, other, name in OPPOSED:
        if not any(_has(r.said, trait) for r in given):
            continue
        there = [b for b in before if _has(b.said, other) and timedelta() <= on - b.on < APART]
        if there:
            last = max(there, key=lambda b: b.on)
            what = "oil" if name == "sulphur" else "sulphur"
            yield Blocker(
                CODE,
                f"{what.capitalize()} was sprayed in {last.trial} on {weekday_and_day(last.on)}: "
                f"{name} within four weeks of {what} burns leaves badly.",
                f"If these are the same plants, or stand beside them, wait until "
                f"{weekday_and_day(last.on + APART)}; if they are others, say so.",
                True,
            )


def _has(said: str, trait: Trait) -> bool:
    return any(substance.has(trait) for substance in substances_there(said))
