"""What a pack holds as people write it, and whose price it is."""

from __future__ import annotations

import unittest
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price, pack_said, price_of
from orthocris.core.pantry.units import Region


class Packs(unittest.TestCase):
    def test_as_they_are_written_on_the_shelf(self) -> None:
        """A US gallon is 231 cubic inches, a pound 453.59237 g; ounces go by what is sold."""
        for pack, name, ml_or_g in (
            ("500", "soap", 500), ("1,5", "oil", 1.5), ("946.352946", "soap", 946.352946),
            ("1 l", "soap", 1000), ("1,5 l", "oil", 1500), ("1,000 ml", "soap", 1000),
            ("32 fl oz", "soap", 946.352946), ("32 fl. oz.", "castile soap", 946.352946),
            ("16 oz", "baking soda", 453.59237), ("16 oz", "liquid soap", 473.176473),
            ("2 lb", "clay", 907.18474), ("1/2 gal", "vinegar", 1892.705892),
            ("half a litre", "milk", 500), ("10 cards", "yellow card", 10),
            ("10 pieces", "ring", 10),
        ):  # fmt: skip
            with self.subTest(pack):
                self.assertAlmostEqual(float(pack_said(pack, name, Region.US)), ml_or_g)

    def test_what_is_not_one_amount_is_asked_back(self) -> None:
        for pack in (
            "",
            "lots",
            "-5",
            "2 x 500 ml",
            "500 ml bottle",
            "1,000",
            "5 %",
            "1e5",
            "9" * 40,
        ):
            with self.subTest(pack), self.assertRaises(InputError) as caught:
                pack_said(pack, "soap")
            self.assertEqual(caught.exception.field, "price")

    def test_a_price_goes_to_what_has_all_its_words_one_or_many(self) -> None:
        card, ring, any_card = (
            Price(n, Fraction(1), Fraction(1)) for n in ("yellow cards", "ring", "card")
        )
        prices = [any_card, card, ring]
        self.assertIs(price_of("Yellow sticky card. One card a pot.", prices), card)
        self.assertIs(price_of("Blue cards", prices), any_card)
        self.assertIsNone(price_of("Water jet", prices))


if __name__ == "__main__":
    unittest.main()
