"""As much is mixed as the tools there are measure well, and no more."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.pantry.batch_size import WELL, measurable_volume
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.units import TOOLS, Dimension, measure_with

MOST = Fraction(4000)


def volume(needed: float, tools: str, **parts: float) -> float:
    """What is mixed for so many ml of a recipe in ml a litre."""
    made = [Part(name, Fraction(repr(amount))) for name, amount in parts.items()]
    held = [TOOLS[key] for key in tools.split()]
    return float(measurable_volume(made, Fraction(repr(needed)), held, MOST))


class HowMuch(unittest.TestCase):
    def test_what_is_needed_where_it_can_be_measured(self) -> None:
        self.assertEqual(volume(352, "syringe_10 tsp", soap=10), 352)

    def test_a_level_spoon_sets_the_volume_where_there_is_but_a_spoon(self) -> None:
        self.assertEqual(volume(52.8, "tsp jug", soap=5), 500)  # half a teaspoon, not 0.264 ml
        self.assertEqual(volume(352, "tsp", soap=10), 500)

    def test_two_parts_are_both_measured_well(self) -> None:
        found = volume(60, "tsp syringe_1", oil=10, soap=1.5)
        self.assertLess(found, 140)
        self.assertAlmostEqual(round(1.5 * found / 100) / (1.5 * found / 100), 1, delta=0.05)

    def test_never_more_than_the_largest_bottle_holds(self) -> None:
        self.assertLessEqual(volume(50, "tbsp", spirit=1), 4000)
        self.assertEqual(volume(9000, "jug", spirit=1), 9000)  # in several fills

    def test_what_no_tool_measures_is_told_elsewhere(self) -> None:
        self.assertEqual(volume(52.8, "scale", soap=5), 52.8)

    @given(
        st.lists(st.fractions(Fraction(1, 20), 80, max_denominator=20), min_size=1, max_size=3),
        st.fractions(5, 6000, max_denominator=10),
        st.sets(st.sampled_from([k for k in TOOLS if k != "scale"]), min_size=1),
    )
    def test_it_is_enough_and_no_worse_than_what_is_needed(
        self, amounts: list[Fraction], needed: Fraction, keys: set[str]
    ) -> None:
        parts = [Part(f"part {k}", amount) for k, amount in enumerate(amounts)]
        tools = [TOOLS[key] for key in keys if TOOLS[key].dimension is Dimension.VOLUME]

        def worst(ml: Fraction) -> Fraction:
            return max(
                abs(measure_with(p.per_litre * ml / LITRE, p.dimension, tools).error) for p in parts
            )

        found = measurable_volume(parts, needed, tools, MOST)
        self.assertGreaterEqual(found, needed)
        self.assertLessEqual(found, max(needed, MOST))
        if tools:
            self.assertLessEqual(worst(found), worst(needed))
            if found > needed:
                self.assertGreater(worst(needed), WELL)
