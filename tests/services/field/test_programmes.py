"""A trial of whole programmes: daily jet, soap every third day, weekly neem, a card, untouched."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from orthocris.api.trial.views import trial_view
from orthocris.core.errors import ConflictError, InputError
from orthocris.core.field import clashes
from orthocris.core.field.progress import JobKind
from orthocris.core.field.rounds import Checks
from orthocris.core.pantry.costs import Price
from orthocris.core.pantry.remedies import draft_of
from orthocris.core.trial.deviations import round_notes
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import ON_EACH_ROUND, Programme, Rhythm, Step
from orthocris.core.trial.question import RemedyDraft, check_question
from orthocris.core.trial.trial import Plant
from orthocris.knowledge import remedy_named
from orthocris.services.field import batches, labels, moves, patches, rounds
from orthocris.services.field.batches import BatchDraft
from orthocris.services.field.calendars import timed_jobs
from orthocris.services.field.schedule import standing_of
from orthocris.services.planning import layouts
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import overview
from orthocris.services.verdict.notes import bench_notes
from orthocris.services.weather import yards
from orthocris.services.weather.outlook import outlook_of
from tests.services.world import ServiceCase


def given(key: str, programme: Programme | None = None) -> RemedyDraft:
    """A shipped remedy, perhaps with other days."""
    draft = draft_of(remedy_named(key))
    if programme is None:
        return draft
    return replace(draft, traits=replace(draft.traits, programme=programme))


_SOAP = given("mild_soap", Programme(Rhythm.EVERY, every=3))
WATER = given("water_only")
SPRAYS = (given("mild_soap"), given("neem"))
SOAP = replace(_SOAP, traits=replace(_SOAP.traits, dose=100.0, dose_unit="ml"))


class Mixed(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        asked = replace(
            questions.question_of(self.trial),
            remedies=(
                given("untreated"),
                given("water_jet"),
                SOAP,
                given("neem", Programme(Rhythm.EVERY, every=7)),
                given("yellow_traps"),
            ),
            look_days=(4, 9),
            round_days=(0,),
        )
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.plant_and_draw(per_row=15)
        for k, plant in enumerate(self.trial.trial_plants):
            self.count(plant.id, 30 + k % 4)

    def plants_of(self, name: str) -> list[Plant]:
        """The plants that got a remedy."""
        ids = {r.id for r in self.trial.remedies if r.name == name}
        return [p for p in self.trial.trial_plants if p.remedy_id in ids]

    def given_on(self, day: int) -> set[str]:
        """Names of what is given on a day."""
        (round_,) = [r for r in self.trial.rounds if r.day == day]
        return {r.name for r in self.trial.given_in(round_)}

    def codes(self, number: int, checks: Checks) -> list[str]:
        """What holds a round back."""
        return [b.code for b in rounds.what_blocks(self.context, self.trial_id, number, checks)]

    def test_the_timetable_is_kept(self) -> None:
        self.assertEqual([r.day for r in self.trial.rounds], list(range(9)))
        self.assertEqual(self.given_on(0), {r.name for r in self.trial.remedies})
        self.assertEqual(self.given_on(1), {"Water jet"})
        self.assertEqual(self.given_on(3), {"Water jet", "Mild soap"})
        self.assertEqual(self.given_on(7), {"Water jet", "Cold-pressed neem"})
        self.assertEqual(questions.question_of(self.trial).round_days, (0,))

    def test_what_days_and_ways_tell_is_said_where_the_key_is_sealed(self) -> None:
        view = trial_view(overview(self.context, self.trial_id))
        self.assertTrue(view.sealed)
        self.assertEqual(set(view.told_apart), {r.name for r in self.trial.remedies})
        (note,) = [n for n in bench_notes(self.trial, self.trial.looks[-1]) if "Told apart" in n]
        self.assertIn("Yellow", note)
        alike = replace(questions.question_of(self.trial), remedies=(WATER, *SPRAYS))
        questions.change_question(self.context, self.trial_id, alike, self.now.date())
        self.assertEqual(self.trial.told_apart, ())

    def test_only_what_is_due_is_asked_for(self) -> None:
        self.spray_all(1)
        self.later(1)
        number = 2  # day 1: only the jet
        with self.context.database.reading() as connection:
            standing = standing_of(connection, self.trial_id)
            due = timed_jobs(connection, [standing], outlook_of(connection, self.now))
        spray = [j for j in due[self.trial_id] if j.kind is JobKind.SPRAY and j.number == number]
        self.assertEqual([(j.title, j.left, j.of) for j in spray], [("Treat, round 2", 3, 3)])
        self.assertNotIn(JobKind.MIX, [j.kind for j in due[self.trial_id] if j.number == number])
        self.assertEqual(
            self.codes(number, Checks(weather_looked=True, reasons={"window_closed": "calm"})),
            ["cautions", "bees", "fruit"],
        )

    def test_a_daily_jet_is_no_second_spray_and_a_soap_out_of_turn_is(self) -> None:
        self.spray_all(1)
        self.later(1)
        self.start(2)
        for plant in self.plants_of("Water jet"):
            self.spray_one(2, plant.id)
        soap = self.plants_of("Mild soap")[0]
        with self.assertRaises(ConflictError) as caught:
            self.spray_one(2, soap.id)
        self.assertEqual(caught.exception.code, "not_due")
        with self.context.database.reading() as connection:
            standing = standing_of(connection, self.trial_id)
        done = standing.rounds[1]
        self.assertEqual((done.sprayed, done.done, standing.due_in(done.round)), (3, 3, 3))

    def test_an_amount_of_its_own_fills_its_bottle_and_is_no_deviation(self) -> None:
        listed = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        found = {b.remedy.name: float(b.mix.needed) for b in listed if b.mix}
        self.assertAlmostEqual(found["Mild soap"] / found["Cold-pressed neem"], 100 / 40)
        self.spray_all(1)
        trial, soaped = self.trial, {p.id for p in self.plants_of("Mild soap")}
        self.assertEqual({s.volume for s in trial.sprays if s.plant_id in soaped}, {100.0})
        self.assertNotIn("another volume", " ".join(round_notes(trial, trial.rounds[0])))
        asked = questions.question_of(trial)
        large = replace(SOAP, traits=replace(SOAP.traits, dose=9e4))
        with self.assertRaises(InputError) as caught:
            check_question(replace(asked, remedies=(asked.remedies[0], large)))
        self.assertEqual(caught.exception.field, "remedies.1.traits.dose")

    def test_ticks_once_a_day_and_bottle(self) -> None:
        """Soap on day 3 and again later that day from the same bottle: nothing is asked anew."""
        self.spray_all(1)
        self.later(3)
        checks = self.checks()
        rounds.start_round(self.context, self.trial_id, 4, checks)
        again = Checks(
            shaken=True, weather_looked=True, batches=checks.batches, reasons=checks.reasons
        )
        self.assertEqual(self.codes(4, again), [])
        self.later(1)
        self.assertIn("bees", self.codes(5, Checks(weather_looked=True)))

    def test_an_added_round_is_for_what_the_last_one_gave(self) -> None:
        on = self.trial.date_of(10)
        moves.move_round(self.context, self.trial_id, 10, on, "one more")
        self.assertEqual(self.given_on(10), self.given_on(8))

    def test_back_to_shared_rounds(self) -> None:
        asked = questions.question_of(self.trial)
        shared = tuple(
            replace(r, traits=replace(r.traits, programme=ON_EACH_ROUND)) for r in asked.remedies
        )
        plain = replace(asked, remedies=shared, round_days=(0, 5))
        questions.change_question(self.context, self.trial_id, plain, self.now.date())
        self.assertEqual([(r.day, r.remedies) for r in self.trial.rounds], [(0, None), (5, None)])


class Stepwise(ServiceCase):
    """Soap on each round, the next day neem: two bottles of one letter, two rounds a time."""

    STEP = Step(1, "neem", "5 ml neem oil and 2 ml soap per litre")

    def setUp(self) -> None:
        super().setUp()
        self.ask(self.STEP)
        self.plant_and_draw(per_row=15)
        for k, plant in enumerate(self.trial.trial_plants):
            self.count(plant.id, 30 + k % 4)

    def ask(self, *steps: Step) -> None:
        """The question: water, plain soap, and soap with what follows."""
        soap = given("mild_soap")
        both = replace(
            soap, name="Soap, then neem", traits=replace(soap.traits, catalogue=None, steps=steps)
        )
        asked = replace(
            questions.question_of(self.trial),
            remedies=(given("water_only"), soap, both), look_days=(4, 9), round_days=(0, 5),
        )  # fmt: skip
        questions.change_question(self.context, self.trial_id, asked, self.now.date())

    def letter(self) -> str:
        """The letter of the remedy with steps."""
        (found,) = [r.letter for r in self.trial.remedies if r.traits.steps]
        return found or ""

    def mix(self, step: int) -> int:
        """A bottle of a part of the remedy with steps."""
        (remedy,) = [r for r in self.trial.remedies if r.traits.steps]
        listed = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        (bottle,) = [b for b in listed if (b.remedy.id, b.step) == (remedy.id, step)]
        read = tuple(c.key for c in bottle.strong)
        draft = BatchDraft(step=step, acknowledged=read, mixed_by="Ada")
        return batches.record_batch(self.context, self.trial_id, remedy.id, draft)

    def test_it_is_planned_bottled_and_labelled_part_by_part(self) -> None:
        trial = self.trial
        told = [(r.day, [p.name for p in trial.given_in(r)]) for r in trial.rounds]
        (_, first), (one, after), (five, again), (six, last) = told
        self.assertEqual([one, five, six], [1, 5, 6])
        self.assertEqual([first, again], [["Water only", "Mild soap", "Soap, then neem"]] * 2)
        self.assertEqual([after, last], [["Water only", "Soap, then neem: neem"]] * 2)
        self.assertEqual(questions.question_of(trial).round_days, (0, 5))
        listed = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        said = {(b.remedy.name, b.on) for b in listed if b.remedy.name.startswith("Soap,")}
        self.assertEqual(said, {("Soap, then neem", (0, 5)), ("Soap, then neem: neem", (1, 6))})
        self.mix(0)
        self.mix(1)
        sheet = labels.labels_of(self.context, self.trial_id, "a4").decode()
        self.assertIn("For day 0, 5.", sheet)
        self.assertIn("For day 1, 6.", sheet)

    def test_a_round_takes_the_bottle_of_its_part_and_no_other(self) -> None:
        self.spray_all(1)
        self.later(1)
        of_day_0 = next(
            b for b in self.trial.batches if b.step == 0 and b.title == "Soap, then neem"
        )
        checks = Checks(shaken=True, weather_looked=True, cautions_read=True, bees_looked=True,
                        fruit_looked=True, reasons={"window_closed": "calm"})  # fmt: skip
        (remedy,) = [r for r in self.trial.remedies if r.traits.steps]
        wrong = replace(checks, batches={remedy.id: of_day_0.id})
        blocked = rounds.what_blocks(self.context, self.trial_id, 2, wrong)
        self.assertEqual([b.code for b in blocked], ["no_batch"])
        right = replace(checks, batches={remedy.id: self.mix(1)})
        rounds.start_round(self.context, self.trial_id, 2, right)
        for plant in self.trial.due_in(self.trial.rounds[1]):
            self.spray_one(2, plant.id)
        with self.context.database.reading() as connection:
            done = standing_of(connection, self.trial_id).rounds[1]
        self.assertEqual((done.sprayed, done.done), (10, 10))

    def test_sulphur_and_then_oil_on_the_same_leaves_is_held_back(self) -> None:
        self.ask(Step(3, "sulphur", "3 g wettable sulphur per litre"), self.STEP_LATER)
        trial = self.trial
        (at,) = [r for r in trial.rounds if r.day == 4]
        self.assertEqual([p.name for p in trial.given_in(at)][-1], "Soap, then neem: neem")
        self.later(4)
        checks = Checks(weather_looked=True, reasons={"window_closed": "calm"})
        blocked = rounds.what_blocks(self.context, self.trial_id, at.number, checks)
        self.assertIn(clashes.CODE, [b.code for b in blocked])

    def test_a_part_has_its_own_amount_and_an_added_round_gives_what_the_last_gave(self) -> None:
        self.ask(replace(self.STEP, way="drench", dose=100.0, dose_unit="ml"))
        self.plant_and_draw_again()
        self.spray_all(1)
        self.later(1)
        (remedy,) = [r for r in self.trial.remedies if r.traits.steps]
        checks = self.checks(batches={remedy.id: self.mix(1)})
        rounds.start_round(self.context, self.trial_id, 2, checks)
        for plant in self.trial.due_in(self.trial.rounds[1]):
            self.spray_one(2, plant.id)
        trial = self.trial
        drenched = {p.id for p in trial.trial_plants if p.remedy_id == remedy.id}
        second = trial.rounds[1]
        given = [s for s in trial.sprays if s.round_id == second.id and s.plant_id in drenched]
        self.assertEqual({s.volume for s in given}, {100.0})
        self.assertNotIn("another volume", " ".join(round_notes(trial, second)))
        moves.move_round(self.context, self.trial_id, 5, trial.date_of(8), "once more")
        last = self.trial.rounds[-1]
        self.assertEqual([p.name for p in self.trial.given_in(last)][-1], "Soap, then neem: neem")

    def plant_and_draw_again(self) -> None:
        """The lot drawn anew, after the question changed."""
        if not self.trial.laid_out:
            layouts.draw_layout(self.context, self.trial_id, reason="changed", seed=None)

    def test_screens_are_told_which_part_a_round_gives_and_nothing_more_while_sealed(self) -> None:
        found = overview(self.context, self.trial_id)
        second = next(r for r in trial_view(found).rounds if r.day == 1)
        (tag,) = second.parts
        self.assertEqual((tag.letter, tag.step, tag.bottled), (self.letter(), 1, True))
        self.assertEqual((tag.remedy_id, tag.dose, tag.coverage), (None, "", "Undersides too."))
        self.assertEqual([r.parts for r in trial_view(found).rounds if r.day in (0, 5)], [(), ()])
        names = {w.remedy_id: w.times for w in trial_view(found).work}
        self.assertEqual(sorted(names.values()), [2, 4, 4])
        self.open_key()
        (open_,) = next(r for r in trial_view(overview(self.context, self.trial_id)).rounds
                        if r.day == 1).parts  # fmt: skip
        self.assertIsNotNone(open_.remedy_id)

    def test_what_is_eaten_waits_for_the_part_that_asks_for_most(self) -> None:
        asked = questions.question_of(self.trial)
        eaten = replace(asked, setup=replace(asked.setup, eaten=True))
        questions.change_question(self.context, self.trial_id, eaten, self.now.date())
        found = overview(self.context, self.trial_id)
        (both,) = [r for r in found.trial.remedies if r.traits.steps]
        self.assertTrue(any("For eating:" in text for text in found.cautions[both.id]))
        self.assertTrue(any(text.startswith("Neem") for text in found.cautions[both.id]))

    def test_an_oil_that_comes_later_is_looked_at_for_a_week_on_slow_leaves(self) -> None:
        slow = replace(self.trial.care, slow_leaves=True)
        patches.change_care(self.context, self.trial_id, slow)
        cells = patches.patch_plan(self.context, self.trial_id).cells
        hours = {cell.remedy.name: max(cell.hours) for cell in cells}
        self.assertEqual(hours["Soap, then neem"], 168)
        self.assertLess(hours["Mild soap"], 168)
        told = {r.name: r.oil for r in trial_view(overview(self.context, self.trial_id)).remedies}
        self.assertEqual((told["Soap, then neem"], told["Mild soap"]), (True, False))

    def test_a_control_has_no_steps(self) -> None:
        asked = questions.question_of(self.trial)
        control = asked.remedies[0]
        stepped = replace(control, traits=replace(control.traits, steps=(self.STEP,)))
        with self.assertRaises(InputError) as caught:
            check_question(replace(asked, remedies=(stepped, *asked.remedies[1:])))
        self.assertEqual(caught.exception.code, "control_has_steps")

    STEP_LATER = replace(STEP, after=4)

    def test_a_part_on_the_day_of_another_is_asked_back(self) -> None:
        with self.assertRaises(InputError) as caught:
            self.ask(replace(self.STEP, after=5))
        self.assertEqual(caught.exception.code, "steps_meet")


class Material(ServiceCase):
    def test_cards_and_granules_cost_what_their_packs_do_and_a_jet_nothing(self) -> None:
        """Five plants each: cards at 0.4 each hung once; 5 g of granules at 0.02 twice."""
        cards = given("yellow_traps")
        dust = RemedyDraft(
            "Clay granules", Role.REMEDY, "5 g strewn on each pot",
            traits=Traits(way="granule", wets=False, dose=5.0, dose_unit="g"),
        )  # fmt: skip
        remedies = (given("untreated"), cards, dust, given("water_jet"))
        asked = replace(
            questions.question_of(self.trial),
            remedies=remedies,
            look_days=(4, 9),
            round_days=(0, 5),
        )
        questions.change_question(self.context, self.trial_id, asked, self.now.date())
        self.plant_and_draw(per_row=20)
        self.assertEqual(set(overview(self.context, self.trial_id).laid.values()), {None})
        packs = (
            Price("yellow card", Fraction(10), Fraction(4)),
            Price("granule", Fraction(500), Fraction(10)),
            Price("water", Fraction(1000), Fraction(9)),
        )
        yards.change_prices(self.context, packs)
        found = overview(self.context, self.trial_id)
        names = {r.id: r.name for r in found.trial.remedies}
        cost = {names[k]: None if v is None else float(v) for k, v in found.laid.items()}
        self.assertEqual(cost[cards.name], 2.0)
        self.assertEqual(cost[dust.name], 1.0)
        self.assertEqual([cost["Water jet"], cost[remedies[0].name]], [None, None])
