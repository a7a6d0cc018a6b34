"""Rules of the critic on the bench, the days, the measure and the state of the plants."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import timedelta

import numpy as np

from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.planning.findings import Finding, Mend, Plan, with_changes, with_setup
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.planning.power import fewest_blocks, layout_for
from orthocris.core.trial.plan import Role, on_moment
from orthocris.core.trial.programme import ON_EACH_ROUND
from orthocris.core.trial.question import timetable_of
from orthocris.core.trial.setup import UNIT_WORDS, DesignKind, Gradient, Kind, Unit
from orthocris.core.trial.trial import Plant
from orthocris.core.verdict.layouts import layouts_possible
from orthocris.core.verdict.rerandomise import FAMILY_ERROR

APART = 100.0  # cm from plant to plant, from which what flies or walks mostly stays


def gradient(plan: Plan) -> Iterator[Finding]:
    """Light, warmth or the counts themselves change along the bench, and no block evens it out."""
    setup = plan.question.setup
    side = len(plan.question.remedies)
    if setup.gradient is Gradient.TWO and setup.design is not DesignKind.LATIN:
        fits = _has_square(plan.active, side)
        yield Finding(
            "two_way_gradient",
            "Light or warmth changes in two directions",
            "Blocks even out one direction only; along the other a remedy may stand in the sun "
            "by chance.",
            with_setup(plan, "Use a Latin square", design=DesignKind.LATIN) if fits else None,
        )
    elif setup.design is DesignKind.COMPLETE and not setup.match_place:
        if setup.gradient is Gradient.ONE or _count_follows_place(plan.active):
            yield Finding(
                "gradient",
                "An edge or sun gradient runs across the blocks",
                "Blocks by count alone mix plants from the sunny and the shady end.",
                with_setup(plan, "Match by place too", match_place=True),
            )
    elif setup.design is DesignKind.RANDOMISED and (
        setup.gradient is not Gradient.NONE or _count_follows_place(plan.active)
    ):
        yield Finding(
            "gradient",
            "An edge or sun gradient runs along the bench",
            "Without blocks, a remedy may stand at the sunny end by chance.",
            with_setup(plan, "Use blocks", design=DesignKind.COMPLETE, match_place=True),
        )


def luck(plan: Plan) -> Iterator[Finding]:
    """The lot has so few ways that even a perfect remedy could not be told from its luck."""
    setup, remedies = plan.question.setup, len(plan.question.remedies)
    size = setup.block_size if setup.design is DesignKind.INCOMPLETE else remedies
    blocks = len(plan.active) // (size or remedies)
    if plan.control is None or blocks < max(fewest_blocks(setup, remedies), 2):
        return
    doubled = min(len(plan.active) - blocks * remedies, blocks)
    layout = layout_for(
        setup,
        remedies,
        blocks,
        1,
        doubled=doubled if setup.design is DesignKind.COMPLETE else 0,
    )
    ways = layouts_possible(layout)
    if ways * FAMILY_ERROR >= 1:
        return
    units = UNIT_WORDS[setup.unit][1]
    yield Finding(
        "too_few_layouts",
        "Luck alone could make it look so",
        f"These {units} can be laid out in {ways} ways only: were one remedy best on each of them, "
        f"luck alone would do as much once in {ways} trials, and more than once in 20 is no proof. "
        + (
            "Fewer remedies, or leaves or halves of them, give it enough."
            if setup.unit in (Unit.PLANT, Unit.POT)
            else f"{remedies} more {units} give it enough."
        ),
        None,
    )


def neighbours(plan: Plan) -> Iterator[Finding]:
    """A spray reaches the next pot, or several units share one plant."""
    setup = plan.question.setup
    drift = max((r.traits.drift_cm for r in plan.question.remedies), default=0)
    if not setup.shields and close_pairs(plan.active, setup, drift):
        widest = max(plan.question.remedies, key=lambda r: r.traits.drift_cm)
        yield Finding(
            "neighbours_close",
            "Neighbours stand too close",
            f"{widest.name} drifts about {drift:g} cm and reaches the next pot, so the "
            "neighbour is treated too.",
            with_setup(plan, "Hold a shield between pots", shields=True),
        )
    if setup.shares_plants:
        yield Finding(
            "units_share_plant",
            f"Each {setup.unit.value} shares its plant with others",
            "Sap, drift and walking insects carry a remedy to its neighbours on the same plant: "
            "differences look smaller than they are.",
            None,
        )


def roaming(plan: Plan) -> Iterator[Finding]:
    """What is counted flies or walks over the whole bench."""
    setup, pest = plan.question.setup, plan.pest
    apart = min(setup.place_cm, setup.row_cm) >= APART
    if not pest.roams or plan.question.measure not in ("live", "catch") or apart:
        return
    yield Finding(
        "roaming",
        f"{pest.name} move about the whole bench",
        f"{pest.roams}: what is counted on a plant may come from its neighbour, and clean plants "
        "fill up from the others, so remedies look more alike than they are. Count "
        f"{pest.settled}; or keep the plants a metre apart or under fleece; or take whole shelves, "
        "trays or beds as the plants of the trial.",
        None,
    )


def looks(plan: Plan) -> Iterator[Finding]:
    """The last look is before the slowest remedy works, or after the next generation."""
    days = plan.question.look_days
    slowest = max(plan.others, key=lambda r: r.traits.first_look_days, default=None)
    if slowest is not None and days and days[-1] < slowest.traits.first_look_days:
        need = slowest.traits.first_look_days
        yield Finding(
            "looks_too_early",
            "The last look is too early",
            f"{slowest.name} shows its effect after about {need} days; judged "
            f"{on_moment(days[-1])} it looks useless.",
            with_changes(plan, f"Add a look on day {need}", look_days=(*days, need)),
        )
    limit = plan.pest.generation_days
    if limit is not None and days and days[-1] > limit + max(plan.question.round_days):
        last = limit + max(plan.question.round_days)
        kept = tuple(d for d in days if d < last)
        yield Finding(
            "looks_too_late",
            "The last look comes after the next generation",
            f"After about {limit} days {plan.pest.name.lower()} have young of their own, which "
            "no spray has touched.",
            with_changes(plan, f"Make day {last} the last look", look_days=(*kept, last)),
        )


def sulphur_beside_oil(plan: Plan) -> Iterator[Finding]:
    """Sulphur and oil stand side by side: what drifts from one burns on the other."""
    there = [set(substances_there(r.said)) for r in plan.given]
    with_sulphur, with_oil = (
        [k for k, found in enumerate(there) if any(s.has(trait) for s in found)]
        for trait in (Trait.SULPHUR, Trait.OIL)
    )
    if with_sulphur and with_oil and not plan.question.setup.shields:
        yield Finding(
            "sulphur_beside_oil",
            "Sulphur and oil are sprayed side by side",
            "Where either drifts onto a plant with the other it burns badly, and for four weeks: "
            "that would be read as the remedy's own harm.",
            with_setup(plan, "Hold shields between neighbours", shields=True),
        )


def visits(plan: Plan) -> Iterator[Finding]:
    """Remedies come at different times: what is compared is the programme, and days tell."""
    table = timetable_of(plan.question)
    if table is None:
        return
    times = {
        remedy.name: sum(place in given for given in table.values())
        for place, remedy in enumerate(plan.question.remedies)
        if remedy.role is Role.REMEDY
    }
    most, least = max(times, key=times.__getitem__), min(times, key=times.__getitem__)
    if times[most] == times[least]:
        return
    shared = tuple(
        replace(r, traits=replace(r.traits, programme=ON_EACH_ROUND))
        for r in plan.question.remedies
    )
    mend = with_changes(plan, "Give all on the trial's own rounds", remedies=shared)
    stepwise = any(r.traits.steps for r in plan.question.remedies)
    yield Finding(
        "visits_differ",
        "Some remedies come more often than others",
        f"{most} is given {_times(times[most])}, {least} {_times(times[least])}: the trial "
        "compares whole programmes, visits included, and who sees the days can guess the remedy. "
        "That is right if it is how you would do it; let somebody else treat than who counts.",
        None if stepwise else mend,
    )


def _times(number: int) -> str:
    return "once" if number == 1 else f"{number} times"


def measure(plan: Plan) -> Iterator[Finding]:
    """The number counted cannot show an effect on this pest."""
    facts = plan.pest
    if facts.measures is None or plan.question.measure in facts.measures:
        return
    mend = None
    if facts.usual_measure:
        setup = plan.question.setup
        if setup.kind is Kind.EGGS:
            setup = replace(setup, kind=Kind.COMPARE, unit=Unit.PLANT)
        mend = with_changes(plan, "Use the usual measure", measure=facts.usual_measure, setup=setup)
    yield Finding(
        "measure_blind",
        "The measure cannot show the effect",
        f"On {facts.name.lower()} this number changes for other reasons (they fly off, hide, or "
        "cannot be counted), so it says nothing about a remedy.",
        mend,
    )


def plants_state(plan: Plan) -> Iterator[Finding]:
    """Thirsty plants and plants in bloom are not sprayed."""
    setup = plan.question.setup
    if setup.stressed:
        yield Finding(
            "stressed",
            "The plants are thirsty or heat-stressed",
            "Sprays burn stressed leaves, and the burn will be blamed on the remedy.",
            _later(plan, "Water them and wait five days", 5, stressed=False),
        )
    if setup.in_bloom:
        yield Finding(
            "in_bloom",
            "The plants are in bloom",
            "Bees visit the flowers and are hurt; no spray on plants in bloom.",
            _later(plan, "Wait two weeks, until the bloom is over", 14, in_bloom=False),
        )


def _later(plan: Plan, label: str, days: int, **changes: object) -> Mend:
    """Start some days later, when these fields of the setup are another thing."""
    mend = with_setup(plan, label, **changes)
    return replace(mend, start_on=plan.start_on + timedelta(days=days))


def _count_follows_place(plants: Sequence[Plant]) -> bool:
    """True when match counts rise or fall along rows or places beyond chance (|r| at p < 1%)."""
    known = [p for p in plants if p.match_count is not None]
    if len(known) < 8:
        return False
    count = np.log1p([p.match_count or 0.0 for p in known])
    for place in ([p.row for p in known], [p.place for p in known]):
        if np.std(place) < 1e-9 or np.std(count) < 1e-9:
            continue
        r = float(np.corrcoef(place, count)[0, 1])
        if abs(r) * (len(known) - 2) ** 0.5 > 2.6 * (1 - r * r) ** 0.5:
            return True
    return False


def _has_square(plants: Sequence[Plant], side: int) -> bool:
    at = {(p.row, p.place) for p in plants}
    return any(
        all((row + i, place + j) in at for i in range(side) for j in range(side))
        for row, place in at
    )
