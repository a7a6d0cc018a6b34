"""What was known before: for a plan, and beside the verdict of a trial, never in its place."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import dataclass
from datetime import date

from orthocris.core.trial.plan import Role, TrialPlan
from orthocris.core.verdict.pooling import (
    WithBefore,
    before_words,
    effect_of,
    pool,
    removed,
    with_before,
)
from orthocris.core.words import many
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.verdict.judging import verdict_of
from orthocris.services.verdict.known import key_of, trials_told
from orthocris.storage.database import Connection
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class Before:
    """What comes of a remedy with earlier trials; no number where it harmed plants in one."""

    name: str
    trials: int
    harmed: int
    found: WithBefore | None
    words: str


@dataclass(frozen=True, slots=True)
class Found:
    """The fraction that a remedy removed in earlier trials on the whole, and in how many."""

    remedy_id: int
    removed: float
    trials: int


Key = tuple[str, str]
Limits = tuple[float, float, float]


def found_before(context: Context, trial_id: int) -> tuple[Found, ...]:
    """Return what earlier trials found of a plan's remedies, of those only that have a number.

    A plan may reckon with it; its verdict stays its own.
    """
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        earlier, _ = _earlier(connection, plan, {trial_id}, plan.sprayed_on or plan.start_on)
    found = []
    for remedy in plan.remedies:
        limits = earlier.get(key_of(remedy), ())
        if remedy.role is Role.REMEDY and limits and not usual_of(plan):
            on_the_whole = removed(pool([effect_of(*one) for one in limits]).left)
            found.append(Found(remedy.id, on_the_whole, len(limits)))
    return tuple(found)


def _earlier(
    connection: Connection, plan: TrialPlan, own: Set[int], on: date
) -> tuple[dict[Key, list[Limits]], dict[Key, int]]:
    """What trials that began before a day found of each remedy, and in how many it did harm."""
    limits: dict[Key, list[Limits]] = {}
    harm: dict[Key, int] = {}
    for one in trials_told(connection, plan.pest):
        if one.trial_id in own or one.on >= on:
            continue
        for remedy, trial, out in one.remedies_told():
            key = key_of(remedy)
            limits.setdefault(key, [])
            harm[key] = harm.get(key, 0) + out
            if trial is not None:
                limits[key].append((trial.efficacy, trial.low, trial.high))
    return limits, harm


def known_before(
    context: Context, trial_id: int, look_number: int | None = None
) -> tuple[Before, ...]:
    """Return each remedy that earlier trials were held of, in the order of the verdict.

    Own trials and those of other gardens count, of the same pest, remedy and strength; those that
    began later, and the parts of this one, do not. Harm seen in any of them outranks every number.

    Raises
    ------
    ConflictError
        When there is nothing to judge yet, saying what comes first.
    """
    verdict = verdict_of(context, trial_id, look_number).verdict
    if verdict.so_far:
        return ()
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        plan = parts[-1]
        own = {part.id for part in parts}
        earlier, harm = _earlier(connection, plan, own, plan.sprayed_on or plan.start_on)
    if usual_of(plan):  # what was held against another remedy cannot be put together with them
        return ()
    keys = {r.name: key_of(r) for r in plan.remedies if r.role is Role.REMEDY}
    found = []
    for one_remedy in verdict.remedies:
        if one_remedy.name not in keys:
            continue
        key = keys[one_remedy.name]
        if not harm.get(key) and not earlier.get(key):
            continue
        limits = (one_remedy.efficacy, one_remedy.efficacy_low, one_remedy.efficacy_high)
        found.append(_before(one_remedy.name, limits, earlier[key], harm[key]))
    return tuple(found)


def _before(
    name: str,
    own: tuple[float | None, float | None, float | None],
    earlier: list[Limits],
    harmed: int,
) -> Before:
    efficacy, low, high = own
    if harmed:
        trials = many(harmed, "earlier trial")
        words = f"{name} harmed its plants in {trials}: no number outranks that."
        return Before(name, len(earlier), harmed, None, words)
    if efficacy is None or low is None or high is None:
        return Before(name, len(earlier), 0, None, f"{name}: this trial gives no number of it.")
    both = pool([effect_of(*one) for one in earlier])
    found = with_before(effect_of(efficacy, low, high), both)
    return Before(name, len(earlier), 0, found, before_words(name, found, len(earlier)))
