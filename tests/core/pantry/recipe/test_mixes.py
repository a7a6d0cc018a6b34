"""Several mixes in one text, and words that are no names: asked about before anything is poured."""

from __future__ import annotations

import unittest

from orthocris.core.pantry.recipe.reading import Reading, understand
from orthocris.core.pantry.recipe.said import Choice
from orthocris.core.pantry.recipe.tokens import BY_LABEL


def opened(reading: Reading) -> list[str]:
    return [token.words for token in reading.open]


def clicked(text: str, choice: Choice) -> str:
    return text[: choice.start] + choice.text + text[choice.end :]


def per_litre(reading: Reading) -> dict[str, float]:
    return {part.name: float(part.per_litre) for part in reading.parts}


class OneOrTwo(unittest.TestCase):
    def test_what_may_be_two_mixes_is_asked_about(self) -> None:
        for text, words in (
            ("5 ml soap in 1 litre; 3 g soda in 1 litre", ["in 1 litre"]),
            ("5 ml soap in 1 litre, 3 g soda in 2 litres", ["in 2 litres"]),
            ("in the morning 5 ml soap per litre, in the evening 3 ml neem per litre",
             ["per litre"]),
            ("week 1: 5 ml soap per litre; week 2: 3 ml neem per litre", ["per litre"]),
            ("5 ml soap per litre, then after 3 days 5 ml neem per litre", ["per litre"]),
            ("first spray with 5 ml soap per litre, then with 3 ml neem per litre", ["per litre"]),
            ("5 ml soap per litre (roses), 3 g soda per litre (tomatoes)", ["per litre"]),
            ("5 ml soap per litre / 3 ml neem per litre", ["per litre"]),
            ("a bottle of 1 litre with 5 ml soap, a bottle of 1 litre with 3 g soda", ["3 g soda"]),
            ("spray bottle (500 ml): 2 ml soap; bucket (5 l): 20 ml oil", ["20 ml oil"]),
            ("one can 10 ml soap per litre, other can 5 ml oil per litre", ["5 ml oil"]),
            ("1:200 soap mornings, 1% oil evenings", ["1% oil"]),
            ("1:200 soap, a week later 1% oil", ["1% oil"]),
            ("soap 5 ml with or without 5 ml oil per litre", ["oil"]),
            ("soap: 10 ml per litre. Oil: 5 ml per litre. Do not mix them.", ["per litre"]),
            ("10 ml soap per litre until june, 5 ml oil per litre after", ["per litre"]),
            ("10 ml soap per litre against thrips, for scale 5 ml oil per litre", ["scale"]),
            ("50 ml soap in 10 litres (1:20)", ["(1:20)"]),
            ("one litre with 10 ml soap and one litre with 5 ml oil", ["5 ml oil"]),
            ("500 ml of 1% soap and 500 ml of 0.5% oil", ["500 ml of 0.5% oil"]),
            ("10 ml soap to a litre; the second litre with oil 5 ml", ["second"]),
            ("when dry 10 ml oil per litre, when wet 10 ml soap per litre", ["per litre"]),
            ("soap at 10 ml/l, neem at 5 ml/l, not together", ["/l"]),
            ("soap at 10 ml/l is better than neem at 5 ml/l", ["better than"]),
            ("small bottle 2 ml soap, large bottle 10 ml soap per litre", ["10 ml soap"]),
            ("for aphids 5 ml soap per litre, for mildew 5 g baking soda per litre", ["mildew"]),
            ("5 ml soap per litre for aphids and 3 ml neem per litre for mites", ["mites"]),
            ("10 ml soap in 1 litre makes 5 litres", ["makes 5 litres"]),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(opened(understand(text)), words)

    def test_what_is_one_mix_is_not(self) -> None:
        for text in (
            "10 ml soap per litre and 5 ml oil per litre",
            "soap: 10 ml/l; oil: 5 ml/l",
            "10 ml soap per litre (unscented), then 5 ml oil to the litre",
            "1% soap, then 0.5% oil",
            "use 1% soap, then 5 ml oil per litre (evening only), on day 0, 3 and 7",
            "mix 10 ml soap in a jug of 1 litre, pour into the sprayer, add 5 ml oil",
            "50 ml soap in 10 litres (1:200)",
            "10 ml soap and 5 ml oil per litre for aphids, mites and thrips",
            "for aphids: 10 ml soap per litre plus 5 ml oil per litre, good for mites too",
            "5 ml soap per litre and 2.5 ml oil per half litre and 5 ml soap per litre [mites]",
        ):
            with self.subTest(text):
                told_again = ["5 ml soap"] if "[mites]" in text else []
                self.assertEqual(opened(understand(text)), told_again)

    def test_a_click_makes_it_one_mix_or_keeps_the_first(self) -> None:
        both = {"soap": 5.0, "neem": 3.0}
        for text, one in (
            ("5 ml soap per litre, then after 3 days 3 ml neem per litre", both),
            ("5 ml soap in 1 litre; 3 ml neem in 1 litre", both),
            ("a 1 litre bottle with 5 ml soap, a 1 litre bottle with 3 ml neem", both),
            ("0.5% soap mornings, 0.3% neem evenings", both),
        ):
            with self.subTest(text):
                (token,) = understand(text).open
                ways = [understand(clicked(text, choice)) for choice in token.choices]
                self.assertEqual([way.open for way in ways], [(), ()])
                self.assertEqual([per_litre(way) for way in ways], [one, {"soap": 5.0}])
        text = "5 ml soap per litre for aphids and 3 ml neem per litre for mites"
        (token,) = understand(text).open
        (choice,) = token.choices
        settled = understand(clicked(text, choice))
        self.assertEqual((per_litre(settled), settled.open), (both, ()))

    def test_of_several_bottles_so_much_is_in_each(self) -> None:
        for text in (
            "2 x 500 ml bottles with 5 ml soap each",
            "two 500 ml bottles, 5 ml soap in each",
            "5 ml soap each in two 500 ml bottles",
        ):
            with self.subTest(text):
                reading = understand(text)
                self.assertEqual((per_litre(reading), reading.open), ({"soap": 10.0}, ()))


class NobodysName(unittest.TestCase):
    def test_what_nobody_knows_is_poured_only_when_it_is_said_to_be_a_name(self) -> None:
        for text, words in (
            ("5 ml soap per litre, unless hot, then 3 ml", ["unless hot, then 3 ml"]),
            ("10 ml soap per litre, sorry, 5 ml", ["sorry, 5 ml"]),
            ("5 ml neem per litre. more than 10 ml burns leaves", ["10 ml burns"]),
            ("5 litres water, 50 ml soap, of which I use 1 litre today", ["1 litre today"]),
            ("5 ml soap (30% glorp soap) per litre", ["30% glorp"]),
        ):
            with self.subTest(text):
                (token,) = understand(text).open
                self.assertEqual([token.words], words)
                own = next(c for c in token.choices if c.label == BY_LABEL)
                self.assertEqual(understand(clicked(text, own)).open, ())
        alone = understand("10 ml Greenshield per litre")
        (asked,) = alone.open  # a soap or a poison: what it is decides what is said of it
        self.assertEqual(asked.taken_for, "not known here: what is it?")
        said = {
            c.label: understand(clicked("10 ml Greenshield per litre", c)) for c in asked.choices
        }
        self.assertEqual(per_litre(said["a soap"]), {"greenshield soap": 10.0})
        self.assertEqual((said["a soap"].open, said["an oil"].open), ((), ()))
        bought = said[BY_LABEL]
        self.assertEqual((per_litre(bought), bought.open), ({"greenshield": 10.0}, ()))

    def test_a_strength_of_the_strength_is_asked_about(self) -> None:
        for text, words in (
            ("5 ml soap per litre, double for mites", ["double"]),
            ("10 ml soap to a litre; I doubled it", ["doubled"]),
            ("10 ml soap (x2) in 1 l", ["x2"]),
            ("soap 10%, thinned 1:10", ["soap 10%, thinned 1:10"]),
            ("5 ml soap per litre, half that for seedlings", ["half that"]),
            ("5 ml soap in 1 litre, but three times as strong", ["three times as"]),
            ("5 ml soap per litre at double strength", ["double strength"]),
            ("1 tsp soap per quart (that is, 3 tsp per gallon)", ["3 tsp"]),
            ("10 ml soap per litre, for 3 litres that's 40 ml", ["40 ml"]),
        ):
            with self.subTest(text):
                self.assertEqual(opened(understand(text)), words)
        self.assertEqual(understand("double strength: 20 ml soap per litre").open, ())
        self.assertEqual(understand("10 ml soap per litre, spray twice").open, ())


if __name__ == "__main__":
    unittest.main()
