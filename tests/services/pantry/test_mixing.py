"""The mixing bench as it is used: from words to a bottle."""

from __future__ import annotations

import unittest
from dataclasses import replace
from fractions import Fraction
from typing import Any

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price
from orthocris.core.pantry.recipe_cards import PartRole
from orthocris.core.weather.yard import Yard
from orthocris.services.pantry.mixing import Mix, Wanted, dilute_parts, dilute_stock, mix

SHED = Yard(tools=("syringe_1", "syringe_10", "tsp", "jug", "scale"))
LITRE = Wanted(Fraction(1000))
SOAP = "10 ml soap in 1 litre"


def make(text: str, wanted: Wanted = LITRE, yard: Yard = SHED, **more: Any) -> Mix:
    """A batch of a recipe with usual tools."""
    return mix(text, yard, wanted, **more)


class MixingBench(unittest.TestCase):
    def test_for_plants_with_a_margin_in_a_bottle_with_room(self) -> None:
        found = make(SOAP, Wanted(plants=18))
        self.assertEqual((found.volume, found.bottle), (792, 1000))
        self.assertEqual(found.pours[0].pour.amount, Fraction("7.92"))

    def test_soap_beside_oil_is_an_emulsifier(self) -> None:
        self.assertIn("typical is 5 to 20 ml/L. Yours lies within", make(SOAP).axes[0].text)
        both = make("10 ml oil and 2 ml soap in 1 litre")
        self.assertIn("soap: 2 ml/L; typical is 1 to 5 ml/L", both.axes[1].text)
        roles = {p.pour.name: p.role for p in both.pours}
        self.assertEqual(
            roles,
            {"soap": PartRole.EMULSIFIER, "oil": PartRole.ACTIVE, "water": PartRole.CARRIER},
        )
        harsh = make("60 ml oil and 2 ml soap in 1 litre").axes[0].text
        self.assertIn("3 times the harsh end", harsh)

    def test_two_recipes_in_other_units_on_one_axis(self) -> None:
        """2 tablespoons (15 ml) in 1.5 litres are 20 ml/L, twice 1 part in 100."""
        found = make("2 tbsp soap in 1.5 l", compare_with="soap 1 in 100").axes[0]
        self.assertEqual((found.yours, found.theirs, found.low, found.high), (20, 10, 5, 20))
        self.assertIn("yours is twice as strong", found.text)

    def test_each_school_says_where_an_amount_lies(self) -> None:
        said = make("15 ml soap in 1 litre").schools
        self.assertIn("Mild soap, careful: 5 to 10 ml/L; 15 ml/L lies above.", said[0])
        self.assertIn("Mild soap, strong: 10 to 20 ml/L; 15 ml/L lies within.", said[1])

    def test_cost_by_litre_plant_and_round(self) -> None:
        """10 ml/L at 8 for a litre is 0.08 a litre; 792 ml for 18 plants cost 0.06336."""
        cost = make(
            SOAP, Wanted(plants=18), prices=[Price("soap", Fraction(1000), Fraction(8))]
        ).cost
        self.assertEqual((cost.per_litre, cost.per_round), (Fraction("0.08"), Fraction("0.06336")))
        self.assertEqual(cost.per_plant, Fraction("0.00352"))
        self.assertEqual(make("10 ml oil in 1 litre").cost.missing, ("oil",))

    def test_hard_water_is_warned_of_where_there_is_soap(self) -> None:
        hard = replace(SHED, hardness=240.0)
        self.assertIn("binds part of the soap", make(SOAP, yard=hard).warnings[0])
        self.assertEqual(make("200 ml milk in 1 litre", yard=hard).warnings, ())
        self.assertEqual(make(SOAP, yard=replace(SHED, hardness=200.0)).warnings, ())

    def test_the_gardener_s_own_drops(self) -> None:
        big = replace(SHED, drop=0.08, tools=("dropper",))
        self.assertEqual(
            make("10 drops soap in 1 litre", yard=big).pours[0].pour.amount, Fraction("0.8")
        )

    def test_cautions_come_with_what_is_in_it(self) -> None:
        found = make("150 ml of 70% alcohol in 1 litre")
        self.assertIn("no fire", " ".join(found.cautions))
        self.assertEqual([c.key for c in found.strong], ["alcohol"])
        self.assertTrue(found.general_cautions)
        with self.assertRaisesRegex(InputError, "flame"):
            make("150 ml of 70% alcohol in 1 litre", near_flame=True)

    def test_what_no_tool_can_measure_is_told(self) -> None:
        with self.assertRaises(InputError) as caught:
            make("5 g soda in 1 litre", yard=replace(SHED, tools=("jug",)))
        self.assertEqual(caught.exception.code, "no_tool")

    def test_dangers_and_impossible_wishes_are_refused(self) -> None:
        for text, wanted, code in (
            ("50 ml vinegar and 5 g baking soda in 1 litre", LITRE, "dangerous"),
            ("10 ml bleach and 10 ml soap in 1 litre", LITRE, "dangerous"),
            ("50 ml peroxide and 50 ml vinegar in 1 litre", LITRE, "dangerous"),
            ("30 ml vinegar in 1 litre, some baking soda", LITRE, "dangerous"),
            ("5 ml bleach in 1 litre with a little soap", LITRE, "dangerous"),
            ("900 ml milk and 200 ml soap in 1 litre", LITRE, "more_than_whole"),
            (SOAP, Wanted(Fraction(0)), "bad_volume"),
            (SOAP, Wanted(), "bad_volume"),
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                make(text, wanted)
            self.assertEqual(caught.exception.code, code)


class StockBottle(unittest.TestCase):
    def test_three_per_cent_to_half_a_per_cent(self) -> None:
        """C1V1 = C2V2: 600 ml of 0.5% need 100 ml of 3%."""
        found = dilute_stock(Fraction(3, 100), Fraction(1, 200), SHED, Wanted(Fraction(600)))
        self.assertEqual((found.steps[0].take, found.steps[0].water), (100, 500))
        self.assertEqual(found.measured[0].amount, 100)

    def test_a_brew_in_two_steps(self) -> None:
        """One part in 10, of that one part in 20: 50 ml of the first in a litre, 1/200."""
        parts = [Fraction(10), Fraction(20)]
        found = dilute_parts(parts, SHED, LITRE, altogether=True)
        self.assertEqual([(s.take, s.makes) for s in found.steps], [(5, 50), (50, 1000)])
        self.assertEqual(found.share, Fraction(1, 200))

    def test_one_to_forty_is_not_one_in_forty(self) -> None:
        added = dilute_parts([Fraction(40)], SHED, Wanted(Fraction(820)), altogether=False)
        self.assertEqual((added.steps[0].take, added.share), (20, Fraction(1, 41)))

    def test_a_first_step_too_small_to_measure_makes_more(self) -> None:
        coarse = replace(SHED, tools=("tsp", "jug"))
        found = dilute_parts([Fraction(100), Fraction(100)], coarse, LITRE, altogether=True)
        self.assertEqual((found.steps[0].take, found.steps[0].makes), (Fraction("2.5"), 250))
        self.assertEqual(found.share, Fraction(1, 10_000))


if __name__ == "__main__":
    unittest.main()
