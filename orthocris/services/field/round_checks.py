"""What holds a round back: everything that is checked before its first plant."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

from orthocris.core.errors import InputError
from orthocris.core.field.progress import patches_held
from orthocris.core.field.rounds import Blocker, Checks, blockers
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.trial import Round, Trial
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import bottle_needs
from orthocris.services.weather.ribbons import hour_now
from orthocris.storage.database import Connection

LONGEST_AGO = timedelta(days=730)  # a paper trial entered later than that is another season's


def round_blockers(
    connection: Connection, context: Context, trial: Trial, round_: Round, checks: Checks
) -> tuple[Blocker, ...]:
    """Return what still holds a round back; refuse checks that name what is not there."""
    first = trial.sprayed_on is None
    _check_done_on(trial, round_, checks.done_on, context.now().date())
    _check_batches(trial, checks)
    found = blockers(
        bottle_needs(trial),
        trial.batches,
        patches_held(trial) if first else (),
        hour_now(connection, trial, context.now()),
        checks,
        context.now(),
        first_round=first,
    )
    on = checks.done_on or context.now().date()
    return (*_before_missing(trial, checks), *_too_soon(trial, round_, checks, on), *found)


def _check_done_on(trial: Trial, round_: Round, on: date | None, today: date) -> None:
    """A round entered late lies between the rounds around it, and not in the future."""
    if on is None:
        return
    earlier = [
        s.sprayed_at.date()
        for r in trial.rounds
        for s in trial.sprays
        if s.round_id == r.id and r.number < round_.number
    ]
    lowest = max(earlier, default=today - LONGEST_AGO)
    if not lowest <= on <= today:
        raise InputError(
            f"a round done on {on:%d %b %Y}",
            code="bad_day",
            field="done_on",
            fix=f"Give the day it was done, {lowest:%d %b %Y} to {today:%d %b %Y}.",
        )


def _check_batches(trial: Trial, checks: Checks) -> None:
    """Each batch named must be of the remedy it is named for."""
    known = {(b.remedy_id, b.id) for b in trial.batches}
    wrong = next((pair for pair in checks.batches.items() if pair not in known), None)
    if wrong is not None:
        raise InputError(
            f"batch {wrong[1]} is none of remedy {wrong[0]}",
            code="no_such_batch",
            field=f"batches.{wrong[0]}",
            fix="Choose one of the batches listed for that bottle; plain water needs none.",
        )


def _too_soon(trial: Trial, round_: Round, checks: Checks, on: date) -> Iterator[Blocker]:
    """Say before the start that most plants had no rest yet, instead of at each of them.

    Single plants out of step are still refused one by one.
    """
    if checks.reasons.get("too_soon", "").strip():
        return
    done = trial.sprayed_in(round_)
    last = {p.id: last_sprayed(trial, round_, p.id) for p in trial.trial_plants if p.id not in done}
    early = [day for day in last.values() if day and (on - day).days < trial.care.days_between]
    if 2 * len(early) > len(last):
        yield Blocker(
            "too_soon",
            f"{len(early)} of {len(last)} plants were sprayed on {max(early):%a %d %b %Y}, less "
            f"than {trial.care.days_between} days before.",
            "Wait: a second spray too soon burns leaves. Or say why you go on; it is recorded as "
            "a deviation.",
            True,
        )


def last_sprayed(trial: Trial, round_: Round, plant_id: int) -> date | None:
    """Return the day a plant was last sprayed in another round; None when it never was."""
    days = [
        s.sprayed_at.date()
        for s in trial.sprays
        if s.plant_id == plant_id and s.round_id != round_.id and s.kind is not SprayKind.SKIPPED
    ]
    return max(days, default=None)


def _before_missing(trial: Trial, checks: Checks) -> Iterator[Blocker]:
    if trial.sprayed_on is not None or not trial.looks:
        return
    # What was counted after the day of the spray is no count before it.
    counted = {
        plant
        for plant, tally in trial.tallies_at(trial.looks[0], trial.measure).items()
        if tally.finished and (checks.done_on is None or tally.counted_on <= checks.done_on)
    }
    uncounted = [p.name for p in trial.trial_plants if p.id not in counted]
    if uncounted and not checks.reasons.get("before_missing", "").strip():
        yield Blocker(
            "before_missing",
            f"{len(uncounted)} plants were not counted before, {uncounted[0]} the first.",
            "Count them now: after the spray it is too late. Or say why you go on.",
            True,
        )
