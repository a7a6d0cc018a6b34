"""A number that somebody counted: what it must be, and when it may be counted."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from orthocris.core.counting.classes import check_class
from orthocris.core.counting.contest import Told
from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.measures import (
    TALLIED_BESIDE,
    check_effort,
    check_value,
    measure_named,
)
from orthocris.core.trial.setup import MOST_SAMPLES
from orthocris.core.words import day_words

LONGEST_BEFORE = timedelta(days=60)
CLOCK_RIGHT = timedelta(minutes=5)  # a clock no more off than that is left as it is
LONGEST_AWAY = timedelta(days=31)  # of a device without a connection


@dataclass(frozen=True, slots=True)
class TallyEntry:
    """A number to keep.

    `session` names one spell of counting one sample on one device; within it, `step` rises with
    every tap, so that a request that arrives late cannot undo a newer one. `counted_on` is the day
    it was really counted on, None where that is not said. `sample` is the number of the leaf (or
    other sample) from 1, 0 for the plant as a whole; `last` says that the plant has no more of
    them, though more were planned. `knows` are the sessions of this sample that the device knew of,
    its own among them, each as "name" or, as far as it knew it, "name@step"; None where that is not
    said. `classed` says that the value is what a class
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
    def known(self) -> dict[str, int | None] | None:
        """The sessions that were known, with the step each was known at; None: not said."""
        if self.knows is None:
            return None
        told = (name.rpartition("@") for name in self.knows)
        return {
            (name if at and step.isdecimal() else name + at + step): (
                int(step) if at and step.isdecimal() else None
            )
            for name, at, step in told
        }

    @property
    def numbers(self) -> tuple[object, ...]:
        """What it says, whoever says it and when."""
        return self.value, self.of, self.effort, self.finished, self.last

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

    @property
    def said(self) -> tuple[object, ...]:
        """What it says of which line: a name used again must say the same."""
        e = self.entry
        return e.step, e.value, e.session, e.plant_id, e.sample, e.measure


@dataclass(frozen=True, slots=True)
class Line:
    """A line of the record: the session it is of, the sample, the newest step and what it says."""

    id: int
    session: str
    sample: int
    step: int
    numbers: tuple[object, ...]
    counted_on: date


@dataclass(frozen=True, slots=True)
class CountPlace:
    """Where a number goes: look `number` of a trial, and what is known of it there.

    `measure` is the trial's, `samples` how many of a plant are planned; `known_finished` tells
    whether the plant's number so far was finished. `own` is the line of the session that counts
    now, `corrects_on` the day of the number it goes on with or corrects, None for a first; `lines`
    are all that were told of the sample by those whose numbers count.
    """

    look_id: int
    number: int
    measure: str
    start_on: date
    sprayed_on: date | None
    known_finished: bool
    samples: int = 0
    own: Line | None = None
    corrects_on: date | None = None
    lines: tuple[Told, ...] = ()


def clock_off(sent_at: datetime | None, now: datetime) -> timedelta:
    """Return by how much a device's clock is behind, nothing where it goes about right."""
    off = timedelta() if sent_at is None else now - sent_at
    return off if abs(off) > CLOCK_RIGHT else timedelta()


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
    """Refuse a session that goes on from one sample to another, or says two things at once.

    Raises
    ------
    ConflictError
        ``other_sample``; ``same_step`` where two pages count under one name, so that one of their
        numbers would replace the other unseen.
    """
    if place.own is not None and place.own.sample != entry.sample:
        raise ConflictError(
            f"this session counts sample {place.own.sample}, not {entry.sample}",
            code="other_sample",
            field="session",
            fix="Give every sample a session of its own.",
        )
    if (
        place.own is not None
        and entry.step == place.own.step
        and entry.numbers != place.own.numbers
    ):
        raise ConflictError(
            f"step {entry.step} of this session said another number before",
            code="same_step",
            field="step",
            fix="Count each page under a session of its own; then look at what is kept, and "
            "correct it if need be.",
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
    if place.own is not None and entry.step <= place.own.step:
        return place.own.counted_on  # it comes after what was tapped later: nothing moves
    on = entry.counted_on or place.corrects_on or today
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
            f"{day_words(place.sprayed_on)}.",
        )


def _check_before(place: CountPlace, entry: TallyEntry, on: date) -> None:
    if place.sprayed_on is None:
        if on < place.start_on - LONGEST_BEFORE:
            _refuse_day(on, "A count before belongs shortly before the first spray.")
        return
    if on > place.sprayed_on or (entry.counted_on is None and place.corrects_on is None):
        raise ConflictError(
            "the first spray is done, so a first count now is no count before",
            code="too_late_for_before",
            field="counted_on",
            fix="If it was counted before and is entered late, say on which day; else leave it "
            "empty, and the verdict will name the plant.",
        )


def _refuse_day(day: date, fix: str) -> None:
    raise InputError(f"counted on {day_words(day)}", code="bad_day", field="counted_on", fix=fix)
