"""Food on every screen: what a trial says of eating, from the question to the calendar."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import timedelta
from typing import Any

from orthocris.core.errors import InputError
from orthocris.core.pantry.remedies import draft_of
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import Step
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.weather.yard import Yard
from orthocris.knowledge import remedies
from orthocris.services.field import batches
from orthocris.services.field.batches import BatchDraft
from orthocris.services.field.calendars import calendar_of
from orthocris.services.field.rounds import start_round
from orthocris.services.pantry.mixing import Wanted, heard, mix
from orthocris.services.pantry.soundness import as_they_are, strong_for
from orthocris.services.planning.critiques import mend, review
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import overview, today
from orthocris.services.verdict.judging import verdict_of
from tests.services.world import ServiceCase


class EatenPlants(ServiceCase):
    """Soap on plants that are eaten; its card waits one day."""

    def setUp(self) -> None:
        super().setUp()
        self.ask()

    def ask(self, *remedies: RemedyDraft, **setup: Any) -> None:
        """Ask anew, with the water and these remedies."""
        asked = questions.question_of(self.trial)
        soap = replace(
            asked.remedies[1], traits=replace(asked.remedies[1].traits, catalogue="mild_soap")
        )
        chosen = (asked.remedies[0], *(remedies or (soap,)))
        asked = replace(asked, remedies=chosen, setup=replace(asked.setup, eaten=True, **setup))
        questions.change_question(self.context, self.trial_id, asked, self.now.date())

    @property
    def said(self) -> str:
        return overview(self.context, self.trial_id).eating

    def calendar(self) -> str:
        """The calendar without its folds."""
        return calendar_of(self.context).decode().replace("\r\n ", "")

    def test_the_day_follows_a_round_that_is_overdue_and_one_done_on_another_day(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.spray_all(1)
        self.assertIn("before Sat 16 May 2026", self.said)  # the round of the 15th, and a day
        self.later(7)  # the 17th: round 2 is overdue
        self.assertIn("before Mon 18 May 2026", self.said)
        self.assertEqual(today(self.context).trials[0].eating, self.said)
        self.assertIn("before Mon 18 May 2026", self.calendar())
        first = self.trial.trial_plants[0]
        start_round(
            self.context, self.trial_id, 2, self.checks(done_on=self.now.date() - timedelta(days=1))
        )
        self.spray_one(2, first.id)
        self.assertIn("before Mon 18 May 2026", self.said)  # the others are still to be done
        for plant in self.trial.trial_plants[1:]:
            self.spray_one(2, plant.id)
        self.assertIn("before Sun 17 May 2026", self.said)
        self.count_all(2, 3, 40)
        self.assertIn(self.said, verdict_of(self.context, self.trial_id).notes)

    def test_own_remedies_have_the_rule_of_what_is_in_them(self) -> None:
        for name, recipe, way, said in (
            ("Pyrethrum", "5 ml pyrethrum in 1 litre", "spray", "by the label only"),
            ("Blue stuff", "2 g copper sulphate in 1 litre", "drench", "by the label only"),
            ("Greenshield", "As its label says", "dust", "by the label only"),
            ("Garlic dust", "20 g garlic powder dusted", "dust", "before Mon 18 May"),
            ("My drench", "10 ml neem and 2 ml soap in 1 litre", "drench", "before Mon 18 May"),
            ("By hand", "two minutes each", "hand", ""),
        ):
            with self.subTest(name):
                draft = RemedyDraft(name, Role.REMEDY, recipe, traits=Traits(way=way))
                self.ask(draft)
                self.assertIn(said, self.said) if said else self.assertEqual(self.said, "")
        with self.assertRaisesRegex(InputError, "Smoke: tobacco") as refused:
            self.ask(RemedyDraft("Smoke", Role.REMEDY, "cigarette butts in 1 litre"))
        self.assertEqual(refused.exception.field, "remedies.1.recipe")

    def test_the_mend_of_a_harvest_leaves_them_eaten(self) -> None:
        picked = self.now.date() + timedelta(days=2)
        self.ask(harvest_on=picked)
        mend(self.context, self.trial_id, "near_harvest")
        self.assertTrue(self.trial.setup.eaten)
        self.assertEqual(self.trial.start_on, picked + timedelta(days=1))
        self.assertIn("before Tue 19 May 2026", self.said)  # five days on, and a day
        codes = [f.code for f in review(self.context, self.trial_id).findings]
        self.assertNotIn("near_harvest", codes)

    def test_what_speaks_against_a_remedy_is_found_before_the_layout_and_stands_in_the_advice(
        self,
    ) -> None:
        self.ask(RemedyDraft("Soap", Role.REMEDY, "2 ml washing-up liquid in 1 litre"))
        soap = self.trial.remedies[1]
        findings = {f.code: f for f in review(self.context, self.trial_id).findings}
        self.assertIn("not made for food plants", findings[f"unsuited_{soap.id}"].harm)
        self.assertIn(
            "not made for food", overview(self.context, self.trial_id).unsuited[soap.id][0]
        )
        self.plant_and_draw(24)
        self.count_all(0, 60, 60)
        self.spray_all(1)
        self.later(7)
        self.count_all(2, 1, 60)
        advice = verdict_of(self.context, self.trial_id).verdict.advice
        self.assertIn("not made for food plants", advice)
        self.assertIn("Leave about 5 days from one time to the next", advice)

    def test_a_pest_by_any_word_for_it_is_that_pest(self) -> None:
        """Else nothing would be known of it, and the critic silent."""
        leaf = RemedyDraft("Neem", Role.REMEDY, "5 ml neem oil and 2 ml soap in 1 litre")
        for said in ("Fungus gnats", "fungus_gnats", "sciarid  fly"):
            self.ask(leaf)
            asked = replace(questions.question_of(self.trial), pest=said)
            questions.change_question(self.context, self.trial_id, asked, self.now.date())
            self.assertEqual(self.trial.pest, "fungus_gnats")
            harms = [f.harm for f in review(self.context, self.trial_id).findings]
            self.assertTrue(any("They live in the soil" in harm for harm in harms), said)

    def test_a_shipped_remedy_with_another_recipe_is_what_is_in_it(self) -> None:
        """Mild soap is eaten after a day; copper in a recipe that was mild soap's is not."""
        for name, recipe, said in (
            ("Mild soap", "15 ml liquid soap in 1 litre of rain water", "before"),
            ("Mild soap", "5 g copper sulphate per litre", "by the label only"),
            ("Mild soap", "10 ml soap and 5 ml malathion per litre", "by the label only"),
            ("Mild soap", "5 ml Greenshield per litre", "by the label only"),
            ("Malathion", "10 ml soap per litre", "by the label only"),
        ):
            with self.subTest(recipe=recipe):
                traits = Traits(catalogue="mild_soap")
                self.ask(RemedyDraft(name, Role.REMEDY, recipe, traits=traits))
                self.assertIn(said, self.said)
                kept = self.trial.remedies[1].traits.catalogue
                self.assertEqual(kept, "mild_soap" if said == "before" else None)

    def test_own_helpers_and_cards_bear_what_must_be_minded_of_them(self) -> None:
        for way, said in (("predator", "were bred"), ("trap", "small birds"), ("spray", "")):
            self.ask(RemedyDraft("Mine", Role.REMEDY, "thirty", traits=Traits(way=way)))
            told = " ".join(
                overview(self.context, self.trial_id).cautions[self.trial.remedies[1].id]
            )
            self.assertEqual("were bred" in told or "small birds" in told, bool(said))
            self.assertIn(said, told)

    def test_a_control_that_holds_something_is_as_careful_as_a_remedy(self) -> None:
        """Who compares with what is done now has a control that is no water."""
        asked = questions.question_of(self.trial)
        for recipe, said in (
            ("Plain rain water, undersides too", "before Sat 16 May"),
            ("left as they are", "before Sat 16 May"),
            ("5 ml malathion per litre", "by the label only"),
        ):
            control = replace(asked.remedies[0], recipe=recipe)
            now = replace(asked, remedies=(control, *asked.remedies[1:]))
            questions.change_question(self.context, self.trial_id, now, self.now.date())
            self.assertIn(said, self.said)
            waters = batches.bottles_of(self.context, self.trial_id, helper=True).water
            self.assertEqual(waters is None, "malathion" in recipe)  # it has a bottle of its own
        with self.assertRaises(InputError):
            petrol = replace(asked.remedies[0], recipe="5 ml petrol per litre")
            now = replace(asked, remedies=(petrol, *asked.remedies[1:]))
            questions.change_question(self.context, self.trial_id, now, self.now.date())

    def test_what_was_mixed_otherwise_counts_for_eating(self) -> None:
        self.plant_and_draw()
        soap = self.trial.remedies[1].id
        mild = BatchDraft(recipe="5 ml soap in 1 litre", mixed_by="Bram")
        batches.record_batch(self.context, self.trial_id, soap, mild)
        self.assertIn("before Sat 16 May 2026", self.said)
        read = tuple(c.key for c in strong_for("2 ml spinosad in 1 litre", ()))
        other = BatchDraft(recipe="2 ml spinosad in 1 litre", mixed_by="Bram", acknowledged=read)
        batches.record_batch(self.context, self.trial_id, soap, other)
        self.assertIn("a label, or for next season", self.said)  # the key is sealed
        self.open_key()
        self.assertIn("by the label only", self.said)

    def test_every_shipped_remedy_is_itself(self) -> None:
        for shipped in remedies():
            self.assertEqual(as_they_are([draft_of(shipped)]), (draft_of(shipped),), shipped.key)

    def test_a_way_nobody_knows_is_refused_and_not_kept_in_silence(self) -> None:
        for traits in (Traits(way="release"), Traits(steps=(Step(2, "then", way="poured"),))):
            with self.assertRaises(InputError) as refused:
                self.ask(RemedyDraft("Ladybirds", Role.REMEDY, "fifty", traits=traits))
            self.assertEqual(refused.exception.code, "no_such_way")
            self.assertIn("predator", refused.exception.fix)


class AtTheBench(unittest.TestCase):
    """What the mixing bench asks, refuses, and wants acknowledged."""

    def test_a_name_nobody_knows_is_asked_about_and_by_its_label_acknowledged(self) -> None:
        asked = heard("10 ml Greenshield per litre", Yard()).reading
        self.assertEqual([t.taken_for for t in asked.open], ["not known here: what is it?"])
        found = mix('10 ml "Greenshield" per litre', Yard(), Wanted(plants=4))
        self.assertEqual([c.key for c in found.strong], ["unknown_product"])

    def test_doses(self) -> None:
        strong = mix("60 ml soap in 1 litre", Yard(), Wanted(plants=4)).strong
        self.assertEqual([c.key for c in strong], ["dose"])
        with self.assertRaisesRegex(InputError, "nothing is left"):
            mix("dish soap and water 1:1", Yard(), Wanted(plants=4))
        self.assertIsNotNone(heard("dish soap and water 1:1", Yard()).refused)


if __name__ == "__main__":
    unittest.main()
