"""Patch tests: outcomes from scores, and what holds back the first spray."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from orthocris.core.errors import InputError
from orthocris.core.field.patchtest import (
    PatchOutcome,
    check_look,
    held_back,
    judge_patch,
    look_hours,
)
from orthocris.core.trial.patches import Harm, PatchReading, PatchTest, PatchWait

PUT_ON = datetime(2026, 5, 10, 8, tzinfo=UTC)
TEST = PatchTest(1, 7, "green", 3, 1.0, (24, 48), PUT_ON)


def seen(hours: int, treated: int, beside: int = 0, harm: Harm = Harm.NONE) -> PatchReading:
    """A look on time."""
    return PatchReading(hours, PUT_ON + timedelta(hours=hours), treated, beside, harm)


class Outcomes(unittest.TestCase):
    def outcome(self, *looks: PatchReading, **changes: int) -> PatchOutcome:
        """The outcome after some looks."""
        return judge_patch(replace(TEST, readings=looks, **changes)).outcome  # type: ignore[arg-type]

    def test_clean_at_every_look_passes(self) -> None:
        self.assertIs(self.outcome(seen(24, 0)), PatchOutcome.RUNNING)
        self.assertIs(self.outcome(seen(24, 0), seen(48, 0)), PatchOutcome.PASSED)

    def test_what_the_unsprayed_leaf_has_too_does_not_count(self) -> None:
        self.assertIs(self.outcome(seen(24, 2, 2), seen(48, 2, 2)), PatchOutcome.PASSED)
        self.assertIs(self.outcome(seen(24, 3), seen(48, 3), treated_before=3), PatchOutcome.PASSED)
        # A fresher unsprayed leaf does not excuse the treated one.
        self.assertIs(self.outcome(seen(24, 1), seen(48, 2), beside_before=1), PatchOutcome.FAILED)

    def test_a_trace_means_weaker_and_two_steps_fail_at_once(self) -> None:
        self.assertIs(self.outcome(seen(24, 1), seen(48, 1)), PatchOutcome.WEAKER)
        self.assertIs(self.outcome(seen(24, 0), seen(48, 0, 0, Harm.STICKY)), PatchOutcome.WEAKER)
        self.assertIs(self.outcome(seen(24, 2)), PatchOutcome.FAILED)

    def test_drop_and_wilting_fail_however_little(self) -> None:
        self.assertIs(self.outcome(seen(24, 1, 0, Harm.DROP)), PatchOutcome.FAILED)
        self.assertIs(self.outcome(seen(24, 1, 1, Harm.WILTING)), PatchOutcome.RUNNING)

    def test_the_next_look_is_told(self) -> None:
        found = judge_patch(replace(TEST, readings=(seen(24, 0),)))
        self.assertEqual(found.next_look, PUT_ON + timedelta(hours=48))


class Looking(unittest.TestCase):
    def test_schools_and_the_week_of_slow_leaves(self) -> None:
        self.assertEqual(look_hours(PatchWait.DAY, oil=True, slow_leaves=False), (24,))
        self.assertEqual(look_hours(PatchWait.DAY, oil=True, slow_leaves=True), (24, 168))
        self.assertEqual(look_hours(PatchWait.WEEK, oil=True, slow_leaves=True), (24, 48, 168))

    def test_looks_that_cannot_be(self) -> None:
        early = PatchReading(24, PUT_ON + timedelta(hours=19), 0, 0)
        for look, field in (
            (early, "hours"),
            (seen(36, 0), "hours"),
            (seen(24, 6), "treated"),
            (seen(24, 0, -1), "beside"),
            (seen(24, 0, 0, Harm.SPOTS), "treated"),
        ):
            with self.subTest(look), self.assertRaises(InputError) as caught:
                check_look(TEST, look)
            self.assertEqual(caught.exception.field, field)
        check_look(TEST, PatchReading(24, PUT_ON + timedelta(hours=21), 0, 0))


class HoldingBack(unittest.TestCase):
    def test_each_remedy_on_each_kind(self) -> None:
        passed = replace(TEST, readings=(seen(24, 0), seen(48, 0)))
        found = held_back([7, 8], ["green", "red"], [passed])
        self.assertEqual(
            [(h.remedy_id, h.leaf_kind) for h in found], [(7, "red"), (8, "green"), (8, "red")]
        )

    def test_the_newest_test_counts_and_only_at_full_strength(self) -> None:
        failed = replace(TEST, readings=(seen(24, 3),))
        later = PUT_ON + timedelta(days=3)
        weak = replace(
            TEST, id=2, strength=0.5, applied_at=later, readings=(seen(24, 0), seen(48, 0))
        )
        (held,) = held_back([7], ["green"], [weak, failed])
        self.assertIs(held.outcome, PatchOutcome.WEAKER)
        self.assertIn("50% of the strength", held.reason)
        self.assertEqual(held_back([7], ["green"], [failed, replace(weak, strength=1.0)]), ())


if __name__ == "__main__":
    unittest.main()
