"""The demo world stands as its stories say, whatever the day."""

from __future__ import annotations

import tempfile
import unittest
from datetime import UTC, date, datetime
from pathlib import Path

from orthocris.core import Outcome
from orthocris.core.field.progress import JobKind
from orthocris.core.weather.sunlight import sun_times
from orthocris.demo.build import build_demo
from orthocris.demo.world import yard_on
from orthocris.services.context import Context
from orthocris.services.trial import overviews
from orthocris.services.verdict import judging as verdicts
from orthocris.storage.database import Database


class InSeason(unittest.TestCase):
    def test_it_lies_where_days_are_long_whatever_the_month(self) -> None:
        for month in range(1, 13):
            day = date(2026, month, 15)
            sun = sun_times(yard_on(day).place(UTC), day)
            self.assertGreater(sun.set - sun.rise, 11.5, month)


class QuillonYard(unittest.TestCase):
    context: Context
    by_pest: dict[str, overviews.TodayTrial]

    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        now = datetime(2026, 3, 1, 15, 20, tzinfo=UTC)
        database = Database(Path(folder.name) / "demo.sqlite", durable=False)
        database.migrate()
        build_demo(database, now)
        cls.context = Context(database, lambda: now)
        cls.by_pest = {t.plan.pest: t for t in overviews.today(cls.context).trials}

    def test_strawberries_are_due_for_their_second_spray_today(self) -> None:
        mixing, job = self.by_pest["spider_mites"].jobs[:2]
        self.assertEqual((mixing.kind, mixing.number), (JobKind.MIX, 2))
        self.assertEqual((job.kind, job.number), (JobKind.SPRAY, 2))
        self.assertEqual(job.due_on, self.context.now().date())

    def test_lupins_have_a_winner_that_does_not_burn(self) -> None:
        found = verdicts.verdict_of(self.context, self.by_pest["aphids"].plan.id)
        self.assertTrue(found.final)
        self.assertIs(found.verdict.outcome, Outcome.WINNER)
        self.assertEqual(found.verdict.recommended, "Mild soap")
        burnt = next(r for r in found.verdict.remedies if r.name == "Soap with alcohol")
        self.assertTrue(burnt.vetoed)

    def test_phlox_is_not_settled(self) -> None:
        found = verdicts.verdict_of(self.context, self.by_pest["powdery_mildew"].plan.id)
        self.assertIs(found.verdict.outcome, Outcome.UNDECIDED)
        self.assertIn("more plants", found.verdict.advice)

    def test_fuchsias_wait_for_their_layout_and_their_patch_tests(self) -> None:
        first, second = self.by_pest["whiteflies"].jobs
        self.assertEqual(first.station, "layout")
        self.assertEqual((second.kind, second.left), (JobKind.PATCH, 4))


if __name__ == "__main__":
    unittest.main()
