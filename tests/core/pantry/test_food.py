"""Food and doses by what a thing is: words nobody listed fall under them too."""

from __future__ import annotations

import unittest

from orthocris.core.errors import InputError
from orthocris.core.pantry.doses import check_doses, dose_cautions, doses
from orthocris.core.pantry.food import Food, food_rule
from orthocris.core.pantry.recipe.reading import understand
from orthocris.knowledge import recipe_cards, remedies


class FoodByTraits(unittest.TestCase):
    def test_what_may_be_eaten_follows_from_what_it_is(self) -> None:
        for name, recipe, way, rule in (
            ("Soap", "10 ml soap per litre", "spray", Food.WAIT),
            (
                "Garlic",
                "100 g garlic steeped in 1 litre, 100 ml of it per litre",
                "spray",
                Food.WAIT,
            ),
            ("Ash on the soil", "wood ash, 20 g", "dust", Food.LABEL),
            ("Earth", "5 g diatomaceous earth dusted", "dust", Food.WAIT),
            ("Peroxide", "0.5% hydrogen peroxide", "drench", Food.WAIT),
            ("Plain water", "lukewarm water", "spray", Food.FREE),
            ("Pyrethrum", "5 ml per litre", "spray", Food.LABEL),
            ("Cypermethrin", "", "spray", Food.LABEL),
            ("Meths", "100 ml methylated spirits in 1 l", "spray", Food.LABEL),
            ("Rubbing alcohol", "100 ml rubbing alcohol in 1 l", "spray", Food.WAIT),
            ("Copper", "2 g copper soap per litre", "spray", Food.LABEL),
            ("Sulphur", "3 g sulfur per litre", "dust", Food.LABEL),
            ("Spinosad", "1 ml a litre", "spray", Food.LABEL),
            ("White oil", "10 ml paraffin oil and 2 ml soap in 1 l", "spray", Food.LABEL),
            ("Greenshield", "10 ml Greenshield per litre", "spray", Food.LABEL),
            ("Greenshield", "As its label says", "drench", Food.LABEL),
            ("What the shop sold", "", "spray", Food.LABEL),
            ("Greenshield soap", '10 ml "Greenshield" soap per litre', "spray", Food.LABEL),
            ("Chain oil", "10 ml chain oil and 2 ml soap in 1 l", "spray", Food.LABEL),
            ("Tar soap", "5 g tar soap in 1 l", "spray", Food.LABEL),
            ("Walnut oil", "10 ml cheap walnut oil and 2 ml mild soap in 1 l", "spray", Food.WAIT),
            ("Soap and oil", "5 ml my own soap, then 5 ml of the oil, in 1 l", "spray", Food.WAIT),
            ("Cigarettes", "10 cigarette butts in 1 litre", "spray", Food.NEVER),
            ("Foxglove", "50 g foxglove leaves in 1 litre", "spray", Food.NEVER),
            ("Cards", "yellow cards", "trap", Food.FREE),
            ("By hand", "into soapy water", "hand", Food.FREE),
            ("Wasp spray on a card", "", "trap", Food.LABEL),
        ):
            with self.subTest(name=name, recipe=recipe):
                self.assertIs(food_rule(name, recipe, way), rule)

    def test_the_shipped_cards_say_the_same(self) -> None:
        for remedy in remedies():
            card = recipe_cards()[remedy.key]
            rule = food_rule(remedy.name, remedy.recipe, remedy.way)
            with self.subTest(remedy.key):
                if rule in (Food.LABEL, Food.NEVER):
                    self.assertIsNone(card.eat_after_days)
                elif card.eat_after_days is not None and card.eat_after_days > 0:
                    self.assertIs(rule, Food.WAIT)


class Doses(unittest.TestCase):
    def found(self, text: str) -> dict[str, float]:
        reading = understand(text)
        return {d.name: float(d.times) for d in doses(reading.parts, remedies(), said=text)}

    def test_three_times_the_harsh_end_needs_the_strong_word(self) -> None:
        for text, times in (
            ("59 ml soap per litre", {}),
            ("60 ml soap per litre", {"soap": 3.0}),
            ("10 ml dish soap and 5 ml oil in 1 litre", {"dish soap": 10 / 3}),
            ("24 g baking soda and 1 ml soap per litre", {"baking soda": 3.0}),
            ("24 g baking soda in 500 ml", {"baking soda": 6.0}),
            ("32 g washing soda per litre", {"washing soda": 4.0}),  # as soda
            ("24 g salt per litre", {"salt": 3.0}),
            ("60 ml lemon juice per litre", {"lemon juice": 3.0}),  # as vinegar
            ("40 ml of 25% vinegar in 1 litre", {"25% vinegar": 10.0}),
            ("neat 70% alcohol on a swab", {}),
            ("milk, undiluted", {}),
            ("ready-to-use insecticidal soap, undiluted", {}),
            ("100 ml soap in 1 litre, ready to use at once", {"soap": 5.0}),
        ):
            with self.subTest(text):
                self.assertEqual(
                    {k: round(v, 6) for k, v in self.found(text).items()},
                    {k: round(v, 6) for k, v in times.items()},
                )
        reading = understand("60 ml soap per litre")
        (caution,) = dose_cautions(doses(reading.parts, remedies()))
        self.assertTrue(caution.strong)
        self.assertIn("3 times the harsh end", caution.texts[0])

    def test_what_leaves_nothing_of_a_remedy_is_refused(self) -> None:
        for text in (
            *("dish soap, neat", "1:1 dish soap and water", "vinegar undiluted"),
            *("neem oil undiluted", "100 g baking soda in 1 litre", "50 ml tea tree oil per litre"),
        ):
            with self.subTest(text), self.assertRaisesRegex(InputError, "nothing is left"):
                check_doses(doses(understand(text).parts, remedies(), said=text))


if __name__ == "__main__":
    unittest.main()
