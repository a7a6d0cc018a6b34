"""Counting on the bench, and finding looks, rounds and plants of a trial."""

from __future__ import annotations

from datetime import date, timedelta

from orthocris.core.counting import TallyEntry
from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.lookup import find_look, trial_plant
from orthocris.core.trial.measures import check_effort, check_value, measure_named
from orthocris.core.trial.trial import Look, Tally, Trial
from orthocris.services.context import Context
from orthocris.storage import counting as tallies
from orthocris.storage.trial import trials

SCORED_BESIDE = ("damage", "helpers")
LONGEST_BEFORE = timedelta(days=60)


def keep_tally(
    context: Context, trial_id: int, look_number: int, entry: TallyEntry
) -> tuple[Tally, ...]:
    """Keep what was counted on one plant; return its whole history, the newest last.

    Parameters
    ----------
    look_number:
        0 for the count before, then 1, 2, …
    entry:
        The number; its `look_id` is filled in here.

    Raises
    ------
    InputError
        When the number is not one its measure allows.
    ConflictError
        When the look is out of turn: a first count "before" after the spray (unless it is said
        to be of a day before it), or a count "after" before it.

    Notes
    -----
    A number is of the day it was counted on: the day given, else that of the number it
    corrects, else today. One of a day before its look's is kept, but never settles a trial.
    """
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        look = find_look(trial, look_number)
        trial_plant(trial, entry.plant_id)
        _check_entry(trial, entry)
        today = context.now().date()
        counted_on = entry.counted_on or _first_day(trial, look, entry) or today
        _check_turn(trial, look, entry, counted_on, today)
        kept = TallyEntry(
            look_id=look.id,
            plant_id=entry.plant_id,
            measure=entry.measure,
            session=entry.session,
            step=entry.step,
            value=entry.value,
            of=entry.of,
            effort=entry.effort,
            finished=entry.finished,
            counted_on=counted_on,
        )
        tallies.keep(connection, kept, context.now())
        return tallies.history(connection, look.id, entry.plant_id, entry.measure)


def tally_history(
    context: Context, trial_id: int, look_number: int, plant_id: int, measure: str
) -> tuple[Tally, ...]:
    """Return every count kept of one plant, look and measure, the oldest first."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        look = find_look(trial, look_number)
        return tallies.history(connection, look.id, plant_id, measure)


def _check_entry(trial: Trial, entry: TallyEntry) -> None:
    if entry.measure not in (trial.measure, *SCORED_BESIDE):
        raise InputError(
            f"{entry.measure} is not counted in this trial",
            code="wrong_measure",
            field="measure",
            fix=f"Use {trial.measure}, or {' or '.join(SCORED_BESIDE)} beside it.",
        )
    check_effort(entry.effort)
    if entry.value is None and entry.of is not None:
        raise InputError(
            f"a total of {entry.of:g} without a count",
            code="total_without_count",
            field="of",
            fix="Give both, or neither to withdraw the count.",
        )
    if entry.value is None:
        if entry.finished:
            raise InputError(
                "there is no number",
                code="empty",
                field="value",
                fix="Give the number; nothing found is 0.",
            )
        return
    check_value(measure_named(entry.measure), entry.value, entry.of)


def _first_day(trial: Trial, look: Look, entry: TallyEntry) -> date | None:
    """Return the day on which the number that is corrected was counted, if there is one."""
    known = trial.tallies_at(look, entry.measure).get(entry.plant_id)
    return None if known is None else known.counted_on


def _check_turn(trial: Trial, look: Look, entry: TallyEntry, counted_on: date, today: date) -> None:
    if counted_on > today:
        _refuse_day(counted_on, "That day is still to come: count then.")
    if look.number == 0:
        _check_before(trial, look, entry, counted_on)
        return
    if trial.sprayed_on is None:
        raise ConflictError(
            "nothing was sprayed yet",
            code="too_early",
            fix="Count before (look 0), then spray round 1.",
        )
    if counted_on < trial.sprayed_on:
        _refuse_day(
            counted_on,
            f"Look {look.number} comes after the first spray, which was on "
            f"{trial.sprayed_on:%d %b %Y}.",
        )


def _check_before(trial: Trial, look: Look, entry: TallyEntry, counted_on: date) -> None:
    if trial.sprayed_on is None:
        if counted_on < trial.start_on - LONGEST_BEFORE:
            _refuse_day(counted_on, "A count before belongs shortly before the first spray.")
        return
    if counted_on > trial.sprayed_on or (
        entry.counted_on is None and entry.plant_id not in trial.tallies_at(look, entry.measure)
    ):
        raise ConflictError(
            "the first spray is done, so a first count now is no count before",
            code="too_late_for_before",
            field="counted_on",
            fix="If it was counted before and is entered late, say on which day; else leave it "
            "empty, and the verdict will name the plant.",
        )


def _refuse_day(day: date, fix: str) -> None:
    raise InputError(f"counted on {day:%d %b %Y}", code="bad_day", field="counted_on", fix=fix)
