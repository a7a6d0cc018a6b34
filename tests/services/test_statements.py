"""However many trials and counts there are, a screen is read by the same number of statements."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from itertools import groupby
from pathlib import Path

from bench.scale_world import Size, write_world
from orthocris.core.counting.tally import TallyEntry
from orthocris.core.field.rounds import Checks
from orthocris.core.trial.sprays import SprayEntry
from orthocris.services.context import Context
from orthocris.services.counting import keeping, sheets
from orthocris.services.field import calendars, rounds, schedule
from orthocris.services.trial import overviews
from orthocris.services.verdict import judging
from orthocris.storage.database import Database

NOW = datetime(2026, 5, 20, 8, tzinfo=UTC)
SMALL = Size(8, 4, 1)


class Statements(unittest.TestCase):
    """The same requests on two trials and on six, with few counts and with more."""

    def setUp(self) -> None:
        self.seen: list[str] = []
        self.gardens = [self.garden(2, 1), self.garden(6, 3)]

    def garden(self, trials: int, lines: int) -> Context:
        """A garden of so many trials, in which everything was counted so many times."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        file = Path(folder.name) / "data.sqlite"
        size = Size(SMALL.plants, SMALL.looks, lines)
        write_world(file, NOW, trials, usual=size, large=size)
        database = Database(file, durable=False, trace=self.seen.append)
        self.addCleanup(database.close)
        database.migrate()
        return Context(database, lambda: NOW)

    def counted(self, ask: Callable[[Context], object]) -> int:
        """How many statements a request takes, which must be as many in either garden."""
        counts = []
        for garden in self.gardens:
            ask(garden)  # opens the connections
            self.seen.clear()
            ask(garden)
            # A statement is told again for each rule of the data (trigger) that looks at it.
            counts.append(sum(1 for _ in groupby(self.seen)))
        self.assertEqual(len(set(counts)), 1, counts)
        return counts[0]

    def test_today_and_the_calendar(self) -> None:
        self.assertLessEqual(self.counted(overviews.today), 19)
        self.assertLessEqual(self.counted(calendars.calendar_of), 18)

    def test_a_trial_s_pages(self) -> None:
        self.assertLessEqual(self.counted(lambda c: overviews.overview(c, 2)), 32)
        self.assertLessEqual(self.counted(lambda c: schedule.schedule_of(c, 2)), 16)
        self.assertLessEqual(self.counted(lambda c: sheets.count_sheet(c, 2, 1)), 11)
        anew = partial(Context, now=lambda: NOW)  # which knows no verdict yet
        self.assertLessEqual(self.counted(lambda c: judging.verdict_of(anew(c.database), 2, 1)), 25)
        self.assertEqual(self.counted(lambda c: judging.verdict_of(c, 2, 1)), 0)
        self.assertLessEqual(self.counted(lambda c: rounds.what_blocks(c, 2, 5, Checks())), 30)

    def test_a_tap_and_a_spray(self) -> None:
        steps = iter(range(1000))

        def tap(context: Context) -> None:
            step = next(steps)
            entry = TallyEntry(2001, "live", "one-session", step, step, None, 1.0, finished=False)
            keeping.keep_tally(context, 2, 0, entry)

        self.assertLessEqual(self.counted(tap), 13)  # other devices' lines, rules that wait
        for garden in self.gardens:
            checks = Checks(
                shaken=True,
                cautions_read=True,
                bees_looked=True,
                fruit_looked=True,
                weather_looked=True,
                reasons=dict.fromkeys(("window_closed", "no_batch", "too_soon"), "a test"),
                batches=self.newest(garden),
            )
            rounds.start_round(garden, 2, 5, checks)

        def spray(context: Context) -> None:
            plant = 2000 + next(steps) % SMALL.plants
            entry = SprayEntry(plant, deviation="once more, for the test")
            rounds.record_spray(context, 2, 5, entry)

        self.assertLessEqual(self.counted(spray), 15)

    def newest(self, context: Context) -> dict[int, int]:
        """Batches mixed now, one in each bottle."""
        from orthocris.services.field import batches

        return {
            bottle.remedy.id: batches.record_batch(
                context, 2, bottle.remedy.id, batches.BatchDraft()
            )
            for bottle in batches.bottles_of(context, 2, helper=True).bottles
        }


if __name__ == "__main__":
    unittest.main()
