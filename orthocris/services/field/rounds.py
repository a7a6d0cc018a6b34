"""The spray round: starting it, what each plant gets, taking it back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date, datetime

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.field.rounds import (
    Blocker,
    Checks,
    best_batch,
    check_spray_entry,
    done_at,
)
from orthocris.core.field.second_spray import checked_spray
from orthocris.core.trial.care import Care
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.plan import Round, TrialPlan
from orthocris.core.trial.sprays import (
    EventKind,
    RoundEvent,
    RoundStart,
    SprayEntry,
    SprayKind,
)
from orthocris.core.trial.trial import Plant, Trial
from orthocris.services.context import Context
from orthocris.services.field import following
from orthocris.services.field.round_checks import Ground, ground_of, round_blockers
from orthocris.services.field.schedule import is_sealed
from orthocris.services.pantry.remedy_cards import ml_of
from orthocris.services.weather.ribbons import hour_now
from orthocris.storage.counting import counts
from orthocris.storage.database import Connection
from orthocris.storage.field import rounds as kept_rounds
from orthocris.storage.field import sprays
from orthocris.storage.trial import plants, reading, trials

Bottles = Mapping[str, int]  # the batch in each bottle, by the letter on it


def what_blocks(
    context: Context, trial_id: int, number: int, checks: Checks, bottles: Bottles | None = None
) -> tuple[Blocker, ...]:
    """Return what still holds a round back; `bottles` adds batches by letter to the checks."""
    now = context.now()
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        hour = hour_now(connection, plan, find_round(plan, number), now)
        ground = ground_of(connection, trial_id, number, hour, now)
    return round_blockers(ground, _with_bottles(ground, checks, bottles))


def round_sheet(context: Context, trial_id: int, number: int) -> tuple[Trial, bool]:
    """Return a trial with the marks of one round only, and whether its key is sealed."""
    with context.database.reading() as connection:
        trial = reading.load_round(connection, trial_id, number)
        return trial, is_sealed(connection, trial)


def start_round(
    context: Context, trial_id: int, number: int, checks: Checks, bottles: Bottles | None = None
) -> None:
    """Start a round, or take it up again; every check is recorded with its batches.

    The weather is read before anything is written.

    Raises
    ------
    ConflictError
        Code ``round_held`` naming the first of what holds it back; ``round_order`` when the
        round before was not begun; ``not_drawn`` without a layout.
    """
    now = context.now()
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        hour = hour_now(connection, plan, find_round(plan, number), now)
    with context.database.atomic() as connection:
        following.settle(connection, trial_id)
        ground = ground_of(connection, trial_id, number, hour, now)
        checks = _with_bottles(ground, checks, bottles)
        _check_order(ground.trial, ground.round)
        found = round_blockers(ground, checks)
        if found:
            raise ConflictError(
                found[0].text, code="round_held", field=found[0].code, fix=found[0].fix
            )
        start = RoundStart(
            ground.round.id,
            now,
            dict(checks.batches),
            _reasons_used(ground, checks),
            _own_limits(ground.trial.care),
            checks.done_on,
        )
        kept_rounds.keep_start(connection, start)


def _with_bottles(ground: Ground, checks: Checks, bottles: Bottles | None) -> Checks:
    """Add the batches named by the letter on their bottle; of the others the newest alive then."""
    found = dict(checks.batches)
    for letter, batch in (bottles or {}).items():
        remedy = ground.trial.remedy_with(letter)
        if remedy is None:
            raise InputError(
                f"there is no bottle {letter!r}",
                code="no_such_bottle",
                field=f"batches.{letter}",
                fix="Use the letters of the tags.",
            )
        found[remedy.id] = batch
    when = done_at(checks.done_on, ground.now)
    for need in ground.needs:
        if need.remedy_id not in found:
            best = best_batch(need, ground.trial.batches, when)
            if best is not None:
                found[need.remedy_id] = best.id
    return replace(checks, batches=found)


def _reasons_used(ground: Ground, checks: Checks) -> dict[str, str]:
    """The reasons given for what would have held the round back."""
    held = {b.code for b in round_blockers(ground, replace(checks, reasons={}))}
    if "weather" in held:  # who gives a reason for an hour of which nothing is known
        held.add("window_closed")
    return {
        code: said.strip() for code, said in checks.reasons.items() if code in held and said.strip()
    }


def _own_limits(care: Care) -> dict[str, float]:
    own = {name: getattr(care, name) for name in ("low", "high", "wind")}
    return {name: value for name, value in own.items() if value is not None}


def record_spray(context: Context, trial_id: int, number: int, entry: SprayEntry) -> None:
    """Record what one plant got; the first spray of a trial fixes its day 0 and its layout.

    Raises
    ------
    ConflictError
        ``not_started`` or ``check_again`` when the round is not (or no longer) started;
        ``already_sprayed`` and ``too_soon`` unless the entry names its deviation.
    """
    check_spray_entry(entry)
    with context.database.atomic() as connection:
        plan = reading.load_plan(connection, trial_id)
        round_ = find_round(plan, number)
        if entry.key and _is_kept(connection, round_, entry):
            return
        plant = _member(connection, plan, entry.plant_id)
        if entry.neighbour_id is not None:
            _check_neighbour(connection, plan, entry.neighbour_id)
        start = _started(round_, kept_rounds.last_start(connection, round_.id))
        now = context.now()
        tapped = start.time_of(entry.tapped_at, now)
        _check_holds(start, tapped)
        at = done_at(start.done_on, tapped)
        marks = sprays.of_plant(connection, plant.id)
        kept = checked_spray(plan, round_, plant, marks, entry, start, at)
        if kept.kind is not SprayKind.SKIPPED:
            _fix_first_day(connection, trial_id, at.date())
            if kept.volume is None:
                kept = replace(kept, volume=_usual_volume(plan, plant, round_))
        batch = start.batches.get(plant.remedy_id or 0)
        sprays.keep(connection, round_.id, kept, batch, at)


def _is_kept(connection: Connection, round_: Round, entry: SprayEntry) -> bool:
    """True when this very tap was kept before; refuse a name that another tap had."""
    before = sprays.kept_under(connection, entry.key or "")
    if before is None:
        return False
    again = (SprayKind.AGAIN, SprayKind.SPRAYED)
    skipped = entry.kind is SprayKind.SKIPPED
    same_kind = before[2] == SprayKind.SKIPPED if skipped else SprayKind(before[2]) in again
    if before[:2] == (round_.id, entry.plant_id) and same_kind:
        return True
    raise ConflictError(
        "another plant or round was recorded under this name before",
        code="key_reused",
        field="key",
        fix="Give every tap a name of its own, and record this plant again.",
    )


def _member(connection: Connection, plan: TrialPlan, plant_id: int) -> Plant:
    plant = plants.one(connection, plan.id, plant_id)
    if plant is None or plant.remedy_id is None or plant.set_aside is not None:
        raise NotFoundError(
            f"this plant takes no part in {plan.name}",
            code="no_such_plant",
            fix="Draw the layout first, or choose a plant that has a tag.",
        )
    return plant


def _fix_first_day(connection: Connection, trial_id: int, day: date) -> None:
    first = sprays.first_day(connection, trial_id)
    if first is None or day < first:
        trials.set_first_spray(connection, trial_id, day)


def undo_spray(
    context: Context, trial_id: int, number: int, plant_id: int | None, reason: str = ""
) -> None:
    """Take back what was recorded of a plant, or (None) of a whole round; the trace is kept.

    A whole round needs a reason, which is logged. Taking back the only spray of the trial
    opens the layout again.
    """
    if plant_id is None and not reason.strip():
        raise ConflictError(
            "a whole round is taken back only with a reason",
            code="reason_needed",
            field="reason",
            fix="Say why, such as: recorded on the wrong day.",
        )
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        round_ = find_round(trial, number)
        count = sprays.undo(connection, round_.id, plant_id, context.now(), reason.strip())
        if plant_id is None and count:
            text = f"Round {number}: {count} records were taken back: {reason.strip()}"
            event = RoundEvent(round_.id, context.now(), EventKind.UNDONE, count, text)
            kept_rounds.keep_event(connection, event)
        _check_first_round_stands(reading.load(connection, trial_id), round_)
        first = sprays.first_day(connection, trial_id)
        # Counts after the spray hold the layout; day 0 then moves with the next record.
        if first is not None or not counts.counted_after(connection, trial_id):
            trials.set_first_spray(connection, trial_id, first)


def _check_first_round_stands(trial: Trial, round_: Round) -> None:
    later = [r for r in trial.rounds if r.number > 1 and trial.sprayed_in(r)]
    if round_.number == 1 and later and not trial.sprayed_in(round_):
        raise ConflictError(
            f"round {later[0].number} was sprayed after it, and days are counted from round 1",
            code="round_order",
            fix=f"Take back round {later[0].number} first.",
        )


def _check_order(trial: Trial, round_: Round) -> None:
    if not trial.laid_out:
        raise ConflictError(
            "no plant has a remedy yet", code="not_drawn", fix="Draw the layout first."
        )
    if trial.sprayed_on is None and round_.number != 1:
        raise ConflictError(
            f"round {round_.number} comes after round 1",
            code="round_order",
            fix="Begin with round 1.",
        )


def _usual_volume(plan: TrialPlan, plant: Plant, round_: Round) -> float | None:
    """What a plant of its remedy gets in a round, ml; None where nothing is told in ml."""
    remedy = next(r for r in plan.remedies if r.id == plant.remedy_id)
    return ml_of(remedy.part(round_.step_of(remedy.id)), plan.care)


def _check_neighbour(connection: Connection, plan: TrialPlan, plant_id: int) -> None:
    if plants.one(connection, plan.id, plant_id) is None:
        raise NotFoundError(
            f"plant {plant_id} does not stand on this bench",
            code="no_such_plant",
            fix="Name a plant of this trial as the neighbour.",
        )


def _started(round_: Round, start: RoundStart | None) -> RoundStart:
    if start is None:
        raise ConflictError(
            f"round {round_.number} is not started",
            code="not_started",
            fix="Go through the checks before it: bottles, window, cautions, bees and fruit.",
        )
    return start


def _check_holds(start: RoundStart, at: datetime) -> None:
    if not start.holds(at):
        raise ConflictError(
            "the checks are more than six hours old",
            code="check_again",
            fix="Check bottles, window, bees and fruit again, then go on where you stopped.",
        )
