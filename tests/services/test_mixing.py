"""The mixing bench as it is used: from words to a bottle."""

from __future__ import annotations

import unittest
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.units import Region
from orthocris.services.mixing import Mix, mix

TOOLS = ("syringe_1", "syringe_10", "tsp", "jug", "scale")


def make(text: str, volume: int | None = 1000, **changes: object) -> Mix:
    """A batch of a recipe with usual tools."""
    usual: dict[str, object] = {
        "plants": None,
        "ml_per_plant": Fraction(40),
        "margin": Fraction(1, 10),
    }
    wanted = None if volume is None else Fraction(volume)
    return mix(text, Region.METRIC, TOOLS, volume=wanted, **{**usual, **changes})  # type: ignore[arg-type]


class MixingBench(unittest.TestCase):
    def test_for_plants_with_a_margin_in_a_bottle_with_room(self) -> None:
        found = make("10 ml soap in 1 litre", None, plants=18)
        self.assertEqual((found.volume, found.bottle), (792, 1000))
        self.assertEqual(found.pours[0].pour.amount, Fraction("7.92"))

    def test_soap_beside_oil_is_an_emulsifier(self) -> None:
        alone = make("10 ml soap in 1 litre").strengths
        self.assertIn("typical is 5 to 20. Yours lies within", alone[0])
        both = make("10 ml oil and 2 ml soap in 1 litre").strengths
        self.assertIn("soap: 2 ml/L; typical is 1 to 5", both[1])
        harsh = make("60 ml oil and 2 ml soap in 1 litre").strengths
        self.assertIn("3 times the harsh end", harsh[0])

    def test_cautions_come_with_what_is_in_it(self) -> None:
        found = make("150 ml of 70% alcohol in 1 litre")
        self.assertIn("no fire", " ".join(found.cautions))
        self.assertTrue(found.general_cautions)

    def test_what_no_tool_can_measure_is_told(self) -> None:
        with self.assertRaises(InputError) as caught:
            mix(
                "5 g soda in 1 litre",
                Region.METRIC,
                ("jug",),
                volume=Fraction(1000),
                plants=None,
                ml_per_plant=Fraction(40),
                margin=Fraction(0),
            )
        self.assertEqual(caught.exception.code, "no_tool")

    def test_dangers_and_impossible_wishes_are_refused(self) -> None:
        for text, volume, code in (
            ("50 ml vinegar and 5 g baking soda in 1 litre", 1000, "dangerous"),
            ("10 ml bleach and 10 ml soap in 1 litre", 1000, "dangerous"),
            ("900 ml milk and 200 ml soap in 1 litre", 1000, "more_than_whole"),
            ("10 ml soap in 1 litre", 0, "bad_volume"),
            ("10 ml soap in 1 litre", None, "bad_volume"),
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                make(text, volume)
            self.assertEqual(caught.exception.code, code)


if __name__ == "__main__":
    unittest.main()
