"""A trial that goes on: further plants, the same question, one verdict; and two waves."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.field.progress import Job, JobKind
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import DesignKind
from orthocris.core.verdict.result import Outcome
from orthocris.services.context import Context
from orthocris.services.planning import layouts
from orthocris.services.trial import benches, questions
from orthocris.services.trial.overviews import overview
from orthocris.services.verdict import judging, parts
from tests.services.world import ServiceCase

OIL = RemedyDraft("Oil", Role.REMEDY, "10 ml oil and 2 ml soap in 1 litre")
MILK = RemedyDraft("Milk", Role.REMEDY, "100 ml milk in 1 litre")


def jobs_of(context: Context, trial_id: int) -> tuple[Job, ...]:
    """What is still to be done in a trial."""
    return overview(context, trial_id).jobs


class GoesOn(ServiceCase):
    def ask(self, *remedies: RemedyDraft, **setup: object) -> None:
        """Ask anew of the water, the soap and these."""
        asked = questions.question_of(self.trial)
        asked = replace(
            asked,
            remedies=(*asked.remedies, *remedies),
            setup=replace(asked.setup, beside=(), **setup),  # type: ignore[arg-type]
            round_days=(0,),
        )
        questions.change_question(self.context, self.trial_id, asked, self.now.date())

    def run_part(self, after: dict[str, list[float]]) -> None:
        """Count 30 and some on each plant, spray, and count on both looks what is left."""
        names = {r.id: r.name for r in self.trial.remedies}
        at = {name: iter(values * 20) for name, values in after.items()}
        left = {p.id: next(at[names[p.remedy_id or 0]]) for p in self.trial.trial_plants}
        for k, plant in enumerate(left):
            self.count(plant, 30 + k % 3)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            for plant, value in left.items():
                self.count(plant, value, look)

    def go_on(self) -> None:
        """Go on, with eight plants more, and look at that trial from now on."""
        self.trial_id = parts.go_on(self.context, self.trial_id)
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=8)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)

    def test_an_open_answer_is_settled_on_further_plants_judged_together(self) -> None:
        self.ask()
        self.plant_and_draw(6)
        self.run_part({"Water": [30, 50, 40], "Soap": [14, 50, 19]})
        first = judging.verdict_of(self.context, self.trial_id)
        self.assertIs(first.verdict.outcome, Outcome.UNDECIDED)
        self.go_on()
        self.assertEqual(self.trial.name, "Gutters, goes on")
        self.later(1)
        self.run_part({"Water": [40, 50], "Soap": [2, 3]})
        both = judging.verdict_of(self.context, self.trial_id)
        self.assertIs(both.verdict.outcome, Outcome.WINNER)
        self.assertEqual(both.verdict.design.plants, 14)
        self.assertEqual(both.verdict.method["additions"], 1)
        self.assertIn("Judged together with Gutters (6 plants)", " ".join(both.notes))
        self.assertEqual(len({o.plant for o in both.counted}), 14)  # S1 is in both
        self.assertIsNone(parts.next_part(self.context, self.trial_id))  # it is settled
        with self.assertRaises(ConflictError):
            parts.go_on(self.context, self.trial_id)
        record = judging.verdict_of(self.context, self.trial.goes_on or 0).record
        assert record is not None  # what was decided upon stays as it was
        self.assertEqual(record.verdict["sentence"], first.verdict.sentence)

    def test_it_asks_the_same_and_goes_on_once(self) -> None:
        self.ask()
        self.plant_and_draw(6)
        self.run_part({"Water": [30, 50, 40], "Soap": [14, 50, 19]})
        first = self.trial_id
        self.go_on()
        asked = questions.question_of(self.trial)
        for other in (
            replace(asked, threshold=0.5),
            replace(asked, look_days=(3, 9)),
            replace(asked, remedies=(*asked.remedies, OIL)),
            replace(asked, setup=replace(asked.setup, samples=4)),
        ):
            with self.assertRaises(ConflictError) as refused:
                questions.change_question(self.context, self.trial_id, other, self.now.date())
            self.assertEqual(refused.exception.code, "goes_on")
        bench = replace(asked, name="Gutters II", setup=replace(asked.setup, place_cm=90))
        questions.change_question(self.context, self.trial_id, bench, self.now.date())
        with self.assertRaises(ConflictError) as twice:
            parts.go_on(self.context, first)
        self.assertEqual(twice.exception.code, "goes_on_already")
        found = parts.next_part(self.context, first)
        assert found is not None
        self.assertEqual(found.there, self.trial_id)
        told = judging.verdict_of(self.context, first).verdict
        self.assertIn(f"{told.more_plants} more plants of each", told.advice)
        self.assertEqual(found.wanted, 2 * told.more_plants)  # water too

    def test_after_the_second_addition_the_answer_is_final(self) -> None:
        asked = replace(questions.question_of(self.trial), threshold=0.2)
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.ask()
        self.plant_and_draw(6)
        for _ in range(2):
            self.run_part({"Water": [30, 50, 40], "Soap": [20, 60, 25]})
            self.go_on()
            self.later(1)
        self.run_part({"Water": [30, 50, 40], "Soap": [20, 60, 25]})
        found = judging.verdict_of(self.context, self.trial_id)
        self.assertIs(found.verdict.outcome, Outcome.UNDECIDED)
        self.assertIn("This answer is final", found.verdict.advice)
        self.assertEqual(self.trial.name, "Gutters, goes on again")
        self.assertIsNone(parts.next_part(self.context, self.trial_id))

    def test_nothing_goes_on_before_the_last_look(self) -> None:
        self.ask()
        self.plant_and_draw(6)
        self.assertIsNone(parts.next_part(self.context, self.trial_id))
        with self.assertRaises(ConflictError):
            parts.go_on(self.context, self.trial_id)

    def test_two_waves_drop_what_is_out_of_question_and_judge_all(self) -> None:
        self.ask(OIL, MILK, two_waves=True)
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=2, per_row=16)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.assertEqual(len(self.trial.trial_plants), 16)  # four blocks of eight
        waiting = {p.name for p in self.trial.active_plants if p.remedy_id is None}
        self.run_part(
            {"Water": [30, 45, 40], "Soap": [5, 9, 3], "Oil": [9, 14, 6], "Milk": [41, 30, 46]}
        )
        first = judging.verdict_of(self.context, self.trial_id)
        self.assertFalse(first.final)
        self.assertIsNone(first.verdict.recommended)
        self.assertIn("first of two waves", first.verdict.advice)
        found = parts.next_part(self.context, self.trial_id)
        assert found is not None
        self.assertEqual(found.keeps, ("Water", "Soap", "Oil"))
        self.assertIn("chance of under 1%", found.leaves_out["Milk"])
        self.assertEqual(found.waiting, 16)
        ready = [job.kind for job in jobs_of(self.context, self.trial_id)]
        self.assertIn(JobKind.READ, ready)
        first_id = self.trial_id
        self.trial_id = parts.go_on(self.context, self.trial_id, "a key that is sent twice")
        self.assertEqual(jobs_of(self.context, first_id), ())  # it is read, and goes on elsewhere
        self.assertEqual({p.name for p in self.trial.active_plants}, waiting)
        self.assertEqual([r.name for r in self.trial.remedies], ["Water", "Soap", "Oil"])
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.run_part({"Water": [30, 45, 40], "Soap": [4, 9, 3], "Oil": [9, 14, 6]})
        both = judging.verdict_of(self.context, self.trial_id)
        self.assertTrue(both.final)
        self.assertEqual(both.verdict.recommended, "Soap")
        self.assertEqual(both.verdict.design.plants, 32)
        self.assertIn("Milk", {r.name for r in both.verdict.remedies})

    def test_two_waves_need_complete_blocks_and_plants_for_both(self) -> None:
        with self.assertRaises(InputError):
            self.ask(two_waves=True, design=DesignKind.RANDOMISED)
        self.ask(two_waves=True)
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=6)
        with self.assertRaises(ConflictError) as few:
            layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.assertIn("3 blocks for two waves", few.exception.message)
