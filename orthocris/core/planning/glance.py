"""How sure a plan would be, at a glance, while it is still being said."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from orthocris.core.planning.benches import (
    KNOWN,
    LASTING,
    LEFT_BY_USUAL,
    USUAL_ARRIVALS,
    USUAL_HARM,
    USUAL_START,
    Assumptions,
)
from orthocris.core.planning.power import power_at, usual_assumptions
from orthocris.core.trial.measures import MeasureKey, Scale
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.trial.setup import UNIT_WORDS, Kind, Setup, Unit
from orthocris.core.verdict.rerandomise import FAMILY_ERROR
from orthocris.core.words import listing, many

TRIALS = 200  # right to ±3 points near 80%, within a second
# Of a plant's pests: half of it, and a leaf or shoot that has many.
PART_OF = {Unit.HALF: 0.5, Unit.LEAF: 0.25, Unit.SHOOT: 0.25}
COMBINATIONS = ("one", "the other", "both")  # of a two-by-two, beside its control
DOES = {Kind.PREVENTION: ("keeps off", "keep off")}
HALFWAY = 0.5  # a clear remedy takes away half of what the worthwhile one leaves


@dataclass(frozen=True, slots=True)
class Chance:
    """How often something would be shown, as a share of simulated trials, and its sentence."""

    says: str
    share: float


@dataclass(frozen=True, slots=True)
class Glance:
    """What so many plants make of a plan: blocks, plants left over, a sentence, and chances.

    `assumed` tells in numbers what was simulated, for the curious; empty where nothing was.
    """

    blocks: int
    over: int
    says: str
    chances: tuple[Chance, ...] = ()
    assumed: str = ""


@dataclass(frozen=True, slots=True)
class Sketch:
    """A plan as far as it is said.

    Attributes
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
    kind:
        What is asked; a two-by-two needs its four to say how sure.
    starts:
        Quick counts of whole plants, as far as they are known; a part has a share of them.
    looks, two_looks:
        How many are planned after the spray, and whether the last two are judged together.
    whole:
        Whether something is given that no part of a plant can be given alone, as a drench is.
    """

    plants: int
    remedies: int
    threshold: float = 0.6
    measure: str = MeasureKey.LIVE
    usual: bool = False
    unit: Unit = Unit.PLANT
    each: int = 1
    kind: Kind = Kind.COMPARE
    starts: tuple[float, ...] = ()
    looks: int = 1
    two_looks: bool = False
    whole: bool = False


@lru_cache(maxsize=256)
def glance(plan: Sketch) -> Glance:
    """Simulate a plan in complete blocks: of whole plants, or of so many parts on each."""
    setup = Setup(unit=plan.unit)
    blocks, over, says = _laid(plan, setup)
    if blocks < LEAST_BLOCKS:
        return Glance(blocks, over, says)
    assumed = _taken(plan)
    told = {Kind.LADDER: _of_ladder, Kind.SQUARE: _of_square}.get(plan.kind, _of_remedies)
    chances = told(setup, assumed, blocks, plan.usual)
    return Glance(blocks, over, says, chances, _assumed(assumed) if chances else "")


@lru_cache(maxsize=256)
def shown(plan: Sketch, trials: int) -> float:
    """Return how often a plan that compares remedies would show a clear one to work."""
    setup = Setup(unit=plan.unit)
    blocks, _, _ = _laid(plan, setup)
    if blocks < LEAST_BLOCKS:
        return 0.0
    efficacies = (_clear(plan.threshold), *(0.0,) * (plan.remedies - 2))
    return _run(setup, _taken(plan), efficacies, blocks, trials)[0]


def _laid(plan: Sketch, setup: Setup) -> tuple[int, int, str]:
    """Blocks, what is left over, and the sentence: what each gets, or why nothing can be told."""
    plants, remedies = plan.plants, plan.remedies
    if setup.shares_plants:
        blocks, over, says = _on_plants(plants, remedies, plan.unit, plan.each)
        if not blocks:
            return blocks, over, says
    else:
        blocks, over = divmod(plants, remedies)
        says = _whole(blocks, over)
    if blocks < LEAST_BLOCKS:
        says = (
            f"{many(plants, 'plant')} shared by {remedies}, those compared with included, can tell "
            "nothing as whole plants."
        )
    return blocks, over, says


def _taken(plan: Sketch) -> Assumptions:
    starts = [start * PART_OF.get(plan.unit, 1.0) for start in plan.starts]
    assumed = usual_assumptions(
        plan.threshold, plan.remedies, starts, measure=plan.measure, kind=plan.kind
    )
    growth = LEFT_BY_USUAL if plan.usual else assumed.growth
    return replace(assumed, growth=growth, two_looks=plan.two_looks)


def _clear(threshold: float) -> float:
    return round(threshold + (1 - threshold) * HALFWAY, 2)


def _assumed(taken: Assumptions) -> str:
    """What the simulated plants are like, in numbers."""
    counted = [start for start in taken.starts if start > 0]
    if taken.kind is Kind.PREVENTION:
        plants = f"A plant that gets nothing gathers about {USUAL_ARRIVALS:g}"
    elif taken.scale is Scale.SHARE:
        share = USUAL_HARM.get(MeasureKey(taken.measure), 0.9)
        name = "hatch" if taken.measure == MeasureKey.HATCHED else "live on"
        plants = f"Of {taken.of:g} under watch {share:.0%} {name} untreated"
    elif len(counted) >= KNOWN:
        plants = f"Plants start as those you counted, {min(counted):g} to {max(counted):g}"
    else:
        start = sum(counted) / len(counted) if counted else USUAL_START[taken.scale]
        plants = f"Plants start about {start:g}, two in three of them within a factor of 1.6"
    left = f"; {taken.growth:.0%} of that is left on those compared with" * (taken.growth != 1)
    return (
        f"{TRIALS} trials of this plan were simulated and judged as the verdict will be. {plants}"
        f"{left}; beyond that each differs at random (gamma, shape {taken.dispersion:g}"
        f"{f', of which {LASTING:.0%} is there again at the next look' * taken.two_looks}). "
        f"“Shown” is a chance error of at most {FAMILY_ERROR:.0%} for all remedies together. "
        "A share here is right to 3 points or so."
    )


def _of_remedies(
    setup: Setup, assumed: Assumptions, blocks: int, usual: bool
) -> tuple[Chance, ...]:
    """A clear remedy is shown, and told from one that is just worth it."""
    threshold, others = assumed.threshold, len(assumed.efficacies)
    clear = _clear(threshold)
    useless = (0.0,) * (others - 1)
    does, do = DOES.get(assumed.kind, ("takes away", "take away"))
    said = f"A remedy that {does} {clear:.0%} is shown to {'do better' if usual else 'work'}"
    chances = [Chance(said, _run(setup, assumed, (clear, *useless), blocks)[0])]
    if others > 1:
        said = f"The better is named, if two {do} {clear:.0%} and {threshold:.0%}"
        named = _run(setup, assumed, (clear, threshold, *useless[1:]), blocks)[1]
        chances.append(Chance(said, named))
    return tuple(chances)


def _of_ladder(setup: Setup, assumed: Assumptions, blocks: int, usual: bool) -> tuple[Chance, ...]:
    """The strongest is shown, and the weakest that is worth it is found between the others."""
    shown, named = _run(setup, assumed, assumed.efficacies, blocks)
    worth = f"{assumed.threshold:.0%} or more"
    takes = [f"{e:.0%}" for e in assumed.efficacies]
    if len(takes) < 2:
        return (Chance(f"A strength that takes away {takes[0]} is shown to work", shown),)
    found = f"The weakest that takes away {worth} is found, if they take away {listing(takes)}"
    return (
        Chance(f"A strength that takes away {takes[-1]} is shown to work", shown),
        Chance(found, named),
    )


def _of_square(setup: Setup, assumed: Assumptions, blocks: int, usual: bool) -> tuple[Chance, ...]:
    """Both ingredients are read as they are, of which one does it all."""
    if len(assumed.efficacies) != len(COMBINATIONS):
        return ()
    named = _run(setup, assumed, assumed.efficacies, blocks)[1]
    clear = f"{assumed.efficacies[0]:.0%}"
    return (
        Chance(
            f"The right one is found, if it alone takes away {clear} and the other nothing", named
        ),
    )


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
    setup: Setup,
    assumed: Assumptions,
    efficacies: tuple[float, ...],
    blocks: int,
    trials: int = TRIALS,
) -> tuple[float, float]:
    """How often the best is shown to work, and is named."""
    found = power_at(
        setup, replace(assumed, efficacies=efficacies), blocks, seed=blocks, trials=trials
    )
    return (0.0, 0.0) if found is None else (found.best_beats, found.best_named)
