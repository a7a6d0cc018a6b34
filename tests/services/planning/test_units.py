"""Few plants: three pots, or one plant, are not turned away."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError
from orthocris.core.trial.setup import Unit
from orthocris.services.planning import layouts, units
from orthocris.services.trial import benches, questions
from orthocris.services.verdict import judging
from tests.services.world import ServiceCase


class FewPlants(ServiceCase):
    def pots(self, number: int) -> None:
        """So many plants in a row."""
        benches.add_plants(self.context, self.trial_id, prefix="P", rows=1, per_row=number)

    def test_three_pots_in_halves_or_leaves_with_what_they_can_show(self) -> None:
        self.pots(3)
        halves, leaves = units.unit_proposals(self.context, self.trial_id)
        self.assertEqual((halves.unit, halves.each), (Unit.HALF, 2))
        self.assertRegex(
            halves.says, r"^With 6 halves you can(not)? tell (even )?\d\d% from nothing\."
        )
        self.assertEqual((leaves.unit, leaves.each), (Unit.LEAF, 2))
        units.split_plants(self.context, self.trial_id, Unit.HALF, 2)
        self.assertIs(self.trial.setup.unit, Unit.HALF)
        first = [("P1.1", "P1", 1, 1), ("P1.2", "P1", 1, 2), ("P2.1", "P2", 2, 1)]
        found = [(p.name, p.host, p.row, p.place) for p in self.trial.plants]
        self.assertEqual(found[:3], first)
        self.assertEqual(units.unit_proposals(self.context, self.trial_id), ())
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        by_pot: dict[str | None, set[int | None]] = {}
        for half in self.trial.trial_plants:
            by_pot.setdefault(half.host, set()).add(half.remedy_id)
        self.assertEqual([len(got) for got in by_pot.values()], [2, 2, 2])

    def test_one_plant_with_its_leaves_gets_to_a_verdict_about_this_plant(self) -> None:
        self.pots(1)
        (leaves,) = units.unit_proposals(self.context, self.trial_id)
        self.assertEqual((leaves.unit, leaves.each), (Unit.LEAF, 12))
        units.split_plants(self.context, self.trial_id, Unit.LEAF, leaves.each)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.assertEqual(len({p.block for p in self.trial.trial_plants}), 6)
        self.count_all(0, 30, 30)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, 3, 40)
        verdict = judging.verdict_of(self.context, self.trial_id).verdict
        self.assertIn("this one plant alone", verdict.sentence)
        self.assertEqual({r.plants for r in verdict.remedies}, {6})

    def test_a_drench_is_never_proposed_for_leaves(self) -> None:
        self.pots(3)
        asked = questions.question_of(self.trial)
        drench = tuple(replace(r, traits=replace(r.traits, way="drench")) for r in asked.remedies)
        questions.change_question(
            self.context, self.trial_id, replace(asked, remedies=drench), self.trial.start_on
        )
        self.assertEqual(units.unit_proposals(self.context, self.trial_id), ())

    def test_enough_plants_are_left_whole_and_counted_ones_too(self) -> None:
        self.pots(8)
        self.assertEqual(units.unit_proposals(self.context, self.trial_id), ())
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.count(self.trial.trial_plants[0].id, 5)
        with self.assertRaises(ConflictError) as counted:
            units.split_plants(self.context, self.trial_id, Unit.LEAF, 2)
        self.assertEqual(counted.exception.code, "plant_counted")
        self.assertEqual(len(self.trial.plants), 8)

    def test_leaves_need_a_leaf_of_each_remedy_on_every_pot(self) -> None:
        asked = questions.question_of(self.trial)
        more = tuple(replace(asked.remedies[1], id=None, name=f"Soap {k}") for k in range(3))
        asked = replace(asked, remedies=(*asked.remedies, *more))
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.pots(3)
        (leaves,) = units.unit_proposals(self.context, self.trial_id)
        self.assertEqual((leaves.unit, leaves.each), (Unit.LEAF, 5))
