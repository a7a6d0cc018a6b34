"""Jobs as an iCalendar file that a phone's calendar accepts (RFC 5545)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event


@dataclass(frozen=True, slots=True)
class CalendarJob:
    """One entry: the same `uid` again replaces it. `at` is its best hour, None: the whole day."""

    uid: str
    title: str
    text: str
    day: date
    at: datetime | None
    minutes: int = 40


def calendar_bytes(jobs: Sequence[CalendarJob], name: str, stamp: datetime) -> bytes:
    """Return an iCalendar file; times are in UTC, so that every calendar shows its own."""
    calendar = Calendar()
    calendar.add("prodid", "-//Orthocris//Jobs of the trials//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    calendar.add("refresh-interval", timedelta(hours=1), parameters={"VALUE": "DURATION"})
    for job in jobs:
        calendar.add_component(_event(job, stamp))
    return bytes(calendar.to_ical())


def _event(job: CalendarJob, stamp: datetime) -> Event:
    event = Event()
    event.add("uid", job.uid)
    event.add("dtstamp", stamp.astimezone(UTC))
    event.add("summary", job.title)
    event.add("description", job.text)
    if job.at is None:
        event.add("dtstart", job.day)
        event.add("dtend", job.day + timedelta(days=1))
        event.add("transp", "TRANSPARENT")
        return event
    start = job.at.astimezone(UTC)
    event.add("dtstart", start)
    event.add("dtend", start + timedelta(minutes=job.minutes))
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", job.title)
    alarm.add("trigger", timedelta(minutes=-30))
    event.add_component(alarm)
    return event
