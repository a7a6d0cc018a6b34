"""How sure a plan would be, while it is still being said."""

from __future__ import annotations

import unittest

from orthocris.core.planning.glance import glance
from orthocris.core.trial.setup import Unit


class AtAGlance(unittest.TestCase):
    def test_more_plants_tell_more_and_the_sentence_says_who_gets_how_many(self) -> None:
        few, many = glance(9, 3, 0.6, "live"), glance(28, 3, 0.6, "live")
        self.assertEqual((few.blocks, few.over, many.over), (3, 0, 1))
        self.assertEqual(few.says, "3 plants for each.")
        said = "9 plants for each, and 1 plant left over goes to a remedy by lot."
        self.assertEqual(many.says, said)
        for less, more in zip(few.chances, many.chances, strict=True):
            self.assertLess(less.share, more.share)
        self.assertEqual(many.chances[0].says, "A remedy that takes away 80% is shown to work")
        self.assertGreater(many.chances[0].share, 0.9)

    def test_beside_what_is_done_anyway_fewer_pests_are_left_to_tell_by(self) -> None:
        plain, anyway = (glance(16, 2, 0.3, "live", usual=usual) for usual in (False, True))
        self.assertIn("shown to do better", anyway.chances[0].says)
        self.assertLess(anyway.chances[0].share, plain.chances[0].share + 0.02)

    def test_one_remedy_has_no_rival(self) -> None:
        self.assertEqual(len(glance(12, 2, 0.5, "live").chances), 1)

    def test_too_few_plants_are_told_what_would_do(self) -> None:
        found = glance(5, 3, 0.6, "live")
        self.assertEqual(found.chances, ())
        self.assertRegex(found.says, "^5 plants shared by 3.* at least 6")

    def test_halves_of_three_pots_and_leaves_of_one_plant(self) -> None:
        halves = glance(3, 2, 0.6, "live", unit=Unit.HALF, each=2)
        self.assertEqual(halves.says, "One half on each of the 3 plants for each.")
        self.assertEqual((halves.blocks, len(halves.chances)), (3, 1))
        leaves = glance(1, 2, 0.6, "live", unit=Unit.LEAF, each=9)
        said = "4 leaves for each. The answer is of this one plant alone."
        self.assertEqual((leaves.says, leaves.blocks, leaves.over), (said, 4, 1))
        for plants, each, told in (
            (3, 1, "Each plant needs one half"),
            (1, 3, "3 halves can tell nothing: mark at least 4"),
        ):
            few = glance(plants, 2, 0.6, "live", unit=Unit.HALF, each=each)
            self.assertTrue(few.says.startswith(told), few.says)
            self.assertEqual(few.chances, ())


if __name__ == "__main__":
    unittest.main()
