"""Looks after hours, and several on one day: planned, counted, judged, and told as hours."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core import judge
from orthocris.core.errors import InputError
from orthocris.core.field.progress import JobKind
from orthocris.core.trial.plan import day_and_hours, moment_words, on_moment
from orthocris.formats.tidy_table import read_table
from orthocris.services.trial import overviews, questions
from orthocris.services.verdict import judging, table
from tests.services.world import QUESTION, ServiceCase


class Hours(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        wanted = replace(QUESTION, look_days=(0.125, 0.5, 3), round_days=(0,))
        questions.change_question(self.context, self.trial_id, wanted, self.now.date())
        self.plant_and_draw()
        self.count_all(0, soap=20, water=20)
        self.spray_all()

    def test_they_are_kept_as_days_and_hours_in_their_order(self) -> None:
        looks = [(look.day, look.hours, look.when) for look in self.trial.looks[1:]]
        self.assertEqual(looks, [(0, 3, "3 hours"), (0, 12, "12 hours"), (3, 0, "day 3")])

    def test_both_of_one_day_are_due_on_it_and_the_verdict_waits_for_the_last(self) -> None:
        jobs = overviews.overview(self.context, self.trial_id).jobs
        due = [job.title for job in jobs if job.kind is JobKind.COUNT]
        self.assertEqual(due[:2], ["Count, look 1, 3 hours after", "Count, look 2, 12 hours after"])
        self.later(3 / 24)
        self.count_all(1, soap=2, water=20)
        found = judging.verdict_of(self.context, self.trial_id)
        self.assertEqual((found.look_number, found.final), (1, False))
        self.assertIsNone(found.verdict.recommended)
        seen = table.together([self.trial])
        alone = judge(seen, control="Water")  # as if nothing else were planned
        texts = " ".join(warning.text for warning in alone.warnings)
        self.assertIn("after 3 hours: knock-down is not control", texts)

    def test_they_are_days_in_the_table_and_each_look_is_one_of_its_own(self) -> None:
        self.later(3 / 24)
        self.count_all(1, soap=2, water=20)
        self.later(9 / 24)
        self.count_all(2, soap=9, water=21)
        self.open_key()
        found = judging.verdict_of(self.context, self.trial_id, 1)
        soap = next(r for r in found.verdict.remedies if r.name == "Soap")
        self.assertGreater(soap.efficacy or 0, 0.8)
        self.later(3)
        self.count_all(3, soap=15, water=22)
        final = judging.verdict_of(self.context, self.trial_id)
        soap = next(r for r in final.verdict.remedies if r.name == "Soap")
        self.assertTrue(final.final and (soap.efficacy or 0) < 0.5)
        days = {o.day for o in read_table(judging.table_of(self.context, self.trial_id))[0]}
        self.assertEqual(days, {0, 0.125, 0.5, 3})

    def test_another_hour_than_planned_is_named(self) -> None:
        self.later(9 / 24)
        self.count_all(1, soap=2, water=20)
        notes = judging.verdict_of(self.context, self.trial_id, 1).notes
        self.assertTrue(any("another hour than 3 hours after" in note for note in notes), notes)

    def test_the_question_read_back_is_the_one_that_was_asked(self) -> None:
        self.assertEqual(questions.question_of(self.trial).look_days, (0.125, 0.5, 3))


class Rules(ServiceCase):
    def test_parts_of_hours_and_looks_at_the_spray_are_refused(self) -> None:
        for days in ((0.01,), (0, 3), (-0.5, 2), (3, 0.5), (0.125, 0.125), (400,), ()):
            wanted = replace(QUESTION, look_days=days)
            with self.subTest(days=days), self.assertRaises(InputError) as caught:
                questions.change_question(self.context, self.trial_id, wanted, self.now.date())
            self.assertEqual(caught.exception.field, "look_days")

    def test_moments_in_words(self) -> None:
        self.assertEqual(day_and_hours(1 + 5 / 24), (1, 5))
        words = [moment_words(m) for m in (3, 1 / 24, 1.5, 2 + 1 / 24, 0.3)]
        told = ["day 3", "1 hour", "1 day 12 hours", "2 days 1 hour", "day 0.3"]
        self.assertEqual(words, told)
        self.assertEqual((on_moment(3), on_moment(0.125)), ("on day 3", "after 3 hours"))
