"""Recipes read as people say them: right, or asked back, and never a part lost."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.phrases import sentence
from orthocris.core.pantry.recipe.reading import Reading, read_recipe, understand
from orthocris.core.pantry.recipe.said import Phrase
from orthocris.core.pantry.recipe.tokens import TokenKind
from orthocris.core.pantry.substances import substances_in, words_of
from orthocris.core.pantry.units import Region
from tests.core.pantry.recipe.cases import CASES

# Words of recipes and beside them, for sentences nobody would say.
WORDS = (
    *("10", "0", "1/2", "1/0", "-5", "0.5", "%", ":", "in", "to", "per", "/", "1:40", "3%", "1"),
    *("ml", "l", "litre", "tsp", "tbsp", "gallon", "drops", "part", "parts", "soap", "oil"),
    *("water", "and", "with", "a", "heaped", "dash", "can", "half", "each", "the same", "of"),
    *("garlic", "steeped", "strained", "the brew", "undiluted", "peroxide", "thinned to", "or"),
    *("glorps", "(", ")", "[", "]", '"', ",", ".", "equal parts", "as much", "no", "💧", "1,000"),
    *("oz", "for 2 days", "a plant", "times", "up to", "from", "milk", "neem oil", "1:1:8"),
    *("9:1", "40/60", "x", "stock", "watered down", "rest", "onion", "60-40", "5 ml each"),
    *(
        "never",
        "without",
        "instead of",
        "more than",
        "don't forget",
        "within",
        "weeks",
        "after",
        "?",
    ),
)
NAMES = (
    "soap",
    "vegetable oil",
    "milk",
    "neem oil",
    "baking soda",
    "garlic",
    "vinegar",
    "turmeric",
)
AMOUNTS = ("10 ml", "a teaspoon of", "2%", "1:40", "one part", "some", "", "3 glorps of", "half")
PLACES = ("in 1 litre", "per gallon", "", "with water", "to 5 l of water", "made up to 500 ml")


def amounts(found: Reading) -> dict[str, float]:
    """The parts by name."""
    return {p.name: float(p.per_litre) for p in found.parts}


class AsPeopleSay(unittest.TestCase):
    def test_recipes_as_people_say_them(self) -> None:
        self.assertGreaterEqual(len(CASES), 120)
        for text, region, expected in CASES:
            with self.subTest(text):
                reading = read_recipe(text, region)
                found = amounts(reading)
                self.assertEqual(reading.open, ())
                self.assertEqual(len(found), len(expected), found)
                for word, amount in expected.items():
                    name = word if word in found else next(n for n in found if word in n)
                    self.assertAlmostEqual(found.pop(name), amount, places=6)

    def test_what_was_guessed_is_said(self) -> None:
        for text, said in (
            ("a heaped dessert spoon of soap in 5 litres", "heaped is taken as 2"),
            ("a dash of soap in 5 litres", "a dash is taken as 1 ml"),
            ("a spoon of baking soda in 5 litres", "0.9 g"),
            ("2 oz soap per gallon", "as a fluid ounce"),
            ("2 oz baking soda per gallon", "by weight"),
            ("10-15 ml soap per litre", "10 to 15 is taken as 12.5"),
            ("10 ml soap in 1,000 ml", "1,000 is taken as 1000"),
            ("a glass of milk to a litre of water", "together 1200 ml"),
        ):
            with self.subTest(text):
                self.assertIn(said, " ".join(read_recipe(text).guesses))
        self.assertEqual(read_recipe("10 ml soap in 1 litre").guesses, ())

    def test_amounts_are_exact(self) -> None:
        reading = read_recipe("1 tbsp soap per gallon", Region.US)
        self.assertEqual(reading.parts[0].per_litre, Fraction(1000) / 256)

    def test_what_cannot_be_read_says_what_to_add(self) -> None:
        for text, code in (
            ("some soap", "no_amount"),
            ("", "no_amount"),
            ("10 ml soap", "no_volume"),
            ("10 ml soap in 0 litres", "no_volume"),
            ("150% soap", "more_than_whole"),
            ("600 ml milk and 500 ml whey per litre", "more_than_whole"),
            ("undiluted milk, undiluted whey", "more_than_whole"),
            ("1 in 0 soap", "bad_ratio"),
            ("3% peroxide to 6%", "stock_too_weak"),
            ("💧", "no_amount"),
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_recipe(text)
            self.assertEqual(caught.exception.code, code)
            self.assertTrue(caught.exception.fix)

    def test_a_minus_is_refused_and_a_dash_is_none(self) -> None:
        for text in (
            "-5 ml soap in 1 litre",
            "10-15 ml soap and -5 ml oil in 1 litre",
            "minus 5 ml soap in 1 l",
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_recipe(text)
            self.assertEqual(caught.exception.code, "negative_amount")
        for text in ("10 - 15 ml soap in 1 l", "- 12.5 ml soap in 1 l"):
            self.assertEqual(read_recipe(text).parts[0].per_litre, Fraction("12.5"))


class Settled(unittest.TestCase):
    def test_what_is_not_understood_is_shown_in_its_words(self) -> None:
        for text, words in (
            ("10 ml soap and 3 glorps of oil in 1 litre", ("3", "glorps", "oil")),
            ("10 ml soap in 1 litre, some vinegar; shake often", ("vinegar",)),
            ("10 ml soap or 5 ml detergent in 1 litre", ("or",)),
            ("10 ml soap in 1 litre plus 1 litre of water", ("1 litre of water",)),
            ("3% peroxide", ("3% peroxide",)),
            ("10 ml soap in 1 litre with turmeric", ("turmeric",)),
            # What changes the whole mix and cannot be followed is asked about, too.
            ("10 ml soap in 1 litre; half of that", ("half of that",)),
            ("2% oil; 2 tsp of this per litre", ("2 tsp of this",)),
            ("10 ml soap in a litre, 1:10", ("1:10",)),
            ("2 tablets (325 mg) aspirin in 4 litres", ("2 tablets",)),
            ("milk and whey half and half with water", ("milk and whey half and half with water",)),
            ("milk glorp half and half with water", ("milk", "glorp half and half with water")),
            ("20 ml soap in 1 litre, diluted 1:50", ("1:50",)),
            ("make 1 litre of 2% soap, add another litre of water", ("another litre of water",)),
            ("a litre of water, 20 ml soap, plus 500 ml of water", ("500 ml of water",)),
            ("50 g onion in 1 l, strain, double the water", ("double the water",)),
            ("9 g tansy in 1 l, strain, dilute with 4 litres", ("4 litres",)),
            ("vinegar 3:1", ("vinegar 3:1",)),
            ("soap and oil 3 parts in 97 parts water", ("soap",)),
            ("2 parts soap and oil, 98 parts water", ("oil",)),
            ("milk and whey, 2 parts, water 8 parts", ("milk",)),
            ("oil 2%, 5 ml per litre", ("oil 2%, 5 ml",)),
            ("10 ml neem in soapy water, 1 litre", ("soapy",)),
            # Two denials make a demand, whose amount is missing.
            ("10 ml neem per litre, never without soap", ("soap",)),
            ("10 ml neem per litre, don't forget the soap", ("soap",)),
            ("10 ml neem per litre, never leave out the soap", ("soap",)),
            ("soap, no oil, 10 ml neem per litre", ("soap",)),
            ("make a stock of 10% soap, use 20 ml of stock per litre", ("20 ml of stock",)),
        ):
            with self.subTest(text):
                self.assertEqual(tuple(t.words for t in understand(text).open), words)

    def test_which_side_of_a_ratio_is_water_is_a_choice(self) -> None:
        """ "Vinegar 3:1" is said of either; what nobody would thin the other way is a guess."""
        text = "vinegar 3:1"
        (doubt,) = understand(text).open
        said = [text[: c.start] + c.text + text[c.end :] for c in doubt.choices[:2]]
        self.assertEqual([round(read_recipe(s).parts[0].per_litre) for s in said], [250, 750])
        guessed = understand("100:1 soap")
        self.assertIn("100 parts of water", guessed.guesses[0])
        (token,) = guessed.tokens
        self.assertEqual(token.kind, TokenKind.GUESS)
        self.assertEqual(token.choices[0].text, "100 parts soap to 1 part water")

    def test_no_phrase_is_without_effect(self) -> None:
        """Turned into a note, every phrase of a settled recipe would change what is read."""
        idle = set()
        for text, region, _ in CASES:
            read = understand(text, region)
            for phrase in (p for p in sentence(text) if isinstance(p, Phrase)):
                without = f"{text[: phrase.start]} [x] {text[phrase.end :]}"
                other = understand(without, region)
                same = amounts(other) == amounts(read) and len(other.open) == len(read.open)
                if same and (other.fault is None) == (read.fault is None):
                    idle.add(text[phrase.start : phrase.end])
        # The rest of a whole, how much is wanted, what a plant gets, and a first water of more.
        known = {"half water", "two thirds water", "500 ml", "20 ml each", "in 500 ml hot water",
                 "in a 5 litre can", "in three litres of water", "in 5 litres"}  # fmt: skip
        self.assertEqual(idle, known)

    def test_what_is_done_and_what_is_not_in_it_is_no_part(self) -> None:
        for text in (
            "10 ml soap in 1 litre, no oil, never with bleach; shake well before each plant",
            "10 ml soap in 1 litre of chlorine-free water",
            "10 ml soap in 1 litre [my neighbour adds oil]",
            "12.5.2026: 10 ml soap in 1 litre, 3x a week until 12 June, pH 5.5-6.5, 20-25 °C",
            "10 ml soap in 1 litre, wait 2 days, spray below 25 °C at 6 pm, 40 ml a plant",
        ):
            with self.subTest(text):
                found = understand(text)
                self.assertEqual((amounts(found), found.open), ({"soap": 10.0}, ()))

    def test_a_click_settles_by_changing_the_sentence(self) -> None:
        """Every choice that is offered leads to a sentence in which these words are settled."""
        for text in (
            "10 ml soap and 3 glorps in 1 litre",
            "10 ml soap in 1 litre, some vinegar",
            "10 ml soap or 5 ml detergent in 1 litre",
            "3% peroxide",
            "2 oz saop per gallon",
            "oil 2%, 5 ml per litre",
        ):
            reading = understand(text)
            for token in reading.tokens:
                for choice in token.choices:
                    with self.subTest(text, choice=choice.label):
                        changed = text[: choice.start] + choice.text + text[choice.end :]
                        self.assertNotIn(token, understand(changed).tokens)
                        self.assertLessEqual(len(understand(changed).open), len(reading.open))

    def test_a_click_says_what_it_means(self) -> None:
        oz = understand("2 oz soap per gallon", Region.US)
        (choice,) = [c for t in oz.tokens for c in t.choices if "weight" in c.label]
        changed = "2 oz soap per gallon"[: choice.start] + choice.text + " soap per gallon"
        (part,) = read_recipe(changed, Region.US).parts
        self.assertAlmostEqual(float(part.per_litre), 2 * 28.349523125 / 3.785411784)
        saop = understand("10 ml saop in 1 l")
        self.assertIn("soap?", [c.label for t in saop.tokens for c in t.choices])

    def test_a_quoted_name_is_the_gardener_s_own(self) -> None:
        found = understand('10 ml "grandma\'s and my green stuff" in 1 litre')
        self.assertEqual(amounts(found), {"grandma's and my green stuff": 10.0})
        self.assertEqual([t.kind for t in found.tokens], [TokenKind.PART, TokenKind.VOLUME])


class Brews(unittest.TestCase):
    def test_a_brew_has_its_steps(self) -> None:
        brew = read_recipe("boil 50 g chilli in 500 ml water for 20 minutes, strain, 1:9").brew
        assert brew is not None
        self.assertEqual((brew.minutes, brew.hot, brew.share), (20, True, Fraction(1, 10)))
        self.assertEqual([(s.name, s.per_litre) for s in brew.solids], [("chilli", 100)])

    def test_a_concentrate_of_liquids_is_thinned_as_a_whole(self) -> None:
        """15 ml of soap and 45 ml of oil make 60; 6 ml of it a litre hold 1.5 and 4.5."""
        found = read_recipe("15 ml soap and 45 ml oil as a stock, then 6 ml of this per litre")
        self.assertEqual(amounts(found), {"soap": 1.5, "oil": 4.5})


class AnyWords(unittest.TestCase):
    @given(words=st.lists(st.sampled_from(WORDS), max_size=12), region=st.sampled_from(Region))
    def test_any_words_are_read_or_asked_back(self, words: list[str], region: Region) -> None:
        text = " ".join(words)
        found = understand(text, region)
        self.assertTrue(found.fault is None or found.fault.fix)
        for part in found.parts:
            self.assertGreaterEqual(part.per_litre, 0)
        for token in found.tokens:
            self.assertEqual(token.words, text[token.start : token.end])

    def test_what_is_kept_of_a_refusal_keeps_nothing_else(self) -> None:
        """A thousand half-typed recipes are kept: their frames would be, and cleared in one go."""
        for text in ("10 ml soap", "-5 ml soap in 1 litre", "9" * 90 + " ml soap", "vinegar 3:1"):
            fault = understand(text).fault
            assert fault is not None
            self.assertIsNone(fault.__traceback__)
            self.assertIsNone(fault.__context__)

    def test_every_recipe_is_read_while_it_is_typed(self) -> None:
        for text, region, _ in CASES:
            for end in range(1, len(text)):
                found = understand(text[:end], region)
                self.assertTrue(found.parts or found.fault is not None, text[:end])

    @given(text=st.text(max_size=80))
    def test_any_text_at_all(self, text: str) -> None:
        found = understand(text)
        self.assertTrue(found.parts or found.fault is not None)

    @given(
        said=st.lists(
            st.tuples(st.sampled_from(AMOUNTS), st.sampled_from(NAMES), st.sampled_from(PLACES)),
            min_size=1, max_size=4, unique_by=lambda one: one[1],
        ),
        joint=st.sampled_from((" and ", ", ", "; ", " ", " + ", "\n")),
    )  # fmt: skip
    def test_no_part_is_ever_lost(self, said: list[tuple[str, str, str]], joint: str) -> None:
        """Every ingredient that was said is a part, or open, or the whole is refused."""
        text = joint.join(" ".join(filter(None, one)) for one in said)
        found = understand(text)
        if found.fault is not None:
            return
        kept = " ".join([p.name for p in found.parts] + [t.words for t in found.open])
        there = {one.key for one in substances_in(kept)}
        for _, name, _ in said:
            for one in substances_in(name):
                self.assertIn(one.key, there, text)
            self.assertLessEqual(set(words_of(name)), set(words_of(kept)), text)


if __name__ == "__main__":
    unittest.main()
