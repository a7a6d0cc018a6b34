"""Classes for very many, a second person kept apart and compared, marked leaves."""

from __future__ import annotations

import unittest
from itertools import pairwise

from orthocris.core.counting.agreement import agreement, agreement_note
from orthocris.core.counting.classes import CLASSES
from orthocris.core.errors import InputError
from orthocris.services.counting import keeping, sheets
from orthocris.services.verdict import judging
from tests.services.counting.test_samples import Samples


class Classes(Samples):
    def test_a_class_is_kept_as_the_number_it_is_read_as_and_the_verdict_says_so(self) -> None:
        self.plan(0)
        self.count_all(0, soap=20, water=20)
        self.spray_all()
        self.later(3)
        for plant in self.trial.trial_plants:
            entry = self.entry(plant.id, 56, classed=True)
            keeping.keep_tally(self.context, self.trial_id, 1, entry)
        self.open_key()
        notes = judging.verdict_of(self.context, self.trial_id, 1).notes
        self.assertTrue(any(n.startswith("8 numbers were told as classes") for n in notes), notes)
        # Counted one by one after all, it is no class any more.
        self.count(self.first, 61, 1)
        notes = judging.verdict_of(self.context, self.trial_id, 1).notes
        self.assertTrue(any(n.startswith("7 numbers were told as classes") for n in notes), notes)

    def test_a_number_of_no_class_is_refused_as_one(self) -> None:
        with self.assertRaises(InputError) as caught:
            self.leaf(1, 57, classed=True)
        self.assertEqual(caught.exception.code, "no_class")

    def test_classes_follow_on_and_are_read_as_their_middle_on_the_log_scale(self) -> None:
        for kind, after in pairwise(CLASSES[1:]):
            self.assertEqual((kind.high or 0) + 1, after.low)
            self.assertAlmostEqual(kind.reads, ((kind.low or 1) * (kind.high or 1)) ** 0.5, delta=1)


class SecondPerson(Samples):
    def second(self, sample: int, value: float, plant: int | None = None) -> None:
        """Keep what a second person counted on a leaf."""
        changes = {"sample": sample, "person": "Ilse"}
        entry = self.entry(plant or self.first, value, **changes)
        keeping.keep_tally(self.context, self.trial_id, 0, entry)

    def test_their_numbers_are_kept_apart_and_change_nothing_that_holds(self) -> None:
        for sample in range(1, 7):
            self.leaf(sample, 10)
        before = self.now_holds
        self.second(1, 4)
        self.assertEqual(self.now_holds, before)
        theirs = sheets.count_sheet(self.context, self.trial_id, 0, "Ilse")
        self.assertEqual([t.value for t in theirs.tallies], [4])
        ours = sheets.count_sheet(self.context, self.trial_id, 0)
        self.assertEqual(([t.value for t in ours.tallies], ours.contests), ([10] * 6, ()))
        history = sheets.tally_history(self.context, self.trial_id, 0, self.first, "live")
        self.assertEqual(len(history), 6)

    def test_a_second_person_first_at_a_leaf_does_not_hold_either(self) -> None:
        self.second(1, 4)
        self.assertEqual(sheets.count_sheet(self.context, self.trial_id, 0).tallies, ())
        self.leaf(1, 9)
        self.assertEqual(sheets.count_sheet(self.context, self.trial_id, 0).contests, ())

    def test_they_are_compared_where_both_counted(self) -> None:
        for sample, number in enumerate((10, 20, 30, 14, 40, 22), start=1):
            self.leaf(sample, number)
            self.second(sample, round(0.8 * number))
        self.second(9, 100)  # nobody else counted there
        (found,) = sheets.agreements(self.context, self.trial_id, 0)
        self.assertEqual((found.person, found.pairs), ("Ilse", 6))
        self.assertAlmostEqual(found.ratio or 0, 0.8, delta=0.02)


class Compared(unittest.TestCase):
    def test_a_leaf_on_which_two_are_far_apart_is_named(self) -> None:
        first = {(k, 0): 20.0 + k for k in range(12)}
        second = {**first, (3, 0): 90.0}
        found = agreement("Ilse", first, second)
        self.assertEqual([(a.plant_id, a.second) for a in found.apart], [(3, 90)])
        self.assertIn("which may be chance", agreement_note(found))

    def test_few_pairs_tell_nothing(self) -> None:
        found = agreement("Ilse", {(1, 0): 3.0}, {(1, 0): 4.0})
        self.assertEqual((found.ratio, agreement_note(found)), (None, ""))


class Marked(Samples):
    def test_what_a_marked_leaf_had_before_is_told_and_only_of_marked_ones(self) -> None:
        for sample in range(1, 7):
            self.leaf(sample, 10 + sample)
        self.assertEqual(sheets.count_sheet(self.context, self.trial_id, 1).earlier, ())
        with self.context.database.atomic() as connection:
            connection.execute("UPDATE trial SET setup = json_set(setup, '$.marked', json('true'))")
        earlier = sheets.count_sheet(self.context, self.trial_id, 1).earlier
        self.assertEqual([(e.sample, e.value) for e in earlier], [(k, 10 + k) for k in range(1, 7)])
        self.assertEqual(sheets.count_sheet(self.context, self.trial_id, 0).earlier, ())
