"""The plants of a trial: added, changed, set aside, removed, and when they no longer can be."""

from __future__ import annotations

import unittest
from dataclasses import replace

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.services.trial import benches
from orthocris.services.verdict import judging as verdicts
from tests.services.world import ServiceCase


class Benches(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=2, per_row=3)

    def change(self, who: str, /, **changes: object) -> None:
        """Change a plant by its name."""
        plant = next(p for p in self.trial.plants if p.name == who)
        benches.change_plant(self.context, self.trial_id, replace(plant, **changes))  # type: ignore[arg-type]

    def test_leaves_know_their_plant(self) -> None:
        made = benches.add_plants(
            self.context, self.trial_id, prefix="L", rows=2, per_row=2, row_is_plant=True
        )
        self.assertEqual([p.host for p in made], ["plant 3"] * 2 + ["plant 4"] * 2)
        self.change(made[0].name, host="the tall one")
        self.assertEqual(
            [p.host for p in self.trial.plants if p.name == made[0].name], ["the tall one"]
        )
        with self.assertRaises(InputError) as caught:
            self.change(made[0].name, host="x" * 41)
        self.assertEqual(caught.exception.field, "host")

    def test_rows_are_named_on(self) -> None:
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=2)
        self.assertEqual([p.name for p in self.trial.plants][-2:], ["S7", "S8"])
        self.assertEqual(self.trial.plants[-1].row, 3)

    def test_a_bad_part_of_the_bench_adds_nothing(self) -> None:
        for rows, per_row in ((0, 5), (1, 61), (41, 1), (30, 30)):
            with self.assertRaises(InputError):
                benches.add_plants(
                    self.context, self.trial_id, prefix="S", rows=rows, per_row=per_row
                )
        self.assertEqual(len(self.trial.plants), 6)
        with self.assertRaises(InputError):
            benches.add_plants(self.context, self.trial_id, prefix="x" * 50, rows=1, per_row=1)
        self.assertEqual(len(self.trial.plants), 6)

    def test_fields_are_kept_and_bad_ones_refused(self) -> None:
        self.change("S2", name="  Left one ", match_count=14, size=3.5)
        plant = next(p for p in self.trial.plants if p.name == "Left one")
        self.assertEqual((plant.match_count, plant.size), (14, 3.5))
        for changes, field in (
            ({"name": ""}, "name"),
            ({"name": "s3"}, "name"),
            ({"match_count": -1}, "match_count"),
            ({"match_count": 0.5}, "match_count"),
            ({"row": 0}, "row"),
            ({"place": 2, "row": 1}, "place"),
            ({"size": 0}, "size"),
        ):
            with self.subTest(changes), self.assertRaises(InputError) as caught:
                self.change("S1", **changes)
            self.assertEqual(caught.exception.field, field)

    def test_a_counted_plant_is_set_aside_not_removed(self) -> None:
        gone = self.trial.plants[5]
        benches.remove_plant(self.context, self.trial_id, gone.id)
        with self.assertRaises(NotFoundError):
            benches.remove_plant(self.context, self.trial_id, gone.id)
        self.plant_and_draw(per_row=4)
        counted = self.trial.trial_plants[0]
        self.count(counted.id, 9)
        with self.assertRaises(ConflictError) as caught:
            benches.remove_plant(self.context, self.trial_id, counted.id)
        self.assertEqual(caught.exception.code, "plant_counted")

    def test_after_the_first_spray_plants_stay(self) -> None:
        self.plant_and_draw(per_row=4)
        self.count_all(0, 20, 20)
        self.spray_all()
        with self.assertRaises(ConflictError):
            benches.add_plants(self.context, self.trial_id, prefix="T", rows=1, per_row=1)
        name = self.trial.trial_plants[0].name
        with self.assertRaises(ConflictError):
            self.change(name, match_count=99)
        self.change(name, name="Renamed")  # a name may still be corrected

    def test_a_lost_plant_leaves_the_work_but_not_the_verdict(self) -> None:
        self.plant_and_draw(per_row=6)
        self.count_all(0, 20, 20)
        self.spray_all()
        lost = self.trial.trial_plants[-1]
        self.change(lost.name, set_aside="Knocked over by the wind")
        self.assertTrue(self.trial.laid_out)
        self.later(7)
        self.count_all(2, 2, 20)
        self.open_key()
        found = verdicts.verdict_of(self.context, self.trial_id)
        self.assertTrue(found.final)
        told = next(w.text for w in found.verdict.warnings if w.code == "plants_not_counted")
        self.assertIn(lost.name, told)
        self.change(lost.name, set_aside=None)
        self.assertIn(lost.id, {p.id for p in self.trial.trial_plants})


if __name__ == "__main__":
    unittest.main()
