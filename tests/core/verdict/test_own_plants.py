"""The dots under a remedy's band: each plant against the untreated of its own block."""

from __future__ import annotations

import unittest

from orthocris.core import Observation
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.own_plants import against_own_block


def seen(
    value: float, plant: str, remedy: str, block: str | None, effort: float = 1.0
) -> Observation:
    return Observation(plant, block, remedy, 7.0, "live", value, effort=effort)


class Dots(unittest.TestCase):
    def dots(self, *found: Observation, measure: str = "live") -> dict[str, tuple[float, ...]]:
        return against_own_block(gather(found), control="control", measure=measure, look="last")

    def test_each_is_held_against_its_own_block_and_by_what_was_searched(self) -> None:
        found = self.dots(
            seen(19.5, "c1", "control", "1"),
            seen(4.5, "s1", "soap", "1"),
            seen(99.5, "c2", "control", "2", effort=5.0),
            seen(4.5, "s2", "soap", "2"),
            seen(4.5, "s3", "soap", "3"),
        )
        self.assertEqual(list(found), ["soap"])
        self.assertEqual([round(share, 6) for share in found["soap"]], [0.75, 0.75])

    def test_without_blocks_the_mean_of_all_untreated_is_taken(self) -> None:
        found = self.dots(
            seen(9.5, "c1", "control", None),
            seen(29.5, "c2", "control", None),
            seen(39.5, "s1", "soap", None),
        )
        self.assertEqual(found, {"soap": (-1.0,)})


if __name__ == "__main__":
    unittest.main()
