"""What is known of a pest: from verdicts on record, each trial once, strengths and harm apart."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

from orthocris.core.trial.plan import Amount, Role, Traits
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.core.verdict.frozen import FrozenVerdict
from orthocris.core.weather.days import DayEntry, Sky
from orthocris.services.pantry.catalogue import suited
from orthocris.services.trial import questions
from orthocris.services.verdict.before import found_before
from orthocris.services.verdict.known import Known, known_of, known_pests
from orthocris.services.weather import yards
from orthocris.storage import verdicts
from tests.services.world import QUESTION, ServiceCase


class KnownByNow(ServiceCase):
    def asked(self, name: str, amount: float = 15) -> int:
        """A trial of soap at a strength, as it is planned; returns its id."""
        traits = Traits(catalogue="mild_soap", ingredients=(Amount("soap", amount, "ml/L"),))
        water = next(r for r in QUESTION.remedies if r.role is Role.CONTROL)
        remedies = (water, RemedyDraft("Mild soap", Role.REMEDY, "15 ml in 1 litre", None, traits))
        asked = replace(
            QUESTION, name=name, pest="aphids", remedies=remedies, setup=Setup(crop="lupins")
        )
        return questions.create_trial(self.context, asked, self.now.date())

    def judged(self, name: str, soap: dict[str, Any], amount: float = 15, **told: Any) -> int:
        """A trial of soap at a strength whose verdict is on record; returns its id."""
        trial = self.asked(name, amount)
        self.on_record(trial, "Mild soap", soap, **told)
        return trial

    def on_record(self, trial: int, name: str, soap: dict[str, Any], look: int = 1) -> None:
        """Put a verdict on record that says so of a remedy."""
        usual = {"name": name, "plants": 6, "damage_beyond_control": 0.1, "vetoed": False}
        verdict = {"recommended": None, "remedies": [{**usual, **soap}]}
        frozen = FrozenVerdict(self.now, "1, model 4", 77, "", verdict)
        with self.context.database.atomic() as connection:
            verdicts.keep_verdict(connection, trial, look, frozen)

    def known(self) -> Known:
        """What is known of aphids."""
        return known_of(self.context, "aphids")

    def test_trials_of_one_remedy_are_put_together_and_another_is_less_sure(self) -> None:
        self.assertEqual(self.known().remedies, ())
        self.judged("2024", of(0.86, 0.78, 0.91))
        (one,) = self.known().remedies
        self.assertEqual((one.efficacy, one.low, one.high), (0.86, 0.78, 0.91))
        self.assertLess(one.next_low, 0.78)
        self.judged("2025", of(0.6, 0.4, 0.75))
        (both,) = self.known().remedies
        self.assertEqual([t.name for t in both.trials], ["2024", "2025"])
        self.assertEqual(both.trials[0].crop, "lupins")
        self.assertTrue(0.6 < both.efficacy < 0.86)
        self.assertLess(both.next_low, both.low)
        self.assertIn("2 trials here", both.words)
        (pest,) = known_pests(self.context)
        self.assertEqual((pest.pest, pest.name, pest.trials), ("aphids", "Aphids", 2))

    def test_the_weather_of_a_trial_is_told_where_it_is_known(self) -> None:
        trial = self.judged("2025", of(0.86, 0.78, 0.91))
        with self.context.database.atomic() as connection:
            connection.execute(
                "UPDATE trial SET sprayed_on = '2026-05-01' WHERE id = :t", {"t": trial}
            )
            connection.execute(
                "UPDATE verdict_record SET verdict = json_set(verdict, '$.look', '3')"
            )
        (one,) = self.known().remedies[0].trials
        self.assertEqual((one.warmth, one.rain), (None, None))
        for day in range(1, 5):
            entry = DayEntry(date(2026, 5, day), 10.0, 20.0, 5.0, Sky.CLEAR, 2.0, 8, 12)
            yards.enter_day(self.context, entry)
        (one,) = self.known().remedies[0].trials
        self.assertAlmostEqual(one.warmth or 0, 15.0, delta=1.5)
        self.assertAlmostEqual(one.rain or 0, 8.0)

    def test_another_strength_is_another_remedy_and_no_number_is_none(self) -> None:
        self.judged("strong", of(0.9, 0.8, 0.95), amount=20)
        self.judged("weak", of(0.3, 0.1, 0.5), amount=5)
        self.judged("lost", of(None, None, None))
        self.assertEqual([r.strength for r in self.known().remedies], ["20 ml/L", "5 ml/L"])
        self.assertEqual(self.known().trials, 3)

    def test_harm_outranks_what_was_removed(self) -> None:
        self.judged("burnt", {**of(0.99, 0.97, 0.995), "vetoed": True}, amount=40)
        self.judged("mild", of(0.5, 0.2, 0.7))
        first, last = self.known().remedies
        self.assertEqual((first.harmed, last.harmed, last.strength), (0, 1, "40 ml/L"))
        self.assertIn("harmed the plants", last.words)

    def test_what_killed_its_plants_is_told_though_it_has_no_number(self) -> None:
        dead = {**of(None, None, None), "kills": True}
        self.judged("killed", dead)
        found = self.known()
        self.assertEqual((found.remedies, found.harmful[0].name), ((), "Mild soap"))
        self.assertIn("harmed the plants in 1 trial", found.harmful[0].words)
        told = next(s.tried for s in suited(self.context, "aphids", Setup()) if s.tried)
        self.assertIn("harmed", told)
        self.judged("well", of(0.9, 0.8, 0.95))
        (one,) = self.known().remedies
        self.assertEqual((one.harmed, self.known().harmful), (1, ()))
        self.assertNotEqual(suited(self.context, "aphids", Setup())[0].remedy.key, "mild_soap")

    def test_the_last_look_counts_and_a_trial_put_away_does_not(self) -> None:
        trial = self.judged("twice", of(0.3, 0.1, 0.5))
        self.on_record(trial, "Mild soap", of(0.8, 0.7, 0.9), look=2)
        (one,) = self.known().remedies
        self.assertEqual(one.efficacy, 0.8)
        questions.remove_trial(self.context, trial, with_records=True)
        self.assertEqual(self.known().remedies, ())

    def test_a_trial_that_went_on_is_counted_once(self) -> None:
        first = self.judged("first", of(0.3, 0.1, 0.5))
        then = self.judged("goes on", of(0.5, 0.3, 0.7))
        with self.context.database.atomic() as connection:
            connection.execute("UPDATE trial SET goes_on = ? WHERE id = ?", (first, then))
        (one,) = self.known().remedies
        self.assertEqual([t.name for t in one.trials], ["goes on"])

    def test_a_new_plan_may_reckon_with_what_earlier_trials_found(self) -> None:
        first = self.judged("last year", of(0.8, 0.6, 0.9))
        self.judged("this year", of(0.9, 0.8, 0.95))
        self.assertEqual(found_before(self.context, first), ())  # nothing was before it
        self.later(40)
        self.trial_id = self.asked("next year")
        (found,) = found_before(self.context, self.trial_id)
        self.assertEqual((found.remedy_id, found.trials), (self.trial.remedies[1].id, 2))
        self.assertTrue(0.8 < found.removed < 0.9)

    def test_what_did_well_here_is_proposed_first(self) -> None:
        def order() -> list[str]:
            return [s.remedy.key for s in suited(self.context, "aphids", Setup())]

        usual = order()
        self.assertNotEqual(usual[0], "mild_soap")
        self.judged("2024", of(0.86, 0.78, 0.91))
        self.assertEqual(order()[0], "mild_soap")
        self.assertEqual(sorted(order()), sorted(usual))
        self.judged("burnt", {**of(0.86, 0.78, 0.91), "vetoed": True})
        self.assertEqual(order(), usual)
        self.assertIn(
            "harmed", next(s.tried for s in suited(self.context, "aphids", Setup()) if s.tried)
        )


def of(efficacy: float | None, low: float | None, high: float | None) -> dict[str, Any]:
    """What a verdict says of a remedy."""
    return {"efficacy": efficacy, "efficacy_low": low, "efficacy_high": high}
