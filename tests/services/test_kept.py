"""Nothing changes unseen: mends taken back, requests sent twice, two windows, records kept."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from orthocris.core.errors import ChangedElsewhereError, ConflictError, InputError
from orthocris.core.planning.findings import Finding
from orthocris.core.question import Question, RemedyDraft, check_question
from orthocris.core.recipe_words import read_recipe
from orthocris.core.remedies import draft_of
from orthocris.core.setup import DesignKind, Setup
from orthocris.core.triage import QuickLook
from orthocris.core.trial import Role
from orthocris.core.weather_days import DayEntry, Sky
from orthocris.knowledge import remedy_named
from orthocris.services import (
    batches,
    benches,
    fieldwork,
    layouts,
    looks,
    moves,
    patches,
    planning,
    questions,
    rounds,
    verdicts,
    yards,
)
from orthocris.services.batches import BatchDraft
from orthocris.services.patches import PatchDraft
from orthocris.storage import records
from tests.services.world import QUESTION, ServiceCase

KEY = "a-key-of-its-own"


class Mends(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.ask("water_only", "mild_soap", "oil_soap")
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=3, per_row=8)

    def ask(self, *keys: str) -> None:
        """Compare these shipped remedies."""
        asked = questions.question_of(self.trial)
        chosen = tuple(draft_of(remedy_named(key)) for key in keys)
        self.save(replace(asked, remedies=chosen))

    def save(self, question: Question) -> None:
        """Keep a question."""
        questions.change_question(self.context, self.trial_id, question, self.trial.start_on)

    def test_the_same_soap_in_both_is_a_sound_recipe_within_both_ranges(self) -> None:
        before = questions.question_of(self.trial)
        (finding,) = self.findings("two_things_differ")
        told = {c.what: (c.before, c.after) for c in finding.mend.changes} if finding.mend else {}
        self.assertEqual(set(told), {"Mild soap", "Vegetable oil with soap"})
        planning.mend(self.context, self.trial_id, "two_things_differ")
        after = questions.question_of(self.trial)
        check_question(after)
        for remedy in after.remedies[1:]:
            parts = {p.name: float(p.per_litre) for p in read_recipe(remedy.recipe).parts}
            soap = next(amount for name, amount in parts.items() if "soap" in name)
            self.assertEqual(soap, 5)  # in 5 to 20 of soap alone and in 1 to 5 of an emulsifier
            self.assertIn(f"{remedy.name}: {remedy.recipe}", {a for _, a in told.values()})
        planning.take_back_mend(self.context, self.trial_id)
        self.assertEqual(questions.question_of(self.trial), before)

    def test_a_mend_clears_a_layout_says_so_and_brings_it_back(self) -> None:
        for plant in self.trial.plants[11:]:
            benches.remove_plant(self.context, self.trial_id, plant.id)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=5)
        drawn = {p.id: (p.block, p.remedy_id) for p in self.trial.plants}
        (finding,) = self.findings("too_few_blocks")
        assert finding.mend is not None
        self.assertIn("cleared", finding.mend.changes[-1].after)
        planning.mend(self.context, self.trial_id, "too_few_blocks")
        self.assertFalse(self.trial.laid_out)
        self.assertEqual(len(self.trial.plants), 12)
        planning.take_back_mend(self.context, self.trial_id)
        self.assertEqual({p.id: (p.block, p.remedy_id) for p in self.trial.plants}, drawn)

    def test_only_the_plan_as_it_was_left_can_be_taken_back(self) -> None:
        planning.mend(self.context, self.trial_id, "two_things_differ")
        self.assertIsNotNone(planning.review(self.context, self.trial_id).mended)
        self.save(replace(questions.question_of(self.trial), look_days=(2, 7)))
        self.assertIsNone(planning.review(self.context, self.trial_id).mended)
        with self.assertRaises(ConflictError):
            planning.take_back_mend(self.context, self.trial_id)

    def test_plants_counted_since_are_not_taken_back(self) -> None:
        for plant in self.trial.plants[11:]:
            benches.remove_plant(self.context, self.trial_id, plant.id)
        planning.mend(self.context, self.trial_id, "too_few_blocks")
        counted = replace(self.trial.plants[-1], match_count=12.0)
        benches.change_plant(self.context, self.trial_id, counted)
        self.assertIsNone(planning.review(self.context, self.trial_id).mended)
        with self.assertRaises(ConflictError):
            planning.take_back_mend(self.context, self.trial_id)
        self.assertIn(12.0, [p.match_count for p in self.trial.plants])

    def test_no_mend_puts_plants_beyond_the_bench(self) -> None:
        low = self.trial.plants[0]
        for plant in self.trial.plants[1:]:
            benches.remove_plant(self.context, self.trial_id, plant.id)
        planning.move_plant(self.context, self.trial_id, low.id, 40, 1)
        self.ask("water_only", "mild_soap")
        (finding,) = self.findings("too_few_blocks")
        self.assertIsNone(finding.mend)
        with self.assertRaises(ConflictError):
            planning.mend(self.context, self.trial_id, "too_few_blocks")

    def findings(self, code: str) -> list[Finding]:
        """The findings with this code."""
        found = planning.review(self.context, self.trial_id).findings
        return [f for f in found if f.code == code]


class Twice(ServiceCase):
    """A request that is sent twice with one key makes one thing."""

    def test_trials(self) -> None:
        day = self.now.date()
        one = questions.create_trial(self.context, QUESTION, day, KEY)
        self.assertEqual(questions.create_trial(self.context, QUESTION, day, KEY), one)
        with self.assertRaises(ConflictError) as caught:
            questions.create_trial(self.context, replace(QUESTION, name="Other"), day, KEY)
        self.assertEqual(caught.exception.code, "key_used")
        other = questions.create_trial(self.context, QUESTION, day, "another-key")
        self.assertNotEqual(other, one)

    def test_plants_patches_batches_and_looks(self) -> None:
        soap = self.trial.remedies[1].id
        for _ in range(2):
            benches.add_plants(
                self.context, self.trial_id, prefix="S", rows=1, per_row=4, key="key-of-plants"
            )
            draft = PatchDraft(soap, "the trial's plants")
            patches.put_on(self.context, self.trial_id, draft, "key-of-patch")
            batches.record_batch(
                self.context, self.trial_id, soap, BatchDraft(volume=500), "key-of-batch"
            )
            looks.keep_look(self.context, "aphids", "", (), QuickLook(10, 3), "key-of-look")
        found = self.trial
        self.assertEqual((len(found.plants), len(found.patches), len(found.batches)), (4, 1, 1))
        self.assertEqual(len(looks.kept_looks(self.context)), 1)


class TwoWindows(ServiceCase):
    """What was changed elsewhere since it was read is not overwritten without a word."""

    def test_question_care_plant_yard_and_prices(self) -> None:
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=4)
        trial, plant = self.trial, self.trial.plants[0]
        asked = questions.question_of(trial)
        read = questions.question_revision(trial)
        changed = replace(asked, look_days=(3, 9))
        questions.change_question(self.context, self.trial_id, changed, trial.start_on, read)
        writes: list[Callable[[], object]] = [
            lambda: questions.change_question(
                self.context, self.trial_id, asked, trial.start_on, read
            ),
            lambda: planning.mend(self.context, self.trial_id, "too_few_blocks", read),
            lambda: patches.change_care(self.context, self.trial_id, trial.care, "0" * 16),
            lambda: benches.change_plant(self.context, self.trial_id, plant, "0" * 16),
            lambda: yards.change_yard(self.context, yards.yard_of(self.context), "0" * 16),
            lambda: yards.change_prices(self.context, (), '"0000000000000000"'),
        ]
        for write in writes:
            with self.assertRaises(ChangedElsewhereError) as caught:
                write()
            self.assertIn("another window", caught.exception.message)
        self.assertEqual(self.trial.looks[-1].day, 9)
        mine = benches.plant_revision(plant)
        benches.change_plant(
            self.context, self.trial_id, replace(plant, match_count=8), f'"{mine}"'
        )
        self.assertEqual(self.trial.plants[0].match_count, 8)


class OnRecord(ServiceCase):
    def test_limits_widened_for_a_spray_and_put_back_stand_with_the_verdict(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(4)
        self.count_all(1, 3, 31)
        usual = self.trial.care
        patches.change_care(self.context, self.trial_id, replace(usual, high=40.0))
        self.later(1)
        self.spray_all(2)
        patches.change_care(self.context, self.trial_id, usual)
        notes = " ".join(verdicts.verdict_of(self.context, self.trial_id).notes)
        self.assertIn("upper limit, °C was changed from each remedy's own to 40", notes)
        self.assertIn("from 40 to each remedy's own", notes)
        self.later(2)
        self.count_all(2, 1, 33)
        notes = " ".join(verdicts.verdict_of(self.context, self.trial_id).notes)
        self.assertIn("Round 2 was started under own limits: upper limit, °C 40", notes)

    def test_every_reason_to_overrule_stays(self) -> None:
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=6)
        for reason in ("no more pots", "and no more room"):
            planning.overrule(self.context, self.trial_id, "too_few_blocks", reason)
        with self.context.database.reading() as connection:
            kept = records.overruled(connection, self.trial_id)
        self.assertEqual([o.reason for o in kept], ["no more pots", "and no more room"])

    def test_weather_by_hand_and_the_yard_leave_what_they_were(self) -> None:
        day = DayEntry(self.now.date(), 5, 20, 8, Sky.CLEAR)
        yards.enter_day(self.context, day)
        yards.enter_day(self.context, replace(day, high=31))
        yards.change_yard(self.context, replace(yards.yard_of(self.context), name="Terrace"))
        found = yards.changes_of_yard(self.context)
        parts = [(c.what, list(c.parts())) for c in found]
        self.assertIn(("weather_day", [("high", 20, 31)]), parts)
        self.assertIn(("yard", [("name", "My garden", "Terrace")]), parts)

    def test_reasons_are_kept_whole_or_refused(self) -> None:
        whole = "rain and wind " * 35  # 489 letters
        moves.move_round(self.context, self.trial_id, 2, self.now.date() + timedelta(days=6), whole)
        self.assertIn(whole.strip(), self.trial.events[-1].text)
        with self.assertRaises(InputError) as caught:
            moves.leave_out(self.context, self.trial_id, 2, "x" * 501)
        self.assertEqual(caught.exception.field, "reason")

    def test_a_remedy_left_out_keeps_its_patch_tests_and_comes_back(self) -> None:
        soap = self.trial.remedies[1].id
        patches.put_on(self.context, self.trial_id, PatchDraft(soap, "the trial's plants"))
        asked = questions.question_of(self.trial)
        oil = RemedyDraft("Soap", Role.REMEDY, "2 ml soap in 1 litre")
        other = replace(asked, remedies=(asked.remedies[0], oil))
        questions.change_question(self.context, self.trial_id, other, self.trial.start_on)
        cells = patches.patch_plan(self.context, self.trial_id).cells
        gone = [c for c in cells if c.left_out]
        self.assertEqual([(c.remedy.name, len(c.tests)) for c in gone], [("Soap", 1)])
        questions.change_question(self.context, self.trial_id, asked, self.trial.start_on)
        self.assertEqual(self.trial.remedies[1].id, soap)
        self.assertEqual(len(self.trial.patches), 1)
        self.assertEqual(self.trial.left_out_remedies, ())

    def test_one_kept_remedy_stands_in_a_question_once(self) -> None:
        asked = questions.question_of(self.trial)
        water, soap = asked.remedies
        twice = (water, soap, replace(soap, id=water.id, name="Oil"))
        with self.assertRaises(InputError) as caught:
            questions.change_question(
                self.context, self.trial_id, replace(asked, remedies=twice), self.now.date()
            )
        self.assertEqual(caught.exception.code, "same_remedy")


class Places(ServiceCase):
    def test_no_route_moves_a_plant_after_the_first_spray(self) -> None:
        self.plant_and_draw()
        self.spray_all()
        plant = self.trial.plants[0]
        with self.assertRaises(ConflictError) as caught:
            benches.change_plant(self.context, self.trial_id, replace(plant, row=5))
        self.assertEqual(caught.exception.code, "plants_fixed")
        benches.change_plant(self.context, self.trial_id, replace(plant, name="S1 left"))

    def test_a_square_is_cleared_by_either_route(self) -> None:
        asked = questions.question_of(self.trial)
        square = replace(asked, setup=Setup(design=DesignKind.LATIN))
        questions.change_question(self.context, self.trial_id, square, self.trial.start_on)
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=2, per_row=2)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=1)
        benches.change_plant(self.context, self.trial_id, replace(self.trial.plants[0], row=4))
        self.assertFalse(self.trial.laid_out)


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


class Order(ServiceCase):
    def test_times_with_other_offsets_are_sorted_as_times(self) -> None:
        east = datetime(2026, 5, 10, 10, tzinfo=ZoneInfo("Asia/Tokyo"))  # 01:00 UTC
        west = datetime(2026, 5, 10, 8, tzinfo=ZoneInfo("America/New_York"))  # 12:00 UTC
        for self.now, place in ((west, "west"), (east, "east")):
            looks.keep_look(self.context, "aphids", place, (), QuickLook(10, 3))
        self.assertEqual([k.place for k in looks.kept_looks(self.context)], ["west", "east"])


if __name__ == "__main__":
    unittest.main()
