"""The gardener's own remedies beside the shipped ones."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.pantry.own import OwnRemedy
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.programme import Programme, Rhythm
from orthocris.core.trial.setup import Setup
from orthocris.services.pantry import own_remedies as shelf
from orthocris.services.pantry.catalogue import propose, suited
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
