"""A number that somebody counted: what it must be, and when it may be counted."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.measures import check_effort, check_value, measure_named

SCORED_BESIDE = ("damage", "helpers")
LONGEST_BEFORE = timedelta(days=60)


@dataclass(frozen=True, slots=True)
class TallyEntry:
    """A number to keep.

    `session` names one spell of counting on one device; within it, `step` rises with every
    tap, so that a request that arrives late cannot undo a newer one. `counted_on` is the day it
    was really counted on, None where that is not said.
    """

    plant_id: int
    measure: str
    session: str
    step: int
    value: float | None
    of: float | None
    effort: float
    finished: bool
    counted_on: date | None = None


@dataclass(frozen=True, slots=True)
class CountPlace:
    """Where a number goes: look `number` of a trial, and what is known of it there.

    `measure` is the trial's; `known_on` the day of the number it corrects, None for a first;
    `known_finished` tells whether that number was finished.
    """

    look_id: int
    number: int
    measure: str
    start_on: date
    sprayed_on: date | None
    known_on: date | None
    known_finished: bool


def check_entry(entry: TallyEntry, trial_measure: str) -> None:
    """Check a number against its measure, or raise InputError."""
    if entry.measure not in (trial_measure, *SCORED_BESIDE):
        raise InputError(
            f"{entry.measure} is not counted in this trial",
            code="wrong_measure",
            field="measure",
            fix=f"Use {trial_measure}, or {' or '.join(SCORED_BESIDE)} beside it.",
        )
    check_effort(entry.effort)
    if entry.value is None and entry.of is not None:
        raise InputError(
            f"a total of {entry.of:g} without a count",
            code="total_without_count",
            field="of",
            fix="Give both, or neither to withdraw the count.",
        )
    if entry.value is not None:
        check_value(measure_named(entry.measure), entry.value, entry.of)
    elif entry.finished:
        raise InputError(
            "there is no number",
            code="empty",
            field="value",
            fix="Give the number; nothing found is 0.",
        )


def day_counted(place: CountPlace, entry: TallyEntry, today: date) -> date:
    """Return the day a number is of: the day said, else that of the number it corrects, else today.

    Raises
    ------
    InputError
        When that day is to come, or on the wrong side of the first spray.
    ConflictError
        When the look is out of turn: a first count "before" after the spray (unless it is said
        to be of a day before it), or a count "after" before it.
    """
    on = entry.counted_on or place.known_on or today
    if on > today:
        _refuse_day(on, "That day is still to come: count then.")
    if place.number == 0:
        _check_before(place, entry, on)
    else:
        _check_after(place, on)
    return on


def _check_after(place: CountPlace, on: date) -> None:
    if place.sprayed_on is None:
        raise ConflictError(
            "nothing was sprayed yet",
            code="too_early",
            fix="Count before (look 0), then spray round 1.",
        )
    if on < place.sprayed_on:
        _refuse_day(
            on,
            f"Look {place.number} comes after the first spray, which was on "
            f"{place.sprayed_on:%d %b %Y}.",
        )


def _check_before(place: CountPlace, entry: TallyEntry, on: date) -> None:
    if place.sprayed_on is None:
        if on < place.start_on - LONGEST_BEFORE:
            _refuse_day(on, "A count before belongs shortly before the first spray.")
        return
    if on > place.sprayed_on or (entry.counted_on is None and place.known_on is None):
        raise ConflictError(
            "the first spray is done, so a first count now is no count before",
            code="too_late_for_before",
            field="counted_on",
            fix="If it was counted before and is entered late, say on which day; else leave it "
            "empty, and the verdict will name the plant.",
        )


def _refuse_day(day: date, fix: str) -> None:
    raise InputError(f"counted on {day:%d %b %Y}", code="bad_day", field="counted_on", fix=fix)
