"""Planning through the services: looks, critic, moves, key, prints, simulations."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from unittest import mock

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.finding.triage import Action, Sighting
from orthocris.core.planning.allocation import allocate
from orthocris.core.trial.plan import Amount, Role, Traits
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import DesignKind, Kind
from orthocris.services import finding as looks
from orthocris.services.planning import critiques as planning
from orthocris.services.planning import layouts, printing
from orthocris.services.planning.powers import PowerJobs
from orthocris.services.trial import benches, questions
from orthocris.services.verdict import judging as verdicts
from tests.services.world import QUESTION, ServiceCase


class Looks(ServiceCase):
    def test_a_look_is_kept_and_the_next_one_knows_the_trend(self) -> None:
        first = looks.keep_inspection(
            self.context, "spider_mites", "gutter", ["webbing"], Sighting(10, 2)
        )
        self.assertEqual(first.action, Action.CLEAN_FIRST.value)
        self.later(4)
        second = looks.keep_inspection(self.context, "spider_mites", "gutter", [], Sighting(10, 6))
        self.assertIn("rising", second.reason)
        elsewhere = looks.keep_inspection(
            self.context, "spider_mites", "stairs", [], Sighting(10, 6)
        )
        self.assertNotIn("rising", elsewhere.reason)
        self.assertEqual([k.id for k in looks.inspections(self.context)][-1], first.id)

    def test_bad_looks_keep_nothing(self) -> None:
        for pest, seen, look in (
            (" ", [], Sighting(10, 1)),
            ("aphids", ["wings"], Sighting(10, 1)),
            ("aphids", [], Sighting(3, 4)),
        ):
            with self.assertRaises(InputError):
                looks.keep_inspection(self.context, pest, "", seen, look)
        self.assertEqual(looks.inspections(self.context), ())


class Critic(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=6)

    def codes(self) -> set[str]:
        """Codes of the findings that stand."""
        return {f.code for f in planning.review(self.context, self.trial_id).findings}

    def test_mends_are_kept(self) -> None:
        trial = self.trial
        asked = questions.question_of(trial)
        loose = replace(asked, setup=replace(asked.setup, match_place=False))
        questions.change_question(self.context, self.trial_id, loose, trial.start_on)
        self.assertIn("unmatched", self.codes())
        planning.mend(self.context, self.trial_id, "unmatched")
        self.assertNotIn("unmatched", self.codes())
        with self.assertRaises(NotFoundError):
            planning.mend(self.context, self.trial_id, "unmatched")
        with self.assertRaises(ConflictError):  # nobody but the gardener offers plants
            planning.mend(self.context, self.trial_id, "too_few_blocks")
        self.assertEqual(len(self.trial.plants), 6)

    def test_an_overruled_finding_stands_beside_the_verdict(self) -> None:
        with self.assertRaises(InputError):
            planning.overrule(self.context, self.trial_id, "too_few_blocks", "  ")
        planning.overrule(self.context, self.trial_id, "too_few_blocks", "no more room")
        self.assertNotIn("too_few_blocks", self.codes())
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 30)
        self.open_key()
        notes = " ".join(verdicts.verdict_of(self.context, self.trial_id).notes)
        self.assertIn("Too few blocks", notes)
        self.assertIn("no more room", notes)
        with self.assertRaises(ConflictError):
            planning.mend(self.context, self.trial_id, "unmatched")


class Bench(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()

    def places(self) -> dict[str, tuple[int, int]]:
        """Where each plant stands."""
        return {p.name: (p.row, p.place) for p in self.trial.plants}

    def test_moving_swaps_or_takes_a_free_place_and_keeps_the_tags(self) -> None:
        one, two = self.trial.plants[0], self.trial.plants[3]
        before = {p.id: p.remedy_id for p in self.trial.plants}
        planning.move_plant(self.context, self.trial_id, one.id, two.row, two.place)
        self.assertEqual((self.places()["S1"], self.places()["S4"]), ((1, 4), (1, 1)))
        planning.move_plant(self.context, self.trial_id, one.id, 3, 7)
        self.assertEqual(self.places()["S1"], (3, 7))
        self.assertEqual({p.id: p.remedy_id for p in self.trial.plants}, before)
        with self.assertRaises(InputError):
            planning.move_plant(self.context, self.trial_id, one.id, 0, 1)

    def test_a_latin_square_is_cleared_by_a_move(self) -> None:
        setup = replace(self.trial.setup, design=DesignKind.LATIN)
        question = replace(questions.question_of(self.trial), setup=setup)
        questions.change_question(self.context, self.trial_id, question, self.now.date())
        self.assertFalse(self.trial.laid_out)  # another design needs another drawing
        planning.move_plant(self.context, self.trial_id, self.trial.plants[2].id, 2, 1)
        planning.move_plant(self.context, self.trial_id, self.trial.plants[3].id, 2, 2)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=4)
        self.assertEqual(len(self.trial.trial_plants), 4)
        planning.move_plant(self.context, self.trial_id, self.trial.plants[0].id, 5, 5)
        self.assertFalse(self.trial.laid_out)

    def test_opening_the_key_is_recorded_once_and_told(self) -> None:
        planning.open_key(self.context, self.trial_id)
        opened = self.trial.key_opened_at
        self.later(1)
        planning.open_key(self.context, self.trial_id)
        self.assertEqual(self.trial.key_opened_at, opened)
        self.count_all(0, 30, 30)
        self.spray_all()
        self.later(3)
        self.count_all(1, 3, 30)
        notes = " ".join(verdicts.verdict_of(self.context, self.trial_id).notes)
        self.assertIn("not blind", notes)

    def test_a_new_drawing_seals_the_key_again(self) -> None:
        planning.open_key(self.context, self.trial_id)
        layouts.draw_layout(self.context, self.trial_id, reason="again", seed=None)
        self.assertIsNone(self.trial.key_opened_at)

    def test_prints_need_a_layout(self) -> None:
        self.assertIn(b"<svg", printing.sheet_of(self.context, self.trial_id, "letter", ""))
        with self.assertRaises(InputError):
            printing.sheet_of(self.context, self.trial_id, "a3", "")
        other = questions.create_trial(self.context, QUESTION, self.now.date())
        with self.assertRaises(ConflictError):
            printing.sheet_of(self.context, other, "a4", "")


class Kinds(ServiceCase):
    def test_a_ladder_is_read_as_one(self) -> None:
        rungs = tuple(
            RemedyDraft(
                f"Soap {ml}",
                Role.REMEDY,
                "",
                traits=Traits(ingredients=(Amount("soap", ml, "ml/L"),)),
            )
            for ml in (5, 20)
        )
        asked = replace(
            QUESTION,
            remedies=(QUESTION.remedies[0], *rungs),
            setup=replace(QUESTION.setup, kind=Kind.LADDER),
        )
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())
        self.plant_and_draw(per_row=18)
        self.assertEqual(self.trial.remedies[1].traits.ingredients[0].amount, 5)
        names = {r.id: r.name for r in self.trial.remedies}
        for look, levels in ((0, (30, 30, 30)), (1, (30, 4, 4)), (2, (30, 4, 1))):
            level = dict(zip(("Water", "Soap 5", "Soap 20"), levels, strict=True))
            for k, plant in enumerate(self.trial.trial_plants):
                self.count(plant.id, level[names[plant.remedy_id or 0]] + k % 3, look)
            if not look:
                self.spray_all()
            self.later(3 if not look else 4)
        self.open_key()
        early = verdicts.verdict_of(self.context, self.trial_id, 1)
        said = early.answers
        self.assertRegex(said[0], r"^60% would be removed at less than 5 ml/L, the weakest here")
        self.assertTrue(said[1].startswith("Soap 5 is the weakest here that likely removes 60%"))
        self.assertTrue(early.verdict.sentence.startswith("So far: "))

        last = verdicts.verdict_of(self.context, self.trial_id)
        self.assertEqual(last.verdict.remedies[0].name, "Soap 20")  # it removes most
        self.assertEqual(last.verdict.recommended, "Soap 5")
        self.assertTrue(last.verdict.sentence.startswith(f"{said[0]} Soap 5 is the weakest"))
        self.assertTrue(last.verdict.advice.startswith("Treat the rest with Soap 5,"))
        self.assertEqual([line[:3] for line in last.answers], ["50%", "90%"])
        checks = verdicts.checks_of(self.context, self.trial_id)
        self.assertFalse([check for check in checks if check.changed])


class Simulations(ServiceCase):
    def test_it_runs_to_an_answer_and_can_be_cancelled(self) -> None:
        self.plant_and_draw()
        jobs = PowerJobs(start=lambda work: work())
        job = jobs.begin(self.context, self.trial_id, None, 1.0, 4.0)
        self.assertEqual((job.state, job.progress), ("done", 1.0))
        self.assertIn("With your 8 plants", job.answer)
        self.assertIn(job.at_hand, [p.blocks for p in job.points])

        held: list[Callable[[], None]] = []
        waiting = PowerJobs(start=held.append)
        stopped = waiting.begin(self.context, self.trial_id, (0.5,), 1.0, 4.0)
        waiting.cancel(stopped.id)
        held[0]()
        self.assertEqual(stopped.state, "cancelled")
        self.assertEqual(waiting.find(stopped.id).points, [])

    def test_begun_twice_with_one_key_it_runs_once(self) -> None:
        self.plant_and_draw()
        held: list[Callable[[], None]] = []
        jobs = PowerJobs(start=held.append)
        first = jobs.begin(self.context, self.trial_id, (0.5,), 1.0, 4.0, "key-of-power")
        again = jobs.begin(self.context, self.trial_id, (0.5,), 1.0, 4.0, "key-of-power")
        self.assertEqual((again.id, len(held), again.stop.is_set()), (first.id, 1, False))
        with self.assertRaises(ConflictError):
            jobs.begin(self.context, self.trial_id, (0.6,), 1.0, 4.0, "key-of-power")

    def test_what_does_not_fit_is_refused(self) -> None:
        jobs = PowerJobs(start=lambda work: work())
        with self.assertRaises(ConflictError):
            jobs.begin(self.context, self.trial_id, None, 1.0, 4.0)
        self.plant_and_draw()
        with self.assertRaises(InputError):
            jobs.begin(self.context, self.trial_id, (0.5, 0.5), 1.0, 4.0)
        failed = jobs.begin(self.context, self.trial_id, (1.0,), 1.0, 4.0)
        self.assertEqual(failed.state, "failed")
        with self.assertRaises(NotFoundError):
            jobs.find(99)

    def test_an_incomplete_design_ends_with_an_answer(self) -> None:
        asked = questions.question_of(self.trial)
        oil = RemedyDraft("Oil", Role.REMEDY, "10 ml oil and 2 ml soap in 1 litre")
        milk = RemedyDraft("Milk", Role.REMEDY, "200 ml milk in 1 litre")
        setup = replace(asked.setup, design=DesignKind.INCOMPLETE, block_size=2)
        wider = replace(asked, remedies=(*asked.remedies, oil, milk), setup=setup)
        questions.change_question(self.context, self.trial_id, wider, self.trial.start_on)
        self.plant_and_draw(per_row=8)
        job = PowerJobs(start=lambda work: work()).begin(
            self.context, self.trial_id, None, 1.0, 4.0
        )
        self.assertEqual(job.state, "done")
        self.assertIn("With your 8 plants", job.answer)

    def test_a_mistake_of_the_program_is_never_waited_for(self) -> None:
        self.plant_and_draw()
        held: list[Callable[[], None]] = []
        jobs = PowerJobs(start=held.append)
        job = jobs.begin(self.context, self.trial_id, None, 1.0, 4.0)
        with (
            mock.patch(
                "orthocris.services.planning.powers.power_at", side_effect=ZeroDivisionError
            ),
            self.assertRaises(ZeroDivisionError),
        ):
            held[0]()
        self.assertEqual(job.state, "failed")
        self.assertIn("mistake of the program", job.answer)


class Drawing(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=8)

    def test_others_may_write_while_a_layout_is_drawn(self) -> None:

        def slow(*args: Any, **options: Any) -> Any:
            questions.create_trial(self.context, QUESTION, self.now.date())  # is not kept waiting
            return allocate(*args, **options)

        with mock.patch.object(layouts, "allocate", slow):
            layouts.draw_layout(self.context, self.trial_id, reason="", seed=3)
        self.assertTrue(self.trial.laid_out)

    def test_a_plant_changed_meanwhile_is_said(self) -> None:

        def meanwhile(*args: Any, **options: Any) -> Any:
            benches.change_plant(
                self.context, self.trial_id, replace(self.trial.plants[0], set_aside="broken")
            )
            return allocate(*args, **options)

        with (
            mock.patch.object(layouts, "allocate", meanwhile),
            self.assertRaises(ConflictError) as caught,
        ):
            layouts.draw_layout(self.context, self.trial_id, reason="", seed=3)
        self.assertEqual(caught.exception.code, "changed_while_drawing")
        self.assertFalse(self.trial.laid_out)


if __name__ == "__main__":
    unittest.main()
