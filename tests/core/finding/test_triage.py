"""Finding out by signs, and whether to act."""

from __future__ import annotations

import unittest

from orthocris.core.errors import InputError
from orthocris.core.finding.triage import Action, Sighting, advise, candidates
from orthocris.knowledge import disorders, pests, signs

WEIGHTS = {pest.key: pest.signs for pest in pests()}


class Signs(unittest.TestCase):
    def test_the_full_signs_of_each_pest_point_to_it(self) -> None:
        for pest in pests():
            first = candidates(pest.signs, WEIGHTS)[0]
            self.assertEqual(first.key, pest.key)
            self.assertEqual(first.unexplained, ())

    def test_a_shared_sign_leaves_several_and_names_what_is_unexplained(self) -> None:
        found = {c.key: c for c in candidates(["honeydew", "webbing"], WEIGHTS)}
        self.assertLessEqual({"aphids", "whiteflies", "scale_insects", "spider_mites"}, set(found))
        self.assertEqual(found["aphids"].unexplained, ("webbing",))
        self.assertEqual(candidates([], WEIGHTS), ())

    def test_honeydew_alone_leads_to_all_that_make_it(self) -> None:
        shown = [c.key for c in candidates(["honeydew"], WEIGHTS)[:6]]
        makers = {"aphids", "whiteflies", "mealybugs", "scale_insects", "sooty_mould"}
        self.assertLessEqual(makers, set(shown))

    def test_every_sign_is_drawn_and_belongs_to_some_pest_or_to_what_is_none(self) -> None:
        told = {k for w in (*WEIGHTS.values(), *(d.signs for d in disorders())) for k in w}
        self.assertEqual({s.key for s in signs()}, told)
        self.assertEqual([s.key for s in signs() if not s.drawing], [])

    def test_all_pests_of_the_job_are_there_with_what_a_gardener_must_know(self) -> None:
        self.assertEqual(len(pests()), 15)
        for pest in pests():
            for field in (
                "tell_tale",
                "look_alikes",
                "where",
                "count_what",
                "stages",
                "dead_or_alive",
            ):
                self.assertTrue(getattr(pest, field), f"{pest.key} lacks {field}")
            self.assertIn(pest.measure, pest.measures)
            self.assertLess(max(pest.look_days), 100)


class Decisions(unittest.TestCase):
    def decide(self, looked: int, affected: int, **rest: object) -> Action:
        """The action for a look with a tolerance of 10%."""
        return advise(Sighting(looked, affected, **rest), 0.1).action  # type: ignore[arg-type]

    def test_small_harm_on_a_growing_plant_is_watched(self) -> None:
        self.assertIs(self.decide(20, 2), Action.WATCH)
        self.assertIs(self.decide(20, 2, vigorous=False), Action.CLEAN_FIRST)
        self.assertIs(self.decide(20, 2, earlier_share=0.02), Action.CLEAN_FIRST)

    def test_helpers_or_a_falling_trend_buy_time(self) -> None:
        self.assertIs(self.decide(20, 4), Action.CLEAN_FIRST)
        self.assertIs(self.decide(20, 4, helpers=3), Action.WATCH)
        self.assertIs(self.decide(20, 4, earlier_share=0.5), Action.WATCH)

    def test_much_is_worth_a_trial_and_all_is_lost(self) -> None:
        self.assertIs(self.decide(20, 12), Action.TRIAL)
        self.assertIs(self.decide(20, 18), Action.TRIAL)
        self.assertIs(self.decide(20, 18, wilting=True), Action.TOO_FAR)

    def test_the_reason_names_the_numbers(self) -> None:
        found = advise(Sighting(20, 12, helpers=2, earlier_share=0.3), 0.1)
        self.assertEqual(found.trend, "rising")
        for said in ("12 of 20", "60%", "rising", "2 helpers"):
            self.assertIn(said, found.reason)

    def test_impossible_looks_are_refused(self) -> None:
        for looked, affected, field in ((0, 0, "looked"), (5, 6, "affected"), (5, -1, "affected")):
            with self.assertRaises(InputError) as caught:
                advise(Sighting(looked, affected), 0.1)
            self.assertEqual(caught.exception.field, field)


class NothingThere(unittest.TestCase):
    def test_enough_helpers_are_left_to_it_and_none_come_indoors(self) -> None:
        wait = advise(Sighting(10, 3, helpers=6), 0.05)
        self.assertEqual(wait.action, Action.WATCH)
        self.assertIn("a spray would kill them", wait.reason)
        for look in (
            Sighting(10, 6, helpers=6),  # more than they can eat
            Sighting(10, 3, helpers=2),
            Sighting(10, 3, helpers=6, vigorous=False),
            Sighting(10, 3, helpers=6, earlier_share=0.1),
        ):
            self.assertEqual(advise(look, 0.05).action, Action.TRIAL, look)
        self.assertEqual(advise(Sighting(100, 8), 0.1).action, Action.WATCH)
        self.assertEqual(advise(Sighting(100, 8, indoors=True), 0.1).action, Action.CLEAN_FIRST)

    def test_one_leaf_with_a_disease_is_cut_off_and_no_helper_eats_it(self) -> None:
        one = advise(Sighting(50, 1), 0.1, disease=True)
        self.assertEqual(one.action, Action.CLEAN_FIRST)
        self.assertIn("Cut it off", one.reason)
        self.assertEqual(advise(Sighting(50, 1), 0.1).action, Action.WATCH)
        self.assertEqual(
            advise(Sighting(10, 3, helpers=6), 0.05, disease=True).action, Action.TRIAL
        )

    def test_nothing_affected_is_nothing_to_wash_off(self) -> None:
        for vigorous in (True, False):
            found = advise(Sighting(10, 0, vigorous=vigorous), 0.1)
            self.assertIs(found.action, Action.WATCH)
        weak = advise(Sighting(10, 0, vigorous=False, wilting=True), 0.1)
        self.assertIn("something else", weak.reason)


if __name__ == "__main__":
    unittest.main()
