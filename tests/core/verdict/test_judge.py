"""The judge as a caller sees it: right outcomes, and named reasons where there is no number."""

from __future__ import annotations

import json
import unittest
from pathlib import Path

from orthocris.core import InputError, Observation, ObservationError, Outcome, judge
from orthocris.formats.tidy_table import read_table
from orthocris.formats.verdict_text import verdict_text
from tests.core.verdict.gardens import BEFORE, CLEAR, CONTROL, codes, named, trial

SPRAYS = Path(__file__).parents[2] / "data" / "spray-counts.csv"


class PublishedCounts(unittest.TestCase):
    """Beall 1942, Biometrika 32, 243-262: six sprays, twelve plots each, no control."""

    def setUp(self) -> None:
        self.verdict = judge(read_table(SPRAYS.read_bytes())[0], control=None)

    def test_low_three_in_order(self) -> None:
        self.assertEqual([r.name for r in self.verdict.remedies[:3]], ["C", "E", "D"])
        self.assertIs(self.verdict.outcome, Outcome.RANKED_WITHOUT_CONTROL)
        self.assertIsNone(self.verdict.recommended)

    def test_high_three_are_far_off_and_cannot_be_best(self) -> None:
        for name in "ABF":
            result = named(self.verdict, name)
            self.assertFalse(result.could_be_best)
            self.assertGreater(result.rate_ratio or 0, 5)
        self.assertTrue(named(self.verdict, "C").could_be_best)

    def test_no_efficacy_without_control(self) -> None:
        for result in self.verdict.remedies:
            self.assertIsNone(result.efficacy)
            self.assertIn("no control", result.classic_notes["abbott"])
        self.assertIn("no_control", codes(self.verdict))


class Extremes(unittest.TestCase):
    def test_plants_that_disagree_wholly_have_an_interval_without_end_in_plain_numbers(
        self,
    ) -> None:
        counts = {"w0": 0, "w1": 1e6, "s0": 1e6, "s1": 0}
        table = [
            Observation(p, None, "soap" if p[0] == "s" else "control", 7, "live", value, effort=e)
            for (p, value), e in zip(counts.items(), (1e6, 0.001, 0.001, 1e6), strict=True)
        ]
        verdict = judge(table)
        json.dumps(verdict.to_dict(), allow_nan=False)
        self.assertIs(verdict.outcome, Outcome.UNDECIDED)
        self.assertLess(named(verdict, "soap").efficacy_low or 0, -100)
        self.assertLess(len(verdict_text(verdict)), 1100)

    def test_an_effort_of_next_to_nothing_is_a_slip(self) -> None:
        with self.assertRaises(InputError) as refused:
            judge([Observation("p", None, "control", 7, "live", 3, effort=1e-300)])
        self.assertEqual(refused.exception.field, "effort")


class Outcomes(unittest.TestCase):
    def test_clear_winner(self) -> None:
        verdict = judge(trial(CLEAR, BEFORE))
        self.assertIs(verdict.outcome, Outcome.WINNER)
        self.assertEqual(verdict.recommended, "soap")
        soap = named(verdict, "soap")
        self.assertGreater(soap.efficacy_low or 0, 0.8)
        self.assertIn("soap works best", verdict.sentence)
        self.assertGreater(soap.prob_worth_it or 0, 0.99)

    def test_tie_recommends_the_gentler(self) -> None:
        both = {
            "control": [10 * n for n in CONTROL],
            "soap": (30, 35, 32, 34, 36, 33),
            "oil": (38, 36, 39, 38, 41, 37),
        }
        damage = [
            Observation(f"{name}-{k}", f"b{k}", name, 7, "damage", value)
            for name, value in (("control", 0), ("soap", 0.5), ("oil", 0))
            for k in range(6)
        ]
        verdict = judge(trial(both) + damage)
        self.assertIs(verdict.outcome, Outcome.TIE)
        self.assertEqual(verdict.recommended, "oil")

    def test_burning_remedy_cannot_win(self) -> None:
        damage = [
            Observation(f"{name}-{k}", f"b{k}", name, day, "damage", value)
            for name, before, after in (("control", 1, 1), ("soap", 1, 3), ("jet", 0, 0))
            for k in range(6)
            for day, value in ((0, before), (7, after))
        ]
        verdict = judge(trial(CLEAR, BEFORE) + damage)
        soap = named(verdict, "soap")
        self.assertTrue(soap.vetoed)
        self.assertAlmostEqual(soap.damage_beyond_control or 0, 2.0)
        self.assertFalse(soap.could_be_best)
        self.assertNotEqual(verdict.recommended, "soap")
        self.assertIn("harms_plant", codes(verdict))

    def test_none_beats_control_only_when_precise(self) -> None:
        even = (40, 41, 39, 40, 42, 38)
        precise = judge(trial({"control": even, "soap": (41, 40, 38, 41, 40, 39)}))
        self.assertIs(precise.outcome, Outcome.NONE_BEATS_CONTROL)
        vague = judge(trial({"control": (25, 80, 20, 40, 30), "soap": (12, 13, 25, 11, 8)}))
        self.assertIs(vague.outcome, Outcome.UNDECIDED)
        self.assertRegex(vague.advice, r"^\d+ more plants of each remedy")

    def test_real_but_too_small_effect_is_not_recommended(self) -> None:
        small = {"control": (400, 410, 395, 402, 398), "soap": (300, 305, 298, 310, 301)}
        verdict = judge(trial(small), threshold=0.6)
        self.assertTrue(named(verdict, "soap").beats_control)
        self.assertIsNone(verdict.recommended)
        self.assertIn("below_threshold", codes(verdict))
        self.assertIn("works, but probably below what you asked", verdict.sentence)


class AwkwardTrials(unittest.TestCase):
    def test_all_zero(self) -> None:
        verdict = judge(
            trial({"control": (0,) * 5, "soap": (0,) * 5}, {"control": (9,) * 5, "soap": (9,) * 5})
        )
        self.assertIs(verdict.outcome, Outcome.UNDECIDED)
        self.assertIn("control_zero", codes(verdict))
        soap = named(verdict, "soap")
        self.assertIsNone(soap.efficacy)
        self.assertIn("no pests on the control after", soap.classic_notes["abbott"])

    def test_zeros_on_the_remedy_do_not_claim_certainty(self) -> None:
        verdict = judge(trial({"control": (20,) * 5, "soap": (0,) * 5}))
        soap = named(verdict, "soap")
        self.assertIs(verdict.outcome, Outcome.WINNER)
        self.assertLess(soap.efficacy_low or 1, (soap.efficacy_high or 0) - 0.02)
        self.assertLess(soap.efficacy or 1, 1)

    def test_one_plant_each_gives_no_interval(self) -> None:
        verdict = judge(trial({"control": (20,), "soap": (2,)}))
        soap = named(verdict, "soap")
        self.assertIs(verdict.outcome, Outcome.UNDECIDED)
        self.assertAlmostEqual(soap.efficacy or 0, 0.8, delta=0.15)
        self.assertIsNone(soap.efficacy_low)
        self.assertIn("no_replication", codes(verdict))

    def test_remedy_seen_once_borrows_the_spread(self) -> None:
        observations = [*trial(CLEAR, BEFORE), *trial({"oil": (3,)}, {"oil": (40,)})]
        verdict = judge(observations)
        oil, soap = named(verdict, "oil"), named(verdict, "soap")
        self.assertIn("single_plant", codes(verdict))
        self.assertFalse(oil.beats_control)
        width = (oil.efficacy_high or 0) - (oil.efficacy_low or 0)
        self.assertGreater(width, (soap.efficacy_high or 0) - (soap.efficacy_low or 0))

    def test_lost_plant_is_named_and_left_out(self) -> None:
        observations = [o for o in trial(CLEAR, BEFORE) if (o.plant, o.day) != ("soap-2", 7.0)]
        verdict = judge(observations)
        self.assertEqual(named(verdict, "soap").plants, 5)
        self.assertIn(
            "soap-2", next(w.text for w in verdict.warnings if w.code == "plants_not_counted")
        )
        self.assertEqual(verdict.design.kind, "incomplete_blocks")

    def test_missing_block_and_control_twice(self) -> None:
        observations = [o for o in trial(CLEAR, BEFORE) if o.block != "b3" or o.remedy != "jet"]
        observations += [
            Observation("extra", "b0", "control", 0, "live", 39),
            Observation("extra", "b0", "control", 7, "live", 44),
        ]
        verdict = judge(observations)
        self.assertEqual(verdict.recommended, "soap")
        self.assertEqual(named(verdict, "control").plants, 7)

    def test_remedies_that_share_no_block_are_not_compared(self) -> None:
        observations = trial({"control": (30, 40), "soap": (3, 4)})
        observations += [
            Observation(f"oil-{k}", "far", "oil", 7, "live", value)
            for k, value in enumerate((1, 2))
        ]
        verdict = judge(observations)
        self.assertIsNone(named(verdict, "oil").efficacy)
        self.assertIn("not_comparable", codes(verdict))

    def test_blocks_of_one_remedy_are_ignored(self) -> None:
        observations = [
            Observation(f"{n}{k}", f"{n}{k}", n, 7, "live", v)
            for n, values in (("control", (30, 40, 35, 38)), ("soap", (3, 4, 2, 3)))
            for k, v in enumerate(values)
        ]
        verdict = judge(observations)
        self.assertIn("blocks_ignored", codes(verdict))
        self.assertEqual(verdict.design.kind, "completely_randomised")
        self.assertEqual(verdict.recommended, "soap")

    def test_a_single_blank_block_sets_that_plant_apart_alone(self) -> None:
        observations = [
            o._replace(block=None) if o.plant == "jet-2" else o for o in trial(CLEAR, BEFORE)
        ]
        verdict = judge(observations)
        said = {w.code: w.text for w in verdict.warnings}
        self.assertIn("jet-2", said["plants_without_block"])
        self.assertNotIn("blocks_ignored", said)
        self.assertEqual((verdict.design.blocks, verdict.recommended), (6, "soap"))

    def test_most_blocks_blank_says_so_and_one_block_is_nothing_to_say(self) -> None:
        most = [o._replace(block=None if o.block != "b0" else "b0") for o in trial(CLEAR, BEFORE)]
        most += [
            o._replace(plant=f"{o.plant}x", block="b1") for o in trial(CLEAR) if o.block == "b1"
        ]
        said = {w.code: w.text for w in judge(most).warnings}
        self.assertIn("is not known", said["blocks_ignored"])
        single = [o._replace(block="all") for o in trial(CLEAR, BEFORE)]
        self.assertNotIn("blocks_ignored", codes(judge(single)))

    def test_more_than_a_garden_holds_is_refused_at_once(self) -> None:
        many = [
            Observation(f"p{k}", f"b{k // 2}", ("control", "soap")[k % 2], 7, "live", 3)
            for k in range(2 * 1001)
        ]
        with self.assertRaises(InputError) as caught:
            judge(many)
        self.assertEqual(caught.exception.field, "block")
        self.assertIn("at most 1000", caught.exception.fix)

    def test_before_counts_make_unequal_starts_fair(self) -> None:
        # Soap plants started with a tenth of the pests and nothing happened to anybody.
        before = {"control": (100, 120, 90, 110, 95), "soap": (10, 12, 9, 11, 9)}
        verdict = judge(trial(before, before, blocked=False))
        self.assertFalse(named(verdict, "soap").beats_control)
        self.assertAlmostEqual(named(verdict, "soap").classic["henderson_tilton"] or 0, 0.0)

    def test_shares_dead(self) -> None:
        dead = trial({"control": (4, 6, 5, 3), "soap": (45, 48, 44, 47)}, measure="dead", of=50)
        verdict = judge(dead)
        soap = named(verdict, "soap")
        self.assertEqual(verdict.measure, "dead")
        # Schneider-Orelli by hand: mT = 184/200, mC = 18/200, (0.92 - 0.09)/0.91 = 0.91209
        self.assertAlmostEqual(soap.classic["schneider_orelli"] or 0, 0.912088, places=6)
        self.assertAlmostEqual(soap.efficacy or 0, 0.91, delta=0.03)


class Contract(unittest.TestCase):
    def test_same_input_and_seed_give_the_same_bytes(self) -> None:
        one, two = (
            json.dumps(judge(trial(CLEAR, BEFORE), seed=5).to_dict(), allow_nan=False)
            for _ in range(2)
        )
        self.assertEqual(one, two)

    def test_fields_of_the_contract(self) -> None:
        plain = judge(trial(CLEAR, BEFORE)).to_dict()
        for key in ("outcome", "recommended", "sentence", "measure", "look", "design", "remedies"):
            self.assertIn(key, plain)
        self.assertLessEqual({"name", "seed"}, set(plain["method"]))
        control = next(r for r in plain["remedies"] if r["role"] == "control")
        self.assertIsNone(control["efficacy"])
        self.assertEqual(sum(r["prob_best"] for r in plain["remedies"] if r["role"] == "remedy"), 1)

    def test_input_is_checked(self) -> None:
        good = trial(CLEAR)
        for value, code in (
            (-1, "negative_count"),
            (2.5, "fraction"),
            (1e9, "too_large"),
            (float("nan"), "not_a_number"),
        ):
            bad = [*good, Observation("x", "b0", "soap", 7, "live", value)]
            with self.assertRaises(ObservationError) as caught:
                judge(bad)
            self.assertEqual((caught.exception.code, caught.exception.index), (code, len(good)))
        for options in (
            {"control": "none such"},
            {"measure": "damage"},
            {"look": "9"},
            {"look": "auc"},
            {"threshold": 1.0},
        ):
            with self.assertRaises(InputError):
                judge(good, **options)
        with self.assertRaises(InputError):
            judge([])

    def test_a_plant_has_one_home(self) -> None:
        good = trial(CLEAR)
        with self.assertRaises(ObservationError) as caught:
            judge([*good, Observation("soap-0", "b0", "jet", 7, "live", 3)])
        self.assertEqual(caught.exception.field, "remedy")


if __name__ == "__main__":
    unittest.main()
