"""Rules of the question, the plants, the measures, the cautions and the thread."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime

from orthocris.core.errors import InputError
from orthocris.core.field.progress import JobKind, jobs
from orthocris.core.field.thread import State, stations
from orthocris.core.pantry.cautions import cautions_for, general_cautions
from orthocris.core.trial.measures import check_value, measure_named
from orthocris.core.trial.plan import Look, Remedy, Role, Round
from orthocris.core.trial.plants import check_plant, next_plants
from orthocris.core.trial.question import Question, RemedyDraft, check_question
from orthocris.core.trial.standing import standing_of
from orthocris.core.trial.trial import CountedTrial, Plant, Spray, Tally
from orthocris.knowledge import cautions, pests

GOOD = Question(
    name="Gutters",
    pest="spider_mites",
    measure="live",
    threshold=0.6,
    remedies=(RemedyDraft("Water", Role.CONTROL), RemedyDraft("Soap", Role.REMEDY)),
    look_days=(3, 7),
    round_days=(0, 5),
)


def at(day: int) -> datetime:
    """Eight in the morning of a day in May."""
    return datetime(2026, 5, day, 8, tzinfo=UTC)


class Questions(unittest.TestCase):
    def test_faults_name_their_field(self) -> None:
        soap = RemedyDraft("Soap", Role.REMEDY)
        faults = {
            "name": replace(GOOD, name="  "),
            "measure": replace(GOOD, measure="damage"),
            "threshold": replace(GOOD, threshold=1.0),
            "remedies": replace(GOOD, remedies=(soap, replace(soap, name="Oil"))),
            "remedies.2.name": replace(
                GOOD, remedies=(*GOOD.remedies, replace(soap, name=" soap "))
            ),
            "look_days": replace(GOOD, look_days=(7, 3)),
            "round_days": replace(GOOD, round_days=(2, 5)),
        }
        check_question(GOOD)
        for field, question in faults.items():
            with self.subTest(field), self.assertRaises(InputError) as caught:
                check_question(question)
            self.assertEqual(caught.exception.field, field)
            self.assertTrue(caught.exception.fix)

    def test_all_faults_of_a_question_are_told_at_once(self) -> None:
        wrong = replace(GOOD, name="", threshold=2.0, look_days=(7, 3))
        wrong = replace(wrong, setup=replace(GOOD.setup, place_cm=0, margin=3))
        with self.assertRaises(InputError) as caught:
            check_question(wrong)
        found = [one.field for one in (caught.exception, *caught.exception.more)]
        self.assertEqual(found, ["name", "threshold", "setup.place_cm", "look_days"])


class Numbers(unittest.TestCase):
    def test_shares_need_a_total_that_holds_them(self) -> None:
        dead = measure_named("dead")
        check_value(dead, 5, 5)
        for value, of, field in ((6, 5, "value"), (0, 0, "of"), (1, None, "of")):
            with self.assertRaises(InputError) as caught:
                check_value(dead, value, of)
            self.assertEqual(caught.exception.field, field)

    def test_cover_may_be_a_fraction_but_not_above_100(self) -> None:
        check_value(measure_named("cover"), 12.5, None)
        with self.assertRaises(InputError):
            check_value(measure_named("cover"), 100.5, None)


class Plants(unittest.TestCase):
    def test_two_plants_of_one_name_or_place(self) -> None:
        first = Plant(1, "S1", 1, 1)
        for plant, field in ((Plant(2, "s1 ", 1, 2), "name"), (Plant(2, "S2", 1, 1), "place")):
            with self.assertRaises(InputError) as caught:
                check_plant(plant, [first], "live")
            self.assertEqual(caught.exception.field, field)

    def test_new_rows_follow_and_skip_names_in_use(self) -> None:
        fresh = next_plants([Plant(1, "S2", 1, 1)], prefix="S", rows=1, per_row=3)
        self.assertEqual(fresh, [("S1", 2, 1), ("S3", 2, 2), ("S4", 2, 3)])
        with self.assertRaises(InputError):
            next_plants([], prefix="S", rows=100, per_row=100)


class Cautions(unittest.TestCase):
    def test_words_call_for_their_caution(self) -> None:
        text = " ".join(cautions_for("Soap with 70% isopropyl alcohol", cautions()))
        self.assertIn("flame", text)
        self.assertIn("27 °C", text)
        self.assertEqual(cautions_for("Potting soil", cautions()), ())
        self.assertIn("label", " ".join(general_cautions(cautions())))

    def test_every_pest_proposes_days_the_question_accepts(self) -> None:
        for pest in pests():
            check_question(
                replace(
                    GOOD,
                    measure=pest.measure,
                    look_days=pest.look_days,
                    round_days=pest.round_days,
                )
            )


class Thread(unittest.TestCase):
    def setUp(self) -> None:
        remedies = (Remedy(1, "Water", Role.CONTROL, ""), Remedy(2, "Soap", Role.REMEDY, ""))
        plants = tuple(
            Plant(k, f"S{k}", 1, k, 10, None, (k + 1) // 2, 1 + k % 2) for k in range(1, 5)
        )
        self.trial = CountedTrial(
            1,
            "Gutters",
            "spider_mites",
            "live",
            0.6,
            date(2026, 5, 10),
            None,
            7,
            remedies,
            plants=plants,
            rounds=(Round(1, 1, 0), Round(2, 2, 5)),
            looks=(Look(1, 0, 0), Look(2, 1, 3), Look(3, 2, 7)),
        )
        self.now = datetime(2026, 5, 10, 8, tzinfo=UTC)

    def day_of(self, look: int) -> date:
        """The planned day of a look, by its id."""
        return self.trial.date_of(next(k.day for k in self.trial.looks if k.id == look))

    def counted(self, *looks: int) -> CountedTrial:
        """The trial sprayed on day 0 and counted at these looks."""
        tallies = tuple(
            Tally(0, look, p.id, "live", 3, None, 1, True, self.now, self.day_of(look))
            for look in looks
            for p in self.trial.plants
        )
        sprays = tuple(Spray(1, p.id, self.now) for p in self.trial.plants)
        return replace(self.trial, tallies=tallies, sprays=sprays, sprayed_on=date(2026, 5, 10))

    def test_before_the_spray_the_count_comes_first(self) -> None:
        found = jobs(standing_of(self.trial), at(10))
        self.assertEqual([j.kind for j in found], [JobKind.PATCH, JobKind.COUNT, JobKind.SPRAY])

    def test_later_days_are_counted_from_the_real_first_spray(self) -> None:
        late = replace(self.counted(1), sprayed_on=date(2026, 5, 12))
        found = jobs(standing_of(late), at(13))
        self.assertEqual(found[0].due_on, date(2026, 5, 15))

    def test_a_missed_look_is_not_due_for_ever(self) -> None:
        found = jobs(standing_of(self.counted(1)), at(18))
        self.assertEqual(
            [(j.kind, j.number) for j in found], [(JobKind.SPRAY, 2), (JobKind.COUNT, 2)]
        )

    def test_a_lost_plant_is_not_waited_for(self) -> None:
        """One plant is set aside after the spray; the others' last count makes the verdict."""
        whole = self.counted(1, 2, 3)
        lost = whole.plants[0].id
        without = tuple(t for t in whole.tallies if (t.plant_id, t.look_id) != (lost, 3))
        waiting = replace(whole, tallies=without)
        today = at(17)
        self.assertEqual(
            (jobs(standing_of(waiting), today)[0].kind, jobs(standing_of(waiting), today)[0].left),
            (JobKind.COUNT, 1),
        )
        aside = tuple(replace(p, set_aside="lost") if p.id == lost else p for p in whole.plants)
        settled = replace(waiting, plants=aside)
        self.assertEqual([j.kind for j in jobs(standing_of(settled), today)], [JobKind.READ])
        self.assertEqual(stations(standing_of(settled), today)[6].state, State.DONE)

    def test_thread_frays_where_a_look_was_missed(self) -> None:
        today = at(18)
        self.assertEqual(stations(standing_of(self.counted(1, 3)), today)[5].state, State.FRAYED)
        self.assertEqual(stations(standing_of(self.counted(1, 2, 3)), today)[5].state, State.DONE)
        self.assertEqual(
            [s.state for s in stations(standing_of(self.trial), today)].count(State.NEXT), 1
        )


if __name__ == "__main__":
    unittest.main()
