"""What outsiders once made the verdict say that was not so."""

from __future__ import annotations

import unittest

from orthocris.core import Observation, Verdict, judge
from orthocris.core.verdict.case import Terms
from tests.core.verdict.gardens import BEFORE, CLEAR, CONTROL, codes, named, trial


def row(
    plant: str, block: str | None, remedy: str, day: float, measure: str, value: float
) -> Observation:
    """One line of a table."""
    return Observation(plant, block, remedy, day, measure, value)


def said_by(verdict: Verdict, code: str) -> str:
    """The text of one warning."""
    return next(w.text for w in verdict.warnings if w.code == code)


class HonestWords(unittest.TestCase):
    """What outsiders made the verdict say that was not so."""

    def test_a_remedy_that_lost_all_its_plants_is_named_first_and_cannot_win(self) -> None:
        table = [o for o in trial(CLEAR, BEFORE) if o.remedy != "soap" or o.day <= 0]
        marked = [row(f"soap-{k}", f"b{k}", "soap", 5, "lost", 1) for k in range(6)]
        verdict = judge([*table, *marked])
        soap = named(verdict, "soap")
        self.assertTrue(verdict.sentence.startswith("soap lost all of its 6 plants."))
        self.assertEqual((soap.plants, soap.lost, soap.vetoed), (0, 6, True))
        self.assertIsNone(soap.efficacy)

    def test_no_loss_is_claimed_that_nobody_recorded(self) -> None:
        """A remedy of which nothing was counted is neither praised nor accused: so far."""
        table = [o for o in trial(CLEAR, BEFORE) if o.remedy != "soap" or o.day <= 0]
        verdict = judge(table)
        soap = named(verdict, "soap")
        self.assertEqual((soap.plants, soap.lost, soap.died, soap.vetoed), (0, 6, 0, False))
        self.assertTrue(verdict.sentence.startswith("No plant of soap was counted at this look"))
        self.assertIn("So far: jet seems to work", verdict.sentence)  # no best of one
        self.assertIsNone(verdict.recommended)
        self.assertNotIn(" lost", verdict.sentence)

    def test_a_look_that_is_not_whole_is_so_far(self) -> None:
        """Two of six soap plants are counted: nothing is recommended before the rest is."""
        table = [
            o
            for o in trial(CLEAR, BEFORE)
            if o.day <= 0 or o.remedy != "soap" or o.plant < "soap-2"
        ]
        verdict = judge(table, terms=Terms(planned=(7.0,), whole=False))
        self.assertTrue(verdict.so_far)
        self.assertIsNone(verdict.recommended)
        self.assertIn("So far:", verdict.sentence)
        self.assertIn("Count the plants that are left", verdict.advice)
        self.assertIn("plants_not_counted", codes(verdict))
        self.assertIn("Not every plant is counted", verdict.reasons[-1])

    def test_one_plant_of_each_says_that_no_count_can_tell(self) -> None:
        verdict = judge(trial({"control": (20,), "soap": (2,)}))
        told = " ".join([verdict.sentence, verdict.advice, *(w.text for w in verdict.warnings)])
        self.assertNotIn("once more", told)
        self.assertNotIn("interval borrows", told)
        self.assertIn("cannot tell a remedy from the luck of its plant", verdict.advice)

    def test_a_struck_out_remedy_takes_no_chance_of_being_best(self) -> None:
        burnt = [row(f"soap-{k}", f"b{k}", "soap", 7, "damage", 5) for k in range(6)]
        verdict = judge([*trial(CLEAR, BEFORE), *burnt])
        chances = {r.name: r.prob_best for r in verdict.remedies if r.role == "remedy"}
        self.assertEqual(chances["soap"], 0.0)
        self.assertAlmostEqual(sum(chance or 0 for chance in chances.values()), 1.0, places=9)

    def test_marked_deaths_strike_out_and_a_zero_on_a_dead_plant_is_no_success(self) -> None:
        deaths = [row(f"soap-{k}", f"b{k}", "soap", 5, "lost", 1) for k in range(3)]
        verdict = judge([*trial(CLEAR, BEFORE), *deaths])
        soap = named(verdict, "soap")
        self.assertEqual((soap.plants, soap.lost, soap.vetoed), (3, 3, True))
        self.assertIn("kills_plants", codes(verdict))
        self.assertNotEqual(verdict.recommended, "soap")
        one = judge([*trial(CLEAR, BEFORE), deaths[0]])
        self.assertFalse(named(one, "soap").vetoed)

    def test_burnt_leaves_are_refused_though_the_control_was_not_scored(self) -> None:
        burnt = [row(f"soap-{k}", f"b{k}", "soap", 7, "damage", 5) for k in range(6)]
        verdict = judge([*trial(CLEAR, BEFORE), *burnt])
        soap = named(verdict, "soap")
        self.assertTrue(soap.vetoed)
        self.assertEqual((soap.damage_beyond_control, soap.damage_plants), (5.0, 6))
        self.assertIn("control_damage_not_scored", codes(verdict))
        self.assertNotEqual(verdict.recommended, "soap")

    def test_ten_times_more_is_said_to_be_worse(self) -> None:
        bad = {"control": CONTROL, "soap": [10 * n + k for k, n in enumerate(CONTROL)]}
        verdict = judge(trial(bad, blocked=False))
        self.assertTrue(named(verdict, "soap").worse_than_control)
        self.assertIn("soap may be worse than nothing: about 10 times", verdict.sentence)

    def test_one_remedy_works_and_two_compete(self) -> None:
        one = {name: CLEAR[name] for name in ("control", "soap")}
        self.assertIn("soap works:", judge(trial(one)).sentence)
        self.assertIn("soap works best:", judge(trial(CLEAR)).sentence)

    def test_a_patchy_remedy_is_told_by_what_it_removes_and_where_it_failed(self) -> None:
        start = dict.fromkeys(("control", "patchy", "steady"), (50,) * 10)
        after = {
            "control": (52, 48, 50, 51, 47, 53, 49, 50, 52, 48),
            "patchy": (1, 0, 49, 1, 2, 50, 1, 0, 51, 1),
            "steady": (9, 10, 11, 8, 12, 10, 9, 11, 10, 9),
        }
        verdict = judge(trial(after, start))
        patchy = named(verdict, "patchy")
        self.assertEqual(patchy.failed_on, 3)
        self.assertEqual(patchy.missed, ("patchy-2", "patchy-5", "patchy-8"))
        self.assertIn("patchy", codes(verdict))
        self.assertAlmostEqual(patchy.efficacy or 0, 0.69, delta=0.1)
        self.assertEqual(verdict.recommended, "steady")

    def test_one_plant_that_was_missed_is_told_with_the_winner(self) -> None:
        soap = (1, 0, 2, 1, 49, 0, 1, 1)
        control = (52, 48, 50, 51, 47, 53, 49, 50)
        verdict = judge(trial({"control": control, "soap": soap}, blocked=False))
        self.assertIn("it seems to have missed 1 of its 8 plants", verdict.sentence)
        self.assertEqual(named(verdict, "soap").missed, ("soap-4",))

    def test_the_only_remedy_compared_is_struck_out_and_the_other_was_not_counted(self) -> None:
        """Nothing is said of a remedy that nobody counted, because another one burns."""
        table = [o for o in trial(CLEAR, BEFORE) if o.remedy != "jet" or o.day <= 0]
        burnt = [
            row(f"{name}-{k}", f"b{k}", name, 7, "damage", 3.0 if name == "soap" else 0.0)
            for name in ("control", "soap")
            for k in range(6)
        ]
        verdict = judge([*table, *burnt])
        self.assertEqual(verdict.outcome.value, "undecided")
        self.assertIn("soap burns the leaves, so it is out", verdict.sentence)
        self.assertNotIn("reaches", verdict.sentence)

    def test_two_remedies_may_each_have_missed_plants(self) -> None:
        after = {
            "control": (52, 48, 50, 51, 47, 53, 49, 50),
            "soap": (1, 0, 49, 1, 2, 1, 0, 51),
            "oil": (50, 1, 0, 2, 1, 47, 1, 0),
        }
        verdict = judge(trial(after, dict.fromkeys(after, (50.0,) * 8)))
        self.assertEqual(named(verdict, "soap").missed, ("soap-2", "soap-7"))
        self.assertEqual(named(verdict, "oil").missed, ("oil-0", "oil-5"))

    def test_what_few_plants_cannot_show_is_said(self) -> None:
        for plants, every in ((4, "second"), (6, "third"), (12, "fifth")):
            counts = {"control": [40.0 + k % 5 for k in range(plants)]}
            counts["soap"] = [2.0 + k % 3 for k in range(plants)]
            verdict = judge(trial(counts, dict.fromkeys(counts, (42.0,) * plants)))
            self.assertIn(f"that every {every} would be", said_by(verdict, "few_show_no_miss"))

    def test_each_measure_is_named_as_people_say_it(self) -> None:
        said = {
            ("catch", "control"): "fewer pests caught than",
            ("rating", "control"): "less severity than",
            ("rating", None): "soap was left with the least severity",
            ("live", None): "soap was left with the fewest live pests",
        }
        for (measure, control), words in said.items():
            with self.subTest(measure=measure, control=control):
                seen = [
                    row(f"{name}{k}", f"b{k}", name, 7, measure, value)
                    for name, value in (("control", 4), ("soap", 0), ("oil", 3))
                    for k in range(8)
                ]
                self.assertIn(words, judge(seen, control=control).sentence)

    def test_where_lot_and_interval_disagree_the_steps_say_which_speaks(self) -> None:
        """By the lot all do something; the model leaves it open for oil, and doubts the last."""
        few = {"control": (3, 1, 4, 2), "soap": (0, 0, 1, 0), "oil": (1, 1, 2, 0)}
        open_ = judge(trial(few))
        self.assertTrue(named(open_, "oil").beats_control)
        self.assertLess(named(open_, "oil").efficacy_low or 0, 0)
        self.assertIn("read alone, reaches below nothing", " ".join(open_.reasons))
        even = {"control": (2, 2, 2, 1), "soap": (1, 1, 1, 0), "oil": (1, 1, 1, 1)}
        doubted = judge(trial(even))
        self.assertFalse(named(doubted, "soap").beats_control)
        self.assertLess(named(doubted, "soap").p_adjusted or 1, 0.05)
        self.assertIn("only (90% is asked): not shown", " ".join(doubted.reasons))

    def test_of_an_area_there_is_less_and_not_fewer(self) -> None:
        leaves = [
            row(f"{name}{k}", f"b{k}", name, 7, "cover", value + k)
            for name, value in (("control", 40), ("soap", 4), ("milk", 40))
            for k in range(6)
        ]
        self.assertIn("% less affected leaf area than", judge(leaves).sentence)
        dry = [o._replace(value=0.0) for o in leaves]
        self.assertIn("no affected leaf area was left", judge(dry).sentence)

    def test_a_stray_count_later_does_not_empty_the_trial(self) -> None:
        verdict = judge([*trial(CLEAR, BEFORE), row("soap-2", "b2", "soap", 14, "live", 1)])
        self.assertEqual((verdict.recommended, verdict.design.plants), ("soap", 18))
        self.assertEqual(verdict.method["days"], [7.0])
        self.assertIn("stray_counts", codes(verdict))

    def test_a_look_spread_over_two_days_is_one_look(self) -> None:
        late = [
            o._replace(day=8.0) if o.day > 0 and o.block in {"b0", "b1"} else o
            for o in trial(CLEAR, BEFORE)
        ]
        verdict = judge(late)
        self.assertEqual(verdict.design.plants, 18)
        self.assertNotIn("plants_lost", codes(verdict))

    def test_a_table_pasted_twice_is_noticed_and_counted_once(self) -> None:
        once, twice = judge(trial(CLEAR, BEFORE)), judge(trial(CLEAR, BEFORE) * 2)
        self.assertIn("copied_rows", codes(twice))
        self.assertEqual(named(once, "soap").efficacy, named(twice, "soap").efficacy)

    def test_leaves_of_one_plant_are_compared_within_it_and_never_replicates(self) -> None:
        leaves = [
            o._replace(plant=f"{o.plant}{leaf}", block=None, group=o.block)
            for o in trial(CLEAR, BEFORE)
            for leaf in "xy"
        ]
        verdict = judge(leaves)
        self.assertEqual((verdict.design.plants, verdict.design.blocks), (18, 6))
        self.assertIn("leaves_merged", codes(verdict))

    def test_too_few_layouts_are_said(self) -> None:
        verdict = judge(trial({"control": CONTROL[:4], "soap": (3, 5, 2, 4)}))
        self.assertIn("few_layouts", codes(verdict))
        self.assertEqual(verdict.method["comparison_with_control"], "model_alone_too_few_layouts")

    def test_the_leaves_of_one_plant_are_its_units_and_speak_of_it_alone(self) -> None:
        """Eight leaves of one plant, two of each remedy in each of two blocks or more."""
        leaves = [o._replace(group="the tall one") for o in trial(CLEAR, BEFORE)]
        verdict = judge(leaves)
        self.assertEqual(named(verdict, "soap").plants, 6)
        self.assertEqual(verdict.design.blocks, 6)
        self.assertTrue(verdict.sentence.endswith("It speaks of this one plant alone."))
        self.assertIn("one_plant", codes(verdict))
        self.assertNotIn("leaves_merged", codes(verdict))
        several = judge([o._replace(group=o.block) for o in trial(CLEAR, BEFORE)])
        self.assertNotIn("one plant alone", several.sentence)
        later = [o._replace(plant=f"{o.plant}'", group="another", added=1) for o in leaves]
        both = judge([*leaves, *later])  # each part on a plant of its own
        self.assertEqual(named(both, "soap").plants, 12)
        self.assertNotIn("one plant alone", both.sentence)

    def test_harm_of_a_whole_grade_is_a_veto_and_less_is_not(self) -> None:
        for grade, vetoed in ((1, True), (0.9, False)):
            harm = [
                Observation(f"{r}-{k}", f"b{k}", r, 7, "damage", grade if r == "soap" else 0)
                for r in ("soap", "control")
                for k in range(6)
            ]
            verdict = judge([*trial(CLEAR, BEFORE), *harm])
            self.assertIs(named(verdict, "soap").vetoed, vetoed)

    def test_before_the_planned_look_it_is_so_far_and_no_recommendation(self) -> None:
        terms = Terms(planned=(0.0, 7.0, 14.0))
        early = judge(trial(CLEAR, BEFORE), terms=terms)
        self.assertTrue(early.so_far)
        self.assertIsNone(early.recommended)
        self.assertTrue(early.sentence.startswith("So far: soap looks best"))
        last = judge(trial(CLEAR, BEFORE), terms=Terms(planned=(0.0, 7.0)))
        self.assertEqual((last.so_far, last.recommended), (False, "soap"))

    def test_the_area_of_ones_against_zeros_has_counting_chance_in_it(self) -> None:
        looks = [
            row(f"{name}-{k}", f"b{k}", name, day, "live", value)
            for name, value in (("control", 1), ("soap", 0))
            for k in range(4)
            for day in (3.0, 7.0)
        ]
        verdict = judge(looks, look="auc")
        soap = named(verdict, "soap")
        self.assertGreater(soap.p_adjusted or 0, 0.005)
        self.assertLess(soap.efficacy_low or 0, 0.6)

    def test_what_is_not_shown_is_said_by_the_rule_that_did_not_show_it(self) -> None:
        """An interval above nothing, but the lot does as much in more than 5 of 100 draws."""
        verdict = judge(trial({"control": (25, 80, 20, 40, 30), "soap": (12, 13, 25, 11, 8)}))
        soap = named(verdict, "soap")
        self.assertGreater(soap.efficacy_low or 0, 0)
        self.assertFalse(soap.beats_control)
        self.assertIn("luck of the draw", verdict.sentence)
        self.assertNotIn("cannot say", verdict.sentence)


if __name__ == "__main__":
    unittest.main()
