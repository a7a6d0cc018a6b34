"""A crop answers what nobody should be asked."""

from __future__ import annotations

import unittest
from datetime import date

from orthocris.core.trial.crops import crop_named, facts_on, own_facts
from orthocris.core.trial.setup import Setup
from orthocris.knowledge import crops

MAY = date(2026, 5, 20)


class Crops(unittest.TestCase):
    def test_what_a_crop_tells_on_a_day(self) -> None:
        for said, day, south, delicate, eaten, in_bloom in (
            ("lupins", MAY, False, True, False, True),
            ("Lupin ", date(2026, 9, 1), False, True, False, False),
            ("lupins", MAY, True, True, False, False),
            ("lupins", date(2026, 12, 1), True, True, False, True),
            ("strawberry", MAY, False, True, True, True),
            ("rubber plants", MAY, False, False, False, False),
            ("seedlings", MAY, False, True, False, False),
        ):
            with self.subTest(said, day=day, south=south):
                crop = crop_named(said, crops())
                assert crop is not None
                facts = facts_on(crop, day, south=south)
                found = (facts.delicate, facts.eaten, facts.in_bloom)
                self.assertEqual(found, (delicate, eaten, in_bloom))
        self.assertIsNone(crop_named("ladder", crops()))

    def test_it_is_said_in_a_sentence(self) -> None:
        lupin = crop_named("lupins", crops())
        assert lupin is not None
        self.assertEqual(
            facts_on(lupin, MAY, south=True).said,
            "Waxy leaves, which soap and oil mark; nothing of them is eaten; in bloom from "
            "November to January.",
        )

    def test_each_name_is_one_crop_s(self) -> None:
        names = [name for crop in crops() for name in (crop.name, *crop.other_names)]
        self.assertEqual(len(names), len(set(names)))
        self.assertGreaterEqual(len(crops()), 80)

    def test_what_was_said_once_of_strange_plants_is_known_the_next_time(self) -> None:
        """The newest holds; they bloom in the months of the trials in which they did."""
        trials = [
            (date(2026, 8, 1), Setup(crop="quillworts", eaten=True)),
            (date(2026, 5, 1), Setup(crop="Quillworts ", delicate=True, in_bloom=True)),
            (date(2026, 5, 1), Setup(crop="Lupin", eaten=True)),  # known here: its own facts hold
            (date(2026, 5, 1), Setup()),
        ]
        (august,) = own_facts(trials, crops(), date(2027, 8, 20))
        self.assertEqual((august.name, august.eaten, august.delicate), ("quillworts", True, False))
        self.assertFalse(august.in_bloom)
        self.assertTrue(own_facts(trials, crops(), date(2027, 5, 20))[0].in_bloom)


if __name__ == "__main__":
    unittest.main()
