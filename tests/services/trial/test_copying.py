"""A trial planned again: the same question on the same places, and nothing of what was done."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

from orthocris.core.trial.care import Care
from orthocris.services.field import patches
from orthocris.services.trial import questions
from orthocris.storage.trial import reading
from tests.services.world import QUESTION, ServiceCase


class Again(ServiceCase):
    def test_the_plan_and_its_places_come_along_and_nothing_of_what_was_done(self) -> None:
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        care = Care(ml_per_plant=60.0, leaf_kinds=("hairy leaves",))
        patches.change_care(self.context, self.trial_id, care)
        self.now += timedelta(days=365)
        made = questions.copy_trial(self.context, self.trial_id, "a-key-of-eight")
        self.assertEqual(questions.copy_trial(self.context, self.trial_id, "a-key-of-eight"), made)
        with self.context.database.reading() as connection:
            again = reading.load_counted(connection, made)
        first = self.trial
        self.assertEqual((again.name, again.start_on), ("Gutters, again", self.now.date()))
        asked = replace(questions.question_of(again), name=first.name)
        bare = [replace(r, id=None) for r in asked.remedies]
        self.assertEqual(bare, [replace(r, id=None) for r in questions.question_of(first).remedies])
        self.assertEqual((asked.look_days, asked.round_days), ((3, 7), (0, 5)))
        places = [(p.name, p.row, p.place) for p in first.active_plants]
        self.assertEqual([(p.name, p.row, p.place) for p in again.active_plants], places)
        self.assertEqual({(p.remedy_id, p.match_count) for p in again.plants}, {(None, None)})
        self.assertEqual((again.tallies, again.seed, again.care), ((), None, care))

    def test_the_longest_name_finds_room_and_a_harvest_of_that_season_is_gone(self) -> None:
        setup = replace(QUESTION.setup, eaten=True, harvest_on=self.now.date())
        asked = replace(QUESTION, name="x" * 80, setup=setup)
        trial = questions.create_trial(self.context, asked, self.now.date())
        made = questions.copy_trial(self.context, trial)
        with self.context.database.reading() as connection:
            again = reading.load_plan(connection, made)
        self.assertEqual(
            (len(again.name), again.setup.eaten, again.setup.harvest_on), (77, True, None)
        )
