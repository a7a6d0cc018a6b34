"""A year of the garden: what was first seen when, what is expected, and what is due before it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

import numpy as np

from orthocris.core.errors import NotFoundError
from orthocris.core.seasons.expecting import (
    Expected,
    First,
    Sighting,
    Step,
    expect,
    expected_words,
    firsts,
    next_step,
)
from orthocris.core.seasons.journal import (
    Apart,
    Entry,
    EntryKind,
    Tried,
    air_words,
    apart,
    tried_in_turn,
)
from orthocris.core.seasons.warmth import USUAL_T0, Season, daily, season_name, season_start
from orthocris.core.verdict.frozen import headline
from orthocris.core.weather.hours import Weather
from orthocris.core.weather.yard import Yard
from orthocris.core.words import listing, many
from orthocris.knowledge import life_cycles
from orthocris.services.context import Context
from orthocris.services.finding import look_of
from orthocris.services.trial.own_pests import pest_of
from orthocris.services.weather.stations import past_days
from orthocris.storage import journal
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.finding import inspections
from orthocris.storage.journal import TrialSeen

MOST_YEARS = 12  # back from this one, of which warmth is read


@dataclass(frozen=True, slots=True)
class Mark:
    """Something that was done or found on a day of the year shown: a trial, or a line's words."""

    on: date
    words: str
    trial_id: int | None = None


@dataclass(frozen=True, slots=True)
class Lane:
    """One pest over the year shown and those before it.

    `firsts` are of the years before, `this` of the year shown; `expected` and `step` are of the
    current year only, and none once it was seen. `said` is what is next, in a sentence.
    """

    pest: str
    name: str
    firsts: tuple[First, ...]
    this: First | None
    expected: Expected | None
    step: Step | None
    said: str
    trials: tuple[Mark, ...]
    treated: tuple[Mark, ...]


@dataclass(frozen=True, slots=True)
class Garden:
    """A year of the garden, or of one place in it.

    `years` are the beginnings of all years with something in them and of the current one;
    `warmth` and `warmth_before` are degree-days above 5 °C by the end of each day, of the year
    shown and the one before it, empty where too little is known; `gathered` is what a pest had been
    given since the year began by each day it was looked for. `names` are those of the pests;
    `tasks` are still to be done, and `air` says what room air was like of late.
    """

    today: date
    start: date
    end: date
    name: str
    years: tuple[date, ...]
    place: str
    places: tuple[str, ...]
    lanes: tuple[Lane, ...]
    warmth: tuple[float, ...]
    warmth_before: tuple[float, ...]
    apart: tuple[Apart, ...]
    tried: tuple[Tried, ...]
    entries: tuple[Entry, ...]
    tasks: tuple[Entry, ...]
    air: str
    names: dict[str, str]
    gathered: dict[tuple[str, date], float]


@dataclass(frozen=True, slots=True)
class GardenJob:
    """Something due outside the trials, on Today and in the calendar."""

    key: str
    title: str
    due_on: date
    note: str
    kind: EntryKind
    pest: str
    place: str


def garden_year(context: Context, start: date | None = None, place: str = "") -> Garden:
    """Return a year of the garden, by default the current one.

    Raises
    ------
    NotFoundError
        When no year of the garden begins on that day.
    """
    now = context.now()
    with context.database.reading() as connection:
        trials = journal.trials_seen(connection)
        world = _World(yard.load(connection), now, _lines(connection), trials)
        return world.shown(connection, start, place.strip())


def garden_jobs(
    connection: Connection, now: datetime, place: Yard, ahead_days: int = 7
) -> list[GardenJob]:
    """Return what is due in the garden outside the trials, the first due first."""
    entries = _lines(connection)
    until = now.date() + timedelta(days=ahead_days)
    found = [_apart_job(one) for one in apart(entries, now.date())]
    found += [_task_job(one) for one in _open_tasks(entries)]
    world = _World(place, now, entries, journal.trials_seen(connection))
    if len(world.seasons) > 1:  # else nothing is known of any year before
        lanes = world.lanes(connection, world.seasons[-1], "")
        found += [_lane_job(lane) for lane in lanes if lane.step is not None]
    return sorted((job for job in found if job.due_on <= until), key=lambda job: job.due_on)


def _apart_job(one: Apart) -> GardenJob:
    place, what = one.entry.draft.place, one.entry.draft.what
    key = f"apart-{one.entry.id}"
    if one.look_on is None:
        title, note = f"{what} may join the others", "three weeks apart with nothing found"
        return GardenJob(key, title, one.until, note, EntryKind.NEWCOMER, "", place)
    note = "each week for three weeks, leaves and soil"
    return GardenJob(
        key, f"Look at the newcomer: {what}", one.look_on, note, EntryKind.LOOK, "", place
    )


def _open_tasks(entries: Sequence[Entry]) -> list[Entry]:
    """Tasks that are still to be done, the first due first."""
    return [e for e in entries if _is_open(e)]


def _is_open(one: Entry) -> bool:
    return one.draft.kind is EntryKind.TASK and one.finished_on is None


def _task_job(one: Entry) -> GardenJob:
    draft = one.draft
    note = "" if draft.every is None else f"every {many(draft.every, 'day')}"
    return GardenJob(f"task-{one.id}", draft.what, draft.on, note, EntryKind.TASK, "", draft.place)


def _lane_job(lane: Lane) -> GardenJob:
    step, places = lane.step, _places_of(lane)
    if step is None:
        raise ValueError(f"{lane.pest} has nothing that is next")
    verb = "Prevent" if step.treat else "Look for"
    kind = EntryKind.TREATED if step.treat else EntryKind.LOOK
    where = f" at {listing(places)}" if places else ""
    place = places[0] if places else ""
    title = f"{verb} {lane.name.lower()}{where}"
    return GardenJob(f"lane-{lane.pest}", title, step.on, step.why, kind, lane.pest, place)


def _places_of(lane: Lane) -> list[str]:
    """Where it came first in the years before, the last year's place first."""
    return list(dict.fromkeys(first.sighting.place for first in reversed(lane.firsts)))[:3]


def _lines(connection: Connection) -> list[Entry]:
    """The journal with the inspections of Find out, by their days."""
    found = [Entry(None, look_of(one)) for one in inspections(connection) if one.place]
    lines = [*journal.entries(connection), *found]
    return sorted(lines, key=lambda line: line.draft.on)


class _World:
    """All that was written of a garden, and its years."""

    def __init__(
        self,
        place: Yard,
        now: datetime,
        entries: Sequence[Entry],
        trials: Sequence[TrialSeen],
    ) -> None:
        self.yard, self.now, self.entries, self.trials = place, now, entries, trials
        self.today = now.date()
        current = season_start(self.today, place.latitude)
        days = [min(one.draft.on, self.today) for one in entries] + [one.on for one in trials]
        first = min((season_start(day, place.latitude) for day in days), default=current)
        self.seasons = [
            current.replace(year=year) for year in range(min(first, current).year, current.year + 1)
        ]
        self._weather: dict[date, Weather] = {}
        self._warmth: dict[tuple[date, float], Season] = {}

    def shown(self, connection: Connection, start: date | None, place: str) -> Garden:
        shown = self.seasons[-1] if start is None else start
        if shown not in self.seasons:
            raise NotFoundError(
                f"no year of this garden begins on {shown}",
                code="no_such_year",
                fix="Choose one of the years named.",
            )
        season = self._season(connection, shown, USUAL_T0)
        before = self.seasons[: self.seasons.index(shown)]
        beds = {one.draft.place.casefold(): one.draft.place for one in self.entries}
        own = [e for e in self.entries if _is_at(e.draft.place, place)]
        tasks = _open_tasks(own)
        entries = tuple(
            e
            for e in reversed(own)
            if shown <= (e.finished_on or e.draft.on) < season.end and not _is_open(e)
        )
        return Garden(
            today=self.today,
            start=shown,
            end=season.end,
            name=season_name(shown),
            years=tuple(self.seasons),
            place=place,
            places=tuple(sorted(beds.values(), key=str.casefold)),
            lanes=self.lanes(connection, shown, place),
            warmth=_sums(season),
            warmth_before=_sums(self._season(connection, before[-1], USUAL_T0)) if before else (),
            apart=apart(own, self.today),
            tried=tried_in_turn(own),
            entries=entries,
            tasks=tuple(tasks),
            air=air_words(own, self.today),
            names={p: _name(connection, p) for p in {e.draft.pest for e in self.entries}},
            gathered=self._gathered(connection, shown, entries),
        )

    def lanes(self, connection: Connection, shown: date, place: str) -> tuple[Lane, ...]:
        """Return a lane for each pest that was ever seen or treated, the next expected first."""
        by_pest: dict[str, list[Entry]] = {}
        for entry in self.entries:
            if entry.draft.pest and _is_at(entry.draft.place, place):
                by_pest.setdefault(entry.draft.pest, []).append(entry)
        pests = dict.fromkeys([*by_pest, *(t.pest for t in self.trials if not place)])
        found = [
            self._lane(connection, pest, shown, place, by_pest.get(pest, [])) for pest in pests
        ]
        lanes = [one for one in found if one.firsts or one.this or one.treated]
        return tuple(sorted(lanes, key=_order))

    def _lane(
        self, connection: Connection, pest: str, shown: date, place: str, entries: list[Entry]
    ) -> Lane:
        trials = [t for t in self.trials if t.pest == pest and not place]
        seen = [Sighting(e.draft.on, e.draft.place) for e in entries if e.draft.level]
        seen += [Sighting(t.on, t.name, t.id) for t in trials]
        t0 = _threshold(pest)
        spans = [s for s in self.seasons if s <= shown]
        seasons = [self._season(connection, start, t0) for start in spans]
        every = firsts(seen, seasons)
        this = next((f for f in every if f.start == shown), None)
        before = tuple(f for f in every if f.start < shown)
        current = shown == self.seasons[-1]
        expected = expect(before, seasons[-1], seasons[:-1]) if current and not this else None
        year = [e for e in entries if shown <= e.draft.on < seasons[-1].end]
        treated = [e.draft.on for e in year if e.draft.kind is EntryKind.TREATED]
        step = None
        if expected is not None:
            step = next_step(
                expected,
                self.today,
                looked=[e.draft.on for e in year if e.draft.kind is EntryKind.LOOK],
                treated=treated,
                rain_since=self._rain(connection, max(treated)) if treated else 0.0,
            )
        lane = Lane(
            pest=pest,
            name=_name(connection, pest),
            firsts=before,
            this=this,
            expected=expected,
            step=step,
            said="",
            trials=tuple(_trial_mark(t) for t in trials if shown <= t.on < seasons[-1].end),
            treated=tuple(
                Mark(e.draft.on, e.draft.what) for e in year if e.draft.kind is EntryKind.TREATED
            ),
        )
        return replace(lane, said=_said(lane, self.today))

    def _gathered(
        self, connection: Connection, shown: date, entries: Sequence[Entry]
    ) -> dict[tuple[str, date], float]:
        looks = {(e.draft.pest, e.draft.on) for e in entries if e.draft.kind is EntryKind.LOOK}
        sums = {
            (pest, on): self._season(connection, shown, _threshold(pest)).sum_until(on)
            for pest, on in looks
        }
        return {look: found for look, found in sums.items() if found is not None}

    def _season(self, connection: Connection, start: date, t0: float) -> Season:
        if self.seasons.index(start) < len(self.seasons) - MOST_YEARS:
            return Season(start, np.full((start.replace(year=start.year + 1) - start).days, np.nan))
        if (start, t0) not in self._warmth:
            days = daily(self._hours(connection, start).temperature, t0)
            self._warmth[start, t0] = Season(start, days)
        return self._warmth[start, t0]

    def _hours(self, connection: Connection, start: date) -> Weather:
        if start not in self._weather:
            end = min(start.replace(year=start.year + 1), self.today + timedelta(days=1))
            self._weather[start] = past_days(connection, self.yard, start, end, self.now)
        return self._weather[start]

    def _rain(self, connection: Connection, since: date) -> float:
        """Mm of rain that are known of the days after one, up to today."""
        start = self.seasons[-1]
        rain = self._hours(connection, start).rain
        return float(np.nansum(rain[((since - start).days + 1) * 24 :]))


def _threshold(pest: str) -> float:
    """The °C above which a pest's first stage grows."""
    cycle = life_cycles().get(pest)
    return min(stage.t0 for stage in cycle.stages) if cycle and cycle.stages else USUAL_T0


def _name(connection: Connection, pest: str) -> str:
    known = pest_of(connection, pest) if pest else None
    return known.name if known else pest


def _is_at(place: str, asked: str) -> bool:
    return not asked or place.casefold() == asked.casefold()


def _sums(season: Season) -> tuple[float, ...]:
    """Degree-days by the end of each day; none where too little is known."""
    last = season.start + timedelta(days=len(season.days) - 1)
    if season.sum_until(last) is None:
        return ()
    usual = float(np.nanmean(season.days))
    found = np.cumsum(np.where(np.isnan(season.days), usual, season.days))
    return tuple(round(float(x), 1) for x in found)


def _trial_mark(trial: TrialSeen) -> Mark:
    if trial.verdict is None:
        return Mark(trial.on, trial.name, trial.id)
    return Mark(trial.on, headline(json.loads(trial.verdict)), trial.id)


def _order(lane: Lane) -> tuple[bool, date, str]:
    if lane.expected is not None:
        return (False, lane.expected.on, lane.name)
    seen = lane.this or (lane.firsts[-1] if lane.firsts else None)
    return (True, seen.sighting.on if seen else date.max, lane.name)


def _said(lane: Lane, today: date) -> str:
    """What is next where a pest is expected, and from how many years that is known."""
    expected, step = lane.expected, lane.step
    if expected is None:
        return ""
    sure = "one year says little" if expected.years == 1 else f"from {expected.years} years"
    words = f"{expected_words(expected, today)} ({sure})."
    where = f" at {listing(places)}" if (places := _places_of(lane)) else ""
    said = words[:1].upper() + words[1:]
    if step is not None:
        act = "prevent" if step.treat else "look"
        days = (step.on - today).days
        when = "now" if days <= 0 else f"in {many(days, 'day')}"
        return f"{said} Next: {act}{where} {when}."
    ahead = (expected.prevent_from - today).days
    if ahead > 0:
        return f"{said} Begin to look or to prevent{where} in {many(ahead, 'day')}."
    return f"{said} Its time is over for this year."
