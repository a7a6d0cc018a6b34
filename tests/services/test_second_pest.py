"""Two pests on the same plants: each counted, each judged alone, one sentence for both."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core import judge
from orthocris.core.errors import InputError
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft, check_question
from orthocris.core.trial.setup import Kind, Setup
from orthocris.core.verdict.case import Terms
from orthocris.services.counting import keeping
from orthocris.services.field import rest_plans
from orthocris.services.planning import critiques
from orthocris.services.trial import questions
from orthocris.services.verdict import table
from orthocris.services.verdict.judging import record_verdict, verdict_of
from tests.services.world import QUESTION, ServiceCase

BOTH = replace(
    QUESTION,
    remedies=(*QUESTION.remedies, RemedyDraft("Oil", Role.REMEDY, "10 ml sunflower oil, 1 litre")),
    setup=Setup(also="whiteflies", beside=("damage", "other")),
)


class TwoPests(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.trial_id = questions.create_trial(self.context, BOTH, self.now.date())
        self.plant_and_draw(24)

    def count_both(self, look: int, **left: tuple[float, float | None]) -> None:
        """Count mites and (where told) whiteflies on every plant, about so many by its remedy."""
        names = {r.id: r.name.lower() for r in self.trial.remedies}
        for k, plant in enumerate(self.trial.trial_plants):
            for measure, base in zip(
                ("live", "other"), left[names[plant.remedy_id or 0]], strict=True
            ):
                if base is not None:
                    entry = self.entry(plant.id, base + k % 4, measure=measure)
                    keeping.keep_tally(self.context, self.trial_id, look, entry)

    def season(self, **left: tuple[float, float | None]) -> None:
        """From the count before to the last look."""
        self.count_both(0, water=(40, 30), soap=(40, 30), oil=(40, 30))
        self.spray_all()
        for look in (1, 2):
            self.later(3 if look == 1 else 4)
            self.count_both(look, **left)

    def test_each_is_judged_alone_and_one_sentence_says_what_to_take(self) -> None:
        self.season(water=(44, 33), soap=(2, 30), oil=(12, 2))
        found = verdict_of(self.context, self.trial_id)
        self.assertEqual(found.verdict.recommended, "Soap")
        both, second = found.answers
        self.assertTrue(found.verdict.advice.startswith("For spider mites alone: Treat the rest"))
        self.assertEqual(
            both,
            "Against both, take Oil: it is shown to work on each; against spider mites alone Soap "
            "is the better one.",
        )
        seen = [
            one._replace(measure="live")
            for one in table.together([self.trial])
            if one.measure == "other"
        ]
        terms = Terms(planned=(3.0, 7.0), decisive=7.0)
        alone = judge(seen, control="Water", look="7", threshold=0.6, seed=77, terms=terms)
        self.assertTrue(second.startswith("All this is of spider mites. Of whiteflies: Oil "))
        self.assertIn(alone.sentence.split(":")[1].split("(")[0].strip(), second)
        (reading,) = [one for one in found.verdict.beside if one.measure == "other"]
        self.assertEqual(reading.label, "Whiteflies")
        self.assertEqual(record_verdict(self.context, self.trial_id).answers, found.answers)
        self.assertFalse(next(r for r in found.verdict.remedies if r.name == "Oil").could_be_best)
        choices = rest_plans.options(self.context, self.trial_id).choices
        self.assertEqual([one.remedy.name for one in choices], ["Soap", "Oil"])

    def test_where_each_needs_its_own_they_are_not_mixed(self) -> None:
        self.season(water=(44, 33), soap=(2, 31), oil=(43, 2))
        self.assertIn(
            "Nothing here is shown to work on both: Soap for spider mites, Oil for whiteflies, one "
            "after the other and not in one bottle.",
            verdict_of(self.context, self.trial_id).answers[0],
        )

    def test_one_for_both_and_none_for_one(self) -> None:
        self.season(water=(44, 33), soap=(2, 3), oil=(43, 31))
        self.assertEqual(
            verdict_of(self.context, self.trial_id).answers[0], "Against both, take Soap."
        )
        self.trial_id = questions.create_trial(self.context, BOTH, self.now.date())
        self.plant_and_draw(24)
        self.season(water=(44, 33), soap=(2, 32), oil=(43, 31))
        self.assertEqual(
            verdict_of(self.context, self.trial_id).answers[0],
            "Soap is for spider mites; against whiteflies nothing here is shown to work.",
        )

    def test_what_was_not_counted_is_said_and_half_a_look_says_nothing_of_both(self) -> None:
        self.season(water=(44, None), soap=(2, None), oil=(12, None))
        (said,) = verdict_of(self.context, self.trial_id).answers
        self.assertEqual(
            said, "All this is of spider mites; whiteflies were not counted at this look."
        )
        for plant in self.trial.trial_plants[:12]:
            entry = self.entry(plant.id, 3, measure="other")
            keeping.keep_tally(self.context, self.trial_id, 2, entry)
        (said,) = verdict_of(self.context, self.trial_id).answers
        self.assertIn("Of whiteflies: So far", said)

    def test_while_the_key_is_sealed_nothing_is_told_of_either(self) -> None:
        self.count_both(0, water=(40, 30), soap=(40, 30), oil=(40, 30))
        self.spray_all()
        self.later(3)
        self.count_both(1, water=(44, 33), soap=(2, 31), oil=(43, 2))
        self.assertEqual(verdict_of(self.context, self.trial_id).answers, ())


class Asking(ServiceCase):
    def test_a_second_pest_is_another_and_counted(self) -> None:
        for setup, code in (
            (Setup(also="spider_mites", beside=("other",)), "same_pest"),
            (Setup(also="whiteflies"), "bad_also"),
            (Setup(beside=("other",)), "bad_also"),
            (Setup(also="w" * 61, beside=("other",)), "too_long"),
            (Setup(also="whiteflies", beside=("other",), kind=Kind.PREVENTION), "also_not_here"),
        ):
            with self.subTest(code=code), self.assertRaises(InputError) as caught:
                check_question(replace(QUESTION, setup=setup))
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(InputError):
            check_question(replace(QUESTION, measure="other"))

    def test_the_critic_says_what_cannot_act_on_the_second(self) -> None:
        bt = RemedyDraft("Bt", Role.REMEDY, "Bacillus thuringiensis, by its label")
        asked = replace(
            QUESTION,
            pest="caterpillars",
            remedies=(*QUESTION.remedies, bt),
            setup=Setup(also="Whiteflies", beside=("other",)),
        )
        self.trial_id = questions.create_trial(self.context, asked, self.now.date())
        self.assertEqual(self.trial.setup.also, "whiteflies")
        titles = {f.title for f in critiques.review(self.context, self.trial_id).findings}
        self.assertIn("Bt is not for whiteflies", titles)
