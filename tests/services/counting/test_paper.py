"""A trial done on paper last month, entered in one sitting."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from orthocris.core.counting.paper import Paper, PaperCount, PaperPlant
from orthocris.core.errors import ConflictError, InputError
from orthocris.services.counting.paper import enter_paper
from orthocris.services.planning import layouts
from orthocris.services.verdict import judging
from tests.services.world import ServiceCase

SPRAYED = date(2026, 4, 6)
NAMES = tuple(f"P{k}" for k in range(1, 9))


def sheet(**changes: Any) -> Paper:
    """Four blocks of two; the soap leaves a tenth."""
    plants = tuple(
        PaperPlant(name, f"tray {k // 2}", "soap" if k % 2 else " Water ")
        for k, name in enumerate(NAMES)
    )
    counts = [PaperCount(name, 0, "live", 40 + k) for k, name in enumerate(NAMES)]
    for look in (1, 2):
        counts += [
            PaperCount(name, look, "live", 4 + k if k % 2 else 44 + k)
            for k, name in enumerate(NAMES)
        ]
    whole = Paper(
        plants,
        ((1, SPRAYED), (2, SPRAYED + timedelta(days=5))),
        ((0, SPRAYED), (1, SPRAYED + timedelta(days=3)), (2, SPRAYED + timedelta(days=7))),
        tuple(counts),
    )
    return replace(whole, **changes)


class OnPaper(ServiceCase):
    def enter(self, **changes: Any) -> None:
        """Enter the sheet."""
        enter_paper(self.context, self.trial_id, sheet(**changes))

    def test_it_is_judged_by_its_true_days(self) -> None:
        self.enter()
        trial = self.trial
        self.assertEqual(trial.sprayed_on, SPRAYED)
        self.assertEqual([p.name for p in trial.trial_plants], list(NAMES))
        after = trial.tallies_at(trial.looks[2], "live")
        self.assertEqual({t.counted_on for t in after.values()}, {SPRAYED + timedelta(days=7)})
        self.assertEqual({t.counted_at.date() for t in after.values()}, {self.now.date()})
        found = judging.verdict_of(self.context, self.trial_id)
        self.assertEqual(found.verdict.outcome, "winner")
        said = " ".join(found.notes)
        self.assertIn("decided on paper", said)
        self.assertIn("entered on", said)
        self.assertNotIn("day after the planned day", said)

    def test_whoever_has_the_paper_needs_no_key(self) -> None:
        half = tuple(c for c in sheet().counts if c.look < 2 or c.plant in NAMES[:5])
        self.enter(counts=half)
        found = judging.verdict_of(self.context, self.trial_id)
        self.assertTrue(found.verdict.so_far)
        self.assertIn("Soap", found.verdict.sentence)

    def test_sent_twice_it_is_the_same_and_a_change_is_a_correction(self) -> None:
        self.enter()
        before = [t.id for t in self.trial.tallies]
        self.enter(plants=())
        self.assertEqual([t.id for t in self.trial.tallies], before)
        self.later(1 / 24)
        self.enter(plants=(), counts=(PaperCount("p1", 1, "live", 45),))
        corrected = self.trial.tallies_at(self.trial.looks[1], "live")
        self.assertEqual(max(t.value or 0 for t in corrected.values()), 50)
        self.assertEqual(len(self.trial.sprays), 16)

    def test_leaves_on_paper_are_effort(self) -> None:
        counts = tuple(replace(c, effort=3.0) for c in sheet().counts)
        self.enter(counts=counts)
        self.assertEqual({t.effort for t in self.trial.tallies}, {3.0})

    def test_the_first_fault_is_named_and_nothing_is_kept(self) -> None:
        late = self.now.date() + timedelta(days=1)
        plants = sheet().plants
        wrong: list[tuple[dict[str, Any], str]] = [
            ({"plants": (replace(plants[0], remedy="Neem"), *plants[1:])}, "plants.0.remedy"),
            ({"plants": (plants[1], *plants[1:])}, "plants.1.name"),
            ({"plants": (replace(plants[0], block=" "), *plants[1:])}, "plants.0.block"),
            ({"plants": tuple(replace(p, remedy="Soap") for p in plants)}, "plants"),
            ({"rounds": ((1, late),)}, "rounds"),
            ({"rounds": ((1, SPRAYED), (2, SPRAYED - timedelta(days=1)))}, "rounds"),
            ({"rounds": ()}, "rounds"),
            ({"counts": (PaperCount("P9", 0, "live", 3),)}, "counts.0.plant"),
            ({"counts": (PaperCount("P1", 0, "live", 2.5),)}, "counts.0.value"),
            ({"looks": sheet().looks[:2]}, "looks"),
            (
                {"looks": ((0, SPRAYED), (1, SPRAYED - timedelta(days=3)), (2, SPRAYED))},
                "looks",
            ),
            (
                {
                    "looks": (
                        (0, SPRAYED - timedelta(days=9)),
                        *((k, SPRAYED - timedelta(days=3)) for k in (1, 2)),
                    )
                },
                "counts.8.counted_on",
            ),
        ]
        for changes, field in wrong:
            with self.subTest(field), self.assertRaises(InputError) as caught:
                self.enter(**changes)
            self.assertEqual(caught.exception.field, field)
            self.assertEqual((self.trial.plants, self.trial.sprays), ((), ()))

    def test_a_drawn_layout_is_not_overwritten_but_takes_counts(self) -> None:
        self.plant_and_draw()
        names = [p.name for p in self.trial.trial_plants]
        with self.assertRaises(ConflictError):
            self.enter()
        counts = tuple(
            replace(c, plant=names[NAMES.index(c.plant)]) for c in sheet().counts if c.look < 2
        )
        self.enter(plants=(), counts=counts)
        self.assertEqual(len(self.trial.tallies), 16)
        with self.assertRaises(ConflictError):
            layouts.draw_layout(self.context, self.trial_id, reason="why not", seed=None)


if __name__ == "__main__":
    unittest.main()
