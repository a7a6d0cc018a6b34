"""What the screens are given: today's jobs across trials, and the cautions at the act."""

from __future__ import annotations

import unittest
from dataclasses import replace

from orthocris.core.field.progress import JobKind
from orthocris.core.field.thread import State
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.services.trial import overviews, questions
from tests.services.world import QUESTION, ServiceCase


class Today(ServiceCase):
    def first_job(self) -> tuple[JobKind, int | None]:
        """Kind and number of what is due first."""
        job = overviews.overview(self.context, self.trial_id).jobs[0]
        return job.kind, job.number

    def test_the_next_job_follows_the_work(self) -> None:
        self.assertEqual(self.first_job(), (JobKind.PLAN, None))
        self.plant_and_draw()
        self.assertEqual(self.first_job(), (JobKind.PATCH, None))
        kinds = [j.kind for j in overviews.overview(self.context, self.trial_id).jobs]
        self.assertEqual(kinds, [JobKind.PATCH, JobKind.MIX, JobKind.COUNT, JobKind.SPRAY])
        self.count_all(0, 20, 20)
        self.spray_all()
        self.assertEqual(self.first_job(), (JobKind.COUNT, 1))
        self.later(3)
        self.count_all(1, 3, 22)
        self.assertEqual(self.first_job(), (JobKind.MIX, 2))  # the first bottle is too old
        self.later(2)
        self.spray_all(2)
        self.later(2)
        self.count_all(2, 1, 25)
        self.assertEqual(self.first_job(), (JobKind.READ, None))
        self.later(8)
        self.assertEqual(overviews.overview(self.context, self.trial_id).jobs, ())

    def test_a_job_says_how_many_plants_are_left(self) -> None:
        self.plant_and_draw()
        for plant in self.trial.trial_plants[:3]:
            self.count(plant.id, 5)
        due = overviews.overview(self.context, self.trial_id).jobs
        job = next(j for j in due if j.kind is JobKind.COUNT)
        self.assertEqual((job.left, job.of), (5, 8))

    def test_trials_with_the_earliest_job_come_first_and_finished_ones_last(self) -> None:
        self.plant_and_draw()
        later = replace(QUESTION, name="Later")
        self.later(1)
        questions.create_trial(self.context, later, self.now.date())
        self.now = self.now.replace(month=6)
        names = [t.plan.name for t in overviews.today(self.context).trials]
        self.assertEqual(names, ["Gutters", "Later"])

    def test_a_round_with_missed_plants_frays_the_thread(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 20, 20)
        self.start(1)
        for plant in self.trial.trial_plants[:-1]:
            self.spray_one(1, plant.id)
        self.later(3)
        self.count_all(1, 3, 20)
        self.later(4)
        self.count_all(2, 3, 20)
        rounds = overviews.overview(self.context, self.trial_id).stations[5]
        self.assertEqual(rounds.state, State.FRAYED)
        self.assertIn("missed some plants", rounds.line)


class AtTheAct(ServiceCase):
    def test_cautions_come_with_the_recipe_they_concern(self) -> None:
        alcohol = RemedyDraft("Spirit", Role.REMEDY, "150 ml of 70% alcohol in 1 litre")
        asked = replace(QUESTION, remedies=(QUESTION.remedies[0], alcohol))
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())
        seen = overviews.overview(self.context, self.trial_id)
        water, spirit = (seen.cautions[r.id] for r in seen.trial.remedies)
        self.assertEqual(water, ())
        self.assertIn("no fire", " ".join(spirit))
        self.assertIn("local extension service", " ".join(seen.general_cautions))


if __name__ == "__main__":
    unittest.main()
