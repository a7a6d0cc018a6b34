"""Which remedy suits by what is minded: what each removes, less what it costs."""

from __future__ import annotations

import unittest

from orthocris.core.errors import InputError
from orthocris.core.trial.minds import Mind, Weight, minds_from
from orthocris.core.verdict.minded import Suitor, choose

OIL = Suitor("Oil", 0.95, {Mind.MONEY: 2.0, Mind.LEAVES: 0.4, Mind.SMELL: None})
SOAP = Suitor("Soap", 0.88, {Mind.MONEY: 0.5, Mind.LEAVES: -0.2, Mind.SMELL: 0.0})


class Minding(unittest.TestCase):
    def test_nothing_minded_leaves_what_removes_most(self) -> None:
        found = choose([SOAP, OIL], {})
        self.assertEqual([one.name for one in found.ranked], ["Oil", "Soap"])
        self.assertAlmostEqual(found.ranked[0].score, 95.0)
        self.assertEqual(choose([], {Mind.MONEY: Weight.MUCH}).ranked, ())

    def test_the_dearest_pays_all_and_the_others_their_share(self) -> None:
        found = choose([SOAP, OIL], {Mind.MONEY: Weight.MUCH})
        first, second = found.ranked
        self.assertEqual((first.name, first.off), ("Soap", {Mind.MONEY: 5.0}))
        self.assertAlmostEqual(first.score, 83.0)
        self.assertAlmostEqual(second.score, 75.0)

    def test_better_than_untreated_is_no_gain_and_unknown_weighs_nothing(self) -> None:
        found = choose([SOAP, OIL], {Mind.LEAVES: Weight.SOME, Mind.SMELL: Weight.MUCH})
        self.assertEqual(found.unknown, (Mind.SMELL,))
        by_name = {one.name: one for one in found.ranked}
        self.assertEqual(by_name["Soap"].off, {Mind.LEAVES: 0.0})
        self.assertEqual(by_name["Oil"].off, {Mind.LEAVES: 5.0})

    def test_it_says_which_other_weight_would_change_it(self) -> None:
        found = choose([SOAP, OIL], {Mind.LEAVES: Weight.SOME})
        self.assertEqual(found.ranked[0].name, "Oil")
        flips = {(f.mind, f.weight, f.name) for f in found.flips}
        self.assertEqual(
            flips, {(Mind.LEAVES, Weight.MUCH, "Soap"), (Mind.MONEY, Weight.SOME, "Soap")}
        )
        back = choose([SOAP, OIL], {Mind.MONEY: Weight.MUCH})
        self.assertIn((Mind.MONEY, Weight.SOME), [(f.mind, f.weight) for f in back.flips] or [])

    def test_what_nobody_can_mind_is_refused(self) -> None:
        for said in ({"weather": 1}, {"money": 3}, {"money": -1}):
            with self.assertRaises(InputError):
                minds_from(said)
