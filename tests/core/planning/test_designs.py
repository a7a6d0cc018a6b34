"""Designs: matched, balanced, random within their rules."""

from __future__ import annotations

import unittest
from collections import Counter
from dataclasses import replace

import numpy as np

from orthocris.core.errors import ConflictError
from orthocris.core.planning.allocation import allocate
from orthocris.core.planning.incomplete import concurrence, incomplete_blocks
from orthocris.core.planning.matching import form_blocks, odd_plants
from orthocris.core.planning.neighbours import close_pairs
from orthocris.core.trial.setup import DesignKind, Setup
from orthocris.core.trial.trial import Plant


def grid(rows: int, places: int, counts: list[float] | None = None) -> list[Plant]:
    """A bench of plants with match counts."""
    return [
        Plant(k + 1, f"P{k + 1}", k // places + 1, k % places + 1, (counts or [10.0] * 999)[k])
        for k in range(rows * places)
    ]


class OnePlantABlock(unittest.TestCase):
    def units(self, *on: int) -> list[Plant]:
        """Leaves on plants H1, H2, …, so many on each; more pests on the later ones."""
        return [
            Plant(10 * h + k, f"L{h}.{k}", h, k + 1, float(10 * h), host=f"H{h}")
            for h, number in enumerate(on, start=1)
            for k in range(number)
        ]

    def test_leaves_on_one_plant_form_a_block_with_every_remedy(self) -> None:
        """Three remedies: of 3, 4, 7 and 2 leaves, one more on two, one too few."""
        leaves = self.units(3, 4, 7, 2)
        found = allocate(leaves, remedies=3, seed=5)
        host = {p.id: p.host for p in leaves}
        given = {
            name: Counter(found.remedy_of[p] for p in found.block_of if host[p] == name)
            for name in ("H1", "H2", "H3", "H4")
        }
        self.assertEqual(
            [sorted(got.values()) for got in given.values()], [[1, 1, 1], [1, 1, 2], [2, 2, 3], []]
        )
        twice, thrice = given["H2"].most_common(1), given["H3"].most_common(1)
        self.assertNotEqual(twice[0][0], thrice[0][0])  # what is left over goes to each in turn
        blocks = {host[p]: b for p, b in found.block_of.items()}
        self.assertEqual(blocks, {"H3": 1, "H2": 2, "H1": 3})  # the most infested first
        self.assertEqual(len(found.spare), 2)

    def test_too_few_leaves_on_a_plant(self) -> None:
        with self.assertRaises(ConflictError) as caught:
            allocate(self.units(3, 2, 2), remedies=3, seed=5)
        self.assertIn("1 of 3 plants", caught.exception.message)

    def test_the_leaves_of_a_single_plant_are_matched_like_plants(self) -> None:
        leaves = self.units(8)
        found = allocate(leaves, remedies=2, seed=5)
        blocks: dict[int, list[int]] = {}
        for leaf, block in found.block_of.items():
            blocks.setdefault(block, []).append(leaf)
        self.assertEqual(sorted(map(len, blocks.values())), [2, 2, 2, 2])
        self.assertTrue(all(abs(one - other) == 1 for one, other in blocks.values()))  # neighbours
        self.assertTrue(all({found.remedy_of[k] for k in b} == {0, 1} for b in blocks.values()))

    def test_without_hosts_on_all_nothing_changes(self) -> None:
        leaves = self.units(4, 4)
        mixed = [replace(leaves[0], host=None), *leaves[1:]]
        plain = [replace(p, host=None) for p in leaves]
        one, other = (allocate(p, remedies=2, seed=5) for p in (mixed, plain))
        self.assertEqual(one.remedy_of, other.remedy_of)


class Matching(unittest.TestCase):
    def test_count_place_and_size_work_together(self) -> None:
        """Counts alike: blocks must be neighbours, and sizes alike where they differ."""
        blocks = form_blocks(grid(2, 6), [3] * 4, match_place=True)
        spread = max(np.ptp([p.place for p in block]) for block in blocks)
        self.assertLessEqual(spread, 2)
        sized = [replace(p, size=float(5 if p.id % 2 else 50)) for p in grid(1, 8)]
        for block in form_blocks(sized, [4, 4], match_place=False):
            self.assertEqual(len({p.size for p in block}), 1)

    def test_blocks_are_more_alike_than_by_chance(self) -> None:
        rng = np.random.default_rng(4)
        plants = grid(4, 6, rng.lognormal(3, 0.6, 24).round().tolist())
        blocks = form_blocks(plants, [4] * 6, match_place=True)

        def within(parts: list[list[Plant]]) -> float:
            return sum(float(np.var(np.log1p([p.match_count or 0 for p in b]))) for b in parts)

        mixed = [[plants[i] for i in part] for part in np.split(rng.permutation(24), 6)]
        self.assertLess(within(blocks), 0.3 * within(mixed))

    def test_odd_plants_are_named(self) -> None:
        plants = grid(1, 9, [10, 12, 11, 9, 10, 13, 12, 11, 400])
        self.assertEqual([o.plant_id for o in odd_plants(plants)], [9])
        self.assertIn("far more", odd_plants(plants)[0].reason)
        self.assertEqual(odd_plants(grid(1, 9)), ())


class Incomplete(unittest.TestCase):
    def test_balanced_designs_are_found(self) -> None:
        """(v, k, b) with a balanced design; each pair meets b·k(k-1)/(v(v-1)) times."""
        for v, k, b, meets in (
            (4, 3, 4, 2),
            (4, 2, 6, 1),
            (5, 4, 5, 3),
            (6, 3, 10, 2),
            (7, 3, 7, 1),
        ):
            fillings = incomplete_blocks(v, k, b, np.random.default_rng(1))
            found = concurrence(fillings, v)
            pairs = found[np.triu_indices(v, 1)]
            self.assertEqual(set(pairs.tolist()), {meets}, (v, k, b))

    def test_otherwise_even_and_linked(self) -> None:
        fillings = incomplete_blocks(6, 4, 7, np.random.default_rng(2))
        uses = np.diag(concurrence(fillings, 6))
        self.assertLessEqual(int(np.ptp(uses)), 1)
        self.assertTrue(all(len(set(f)) == 4 for f in fillings))

    def test_each_block_of_the_bench_has_different_remedies(self) -> None:
        setup = Setup(design=DesignKind.INCOMPLETE, block_size=3)
        found = allocate(grid(3, 6), remedies=4, seed=3, setup=setup)
        by_block: dict[int, list[int]] = {}
        for plant, block in found.block_of.items():
            by_block.setdefault(block, []).append(found.remedy_of[plant])
        self.assertTrue(all(len(set(r)) == len(r) == 3 for r in by_block.values()))


class Latin(unittest.TestCase):
    def test_each_remedy_once_in_every_row_and_column(self) -> None:
        plants = grid(4, 5)
        setup = Setup(design=DesignKind.LATIN)
        found = allocate(plants, remedies=4, seed=9, setup=setup)
        at = {p.id: p for p in plants}
        for line in ("row", "place"):
            seen = Counter((getattr(at[p], line), r) for p, r in found.remedy_of.items())
            self.assertEqual(set(seen.values()), {1})
        self.assertEqual(len(found.spare), 4)

    def test_a_bench_with_a_gap_is_refused(self) -> None:
        gap = [p for p in grid(3, 3) if p.id != 5]
        with self.assertRaises(ConflictError) as caught:
            allocate(gap, remedies=3, seed=1, setup=Setup(design=DesignKind.LATIN))
        self.assertEqual(caught.exception.code, "no_square")


class Restriction(unittest.TestCase):
    CLOSE = Setup(place_cm=20, row_cm=90, match_place=False)

    def test_a_remedy_never_stands_beside_itself_within_drift(self) -> None:
        plants = grid(3, 8)
        for seed in range(30):
            found = allocate(plants, remedies=4, seed=seed, setup=self.CLOSE, drift_cm=30)
            self.assertEqual(found.side_by_side, 0)
            for a, b in close_pairs(plants, self.CLOSE, 30):
                if a in found.remedy_of and b in found.remedy_of:
                    self.assertNotEqual(found.remedy_of[a], found.remedy_of[b])

    def test_a_large_bench_is_still_kept_apart(self) -> None:
        both = replace(self.CLOSE, row_cm=20)
        found = allocate(grid(8, 12), remedies=4, seed=5, setup=both, drift_cm=30)
        self.assertEqual(found.side_by_side, 0)

    def test_what_cannot_be_kept_apart_is_reported(self) -> None:
        found = allocate(
            grid(1, 8),
            remedies=2,
            seed=1,
            setup=replace(self.CLOSE, design=DesignKind.RANDOMISED),
            drift_cm=30,
        )
        self.assertEqual(found.side_by_side, 0)  # A B A B … is possible
        three = [replace(p, match_count=float(9 - p.id)) for p in grid(1, 5)]
        forced = allocate(three, remedies=2, seed=1, setup=self.CLOSE, drift_cm=30)
        self.assertLessEqual(forced.side_by_side, 1)

    def test_uniform_over_the_allowed_set(self) -> None:
        """Six plants in a row, two blocks of three by count: all allowed allocations are even.

        Blocks are plants 1-3 and 4-6; 36 allocations, of which those with equal remedies on
        plants 3 and 4 are barred: 24 are left. Chi-square on 23 df below its 99.99% point.
        """
        plants = grid(1, 6, [60, 50, 40, 30, 20, 10])
        seen: Counter[tuple[int, ...]] = Counter()
        for seed in range(4800):
            found = allocate(plants, remedies=3, seed=seed, setup=self.CLOSE, drift_cm=30)
            seen[tuple(found.remedy_of[k] for k in range(1, 7))] += 1
        self.assertEqual(len(seen), 24)
        self.assertLess(sum((n - 200) ** 2 / 200 for n in seen.values()), 56.0)

    def test_shields_lift_the_restriction(self) -> None:
        self.assertEqual(close_pairs(grid(1, 3), Setup(place_cm=40), 30), ())
        shielded = replace(self.CLOSE, shields=True)
        plants = grid(1, 6, [60, 50, 40, 30, 20, 10])
        beside = 0
        for seed in range(60):
            found = allocate(plants, remedies=3, seed=seed, setup=shielded, drift_cm=30)
            beside += found.remedy_of[3] == found.remedy_of[4]
        self.assertGreater(beside, 5)


if __name__ == "__main__":
    unittest.main()
