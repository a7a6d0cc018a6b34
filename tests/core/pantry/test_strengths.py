"""Recipes on one axis, their cost, and hard water."""

from __future__ import annotations

import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price, cost_of, hardness_warning
from orthocris.core.pantry.recipe_cards import RecipeCard, SchoolRange, own_card, school_note
from orthocris.core.pantry.recipes import Part, Step, reason_for
from orthocris.core.pantry.remedies import Ingredient
from orthocris.core.pantry.strengths import axes, beside
from orthocris.core.pantry.units import UNITS, Dimension, conversions, convert

SOAP = Part("mild soap", Fraction(20))
USUAL = Ingredient("soap", "liquid soap", 10, "ml/L", 5, 20)


class OneAxis(unittest.TestCase):
    def test_both_recipes_and_the_range(self) -> None:
        (axis,) = axes([SOAP], [Part("Mild soap", Fraction(10))], {SOAP: USUAL})
        self.assertEqual((axis.yours, axis.theirs, axis.low, axis.high), (20, 10, 5, 20))
        self.assertIn("yours is twice as strong", axis.text)

    def test_what_only_one_has(self) -> None:
        oil = Part("oil", Fraction(10))
        mine, other = axes([SOAP], [oil], {})
        self.assertEqual((mine.theirs, other.yours), (None, None))
        self.assertIn("only in the other one", other.text)

    def test_weighed_and_poured_cannot_be_compared(self) -> None:
        powder = Part("soap", Fraction(5), Dimension.MASS)
        (axis,) = axes([Part("soap", Fraction(5))], [powder], {})
        self.assertIsNone(axis.theirs)
        self.assertIn("one is weighed and one is poured", axis.text)

    def test_beside_the_range(self) -> None:
        for amount, said in (
            (60, "3 times the harsh end"),
            (2, "milder than is usual; whether mild is enough, a ladder tells"),
            (20, "lies within"),
            (5, "lies within"),
        ):
            self.assertIn(said, beside(Part("soap", Fraction(amount)), USUAL))


class Schools(unittest.TestCase):
    def test_where_an_amount_lies_for_each(self) -> None:
        card: RecipeCard = own_card("x", (SOAP,), "spray")
        ranges = (
            SchoolRange("Careful", "soap", 5, 10, "Enough."),
            SchoolRange("Strong", "soap", 15, 25, "Heavy attack."),
            SchoolRange("Other", "oil", 1, 2, "No."),
        )
        kept = replace(card, ranges=ranges)
        self.assertEqual(
            list(school_note(kept, "soap", 12, "ml/L")),
            [
                "Careful: 5 to 10 ml/L; 12 ml/L lies above. Enough.",
                "Strong: 15 to 25 ml/L; 12 ml/L is milder.",
            ],
        )

    def test_own_remedies_are_handled_with_care(self) -> None:
        oil = own_card("x", (Part("rape oil", Fraction(10)),), "spray")
        self.assertTrue(oil.oil)
        assert oil.rules is not None
        self.assertEqual((oil.rules.high, oil.rules.heat_hours), (25, 24))
        self.assertFalse(own_card("x", (), "hand").mixed)
        self.assertIsNone(own_card("x", (), "trap").rules)


class Reasons(unittest.TestCase):
    def test_soap_alone_and_soap_before_oil(self) -> None:
        alone = [Step.EMULSIFIER, Step.TOP_UP]
        self.assertIn("foams less", reason_for(Step.EMULSIFIER, alone))
        self.assertIn("floats", reason_for(Step.EMULSIFIER, [*alone, Step.OIL]))
        self.assertIn("by itself", reason_for(Step.ACTIVE, [Step.ACTIVE, Step.TOP_UP]))


class Costs(unittest.TestCase):
    prices = (
        Price("oil", Fraction(1000), Fraction(4)),
        Price("neem oil", Fraction(100), Fraction(10)),
        Price("soap", Fraction(500), Fraction(5)),
    )

    def test_the_longest_name_that_fits_is_its_price(self) -> None:
        """Neem oil at 0.10 a ml, not oil at 0.004: 5 ml/L are 0.50 a litre."""
        neem = cost_of([Part("neem oil", Fraction(5))], self.prices, Fraction(2000), 20)
        self.assertEqual((neem.per_litre, neem.per_round), (Fraction(1, 2), 1))
        self.assertEqual(neem.per_plant, Fraction(1, 20))

    def test_what_has_no_price_is_named(self) -> None:
        found = cost_of([SOAP, Part("milk", Fraction(100))], self.prices, Fraction(1000), None)
        self.assertEqual((found.missing, found.per_plant), (("milk",), None))
        self.assertEqual(found.per_litre, Fraction(1, 5))

    @given(volume=st.fractions(1, 10_000), times=st.integers(2, 9))
    def test_twice_the_mix_costs_twice(self, volume: Fraction, times: int) -> None:
        one = cost_of([SOAP], self.prices, volume, 5)
        many = cost_of([SOAP], self.prices, volume * times, 5)
        self.assertEqual(one.per_round * times, many.per_round)

    def test_hard_water_only_matters_to_soap(self) -> None:
        self.assertIn("240 mg/L", hardness_warning([SOAP], 240.0) or "")
        self.assertIsNone(hardness_warning([SOAP], 200.0))
        self.assertIsNone(hardness_warning([SOAP], None))
        self.assertIsNone(hardness_warning([Part("oil", Fraction(5))], 400.0))


class OtherUnits(unittest.TestCase):
    def test_every_other_unit_of_its_kind(self) -> None:
        found = {u.key: a for u, a in conversions(Fraction(1), "gal_us", None)}
        self.assertEqual(found["quart_us"], 4)
        self.assertEqual(found["cup_us"], 16)
        self.assertNotIn("g", found)
        self.assertNotIn("gal_us", found)

    def test_a_density_opens_the_scale(self) -> None:
        found = {u.key: a for u, a in conversions(Fraction(2), "tbsp", Fraction(9, 10))}
        self.assertEqual(found["g"], 27)

    @given(amount=st.fractions(0, 1000), key=st.sampled_from(sorted(UNITS)))
    def test_they_all_say_the_same(self, amount: Fraction, key: str) -> None:
        for unit, converted in conversions(amount, key, Fraction(4, 5)):
            back = convert(converted, unit, UNITS[key], grams_per_ml=Fraction(4, 5))
            self.assertEqual(back, amount)

    def test_what_cannot_be(self) -> None:
        for amount, key, density in ((-1, "ml", None), (1, "firkin", None), (1, "ml", 0)):
            with self.assertRaises(InputError):
                conversions(Fraction(amount), key, None if density is None else Fraction(density))


if __name__ == "__main__":
    unittest.main()
