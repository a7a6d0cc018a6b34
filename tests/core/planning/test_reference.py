"""The layouts that a restricted lot could have drawn, and the verdict that reads them."""

from __future__ import annotations

import unittest
from collections import Counter

import numpy as np

from orthocris.core import Observation, judge
from orthocris.core.planning.allocation import allocate
from orthocris.core.planning.drawn_layouts import DrawnLayouts
from orthocris.core.planning.reference import other_layouts
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.trial import Plant
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.layouts import LayoutSet
from orthocris.core.verdict.rerandomise import FAMILY_ERROR
from tests.core.verdict.gardens import trial

CLOSE = Setup(place_cm=20, row_cm=80, match_place=True)


class Drawn(unittest.TestCase):
    def setUp(self) -> None:
        self.plants = [Plant(k, f"S{k}", 1, k, 30.0 + k % 3) for k in range(1, 25)]
        self.found = allocate(self.plants, remedies=4, seed=3, setup=CLOSE, drift_cm=30)

    def others(self, setup: Setup) -> DrawnLayouts | None:
        """Layouts as likely as the one in use."""
        return other_layouts(
            self.plants,
            block_of=self.found.block_of,
            remedy_of=self.found.remedy_of,
            setup=setup,
            drift_cm=30,
            seed=3,
        )

    def test_all_keep_the_rule_that_the_layout_in_use_keeps(self) -> None:
        drawn = self.others(CLOSE)
        assert drawn is not None
        rows = np.frombuffer(drawn.packed, dtype=np.uint8).reshape(-1, 24)
        self.assertGreater(len(rows), 199)
        self.assertEqual(self.found.side_by_side, 0)
        place = {plant: k for k, plant in enumerate(drawn.plants)}
        for left in range(1, 24):
            self.assertTrue((rows[:, place[left]] != rows[:, place[left + 1]]).all())
        for block in set(self.found.block_of.values()):
            own = [place[p] for p, b in self.found.block_of.items() if b == block]
            self.assertTrue((np.sort(rows[:, own], axis=1) == np.arange(4)).all())
        # Each remedy is on the first plant about as often: within 5 standard errors.
        shares = Counter(rows[:, 0].tolist())
        error = (len(rows) * 0.25 * 0.75) ** 0.5
        self.assertTrue(all(abs(shares[r] - len(rows) / 4) < 5 * error for r in range(4)))

    def test_a_lot_that_nothing_restricts_keeps_none(self) -> None:
        for setup in (Setup(place_cm=80, row_cm=80), Setup(place_cm=20, shields=True)):
            self.assertIsNone(self.others(setup))


class Read(unittest.TestCase):
    def setUp(self) -> None:
        seen: list[Observation] = trial(
            {"control": (40, 38, 52, 30, 60), "soap": (3, 5, 2, 4, 6), "jet": (30, 22, 41, 19, 40)}
        )
        self.seen = seen
        self.plants = tuple(dict.fromkeys(o.plant for o in seen))

    def test_p_is_the_share_of_these_layouts_that_do_as_well(self) -> None:
        """Of 49 kept layouts none gives soap the few: 1 of 50, itself counted in."""
        names = ("jet", "control", "soap")  # in another order than the table's
        others = [0, 1] * 2 + [0]
        rows = np.array([[*others, *(1 - k for k in others), *(2,) * 5]] * 49)
        rows[:, [0, 10]] = rows[:, [10, 0]]
        terms = Terms(layouts=LayoutSet(self.plants, names, rows))
        soap = next(r for r in judge(self.seen, terms=terms).remedies if r.name == "soap")
        self.assertAlmostEqual(soap.p_adjusted or 0, FAMILY_ERROR / 0.047 / 50)

    def test_a_set_for_other_plants_is_not_taken(self) -> None:
        rows = np.zeros((300, 2), dtype=int)
        terms = Terms(layouts=LayoutSet(("x", "y"), ("control", "soap"), rows))
        self.assertEqual(
            judge(self.seen, terms=terms).to_dict()["remedies"],
            judge(self.seen).to_dict()["remedies"],
        )


if __name__ == "__main__":
    unittest.main()
