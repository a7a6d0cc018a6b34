"""Mends of the critic: sound recipes, and what a mend changes, told before it is done."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, is_dataclass, replace
from datetime import date
from typing import Any, TypeVar

from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.remedies import (
    EMULSIFIER,
    EMULSIFYING,
    CatalogueRemedy,
    Ingredient,
    is_oil,
    with_amounts,
)
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.trial.plan import Amount, Role, Traits, moment_words
from orthocris.core.trial.programme import Step, said, step_said
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.setup import Kind, Setup
from orthocris.core.trial.ways import POURED
from orthocris.core.words import weekday_and_day

T = TypeVar("T")
Catalogue = Mapping[str, CatalogueRemedy]
USUAL_EMULSIFIER = 2.0  # ml/L of soap, typical


@dataclass(frozen=True, slots=True)
class PlanChange:
    """One thing a mend changes: what it is, and how it reads before and after."""

    what: str
    before: str
    after: str


def evened(
    one: RemedyDraft, other: RemedyDraft, catalogue: Catalogue
) -> tuple[RemedyDraft, RemedyDraft] | None:
    """Return two remedies with their shared ingredients at one strength that suits both.

    A remedy's usual range is never left: where the strength of one lies in the range of the
    other too, it is taken, else the nearest that lies in both; None when there is none.
    """
    mine = {i.key: i.amount for i in one.traits.ingredients}
    theirs = {i.key: i.amount for i in other.traits.ingredients}
    chosen: dict[str, float] = {}
    for key in [k for k in mine if k in theirs and mine[k] != theirs[k]]:
        low_a, high_a = _range(one, key, catalogue)
        low_b, high_b = _range(other, key, catalogue)
        low, high = max(low_a, low_b), min(high_a, high_b)
        if low > high:
            return None
        fitting = [amount for amount in (mine[key], theirs[key]) if low <= amount <= high]
        chosen[key] = fitting[0] if fitting else (low if mine[key] < low else high)
    return (
        with_amounts(one, chosen, _names(one, catalogue)),
        with_amounts(other, chosen, _names(other, catalogue)),
    )


def lacks_emulsifier(remedy: RemedyDraft) -> bool:
    """Tell whether a remedy sprays or bathes in oil that nothing holds in the water."""
    if remedy.traits.way not in POURED:
        return False
    keys = {i.key for i in remedy.traits.ingredients}
    said = substances_there(f"{remedy.name}. {remedy.recipe}")
    oily = any(is_oil(key) for key in keys) or any(one.has(Trait.OIL) for one in said)
    held = substances_there(remedy.recipe)
    soapy = bool(keys & EMULSIFYING) or any(one.has(Trait.SOAPY) for one in held)
    return oily and not soapy


def oil_alone(remedy: RemedyDraft) -> bool:
    """Tell whether the remedy or a later step of it is oil that nothing holds in the water."""
    return any(lacks_emulsifier(part) for part in (remedy, *map(_alone, remedy.traits.steps)))


def held_throughout(remedy: RemedyDraft, kind: Kind) -> RemedyDraft:
    """Return a remedy with a little soap in each part that lacks it."""
    steps = tuple(
        replace(step, recipe=emulsified(_alone(step), kind).recipe)
        if lacks_emulsifier(_alone(step))
        else step
        for step in remedy.traits.steps
    )
    first = emulsified(remedy, kind) if lacks_emulsifier(remedy) else remedy
    return replace(first, traits=replace(first.traits, steps=steps))


def _alone(step: Step) -> RemedyDraft:
    return RemedyDraft(step.name, Role.REMEDY, step.recipe, traits=Traits(way=step.way))


def emulsified(remedy: RemedyDraft, kind: Kind) -> RemedyDraft:
    """Return an oil with a little soap to hold it; in a square it is no factor of its own."""
    key = EMULSIFIER if kind is Kind.SQUARE else "soap"
    said = remedy.recipe.strip().rstrip(".")
    with_soap = f"{USUAL_EMULSIFIER:g} ml/L liquid soap as emulsifier"
    recipe = (
        f"{said} and {with_soap}." if "/L" in said or not said else f"{said}. With {with_soap}."
    )
    amounts = (*remedy.traits.ingredients, Amount(key, USUAL_EMULSIFIER, "ml/L"))
    return replace(
        remedy,
        recipe=recipe if said else f"{with_soap}.",
        traits=replace(remedy.traits, ingredients=amounts),
    )


def changes_between(
    before: Question,
    after: Question,
    *,
    start_before: date,
    start_after: date,
) -> tuple[PlanChange, ...]:
    """Return what differs between two plans, in words, in the order one reads a plan."""
    found = [*_plain_changes(before, after), *_remedy_changes(before, after)]
    if start_before != start_after:
        found.append(PlanChange("first spray", _day(start_before), _day(start_after)))
    found += _setup_changes(before.setup, after.setup)
    return tuple(found)


def taken_back(before: T, after: T, now: T) -> T | None:
    """Return a plan (or a part of one) as it is now, without what a mend changed in it.

    What was changed since and not by the mend stays. None where both changed the same.

    Parameters
    ----------
    before, after:
        As it was before the mend, and as the mend left it.
    """
    try:
        found: T = _without(before, after, now)
    except _ChangedSinceError:
        return None
    return found


class _ChangedSinceError(Exception):
    """What a mend changed was changed again."""


def _without(before: Any, after: Any, now: Any) -> Any:
    if now == after:
        return before
    if before == after:
        return now
    if type(before) is type(after) is type(now) and is_dataclass(now) and not isinstance(now, type):
        names = [f.name for f in fields(now) if f.init]
        parts = {n: _without(*(getattr(one, n) for one in (before, after, now))) for n in names}
        return replace(now, **parts)
    if isinstance(now, tuple) and len(before) == len(after) == len(now):
        return tuple(map(_without, before, after, now))
    raise _ChangedSinceError


def _range(remedy: RemedyDraft, key: str, catalogue: Catalogue) -> tuple[float, float]:
    """The usual range of an ingredient in a remedy; only its own amount where none is known."""
    usual = _usual(remedy, key, catalogue)
    if usual is not None:
        return usual.low, usual.high
    own = next(i.amount for i in remedy.traits.ingredients if i.key == key)
    return own, own


def _usual(remedy: RemedyDraft, key: str, catalogue: Catalogue) -> Ingredient | None:
    known = catalogue.get(remedy.traits.catalogue or "")
    if known is None:
        return None
    return next((i for i in known.ingredients if i.key == key), None)


def _names(remedy: RemedyDraft, catalogue: Catalogue) -> dict[str, str]:
    known = catalogue.get(remedy.traits.catalogue or "")
    return {i.key: i.name for i in known.ingredients} if known else {}


def _plain_changes(before: Question, after: Question) -> Iterator[PlanChange]:
    for what, old, new in (
        ("what is counted", before.measure, after.measure),
        ("looks on days", _days(before.look_days), _days(after.look_days)),
        ("rounds on days", _days(before.round_days), _days(after.round_days)),
    ):
        if old != new:
            yield PlanChange(what, old, new)


def _remedy_changes(before: Question, after: Question) -> Iterator[PlanChange]:
    """Remedies are matched by their id, and by name where they have none yet."""

    def key(remedy: RemedyDraft) -> tuple[int | None, str]:
        return (remedy.id, "") if remedy.id is not None else (None, remedy.name)

    old, new = ({key(r): r for r in q.remedies} for q in (before, after))
    # A remedy that the plan has not kept yet may change its name too: then its place tells.
    if len(before.remedies) == len(after.remedies):
        pairs = list(zip(before.remedies, after.remedies, strict=True))
    else:
        pairs = [(old[k], new[k]) for k in old if k in new]
        yield from (
            PlanChange(r.name, _said(r), "taken out") for k, r in old.items() if k not in new
        )
        yield from (
            PlanChange(r.name, "not there", _said(r)) for k, r in new.items() if k not in old
        )
    for one, other in pairs:
        if _said(one) != _said(other):
            yield PlanChange(one.name, _said(one), _said(other))
        if _when(one) != _when(other):
            yield PlanChange(f"{one.name}, when", _when(one), _when(other))


def _setup_changes(before: Setup, after: Setup) -> Iterator[PlanChange]:
    names = {
        "kind": "kind of question",
        "unit": "what gets one remedy",
        "design": "design",
        "gradient": "gradient",
        "shields": "shields between pots",
        "match_place": "neighbours form blocks",
        "stressed": "thirsty or heat-stressed",
        "in_bloom": "in bloom",
        "margin": "given up for a gentler remedy",
    }
    for field, what in names.items():
        old, new = getattr(before, field), getattr(after, field)
        if old != new:
            yield PlanChange(what, _value(old), _value(new))


def _said(remedy: RemedyDraft) -> str:
    told = [(remedy.name, remedy.recipe), *((s.name, s.recipe) for s in remedy.traits.steps)]
    return "; then ".join(f"{name}: {recipe}" if recipe else name for name, recipe in told)


def _when(remedy: RemedyDraft) -> str:
    steps = [step_said(step) for step in remedy.traits.steps]
    return ", ".join([said(remedy.traits.programme), *steps])


def _value(value: object) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "none" if value is None else str(value)


def _days(days: tuple[float, ...]) -> str:
    return ", ".join(f"{day:g}" if day == int(day) else moment_words(day) for day in days)


def _day(day: date) -> str:
    return f"{weekday_and_day(day)}"
