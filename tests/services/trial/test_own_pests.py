"""The gardener's own pests beside the shipped ones."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.trial.own_pests import MOST, OwnPest, check_own_pest
from orthocris.knowledge import pest_named
from orthocris.services.counting.advice import checks_at
from orthocris.services.counting.keeping import keep_tally
from orthocris.services.trial import own_pests as shelf
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import overview
from tests.services.world import ServiceCase

MOTH = OwnPest(
    0, "Box tree caterpillars", sample_unit="Twig", count_what="Every live caterpillar.",
    dead_or_alive="A live one moves when touched.", look_days=(2, 6), generation_days=45,
)  # fmt: skip


class OwnPests(ServiceCase):
    def card(self, pest: str) -> object:
        """The pest's card of the trial, after its question names it so."""
        asked = questions.question_of(self.trial)
        asked = replace(asked, pest=pest, setup=replace(asked.setup, samples=5))
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        found = overview(self.context, self.trial_id).pest
        return found and (found.sample_unit, found.count_what)

    def test_a_trial_of_one_is_counted_as_it_says_whatever_its_capitals(self) -> None:
        self.assertIsNone(self.card("box tree Caterpillars"))
        shelf.keep_pest(self.context, MOTH)
        self.assertEqual(self.card("box tree  Caterpillars"), ("twig", "Every live caterpillar."))
        self.plant_and_draw()
        plant = self.trial.trial_plants[0].id
        for twig, value in enumerate((2, 2, 2, 2, 90), start=1):
            entry = self.entry(plant, value, sample=twig)
            keep_tally(self.context, self.trial_id, 0, entry)
        texts = [check.text for check in checks_at(self.context, self.trial_id, 0)]
        self.assertTrue(any("twig 5" in text for text in texts), texts)

    def test_it_is_changed_by_its_id_and_off_the_list_the_trial_keeps_its_name(self) -> None:
        kept = shelf.keep_pest(self.context, MOTH)
        other = replace(MOTH, name="BOX tree caterpillars ", where="Inside.")
        with self.assertRaises(ConflictError):
            shelf.keep_pest(self.context, other)
        again = shelf.change_pest(self.context, replace(other, id=kept.id))
        self.assertEqual((again.id, again.where), (kept.id, "Inside."))
        self.assertEqual(shelf.own_pests(self.context), (again,))
        shelf.drop_pest(self.context, kept.id)
        self.assertEqual(shelf.own_pests(self.context), ())
        self.assertIsNone(self.card(MOTH.name))
        with self.assertRaises(NotFoundError):
            shelf.drop_pest(self.context, kept.id)

    def test_what_is_none_says_which_field(self) -> None:
        for field, change in (
            ("name", {"name": "  "}), ("name", {"name": "x" * 81}),
            ("sample_unit", {"sample_unit": ""}),
            ("kind", {"kind": "weed"}), ("measure", {"measure": "damage"}),
            ("look_days", {"look_days": (7, 3)}), ("round_days", {"round_days": (1,)}),
            ("generation_days", {"generation_days": 401}),
            ("count_what", {"count_what": "x" * 301}),
        ):  # fmt: skip
            with self.subTest(field), self.assertRaises(InputError) as caught:
                shelf.keep_pest(self.context, replace(MOTH, **change))
            self.assertEqual(caught.exception.field, field)

    def test_a_shipped_one_keeps_its_name_and_the_list_its_length(self) -> None:
        known = pest_named("aphids")
        self.assertIsNotNone(known)
        for name in ("aphids", "Aphids", "greenfly"):
            with self.subTest(name), self.assertRaises(ConflictError):
                shelf.keep_pest(self.context, replace(MOTH, name=name))
        full = [replace(MOTH, id=k, name=f"Pest {k}") for k in range(1, MOST + 1)]
        with self.assertRaises(ConflictError):
            check_own_pest(MOTH, (), full)
        check_own_pest(replace(MOTH, id=7, name="pest 7"), (), full)
