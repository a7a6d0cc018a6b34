"""A trial's own questions: walking order, days, what is counted and sprayed."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime

from orthocris.core.errors import InputError
from orthocris.core.trial.plan import Look, Remedy, Role, Round
from orthocris.core.trial.setup import DesignKind, Setup, check_setup
from orthocris.core.trial.trial import CountedTrial, Plant, Spray, Tally

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)


def trial(**changes: object) -> CountedTrial:
    """A small trial of five plants in two rows."""
    plants = tuple(
        Plant(k, f"S{k}", row, place, 3, None, 1, 1)
        for k, (row, place) in enumerate(((1, 1), (1, 2), (2, 1), (2, 2), (3, 1)), start=1)
    )
    whole = CountedTrial(
        1,
        "x",
        "aphids",
        "live",
        0.6,
        date(2026, 5, 12),
        None,
        1,
        (Remedy(1, "Water", Role.CONTROL, "", "A", 1),),
        plants=plants,
        rounds=(Round(1, 1, 0),),
        looks=(Look(1, 0, 0), Look(2, 1, 3)),
    )
    return replace(whole, **changes)  # type: ignore[arg-type]


class Walking(unittest.TestCase):
    def test_rows_are_walked_to_and_fro_without_crossing(self) -> None:
        self.assertEqual([p.id for p in trial().active_plants], [1, 2, 4, 3, 5])

    def test_plants_set_aside_or_spare_are_not_on_the_way(self) -> None:
        plants = list(trial().plants)
        plants[1] = replace(plants[1], set_aside="odd")
        plants[3] = replace(plants[3], block=None, remedy_id=None)
        walked = trial(plants=tuple(plants))
        self.assertEqual([p.id for p in walked.active_plants], [1, 4, 3, 5])
        self.assertEqual([p.id for p in walked.trial_plants], [1, 3, 5])


class Days(unittest.TestCase):
    def test_days_run_from_the_plan_until_the_first_spray_is_done(self) -> None:
        self.assertEqual(trial().date_of(3), date(2026, 5, 15))
        self.assertEqual(trial(sprayed_on=date(2026, 5, 14)).date_of(3), date(2026, 5, 17))


class Records(unittest.TestCase):
    def test_withdrawn_and_unfinished_counts_do_not_count(self) -> None:
        tallies = (
            Tally(1, 1, 1, "live", 5, None, 1, True, NOW, NOW.date()),
            Tally(2, 1, 2, "live", None, None, 1, True, NOW, NOW.date()),
            Tally(3, 1, 3, "live", 4, None, 1, False, NOW, NOW.date()),
            Tally(4, 1, 4, "damage", 2, None, 1, True, NOW, NOW.date()),
            Tally(5, 2, 5, "live", 2, None, 1, True, NOW, NOW.date()),
        )
        counted = trial(tallies=tallies)
        self.assertEqual(set(counted.tallies_at(counted.looks[0], "live")), {1, 3})
        self.assertEqual(counted.counted_at(counted.looks[0]), {1})

    def test_sprays_belong_to_their_round(self) -> None:
        sprayed = trial(sprays=(Spray(1, 4, NOW), Spray(9, 5, NOW)))
        self.assertEqual(sprayed.sprayed_in(sprayed.rounds[0]), {4})


class Setups(unittest.TestCase):
    def test_rules_of_a_setup(self) -> None:
        check_setup(Setup(), 4)
        check_setup(Setup(design=DesignKind.INCOMPLETE, block_size=3), 4)
        for bad, field in (
            (Setup(place_cm=0.5), "setup.place_cm"),
            (Setup(row_cm=1001), "setup.row_cm"),
            (Setup(harvest_on=date(2026, 6, 1)), "setup.harvest_on"),
            (Setup(design=DesignKind.INCOMPLETE, block_size=4), "setup.block_size"),
            (Setup(design=DesignKind.INCOMPLETE), "setup.block_size"),
        ):
            with self.assertRaises(InputError) as caught:
                check_setup(bad, 4)
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
