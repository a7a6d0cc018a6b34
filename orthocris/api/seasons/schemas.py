"""Shapes of the garden's year and its journal."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

from orthocris.api.base import Date, In, Line, Out, Real, Text
from orthocris.core.seasons.journal import (
    CANNOT_SHOW,
    Apart,
    Entry,
    EntryDraft,
    EntryKind,
    Level,
    Tried,
)
from orthocris.services.seasons.years import Garden, Lane

Name = Annotated[Line, Field(max_length=120)]


class EntryIn(In):
    """A line of the journal; see the core's `EntryDraft`."""

    kind: EntryKind
    on: Date
    place: Name
    pest: Name = ""
    level: Level | None = None
    helpers: bool = False
    what: Annotated[Line, Field(max_length=300)] = ""
    note: Text = ""
    humidity: Real | None = None
    every: Annotated[int, Field(ge=-(10**6), le=10**6)] | None = None

    def to_core(self) -> EntryDraft:
        """Return the core's draft."""
        return EntryDraft(**self.model_dump())


class EntryOut(Out):
    """A line of the journal as it is kept; `name` is the pest's.

    Without an id it is an inspection, which is kept with Find out. `photo` is its address. A
    look has the degree-days from the beginning of its year to its day, where they are known.
    """

    id: int | None
    kind: EntryKind
    on: date
    place: str
    pest: str
    name: str
    level: Level | None
    helpers: bool
    what: str
    note: str
    humidity: float | None
    every: int | None
    finished_on: date | None
    photo: str | None
    degree_days: float | None


class FirstOut(Out):
    """When a pest was first seen in a year; `day` counts from the year's beginning."""

    start: date
    on: date
    day: int
    place: str
    degree_days: float | None


class ExpectedOut(Out):
    """When a pest is expected, and from which day on it is looked for or prevented."""

    on: date
    earliest: date
    latest: date
    ahead: int | None
    years: int
    prevent_from: date


class YearMarkOut(Out):
    """Something done or found on a day."""

    on: date
    words: str
    trial_id: int | None


class LaneOut(Out):
    """A pest over the year: what was first seen when, and what is expected."""

    pest: str
    name: str
    firsts: tuple[FirstOut, ...]
    this: FirstOut | None
    expected: ExpectedOut | None
    said: str
    trials: tuple[YearMarkOut, ...]
    treated: tuple[YearMarkOut, ...]

    @classmethod
    def of(cls, lane: Lane) -> LaneOut:
        """Return the shape of a lane."""
        firsts = [
            FirstOut(
                start=one.start,
                on=one.sighting.on,
                day=one.day,
                place=one.sighting.place,
                degree_days=one.degree_days,
            )
            for one in (*lane.firsts, *([lane.this] if lane.this else []))
        ]
        return cls(
            pest=lane.pest,
            name=lane.name,
            firsts=tuple(firsts[: len(lane.firsts)]),
            this=firsts[-1] if lane.this else None,
            expected=lane.expected and ExpectedOut.model_validate(lane.expected),
            said=lane.said,
            trials=tuple(YearMarkOut.model_validate(one) for one in lane.trials),
            treated=tuple(YearMarkOut.model_validate(one) for one in lane.treated),
        )


class ApartOut(Out):
    """A newcomer that stands apart; `found` names what began its three weeks anew."""

    entry_id: int | None
    what: str
    place: str
    until: date
    look_on: date | None
    found: str


class TriedOut(Out):
    """A treatment outside a trial, and what was seen about it."""

    entry_id: int | None
    pest: str
    name: str
    place: str
    what: str
    on: date
    said: str


class YearOut(Out):
    """A year of the garden, or of one place in it."""

    today: date
    start: date
    end: date
    name: str
    years: tuple[date, ...]
    place: str
    places: tuple[str, ...]
    lanes: tuple[LaneOut, ...]
    warmth: tuple[float, ...]
    warmth_before: tuple[float, ...]
    apart: tuple[ApartOut, ...]
    tried: tuple[TriedOut, ...]
    cannot_show: str
    tasks: tuple[EntryOut, ...]
    air: str
    entries: tuple[EntryOut, ...]

    @classmethod
    def of(cls, found: Garden) -> YearOut:
        """Return the shape of a year."""
        names = found.names
        shown = ("today", "start", "end", "name", "years", "place", "places")
        return cls(
            **{name: getattr(found, name) for name in shown},
            lanes=tuple(LaneOut.of(lane) for lane in found.lanes),
            warmth=found.warmth,
            warmth_before=found.warmth_before,
            apart=tuple(_apart(one, names) for one in found.apart),
            tried=tuple(_tried(one, names) for one in found.tried),
            cannot_show=CANNOT_SHOW,
            tasks=tuple(_line(one, found) for one in found.tasks),
            air=found.air,
            entries=tuple(_line(one, found) for one in found.entries),
        )


def _line(entry: Entry, garden: Garden) -> EntryOut:
    draft = entry.draft
    told = {field: getattr(draft, field) for field in EntryIn.model_fields}
    look = draft.kind is EntryKind.LOOK
    # Another photo of the same line has another address, so that no browser shows the old one.
    photo = entry.photo and f"/api/journal/{entry.id}/picture.jpg?of={entry.photo[:8]}"
    return EntryOut(
        id=entry.id,
        name=garden.names.get(draft.pest, draft.pest),
        finished_on=entry.finished_on,
        photo=photo or None,
        degree_days=garden.gathered.get((draft.pest, draft.on)) if look else None,
        **told,
    )


def _apart(one: Apart, names: dict[str, str]) -> ApartOut:
    draft = one.entry.draft
    return ApartOut(
        entry_id=one.entry.id,
        what=draft.what,
        place=draft.place,
        until=one.until,
        look_on=one.look_on,
        found=names.get(one.found, one.found),
    )


def _tried(one: Tried, names: dict[str, str]) -> TriedOut:
    draft = one.entry.draft
    return TriedOut(
        entry_id=one.entry.id,
        pest=draft.pest,
        name=names.get(draft.pest, draft.pest),
        place=draft.place,
        what=draft.what,
        on=draft.on,
        said=one.said,
    )
