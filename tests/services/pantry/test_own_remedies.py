"""The gardener's own remedies beside the shipped ones."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.pantry.own import OwnRemedy
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.programme import Programme, Rhythm
from orthocris.core.trial.setup import Setup
from orthocris.services.field import batches, labels
from orthocris.services.field.batches import BatchDraft
from orthocris.services.pantry import own_remedies as shelf
from orthocris.services.pantry.catalogue import propose, suited
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import overview
from orthocris.services.weather.yards import change_yard, yard_of
from tests.services.world import ServiceCase

TEA = OwnRemedy(
    0, "Nettle tea", "1 kg nettles soaked in 10 litres of water for a day, diluted 1:9",
    Traits(way="spray", programme=Programme(Rhythm.EVERY, every=3)),
)  # fmt: skip


class OwnShelf(ServiceCase):
    def test_one_kept_stands_in_the_list_and_goes_into_a_question(self) -> None:
        kept = shelf.keep_remedy(self.context, TEA)
        first = suited(self.context, "aphids", Setup())[0]
        self.assertEqual((first.remedy.key, first.reasons), (kept.key, ()))
        draft, soap = propose(
            self.context, [kept.key, "mild_soap"], strengths=None, as_square=False
        )
        self.assertEqual((draft.name, draft.traits), (TEA.name, TEA.traits))
        self.assertEqual(soap.name, "Mild soap")

    def test_what_can_be_made_of_what_is_in_the_house_comes_first(self) -> None:
        """Nothing is missing while nobody said; then what needs nothing stays in front, too."""
        self.assertFalse(any(one.missing for one in suited(self.context, "aphids", Setup())))
        change_yard(self.context, replace(yard_of(self.context), in_house=("soap", "soda")))
        found = suited(self.context, "aphids", Setup())
        lacking = {one.remedy.key: one.missing for one in found if one.missing}
        self.assertEqual(lacking["neem"], ("neem oil",))
        self.assertEqual(lacking["baking_soda"], ("cooking oil",))
        self.assertNotIn("mild_soap", lacking)
        self.assertNotIn("water_jet", lacking)
        first = [one.remedy.key for one in found[: len(found) - len(lacking)]]
        self.assertFalse(set(first) & set(lacking))
        with self.assertRaises(InputError) as refused:
            change_yard(self.context, replace(yard_of(self.context), in_house=("anvil",)))
        self.assertEqual(refused.exception.field, "in_house")

    def test_the_same_name_and_what_is_none_are_refused(self) -> None:
        kept = shelf.keep_remedy(self.context, TEA)
        with self.assertRaises(ConflictError):
            shelf.keep_remedy(self.context, replace(TEA, name="  NETTLE tea "))
        with self.assertRaises(InputError):
            shelf.keep_remedy(self.context, replace(TEA, name=" "))
        bad = replace(TEA, name="Other", traits=Traits(programme=Programme(Rhythm.EVERY)))
        with self.assertRaises(InputError):
            shelf.keep_remedy(self.context, bad)
        changed = shelf.change_remedy(self.context, replace(kept, recipe="stronger"))
        self.assertEqual(changed.recipe, "stronger")

    def test_sent_twice_it_is_kept_once_and_off_the_list_it_is_gone(self) -> None:
        one, again = (shelf.keep_remedy(self.context, TEA, "a key of this form") for _ in range(2))
        self.assertEqual(one, again)
        shelf.drop_remedy(self.context, one.id)
        self.assertEqual(shelf.own_remedies(self.context), ())
        with self.assertRaises(NotFoundError):
            shelf.drop_remedy(self.context, one.id)


class OwnCautions(ServiceCase):
    """What a label warns of, in the gardener's words: shown, acknowledged, and on the bottle."""

    SAID = "Not within 3 m of a pond; gloves and glasses."

    def setUp(self) -> None:
        super().setUp()
        tea = replace(
            TEA, recipe="20 ml of it in 1 litre", traits=replace(TEA.traits, caution=self.SAID)
        )
        kept = shelf.keep_remedy(self.context, tea)
        (draft,) = propose(self.context, [kept.key], strengths=None, as_square=False)
        asked = questions.question_of(self.trial)
        asked = replace(asked, remedies=(asked.remedies[0], draft))
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.plant_and_draw()

    def test_it_is_asked_for_with_each_batch_and_stands_on_the_label(self) -> None:
        remedy = self.trial.remedies[1]
        self.assertEqual(overview(self.context, self.trial_id).cautions[remedy.id][0], self.SAID)
        with self.assertRaises(ConflictError) as caught:
            batches.record_batch(self.context, self.trial_id, remedy.id, BatchDraft())
        self.assertIn(self.SAID, caught.exception.message)
        read = BatchDraft(acknowledged=("own",))
        batches.record_batch(self.context, self.trial_id, remedy.id, read)
        sheet = " ".join(labels.labels_of(self.context, self.trial_id, "a4").decode().split())
        self.assertIn("One or more of the bottles: Not within 3 m of a", sheet)

    def test_one_that_no_label_holds_is_refused(self) -> None:
        long = replace(TEA, name="Long", traits=Traits(caution="x" * 301))
        with self.assertRaises(InputError) as caught:
            shelf.keep_remedy(self.context, long)
        self.assertEqual(caught.exception.field, "traits.caution")
