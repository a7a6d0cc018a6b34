"""Units, tools and batches: exact, and refused where they must be."""

from __future__ import annotations

import unittest
from fractions import Fraction
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from orthocris.core.errors import InputError
from orthocris.core.pantry.dilution import (
    bottle_for,
    dilute,
    dilution_steps,
    share_of_parts,
    volume_for,
)
from orthocris.core.pantry.recipes import Part, Step, pours_of
from orthocris.core.pantry.units import (
    TOOLS,
    UNITS,
    Dimension,
    Region,
    Tool,
    convert,
    measure_with,
    unit_named,
)

AMOUNTS = st.fractions(min_value=Fraction(1, 1000), max_value=10_000)
UNIT_KEYS = st.sampled_from(sorted(UNITS))


class Units(unittest.TestCase):
    @given(amount=AMOUNTS, one=UNIT_KEYS, other=UNIT_KEYS, density=AMOUNTS)
    def test_there_and_back_is_exact(
        self, amount: Fraction, one: str, other: str, density: Fraction
    ) -> None:
        there = convert(amount, UNITS[one], UNITS[other], grams_per_ml=density)
        back = convert(there, UNITS[other], UNITS[one], grams_per_ml=density)
        self.assertEqual(back, amount)

    def test_known_values(self) -> None:
        """By definition: 1 US gallon = 231 in³, 1 imperial gallon = 4.54609 l, 16 oz = 1 lb."""
        for amount, one, other, expected in (
            (1, "gal_us", "ml", Fraction("3785.411784")),
            (1, "gal", "ml", Fraction("4546.09")),
            (4, "quart_us", "gal_us", 1),
            (2, "tbsp_us", "floz_us", 1),
            (3, "tsp_us", "tbsp_us", 1),
            (20, "floz", "pint", 1),
            (1, "tbsp_au", "tsp", 4),
            (20, "drop", "ml", 1),
            (16, "oz", "lb", 1),
        ):
            self.assertEqual(convert(Fraction(amount), UNITS[one], UNITS[other]), expected)

    def test_a_word_means_what_its_region_means(self) -> None:
        self.assertEqual(unit_named("gal", Region.US).factor, UNITS["gal_us"].factor)
        self.assertEqual(unit_named("tbsp", Region.AUSTRALIAN).factor, 20)
        self.assertEqual(unit_named("tbsp").factor, 15)
        with self.assertRaises(InputError):
            unit_named("firkin")

    def test_powder_by_the_spoon_needs_its_density(self) -> None:
        with self.assertRaises(InputError) as caught:
            convert(Fraction(1), UNITS["tsp"], UNITS["g"])
        self.assertEqual(caught.exception.code, "density_needed")
        spoon = convert(Fraction(1), UNITS["tsp"], UNITS["g"], grams_per_ml=Fraction(9, 10))
        self.assertEqual(spoon, Fraction(9, 2))


class Tools(unittest.TestCase):
    def measure(self, amount: str, *keys: str) -> tuple[str, float, bool]:
        """Tool, amount and warning for an amount with these tools."""
        tools: list[Tool] = [TOOLS[key] for key in keys]
        found = measure_with(Fraction(amount), Dimension.VOLUME, tools)
        return found.tool.key, float(found.amount), found.warns

    def test_the_nearest_with_few_fills_is_taken(self) -> None:
        self.assertEqual(self.measure("0.4", "syringe_1", "tsp"), ("syringe_1", 0.4, False))
        self.assertEqual(self.measure("15", "tsp", "tbsp"), ("tbsp", 15, False))
        self.assertEqual(self.measure("200", "tsp", "jug"), ("jug", 200, False))

    def test_rounding_that_changes_it_is_warned_of(self) -> None:
        self.assertEqual(self.measure("1.2", "tsp"), ("tsp", 2.5, True))

    @given(amount=st.fractions(min_value=Fraction(1, 20), max_value=2000))
    def test_the_error_is_what_it_says(self, amount: Fraction) -> None:
        found = measure_with(amount, Dimension.VOLUME, list(TOOLS.values()))
        self.assertEqual(found.amount, amount * (1 + found.error))
        self.assertEqual(found.amount, found.fills * found.tool.most + found.rest)

    def test_powder_needs_a_scale(self) -> None:
        with self.assertRaises(InputError):
            measure_with(Fraction(5), Dimension.MASS, [TOOLS["jug"]])


OIL_SOAP = (Part("sunflower oil", Fraction(10)), Part("mild soap", Fraction(2)))


class Batches(unittest.TestCase):
    def test_poured_in_order_with_fill_lines(self) -> None:
        """5 g soda, 10 ml oil, 2 ml soap a litre, for 750 ml: soda 3.75 g, soap 1.5, oil 7.5."""
        soda = Part("baking soda", Fraction(5), Dimension.MASS)
        pours = pours_of((*OIL_SOAP, soda), Fraction(750))
        self.assertEqual(
            [(p.name, p.amount, p.level) for p in pours],
            [
                ("baking soda", Fraction("3.75"), 0),
                ("mild soap", Fraction("1.5"), Fraction("1.5")),
                ("sunflower oil", Fraction("7.5"), 9),
                ("water", 741, 750),
            ],
        )
        self.assertEqual(
            [p.step for p in pours], [Step.POWDER, Step.EMULSIFIER, Step.OIL, Step.TOP_UP]
        )

    @given(volume=AMOUNTS, times=st.integers(2, 9))
    def test_scaling_is_exact(self, volume: Fraction, times: int) -> None:
        one, many = pours_of(OIL_SOAP, volume), pours_of(OIL_SOAP, volume * times)
        self.assertEqual([p.amount * times for p in one], [p.amount for p in many])
        self.assertEqual(sum(p.amount for p in one), volume)

    def test_impossible_batches(self) -> None:
        for parts, volume, code in (
            ((Part("soap", Fraction(-1)),), 1000, "negative_amount"),
            ((Part("soap", Fraction(700)), Part("milk", Fraction(400))), 1000, "more_than_whole"),
            (OIL_SOAP, 0, "bad_volume"),
        ):
            with self.assertRaises(InputError) as caught:
                pours_of(parts, Fraction(volume))
            self.assertEqual(caught.exception.code, code)

    def test_volume_for_the_plants_and_a_bottle_with_room_to_shake(self) -> None:
        needed = volume_for(18, Fraction(40), Fraction(1, 10))
        self.assertEqual(needed, 792)
        bottles = [Fraction(b) for b in (500, 750, 1000, 5000)]
        self.assertEqual(bottle_for(needed, bottles, Fraction(1, 5)), 1000)
        self.assertEqual(bottle_for(needed, bottles, Fraction(1, 4)), 5000)
        with self.assertRaises(InputError):
            bottle_for(Fraction(9000), bottles, Fraction(1, 5))


class Dilution(unittest.TestCase):
    @given(
        stock=st.fractions(Fraction(1, 1000), 1),
        share=st.fractions(Fraction(1, 1000), 1),
        volume=AMOUNTS,
    )
    def test_what_is_in_stays_in(self, stock: Fraction, share: Fraction, volume: Fraction) -> None:
        wanted = stock * share
        self.assertEqual(dilute(stock, wanted, volume) * stock, wanted * volume)

    @given(
        parts=st.lists(st.fractions(1, 500), min_size=1, max_size=4),
        volume=AMOUNTS,
        least=st.fractions(0, 5),
    )
    def test_steps_reach_the_product_of_their_shares(
        self, parts: list[Fraction], volume: Fraction, least: Fraction
    ) -> None:
        shares = [share_of_parts(n, altogether=True) for n in parts]
        steps = dilution_steps(shares, volume, least)
        self.assertEqual(steps[-1].makes, volume)
        for share, step in zip(shares, steps, strict=True):
            self.assertEqual(step.take / step.makes, share)
            self.assertEqual(step.take + step.water, step.makes)
        for one, other in pairwise(steps):
            self.assertGreaterEqual(one.makes, other.take)  # there is enough of it

    def test_a_weak_stock_is_refused(self) -> None:
        with self.assertRaises(InputError) as caught:
            dilute(Fraction(3, 100), Fraction(6, 100), Fraction(1000))
        self.assertEqual(caught.exception.code, "stock_too_weak")


if __name__ == "__main__":
    unittest.main()
