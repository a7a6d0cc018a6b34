"""If not gone, then: a rule fixed beforehand, the counts that set it off, what is said of it."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

from orthocris.core.counting.paper import Paper, PaperCount
from orthocris.core.errors import InputError
from orthocris.core.field.following import Looked, RemedyRound, Rule, parts_by_rule
from orthocris.core.trial.programme import Step, step_said
from orthocris.core.trial.question import check_question
from orthocris.services.counting.paper import enter_paper
from orthocris.services.field import batches, rounds
from orthocris.services.field.batches import BatchDraft
from orthocris.services.pantry.remedy_cards import bottle_keys
from orthocris.services.trial import questions
from orthocris.services.verdict.notes import rule_notes
from tests.services.world import QUESTION, ServiceCase

NEEM = Step(1, "neem", "5 ml neem and 2 ml soap in 1 litre", above=10.0)


class Rules(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        water, soap = QUESTION.remedies
        soap = replace(soap, traits=replace(soap.traits, steps=(NEEM,)))
        asked = replace(
            questions.question_of(self.trial),
            remedies=(water, soap),
            look_days=(3, 7, 12),
            round_days=(0, 5, 9),
        )
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.plant_and_draw()

    def spray_all(self, round_number: int = 1) -> None:
        """Mark every plant; of a part by rule the bottle is mixed for it."""
        listed = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        for bottle in (b for b in listed if b.step and b.on):
            read = tuple(c.key for c in bottle.strong)
            draft = BatchDraft(step=bottle.step, acknowledged=read)
            batches.record_batch(self.context, self.trial_id, bottle.remedy.id, draft)
            self.neem = {bottle.remedy.id: self.trial.batches[-1].id}
        super().spray_all(round_number)

    def start(self, round_number: int, **changes: Any) -> None:
        """Start a round, with the neem where the rule holds."""
        checks = self.checks(**changes)
        if round_number > 1 and "Soap: neem" in self.given():
            checks = replace(checks, batches={**checks.batches, **self.neem})
        rounds.start_round(self.context, self.trial_id, round_number, checks)

    def given(self) -> list[str]:
        """What the soaped plants get, round by round."""
        trial = self.trial
        return [next(g.name for g in trial.given_in(r) if "Soap" in g.name) for r in trial.rounds]

    def test_above_the_number_another_mix_follows_to_the_end(self) -> None:
        self.count_all(0, 30, 30)
        self.assertEqual(self.given(), ["Soap"] * 3)
        self.assertEqual({part for _, part in bottle_keys(self.trial)}, {0})
        self.spray_all(1)
        self.later(3)
        (soap,) = [r.id for r in self.trial.remedies if r.name == "Soap"]
        soaped = [p.id for p in self.trial.trial_plants if p.remedy_id == soap]
        for plant in soaped[1:]:
            self.count(plant, 20, 1)
        self.assertEqual(self.given(), ["Soap"] * 3)  # one is not counted yet
        self.count(soaped[0], 20, 1)
        self.assertEqual(self.given(), ["Soap", "Soap: neem", "Soap: neem"])
        for plant in soaped:
            self.count(plant, 4, 1)
        self.assertEqual(self.given(), ["Soap"] * 3)  # miscounted: set right before the round
        for plant in soaped:
            self.count(plant, 20, 1)
        self.assertEqual({part for _, part in bottle_keys(self.trial)}, {0, 1})
        self.later(2)
        self.spray_all(2)
        self.later(2)
        self.count_all(2, 2, 40)
        self.assertEqual(self.given(), ["Soap", "Soap: neem", "Soap: neem"])
        (note,) = rule_notes(self.trial)
        self.assertEqual(
            note,
            "Soap is judged with its rule (neem instead after 1 round, if more than 10 are left). "
            "It held from round 2 on: 1 of 2 rounds gave neem.",
        )

    def test_below_it_nothing_follows_and_that_is_said(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all(1)
        self.later(3)
        self.count_all(1, 6, 30)
        self.later(2)
        self.spray_all(2)
        self.assertEqual(self.given(), ["Soap"] * 3)
        (note,) = rule_notes(self.trial)
        self.assertTrue(note.endswith("It never held: neem was not given."), note)

    def test_a_trial_from_paper_kept_its_rule(self) -> None:
        start = self.now.date()
        self.later(14)
        numbers = {0: 30, 1: 20, 2: 3}
        counts = [
            PaperCount(plant.name, look, "live", number)
            for plant in self.trial.trial_plants
            for look, number in numbers.items()
        ]
        paper = Paper(
            rounds=tuple((k, start + timedelta(n)) for k, n in ((1, 0), (2, 5), (3, 9))),
            looks=tuple((k, start + timedelta(n)) for k, n in ((0, 0), (1, 3), (2, 7))),
            counts=tuple(counts),
        )
        enter_paper(self.context, self.trial_id, paper)
        self.assertEqual(self.given(), ["Soap", "Soap: neem", "Soap: neem"])

    def test_a_rule_that_cannot_be_is_refused_with_its_field(self) -> None:
        asked = questions.question_of(self.trial)
        water, soap = asked.remedies
        for measure, steps in (
            ("live", (NEEM, replace(NEEM, above=None))),
            ("live", (NEEM, NEEM)),
            ("live", (replace(NEEM, above=-1.0),)),
            ("dead", (NEEM,)),
        ):
            bad = replace(soap, traits=replace(soap.traits, steps=steps))
            with self.subTest(measure), self.assertRaises(InputError) as caught:
                check_question(replace(asked, measure=measure, remedies=(water, bad)))
            self.assertEqual(caught.exception.field, "remedies.1.traits.steps")
        self.assertEqual(step_said(replace(NEEM, above=None)), "the next day neem")


class Deciding(ServiceCase):
    def test_it_waits_for_its_rounds_and_for_the_newest_look_before(self) -> None:
        rule = Rule(1, 1, 2, 10.0)
        rounds = [RemedyRound(n, 5 * n, 0, begun=n < 2, fixed=n < 2) for n in range(4)]
        self.assertEqual(parts_by_rule(rule, rounds, [Looked(3, (90.0, 90.0))]), {})
        late = [Looked(3, (90.0, 90.0)), Looked(7, (8.0, 13.0))]
        self.assertEqual(parts_by_rule(rule, rounds, late), {2: 1, 3: 1})
        self.assertEqual(parts_by_rule(rule, rounds, [*late, Looked(9, (2.0, 3.0))]), {})
        missed = [replace(r, begun=r.id == 0, fixed=r.id == 0) for r in rounds]
        self.assertEqual(parts_by_rule(rule, missed, late), {})
