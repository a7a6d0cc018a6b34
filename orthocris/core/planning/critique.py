"""The critic: what would go wrong with a plan, and a mend for each fault."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import timedelta

import numpy as np

from orthocris.core.planning import (
    critique_control,
    critique_days,
    critique_remedies,
    critique_rules,
)
from orthocris.core.planning.findings import (
    Finding,
    Mend,
    Plan,
    with_changes,
    with_setup,
)
from orthocris.core.planning.mending import (
    changes_between,
    evened,
    held_throughout,
    oil_alone,
)
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import UNIT_WORDS, DesignKind, Kind
from orthocris.core.words import many

FEW_BLOCKS = 4
LOW_START = 5.0  # below this even a perfect remedy can hardly be told from luck


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
    )
    return replace(finding, mend=replace(mend, changes=changes))


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
        with_changes(
            plan, f"Use the same {key} in both ({amount:g} {_unit(one, key)})", remedies=remedies
        ),
    )


def _unit(remedy: RemedyDraft, key: str) -> str:
    return next(i.unit for i in remedy.traits.ingredients if i.key == key)


def _oil_alone(plan: Plan) -> Iterator[Finding]:
    kind = plan.question.setup.kind
    alone = [r for r in plan.given if oil_alone(r)]
    if not alone:
        return
    remedies = tuple(held_throughout(r, kind) if r in alone else r for r in plan.question.remedies)
    yield Finding(
        "oil_alone",
        "Oil without an emulsifier",
        f"{alone[0].name} floats on the water: some plants get oil, others water, and leaves "
        "burn where it is pure.",
        with_changes(plan, "Add a little soap to hold it", remedies=remedies),
    )


def _numbers(plan: Plan) -> Iterator[Finding]:
    plants, remedies = len(plan.active), len(plan.question.remedies)
    if not plants:
        return
    smallest = 2 * remedies
    if plants < smallest and len(plan.others) > 1 and plan.question.setup.kind is Kind.COMPARE:
        yield Finding(
            "too_many_remedies",
            "More remedies than the plants allow",
            f"{many(plants, 'plant')} for {remedies} remedies: not even two plants each.",
            _without_last(plan),
        )
    elif plants < FEW_BLOCKS * remedies:
        one, several = UNIT_WORDS[plan.question.setup.unit]
        each = plants // remedies
        may_go = len(plan.others) > 1 and plan.question.setup.kind is Kind.COMPARE
        better = "With one remedy fewer" if may_go else "By leaves or halves of them"
        yield Finding(
            "too_few_blocks",
            "Too few blocks",
            f"{each} {one if each == 1 else several} of each remedy: only a very large difference "
            f"can be told from the difference between {several}. {better} more is told.",
            _without_last(plan) if may_go else None,
        )


def _without_last(plan: Plan) -> Mend:
    """The remedy that was said last matters least; no plant is asked for that is not there."""
    fewer = tuple(r for r in plan.question.remedies if r is not plan.others[-1])
    return with_changes(plan, f"Take out {plan.others[-1].name}", remedies=fewer)


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
            with_setup(
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


_RULES: tuple[Callable[[Plan], Iterator[Finding]], ...] = (
    critique_control.no_control,
    critique_rules.plants_state,
    critique_remedies.near_harvest,
    critique_remedies.picked_all_the_time,
    critique_remedies.nobodys,
    critique_remedies.unsuited,
    critique_remedies.too_often,
    critique_remedies.release_beside_spray,
    critique_control.handling,
    critique_control.on_a_part,
    critique_control.trap_is_ruler,
    _numbers,
    critique_rules.luck,
    critique_rules.measure,
    _oil_alone,
    _two_things,
    _starts,
    critique_rules.looks,
    critique_days.away,
    critique_rules.sulphur_beside_oil,
    critique_rules.visits,
    critique_rules.gradient,
    critique_rules.neighbours,
    critique_rules.roaming,
)
