"""Mends of the critic: told before, sound, and taken back."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError
from orthocris.core.pantry.recipe.reading import read_recipe
from orthocris.core.pantry.remedies import draft_of
from orthocris.core.planning.findings import Finding
from orthocris.core.trial.question import Question, check_question
from orthocris.knowledge import remedy_named
from orthocris.services.planning import critiques as planning
from orthocris.services.planning import layouts
from orthocris.services.trial import benches, questions
from tests.services.world import ServiceCase


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

    def test_a_mend_clears_a_layout_says_which_and_brings_it_back(self) -> None:
        asked = questions.question_of(self.trial)
        self.save(replace(asked, setup=replace(asked.setup, match_place=False)))
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=5)
        asked = questions.question_of(self.trial)
        drawn = {p.id: (p.block, p.remedy_id) for p in self.trial.plants}
        (finding,) = self.findings("unmatched")
        assert finding.mend is not None
        last = finding.mend.changes[-1]
        self.assertEqual((last.what, last.before), ("the layout", "drawn at random"))
        planning.mend(self.context, self.trial_id, "unmatched")
        self.assertFalse(self.trial.laid_out)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=9)
        self.assertEqual(len(self.trial.plants), 24)
        planning.take_back_mend(self.context, self.trial_id)
        self.assertEqual(questions.question_of(self.trial), asked)
        self.assertEqual({p.id: (p.block, p.remedy_id) for p in self.trial.plants}, drawn)

    def test_what_was_changed_beside_a_mend_stays_when_it_is_taken_back(self) -> None:
        before = questions.question_of(self.trial)
        planning.mend(self.context, self.trial_id, "two_things_differ")
        changed = replace(questions.question_of(self.trial), look_days=(2, 7))
        self.save(replace(changed, setup=replace(changed.setup, shields=True)))
        benches.add_plants(self.context, self.trial_id, prefix="T", rows=1, per_row=2)
        self.assertIsNotNone(planning.review(self.context, self.trial_id).mended)
        planning.take_back_mend(self.context, self.trial_id)
        setup = replace(before.setup, shields=True)
        self.assertEqual(
            questions.question_of(self.trial), replace(before, look_days=(2, 7), setup=setup)
        )

    def test_what_a_mend_changed_and_a_hand_changed_again_is_not_taken_back(self) -> None:
        planning.mend(self.context, self.trial_id, "two_things_differ")
        asked = questions.question_of(self.trial)
        soap = replace(asked.remedies[1], recipe="7 ml liquid soap in 1 litre")
        self.save(replace(asked, remedies=(asked.remedies[0], soap, asked.remedies[2])))
        self.assertIsNone(planning.review(self.context, self.trial_id).mended)
        with self.assertRaises(ConflictError):
            planning.take_back_mend(self.context, self.trial_id)

    def findings(self, code: str) -> list[Finding]:
        """The findings with this code."""
        found = planning.review(self.context, self.trial_id).findings
        return [f for f in found if f.code == code]
