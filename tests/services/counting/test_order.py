"""Whatever order devices come back into reach in, the same numbers hold and the same contradict."""

from __future__ import annotations

import unittest
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from itertools import combinations, permutations

from hypothesis import given, settings
from hypothesis import strategies as st

from orthocris.core.counting.contest import Told, outcome
from orthocris.core.counting.tally import TallyEntry, Tap
from orthocris.core.errors import ConflictError
from orthocris.core.trial.sprays import SprayKind
from orthocris.services.counting import keeping, sheets
from tests.services.world import ServiceCase

NOON = datetime(2026, 5, 10, 12, tzinfo=UTC)


def told(number: int, at: int, step: int, knows: dict[str, int | None] | None) -> Told:
    """A line of session s<number>."""
    return Told(number, f"s{number}", step, NOON + timedelta(minutes=at), knows)


class Outcomes(unittest.TestCase):
    def test_who_has_seen_a_number_corrects_it_and_who_has_not_contradicts_it(self) -> None:
        first, unaware = told(1, 0, 3, {"s1": None}), told(2, 5, 1, {"s2": None})
        self.assertEqual(outcome([first, unaware]).holds, 1)
        self.assertEqual(outcome([first, unaware]).contested, {2})
        aware = told(3, 9, 1, {"s1": 3, "s3": None})
        self.assertEqual(outcome([first, aware]).holds, 3)
        self.assertEqual(outcome([first, aware]).contested, frozenset())
        # The first goes on, and the one who corrected it has not seen that.
        on = replace(first, step=4)
        self.assertEqual((outcome([on, aware]).holds, outcome([on, aware]).contested), (1, {3}))
        both = told(4, 20, 1, {"s1": 4, "s3": 1})
        self.assertEqual(outcome([on, aware, both]).holds, 4)

    @settings(deadline=None)
    @given(
        st.lists(
            st.tuples(st.integers(0, 5), st.integers(1, 3), st.sets(st.integers(1, 5))),
            min_size=1,
            max_size=5,
        ),
        st.randoms(use_true_random=False),
    )
    def test_the_order_of_the_lines_changes_nothing(
        self, lines: list[tuple[int, int, set[int]]], rng: object
    ) -> None:
        made = [
            told(k, at, step, {f"s{j}": 2 for j in knows})
            for k, (at, step, knows) in enumerate(lines, 1)
        ]
        shuffled = made[:]
        rng.shuffle(shuffled)  # type: ignore[attr-defined]
        self.assertEqual(outcome(made), outcome(shuffled))
        found = outcome(made)
        self.assertIsNotNone(found.holds)
        self.assertNotIn(found.holds, found.contested)


@dataclass(frozen=True)
class Sent:
    """One request of a device: its taps, in the order of its own requests."""

    device: str
    taps: tuple[Tap, ...]


class AnyOrder(ServiceCase):
    """Three devices counted out of reach, on different days, two of them the same leaf."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.plants = [p.id for p in self.trial.trial_plants]

    def tap(self, session: str, step: int, value: float, *, day: int, **changes: object) -> Tap:
        """A tap of a session of its own device at noon of a day after the start."""
        entry = TallyEntry(
            self.plants[0], "live", session, step, value, None, 1.0, True, knows=(session,)
        )
        entry = replace(entry, **changes)  # type: ignore[arg-type]
        at = self.now + timedelta(days=day, hours=step)
        return Tap(f"{session}-{entry.sample}-{step}", self.trial_id, 0, entry, at)

    def state(self) -> object:
        """What holds, of which day, and what contradicts what; without ids and arrival."""
        sheet = sheets.count_sheet(self.context, self.trial_id, 0)
        kept = [(t.plant_id, t.sample, t.measure, t.value, t.counted_on) for t in sheet.tallies]
        sides = [
            (c.plant_id, c.sample, sorted((s.session, s.held, str(s.values)) for s in c.sides))
            for c in sheet.contests
        ]
        whole = [
            (t.plant_id, t.measure, t.value, t.finished, t.counted_on) for t in self.trial.tallies
        ]
        return sorted(map(str, kept)), sorted(map(str, sides)), sorted(map(str, whole))

    def test_the_order_of_sync_changes_nothing(self) -> None:
        second = self.plants[1]
        sent = [
            Sent("a", (self.tap("phone-aa", 1, 7, day=0), self.tap("phone-aa", 2, 8, day=0))),
            Sent("a", (self.tap("phone-aa", 3, 9, day=1),)),
            Sent("b", (self.tap("phone-bb", 1, 11, day=2),)),
            Sent("b", (self.tap("leafs-bb", 1, 4, day=2, sample=2, plant_id=second),)),
            Sent("c", (self.tap("phone-cc", 1, 5, day=1, plant_id=second, sample=1),)),
            Sent("c", (self.tap("whole-cc", 1, 40, day=3, plant_id=second),)),
        ]  # fmt: skip
        self.later(5)
        states = set()
        devices = [one.device for one in sent]
        for order in permutations(range(len(sent))):
            if any(a > b and devices[a] == devices[b] for a, b in combinations(order, 2)):
                continue  # a device sends its own in their order
            with self.context.database.atomic() as connection:
                connection.execute("DELETE FROM tally")
            for k in order:
                found = keeping.keep_taps(self.context, sent[k].taps)
                self.assertEqual(found.refused, ())
            states.add(str(self.state()))
        self.assertEqual(len(states), 1, states)
        (state,) = states
        self.assertIn("9.0", state)  # what the first phone said last holds
        self.assertIn("phone-bb", state)  # and the other stands against it

    def test_a_count_made_before_one_that_is_in_already_is_of_its_own_day(self) -> None:
        self.later(5)
        for session, day in (("phone-bb", 4), ("phone-aa", 1)):
            found = keeping.keep_taps(self.context, [self.tap(session, 1, 3, day=day)])
            self.assertEqual(found.refused, ())

    def test_two_pages_under_one_name_do_not_replace_one_another_unseen(self) -> None:
        keeping.keep_taps(self.context, [self.tap("one-name", 8, 8, day=0)])
        other = replace(self.tap("one-name", 8, 11, day=0), key="another-key")
        (refused,) = keeping.keep_taps(self.context, [other]).refused
        self.assertEqual(refused.error.code, "same_step")
        # Sent again it is itself, and a name used for another number is refused by name.
        again = self.tap("one-name", 8, 8, day=0)
        self.assertEqual(keeping.keep_taps(self.context, [again]).kept, (again.key,))
        reused = replace(again, entry=replace(again.entry, step=9, value=12))
        (refused,) = keeping.keep_taps(self.context, [reused]).refused
        self.assertEqual((refused.key, refused.error.code), (again.key, "key_reused"))
        self.assertEqual(self.trial.tallies[0].value, 8)

    def test_a_slow_clock_is_said_and_set_right_and_both_times_are_kept(self) -> None:
        self.later(25)
        slow = self.now - timedelta(days=20)
        tap = replace(self.tap("slow-one", 1, 4, day=0), tapped_at=slow - timedelta(hours=1))
        found = keeping.keep_taps(self.context, [tap], sent_at=slow)
        self.assertEqual(found.slow, timedelta(days=20).total_seconds())
        (kept,) = self.trial.tallies
        self.assertEqual(kept.counted_at, self.now - timedelta(hours=1))
        with self.context.database.reading() as connection:
            (said,) = connection.execute("SELECT tapped_at FROM tap").fetchone()
        self.assertEqual(datetime.fromisoformat(said), tap.tapped_at)
        right = keeping.keep_taps(
            self.context, [self.tap("right-one", 1, 4, day=25)], sent_at=self.now
        )
        self.assertEqual(right.slow, 0)

    def test_a_name_of_a_spray_is_of_one_plant(self) -> None:
        self.count_all(0, 20, 20)
        self.start(1)
        self.spray_one(1, self.plants[0], key="tap-number-1")
        self.spray_one(1, self.plants[0], key="tap-number-1")  # sent twice, kept once
        for changes in ({"plant_id": self.plants[1]}, {"kind": SprayKind.SKIPPED, "note": "bee"}):
            plant = changes.pop("plant_id", self.plants[0])
            with self.assertRaises(ConflictError) as caught:
                self.spray_one(1, int(str(plant)), key="tap-number-1", **changes)
            self.assertEqual(caught.exception.code, "key_reused")
        self.assertEqual(len(self.trial.sprays), 1)


if __name__ == "__main__":
    unittest.main()
