"""The critic: what would go wrong with a plan, and a mend for each fault."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta

import numpy as np

from orthocris.core.planning.mending import (
    PlanChange,
    changes_between,
    emulsified,
    evened,
    lacks_emulsifier,
)
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.plants import free_places
from orthocris.core.question import Question, RemedyDraft
from orthocris.core.remedies import SOON_DAYS, CatalogueRemedy
from orthocris.core.setup import DesignKind, Gradient, Kind, Unit
from orthocris.core.trial import Plant, Role, Traits

FEW_BLOCKS = 4
LOW_START = 5.0  # below this even a perfect remedy can hardly be told from luck
WATER = RemedyDraft(
    "Water only",
    Role.CONTROL,
    "Plain rain or filtered water, the same amount, undersides too.",
    traits=Traits("water_only", "spray", (), 20.0, 1, True),
)


@dataclass(frozen=True, slots=True)
class PestFacts:
    """What the critic must know of the pest; None fields are unknown (the gardener's own pest)."""

    name: str
    measures: tuple[str, ...] | None = None
    usual_measure: str | None = None
    generation_days: int | None = None


@dataclass(frozen=True, slots=True)
class Plan:
    """A plan before its first spray; `catalogue` has the shipped remedies with their ranges."""

    question: Question
    start_on: date
    plants: tuple[Plant, ...]
    pest: PestFacts
    catalogue: Mapping[str, CatalogueRemedy] = field(default_factory=dict)

    @property
    def active(self) -> tuple[Plant, ...]:
        """Plants that take part."""
        return tuple(p for p in self.plants if p.set_aside is None)

    @property
    def others(self) -> tuple[RemedyDraft, ...]:
        """The remedies beside the control."""
        return tuple(r for r in self.question.remedies if r.role is Role.REMEDY)

    @property
    def control(self) -> RemedyDraft | None:
        """The control, if there is one."""
        return next((r for r in self.question.remedies if r.role is Role.CONTROL), None)


@dataclass(frozen=True, slots=True)
class Mend:
    """A change of the plan that removes a finding; `add_plants` places are to be added, if any.

    `changes` tells it before it is done.
    """

    label: str
    question: Question
    start_on: date
    add_plants: int = 0
    changes: tuple[PlanChange, ...] = ()


@dataclass(frozen=True, slots=True)
class Finding:
    """A fault of a plan: its code, what would go wrong, and a mend where one click can do it."""

    code: str
    title: str
    harm: str
    mend: Mend | None


def critique(plan: Plan) -> tuple[Finding, ...]:
    """Review a plan; the gravest findings come first. An empty result means: none found."""
    return tuple(_told(plan, finding) for rule in _RULES for finding in rule(plan))


def _told(plan: Plan, finding: Finding) -> Finding:
    """Add to a finding's mend what it would change."""
    mend = finding.mend
    if mend is None:
        return finding
    changes = changes_between(
        plan.question,
        mend.question,
        start_before=plan.start_on,
        start_after=mend.start_on,
        add_plants=mend.add_plants,
    )
    return replace(finding, mend=replace(mend, changes=changes))


def _with(plan: Plan, label: str, **changes: object) -> Mend:
    return Mend(label, replace(plan.question, **changes), plan.start_on)  # type: ignore[arg-type]


def _setup(plan: Plan, label: str, **changes: object) -> Mend:
    setup = replace(plan.question.setup, **changes)  # type: ignore[arg-type]
    return _with(plan, label, setup=setup)


def _no_control(plan: Plan) -> Iterator[Finding]:
    if plan.control is None:
        yield Finding(
            "no_control",
            "No control",
            "The pest may go by itself, with the rain or with ladybirds, and every remedy would "
            "look good.",
            _with(plan, "Add a water-only control", remedies=(WATER, *plan.question.remedies)),
        )


def _handling(plan: Plan) -> Iterator[Finding]:
    control = plan.control
    if control is None or control.traits.wets:
        return
    jets = [r.name for r in plan.others if r.traits.way == "jet"]
    wet = [r.name for r in plan.others if r.traits.wets and r.traits.way != "jet"]
    swapped = tuple(
        replace(WATER, id=r.id) if r.role is Role.CONTROL else r for r in plan.question.remedies
    )
    mend = _with(plan, "Give the control plain water", remedies=swapped)
    if jets:
        yield Finding(
            "no_water_control",
            "No water control beside a jet",
            f"{jets[0]} wets and shakes the plant; without plants that get plain water nobody "
            "knows whether the wetting did it.",
            mend,
        )
    if wet:
        yield Finding(
            "unequal_handling",
            "Plants are not handled alike",
            f"The control stays dry while {wet[0]} is sprayed: water alone washes off pests and "
            "wets leaves.",
            mend,
        )


def _two_things(plan: Plan) -> Iterator[Finding]:
    if plan.question.setup.kind is Kind.SQUARE:
        return
    holds = [{i.key: i.amount for i in r.traits.ingredients} for r in plan.others]
    for a, one in enumerate(holds):
        for b, other in enumerate(holds):
            shared = {k for k in one if k in other and one[k] != other[k]}
            extra = set(other) - set(one)
            if not (set(one) <= set(other) and extra and shared):
                continue
            yield _two_things_differ(plan, plan.others[a], plan.others[b], min(shared), min(extra))
            return


def _two_things_differ(
    plan: Plan, one: RemedyDraft, other: RemedyDraft, key: str, extra: str
) -> Finding:
    pair = evened(one, other, plan.catalogue)
    harm = (
        f"{one.name} and {other.name} differ in the strength of {key} and in {extra}: whichever "
        "wins, nobody knows which did it."
    )
    if pair is None:
        return Finding(
            "two_things_differ",
            "Two things change at once",
            f"{harm} No strength of {key} suits both: ask which ingredient does it (a two-by-two) "
            "instead.",
            None,
        )
    anew = {id(one): pair[0], id(other): pair[1]}
    remedies = tuple(anew.get(id(r), r) for r in plan.question.remedies)
    amount = next(i.amount for i in pair[0].traits.ingredients if i.key == key)
    return Finding(
        "two_things_differ",
        "Two things change at once",
        harm,
        _with(
            plan, f"Use the same {key} in both ({amount:g} {_unit(one, key)})", remedies=remedies
        ),
    )


def _unit(remedy: RemedyDraft, key: str) -> str:
    return next(i.unit for i in remedy.traits.ingredients if i.key == key)


def _oil_alone(plan: Plan) -> Iterator[Finding]:
    kind = plan.question.setup.kind
    alone = [r for r in plan.others if lacks_emulsifier(r)]
    if not alone:
        return
    remedies = tuple(emulsified(r, kind) if r in alone else r for r in plan.question.remedies)
    yield Finding(
        "oil_alone",
        "Oil without an emulsifier",
        f"{alone[0].name} floats on the water: some plants get oil, others water, and leaves "
        "burn where it is pure.",
        _with(plan, "Add a little soap to hold it", remedies=remedies),
    )


def _numbers(plan: Plan) -> Iterator[Finding]:
    plants, remedies = len(plan.active), len(plan.question.remedies)
    if not plants:
        return
    smallest = 2 * remedies
    if plants < smallest and len(plan.others) > 1 and plan.question.setup.kind is Kind.COMPARE:
        fewer = tuple(r for r in plan.question.remedies if r is not plan.others[-1])
        yield Finding(
            "too_many_remedies",
            "More remedies than the plants allow",
            f"{plants} plants for {remedies} remedies: not even two plants each.",
            _with(plan, f"Take out {plan.others[-1].name}", remedies=fewer),
        )
    elif plants < FEW_BLOCKS * remedies:
        missing = FEW_BLOCKS * remedies - plants
        label = f"Add {missing} places for plants"
        fits = bool(free_places(plan.plants, missing))
        yield Finding(
            "too_few_blocks",
            "Too few blocks",
            f"{plants // remedies} plants of each remedy: only a very large difference can be told "
            "from the difference between plants.",
            Mend(label, plan.question, plan.start_on, add_plants=missing) if fits else None,
        )


def _starts(plan: Plan) -> Iterator[Finding]:
    counts = [p.match_count for p in plan.active if p.match_count is not None]
    setup = plan.question.setup
    by_place = setup.match_place and setup.design is not DesignKind.RANDOMISED
    if plan.active and not counts and not by_place:
        yield Finding(
            "unmatched",
            "The plants are not matched",
            "Nobody counted yet and place is not looked at either, so some remedies may get the "
            "worst plants by chance.",
            _setup(
                plan,
                "Let neighbours form the blocks",
                match_place=True,
                design=DesignKind.COMPLETE
                if setup.design is DesignKind.RANDOMISED
                else setup.design,
            ),
        )
    starts_clean = plan.question.setup.kind is Kind.PREVENTION
    taken = [p.name for p in plan.active if p.match_count]
    if starts_clean and taken:
        some = ", ".join(taken[:5]) + (" and others" if len(taken) > 5 else "")
        yield Finding(
            "not_clean",
            "Not all plants start clean",
            f"{some} had pests at the match count: what is found there later need not have "
            "arrived, so nobody knows what was kept away. Clean or set aside these plants.",
            None,
        )
    is_count = plan.question.measure in ("live", "catch")
    if counts and is_count and not starts_clean and float(np.mean(counts)) < LOW_START:
        yield Finding(
            "low_start",
            "Too few pests to show anything",
            f"The plants have {np.mean(counts):.1f} on average: with fewer than {LOW_START:g} even "
            "a perfect remedy can hardly be told from luck.",
            Mend("Wait five more days", plan.question, plan.start_on + timedelta(days=5)),
        )


def _gradient(plan: Plan) -> Iterator[Finding]:
    setup = plan.question.setup
    side = len(plan.question.remedies)
    if setup.gradient is Gradient.TWO and setup.design is not DesignKind.LATIN:
        fits = _has_square(plan.active, side)
        yield Finding(
            "two_way_gradient",
            "Light or warmth changes in two directions",
            "Blocks even out one direction only; along the other a remedy may stand in the sun "
            "by chance.",
            _setup(plan, "Use a Latin square", design=DesignKind.LATIN) if fits else None,
        )
    elif setup.design is DesignKind.COMPLETE and not setup.match_place:
        if setup.gradient is Gradient.ONE or _count_follows_place(plan.active):
            yield Finding(
                "gradient",
                "An edge or sun gradient runs across the blocks",
                "Blocks by count alone mix plants from the sunny and the shady end.",
                _setup(plan, "Match by place too", match_place=True),
            )
    elif setup.design is DesignKind.RANDOMISED and (
        setup.gradient is not Gradient.NONE or _count_follows_place(plan.active)
    ):
        yield Finding(
            "gradient",
            "An edge or sun gradient runs along the bench",
            "Without blocks, a remedy may stand at the sunny end by chance.",
            _setup(plan, "Use blocks", design=DesignKind.COMPLETE, match_place=True),
        )


def _neighbours(plan: Plan) -> Iterator[Finding]:
    setup = plan.question.setup
    drift = max((r.traits.drift_cm for r in plan.question.remedies), default=0)
    if not setup.shields and close_pairs(plan.active, setup, drift):
        widest = max(plan.question.remedies, key=lambda r: r.traits.drift_cm)
        yield Finding(
            "neighbours_close",
            "Neighbours stand too close",
            f"{widest.name} drifts about {drift:g} cm and reaches the next pot, so the "
            "neighbour is treated too.",
            _setup(plan, "Hold a shield between pots", shields=True),
        )
    if setup.shares_plants:
        yield Finding(
            "units_share_plant",
            f"Each {setup.unit.value} shares its plant with others",
            "Sap, drift and walking insects carry a remedy to its neighbours on the same plant: "
            "differences look smaller than they are.",
            _setup(plan, "Use whole plants", unit=Unit.PLANT)
            if setup.kind is not Kind.EGGS
            else None,
        )


def _looks(plan: Plan) -> Iterator[Finding]:
    days = plan.question.look_days
    slowest = max(plan.others, key=lambda r: r.traits.first_look_days, default=None)
    if slowest is not None and days and days[-1] < slowest.traits.first_look_days:
        need = slowest.traits.first_look_days
        yield Finding(
            "looks_too_early",
            "The last look is too early",
            f"{slowest.name} shows its effect after about {need} days; judged on day {days[-1]} it "
            "looks useless.",
            _with(plan, f"Add a look on day {need}", look_days=(*days, need)),
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
            _with(plan, f"Make day {last} the last look", look_days=(*kept, last)),
        )


def _measure(plan: Plan) -> Iterator[Finding]:
    facts = plan.pest
    if facts.measures is None or plan.question.measure in facts.measures:
        return
    mend = None
    if facts.usual_measure:
        setup = plan.question.setup
        if setup.kind is Kind.EGGS:
            setup = replace(setup, kind=Kind.COMPARE, unit=Unit.PLANT)
        mend = _with(plan, "Use the usual measure", measure=facts.usual_measure, setup=setup)
    yield Finding(
        "measure_blind",
        "The measure cannot show the effect",
        f"On {facts.name.lower()} this number changes for other reasons (they fly off, hide, or "
        "cannot be counted), so it says nothing about a remedy.",
        mend,
    )


def _plants_state(plan: Plan) -> Iterator[Finding]:
    setup = plan.question.setup
    later = plan.start_on + timedelta(days=14)
    if setup.stressed:
        yield Finding(
            "stressed",
            "The plants are thirsty or heat-stressed",
            "Sprays burn stressed leaves, and the burn will be blamed on the remedy.",
            Mend(
                "Water them and wait five days",
                replace(plan.question, setup=replace(setup, stressed=False)),
                plan.start_on + timedelta(days=5),
            ),
        )
    if setup.in_bloom:
        yield Finding(
            "in_bloom",
            "The plants are in bloom",
            "Bees visit the flowers and are hurt; no spray on plants in bloom.",
            Mend(
                "Wait two weeks, until the bloom is over",
                replace(plan.question, setup=replace(setup, in_bloom=False)),
                later,
            ),
        )
    days = setup.harvest_days
    if days is not None and days <= SOON_DAYS:
        yield Finding(
            "near_harvest",
            "Something is picked soon",
            "What is sprayed cannot be eaten at once: pick first, then wait and wash as the "
            "label says.",
            Mend(
                f"Start after the harvest, in {days + 1} days",
                replace(plan.question, setup=replace(setup, harvest_days=None)),
                plan.start_on + timedelta(days=days + 1),
            ),
        )


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


_RULES: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    _no_control,
    _plants_state,
    _handling,
    _numbers,
    _measure,
    _oil_alone,
    _two_things,
    _starts,
    _looks,
    _gradient,
    _neighbours,
)
