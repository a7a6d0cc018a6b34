"""Jobs as iCalendar, read back by the library as a phone would."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta, timezone

from icalendar import Calendar

from orthocris.formats.calendar import CalendarJob, calendar_bytes

STAMP = datetime(2026, 5, 10, 8, tzinfo=UTC)


class JobsInACalendar(unittest.TestCase):
    def setUp(self) -> None:
        summer = timezone(timedelta(hours=2))
        jobs = [
            CalendarJob("a@x", "Count, look 1: Gutters", "26 left", date(2026, 5, 13), None),
            CalendarJob(
                "b@x",
                "Spray; round 2, tätig",
                "",
                date(2026, 5, 15),
                datetime(2026, 5, 15, 19, tzinfo=summer),
            ),
        ]
        self.raw = calendar_bytes(jobs, "Trials, Yard", STAMP)
        self.events = list(Calendar.from_ical(self.raw).walk("VEVENT"))

    def test_days_and_hours(self) -> None:
        day, hour = self.events
        self.assertEqual(day.decoded("dtstart"), date(2026, 5, 13))
        self.assertEqual(day.decoded("dtend"), date(2026, 5, 14))
        self.assertEqual(hour.decoded("dtstart"), datetime(2026, 5, 15, 17, tzinfo=UTC))
        self.assertEqual(len(hour.walk("VALARM")), 1)

    def test_texts_survive(self) -> None:
        self.assertEqual(str(self.events[1]["summary"]), "Spray; round 2, tätig")

    def test_the_form_a_phone_wants(self) -> None:
        """RFC 5545: CRLF, lines up to 75 octets, version, product, unique ids, stamps."""
        lines = self.raw.split(b"\r\n")
        self.assertEqual(lines[0], b"BEGIN:VCALENDAR")
        self.assertIn(b"VERSION:2.0", lines)
        self.assertTrue(all(len(line) <= 75 for line in lines))
        self.assertNotIn(b"\n", self.raw.replace(b"\r\n", b""))
        self.assertEqual({str(e["uid"]) for e in self.events}, {"a@x", "b@x"})
        self.assertTrue(all(e.decoded("dtstamp") == STAMP for e in self.events))


if __name__ == "__main__":
    unittest.main()
