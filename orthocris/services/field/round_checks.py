"""What holds a round back: everything that is checked before its first plant."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from orthocris.core.errors import InputError
from orthocris.core.field import clashes
from orthocris.core.field.clashes import SprayedBefore
from orthocris.core.field.progress import patches_held
from orthocris.core.field.rounds import Blocker, BottleNeed, Checks, HourNow, blockers
from orthocris.core.field.second_spray import last_sprayed, rest_days
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.plan import Remedy, Role, Round
from orthocris.core.trial.trial import Trial
from orthocris.core.trial.ways import AT_LEAVES, POURED
from orthocris.core.words import day_words, many, weekday_and_day
from orthocris.services.field.schedule import is_sealed
from orthocris.services.pantry.remedy_cards import bottle_needs
from orthocris.storage.counting import counts
from orthocris.storage.database import Connection
from orthocris.storage.field import sprays
from orthocris.storage.trial import reading

SEASON = timedelta(days=120)  # a round entered late may be older than the four weeks
LONGEST_AGO = timedelta(days=730)  # a paper trial entered later than that is another season's


@dataclass(frozen=True, slots=True)
class Ground:
    """All that a round is checked on: the trial, this hour's window, plants counted before.

    `before` has the day on which each plant was counted before, by plant id; `elsewhere` what was
    sprayed in other trials in the last weeks.
    """

    trial: Trial
    round: Round
    hour: HourNow
    before: Mapping[int, date]
    now: datetime
    elsewhere: tuple[SprayedBefore, ...] = ()
    sealed: bool = False

    @property
    def needs(self) -> tuple[BottleNeed, ...]:
        """The bottles that the round needs."""
        return bottle_needs(self.trial, self.round, sealed=self.sealed)


def ground_of(
    connection: Connection, trial_id: int, number: int, hour: HourNow, now: datetime
) -> Ground:
    """Read what a round is checked on; `hour` is this hour's window on the trial's bench."""
    trial = reading.load(connection, trial_id)
    before: dict[int, date] = {}
    if trial.sprayed_on is None and trial.looks:
        before = {
            t.plant_id: t.counted_on
            for t in counts.at_look(connection, trial.looks[0].id)
            if t.measure == trial.measure and t.finished and t.value is not None
        }
    since = (now - SEASON).date()
    elsewhere = sprays.sprayed_elsewhere(connection, trial_id, since)
    sealed = is_sealed(connection, trial)
    return Ground(trial, find_round(trial, number), hour, before, now, elsewhere, sealed)


def round_blockers(ground: Ground, checks: Checks) -> tuple[Blocker, ...]:
    """Return what still holds a round back; refuse checks that name what is not there."""
    trial, today = ground.trial, ground.now.date()
    first = trial.sprayed_on is None
    _check_done_on(trial, ground.round, checks.done_on, today)
    _check_batches(trial, checks)
    found = blockers(
        ground.needs,
        trial.batches,
        patches_held(trial, trial.patches) if first else (),
        ground.hour,
        checks,
        ground.now,
        asked=ticks_asked(ground, checks),
    )
    on = checks.done_on or today
    return (
        *_before_missing(ground, checks),
        *_too_soon(trial, ground.round, checks, on),
        *_clashes(ground, checks, on),
        *found,
    )


def ticks_asked(ground: Ground, checks: Checks) -> frozenset[str]:
    """Return what has to be ticked before a round, by what is given in it.

    Nobody looks for bees before picking by hand or hanging a card. What was read of the same
    bottles is not asked again, nor what was looked at today for this trial.
    """
    trial, round_ = ground.trial, ground.round
    ways = {r.traits.way for r in trial.given_in(round_) if r.role is Role.REMEDY}
    asked = {"weather", "shaken"}
    if ways & AT_LEAVES:
        asked |= {"bees", "fruit"}
    if ways & (AT_LEAVES | POURED):
        asked.add("cautions")
    if _today(trial, ground.now):
        asked -= {"bees", "fruit"}
    if checks.batches and set(checks.batches.values()) <= _read_before(trial):
        asked.discard("cautions")
    return frozenset(asked)


def _today(trial: Trial, now: datetime) -> bool:
    """True when the checks of a round were gone through today already."""
    return any(
        s.done_on is None and s.started_at.astimezone(now.tzinfo).date() == now.date()
        for s in trial.starts
    )


def _read_before(trial: Trial) -> set[int]:
    """The batches whose cautions were read before an earlier round, or another start of this."""
    return {batch for start in trial.starts for batch in start.batches.values()}


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
            f"a round done on {day_words(on)}",
            code="bad_day",
            field="done_on",
            fix=f"Give the day it was done, {day_words(lowest)} to {day_words(today)}.",
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
    last = last_sprayed(trial.sprays, round_)
    waiting = [p for p in trial.due_in(round_) if p.id not in done]
    rest = {p.id: rest_days(trial, p.remedy_id) for p in waiting}
    early = [last[p.id] for p in waiting if p.id in last and (on - last[p.id]).days < rest[p.id]]
    if 2 * len(early) > len(waiting):
        yield Blocker(
            "too_soon",
            f"{len(early)} of {many(len(waiting), 'plant')} sprayed last on "
            f"{weekday_and_day(max(early))}, less than {max(rest.values())} days before.",
            "Wait: a second spray too soon burns leaves. Or say why you go on; it is recorded as "
            "a deviation.",
            True,
        )


def _clashes(ground: Ground, checks: Checks, on: date) -> Iterator[Blocker]:
    if not checks.reasons.get(clashes.CODE, "").strip():
        yield from clashes.clashes(ground.trial.given_in(ground.round), ground.elsewhere, on)
        for part, before in _own_parts(ground.trial, ground.round):
            yield from clashes.clashes([part], before, on)


def _own_parts(trial: Trial, round_: Round) -> Iterator[tuple[Remedy, list[SprayedBefore]]]:
    """Of a remedy with steps: what is given now, and what the same plants got before it."""
    for remedy in (r for r in trial.remedies if r.traits.steps and round_.gives(r.id)):
        earlier = [r for r in trial.rounds if r.number < round_.number and r.gives(remedy.id)]
        before = [
            SprayedBefore(trial.name, part.name + ". " + part.recipe, trial.date_of(r.day))
            for r in earlier
            if (part := remedy.part(r.step_of(remedy.id)))
        ]
        yield remedy.part(round_.step_of(remedy.id)), before


def _before_missing(ground: Ground, checks: Checks) -> Iterator[Blocker]:
    trial = ground.trial
    if trial.sprayed_on is not None or not trial.looks:
        return
    # What was counted after the day of the spray is no count before it.
    counted = {
        plant
        for plant, on in ground.before.items()
        if checks.done_on is None or on <= checks.done_on
    }
    uncounted = [p.name for p in trial.trial_plants if p.id not in counted]
    if uncounted and not checks.reasons.get("before_missing", "").strip():
        yield Blocker(
            "before_missing",
            f"Not counted before: {many(len(uncounted), 'plant')}, {uncounted[0]} the first.",
            "Count them now: after the spray it is too late. Or say why you go on.",
            True,
        )
