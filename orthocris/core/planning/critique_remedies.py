"""Rules of the critic on the remedies themselves: plants, pest, food, rest, and what they are."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import timedelta

from orthocris.core.pantry.food import Food, food_rule
from orthocris.core.pantry.suiting import (
    card_for,
    closest,
    is_nobodys,
    parts_of,
    reasons_against,
)
from orthocris.core.planning.findings import Finding, Mend, Plan, with_changes
from orthocris.core.trial.plan import Role
from orthocris.core.trial.programme import Programme, Rhythm
from orthocris.core.trial.question import RemedyDraft, timetable_of
from orthocris.core.trial.setup import Kind
from orthocris.core.trial.ways import ONTO_LEAVES
from orthocris.core.words import weekday_and_day

SOON_DAYS = 14  # a harvest nearer than this is near
PICKED_DAYS = 2  # what is picked all the time is picked about every other day


def unsuited(plan: Plan) -> Iterator[Finding]:
    """A remedy that these plants should not get, or that cannot act on this pest."""
    setup = plan.question.setup
    for remedy in plan.given:
        reasons = reasons_against(remedy, setup, plan.pest.target, plan.catalogue)
        if reasons:
            yield Finding(
                f"unsuited_{_place(plan, remedy)}",
                f"{remedy.name} does not suit here",
                " ".join(reasons),
                _without(plan, remedy),
            )
        elif plan.pest.also is not None:
            name, target = plan.pest.also
            against = reasons_against(remedy, setup, target, plan.catalogue)
            if against:
                yield Finding(
                    f"unsuited_also_{_place(plan, remedy)}",
                    f"{remedy.name} is not for {name.lower()}",
                    f"{' '.join(against)} It answers for {plan.pest.name.lower()} alone.",
                    None,
                )


def nobodys(plan: Plan) -> Iterator[Finding]:
    """An own remedy of which nobody can say what it is."""
    for remedy in plan.given:
        if is_nobodys(remedy, plan.catalogue):
            yield Finding(
                f"unknown_{_place(plan, remedy)}",
                f"Nobody can say here what {remedy.name} is",
                "A soap, an oil or a poison: say what is in it, or read its label for the plants "
                "it is for, how much, how long before eating, bees, pets and water.",
                None,
            )


def too_often(plan: Plan) -> Iterator[Finding]:
    """A remedy that comes again before the leaves have had their rest."""
    for remedy in plan.given:
        card = card_for("", remedy, plan.cards)
        days = _days(plan, remedy)
        gap = closest(days)
        if gap is None or gap >= card.interval_days:
            continue
        rest = card.interval_days
        said = ", ".join(str(day) for day in days)
        yield Finding(
            f"too_often_{_place(plan, remedy)}",
            f"{remedy.name} comes too often",
            f"On days {said}: between two times leaves and roots want {rest} days of rest, "
            "typical, or they burn, and the burn is read as the remedy's own.",
            _rested(plan, remedy, rest),
        )


def near_harvest(plan: Plan) -> Iterator[Finding]:
    """Something is picked while a remedy still waits, or soon after the first spray."""
    setup = plan.question.setup
    if not setup.eaten or setup.harvest_on is None or setup.harvest_on < plan.start_on:
        return
    until = max((_waits_until(plan, r) for r in plan.given), default=0)
    days = (setup.harvest_on - plan.start_on).days
    if days > max(until, SOON_DAYS):
        return
    start = setup.harvest_on + timedelta(days=1)
    yield Finding(
        "near_harvest",
        "Something is picked soon",
        f"The harvest of {weekday_and_day(setup.harvest_on)} falls among the sprays and their "
        "waiting times. What is sprayed cannot be eaten at once: pick first, then wait and wash as "
        "the label says.",
        Mend(f"Start after the harvest, on {weekday_and_day(start)}", plan.question, start),
    )


def picked_all_the_time(plan: Plan) -> Iterator[Finding]:
    """What is picked every other day, and a remedy after which one must wait longer than that."""
    setup = plan.question.setup
    if not (setup.eaten and setup.picked):
        return
    for remedy in plan.given:
        wait = _wait(plan, remedy)
        if wait <= PICKED_DAYS:
            continue
        yield Finding(
            f"picked_{_place(plan, remedy)}",
            f"You pick all the time, and {remedy.name} waits",
            f"After each time of it nothing of these plants may be eaten for {wait} days. Where "
            "something is picked all the time, only what needs hardly any wait can be used: a jet "
            "of water, picking off, a mild soap rinsed off.",
            _without(plan, remedy),
        )


def release_beside_spray(plan: Plan) -> Iterator[Finding]:
    """Bought helpers stand beside what kills them."""
    released = [r for r in plan.others if r.traits.way == "predator"]
    sprayed = [r for r in plan.given if {p.traits.way for p in parts_of(r)} & ONTO_LEAVES]
    if released and sprayed:
        yield Finding(
            "release_beside_spray",
            "Helpers are released beside a spray",
            f"{sprayed[0].name} kills the helpers of {released[0].name} where it drifts, and they "
            "walk onto sprayed plants: they would look useless. Compare them on benches apart, "
            "two weeks from any spray.",
            _without(plan, released[0]),
        )


def _waits_until(plan: Plan, remedy: RemedyDraft) -> int:
    """The day, counted from the first spray, from which may be eaten again; 0 for at once."""
    wait = _wait(plan, remedy)
    return max(_days(plan, remedy), default=0) + wait if wait else 0


def _wait(plan: Plan, remedy: RemedyDraft) -> int:
    """The days after each time of a remedy before something may be eaten."""
    waits = [0]
    for part in parts_of(remedy):
        if part.traits.catalogue is None:
            rule = food_rule(part.name, part.recipe, part.traits.way)
            if rule is Food.FREE:
                continue
        wait = card_for("", part, plan.cards).eat_after_days
        waits.append(wait if wait is not None else 0)  # by its label: told as unsuited
    return max(waits)


def _days(plan: Plan, remedy: RemedyDraft) -> Sequence[int]:
    """The days on which the first part of a remedy is given."""
    table = timetable_of(plan.question)
    if table is None:
        return plan.question.round_days
    place = plan.question.remedies.index(remedy)
    return [day for day, given in table.items() if given.get(place) == 0]


def _place(plan: Plan, remedy: RemedyDraft) -> str:
    """What tells its findings from those of another, also once it has another name."""
    return str(remedy.id if remedy.id is not None else plan.question.remedies.index(remedy))


def _without(plan: Plan, remedy: RemedyDraft) -> Mend | None:
    """Leave a remedy out, where one is left to compare and the kind of question bears it."""
    if (
        remedy.role is Role.CONTROL
        or len(plan.others) < 2
        or plan.question.setup.kind in (Kind.LADDER, Kind.SQUARE)
    ):
        return None
    left = tuple(r for r in plan.question.remedies if r is not remedy)
    return with_changes(plan, f"Take out {remedy.name}", remedies=left)


def _rested(plan: Plan, remedy: RemedyDraft, rest: int) -> Mend | None:
    """Give a remedy its rest: the trial's rounds apart, or its own programme slower."""
    programme = remedy.traits.programme
    last = max(plan.question.look_days, default=0)
    if not programme.own:
        days = [0]
        while len(days) < len(plan.question.round_days) and days[-1] + rest < last:
            days.append(days[-1] + rest)
        return with_changes(plan, f"Put {rest} days between the rounds", round_days=tuple(days))
    slower = Programme(Rhythm.EVERY, rest)
    remedies = tuple(
        replace(r, traits=replace(r.traits, programme=slower)) if r is remedy else r
        for r in plan.question.remedies
    )
    return with_changes(plan, f"Give it every {rest} days", remedies=remedies)
