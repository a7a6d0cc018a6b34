"""Nothing changes unseen: requests sent twice, two windows, records kept, places fixed."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from orthocris.core.errors import (
    ChangedElsewhereError,
    ConflictError,
    InputError,
    OrthocrisError,
)
from orthocris.core.finding.triage import Sighting
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.services import finding as looks
from orthocris.services.field import batches, moves, patches
from orthocris.services.field.batches import BatchDraft
from orthocris.services.field.patches import PatchDraft
from orthocris.services.planning import critiques as planning
from orthocris.services.planning import layouts
from orthocris.services.trial import benches, overviews, questions
from orthocris.services.verdict import judging as verdicts
from orthocris.services.weather import yards
from orthocris.storage import finding as records
from tests.services.world import QUESTION, ServiceCase

KEY = "a-key-of-its-own"


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

    def test_a_drawing_and_an_overruling(self) -> None:
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=6)
        for plant, count in zip(self.trial.plants, (9, 8, 7, 6, 5, 4), strict=True):
            benches.change_plant(self.context, self.trial_id, replace(plant, match_count=count))
        for _ in range(2):  # the second time it would need a reason
            layouts.draw_layout(
                self.context, self.trial_id, reason="", seed=None, key="key-of-layout"
            )
            planning.overrule(
                self.context, self.trial_id, "too_few_blocks", "no room", "key-of-overruling"
            )
        drawn = overviews.overview(self.context, self.trial_id).layout_events
        self.assertEqual(len(drawn), 1)
        with self.context.database.reading() as connection:
            self.assertEqual(len(records.overruled(connection, self.trial_id)), 1)
        with self.assertRaises(ConflictError) as caught:
            planning.overrule(
                self.context, self.trial_id, "too_few_blocks", "other", "key-of-overruling"
            )
        self.assertEqual(caught.exception.code, "key_used")

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
            looks.keep_inspection(self.context, "aphids", "", (), Sighting(10, 3), "key-of-look")
        found = self.trial
        self.assertEqual((len(found.plants), len(found.patches), len(found.batches)), (4, 1, 1))
        self.assertEqual(len(looks.inspections(self.context)), 1)


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
    def respell(self, *names: str, **other: object) -> None:
        """Ask the same with remedies of these names."""
        asked = questions.question_of(self.trial)
        remedies = tuple(
            replace(r, name=name) for r, name in zip(asked.remedies, names, strict=True)
        )
        asked = replace(asked, remedies=remedies, **other)  # type: ignore[arg-type]
        questions.change_question(self.context, self.trial_id, asked, self.trial.start_on)

    def test_a_misspelt_remedy_is_spelt_after_the_spray_until_a_verdict_calls_it_so(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all()
        got = {p.name: p.remedy_id for p in self.trial.trial_plants}
        self.respell("Water", "Green soap", name="Gutters, spelt")
        self.assertEqual([r.name for r in self.trial.remedies], ["Water", "Green soap"])
        self.assertEqual({p.name: p.remedy_id for p in self.trial.trial_plants}, got)
        for wrong, code in (
            (("Water", "water"), "same_name"),
            (("Water", " "), "empty"),
            (("Green soap", "Water"), "name_taken"),  # in each other's place
        ):
            with self.assertRaises(OrthocrisError) as caught:
                self.respell(*wrong)
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(ConflictError) as fixed:
            self.respell("Water", "Soap", threshold=0.2)
        self.assertEqual(fixed.exception.code, "question_fixed")
        for look, day in ((1, 3), (2, 4)):
            self.later(day)
            self.count_all(look, 3, 31)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertIn("Soap was renamed to Green soap; it is the same one", " ".join(found.notes))
        self.assertIn("Green soap", found.verdict.sentence)
        verdicts.record_verdict(self.context, self.trial_id)
        with self.assertRaises(ConflictError) as late:
            self.respell("Water", "Soap")
        self.assertEqual(late.exception.code, "names_fixed")
        self.respell("Water", "Green soap", name="Gutters again")

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
        self.open_key()
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


class Order(ServiceCase):
    def test_times_with_other_offsets_are_sorted_as_times(self) -> None:
        east = datetime(2026, 5, 10, 10, tzinfo=ZoneInfo("Asia/Tokyo"))  # 01:00 UTC
        west = datetime(2026, 5, 10, 8, tzinfo=ZoneInfo("America/New_York"))  # 12:00 UTC
        for self.now, place in ((west, "west"), (east, "east")):
            looks.keep_inspection(self.context, "aphids", place, (), Sighting(10, 3))
        self.assertEqual([k.place for k in looks.inspections(self.context)], ["west", "east"])


if __name__ == "__main__":
    unittest.main()
