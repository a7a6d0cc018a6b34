"""The data files hold together: recipes read right, ranges hold them, life cycles are plausible."""

from __future__ import annotations

import unittest
from datetime import datetime

import numpy as np

from orthocris.core.field.lifecycle import generations
from orthocris.core.pantry.cautions import strong_cautions_for
from orthocris.core.pantry.dangers import check_dangers
from orthocris.core.pantry.recipe.reading import read_recipe, understand
from orthocris.core.pantry.recipe_cards import PartRole
from orthocris.core.pantry.strengths import usual_for
from orthocris.core.trial.batches import MixKind
from orthocris.knowledge import cautions, life_cycles, recipe_cards, remedies


class Recipes(unittest.TestCase):
    def test_every_mix_reads_as_its_ingredients_say(self) -> None:
        """The words and the numbers beside them are one recipe."""
        for remedy in remedies():
            if recipe_cards()[remedy.key].kind is not MixKind.MIX:
                continue
            with self.subTest(remedy.key):
                reading = read_recipe(remedy.recipe)
                self.assertEqual(reading.guesses, ())
                amounts = sorted(float(p.per_litre) for p in reading.parts)
                self.assertEqual(amounts, sorted(i.amount for i in remedy.ingredients))
                check_dangers(reading.parts, said=remedy.recipe)

    def test_no_shipped_bottle_waits_for_a_word_to_be_settled(self) -> None:
        for remedy in remedies():
            if recipe_cards()[remedy.key].mixed:
                with self.subTest(remedy.recipe):
                    self.assertEqual([t.words for t in understand(remedy.recipe).open], [])

    def test_an_ingredient_is_read_as_it_is_written_in_a_ladder(self) -> None:
        """Recipes that the program writes itself are "amount unit name, …."."""
        for remedy in remedies():
            written = [i for i in remedy.ingredients if i.unit in ("ml/L", "g/L")]
            if not written or len(written) != len(remedy.ingredients):
                continue
            said = ", ".join(f"{i.amount:g} {i.unit} {i.name}" for i in written) + "."
            with self.subTest(said):
                reading = read_recipe(said)
                self.assertEqual([float(p.per_litre) for p in reading.parts],
                                 [i.amount for i in written])  # fmt: skip
                for part, ingredient in zip(reading.parts, written, strict=True):
                    self.assertIs(usual_for(remedy, part), ingredient)
                self.assertEqual((reading.open, reading.guesses), ((), ()))

    def test_usual_amounts_lie_in_the_typical_range_and_in_a_school_s(self) -> None:
        for remedy in remedies():
            card = recipe_cards()[remedy.key]
            for ingredient in remedy.ingredients:
                with self.subTest(remedy.key, ingredient=ingredient.key):
                    self.assertLessEqual(ingredient.low, ingredient.amount)
                    self.assertLessEqual(ingredient.amount, ingredient.high)
                    own = [r for r in card.ranges if r.ingredient == ingredient.key]
                    for entry in own:
                        self.assertLessEqual(ingredient.low, entry.low)
                        self.assertLessEqual(entry.high, ingredient.high)
                    if own:
                        inside = [r.low <= ingredient.amount <= r.high for r in own]
                        self.assertIn(True, inside)

    def test_every_mix_has_one_active_part_a_life_and_words_for_its_use(self) -> None:
        for key, card in recipe_cards().items():
            if not card.mixed:
                continue
            with self.subTest(key):
                roles = list(card.roles.values())
                self.assertEqual(roles.count(PartRole.ACTIVE), 1)
                self.assertTrue(card.life_hours and card.coverage and card.suits)
                self.assertGreater(card.interval_days, 0)

    def test_oils_mind_the_heat_and_tell_their_dose(self) -> None:
        for key, card in recipe_cards().items():
            if card.rules is None:
                continue
            with self.subTest(key):
                self.assertEqual(card.oil, card.rules.heat_hours > 0)
                self.assertLess(card.rules.low, card.rules.high)
                self.assertLessEqual(card.rules.high, 32)
        oils = [c for c in recipe_cards().values() if c.oil and c.key != "essential_oil"]
        self.assertTrue(all("thin gloss" in card.dose_sign for card in oils))

    def test_strong_cautions_stand_where_the_danger_is(self) -> None:
        for key, wanted in (
            ("alcohol_spray", "alcohol"),
            ("peroxide_drench", "peroxide"),
            ("baking_soda", "dust_mask"),
            ("neem", "neem"),
            ("essential_oil", "essential_oils"),
            ("garlic_brew", "pepper"),
        ):
            remedy = next(r for r in remedies() if r.key == key)
            said = strong_cautions_for(f"{remedy.name} {remedy.recipe}", cautions())
            self.assertIn(wanted, [c.key for c in said], key)
        self.assertEqual(strong_cautions_for("10 ml mild soap in 1 litre", cautions()), ())


class LifeCycles(unittest.TestCase):
    def test_degree_days_agree_with_fixed_days_in_warm_weather(self) -> None:
        """At 22 °C the typical K and T0 give the typical days within a factor of about 1.6."""
        start = datetime(2026, 6, 1, 8)
        for pest, cycle in life_cycles().items():
            with self.subTest(pest):
                found = generations(cycle, np.full(24, 22.0), start)
                if cycle.egg_days and found.hatched_on is not None:
                    days = (found.hatched_on - start.date()).days / 0.9
                    self.assertLess(abs(np.log(days / cycle.egg_days)), np.log(1.6))
                if found.lays_on is not None:
                    lays = (found.lays_on - start.date()).days
                    self.assertLess(abs(np.log(lays / cycle.young_days)), np.log(1.7))

    def test_warmth_brings_the_daughters_sooner(self) -> None:
        start = datetime(2026, 6, 1, 8)
        for pest, cycle in life_cycles().items():
            warm = generations(cycle, np.full(24, 26.0), start).lays_on
            cool = generations(cycle, np.full(24, 18.0), start).lays_on
            if warm and cool:
                self.assertLess(warm, cool, pest)


if __name__ == "__main__":
    unittest.main()
