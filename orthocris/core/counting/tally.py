"""A number that somebody counted: what it must be, and when it may be counted."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from orthocris.core.counting.classes import check_class
from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.measures import (
    TALLIED_BESIDE,
    check_effort,
    check_value,
    measure_named,
)
from orthocris.core.trial.setup import MOST_SAMPLES

LONGEST_BEFORE = timedelta(days=60)
LONGEST_AWAY = timedelta(days=31)  # of a device without a connection


@dataclass(frozen=True, slots=True)
class TallyEntry:
    """A number to keep.

    `session` names one spell of counting one sample on one device; within it, `step` rises with
    every tap, so that a request that arrives late cannot undo a newer one. `counted_on` is the day
    it was really counted on, None where that is not said. `sample` is the number of the leaf (or
    other sample) from 1, 0 for the plant as a whole; `last` says that the plant has no more of
    them, though more were planned. `knows` are the sessions of this sample that the device knew of,
    its own among them; None where that is not said. `classed` says that the value is what a class
    is read as. `person` names somebody who counts a second time: those numbers are kept apart.
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
    sample: int = 0
    last: bool = False
    knows: tuple[str, ...] | None = None
    classed: bool = False
    person: str = ""

    @property
    def slot(self) -> tuple[str, int, int, str]:
        """What every tap of one line of counting has alike."""
        return self.session, self.plant_id, self.sample, self.measure


@dataclass(frozen=True, slots=True)
class Tap:
    """A number as it stood after one tap, under the name its device gave that tap.

    `tapped_at` is the time of the device, which may go wrong; the order is that of the steps.
    """

    key: str
    trial_id: int
    look_number: int
    entry: TallyEntry
    tapped_at: datetime


@dataclass(frozen=True, slots=True)
class Line:
    """A line of the record: its id, the session it is of, the sample and the newest step."""

    id: int
    session: str
    sample: int
    step: int


@dataclass(frozen=True, slots=True)
class CountPlace:
    """Where a number goes: look `number` of a trial, and what is known of it there.

    `measure` is the trial's, `samples` how many of a plant are planned; `known_on` is the day of
    the plant's number so far, None for a first, and `known_finished` whether that was finished.
    `held` is the line that holds for the sample, `own` the one of the session that counts now.
    """

    look_id: int
    number: int
    measure: str
    start_on: date
    sprayed_on: date | None
    known_on: date | None
    known_finished: bool
    samples: int = 0
    held: Line | None = None
    own: Line | None = None


def time_of_tap(tapped_at: datetime, now: datetime) -> datetime:
    """Return when a tap was made: as its device says where that can be, else now.

    A device may have been out of reach for days; one whose clock is ahead, or a month behind, is
    not believed.
    """
    if not now - LONGEST_AWAY <= tapped_at <= now:
        return now
    return tapped_at.astimezone(now.tzinfo)


def check_entry(entry: TallyEntry, trial_measure: str) -> None:
    """Check a number against its measure, or raise InputError."""
    if entry.measure not in (trial_measure, *TALLIED_BESIDE):
        raise InputError(
            f"{entry.measure} is not counted in this trial",
            code="wrong_measure",
            field="measure",
            fix=f"Use {trial_measure}, or beside it {', '.join(TALLIED_BESIDE)}.",
        )
    if not 0 <= entry.sample <= MOST_SAMPLES:
        raise InputError(
            f"sample {entry.sample} of a plant",
            code="bad_sample",
            field="sample",
            fix=f"Number its leaves 1 to {MOST_SAMPLES}; 0 is the plant as a whole.",
        )
    check_effort(entry.effort)
    if entry.value is None and entry.of is not None:
        raise InputError(
            f"a total of {entry.of:g} without a count",
            code="total_without_count",
            field="of",
            fix="Give both, or neither to withdraw the count.",
        )
    if entry.classed:
        check_class(entry.value)
    if entry.value is not None:
        check_value(measure_named(entry.measure), entry.value, entry.of)
    elif entry.finished:
        raise InputError(
            "there is no number",
            code="empty",
            field="value",
            fix="Give the number; nothing found is 0.",
        )


def check_session(place: CountPlace, entry: TallyEntry) -> None:
    """Refuse a session that goes on from one sample to another, or raise ConflictError."""
    if place.own is not None and place.own.sample != entry.sample:
        raise ConflictError(
            f"this session counts sample {place.own.sample}, not {entry.sample}",
            code="other_sample",
            field="session",
            fix="Give every sample a session of its own.",
        )


def contests(place: CountPlace, entry: TallyEntry) -> bool:
    """Tell whether a number contradicts one of another device that this one did not know of.

    Whoever knew the count that holds corrects it; whoever did not has counted the same sample a
    second time. Where nothing is said of what was known, it is a correction.
    """
    if entry.person:  # a second count contradicts nobody: it is kept apart
        return False
    if place.held is None or place.held.session == entry.session or entry.knows is None:
        return False
    if place.own is not None:  # begun before the other one: what goes on now it does not know
        return entry.step > place.own.step
    return place.held.session not in entry.knows


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
