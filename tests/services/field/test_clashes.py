"""Sulphur within four weeks of oil, looked up in what was sprayed in other trials."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.field.rounds import Checks
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import Step
from orthocris.core.trial.question import RemedyDraft
from orthocris.services.field import rounds
from orthocris.services.trial import questions
from tests.services.world import QUESTION, ServiceCase

OIL = RemedyDraft("Sunflower", Role.REMEDY, "10 ml rapeseed oil and 2 ml soap in 1 litre")
SULPHUR = RemedyDraft("Yellow powder", Role.REMEDY, "3 g wettable sulfur in 1 litre")
WATER = QUESTION.remedies[0]


class OilAndSulphur(ServiceCase):
    def trial_with(self, name: str, remedy: RemedyDraft) -> None:
        """A trial of one remedy against water, drawn and counted; the one looked at from now on."""
        wanted = replace(QUESTION, name=name, remedies=(WATER, remedy))
        self.trial_id = questions.create_trial(self.context, wanted, self.now.date())
        self.plant_and_draw(4)
        self.count_all(0, 20, 20)

    def held_by(self, **reasons: str) -> list[str]:
        """What a round of this moment is held by, by code."""
        found = rounds.what_blocks(self.context, self.trial_id, 1, Checks(reasons=reasons))
        return [b.code for b in found]

    def test_sulphur_too_soon_after_oil_elsewhere_waits_or_is_explained(self) -> None:
        self.trial_with("Lupins by the wall", OIL)
        self.spray_all()
        self.later(10)
        self.trial_with("Phlox", SULPHUR)
        found = rounds.what_blocks(self.context, self.trial_id, 1, Checks())
        (held,) = [b for b in found if b.code == "oil_and_sulphur"]
        self.assertIn("Oil was sprayed in Lupins by the wall on Sun 10 May 2026", held.text)
        self.assertIn("wait until Sun 7 Jun 2026", held.fix)
        self.assertNotIn("oil_and_sulphur", self.held_by(oil_and_sulphur="other plants"))
        self.later(18)
        self.assertNotIn("oil_and_sulphur", self.held_by())

    def test_oil_after_sulphur_is_held_too_and_soap_is_not(self) -> None:
        self.trial_with("Phlox", SULPHUR)
        self.spray_all()
        self.later(3)
        self.trial_with("Lupins", OIL)
        self.assertIn("oil_and_sulphur", self.held_by())
        self.trial_with("Fuchsias", QUESTION.remedies[1])
        self.assertNotIn("oil_and_sulphur", self.held_by())

    def test_oil_that_is_a_later_step_of_another_trial_counts(self) -> None:
        soap = QUESTION.remedies[1]
        later = Traits(steps=(Step(1, "evening", "10 ml rapeseed oil, 2 ml soap in 1 litre"),))
        self.trial_with("Lupins", replace(soap, traits=later))
        self.spray_all()
        self.later(5)
        self.trial_with("Phlox", SULPHUR)
        self.assertIn("oil_and_sulphur", self.held_by())

    def test_what_was_taken_back_or_never_sprayed_holds_nothing(self) -> None:
        self.trial_with("Lupins", OIL)
        self.trial_with("Phlox", SULPHUR)
        self.assertNotIn("oil_and_sulphur", self.held_by())
