"""The spray round: starting it, what each plant gets, taking it back."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, time

from orthocris.core.errors import ConflictError, NotFoundError
from orthocris.core.field.rounds import DRY_LEAF_WORDS, Blocker, Checks, DryLeaf, check_spray_entry
from orthocris.core.trial.lookup import find_round, trial_plant
from orthocris.core.trial.sprays import (
    EventKind,
    RoundEvent,
    RoundStart,
    SprayEntry,
    SprayKind,
)
from orthocris.core.trial.trial import Plant, Round, Trial
from orthocris.services.context import Context
from orthocris.services.field.round_checks import last_sprayed, round_blockers
from orthocris.services.pantry.remedy_cards import is_poured
from orthocris.storage.field import care, sprays
from orthocris.storage.trial import trials


def what_blocks(
    context: Context, trial_id: int, number: int, checks: Checks
) -> tuple[Blocker, ...]:
    """Return what still holds a round back."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        return round_blockers(connection, context, trial, find_round(trial, number), checks)


def start_round(context: Context, trial_id: int, number: int, checks: Checks) -> None:
    """Start a round, or take it up again; every check is recorded with its batches.

    Raises
    ------
    ConflictError
        Code ``round_held`` naming the first of what holds it back; ``round_order`` when the
        round before was not begun; ``not_drawn`` without a layout.
    """
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        round_ = find_round(trial, number)
        _check_order(trial, round_)
        found = round_blockers(connection, context, trial, round_, checks)
        if found:
            raise ConflictError(
                found[0].text,
                code="round_held",
                field=found[0].code,
                fix=found[0].fix,
            )
        bare = replace(checks, reasons={})
        held = {b.code for b in round_blockers(connection, context, trial, round_, bare)}
        if "weather" in held:  # who gives a reason for an hour of which nothing is known
            held.add("window_closed")
        reasons = {
            code: said.strip()
            for code, said in checks.reasons.items()
            if code in held and said.strip()
        }
        own = {name: getattr(trial.care, name) for name in ("low", "high", "wind")}
        limits = {name: value for name, value in own.items() if value is not None}
        start = RoundStart(
            round_.id, context.now(), dict(checks.batches), reasons, limits, checks.done_on
        )
        care.keep_start(connection, start)


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
        if entry.key and sprays.has_key(connection, entry.key):
            return
        trial = trials.load(connection, trial_id)
        round_ = find_round(trial, number)
        plant = trial_plant(trial, entry.plant_id)
        if entry.neighbour_id is not None:
            _check_neighbour(trial, entry.neighbour_id)
        start = _running(context, trial, round_)
        at = _done_at(context, start)
        kept = _allowed(trial, round_, entry, start, at)
        if kept.kind is not SprayKind.SKIPPED:
            first = first_spray_day(trial)
            if first is None or at.date() < first:
                trials.set_first_spray(connection, trial_id, at.date())
        if kept.volume is None and kept.kind is not SprayKind.SKIPPED:
            kept = replace(kept, volume=_usual_volume(trial, plant))
        batch = start.batches.get(plant.remedy_id or 0)
        sprays.keep(connection, round_.id, kept, batch, at)


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
        trial = trials.load(connection, trial_id)
        round_ = find_round(trial, number)
        count = sprays.undo(connection, round_.id, plant_id, context.now(), reason.strip())
        if plant_id is None and count:
            text = f"Round {number}: {count} records were taken back: {reason.strip()}"
            event = RoundEvent(round_.id, context.now(), EventKind.UNDONE, count, text)
            care.keep_event(connection, event)
        after = trials.load(connection, trial_id)
        _check_first_round_stands(after, round_)
        first = first_spray_day(after)
        counted_after = any(after.counted_at(look) for look in after.looks if look.number)
        # Counts after the spray hold the layout; day 0 then moves with the next record.
        if first is not None or not counted_after:
            trials.set_first_spray(connection, trial_id, first)


def first_spray_day(trial: Trial) -> date | None:
    """Return the day of the first spray on record that was not taken back; None without one."""
    days = [s.sprayed_at.date() for s in trial.sprays if s.kind is not SprayKind.SKIPPED]
    return min(days, default=None)


def _check_first_round_stands(trial: Trial, round_: Round) -> None:
    later = [r for r in trial.rounds if r.number > 1 and trial.sprayed_in(r)]
    if round_.number == 1 and later and not trial.sprayed_in(round_):
        raise ConflictError(
            f"round {later[0].number} was sprayed after it, and days are counted from round 1",
            code="round_order",
            fix=f"Take back round {later[0].number} first.",
        )


def record_dry_leaf(context: Context, trial_id: int, number: int, looks: DryLeaf) -> None:
    """Record what the leaves look like once the oil has dried, which tells the dose."""
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        round_ = find_round(trial, number)
        if not trial.sprayed_in(round_):
            raise ConflictError(
                f"round {number} was not sprayed yet",
                code="not_sprayed",
                fix="Look once the leaves have dried.",
            )
        text = f"Round {number}: once dry, leaves looked {DRY_LEAF_WORDS[looks]}."
        event = RoundEvent(round_.id, context.now(), EventKind.DRY_LEAF, 0, text)
        care.keep_event(connection, event)


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


def _usual_volume(trial: Trial, plant: Plant) -> float | None:
    """The same ml for every plant that is wetted, the control too; None where nothing is."""
    remedy = next(r for r in trial.remedies if r.id == plant.remedy_id)
    return trial.care.ml_per_plant if is_poured(remedy) else None


def _check_neighbour(trial: Trial, plant_id: int) -> None:
    if plant_id not in {p.id for p in trial.plants}:
        raise NotFoundError(
            f"plant {plant_id} does not stand on this bench",
            code="no_such_plant",
            fix="Name a plant of this trial as the neighbour.",
        )


def _running(context: Context, trial: Trial, round_: Round) -> RoundStart:
    starts = [s for s in trial.starts if s.round_id == round_.id]
    if not starts:
        raise ConflictError(
            f"round {round_.number} is not started",
            code="not_started",
            fix="Go through the checks before it: bottles, window, cautions, bees and fruit.",
        )
    if not starts[-1].holds(context.now()):
        raise ConflictError(
            "the checks are more than six hours old",
            code="check_again",
            fix="Check bottles, window, bees and fruit again, then go on where you stopped.",
        )
    return starts[-1]


def _allowed(
    trial: Trial, round_: Round, entry: SprayEntry, start: RoundStart, at: datetime
) -> SprayEntry:
    """Refuse a second spray in the round or within the interval, unless it is a deviation."""
    if entry.kind is SprayKind.SKIPPED:
        if entry.plant_id in trial.sprayed_in(round_):
            raise ConflictError(
                "this plant was sprayed in this round",
                code="already_sprayed",
                fix="Take that back first if it was a mistake.",
            )
        return entry
    names = {p.id: p.name for p in trial.plants}
    if entry.plant_id in trial.sprayed_in(round_):
        if not entry.deviation.strip():
            raise ConflictError(
                f"{names[entry.plant_id]} was sprayed in this round already",
                code="already_sprayed",
                field="deviation",
                fix="Leave it; a second spray burns leaves. If it happened, record it as a "
                "deviation.",
            )
        return replace(entry, kind=SprayKind.AGAIN)
    last = last_sprayed(trial, round_, entry.plant_id)
    # Days as one counts them: an evening and a morning three days on are three days apart.
    too_soon = last is not None and (at.date() - last).days < trial.care.days_between
    reason = entry.deviation.strip() or start.overruled.get("too_soon", "")
    if last is not None and too_soon and not reason:
        raise ConflictError(
            f"{names[entry.plant_id]} was sprayed on {last:%a %d %b %Y}, less than "
            f"{trial.care.days_between} days ago",
            code="too_soon",
            field="deviation",
            fix="Wait, or record it as a deviation with its reason.",
        )
    said = reason if too_soon else entry.deviation
    return replace(entry, kind=SprayKind.SPRAYED, deviation=said)


def _done_at(context: Context, start: RoundStart) -> datetime:
    """Return when it was done: now, or at noon of the day that was given."""
    now = context.now()
    if start.done_on is None:
        return now
    return datetime.combine(start.done_on, time(12), now.tzinfo)
