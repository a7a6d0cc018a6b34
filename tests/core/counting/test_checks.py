"""What is worth a second look: found where it is so, quiet where it is not."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from orthocris.core.counting.checks import Counted, count_checks

DUE = date(2026, 5, 17)
NINE = datetime(2026, 5, 17, 9, tzinfo=UTC)
USUAL = Counted(
    number=1,
    plants={k: f"S{k}" for k in range(1, 9)},
    leaves={(p, s): 3.0 + (p * s) % 4 for p in range(1, 9) for s in range(1, 4)},
    before={p: 20.0 + p for p in range(1, 9)},
    now={p: 12.0 + p for p in range(1, 9)},
    due=DUE,
    on=[DUE] * 8,
    times=[NINE] * 8,
    times_before=[NINE] * 8,
)


class Checks(unittest.TestCase):
    def codes(self, **changes: object) -> list[tuple[str, int | None, int | None]]:
        """What is found in the usual look with some of it changed."""
        found = count_checks(replace(USUAL, **changes))  # type: ignore[arg-type]
        return [(c.code, c.plant_id, c.sample) for c in found]

    def test_a_usual_look_is_quiet(self) -> None:
        self.assertEqual(self.codes(), [])
        zeros = dict.fromkeys(USUAL.leaves, 0.0)
        self.assertEqual(self.codes(leaves=zeros, now=dict.fromkeys(USUAL.now, 0.0)), [])

    def test_a_leaf_far_above_the_plant_s_others(self) -> None:
        leaves = {**USUAL.leaves, (4, 2): 120.0}
        self.assertEqual(self.codes(leaves=leaves), [("leaf_far_above", 4, 2)])
        self.assertEqual(self.codes(leaves={**USUAL.leaves, (4, 2): 25.0}), [])

    def test_a_plant_that_rose_far_more_than_any_other(self) -> None:
        self.assertEqual(self.codes(now={**USUAL.now, 6: 150.0}), [("risen", 6, None)])
        # When all rose alike, none did by itself; and before the spray nothing has risen.
        high = {p: 40 * v for p, v in USUAL.now.items()}
        self.assertEqual(self.codes(now=high), [])
        self.assertEqual(self.codes(number=0, now={**USUAL.now, 6: 150.0}), [])

    def test_a_plant_passed_by_but_not_those_still_to_come(self) -> None:
        some = {p: v for p, v in USUAL.now.items() if p not in (2, 7, 8)}
        self.assertEqual(self.codes(now=some), [("skipped", 2, None)])

    def test_numbers_that_look_like_estimates_or_are_all_the_same(self) -> None:
        rounded = {key: 10.0 + 5 * (k % 7) for k, key in enumerate(USUAL.leaves)}
        self.assertIn(("rounded", None, None), self.codes(leaves=rounded))
        same = dict.fromkeys(USUAL.leaves, 7.0)
        self.assertEqual(self.codes(leaves=same), [("all_the_same", None, None)])

    def test_damage_that_is_not_scored_yet(self) -> None:
        self.assertEqual(self.codes(unscored=[3, 4]), [("unscored", 3, None)])
        (found,) = count_checks(replace(USUAL, unscored=[1, 2, 3, 4, 5, 6]))
        self.assertIn("S1, S2, S3, S4 and 2 more", found.text)

    def test_another_day_and_another_hour_than_planned(self) -> None:
        self.assertEqual(self.codes(on=[DUE + timedelta(days=2)]), [("off_day", None, None)])
        self.assertEqual(self.codes(on=[DUE + timedelta(days=1)]), [])
        evening = [NINE + timedelta(hours=10)] * 8
        self.assertEqual(self.codes(times=evening), [("other_hour", None, None)])


if __name__ == "__main__":
    unittest.main()
