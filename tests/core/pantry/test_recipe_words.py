"""Thirty recipes as people say them, with answers worked by hand (per litre of ready mix)."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe_words import read_recipe
from orthocris.core.pantry.units import Region

US_GALLON = 3.785411784  # litres
US_TBSP = 14.78676478125  # ml
GALLON = 4.54609

# text, region, {ingredient: ml or g in a litre}
RECIPES: tuple[tuple[str, Region, dict[str, float]], ...] = (
    ("15 ml/L soap", Region.METRIC, {"soap": 15}),
    ("10 ml of soap in 1 litre of water", Region.METRIC, {"soap": 10}),
    ("10 ml soap per litre", Region.METRIC, {"soap": 10}),
    ("15 ml/L oil, 2 ml/L soap", Region.METRIC, {"oil": 15, "soap": 2}),
    ("soap 1:40", Region.METRIC, {"soap": 1000 / 41}),
    ("1:40 soap", Region.METRIC, {"soap": 1000 / 41}),
    ("1 in 50 neem oil", Region.METRIC, {"neem oil": 20}),
    ("one part milk to nine parts water", Region.METRIC, {"milk": 100}),
    ("1 part milk to 4 parts of water", Region.METRIC, {"milk": 200}),
    ("2% neem", Region.METRIC, {"neem": 20}),
    ("0.5 % neem oil", Region.METRIC, {"neem oil": 5}),
    ("a teaspoon of soap in half a litre", Region.METRIC, {"soap": 10}),
    ("two tablespoons of oil in 2 litres", Region.METRIC, {"oil": 15}),
    ("5 ml oil and 2 ml soap in 500 ml", Region.METRIC, {"oil": 10, "soap": 4}),
    ("5ml oil + 2ml soap in 1l", Region.METRIC, {"oil": 5, "soap": 2}),
    ("a heaped dessert spoon of baking soda to a 5-litre can and a dash of soap",
     Region.METRIC, {"baking soda": 20 * 0.9 / 5, "soap": 0.2}),
    ("5 g baking soda, 5 ml oil, a few drops of soap in 1 litre", Region.METRIC,
     {"baking soda": 5, "oil": 5, "soap": 0.15}),
    ("1 tbsp baking soda per gallon", Region.US, {"baking soda": US_TBSP * 0.9 / US_GALLON}),
    ("1 tbsp soap per gallon", Region.US, {"soap": US_TBSP / US_GALLON}),
    ("1 tbsp soap per gallon", Region.IMPERIAL, {"soap": 15 / GALLON}),
    ("1 tbsp soap per litre", Region.AUSTRALIAN, {"soap": 20}),
    ("1 fl oz of oil in 1 quart", Region.US, {"oil": 31.25}),
    ("1 fl. oz. neem in a gallon", Region.IMPERIAL, {"neem": 1000 / 160}),
    ("½ tsp soap in 250 ml", Region.METRIC, {"soap": 10}),
    ("1 1/2 tsp oil in a 750 ml bottle", Region.METRIC, {"oil": 10}),
    ("150 ml of 70% alcohol in 1 litre", Region.METRIC, {"70% alcohol": 150}),
    ("200 ml milk topped up to 1 litre", Region.METRIC, {"milk": 200}),
    ("2,5 ml soap to 500 ml", Region.METRIC, {"soap": 5}),
    ("a squirt of soap in a 1 litre sprayer", Region.METRIC, {"soap": 2.5}),
    ("40 g potassium bicarbonate in a 10 litre bucket", Region.METRIC,
     {"potassium bicarbonate": 4}),
    ("1 oz baking soda in 2 gallons of water", Region.US,
     {"baking soda": 28.349523125 / (2 * US_GALLON)}),
    ("level teaspoon of baking soda to a litre", Region.METRIC, {"baking soda": 4.5}),
    ("1 cup milk to 9 cups water", Region.METRIC, {"milk": 250 / 2.25}),
)  # fmt: skip

WORDS = (
    *("10", "0", "1/2", "1/0", "-5", "0.5", "%", ":", "in", "to", "per", "/", "1:40", "3%", "1"),
    *("ml", "l", "litre", "tsp", "tbsp", "gallon", "drops", "part", "parts", "soap", "oil"),
    *("water", "and", "with", "a", "heaped", "dash", "can"),
)


class AsPeopleSay(unittest.TestCase):
    def test_thirty_recipes(self) -> None:
        self.assertGreaterEqual(len(RECIPES), 30)
        for text, region, expected in RECIPES:
            with self.subTest(text):
                found = {p.name: float(p.per_litre) for p in read_recipe(text, region).parts}
                self.assertEqual(set(found), set(expected))
                for name, amount in expected.items():
                    self.assertAlmostEqual(found[name], amount, places=9)

    def test_what_was_guessed_is_said(self) -> None:
        guesses = " ".join(
            read_recipe(
                "a heaped dessert spoon of baking soda and a dash of soap in 5 litres"
            ).guesses
        )
        for said in ("heaped is taken as 2", "a dash is taken as 1 ml", "0.9 g"):
            self.assertIn(said, guesses)
        self.assertEqual(read_recipe("10 ml soap in 1 litre").guesses, ())

    def test_amounts_are_exact(self) -> None:
        reading = read_recipe("1 tbsp soap per gallon", Region.US)
        self.assertEqual(reading.parts[0].per_litre, Fraction(1000) / 256)

    def test_what_cannot_be_read_says_what_to_add(self) -> None:
        for text, code in (
            ("some soap", "no_amount"),
            ("", "no_amount"),
            ("10 ml soap", "no_volume"),
            ("150% soap", "more_than_whole"),
            ("💧", "no_amount"),
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_recipe(text)
            self.assertEqual(caught.exception.code, code)

    def test_ranges_are_taken_in_the_middle_and_said(self) -> None:
        found = read_recipe("10-15 ml soap per litre")
        self.assertEqual(found.parts[0].per_litre, Fraction("12.5"))
        self.assertEqual(found.guesses, ("10 to 15 is taken as 12.5",))

    def test_a_minus_is_refused_and_a_dash_is_none(self) -> None:
        for text in ("-5 ml soap in 1 litre", "10-15 ml soap and -5 ml oil in 1 litre"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_recipe(text)
            self.assertEqual(caught.exception.code, "negative_amount")
        self.assertEqual(read_recipe("10 - 15 ml soap in 1 l").parts[0].per_litre, Fraction("12.5"))
        with self.assertRaises(InputError) as caught:
            read_recipe("soap - 10 ml to 1 litre")
        self.assertNotEqual(caught.exception.code, "negative_amount")

    def test_a_stock_diluted_is_c1v1(self) -> None:
        """3% to 0.5%: one part in six, 166.7 ml a litre; 6% peroxide to 1% the same."""
        for text in ("3% hydrogen peroxide diluted to 0.5%", "peroxide 6% down to 1%"):
            self.assertEqual(read_recipe(text).parts[0].per_litre, Fraction(1000, 6))
        with self.assertRaises(InputError) as caught:
            read_recipe("3% peroxide to 6%")
        self.assertEqual(caught.exception.code, "stock_too_weak")

    def test_the_vessel_may_come_first_and_a_plant_s_share_is_no_part(self) -> None:
        for text in (
            "5-litre can with 50 ml soap",
            "5 l can: 50 ml soap",
            "50 ml soap, 5 litres of rain water",
            "10 ml soap in 1 litre, 40 ml a plant",
        ):
            with self.subTest(text):
                (part,) = read_recipe(text).parts
                self.assertEqual((part.name, part.per_litre), ("soap", 10))

    def test_what_is_not_understood_is_never_dropped_in_silence(self) -> None:
        found = read_recipe("10 ml soap and 3 glorps of oil in 1 litre")
        self.assertEqual([p.name for p in found.parts], ["soap"])
        self.assertIn("'3 glorps of oil' was not understood and is left out", found.guesses)

    def test_a_part_without_an_amount_is_named_as_left_out(self) -> None:
        found = read_recipe("10 ml soap in 1 litre, some vinegar; shake often")
        self.assertEqual(found.guesses, ("'some vinegar' was not understood and is left out",))
        (soap,) = read_recipe("a spoon of soap in 1 litre").parts
        self.assertEqual(soap.per_litre, 15)

    @given(words=st.lists(st.sampled_from(WORDS), max_size=9))
    def test_any_words_are_read_or_refused(self, words: list[str]) -> None:
        try:
            found = read_recipe(" ".join(words))
        except InputError as error:
            self.assertTrue(error.fix)
        else:
            for part in found.parts:
                self.assertGreaterEqual(part.per_litre, 0)


if __name__ == "__main__":
    unittest.main()
