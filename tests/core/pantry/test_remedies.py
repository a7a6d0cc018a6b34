"""The shipped remedies, ladders and squares made of them, and the reasons against one."""

from __future__ import annotations

import unittest
from dataclasses import replace

from orthocris.core.errors import InputError
from orthocris.core.pantry.remedies import draft_of, ladder, square, usual_ladder
from orthocris.core.pantry.suiting import unsuitable
from orthocris.core.planning.mending import lacks_emulsifier
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import Question, RemedyDraft, check_question
from orthocris.core.trial.setup import Kind, Setup, Unit
from orthocris.knowledge import pest_named, remedies, remedy_named
from orthocris.services.trial.own_pests import target_of

CONTROL = RemedyDraft("Water", Role.CONTROL)


def asked(kind: Kind, drafts: tuple[RemedyDraft, ...], measure: str = "live") -> Question:
    """A question of this kind."""
    return Question("x", "aphids", measure, 0.6, (CONTROL, *drafts), (3, 7), (0,), Setup(kind=kind))


class Suiting(unittest.TestCase):
    def reasons(self, key: str, pest: str, **setup: object) -> str:
        """All reasons against a remedy, joined."""
        target = target_of(pest, pest_named(pest))
        found = unsuitable(remedy_named(key), Setup(**setup), target)  # type: ignore[arg-type]
        return " ".join(found)

    def test_pest_plant_and_season_each_have_their_reason(self) -> None:
        self.assertEqual(self.reasons("mild_soap", "aphids"), "")
        self.assertIn("must be eaten", self.reasons("bt_spray", "aphids"))
        for key in ("mild_soap", "neem", "oil_soap"):  # maggots live in the soil
            self.assertIn("spray on leaves never comes", self.reasons(key, "fungus_gnats"))
        self.assertEqual(self.reasons("soil_bacterium", "fungus_gnats"), "")
        self.assertIn("insects do not mind", self.reasons("baking_soda", "aphids"))
        self.assertEqual(self.reasons("mineral_oil", "powdery_mildew"), "")
        self.assertIn("rinse now", self.reasons("baking_soda", "powdery_mildew", unit=Unit.POT))
        for key in ("mild_soap", "baking_soda", "potassium_bicarbonate", "neem", "mineral_oil"):
            self.assertRegex(self.reasons(key, "powdery_mildew", delicate=True), "hairy|bloom")
        self.assertIn("insects do not mind it", self.reasons("milk", "aphids"))
        self.assertIn("thirsty", self.reasons("mild_soap", "aphids", stressed=True))
        self.assertIn("cool months", self.reasons("neem", "aphids", hot=True))
        self.assertIn("bees", self.reasons("mild_soap", "aphids", in_bloom=True))
        self.assertIn("ornamentals", self.reasons("mineral_oil", "scale_insects", eaten=True))
        self.assertEqual(self.reasons("mineral_oil", "scale_insects"), "")

    def test_of_an_own_pest_nothing_is_claimed(self) -> None:
        self.assertEqual(self.reasons("milk", "leaf miners of my own"), "")

    def test_every_remedy_makes_a_question_with_the_control(self) -> None:
        for remedy in remedies():
            if remedy.role == "remedy":
                check_question(asked(Kind.COMPARE, (draft_of(remedy),)))


class Kinds(unittest.TestCase):
    def test_a_ladder_rises_over_the_usual_range(self) -> None:
        soap = remedy_named("mild_soap")
        self.assertEqual(usual_ladder(soap), (5, 10.0, 20))
        rungs = ladder(soap, (20, 5, 10))
        self.assertEqual([r.traits.ingredients[0].amount for r in rungs], [5, 10, 20])
        check_question(asked(Kind.LADDER, rungs))
        for remedy in remedies():
            if remedy.ingredients and remedy.key != "bt_spray":
                check_question(asked(Kind.LADDER, ladder(remedy, usual_ladder(remedy))))
        for amounts in ((5,), (5, 5), (0, 5), (5, 10_001)):
            with self.assertRaises(InputError):
                ladder(soap, amounts)

    def test_a_square_has_one_the_other_and_both(self) -> None:
        cells = square(remedy_named("mild_soap"), remedy_named("oil_soap"))
        self.assertEqual([c.name for c in cells], ["Soap", "Oil", "Soap and oil"])
        check_question(asked(Kind.SQUARE, cells))
        self.assertIn("emulsifier", cells[1].recipe)
        self.assertNotIn("emulsifier", cells[2].recipe)  # the soap holds the oil there
        self.assertFalse(any(lacks_emulsifier(c) for c in cells))
        soda = square(remedy_named("baking_soda"), remedy_named("neem"))
        check_question(asked(Kind.SQUARE, soda))
        self.assertFalse(any(lacks_emulsifier(c) for c in soda))
        uneven = replace(cells[2], traits=cells[0].traits)
        with self.assertRaises(InputError) as caught:
            check_question(asked(Kind.SQUARE, (*cells[:2], uneven)))
        self.assertEqual(caught.exception.code, "not_a_square")
        with self.assertRaises(InputError):
            square(remedy_named("mild_soap"), remedy_named("mild_soap"))

    def test_remedies_that_are_no_ladder_are_refused(self) -> None:
        drafts = (draft_of(remedy_named("mild_soap")), draft_of(remedy_named("milk")))
        with self.assertRaises(InputError) as caught:
            check_question(asked(Kind.LADDER, drafts))
        self.assertEqual(caught.exception.code, "not_a_ladder")

    def test_eggs_are_counted_as_hatched(self) -> None:
        drafts = (draft_of(remedy_named("mild_soap")),)
        check_question(asked(Kind.EGGS, drafts, measure="hatched"))
        with self.assertRaises(InputError):
            check_question(asked(Kind.EGGS, drafts))


if __name__ == "__main__":
    unittest.main()
