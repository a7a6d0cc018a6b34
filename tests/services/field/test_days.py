"""Day 0 and the days of counts: moved, taken back, entered late, or too early."""

from __future__ import annotations

from datetime import date, timedelta

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.question import check_question
from orthocris.services.counting import keeping as fieldwork
from orthocris.services.field import moves, rounds
from orthocris.services.planning import critiques as planning
from orthocris.services.trial import questions
from orthocris.services.verdict import judging as verdicts
from tests.services.world import ServiceCase


class FirstRound(ServiceCase):
    def test_moving_round_1_moves_the_start_and_the_question_can_still_be_saved(self) -> None:
        to = self.now.date() + timedelta(days=4)
        moves.move_round(self.context, self.trial_id, 1, to, "rain all week")
        self.assertEqual((self.trial.start_on, self.trial.rounds[0].day), (to, 0))
        asked = questions.question_of(self.trial)
        questions.change_question(self.context, self.trial_id, asked, self.trial.start_on)
        with self.assertRaises(ConflictError):
            moves.leave_out(self.context, self.trial_id, 1, "no time")

    def test_rounds_never_outgrow_what_a_question_may_have(self) -> None:
        day = self.now.date()
        for k in range(3, 31):
            moves.move_round(self.context, self.trial_id, k, day + timedelta(days=3 + k), "heavy")
        with self.assertRaises(ConflictError):
            moves.move_round(self.context, self.trial_id, 31, day + timedelta(days=90), "heavy")
        check_question(questions.question_of(self.trial))
        with self.assertRaises(InputError):
            moves.move_round(self.context, self.trial_id, 30, day + timedelta(days=365), "late")

    def test_day_0_goes_with_a_round_1_taken_back(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all()
        first = self.now.date()
        self.later(3)
        self.count_all(1, 20, 30)
        rounds.undo_spray(self.context, self.trial_id, 1, None, "recorded on the wrong day")
        self.spray_all()
        self.assertEqual(self.trial.sprayed_on, first + timedelta(days=3))

    def test_round_1_is_not_taken_back_from_under_a_later_one(self) -> None:
        self.plant_and_draw()
        self.spray_all()
        self.later(5)
        self.spray_all(2)
        with self.assertRaises(ConflictError) as caught:
            rounds.undo_spray(self.context, self.trial_id, 1, None, "a mistake")
        self.assertIn("round 2", caught.exception.message)
        self.assertEqual(len(self.trial.sprayed_in(self.trial.rounds[0])), 8)

    def test_a_batch_must_be_of_the_remedy_it_is_named_for(self) -> None:
        self.plant_and_draw()
        water = self.trial.remedies[0].id
        with self.assertRaises(InputError) as caught:
            self.start(1, batches={water: 999})
        self.assertEqual(caught.exception.code, "no_such_batch")

    def test_most_plants_without_rest_are_said_before_the_start(self) -> None:
        self.plant_and_draw()
        self.spray_all()
        self.later(1)
        with self.assertRaises(ConflictError) as caught:
            self.start(2)
        self.assertEqual(caught.exception.field, "too_soon")
        reasons = {"too_soon": "washed off in the night", "window_closed": "a test"}
        self.start(2, reasons=reasons)
        plant = self.trial.trial_plants[0]
        self.spray_one(2, plant.id)
        self.assertEqual(self.trial.sprays[-1].deviation, "washed off in the night")


class EnteredLate(ServiceCase):
    """A trial on paper, entered in one evening; and counts of the wrong day."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()

    def paper(self, look: int, day: date, soap: float, water: float) -> None:
        """Enter every plant's count of a past day."""
        names = {r.id: r.name for r in self.trial.remedies}
        for k, plant in enumerate(self.trial.trial_plants):
            base = soap if names[plant.remedy_id or 0] == "Soap" else water
            entry = self.entry(plant.id, base + k % 3, counted_on=day)
            fieldwork.keep_tally(self.context, self.trial_id, look, entry)

    def test_a_whole_trial_on_paper_is_judged_on_its_real_days(self) -> None:
        start = self.now.date() - timedelta(days=20)
        self.start(1, done_on=start)
        for plant in self.trial.trial_plants:
            self.spray_one(1, plant.id)
        self.assertEqual(self.trial.sprayed_on, start)
        self.paper(0, start, 30, 30)
        self.paper(1, start + timedelta(days=3), 9, 31)
        self.paper(2, start + timedelta(days=7), 2, 33)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertTrue(found.final)
        notes = " ".join(found.notes)
        self.assertIn("entered only after the first spray", notes)
        self.assertIn("Round 1 was done on", notes)
        self.assertNotIn("counted more than a day", notes)

    def test_counts_of_day_0_for_later_looks_settle_nothing(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        for look in (1, 2):
            self.count_all(look, 1, 30)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertFalse(found.final)
        self.assertTrue(found.early)
        self.assertTrue(any("before its day settles nothing" in note for note in found.notes))
        self.later(7)
        self.count_again(2)
        self.assertTrue(verdicts.verdict_of(self.context, self.trial_id).final)

    def count_again(self, look: int) -> None:
        """Count every plant again, today."""
        names = {r.id: r.name for r in self.trial.remedies}
        for plant in self.trial.trial_plants:
            value = 1 if names[plant.remedy_id or 0] == "Soap" else 30
            entry = self.entry(plant.id, value, counted_on=self.now.date())
            fieldwork.keep_tally(self.context, self.trial_id, look, entry)

    def test_a_typo_corrected_weeks_later_is_still_of_its_day(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        self.later(4)
        self.count_all(2, 2, 33)
        self.later(12)
        planning.open_key(self.context, self.trial_id)
        self.later(1)
        self.count(self.trial.trial_plants[0].id, 5, look=2)
        found = verdicts.verdict_of(self.context, self.trial_id)
        notes = " ".join(found.notes)
        self.assertTrue(found.final)
        self.assertNotIn("counted more than a day", notes)
        self.assertNotIn("it was not blind", notes)
        self.assertIn("1 plant was corrected after the key", notes)

    def test_days_that_cannot_be(self) -> None:
        plant = self.trial.trial_plants[0].id
        self.count(plant, 4)
        self.spray_all()
        tomorrow = self.now.date() + timedelta(days=1)
        for look, day in ((1, tomorrow), (1, self.now.date() - timedelta(days=2)), (0, tomorrow)):
            with self.assertRaises((InputError, ConflictError)) as caught:
                fieldwork.keep_tally(
                    self.context, self.trial_id, look, self.entry(plant, 4, counted_on=day)
                )
            self.assertEqual(caught.exception.field, "counted_on")
        with self.assertRaises(InputError):
            self.start(1, done_on=tomorrow)

    def test_a_total_without_a_count_is_refused(self) -> None:
        plant = self.trial.trial_plants[0].id
        with self.assertRaises(InputError) as caught:
            fieldwork.keep_tally(
                self.context,
                self.trial_id,
                0,
                self.entry(plant, None, of=0.0, finished=False),
            )
        self.assertEqual(caught.exception.field, "of")
