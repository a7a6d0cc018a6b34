"""Practice sessions: begun once, counted leaf by leaf, the truth told after the count."""

from __future__ import annotations

import io

from PIL import Image

from orthocris.core.counting.practice import Counted, practice_leaf
from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.services.counting import practice
from orthocris.services.verdict import judging
from tests.services.world import ServiceCase


class Practice(ServiceCase):
    def begin(self, key: str = "practice-1", leaves: int = 6) -> practice.SessionTold:
        """A session with aphids."""
        return practice.begin(self.context, key, "aphids", "some", leaves, "Ilse")

    def test_a_session_begun_twice_is_one(self) -> None:
        first = self.begin()
        self.assertEqual(self.begin().session.id, first.session.id)
        with self.assertRaises(ConflictError):
            self.begin(leaves=3)
        with self.assertRaises(InputError):
            self.begin("practice-2", leaves=400)

    def test_the_truth_is_told_after_the_count_which_then_stands(self) -> None:
        told = self.begin()
        self.assertEqual(told.leaves, ())
        told = practice.keep_count(self.context, told.session.id, 1, Counted(9, 2, seconds=20))
        (leaf,) = told.leaves
        self.assertEqual(leaf.truth.live, sum(f.thing in ("live", "young") for f in leaf.figures))
        again = practice.keep_count(self.context, told.session.id, 1, Counted(9, 2, seconds=25))
        self.assertEqual(again.leaves, told.leaves)  # a lost answer, sent again
        with self.assertRaises(ConflictError):
            practice.keep_count(self.context, told.session.id, 1, Counted(leaf.truth.live))

    def test_every_leaf_has_its_own_picture(self) -> None:
        told = self.begin()
        one, two = (practice.leaf_picture(self.context, told.session.id, n) for n in (1, 2))
        self.assertNotEqual(one, two)
        with Image.open(io.BytesIO(one)) as image:
            self.assertGreaterEqual(image.width, 1000)
        with self.assertRaises(NotFoundError):
            practice.leaf_picture(self.context, told.session.id, 7)

    def test_a_verdict_names_what_practice_is_sure_of_and_only_with_this_pest(self) -> None:
        def spell(key: str, pest: str) -> None:
            """Twenty leaves on which every dead one is taken for live."""
            told = practice.begin(self.context, key, pest, "some", 20, "Ilse")
            for number in range(1, 21):
                plan = practice_leaf(pest, told.session.seed, number, "some")
                live = plan.live + plan.young + plan.dead
                practice.keep_count(self.context, told.session.id, number, Counted(live))

        spell("practice-a", "aphids")
        self.plant_and_draw()
        self.count_all(0, soap=20, water=20)
        self.spray_all()
        self.later(3)
        self.count_all(1, soap=2, water=20)
        self.open_key()
        notes = judging.verdict_of(self.context, self.trial_id, 1).notes
        self.assertFalse(any("drawn leaves" in note for note in notes))
        spell("practice-m", "spider_mites")
        notes = judging.verdict_of(self.context, self.trial_id, 1).notes
        told = [note for note in notes if "drawn leaves" in note]
        self.assertRegex(told[0], r"^About 100 of 100 dead ones were taken for live by Ilse")

    def test_progress_is_told_by_person_and_over_all_sessions(self) -> None:
        for key, seen in (("practice-1", 0.5), ("practice-2", 1.0)):
            told = self.begin(key)
            for number in range(1, 7):
                truth = practice.session_of(self.context, told.session.id)
                plan = practice_leaf("aphids", truth.session.seed, number, "some")
                live = round(seen * (plan.live + plan.young))
                practice.keep_count(self.context, told.session.id, number, Counted(live))
        (one,) = practice.progress(self.context)
        self.assertEqual((one.person, one.error.leaves, len(one.sessions)), ("Ilse", 12, 2))
        first, second = (error.bias for _, error in one.sessions)
        self.assertTrue(first and second and first < 0.75 < second == 1)
