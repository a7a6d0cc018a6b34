"""The watch over egg clusters: first hatch, what vanished, the end, and their fates."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from orthocris.core.counting.notebook import NoteEntry
from orthocris.core.trial.setup import Kind, Setup, Unit
from orthocris.services.counting import keeping, notebook, sheets
from orthocris.services.pantry.catalogue import propose
from orthocris.services.planning import critiques
from orthocris.services.trial import questions
from orthocris.services.verdict import judging
from tests.services.world import QUESTION, ServiceCase

OFF = ("eggs_in_soapy_water", "eggs_on_tape", "eggs_dropped")


class EggWatch(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        setup = Setup(kind=Kind.EGGS, unit=Unit.CLUSTER, beside=("vanished",))
        wanted = replace(
            QUESTION, pest="true_bugs", measure="hatched", look_days=(1, 2, 3, 4), setup=setup
        )
        questions.change_question(self.context, self.trial_id, wanted, self.now.date())
        self.plant_and_draw()
        self.clusters = [p.id for p in self.trial.trial_plants]
        for plant in self.clusters:
            self.eggs(plant, 0, 0, 0)
        self.spray_all()

    def eggs(self, plant: int, look: int, hatched: float, gone: float, of: float = 20) -> None:
        """Keep what a cluster of twenty eggs showed."""
        share = self.entry(plant, hatched, measure="hatched", of=of)
        keeping.keep_tally(self.context, self.trial_id, look, share)
        rest = self.entry(plant, gone, measure="vanished")
        keeping.keep_tally(self.context, self.trial_id, look, rest)

    def test_first_hatch_what_is_gone_and_the_end_are_told_day_by_day(self) -> None:
        first, second = self.clusters[:2]
        for look, hatched, gone in ((1, 0, 2), (2, 5, 2), (3, 17, 3)):
            self.later(1)
            self.eggs(first, look, hatched, gone)
        self.eggs(second, 3, 0, 0)
        told = {w.plant_id: w for w in sheets.egg_watch(self.context, self.trial_id)}
        one, other = told[first], told[second]
        self.assertEqual((one.hatched, one.vanished, one.left), (17, 3, 0))
        self.assertEqual(one.first_hatch_after, date(2026, 5, 11))
        self.assertEqual(one.first_hatch_on, date(2026, 5, 12))
        self.assertEqual(one.ended_on, date(2026, 5, 13))
        self.assertEqual((other.left, other.first_hatch_on, other.ended_on), (20, None, None))
        self.assertFalse(one.shrank or other.shrank)

    def test_more_gone_than_there_were_is_named_and_kept(self) -> None:
        self.later(1)
        self.eggs(self.clusters[0], 1, 15, 9)
        (one, *_) = sheets.egg_watch(self.context, self.trial_id)
        self.assertTrue(one.shrank)
        self.assertEqual(one.left, 0)

    def test_eggs_that_come_back_are_named(self) -> None:
        """Fewer hatched than the day before, or fewer gone: one of the two numbers is wrong."""
        for cluster, (first, second) in zip(
            self.clusters, (((7, 0), (5, 0)), ((0, 6), (0, 2)), ((5, 2), (5, 2))), strict=False
        ):
            for look, (hatched, gone) in ((1, first), (2, second)):
                self.eggs(cluster, look, hatched, gone)
        told = {w.plant_id: w.shrank for w in sheets.egg_watch(self.context, self.trial_id)}
        self.assertEqual([told[c] for c in self.clusters[:3]], [True, True, False])

    def test_fates_are_noted_and_told_by_remedy(self) -> None:
        self.later(1)
        for plant in self.clusters:
            self.eggs(plant, 1, 0, 20)
            entry = NoteEntry(f"fate-of-{plant}", plant, 0, "", self.now, ("eggs_destroyed",))
            notebook.keep_note(self.context, self.trial_id, 1, entry)
        self.open_key()
        seen = judging.verdict_of(self.context, self.trial_id, 1).seen
        self.assertEqual({(s.what, s.plants, s.of) for s in seen}, {("eggs_destroyed", 4, 4)})
        self.assertEqual([s.remedy for s in seen], ["Water", "Soap"])


class NoEggs(ServiceCase):
    def test_other_questions_have_no_watch(self) -> None:
        self.assertEqual(sheets.egg_watch(self.context, self.trial_id), ())


class EggsInJars(ServiceCase):
    def test_taken_off_they_are_compared_jar_by_jar(self) -> None:
        made = propose(self.context, ("water_only", *OFF), strengths=None, as_square=False)
        setup = Setup(kind=Kind.EGGS, unit=Unit.JAR, beside=())
        wanted = replace(
            QUESTION,
            pest="true_bugs",
            measure="hatched",
            look_days=(4, 8),
            round_days=(0,),
            remedies=made,
            setup=setup,
        )
        today = self.now.date()
        on_plants = replace(wanted, setup=replace(setup, unit=Unit.CLUSTER))
        self.trial_id = questions.create_trial(self.context, on_plants, today)
        codes = {f.code for f in critiques.review(self.context, self.trial_id).findings}
        self.assertEqual(len([code for code in codes if code.startswith("unsuited")]), 3)
        self.trial_id = questions.create_trial(self.context, wanted, today)
        codes = {f.code for f in critiques.review(self.context, self.trial_id).findings}
        self.assertFalse([code for code in codes if code.startswith("unsuited")])
        critiques.mend(self.context, self.trial_id, "control_way")
        self.assertIn("laid dry on paper", self.trial.remedies[0].recipe)
        self.plant_and_draw(24)
        hatch = dict(zip((r.name for r in self.trial.remedies), (17, 1, 9, 18), strict=True))
        names = {r.id: r.name for r in self.trial.remedies}
        self.spray_all()
        for look in (1, 2):
            self.later(4)
            for k, jar in enumerate(self.trial.trial_plants):
                number = min(20, hatch[names[jar.remedy_id or 0]] + k % 3 - 1)
                entry = self.entry(jar.id, number, measure="hatched", of=20)
                keeping.keep_tally(self.context, self.trial_id, look, entry)
        found = judging.verdict_of(self.context, self.trial_id)
        self.assertEqual(found.verdict.recommended, "Eggs in soapy water")
        dropped = next(r for r in found.verdict.remedies if r.name == "Eggs dropped on soil")
        self.assertFalse(dropped.beats_control)
