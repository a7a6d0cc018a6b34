"""A trial through its life: what may change when, and that nothing is lost on the way."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from orthocris.core import Outcome
from orthocris.core.errors import ConflictError, InputError
from orthocris.core.planning.drawn_layouts import DrawnLayouts
from orthocris.core.planning.reference import other_layouts
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.trial import Plant
from orthocris.core.verdict.result import RemedyResult
from orthocris.formats.tidy_table import read_table
from orthocris.services.counting import keeping as fieldwork
from orthocris.services.counting import sheets
from orthocris.services.field import patches, rounds
from orthocris.services.field.patches import PatchDraft
from orthocris.services.planning import critiques, layouts
from orthocris.services.trial import benches, overviews, questions
from orthocris.services.verdict import judging as verdicts
from orthocris.services.verdict.terms import terms_of
from orthocris.storage.trial import layout_sets, trials
from tests.services.world import QUESTION, ServiceCase


class Planning(ServiceCase):
    def test_a_bad_question_keeps_nothing(self) -> None:
        with self.assertRaises(InputError):
            questions.create_trial(self.context, replace(QUESTION, name=" "), self.now.date())
        self.assertEqual(len(overviews.today(self.context).trials), 1)

    def test_a_remedy_may_be_called_as_the_program_once_called_others_meanwhile(self) -> None:
        water, soap = self.trial.remedies
        for name in (f"old {soap.id}", f"left out {soap.id}"):
            drafts = tuple(
                replace(draft, id=kept.id, name=name if kept is water else kept.name)
                for draft, kept in zip(QUESTION.remedies, (water, soap), strict=True)
            )
            questions.change_question(
                self.context, self.trial_id, replace(QUESTION, remedies=drafts), self.now.date()
            )
            self.assertEqual([r.name for r in self.trial.remedies], [name, "Soap"])

    def test_remedies_may_swap_names_and_roles(self) -> None:
        water, soap = self.trial.remedies
        swapped = (
            RemedyDraft(water.name, Role.REMEDY, "", soap.id),
            RemedyDraft(soap.name, Role.CONTROL, "", water.id),
        )
        questions.change_question(
            self.context, self.trial_id, replace(QUESTION, remedies=swapped), self.now.date()
        )
        found = {r.id: (r.name, r.role) for r in self.trial.remedies}
        self.assertEqual(found[soap.id], ("Water", Role.REMEDY))
        self.assertEqual(found[water.id], ("Soap", Role.CONTROL))

    def test_redrawing_needs_a_reason_and_is_recorded(self) -> None:
        self.plant_and_draw()
        with self.assertRaises(InputError):
            layouts.draw_layout(self.context, self.trial_id, reason=" ", seed=None)
        layouts.draw_layout(self.context, self.trial_id, reason="a pot fell", seed=12)
        events = overviews.overview(self.context, self.trial_id).layout_events
        self.assertEqual(
            [(e.seed, e.reason) for e in events], [(77, "first drawing"), (12, "a pot fell")]
        )

    def close_together(self) -> None:
        """Pots 20 cm apart: the same remedy never stands beside itself."""
        close = replace(QUESTION, setup=replace(QUESTION.setup, place_cm=20.0))
        questions.change_question(self.context, self.trial_id, close, self.now.date())
        self.plant_and_draw()

    def kept_layouts(self) -> DrawnLayouts | None:
        """What is kept of the layouts that the lot could have drawn."""
        with self.context.database.reading() as connection:
            return layout_sets.kept(connection, self.trial_id)

    def test_the_layouts_that_a_restricted_lot_could_have_drawn_stay_with_the_trial(self) -> None:
        self.close_together()
        self.assertIsNone(self.kept_layouts())
        layouts.draw_others(self.context, self.trial_id)
        kept = self.kept_layouts()
        assert kept is not None
        self.assertEqual(set(kept.plants), {p.id for p in self.trial.trial_plants})
        self.assertGreater(len(kept.packed), 250 * len(kept.plants))
        benches.change_plant(
            self.context, self.trial_id, replace(self.trial.plants[0], set_aside="too small")
        )
        self.assertIsNone(self.kept_layouts())

    def test_layouts_still_due_when_the_program_was_stopped_are_drawn_at_its_start(self) -> None:
        self.close_together()
        layouts.draw_all_due(self.context)
        kept = self.kept_layouts()
        assert kept is not None
        layouts.draw_all_due(self.context)  # nothing is due: nothing changes
        layouts.draw_others(self.context, self.trial_id)
        self.assertEqual(self.kept_layouts(), kept)
        layouts.draw_layout(self.context, self.trial_id, reason="a pot fell", seed=3)
        self.assertIsNone(self.kept_layouts())  # those of the first drawing are forgotten
        layouts.draw_all_due(self.context)
        self.assertNotEqual(self.kept_layouts(), kept)

    def test_a_verdict_is_the_same_before_and_after_they_are_drawn(self) -> None:
        self.close_together()
        self.count_all(0, soap=20, water=20)
        self.spray_all()
        self.now += timedelta(days=3)
        self.count_all(1, soap=3, water=21)
        early = verdicts.verdict_of(self.context, self.trial_id).verdict
        self.assertIsNone(self.kept_layouts())  # reading writes nothing
        layouts.draw_others(self.context, self.trial_id)
        self.assertIsNotNone(self.kept_layouts())
        self.assertEqual(verdicts.verdict_of(self.context, self.trial_id).verdict, early)

    def test_what_is_changed_while_they_are_drawn_is_drawn_for_anew(self) -> None:
        self.close_together()
        names: list[str] = []

        def meanwhile(drawn_for: Sequence[Plant], **options: Any) -> DrawnLayouts | None:
            names.append(drawn_for[0].name)
            plant = next(p for p in self.trial.plants if p.id == drawn_for[0].id)
            benches.change_plant(self.context, self.trial_id, replace(plant, name="By the door"))
            return other_layouts(drawn_for, **options)

        with patch.object(layouts, "other_layouts", meanwhile):
            layouts.draw_others(self.context, self.trial_id)
        self.assertEqual(names[1:], ["By the door"])
        self.assertIsNotNone(self.kept_layouts())

    def test_a_change_of_who_takes_part_clears_the_layout(self) -> None:
        self.plant_and_draw()
        plant = self.trial.plants[0]
        benches.change_plant(self.context, self.trial_id, replace(plant, name="Left one"))
        self.assertTrue(self.trial.laid_out)
        benches.change_plant(self.context, self.trial_id, replace(plant, set_aside="too small"))
        self.assertFalse(self.trial.laid_out)
        self.assertEqual({r.letter for r in self.trial.remedies}, {None})

    def test_a_trial_is_put_away_and_brought_back_whole(self) -> None:
        self.plant_and_draw()
        self.count(self.trial.plants[0].id, 4)
        with self.assertRaises(ConflictError) as caught:
            questions.remove_trial(self.context, self.trial_id)
        self.assertIn("1 count", caught.exception.message)
        questions.remove_trial(self.context, self.trial_id, with_records=True)
        self.assertEqual(overviews.today(self.context).trials, ())
        self.assertEqual(
            [i for i, _, _ in questions.put_away_trials(self.context)], [self.trial_id]
        )
        questions.bring_back(self.context, self.trial_id)
        self.assertEqual(len(overviews.today(self.context).trials), 1)
        self.assertEqual(self.trial.tallies[0].value, 4)
        self.assertEqual(questions.put_away_trials(self.context), ())

    def test_a_patch_test_is_a_record_too(self) -> None:
        soap = self.trial.remedies[1].id
        patches.put_on(self.context, self.trial_id, PatchDraft(soap, "the trial's plants"))
        with self.assertRaises(ConflictError) as caught:
            questions.remove_trial(self.context, self.trial_id)
        self.assertIn("1 patch test", caught.exception.message)


class Fieldwork(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.first = self.trial.trial_plants[0]

    def test_a_correction_keeps_the_old_number(self) -> None:
        self.count(self.first.id, 12)
        self.count(self.first.id, 21)
        history = sheets.tally_history(self.context, self.trial_id, 0, self.first.id, "live")
        self.assertEqual([t.value for t in history], [12, 21])
        current = self.trial.tallies_at(self.trial.looks[0], "live")[self.first.id]
        self.assertEqual(current.value, 21)

    def test_taps_of_one_session_are_one_line_and_late_ones_change_nothing(self) -> None:
        for step, value in ((1, 1), (3, 3), (2, 2)):
            kept = fieldwork.keep_tally(
                self.context,
                self.trial_id,
                0,
                self.entry(self.first.id, value, session="one-device", step=step, finished=False),
            )
        self.assertEqual([t.value for t in kept], [3])
        self.assertEqual(self.trial.counted_at(self.trial.looks[0]), set())

    def test_looks_and_rounds_keep_their_order(self) -> None:
        with self.assertRaises(ConflictError) as early:
            self.count(self.first.id, 3, look=1)
        self.assertEqual(early.exception.code, "too_early")
        self.count_all(0, 30, 30)
        with self.assertRaises(ConflictError) as second:
            self.start(2)
        self.assertEqual(second.exception.code, "round_order")
        self.spray_all()
        with self.assertRaises(ConflictError):
            layouts.draw_layout(self.context, self.trial_id, reason="why not", seed=None)
        self.count(self.first.id, 31)  # a slip in the count before can still be corrected

    def test_a_first_count_before_is_too_late_after_the_spray(self) -> None:
        self.start(1)
        self.spray_one(1, self.first.id)
        with self.assertRaises(ConflictError) as late:
            self.count(self.trial.trial_plants[1].id, 3)
        self.assertEqual(late.exception.code, "too_late_for_before")

    def test_undoing_the_only_spray_opens_the_layout_again(self) -> None:
        self.count_all(0, 30, 30)
        self.start(1)
        self.spray_one(1, self.first.id, key="one-tap-1")
        self.spray_one(1, self.first.id, key="one-tap-1")
        rounds.undo_spray(self.context, self.trial_id, 1, self.first.id)
        self.assertIsNone(self.trial.sprayed_on)
        with self.context.database.reading() as connection:
            rows = connection.execute("SELECT undone_at FROM spray").fetchall()
        self.assertEqual(len(rows), 1)
        self.assertIsNotNone(rows[0]["undone_at"])

    def test_numbers_that_are_none_are_refused(self) -> None:
        for value in (-1, 2.5, 1e9, float("nan"), None):
            with self.subTest(value), self.assertRaises(InputError):
                fieldwork.keep_tally(
                    self.context, self.trial_id, 0, self.entry(self.first.id, value)
                )


class Deaths(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw(per_row=12)

    def set_aside(self, plant: Plant, died: float | None) -> None:
        """Set a plant aside, dead since so many days or only lost."""
        on = None if died is None else self.now.date() - timedelta(days=died)
        changed = replace(plant, set_aside="gone", died_on=on)
        benches.change_plant(self.context, self.trial_id, changed)

    def of(self, name: str) -> list[Plant]:
        """The plants of a remedy."""
        remedy = next(r.id for r in self.trial.remedies if r.name == name)
        return [p for p in self.trial.plants if p.remedy_id == remedy]

    def test_plants_that_died_strike_their_remedy_out_and_lost_ones_do_not(self) -> None:
        self.count_all(0, 30, 30)
        with self.assertRaises(InputError):
            self.set_aside(self.of("Soap")[0], died=0)  # nothing was sprayed yet
        self.spray_all()
        self.later(7)
        for plant in self.of("Soap")[:4]:
            self.set_aside(plant, died=2)
        self.count_all(2, 2, 35)
        soap = self.soap()
        self.assertEqual((soap.lost, soap.kills), (4, True))
        for plant in self.of("Soap")[:4]:
            benches.change_plant(self.context, self.trial_id, replace(plant, died_on=None))
        soap = self.soap()
        self.assertEqual((soap.lost, soap.kills), (4, False))

    def test_who_died_takes_no_part_and_not_before_or_later_than_it_can_be(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(7)
        plant = self.of("Soap")[0]
        for changed in (
            replace(plant, died_on=self.now.date()),
            replace(plant, set_aside="gone", died_on=self.now.date() + timedelta(days=1)),
            replace(plant, set_aside="gone", died_on=self.now.date() - timedelta(days=8)),
        ):
            with self.assertRaises(InputError):
                benches.change_plant(self.context, self.trial_id, changed)

    def soap(self) -> RemedyResult:
        """What the verdict says of the soap."""
        found = verdicts.verdict_of(self.context, self.trial_id).verdict
        return next(r for r in found.remedies if r.name == "Soap")


class Verdicts(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()

    def test_from_counts_to_verdict(self) -> None:
        with self.assertRaises(ConflictError):
            verdicts.verdict_of(self.context, self.trial_id)
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertFalse(found.final)
        self.later(4)
        self.count_all(2, 2, 33)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertTrue(found.final)
        self.assertIs(found.verdict.outcome, Outcome.WINNER)
        self.assertEqual(found.verdict.recommended, "Soap")
        self.assertEqual(
            found.notes,
            (
                "Round 1 was started before every patch test had passed: a test",
                "Round 2 (day 5) was not sprayed.",
            ),
        )

    def test_a_final_verdict_stays_on_record_and_a_later_one_says_why_it_differs(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        self.later(4)
        early = verdicts.verdict_of(self.context, self.trial_id)
        with self.assertRaises(ConflictError):  # a look is still to come
            verdicts.record_verdict(self.context, self.trial_id)
        self.assertIsNone(early.verdict.recommended)
        self.count_all(2, 2, 33)
        self.assertIsNone(verdicts.verdict_of(self.context, self.trial_id).record)
        first = verdicts.record_verdict(self.context, self.trial_id)
        assert first.record is not None
        self.assertEqual((first.record.sentence, first.differs), (first.verdict.sentence, ()))
        self.later(1)
        again = verdicts.verdict_of(self.context, self.trial_id)
        self.assertEqual((again.record, again.differs), (first.record, ()))
        self.count_all(2, 30, 33)
        other = verdicts.record_verdict(self.context, self.trial_id)
        self.assertEqual(other.record, first.record)
        self.assertIsNone(other.verdict.recommended)
        self.assertIn("Counts were changed since", other.differs[0])

    def test_a_look_added_after_a_final_verdict_decides_with_the_error_kept_for_it(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, 3, 31)
        first = verdicts.record_verdict(self.context, self.trial_id).verdict.method["spent"]
        with self.context.database.atomic() as connection:
            trials.add_look(connection, self.trial_id, 3, 14)
        self.later(7)
        self.count_all(3, 3, 31)
        later = verdicts.verdict_of(self.context, self.trial_id)
        self.assertTrue(later.final)
        self.assertGreater(later.verdict.method["spent"], first)
        self.assertLess(later.verdict.method["spent"], 0.05)
        again = verdicts.verdict_of(self.context, self.trial_id, 2)
        self.assertEqual(again.verdict.method["spent"], first)

    def test_hours_after_the_spray_nothing_is_final_even_where_that_was_the_plan(self) -> None:
        self.trial_id = questions.create_trial(
            self.context, replace(QUESTION, look_days=(0.125,)), self.now.date()
        )
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(0.125)
        self.count_all(1, 1, 31)
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertEqual((found.final, found.verdict.recommended), (False, None))
        self.assertIn("Knock-down within hours is not control", found.verdict.advice)

    def test_what_a_remedy_costs_decides_between_bets_about_as_good(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        with self.context.database.reading() as connection:
            burdens = terms_of(connection, [self.trial]).burdens
        self.assertEqual(burdens["Soap"].minutes, 2.0)  # two rounds of a minute
        self.assertEqual(burdens["Water"].minutes, 2.0)

    def test_a_record_of_an_earlier_model_says_so_where_it_differs(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, 3, 31)
        with patch.object(verdicts, "RECKONED_BY", "0.2.0"):
            verdicts.record_verdict(self.context, self.trial_id)
        self.assertEqual(verdicts.verdict_of(self.context, self.trial_id).differs, ())
        self.count_all(2, 9, 31)
        said = verdicts.verdict_of(self.context, self.trial_id).differs
        self.assertIn(f"version 0.2.0 of this program, now by {verdicts.RECKONED_BY}", said[1])

    def test_the_margin_that_was_agreed_is_that_of_the_verdict(self) -> None:
        with self.assertRaises(InputError) as refused:
            wide = replace(QUESTION, setup=replace(QUESTION.setup, margin=0.9))
            questions.change_question(self.context, self.trial_id, wide, self.now.date())
        self.assertEqual(refused.exception.field, "setup.margin")
        agreed = replace(QUESTION, setup=replace(QUESTION.setup, margin=0.2))
        questions.change_question(self.context, self.trial_id, agreed, self.now.date())
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        self.open_key()
        found = verdicts.verdict_of(self.context, self.trial_id).verdict
        self.assertEqual(found.method["margin"], 0.2)

    def test_a_doubter_gets_the_trial_judged_in_other_ways(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        self.open_key()
        ways = [check.way for check in verdicts.checks_of(self.context, self.trial_id)]
        self.assertIn("Without the counts before", ways)

    def test_unfinished_counts_are_not_judged_and_the_table_reads_back(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 31)
        last = self.trial.trial_plants[-1]
        fieldwork.keep_tally(
            self.context, self.trial_id, 1, self.entry(last.id, 999, finished=False)
        )
        with self.assertRaises(ConflictError):  # it tells which plant got what
            verdicts.table_of(self.context, self.trial_id)
        critiques.open_key(self.context, self.trial_id)
        observations, _ = read_table(verdicts.table_of(self.context, self.trial_id))
        self.assertNotIn(999, [o.value for o in observations])
        self.assertEqual(len(observations), 8 + 7)

    def test_a_late_count_is_noted(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(6)
        self.count_all(1, 3, 31)
        notes = verdicts.verdict_of(self.context, self.trial_id).notes
        self.assertIn("8 plants were counted more than a day after", notes[-1])


if __name__ == "__main__":
    unittest.main()
