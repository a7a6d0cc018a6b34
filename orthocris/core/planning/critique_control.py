"""The critic's rules of the control: that there is one, and that it is handled like the others."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from orthocris.core.pantry.suiting import is_done_anyway
from orthocris.core.planning.findings import Finding, Mend, Plan, with_changes, with_setup
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import by_day
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import UNIT_WORDS, Unit
from orthocris.core.trial.ways import WHOLE, way_named
from orthocris.core.words import listing

WATER = RemedyDraft(
    "Water only",
    Role.CONTROL,
    "Plain rain or filtered water, the same amount, undersides too.",
    traits=Traits("water_only", "spray", (), 20.0, 1, True),
)
NOT_WETTED = {"soil": "Handled alike", "jar": "Dry in a jar", "trap": "Empty traps"}
# How plants are handled that get nothing, by the way in which others are given something.
ALIKE = {"spray": WATER} | {
    way: RemedyDraft(
        "Water only" if wets else NOT_WETTED[way],
        Role.CONTROL,
        said,
        traits=Traits("water_only", way, (), 0.0, 1, wets),
    )
    for way, said, wets in (
        (
            "drench",
            "Plain water poured on the soil, as much as the others get: about 150 ml for a pot of "
            "12 cm, 400 ml for one of 20 cm.",
            True,
        ),
        ("dab", "Plain water on the same brush, on the same places: about 3 ml a plant.", True),
        ("bath", "A bath in plain water, as long as the others have.", True),
        (
            "soil",
            "Handled alike with its own soil: lifted out and set back where others are repotted, "
            "watered as always where others are kept dry.",
            False,
        ),
        ("jar", "Taken off alike and laid dry on paper in a closed jar.", False),
        (
            "trap",
            "The same trap, made to catch nothing: the glue covered, the cup left dry.",
            False,
        ),
    )
}


# What wets leaves as a spray does needs no control of its own beside a sprayed one.
AS_SPRAY = {"mist": "spray", "jet": "spray"}


def no_control(plan: Plan) -> Iterator[Finding]:
    """Nothing to hold the remedies against."""
    if plan.control is None:
        yield Finding(
            "no_control",
            "No control",
            "The pest may go by itself, with the rain or with ladybirds, and every remedy would "
            "look good.",
            with_changes(
                plan,
                "Add a control that is handled as the others are",
                remedies=(_alike(_handled(plan)), *plan.question.remedies),
            ),
        )


def handling(plan: Plan) -> Iterator[Finding]:
    """The control is not handled in each way in which the others are."""
    control, ways = plan.control, _handled(plan)
    if control is None or is_done_anyway(control, plan.catalogue) or not ways:
        return
    if _is_handled(control, ways):
        return
    mend = _given(plan, _alike(ways))
    jets = [r.name for r in plan.others if r.traits.way == "jet"]
    wet = [r.name for r in plan.others if _wets(r) and r.traits.way != "jet"]
    if jets and not control.traits.wets:
        yield Finding(
            "no_water_control",
            "No water control beside a jet",
            f"{jets[0]} wets and shakes the plant; without plants that get plain water nobody "
            "knows whether the wetting did it.",
            mend,
        )
    if wet and not control.traits.wets:
        yield Finding(
            "unequal_handling",
            "Plants are not handled alike",
            f"The control stays dry while {wet[0]} is given: water alone washes off pests, and "
            "wets leaves or soil.",
            mend,
        )
    elif not jets or control.traits.wets:
        yield _other_way(ways, mend)


def _other_way(ways: tuple[str, ...], mend: Mend) -> Finding:
    names = listing([way_named(way).name for way in ways])
    both = " Best, all the others get with nothing in it what they lack of this too."
    return Finding(
        "control_way",
        "The control is handled in another way",
        f"The others are given as {names}, and the control is not: what the handling alone does "
        f"would be taken for the remedies.{both if len(ways) > 1 else ''}",
        mend,
    )


def _handled(plan: Plan) -> tuple[str, ...]:
    """The ways in which the others are given something, each to be had with nothing in it."""
    given = {
        AS_SPRAY.get(way, way): None
        for r in plan.others
        for way in (r.traits.way, *(step.way for step in by_day(r.traits.steps)))
    }
    return tuple(way for way in ALIKE if way in given)


def _is_handled(control: RemedyDraft, ways: tuple[str, ...]) -> bool:
    """True where the control is given in the one way, or its recipe says so of each."""
    if len(ways) == 1:
        return AS_SPRAY.get(control.traits.way, control.traits.way) == ways[0]
    return all(ALIKE[way].recipe in control.recipe for way in ways)


def _alike(ways: tuple[str, ...]) -> RemedyDraft:
    """A control that is given all that the others are, with nothing in it."""
    if len(ways) < 2:
        return ALIKE[ways[0]] if ways else WATER
    first = max(ways, key=lambda way: ALIKE[way].traits.wets)
    wets = all(ALIKE[way].traits.wets for way in ways)
    return replace(
        ALIKE[first],
        name=WATER.name if wets else "Handled alike",
        recipe=" ".join(ALIKE[way].recipe for way in ways),
    )


def on_a_part(plan: Plan) -> Iterator[Finding]:
    """What is given to soil, air or the whole plant reaches the parts that are compared with it."""
    setup = plan.question.setup
    if not setup.shares_plants:
        return
    for remedy in plan.others:
        if not WHOLE & set(remedy.traits.ways):
            continue
        part, parts = UNIT_WORDS[setup.unit]
        yield Finding(
            "on_a_part",
            f"No {part} alone can be given {remedy.name}",
            f"It reaches all of a plant, and the {parts} beside have it too: nothing is left to "
            "compare with. Such a remedy is tried on whole plants.",
            with_setup(plan, "Ask it of whole plants", unit=Unit.PLANT),
        )
        return


def trap_is_ruler(plan: Plan) -> Iterator[Finding]:
    """What catches pests is measured by what it catches."""
    traps = [r.name for r in plan.others if r.traits.way == "trap"]
    if plan.question.measure != "catch" or not traps:
        return
    may_be = plan.pest.measures is None or "live" in plan.pest.measures
    mend = with_changes(plan, "Count what lives on the plants", measure="live") if may_be else None
    yield Finding(
        "trap_is_ruler",
        "A trap is remedy and ruler at once",
        f"{traps[0]} takes pests away by catching them, and what is caught is what is counted: the "
        "better it works, the worse it looks. Count by something else that all plants have, such "
        "as what lives on them, or a slice of potato on the soil.",
        mend,
    )


def _given(plan: Plan, control: RemedyDraft) -> Mend:
    swapped = tuple(
        replace(control, id=r.id) if r.role is Role.CONTROL else r for r in plan.question.remedies
    )
    return with_changes(plan, "Give the control the same, with nothing in it", remedies=swapped)


def _wets(remedy: RemedyDraft) -> bool:
    return remedy.traits.wets or any(step.wets for step in remedy.traits.steps)
