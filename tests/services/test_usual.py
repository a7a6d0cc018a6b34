"""Nobody left untreated: what is done anyway is the control, and all that follows from it."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.field.stopping import Next
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.services.field import rest_plans
from orthocris.services.field.schedule import schedule_of
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.planning import critiques
from orthocris.services.trial import questions
from orthocris.services.verdict import judging
from orthocris.services.verdict.known import known_of
from tests.services.world import QUESTION, ServiceCase

SOAP = RemedyDraft("Soap", Role.CONTROL, "10 ml soap in 1 litre")
OIL = RemedyDraft("Oil", Role.REMEDY, "10 ml oil and 2 ml soap in 1 litre")


class Usual(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        asked = replace(QUESTION, remedies=(SOAP, OIL), threshold=0.3)
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())

    def run_it(self, soap: float, oil: float) -> None:
        """Count 40 on each plant before, spray, and what is left at both looks."""
        self.plant_and_draw(12)
        for plant in self.trial.trial_plants:
            self.count(plant.id, 40)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, soap=soap, water=oil)

    def test_only_a_control_that_does_something_is_done_anyway(self) -> None:
        self.assertEqual(usual_of(self.trial), "Soap")
        water = questions.create_trial(self.context, QUESTION, self.now.date())
        with self.subTest("water"):
            self.trial_id = water
            self.assertEqual(usual_of(self.trial), "")

    def test_the_plan_says_what_it_cannot_show(self) -> None:
        said = critiques.review(self.context, self.trial_id).promise
        self.assertIn("what plants with Soap have", said)
        self.assertIn("whether Soap does anything stays open", said)

    def test_the_verdict_is_in_its_words_and_stays_out_of_what_is_known(self) -> None:
        self.run_it(soap=20, oil=4)
        found = judging.record_verdict(self.context, self.trial_id)
        self.assertIn("Oil does better than Soap", found.verdict.sentence)
        self.assertIn("nobody_untreated", {w.code for w in found.verdict.warnings})
        self.assertEqual(known_of(self.context, QUESTION.pest).remedies, ())
        (choice,) = rest_plans.options(self.context, self.trial_id).choices
        self.assertEqual(choice.remedy.name, "Oil")
        # Of 40 before 20 were left with Soap and 4 with Oil, a fifth of that.
        self.assertAlmostEqual(choice.shown.removes, 0.9, delta=0.05)
        self.assertLess(choice.shown.low, 0.9)

    def test_where_more_came_than_went_there_is_nothing_to_plan_with(self) -> None:
        self.run_it(soap=200, oil=60)
        judging.record_verdict(self.context, self.trial_id)
        self.assertEqual(rest_plans.options(self.context, self.trial_id).choices, ())

    def test_a_control_that_falls_is_no_sign_that_the_pest_goes_by_itself(self) -> None:
        self.plant_and_draw(12)
        for plant in self.trial.trial_plants:
            self.count(plant.id, 40)
        self.spray_all()
        self.later(3)
        self.count_all(1, soap=4, water=20)
        advice = schedule_of(self.context, self.trial_id).advice
        assert advice is not None
        self.assertIs(advice.action, Next.NEXT_ROUND)


if __name__ == "__main__":
    import unittest

    unittest.main()
