"""However a card is laid out, it is read right or asked about: never wrongly in silence."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.pantry.recipe.reading import understand

AMOUNTS = {"10 ml": 10.0, "2 tsp": 10.0, "a tablespoon": 15.0, "1-1/2 tsp": 7.5, "0,5 cl": 5.0,
           "half a teaspoon": 2.5, "a teaspoon and a half": 7.5, "5-10 ml": 7.5, ".5 tsp": 2.5,
           "1 tablespoon (15 ml)": 15.0, "2 x 5 ml": 10.0, "2½ ml": 2.5}  # fmt: skip
VOLUMES = {"1 litre": 1.0, "2 L": 2.0, "1,5 l": 1.5, "a litre and a half": 1.5, "1,000 ml": 1.0,
           "five litres": 5.0}  # fmt: skip
THINGS = ("soap", "vegetable oil", "surgical spirit", "milk", "baking soda")
PARTS = ("{a} {i}", "{a} of {i}", "{i} {a}", "{i}: {a}", "{i}, {a}", "{i} ({a})", "{i} - {a}")
JOINS = (", ", " and ", " + ", "; ", "\n", ", then ", ". ", ",", " as well as ")
WHOLES = ("{p} in {v}", "{p} to {v} of water", "{p}, water to {v}", "{p} per {v}", "For {v}: {p}",
          "{v} of water, {p}", "{p}, {v} water", "{v}: {p}", "Into {v} put {p}",
          "{p}. Fill up with water to {v}")  # fmt: skip
NOTES = ("", ", shake well", ", every 5 days", ", no perfume", ", 40 ml a plant", ", below 25 °C")
SODA = 0.9  # g in a ml
ADDED = 0.07  # that much wider where water is added to the parts, and not the mix filled up


class HoweverLaidOut(unittest.TestCase):
    @given(
        st.lists(st.sampled_from(THINGS), min_size=1, max_size=3, unique=True),
        st.lists(st.sampled_from(sorted(AMOUNTS)), min_size=3, max_size=3),
        st.sampled_from(sorted(VOLUMES)),
        st.tuples(*(st.sampled_from(one) for one in (PARTS, JOINS, WHOLES, NOTES))),
    )
    def test_no_part_changes_with_the_layout(
        self, things: list[str], amounts: list[str], volume: str, layout: tuple[str, str, str, str]
    ) -> None:
        part, join, whole, note = layout
        said = [part.format(a=a, i=i) for a, i in zip(amounts, things, strict=False)]
        text = whole.format(p=join.join(said), v=volume) + note
        reading = understand(text)
        if reading.fault is not None or reading.open:
            return  # asked about
        found = {p.name: float(p.per_litre) for p in reading.parts}
        self.assertEqual(sorted(found), sorted(things), text)
        for thing, amount in zip(things, amounts, strict=False):
            wanted = AMOUNTS[amount] / VOLUMES[volume] * (SODA if thing == "baking soda" else 1)
            self.assertAlmostEqual(found[thing], wanted, delta=ADDED * wanted, msg=text)


class ToldTwice(unittest.TestCase):
    def test_what_is_told_twice_and_differently_is_asked_about(self) -> None:
        for text, words in (
            ("1 tablespoon (5 ml) soap in 1 litre", "1 tablespoon"),
            ("10 ml soap (2 tbsp) in 1 litre", "2 tbsp"),
            ("a teaspoon (50 g) of baking soda per litre", "a teaspoon"),
            ("stir 15 ml soap into 500 ml, add another 500 ml", "another 500 ml"),
            ("25 ml soap in 500 ml of water, per 5 litres", "per 5 litres"),
            ("10 ml soap per litre, per 5 litres", "per 5 litres"),
            ("weak: 5 ml soap per litre; strong: 15 ml soap per litre", "15 ml soap"),
            ("1% soap, later 2% soap", "2% soap"),
            ("1:50 (5%) soap", "1:50 (5%) soap"),
            ("30% milk, 50% water", "50% water"),
            ("one third milk, half water", "half water"),
            ("a cup (500 ml) of milk to 9 cups water", "a cup"),
            ("0.5% oil, i.e. 15 ml per litre", "0.5% oil, i.e. 15 ml"),
            ("10 ml soap per litre, can go up to 20 ml", "up to 20 ml"),
            ("twice the usual 10 ml soap per litre", "twice"),
            ("a litre of 10% soap stock: 50 ml per litre", "50 ml"),
            ("100 g soap in 1 l; 10 ml of stock per litre", "10 ml of stock"),
        ):
            with self.subTest(text):
                self.assertIn(words, [token.words for token in understand(text).open])

    def test_either_telling_is_a_click_away(self) -> None:
        for text, choices in (
            ("1 tablespoon (5 ml) soap in 1 litre",
             ["5 ml soap in 1 litre", "1 tablespoon soap in 1 litre"]),
            ("10 ml soap (2 tbsp) in 1 litre", ["10 ml soap in 1 litre"]),
        ):  # fmt: skip
            with self.subTest(text):
                (token,) = understand(text).open
                self.assertIn("told twice", token.taken_for)
                settled = [text[: c.start] + c.text + text[c.end :] for c in token.choices]
                self.assertEqual(settled, choices)
                self.assertEqual([understand(one).open for one in settled], [()] * len(settled))

    def test_what_was_mixed_first_is_said_to_be_it(self) -> None:
        reading = understand("mix oil and soap 3:1, use 10 ml of the mix per litre")
        said = {token.words: token.taken_for for token in reading.tokens}
        self.assertEqual(said["10 ml of the mix"], "of what was mixed first")


if __name__ == "__main__":
    unittest.main()
