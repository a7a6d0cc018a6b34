"""Blocks and the lot: matched, complete, reproducible, fair."""

from __future__ import annotations

import unittest
from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from orthocris.core.errors import ConflictError
from orthocris.core.planning.allocation import allocate
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.trial.trial import Plant


def bench(counts: list[float | None]) -> list[Plant]:
    """Plants in one row with these match counts."""
    return [Plant(k, f"S{k}", 1, k, count) for k, count in enumerate(counts, start=1)]


class Allocation(unittest.TestCase):
    @given(
        counts=st.lists(st.integers(0, 500).map(float), min_size=8, max_size=60),
        remedies=st.integers(2, 4),
        seed=st.integers(0, 10**6),
    )
    @settings(max_examples=60, deadline=None)
    def test_every_block_is_whole_and_matched(
        self, counts: list[float], remedies: int, seed: int
    ) -> None:
        plants = bench(list(counts))
        by_count = Setup(match_place=False)
        found = allocate(plants, remedies=remedies, seed=seed, setup=by_count)
        by_block: dict[int, list[int]] = {}
        for plant, block in found.block_of.items():
            by_block.setdefault(block, []).append(plant)
        match = {p.id: p.match_count or 0 for p in plants}
        for block, members in by_block.items():
            given_ = Counter(found.remedy_of[p] for p in members)
            self.assertEqual(set(given_), set(range(remedies)))
            self.assertLessEqual(len(members), remedies + 1)
            if block + 1 in by_block:
                lowest = min(match[p] for p in members)
                self.assertGreaterEqual(lowest, max(match[p] for p in by_block[block + 1]))
        self.assertEqual(len(found.block_of) + len(found.spare), len(plants))
        got = Counter(found.remedy_of.values()).values()
        self.assertLessEqual(max(got) - min(got), 1)
        self.assertEqual({c.notches for c in found.codes}, set(range(1, remedies + 1)))

    def test_same_seed_same_lot(self) -> None:
        plants = bench([float(k) for k in range(20)])
        one, two, three = (allocate(plants, remedies=4, seed=s) for s in (5, 5, 6))
        self.assertEqual(one, two)
        self.assertNotEqual(one.remedy_of, three.remedy_of)

    def test_each_plant_gets_each_remedy_equally_often(self) -> None:
        """Over 2000 seeds a plant's four remedies are even: chi-square below its 99.99% point."""
        plants = bench([float(k) for k in range(8)])
        got = Counter(allocate(plants, remedies=4, seed=s).remedy_of[3] for s in range(2000))
        chi = sum((got[k] - 500) ** 2 / 500 for k in range(4))
        self.assertLess(chi, 21.1)

    def test_each_remedy_gets_each_letter_equally_often(self) -> None:
        """In order they would tell the remedies: the first is the control."""
        plants = bench([1.0] * 8)
        drawn = [allocate(plants, remedies=4, seed=s).codes for s in range(2000)]
        for remedy in range(4):
            got = Counter(codes[remedy].letter for codes in drawn)
            self.assertLess(sum((got[k] - 500) ** 2 / 500 for k in "ABCD"), 21.1)
            self.assertTrue(all("ABCD"[c[remedy].notches - 1] == c[remedy].letter for c in drawn))

    def test_how_often_a_letter_stands_tells_nothing(self) -> None:
        """Plants left over go to each remedy equally often, whatever the design."""
        leaves = [
            Plant(9 * h + k, f"L{h}{k}", h, k, 1.0, host=f"H{h}") for h in (1, 2) for k in range(4)
        ]
        apart = Setup(design=DesignKind.RANDOMISED)
        for plants, setup in (
            (bench([1.0] * 14), Setup()),
            (bench([1.0] * 14), apart),
            (leaves, Setup()),
        ):
            most: Counter[int] = Counter()
            for seed in range(1200):
                found = allocate(plants, remedies=3, seed=seed, setup=setup)
                got = Counter(found.remedy_of.values())
                self.assertEqual(len(got), 3)
                most.update(r for r, n in got.items() if n > min(got.values()))
            chi = sum((most[k] - 800) ** 2 / 800 for k in range(3))
            self.assertLess(chi, 21.1, (setup.design, most))

    def test_refusals_say_what_to_do(self) -> None:
        with self.assertRaises(ConflictError) as few:
            allocate(bench([1.0, 2.0, 3.0]), remedies=2, seed=1)
        self.assertEqual(few.exception.code, "too_few_plants")
        with self.assertRaises(ConflictError) as missing:
            allocate(bench([1.0, None, 3.0, 4.0]), remedies=2, seed=1)
        self.assertIn("S2", missing.exception.message)

    def test_without_counts_neighbours_form_blocks(self) -> None:
        found = allocate(bench([None] * 6), remedies=2, seed=1)
        self.assertEqual([found.block_of[k] for k in range(1, 7)], [1, 1, 2, 2, 3, 3])


if __name__ == "__main__":
    unittest.main()
