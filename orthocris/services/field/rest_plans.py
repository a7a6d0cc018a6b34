"""What treating the rest of the garden takes: plants, days, bottles, cost, hours, food."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from fractions import Fraction
from typing import Any

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.field.rest import (
    MOST_LOOKS,
    WHICH_REASONS,
    Pace,
    Promise,
    ProposeSpray,
    RestDraft,
    Which,
    check_rest,
    expected_left,
)
from orthocris.core.trial.plan import Remedy, Role, TrialPlan
from orthocris.core.trial.ways import AT_LEAVES, minutes_of
from orthocris.core.weather.yard import Yard
from orthocris.core.words import day_words
from orthocris.services.context import Context
from orthocris.services.field.rest import RestView, eating, patch_days, proposing, view_of
from orthocris.services.pantry.mixing import Mix, Wanted, fillings, mix
from orthocris.services.pantry.remedy_cards import (
    card_of,
    cautions_of,
    is_poured,
    ml_of,
    unsuited_on,
    usual_of,
)
from orthocris.services.receipts import once
from orthocris.services.trial.own_pests import pest_of
from orthocris.storage import verdicts
from orthocris.storage import weather as yards
from orthocris.storage.field import rest
from orthocris.storage.trial import reading

EFFICACY = ("efficacy", "efficacy_low", "efficacy_high")
HELPERS = (
    "Look for helpers first: where larvae of ladybirds, lacewings or hoverflies, or parasitised "
    "mummies sit, leave that plant to them. Bought ones wait about two weeks after a spray."
)
CHECKS = (
    "Before the first time, count on five of these plants, and count on the same five at each look "
    "after. Leave one or two plants without it, if you can bear it: they show whether the pest "
    "would have gone by itself. Neither proves anything; the trial did that."
)


@dataclass(frozen=True, slots=True)
class Choice:
    """A remedy that may be taken for the rest, and what the trial showed of it."""

    remedy: Remedy
    shown: Promise
    ml_each: float | None


@dataclass(frozen=True, slots=True)
class RestOptions:
    """What the rest may be treated with (what is recommended first), and the schools of which."""

    choices: tuple[Choice, ...]
    eaten: bool
    start_on: date
    reasons: Mapping[Which, str]
    treatments: tuple[RestView, ...]


@dataclass(frozen=True, slots=True)
class RestPlan:
    """What treating the rest takes, before anybody begins.

    `days` are those of the times expected and `left` the share left after each; `volume` the ml of
    one time, `bottle` and `fills` what holds it; `cost` of all times, None without prices;
    `minutes` of work each time; `mix` is None where nothing is mixed or read.
    """

    remedy: Remedy
    patch_days: int
    days: tuple[date, ...]
    left: tuple[float, ...]
    why: str
    volume: float | None
    bottle: float | None
    fills: int
    cost: float | None
    unpriced: tuple[str, ...]
    minutes: float
    eating: str
    against: tuple[str, ...]
    cautions: tuple[str, ...]
    helpers: str
    checks: str
    ends: str
    mix: Mix | None


def options(context: Context, trial_id: int) -> RestOptions:
    """Return what the rest of the garden may be treated with, by the verdict on record.

    No choice where nothing is recommended, or the verdict is not on record.
    """
    now = context.now()
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        verdict = verdicts.last_of(connection, trial_id)
        found = rest.of_trials(connection, trial_id).get(trial_id, ())
        views = tuple(view_of(connection, plan, one, shown, now) for one, shown in found)
    return RestOptions(
        choices=_choices(plan, verdict),
        eaten=plan.setup.eaten,
        start_on=now.date() + timedelta(days=1),
        reasons=WHICH_REASONS,
        treatments=views,
    )


def plan_rest(context: Context, trial_id: int, draft: RestDraft) -> RestPlan:
    """Return what treating the rest would take.

    Raises
    ------
    InputError
        For a draft that breaks a rule, naming the field.
    ConflictError
        When no verdict on record recommends the remedy.
    """
    check_rest(draft)
    now = context.now()
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        choice = _chosen(plan, verdicts.last_of(connection, trial_id), draft.remedy_id)
        yard, prices = yards.load(connection), yards.prices(connection)
        pest = pest_of(connection, plan.pest)
        propose = proposing(connection, plan, choice.remedy, draft, now)
        left = expected_left(choice.shown.removes)
        days, why = _days(draft, choice.remedy, left, propose)
    remedy = choice.remedy
    found = [mixed for part in remedy.parts if (mixed := _mix(part, draft, yard, prices))]
    money = sum((m.cost.per_round for m in found), Fraction(0)) * len(days)
    volume = float(found[0].volume) if found else _bare_volume(remedy, draft)
    fills = fillings(volume, yard)
    setup = replace(plan.setup, eaten=draft.eaten)
    return RestPlan(
        remedy=remedy,
        patch_days=patch_days(plan, remedy) if draft.kinds else 0,
        days=days,
        left=left[: len(days)],
        why=why,
        volume=volume,
        bottle=None
        if not found
        else float(max(yard.exact_bottles()) if fills > 1 else found[0].bottle),
        fills=fills,
        cost=float(money) if money else None,
        unpriced=tuple(dict.fromkeys(name for m in found for name in m.cost.missing)),
        minutes=_minutes(remedy) * draft.plants,
        eating=eating(remedy, days[-1], eaten=draft.eaten),
        against=unsuited_on(remedy, setup, plan.pest, pest),
        cautions=cautions_of(remedy),
        helpers=HELPERS if set(remedy.traits.ways) & AT_LEAVES else "",
        checks=CHECKS,
        ends="It ends when two looks one after the other find hardly any, when leaves are marked, "
        "when two looks find less than half removed of what the trial showed, or after "
        f"{MOST_LOOKS} looks.",
        mix=found[0] if found else None,
    )


def begin(context: Context, trial_id: int, draft: RestDraft, key: str | None = None) -> int:
    """Begin to treat the rest, and return the treatment's id; raises as `plan_rest`."""
    check_rest(draft)
    now = context.now()
    if abs((draft.start_on - now.date()).days) > 366:
        raise InputError(
            f"a start on {day_words(draft.start_on)}",
            code="bad_day",
            field="start_on",
            fix="Give a day within a year.",
        )
    with context.database.atomic() as connection:
        plan = reading.load_plan(connection, trial_id)
        choice = _chosen(plan, verdicts.last_of(connection, trial_id), draft.remedy_id)

        def make() -> int:
            return rest.keep(connection, trial_id, draft, choice.shown, now)

        return once(connection, key, f"rest of trial {trial_id}", draft, now, make)


def _days(
    draft: RestDraft, remedy: Remedy, left: Sequence[float], propose: ProposeSpray
) -> tuple[tuple[date, ...], str]:
    """The days on which it is expected to be given, and why the second falls where it does."""
    pace = Pace.of(remedy.traits, 0)
    days, why = [draft.start_on], ""
    for share in left[:-1]:
        if pace.once:
            break
        if pace.every:
            days.append(days[-1] + timedelta(days=pace.every))
            continue
        on, said = propose(days[-1], share)
        why = why or said
        soonest = days[-1] + timedelta(days=pace.look_days)
        days.append(max(on or soonest, soonest))
    return tuple(days), why


def _mix(part: Remedy, draft: RestDraft, yard: Yard, prices: Sequence[Any]) -> Mix | None:
    """The bottle of one time; None where nothing is mixed, or its recipe is not read."""
    if draft.ml_each is None or not is_poured(part) or not card_of(part).mixed:
        return None
    wanted = Wanted(plants=draft.plants, ml_per_plant=Fraction(repr(draft.ml_each)))
    try:
        return mix(part.recipe, yard, wanted, prices=prices)
    except InputError:
        return None  # by its label: the volume alone is told


def _bare_volume(remedy: Remedy, draft: RestDraft) -> float | None:
    if draft.ml_each is None or not is_poured(remedy):
        return None
    return draft.ml_each * draft.plants


def _minutes(remedy: Remedy) -> float:
    """Work a plant each time, typical."""
    parts = [part.traits for part in remedy.parts]
    return sum(minutes_of(t.way, t.dose, t.dose_unit) for t in parts)


def _choices(plan: TrialPlan, verdict: Mapping[str, Any] | None) -> tuple[Choice, ...]:
    """The recommended remedy, then those that work, may be best, and harm nothing.

    Where it was held against what is done anyway, it removes what was gone of the count before: of
    what the usual one left of that, what it left beside the usual one. Without such a count, or
    where more came than went, nothing is known that a plan could be made of.
    """
    two_pests = bool(plan.setup.also)
    if verdict is None or (verdict["recommended"] is None and not two_pests):
        return ()
    grown = _grown(verdict) if usual_of(plan) else 1.0
    if grown is None:
        return ()
    kept = {r.name: r for r in plan.remedies}
    fit = [
        r
        for r in verdict["remedies"]
        if r["name"] in kept
        and r["efficacy"] is not None
        and (r["name"] == verdict["recommended"] or _also(r, two_pests=two_pests))
    ]
    fit.sort(key=lambda r: r["name"] != verdict["recommended"])
    return tuple(
        Choice(
            kept[r["name"]],
            Promise(*(1 - grown * (1 - r[of]) for of in EFFICACY)),
            ml_of(kept[r["name"]], plan.care),
        )
        for r in fit
        if grown * (1 - r["efficacy"]) < 1
    )


def _grown(verdict: Mapping[str, Any]) -> float | None:
    """What the control had at the end, as a share of what it had before; None where unknown."""
    control = next((r for r in verdict["remedies"] if r["role"] == Role.CONTROL), None)
    if control is None or not control["mean_before"] or control["mean_after"] is None:
        return None
    return float(control["mean_after"] / control["mean_before"])


def _also(result: Mapping[str, Any], *, two_pests: bool) -> bool:
    """Whether it may be taken too: as good as the best, or beside a second pest works at all."""
    works = result["beats_control"] and (result["could_be_best"] or two_pests)
    return bool(works and not result["vetoed"] and not result["worse_than_control"])


def _chosen(plan: TrialPlan, verdict: Mapping[str, Any] | None, remedy_id: int) -> Choice:
    found = next((c for c in _choices(plan, verdict) if c.remedy.id == remedy_id), None)
    if found is None:
        raise ConflictError(
            "the verdict on record does not recommend this for the rest",
            code="not_recommended",
            field="remedy_id",
            fix="Read the final verdict first; take what it recommends.",
        )
    return found
