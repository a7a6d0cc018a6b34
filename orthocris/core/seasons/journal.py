"""The journal: looks round, treatments outside trials, and newcomers that stand apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import IntEnum, StrEnum

from orthocris.core.errors import InputError

MAY_JOIN = timedelta(days=7)  # for which it is told that it may join the others
FURTHEST_AHEAD = timedelta(days=732)
LONGEST_BACK = timedelta(days=366 * 30)  # an old notebook may be typed in
APART_DAYS, APART_LOOKS = 21, (7, 14, 21)  # two to three weeks, looked at each week
BEFORE_DAYS, AFTER_DAYS = 14, 21  # how near a look must lie to tell what a treatment met and left


class EntryKind(StrEnum):
    """What a line of the journal tells."""

    LOOK = "look"
    TREATED = "treated"
    NEWCOMER = "newcomer"
    AIR = "air"  # of a room: how damp it is
    TASK = "task"  # to be done on a day, once or again and again


class Level(IntEnum):
    """How bad it was, by eye."""

    NONE = 0
    FEW = 1
    SOME = 2
    MANY = 3


LEVEL_WORDS = ("none", "few", "some", "many")


@dataclass(frozen=True, slots=True)
class EntryDraft:
    """A line of the journal as it is written.

    `place` is where; `pest` the key of what was looked for or treated, else empty. A look has a
    `level` and whether `helpers` were about; a treatment says with `what`, a newcomer which plant
    it is, a task what is to be done. `humidity` (%) is that of room air. A task is due on its day
    and, once done, again so many days later (`every`), None: only once.
    """

    kind: EntryKind
    on: date
    place: str
    pest: str = ""
    level: Level | None = None
    helpers: bool = False
    what: str = ""
    note: str = ""
    humidity: float | None = None
    every: int | None = None


@dataclass(frozen=True, slots=True)
class Entry:
    """A line of the journal as it is kept; without an id it is an inspection, kept elsewhere.

    `photo` names the file of its picture.
    """

    id: int | None
    draft: EntryDraft
    finished_on: date | None = None
    photo: str | None = None


def check_entry(draft: EntryDraft, today: date) -> None:
    """Refuse what no notebook could hold, naming the field.

    Raises
    ------
    InputError
        For a day to come or long ago, and for what its kind needs and lacks.
    """
    latest = today + FURTHEST_AHEAD if draft.kind is EntryKind.TASK else today
    if not today - LONGEST_BACK <= draft.on <= latest:
        raise InputError(
            f"{draft.on} is too far ahead" if draft.on > today else f"{draft.on} is too long ago",
            code="bad_day",
            field="on",
            fix="Give the day on which it was seen or done, of the last thirty years; what is to "
            "be done lies at most two years ahead.",
        )
    needed = {
        EntryKind.LOOK: (("place", draft.place), ("pest", draft.pest)),
        EntryKind.TREATED: (("place", draft.place), ("pest", draft.pest), ("what", draft.what)),
        EntryKind.NEWCOMER: (("place", draft.place), ("what", draft.what)),
        EntryKind.AIR: (("place", draft.place),),
        EntryKind.TASK: (("place", draft.place), ("what", draft.what)),
    }
    for field, value in needed[draft.kind]:
        if not value.strip():
            raise InputError(
                f"{field} is empty", code="empty", field=field, fix=_MISSING[draft.kind, field]
            )
    if draft.kind is EntryKind.LOOK and draft.level is None:
        raise InputError(
            "how many there were is not said",
            code="empty",
            field="level",
            fix="Say none, few, some or many: that there were none is worth as much.",
        )
    damp = -1.0 if draft.humidity is None else draft.humidity
    if draft.kind is EntryKind.AIR and not 0 <= damp <= 100:
        raise InputError(
            "the air's humidity is not given"
            if draft.humidity is None
            else f"the air's humidity is {draft.humidity:g}",
            code="bad_humidity",
            field="humidity",
            fix="Give it in per cent, 0 to 100, as the hygrometer shows it.",
        )
    if draft.every is not None and not 1 <= draft.every <= 366:
        raise InputError(
            f"again after {draft.every} days",
            code="bad_every",
            field="every",
            fix="Give 1 to 366 days, or nothing where it is done once.",
        )


_MISSING = {
    (EntryKind.LOOK, "place"): "Say where you looked.",
    (EntryKind.LOOK, "pest"): "Say for which pest or disease you looked.",
    (EntryKind.TREATED, "place"): "Say where it was done.",
    (EntryKind.TREATED, "pest"): "Say against what it was done.",
    (EntryKind.TREATED, "what"): "Say with what, as you would tell it to a neighbour.",
    (EntryKind.NEWCOMER, "place"): "Say where it stands apart from the others.",
    (EntryKind.NEWCOMER, "what"): "Say which plant came.",
    (EntryKind.AIR, "place"): "Say in which room or where in it.",
    (EntryKind.TASK, "place"): "Say where it is to be done.",
    (EntryKind.TASK, "what"): "Say what is to be done.",
}


@dataclass(frozen=True, slots=True)
class Tried:
    """A treatment outside a trial, with what was seen before and after it; None: nobody looked."""

    entry: Entry
    before: Entry | None
    after: Entry | None

    @property
    def said(self) -> str:
        """What was seen, in one sentence."""
        if self.after is None:
            if self.before is None:
                return "Nobody wrote down what there was before or after."
            return f"{_level(self.before)} before; what came after it was not written down."
        days = (self.after.draft.on - self.entry.draft.on).days
        when = "a day later" if days == 1 else f"{days} days later"
        if self.before is None:
            return f"{_level(self.after)} {when}; how many there were before was not written down."
        return f"{_level(self.before)} before, {_level(self.after).lower()} {when}."


CANNOT_SHOW = (
    "What this cannot show: whether they went because of it. Rain, heat, helpers and their own "
    "course change numbers as well, and no plant was left alone to compare with. What came later "
    "also met what the treatments before it had left."
)


def tried_in_turn(entries: Sequence[Entry]) -> tuple[Tried, ...]:
    """Return the treatments in the order of their days, each with the looks about it.

    The look before is the last at its place within two weeks, the look after the first within
    three and before the next treatment there: what was seen later was met by another as well.
    On one day people look before they spray, in whatever order it was written.
    """
    ordered = sorted(entries, key=_when)
    places: dict[tuple[str, str], list[Entry]] = {}
    for one in ordered:
        if one.draft.kind in (EntryKind.LOOK, EntryKind.TREATED):
            places.setdefault(_bed(one), []).append(one)
    return tuple(
        _tried(places[_bed(one)], one) for one in ordered if one.draft.kind is EntryKind.TREATED
    )


def _tried(own: Sequence[Entry], one: Entry) -> Tried:
    place = own.index(one)
    treated = [k for k, other in enumerate(own) if other.draft.kind is EntryKind.TREATED]
    end = next((k for k in treated if k > place), len(own))
    before = [o for o in own[:place] if o.draft.kind is EntryKind.LOOK]
    after = [o for o in own[place + 1 : end] if o.draft.kind is EntryKind.LOOK]
    met = before[-1] if before else None
    left = after[0] if after else None
    on = one.draft.on
    return Tried(
        one,
        met if met and (on - met.draft.on).days <= BEFORE_DAYS else None,
        left if left and (left.draft.on - on).days <= AFTER_DAYS else None,
    )


DAMP = 60.0  # per cent from which on mildew and grey mould like a room, typical


def air_words(entries: Sequence[Entry], today: date) -> str:
    """Say what the room air of the last two weeks was like; empty where nobody looked."""
    found = [
        one.draft.humidity
        for one in entries
        if one.draft.humidity is not None and 0 <= (today - one.draft.on).days <= BEFORE_DAYS
    ]
    if not found:
        return ""
    mean = sum(found) / len(found)
    said = f"Room air of the last two weeks: {mean:.0f}%, the mean of {len(found)}"
    if mean < DAMP:
        return f"{said}."
    return (
        f"{said}: damp enough for mildew and grey mould. Air moving past the leaves helps more "
        "than a spray: a fan on low, pots further apart, water in the morning."
    )


def next_task(done: EntryDraft, on: date) -> EntryDraft | None:
    """Return the task that follows one that was done on a day; None where it is done once."""
    return None if done.every is None else replace(done, on=on + timedelta(days=done.every))


def _when(one: Entry) -> tuple[date, bool, int]:
    return one.draft.on, one.draft.kind is EntryKind.TREATED, one.id or 0


def _bed(one: Entry) -> tuple[str, str]:
    return one.draft.place.strip().casefold(), one.draft.pest


def _level(look: Entry) -> str:
    return LEVEL_WORDS[look.draft.level or Level.NONE].capitalize()


@dataclass(frozen=True, slots=True)
class Apart:
    """A newcomer that stands apart: until when, which look is due, and why it began anew."""

    entry: Entry
    since: date
    until: date
    look_on: date | None
    found: str


def apart(entries: Sequence[Entry], today: date) -> tuple[Apart, ...]:
    """Tell of the newcomers that stand apart or have just passed, the first due first.

    They are looked at each week for three weeks. Where something was found at their place the
    three weeks begin anew: whatever it is has eggs that nobody saw.
    """
    found = (_apart(one, entries) for one in entries if one.draft.kind is EntryKind.NEWCOMER)
    still = (one for one in found if one.look_on or today <= one.until + MAY_JOIN)
    return tuple(sorted(still, key=lambda one: one.look_on or one.until))


def _apart(newcomer: Entry, entries: Sequence[Entry]) -> Apart:
    place = newcomer.draft.place.strip().casefold()
    looks = sorted(
        (one.draft.on, one.draft.pest, one.draft.level)
        for one in entries
        if one.draft.kind is EntryKind.LOOK
        and one.draft.place.strip().casefold() == place
        and one.draft.on >= newcomer.draft.on
    )
    ill = [(on, pest) for on, pest, level in looks if level]
    since = ill[-1][0] if ill else newcomer.draft.on
    last = max((on for on, _, _ in looks), default=newcomer.draft.on)
    due = [day for k in APART_LOOKS if (day := since + timedelta(days=k)) > last]
    until = since + timedelta(days=APART_DAYS)
    return Apart(newcomer, since, until, due[0] if due else None, ill[-1][1] if ill else "")
