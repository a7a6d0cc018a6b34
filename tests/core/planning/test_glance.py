"""How sure a plan would be, while it is still being said."""

from __future__ import annotations

import unittest
from typing import Any

from orthocris.core.planning.glance import Glance, Sketch, glance
from orthocris.core.planning.surer import surer_ways
from orthocris.core.trial.setup import Kind, Unit


def of(plants: int, remedies: int, threshold: float = 0.6, **said: Any) -> Glance:
    return glance(Sketch(plants, remedies, threshold, **said))


class AtAGlance(unittest.TestCase):
    def test_more_plants_tell_more_and_the_sentence_says_who_gets_how_many(self) -> None:
        few, many = of(9, 3), of(28, 3)
        self.assertEqual((few.blocks, few.over, many.over), (3, 0, 1))
        self.assertEqual(few.says, "3 plants for each.")
        said = "9 plants for each, and 1 plant left over goes to a remedy by lot."
        self.assertEqual(many.says, said)
        for less, more in zip(few.chances, many.chances, strict=True):
            self.assertLess(less.share, more.share)
        self.assertEqual(many.chances[0].says, "A remedy that takes away 80% is shown to work")
        self.assertGreater(many.chances[0].share, 0.9)

    def test_beside_what_is_done_anyway_fewer_pests_are_left_to_tell_by(self) -> None:
        plain, anyway = (of(16, 2, 0.3, usual=usual) for usual in (False, True))
        self.assertIn("shown to do better", anyway.chances[0].says)
        self.assertLess(anyway.chances[0].share, plain.chances[0].share + 0.02)

    def test_each_question_is_told_in_its_own_words(self) -> None:
        ladder = of(16, 4, kind=Kind.LADDER).chances
        square = of(16, 4, kind=Kind.SQUARE).chances
        clean = of(16, 2, kind=Kind.PREVENTION)
        self.assertRegex(ladder[1].says, "^The weakest that takes away 60% or more is found, if")
        self.assertLess(ladder[1].share, ladder[0].share)
        self.assertEqual([len(square), square[0].says[:22]], [1, "The right one is found"])
        self.assertEqual(clean.chances[0].says, "A remedy that keeps off 80% is shown to work")
        self.assertIn("gathers about 8", clean.assumed)
        self.assertEqual(of(16, 3, kind=Kind.SQUARE).chances, ())

    def test_few_pests_tell_less_and_the_curious_read_what_was_taken(self) -> None:
        found = [of(14, 2, starts=tuple(n + k for k in range(14))) for n in (1.0, 100.0)]
        self.assertLess(found[0].chances[0].share, found[1].chances[0].share)
        self.assertIn("start as those you counted, 1 to 14;", found[0].assumed)
        self.assertIn("start about 30,", of(14, 2).assumed)
        self.assertIn("Of 20 under watch 80% hatch", of(14, 2, measure="hatched").assumed)

    def test_one_remedy_has_no_rival(self) -> None:
        self.assertEqual(len(of(12, 2, 0.5).chances), 1)

    def test_too_few_plants_are_told_what_would_do(self) -> None:
        found = of(5, 3)
        self.assertEqual(found.chances, ())
        self.assertRegex(found.says, "^5 plants shared by 3.* nothing as whole plants")

    def test_halves_of_three_pots_and_leaves_of_one_plant(self) -> None:
        halves = of(3, 2, unit=Unit.HALF, each=2)
        self.assertEqual(halves.says, "One half on each of the 3 plants for each.")
        self.assertEqual((halves.blocks, len(halves.chances)), (3, 1))
        leaves = of(1, 2, unit=Unit.LEAF, each=9)
        said = "4 leaves for each. The answer is of this one plant alone."
        self.assertEqual((leaves.says, leaves.blocks, leaves.over), (said, 4, 1))
        counted = tuple(4.0 + k for k in range(3))  # on whole plants: a shoot has fewer
        shoots = of(3, 2, unit=Unit.SHOOT, each=2, starts=counted)
        self.assertEqual(shoots.says, "One shoot on each of the 3 plants for each.")
        self.assertIn("start about 1.25,", shoots.assumed)
        for plants, each, told in (
            (3, 1, "Each plant needs one half"),
            (1, 3, "3 halves can tell nothing: mark at least 4"),
        ):
            few = of(plants, 2, unit=Unit.HALF, each=each)
            self.assertTrue(few.says.startswith(told), few.says)
            self.assertEqual(few.chances, ())

    def test_what_the_same_plants_tell_better_is_named_and_asks_for_no_plant_more(self) -> None:
        ways = surer_ways(Sketch(3, 3))
        self.assertEqual({way.unit for way in ways}, {Unit.LEAF, Unit.HALF})
        self.assertIn("One remedy on halves of each of the 3 plants", [way.says for way in ways])
        self.assertEqual(sorted(ways, key=lambda w: -round(w.share, 1)), list(ways))
        (alone,) = surer_ways(Sketch(1, 3))
        self.assertRegex(alone.says, "^One remedy on 16 leaves of the plant$")
        whole = [w for w in surer_ways(Sketch(12, 4)) if w.unit is Unit.PLANT]
        self.assertTrue(whole and whole[0].remedies < 4, whole)
        self.assertEqual(surer_ways(Sketch(28, 3)), ())  # sure enough
        twice = [w for w in surer_ways(Sketch(6, 2, looks=3)) if w.two_looks]
        self.assertEqual([(w.unit, w.remedies) for w in twice], [(Unit.PLANT, 2)])
        self.assertLessEqual(len(surer_ways(Sketch(12, 4, looks=3))), 3)
        poured = surer_ways(Sketch(12, 4, looks=3, whole=True))
        self.assertEqual({w.unit for w in poured}, {Unit.PLANT})
        for sketch in (Sketch(6, 2), Sketch(6, 2, looks=3, measure="dead")):
            self.assertFalse(any(w.two_looks for w in surer_ways(sketch)))
        self.assertEqual(surer_ways(Sketch(8, 4, kind=Kind.LADDER)), ())


if __name__ == "__main__":
    unittest.main()
