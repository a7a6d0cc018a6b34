"""Leaf by leaf, on one device or two: what is added up, what counts once, what is contested."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from orthocris.core.counting.tally import Tap
from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.trial.trial import Tally
from orthocris.services.counting import advice, keeping, sheets
from orthocris.services.trial import questions
from orthocris.storage.trial import reading
from tests.services.world import QUESTION, ServiceCase

AT = datetime(2026, 5, 10, 9, tzinfo=UTC)


class Samples(ServiceCase):
    """Six leaves of each plant, planned."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.plan(6)
        self.first, self.other = (p.id for p in self.trial.trial_plants[:2])

    def plan(self, samples: int) -> None:
        """Plan so many leaves of each plant."""
        with self.context.database.atomic() as connection:
            connection.execute(
                "UPDATE trial SET setup = json_set(setup, '$.samples', :n) WHERE id = :t",
                {"n": samples, "t": self.trial_id},
            )

    def leaf(self, sample: int, value: float | None, **changes: object) -> None:
        """Keep one leaf of the first plant."""
        entry = self.entry(self.first, value, sample=sample, **changes)
        keeping.keep_tally(self.context, self.trial_id, 0, entry)

    @property
    def now_holds(self) -> Tally:
        """What holds of the first plant."""
        look = self.trial.looks[0]
        return self.trial.tallies_at(look, "live")[self.first]

    def tap(self, key: str, value: float, **changes: object) -> Tap:
        """A tap on the first plant's first leaf."""
        wanted: dict[str, object] = {"session": "the-phone", "finished": False, "sample": 1}
        entry = self.entry(self.first, value, **{**wanted, **changes})
        return Tap(key, self.trial_id, 0, entry, AT)


class AddedUp(Samples):
    def test_leaves_are_added_up_and_the_plant_is_done_with_the_last_one_planned(self) -> None:
        for sample in range(1, 6):
            self.leaf(sample, 4)
        self.assertEqual((self.now_holds.value, self.now_holds.effort), (20, 5))
        self.assertFalse(self.now_holds.finished)
        self.leaf(6, 0)
        self.assertEqual((self.now_holds.value, self.now_holds.effort), (20, 6))
        self.assertTrue(self.now_holds.finished)

    def test_a_plant_with_fewer_leaves_is_done_when_that_is_said(self) -> None:
        self.leaf(1, 4)
        self.leaf(2, 2, last=True)
        self.assertTrue(self.now_holds.finished)
        self.assertEqual(self.now_holds.effort, 2)

    def test_a_leaf_taken_back_counts_no_more(self) -> None:
        self.leaf(1, 4, session="the-first-leaf")
        self.leaf(2, 2)
        self.leaf(1, None, session="the-first-leaf", step=2, finished=False)
        self.assertEqual((self.now_holds.value, self.now_holds.effort), (2, 1))

    def test_shares_add_both_numbers_and_scores_are_averaged(self) -> None:
        for sample, dead in ((1, 3), (2, 5)):
            self.leaf(sample, dead, of=10, measure="dead")
            self.leaf(sample, dead - 2, measure="damage")
        kept = {t.measure: t for t in self.trial.tallies}
        self.assertEqual((kept["dead"].value, kept["dead"].of), (8, 20))
        self.assertEqual(kept["damage"].value, 2)

    def test_the_newer_of_leaves_and_whole_plant_holds(self) -> None:
        self.leaf(1, 4)
        self.leaf(0, 30)
        self.assertEqual((self.now_holds.value, self.now_holds.effort), (30, 1))
        self.leaf(2, 6)
        self.assertEqual(self.now_holds.value, 10)

    def test_what_is_no_leaf_and_what_is_not_counted_is_refused(self) -> None:
        for changes in ({"sample": 201}, {"measure": "catch"}):
            with self.subTest(changes), self.assertRaises(InputError):
                self.leaf(**{"sample": 1, "value": 4, **changes})  # type: ignore[arg-type]
        self.leaf(1, 4, session="one-session")
        with self.assertRaises(ConflictError):
            self.leaf(2, 4, session="one-session", step=2)


class Batches(Samples):
    def test_what_is_sent_twice_counts_once(self) -> None:
        taps = [self.tap(f"tap-number-{k}", k, step=k) for k in range(1, 31)]
        for batch in (taps[:20], taps[10:], taps):
            found = keeping.keep_taps(self.context, batch)
            self.assertEqual(found.kept, tuple(tap.key for tap in batch))
        self.assertEqual(self.now_holds.value, 30)
        with self.context.database.reading() as connection:
            rows = connection.execute("SELECT key, step, tapped_at FROM tap ORDER BY step")
            self.assertEqual([tuple(r) for r in rows][-1], ("tap-number-30", 30, AT.isoformat()))
            self.assertEqual(connection.execute("SELECT count(*) FROM tap").fetchone()[0], 30)

    def test_an_old_tap_that_comes_late_is_kept_and_changes_nothing(self) -> None:
        keeping.keep_taps(self.context, [self.tap("the-second-tap", 2, step=2)])
        found = keeping.keep_taps(self.context, [self.tap("the-first-tap", 1, step=1)])
        self.assertEqual(found.kept, ("the-first-tap",))
        self.assertEqual(self.now_holds.value, 2)

    def test_a_tap_that_comes_days_later_is_of_the_day_it_was_made(self) -> None:
        self.later(3)
        keeping.keep_taps(self.context, [self.tap("made-long-ago", 4)])
        self.assertEqual(self.now_holds.counted_on, AT.date())
        self.assertEqual(self.now_holds.counted_at, AT)
        # A clock that is ahead, or a year behind, is not believed.
        for k, wrong in enumerate((timedelta(days=5), timedelta(days=-365))):
            session = f"another-clock-{k}"
            tap = replace(self.tap(session, 5 + k, session=session), tapped_at=self.now + wrong)
            keeping.keep_taps(self.context, [tap])
            self.assertEqual(self.now_holds.counted_at, self.now)

    def test_one_that_is_refused_keeps_no_other_from_being_kept(self) -> None:
        bad = self.tap("a-fraction-", 2.5, session="another-leaf", sample=2)
        gone = Tap("on-no-trial", 999, 0, self.entry(self.first, 3), AT)
        found = keeping.keep_taps(self.context, [bad, gone, self.tap("a-sound-tap", 7)])
        self.assertEqual(found.kept, ("a-sound-tap",))
        self.assertEqual([r.error.code for r in found.refused], ["fraction", "no_such_trial"])
        # Corrected, it may come under its name again.
        again = self.tap("a-fraction-", 2, session="another-leaf", sample=2)
        self.assertEqual(keeping.keep_taps(self.context, [again]).kept, ("a-fraction-",))
        self.assertEqual(self.now_holds.value, 9)


class TwoDevices(Samples):
    def sheet_contests(self) -> list[tuple[int, dict[str, dict[str, float | None]]]]:
        """What stands against what, by leaf."""
        sheet = sheets.count_sheet(self.context, self.trial_id, 0)
        return [(c.sample, {s.session: dict(s.values) for s in c.sides}) for c in sheet.contests]

    def test_different_leaves_of_one_plant_come_together(self) -> None:
        self.leaf(1, 4, knows=())
        self.leaf(2, 9, knows=())
        self.assertEqual(self.now_holds.value, 13)
        self.assertEqual(self.sheet_contests(), [])

    def test_the_same_leaf_twice_is_to_be_settled_and_neither_is_lost(self) -> None:
        self.leaf(1, 12, knows=(), session="the-phone")
        self.leaf(1, 2, knows=(), session="the-phone", measure="young")
        found = keeping.keep_taps(
            self.context, [self.tap("tablet-tap", 9, knows=(), session="the-tablet")]
        )
        self.assertEqual(found.contested, ("tablet-tap",))
        self.assertEqual(self.now_holds.value, 12)
        sides = {"the-phone": {"live": 12, "young": 2}, "the-tablet": {"live": 9}}
        self.assertEqual(self.sheet_contests(), [(1, sides)])

        keeping.settle_contest(self.context, self.trial_id, 0, self.first, 1, "the-tablet")
        self.assertEqual(self.now_holds.value, 9)
        self.assertEqual(self.sheet_contests(), [])
        history = sheets.tally_history(self.context, self.trial_id, 0, self.first, "live")
        self.assertEqual([(t.value, t.standing) for t in history], [(12, "set_aside"), (9, "held")])

    def test_settled_for_the_one_that_holds_the_other_is_set_aside(self) -> None:
        self.leaf(1, 12, knows=(), session="the-phone")
        self.leaf(1, 9, knows=(), session="the-tablet")
        keeping.settle_contest(self.context, self.trial_id, 0, self.first, 1, "the-phone")
        self.assertEqual(self.now_holds.value, 12)
        # A late tap of the device that was set aside changes nothing unseen.
        self.leaf(1, 10, knows=(), session="the-tablet", step=2)
        self.assertEqual(self.now_holds.value, 12)
        self.assertEqual(len(self.sheet_contests()), 1)

    def test_who_knew_the_number_corrects_it(self) -> None:
        self.leaf(1, 12, knows=(), session="the-phone")
        held = sheets.count_sheet(self.context, self.trial_id, 0).tallies[0]
        self.leaf(1, 13, knows=(held.session,), session="the-tablet")
        self.assertEqual(self.now_holds.value, 13)
        self.assertEqual(self.sheet_contests(), [])
        # The phone, which has not heard of it, goes on from its own: begun first, it holds.
        self.leaf(1, 15, knows=(), session="the-phone", step=2)
        self.assertEqual(self.now_holds.value, 15)
        self.assertEqual(len(self.sheet_contests()), 1)

    def test_only_who_counted_can_be_chosen(self) -> None:
        self.leaf(1, 12)
        with self.assertRaises(NotFoundError):
            keeping.settle_contest(self.context, self.trial_id, 0, self.first, 1, "somebody-else")


class Advice(Samples):
    def test_a_leaf_far_above_the_others_is_worth_a_second_look(self) -> None:
        for sample, value in enumerate((3, 120, 4, 2, 3, 4), start=1):
            self.leaf(sample, value)
        check, unscored = advice.checks_at(self.context, self.trial_id, 0)
        self.assertEqual(unscored.code, "unscored")
        self.assertEqual(
            (check.code, check.plant_id, check.sample), ("leaf_far_above", self.first, 2)
        )
        self.assertIn(", leaf 2: 120", check.text)

    def test_how_many_leaves_is_told_from_those_counted_and_the_time_they_took(self) -> None:
        typical = advice.sampling_advice(self.context, self.trial_id)
        self.assertEqual(typical.spread.counted, 0)
        for k, plant in enumerate(p.id for p in self.trial.trial_plants):
            for sample in range(1, 7):
                entry = self.entry(
                    plant, 2 + (3 * k + 5 * sample) % 9, sample=sample, session=f"leaf-{k}-{sample}"
                )
                at = AT + timedelta(seconds=20 * (6 * k + sample))
                tap = Tap(f"tap-{k}-{sample}-", self.trial_id, 0, entry, at)
                keeping.keep_taps(self.context, [tap])
        found = advice.sampling_advice(self.context, self.trial_id)
        self.assertEqual(found.spread.counted, 48)
        self.assertAlmostEqual(found.spread.seconds, 20, places=3)
        six = next(o for o in found.options if o.samples == 6)
        self.assertAlmostEqual(six.minutes, 8 * (6 * 20 + 20) / 60, places=3)


class Planned(ServiceCase):
    def test_a_plan_of_leaves_is_checked_and_kept(self) -> None:
        for changes, field in (
            ({"samples": 500}, "setup.samples"),
            ({"beside": ("catch",)}, "setup.beside"),
            ({"beside": ("eggs", "eggs")}, "setup.beside"),
            ({"which": "x" * 301}, "setup.which"),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                self.ask(**changes)
            self.assertEqual(caught.exception.field, field)
        trial = self.ask(samples=6, which="two low, two middle, two high", beside=("young", "eggs"))
        with self.context.database.reading() as connection:
            kept = reading.load_plan(connection, trial).setup
        self.assertEqual((kept.samples, kept.beside), (6, ("young", "eggs")))

    def ask(self, **changes: object) -> int:
        """Ask the question with another counting plan."""
        setup = replace(QUESTION.setup, **changes)  # type: ignore[arg-type]
        question = replace(QUESTION, name="Another", setup=setup)
        return questions.create_trial(self.context, question, self.now.date())


if __name__ == "__main__":
    unittest.main()
