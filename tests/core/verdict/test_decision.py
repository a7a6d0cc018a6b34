"""From results to outcome, recommendation and words."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace

from orthocris.core import Observation
from orthocris.core.trial.measures import MEASURES
from orthocris.core.verdict.case import Gone
from orthocris.core.verdict.decide import Decision, decide
from orthocris.core.verdict.further import Further
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.harm import harm_by_remedy
from orthocris.core.verdict.result import Outcome, RemedyResult
from orthocris.core.verdict.words import advice, odds, percent, sentence, surplus
from orthocris.core.words import listing

SOAP = RemedyResult(
    name="Soap",
    role="remedy",
    plants=6,
    mean_before=30,
    mean_after=4,
    efficacy=0.85,
    efficacy_low=0.7,
    efficacy_high=0.93,
    rate_ratio=0.15,
    p_adjusted=0.001,
    beats_control=True,
    prob_best=0.9,
    prob_worth_it=0.98,
    could_be_best=True,
    damage_beyond_control=0.0,
    vetoed=False,
    classic={},
    classic_notes={},
)
OIL = replace(SOAP, name="Oil", efficacy=0.9, efficacy_low=0.8, efficacy_high=0.95)
CONTROL = replace(
    SOAP,
    name="Water",
    role="control",
    efficacy=None,
    efficacy_low=None,
    efficacy_high=None,
    beats_control=False,
    could_be_best=False,
)


def advised(
    decision: Decision,
    further: Further | None,
    *,
    threshold: float = 0.6,
    results: Sequence[RemedyResult] = (),
    final: bool = False,
) -> str:
    """The advice, of four plants each."""
    return advice(
        decision,
        further=further,
        threshold=threshold,
        results=results or (CONTROL, SOAP),
        wait="Wait.",
        final=final,
    )


def behind(result: RemedyResult) -> RemedyResult:
    """The same remedy, told apart from a better one."""
    return replace(result, could_be_best=False)


def idle(result: RemedyResult, high: float) -> RemedyResult:
    """The same remedy, not beating the control, with this upper limit."""
    return replace(result, beats_control=False, efficacy=0.1, efficacy_low=-0.4, efficacy_high=high)


class Deciding(unittest.TestCase):
    def outcome(self, *results: RemedyResult, **options: object) -> tuple[Outcome, str | None]:
        """Outcome and recommendation for these remedies beside the control."""
        usual: dict[str, object] = {"has_control": True, "threshold": 0.6, "informative": True}
        found = decide((CONTROL, *results), **{**usual, **options})  # type: ignore[arg-type]
        return found.outcome, found.recommended

    def test_one_that_alone_could_be_best_wins(self) -> None:
        self.assertEqual(self.outcome(OIL, behind(SOAP)), (Outcome.WINNER, "Oil"))

    def test_the_stronger_unless_a_gentler_one_is_shown_to_be_as_good(self) -> None:
        self.assertEqual(self.outcome(OIL, SOAP), (Outcome.TIE, "Oil"))
        rough = replace(OIL, damage_beyond_control=0.6)
        self.assertEqual(self.outcome(rough, SOAP), (Outcome.TIE, "Oil"))
        shown = {"within": lambda _one, _best: 0.97}
        self.assertEqual(self.outcome(rough, SOAP, **shown), (Outcome.TIE, "Soap"))
        self.assertEqual(self.outcome(rough, behind(SOAP), **shown), (Outcome.TIE, "Soap"))
        barely = replace(OIL, damage_beyond_control=0.1)
        self.assertEqual(self.outcome(barely, SOAP, **shown), (Outcome.TIE, "Oil"))

    def test_below_even_odds_nothing_is_recommended(self) -> None:
        unlikely = replace(OIL, prob_worth_it=0.49)
        self.assertEqual(self.outcome(unlikely, behind(SOAP)), (Outcome.TIE, "Soap"))
        self.assertEqual(self.outcome(unlikely), (Outcome.WINNER, None))

    def test_before_the_decisive_look_nothing_is_recommended(self) -> None:
        self.assertEqual(self.outcome(OIL, behind(SOAP), so_far=True), (Outcome.WINNER, None))

    def test_one_that_could_be_best_but_is_not_proven_spoils_the_win_only(self) -> None:
        unproven = idle(SOAP, 0.99)
        self.assertEqual(self.outcome(OIL, unproven), (Outcome.TIE, "Oil"))

    def test_struck_out_remedies_do_not_count(self) -> None:
        burnt = replace(OIL, vetoed=True)
        self.assertEqual(self.outcome(burnt, SOAP), (Outcome.WINNER, "Soap"))
        self.assertEqual(self.outcome(burnt), (Outcome.NONE_BEATS_CONTROL, None))

    def test_nothing_works_only_if_the_limits_say_so(self) -> None:
        self.assertEqual(self.outcome(idle(SOAP, 0.5)), (Outcome.NONE_BEATS_CONTROL, None))
        self.assertEqual(self.outcome(idle(SOAP, 0.7)), (Outcome.UNDECIDED, None))
        self.assertEqual(self.outcome(idle(SOAP, 0.5), threshold=0.4), (Outcome.UNDECIDED, None))

    def test_surely_below_the_threshold_is_not_recommended(self) -> None:
        weak = replace(SOAP, prob_worth_it=0.001)
        self.assertEqual(self.outcome(weak, threshold=0.95), (Outcome.WINNER, None))

    def test_without_control_or_errors(self) -> None:
        self.assertEqual(
            self.outcome(SOAP, has_control=False), (Outcome.RANKED_WITHOUT_CONTROL, None)
        )
        self.assertEqual(self.outcome(SOAP, informative=False), (Outcome.UNDECIDED, None))


class Words(unittest.TestCase):
    def say(self, *results: RemedyResult, gone: Gone = Gone.NOWHERE, **options: object) -> str:
        """The sentence for these remedies beside the control."""
        usual: dict[str, object] = {"has_control": True, "threshold": 0.6, "informative": True}
        everything = (*results, CONTROL)
        decision = decide(everything, **{**usual, **options})  # type: ignore[arg-type]
        return sentence(decision, everything, MEASURES["live"], threshold=0.6, gone=gone)

    def test_a_win_names_effect_and_interval(self) -> None:
        said = self.say(OIL, behind(SOAP))
        self.assertEqual(
            said,
            "Oil works best: about 90% fewer live pests than on the control (likely between 80% "
            "and 95%).",
        )

    def test_a_tie_names_the_rivals(self) -> None:
        third = replace(SOAP, name="Milk")
        self.assertIn("Soap and Milk may be as good", self.say(OIL, SOAP, third))

    def test_not_settled_says_why(self) -> None:
        self.assertIn("anything from 40% more to 70% fewer", self.say(idle(SOAP, 0.7)))
        gone = self.say(SOAP, gone=Gone.EVERYWHERE, informative=False)
        self.assertIn("went by themselves", gone)
        control = self.say(SOAP, gone=Gone.ON_CONTROL, informative=False)
        self.assertIn("untreated plants", control)

    def test_no_chance_is_told_as_all_or_nothing(self) -> None:
        told = [odds(chance) for chance in (1.0, 0.995, 0.984, 0.5, 0.012, 0.004, 0.0)]
        self.assertEqual(
            told, ["over 99%", "over 99%", "98.4%", "50%", "1%", "under 1%", "under 1%"]
        )

    def test_nothing_works_names_the_most_it_could_be(self) -> None:
        said = self.say(idle(SOAP, 0.5))
        self.assertIn("Soap does not reach the 60% you asked for: about 10% fewer", said)
        self.assertIn("from 40% more to 50% fewer", said)
        self.assertIn("about 10% more", self.say(replace(idle(SOAP, -0.05), efficacy=-0.1)))
        self.assertIn("None of these reaches", self.say(idle(SOAP, 0.5), idle(OIL, 0.2)))
        self.assertIn("harms the plant", self.say(replace(SOAP, vetoed=True)))

    def test_ranking_warns_that_nothing_is_proven(self) -> None:
        said = self.say(OIL, SOAP, has_control=False)
        self.assertIn("Oil was left with the fewest", said)
        self.assertIn("nobody can say that anything worked", said)

    def test_advice_names_what_would_settle_it(self) -> None:
        decision = decide(
            (CONTROL, idle(SOAP, 0.8)), has_control=True, threshold=0.6, informative=True
        )
        for further, said in (
            (Further(6, look=False, chance=0.83), "6 more plants of each remedy"),
            (Further(1, look=False, chance=0.83), "1 more plant of"),
            (Further(0, look=True, chance=0.9), "One more look"),
            (Further(12, look=False, chance=0.2), "Even 12 more plants"),
        ):
            self.assertTrue(advised(decision, further).startswith(said))
        alone = advised(decision, None, results=(replace(SOAP, plants=1),))
        self.assertIn("One plant of each remedy cannot tell", alone)
        self.assertNotIn("once more", alone)
        self.assertEqual(advised(replace(decision, so_far=True), None), "Wait.")
        self.assertIn("This answer is final", advised(decision, None, final=True))

    def test_what_falls_short_is_no_waste_where_it_removes_a_good_part(self) -> None:
        decision = Decision(Outcome.NONE_BEATS_CONTROL, None)
        good = replace(SOAP, efficacy=0.67, efficacy_low=0.06, efficacy_high=0.89)
        for result, said in ((good, "be content with less"), (idle(SOAP, 0.4), "Do not spend")):
            found = advised(decision, None, threshold=0.9, results=(CONTROL, result))
            self.assertIn(said, found)

    def test_a_win_that_is_barely_shown_claims_no_least(self) -> None:
        barely = replace(OIL, efficacy_low=-0.05)
        self.assertIn("from hardly anything to 95%", self.say(barely, behind(SOAP)))

    def test_percentages_never_claim_more_than_was_seen(self) -> None:
        for fraction, said in (
            (0.5, "50%"),
            (0.994, "99.4%"),
            (0.986, "98.6%"),
            (0.99999, "99.9%"),
            (1.0, "100%"),
            (-0.2, "−20%"),
            (-1e80, "under −1000%"),
            (1e80, "over 1000%"),
        ):
            self.assertEqual(percent(fraction), said)
        self.assertEqual(
            [surplus(0.981), surplus(3.0), surplus(1e9)], ["98%", "300%", "over 1000%"]
        )

    def test_names_are_listed_as_people_do(self) -> None:
        self.assertEqual(listing(["a"]), "a")
        self.assertEqual(listing(["a", "b"]), "a and b")
        self.assertEqual(listing(["a", "b", "c"]), "a, b and c")


class Harming(unittest.TestCase):
    def scored(self, plant: str, remedy: str, *scores: tuple[float, float]) -> list[Observation]:
        """Damage scores of one plant as (day, score)."""
        return [Observation(plant, None, remedy, day, "damage", s) for day, s in scores]

    def test_beyond_its_own_before_and_the_control_at_the_worst_look(self) -> None:
        seen = [
            *self.scored("c1", "control", (0, 1), (3, 1), (7, 2)),
            *self.scored("c2", "control", (0, 0), (3, 0), (7, 0)),
            *self.scored("s1", "soap", (0, 1), (3, 4), (7, 2)),
            *self.scored("s2", "soap", (3, 2), (7, 1)),
        ]
        # control: rises 1 and 0, mean 0.5; soap: 4 - 1 = 3 and 2 (no score before), mean 2.5
        soap = harm_by_remedy(gather(seen), "control", {})["soap"]
        self.assertEqual((soap.damage, soap.scored, soap.vetoed), (2.0, 2, True))
        # Squares .5 + .5 over 2 degrees of freedom, error sqrt(.5 (1/2 + 1/2)), t .975 = 4.3027
        self.assertAlmostEqual(soap.high or 0, 2 + 4.302653 * 0.5**0.5, places=5)
        self.assertEqual(harm_by_remedy(gather(seen), None, {})["soap"].damage, 2.5)

    def test_a_control_that_was_not_scored_is_taken_as_it_was(self) -> None:
        seen = [
            *self.scored("s1", "soap", (3, 2)),
            Observation("c1", None, "control", 3, "live", 4),
        ]
        found = harm_by_remedy(gather(seen), "control", {})
        self.assertEqual((found["soap"].damage, found["soap"].beyond_control), (2.0, False))
        self.assertIsNone(found["control"].damage)

    def test_deaths_strike_out_beyond_those_of_the_control(self) -> None:
        seen = [
            Observation(f"{name}{k}", None, name, 0, "live", 4)
            for name in ("control", "soap")
            for k in range(6)
        ]
        gathered = gather(seen)
        dead = {f"soap{k}": 5.0 for k in range(2)}
        self.assertTrue(harm_by_remedy(gathered, "control", dead)["soap"].kills)
        alike = {**dead, "control0": 5.0, "control1": 6.0}
        self.assertFalse(harm_by_remedy(gathered, "control", alike)["soap"].kills)
        uncounted = dict.fromkeys(dead)
        self.assertFalse(harm_by_remedy(gathered, "control", uncounted)["soap"].kills)
        gone = {f"soap{k}": None for k in range(6)}  # nobody recorded a loss
        self.assertFalse(harm_by_remedy(gathered, "control", gone)["soap"].kills)
        self.assertTrue(harm_by_remedy(gathered, "control", dict.fromkeys(gone, 3.0))["soap"].kills)


if __name__ == "__main__":
    unittest.main()
