"""The critic catches each fault, and each mend removes what it mends."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date
from itertools import combinations

from orthocris.core.pantry.remedies import draft_of
from orthocris.core.pantry.suiting import Target, is_plain
from orthocris.core.planning.critique import critique
from orthocris.core.planning.findings import Finding, PestFacts, Plan
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import ON_EACH_ROUND, Programme, Rhythm, Step
from orthocris.core.trial.question import Question, RemedyDraft, check_question, timetable_of
from orthocris.core.trial.setup import DesignKind, Gradient, Kind, Setup, Unit
from orthocris.core.trial.trial import Plant
from orthocris.knowledge import recipe_cards, remedies, remedy_named

WATER, SOAP, OIL, DAILY_JET, NEEM, DRY = (
    draft_of(remedy_named(key))
    for key in ("water_only", "mild_soap", "oil_soap", "water_jet", "neem", "untreated")
)
# Given with the others: how often is another question.
JET = replace(DAILY_JET, traits=replace(DAILY_JET.traits, programme=ON_EACH_ROUND))
MITES = PestFacts(
    "Spider mites", ("live", "dead", "rating"), "live", 12, Target("spider_mites", "pest")
)


def plan(
    *chosen: RemedyDraft,
    plants: int = 20,
    counts: float | None = 30,
    measure: str = "live",
    looks: tuple[int, ...] = (3, 7),
    **setup: object,
) -> Plan:
    """A sound plan of two remedies and water on 20 well-infested plants, or one changed."""
    question = Question(
        "x",
        "spider_mites",
        measure,
        0.6,
        chosen or (WATER, SOAP, JET),
        looks,
        (0, 5),
        Setup(place_cm=80, row_cm=80, **setup),  # type: ignore[arg-type]
    )
    bench = tuple(
        Plant(k + 1, f"S{k + 1}", k // 5 + 1, k % 5 + 1, None if counts is None else counts + k % 3)
        for k in range(plants)
    )
    catalogue = {remedy.key: remedy for remedy in remedies()}
    return Plan(question, date(2026, 5, 10), bench, MITES, catalogue, recipe_cards())


SULPHUR = draft_of(remedy_named("sulphur"))
ONE_CONTROL = ("unequal_handling", "control_way")


class Away(unittest.TestCase):
    """Rounds on days 0 and 5, looks on days 3 and 7, from the 10th of May."""

    def found(self, *away: tuple[date, date]) -> Finding | None:
        """What is said of the days away."""
        own = replace(plan(), away=away)
        return next((f for f in critique(own) if f.code == "away"), None)

    def test_days_without_a_round_or_look_are_no_matter(self) -> None:
        self.assertIsNone(self.found())
        between = (date(2026, 5, 11), date(2026, 5, 12))
        self.assertIsNone(self.found(between, (date(2026, 5, 18), date(2026, 6, 30))))

    def test_what_falls_into_them_is_named_and_begun_when_all_is_free(self) -> None:
        said = self.found((date(2026, 5, 14), date(2026, 5, 20)))
        assert said is not None and said.mend is not None
        self.assertTrue(said.harm.startswith("Round 2 (day 5) and look 2 (day 7) fall into"))
        # From the 19th on the count before would fall into them, or from the 13th a round.
        self.assertEqual(said.mend.start_on, date(2026, 5, 21))
        later = replace(plan(), start_on=said.mend.start_on)
        self.assertEqual([f for f in critique(later) if f.code == "away"], [])

    def test_where_no_start_is_free_a_helper_is_asked(self) -> None:
        said = self.found((date(2026, 5, 1), date(2026, 12, 1)))
        assert said is not None
        self.assertIsNone(said.mend)
        self.assertIn("ask a helper", said.harm)

    def test_a_programme_of_days_counts_each_day(self) -> None:
        own = replace(plan(WATER, SOAP, DAILY_JET), away=((date(2026, 5, 12), date(2026, 5, 12)),))
        self.assertIn("away", {f.code for f in critique(own)})


class Critic(unittest.TestCase):
    def finding(self, faulty: Plan, code: str) -> Finding:
        """The finding with this code."""
        found = {f.code: f for f in critique(faulty)}
        self.assertIn(code, found)
        self.assertTrue(found[code].harm and found[code].title)
        return found[code]

    def mended(self, faulty: Plan, code: str) -> Plan:
        """The plan after the mend of a finding, which must be gone and still a valid question."""
        mend = self.finding(faulty, code).mend
        assert mend is not None
        after = replace(faulty, question=mend.question, start_on=mend.start_on)
        check_question(after.question)
        self.assertNotIn(code, {f.code for f in critique(after)})
        return after

    def test_sulphur_beside_oil_calls_for_shields(self) -> None:
        side_by_side = plan(WATER, OIL, SULPHUR)
        found = self.finding(side_by_side, "sulphur_beside_oil")
        assert found.mend is not None
        mended = {f.code for f in critique(replace(side_by_side, question=found.mend.question))}
        self.assertNotIn("sulphur_beside_oil", mended)
        for sound in (plan(WATER, SOAP, SULPHUR), plan(WATER, OIL, SULPHUR, shields=True)):
            self.assertNotIn("sulphur_beside_oil", {f.code for f in critique(sound)})

    def test_sulphur_as_a_later_step_stands_beside_oil_too(self) -> None:
        steps = (Step(2, "powder", "3 g wettable sulphur per litre"),)
        stepwise = replace(SOAP, traits=replace(SOAP.traits, steps=steps))
        found = {f.code for f in critique(plan(WATER, OIL, stepwise))}
        self.assertIn("sulphur_beside_oil", found)

    def test_an_oil_of_a_later_step_is_held_and_wets(self) -> None:
        """Dust first, the next day oil alone: the control is wetted, and the oil gets its soap."""
        dust = draft_of(remedy_named("dust"))
        traits = replace(dust.traits, steps=(Step(1, "oil", "10 ml rapeseed oil in 1 litre"),))
        stepwise = replace(dust, traits=traits)
        self.assertIn("unequal_handling", {f.code for f in critique(plan(DRY, stepwise))})
        after = self.mended(plan(WATER, SOAP, stepwise), "oil_alone")
        self.assertIn("liquid soap", after.question.remedies[2].traits.steps[0].recipe)

    def test_a_remedy_that_comes_more_often_is_told(self) -> None:
        """Days 0 to 6 before the look of day 7 are seven visits, against two rounds."""
        often = plan(WATER, SOAP, DAILY_JET)
        found = self.finding(often, "visits_differ")
        self.assertIn("Water jet is given 7 times, Mild soap 2 times", found.harm)
        after = self.mended(often, "visits_differ")
        self.assertIsNone(timetable_of(after.question))
        assert found.mend is not None
        told = [(c.what, c.before, c.after) for c in found.mend.changes]
        self.assertEqual(told, [("Water jet, when", "daily", "on each round")])
        stepwise = replace(SOAP, name="Both", traits=replace(SOAP.traits, steps=(Step(1, "neem"),)))
        both = self.finding(plan(WATER, SOAP, stepwise), "visits_differ")
        self.assertIn("Both is given 4 times", both.harm)
        self.assertIsNone(both.mend)  # a step left out would be another remedy

    def test_a_sound_plan_has_no_findings(self) -> None:
        self.assertEqual([f.code for f in critique(plan())], [])

    def test_no_control(self) -> None:
        after = self.mended(plan(SOAP, JET), "no_control")
        self.assertEqual(after.question.remedies[0].role, Role.CONTROL)

    def test_a_jet_needs_a_water_control_and_all_are_handled_alike(self) -> None:
        self.assertTrue(
            self.mended(plan(DRY, JET), "no_water_control").question.remedies[0].traits.wets
        )
        self.mended(plan(DRY, SOAP), "unequal_handling")

    def test_the_control_is_handled_in_the_way_of_all_others(self) -> None:
        drench = draft_of(remedy_named("peroxide_drench"))
        dab = draft_of(remedy_named("alcohol_dab"))
        for remedy, way, said in ((drench, "drench", "150 ml"), (dab, "dab", "3 ml")):
            for control, code in ((WATER, "control_way"), (DRY, "unequal_handling")):
                after = self.mended(plan(control, remedy), code).question.remedies[0]
                self.assertEqual((after.role, after.traits.way), (Role.CONTROL, way))
                self.assertIn(said, after.recipe)
            bare = self.mended(plan(remedy, replace(remedy, name="Half")), "no_control")
            self.assertEqual(bare.question.remedies[0].traits.way, way)
        poured = replace(WATER, traits=replace(WATER.traits, way="drench"))
        again = self.mended(plan(poured, SOAP), "control_way").question.remedies[0]
        self.assertEqual((again.traits.way, again.recipe), ("spray", WATER.recipe))
        own = replace(WATER, name="Tea", recipe="20 ml nettle tea in 1 litre")
        self.assertNotIn("control_way", {f.code for f in critique(plan(own, drench))})

    def test_a_control_of_several_ways_is_given_each_of_them(self) -> None:
        drench, dab, cards, knife, soak, jar, sand = (
            draft_of(remedy_named(key))
            for key in (
                *("peroxide_drench", "alcohol_dab", "yellow_traps", "hand_removal"),
                *("soak_part", "eggs_on_tape", "sand_top"),
            )
        )
        for others, said in (
            ((drench, SOAP), ("undersides", "on the soil")),
            ((drench, cards), ("on the soil", "glue covered")),
            ((dab, JET, cards), ("undersides", "on the same brush", "glue covered")),
        ):
            for control in (WATER, DRY):
                codes = {f.code for f in critique(plan(control, *others))}
                code = next(c for c in ("no_water_control", *ONE_CONTROL) if c in codes)
                after = self.mended(plan(control, *others), code)
                (given,) = (r for r in after.question.remedies if r.role is Role.CONTROL)
                self.assertTrue(given.traits.wets)
                for words in said:
                    self.assertIn(words, given.recipe)
                left = {f.code for f in critique(after)}
                self.assertFalse(left & {"no_water_control", *ONE_CONTROL})
        for one, other in combinations((SOAP, drench, dab, cards, soak, jar, sand), 2):
            (given, *_) = self.mended(plan(one, other), "no_control").question.remedies
            self.assertTrue(is_plain(given), given.recipe)
        (bare,) = self.mended(plan(DRY, cards), "control_way").question.remedies[:1]
        self.assertIn("glue covered", bare.recipe)
        self.assertFalse({f.code for f in critique(plan(DRY, knife))} & set(ONE_CONTROL))
        ruled = replace(SOAP.traits, steps=(Step(2, "Neem", way="drench", above=20.0),))
        waits = plan(WATER, replace(SOAP, traits=ruled))
        self.assertNotIn("control_way", {f.code for f in critique(waits)})

    def test_a_drench_is_given_to_whole_plants_alone(self) -> None:
        drench = draft_of(remedy_named("peroxide_drench"))
        leaves = plan(WATER, drench, unit=Unit.LEAF)
        self.assertIs(self.mended(leaves, "on_a_part").question.setup.unit, Unit.PLANT)
        for sound in (plan(WATER, drench), plan(WATER, SOAP, unit=Unit.LEAF)):
            self.assertNotIn("on_a_part", {f.code for f in critique(sound)})

    def test_a_trap_is_remedy_or_ruler(self) -> None:
        cards = draft_of(remedy_named("yellow_traps"))
        found = self.finding(plan(DRY, cards, measure="catch"), "trap_is_ruler")
        self.assertIn("the better it works, the worse it looks", found.harm)
        after = self.mended(plan(DRY, cards, measure="catch"), "trap_is_ruler")
        self.assertEqual(after.question.measure, "live")
        self.assertNotIn("trap_is_ruler", {f.code for f in critique(plan(DRY, cards))})
        self.assertNotIn("trap_is_ruler", {f.code for f in critique(plan(measure="catch"))})

    def test_two_things_at_once(self) -> None:
        after = self.mended(plan(WATER, SOAP, OIL), "two_things_differ")
        amounts = {i.amount for r in after.others for i in r.traits.ingredients if i.key == "soap"}
        self.assertEqual(len(amounts), 1)
        square = Setup(kind=Kind.SQUARE)
        asked = replace(plan(WATER, SOAP, OIL).question, setup=square)
        codes = {f.code for f in critique(replace(plan(), question=asked))}
        self.assertNotIn("two_things_differ", codes)

    def test_no_strength_suits_both(self) -> None:
        """Detergent bears 1 to 3 ml, as an own remedy's soap 10 ml does not."""
        strong = replace(SOAP, name="Own", traits=replace(SOAP.traits, catalogue=None))
        found = self.finding(plan(WATER, strong, OIL), "two_things_differ")
        self.assertIsNone(found.mend)
        self.assertIn("two-by-two", found.harm)

    def test_oil_without_an_emulsifier(self) -> None:
        alone = RemedyDraft("Oil", Role.REMEDY, "10 ml rape oil in 1 litre")
        after = self.mended(plan(WATER, alone), "oil_alone")
        self.assertIn("soap", after.others[0].recipe)
        boiled = RemedyDraft("Brew", Role.REMEDY, "100 ml boiled brew in 1 litre")
        self.assertNotIn("oil_alone", {f.code for f in critique(plan(WATER, boiled))})

    def test_a_prevention_that_does_not_start_clean(self) -> None:
        found = self.finding(plan(kind=Kind.PREVENTION), "not_clean")
        self.assertIn("S1", found.harm)

    def test_a_lot_with_too_few_ways_is_told_with_what_would_mend_it(self) -> None:
        """Four pairs can be laid out in 2^4 = 16 ways, five in 32; three remedies in 6^4."""
        pairs = plan(WATER, SOAP, plants=8)
        found = self.finding(pairs, "too_few_layouts")
        self.assertIn("in 16 ways only", found.harm)
        self.assertIn("leaves or halves of them", found.harm)  # no plant that is not there
        self.assertIsNone(found.mend)
        for enough in (plan(WATER, SOAP, plants=10), plan(plants=12)):
            self.assertNotIn("too_few_layouts", {f.code for f in critique(enough)})

    def test_numbers_of_plants(self) -> None:
        found = self.finding(plan(plants=8), "too_few_blocks")
        self.assertNotIn("more plants", found.harm)  # the gardener has the plants there are
        after = self.mended(plan(plants=8), "too_few_blocks")
        self.assertEqual(len(after.others), len(plan(plants=8).others) - 1)
        alone = self.finding(plan(WATER, SOAP, plants=5), "too_few_blocks")
        self.assertIsNone(alone.mend)
        self.mended(plan(plants=5), "too_many_remedies")

    def test_start_counts(self) -> None:
        after = self.mended_start(plan(counts=1))
        self.assertEqual(after, date(2026, 5, 15))
        self.mended(plan(counts=None, match_place=False), "unmatched")
        self.mended(plan(counts=None, design=DesignKind.RANDOMISED), "unmatched")
        clean = plan(counts=0, kind=Kind.PREVENTION)
        self.assertNotIn("low_start", {f.code for f in critique(clean)})

    def mended_start(self, faulty: Plan) -> date:
        """The day to which the mend of too few pests puts the first spray."""
        mend = self.finding(faulty, "low_start").mend
        assert mend is not None
        return mend.start_on

    def test_gradients(self) -> None:
        self.mended(plan(gradient=Gradient.ONE, match_place=False), "gradient")
        self.mended(plan(gradient=Gradient.ONE, design=DesignKind.RANDOMISED), "gradient")
        self.mended(plan(gradient=Gradient.TWO), "two_way_gradient")
        rising = plan(match_place=False)
        steep = tuple(replace(p, match_count=10.0 * p.place) for p in rising.plants)
        self.finding(replace(rising, plants=steep), "gradient")

    def test_neighbours(self) -> None:
        close = plan()
        near = replace(close, question=replace(close.question, setup=Setup(place_cm=20)))
        self.mended(near, "neighbours_close")
        shared = self.finding(plan(unit=Unit.LEAF), "units_share_plant")
        self.assertIsNone(shared.mend)  # calling leaves plants would mend nothing

    def test_what_flies_over_the_bench_is_told_unless_plants_stand_apart(self) -> None:
        flies = replace(MITES, name="Whiteflies", roams="Adults fly", settled="the young scales")
        found = self.finding(replace(plan(), pest=flies), "roaming")
        self.assertIn("Count the young scales", found.harm)
        far = plan()
        apart = replace(far.question, setup=Setup(place_cm=120, row_cm=150))
        for calm in (
            replace(far, pest=flies, question=apart),
            replace(plan(measure="rating"), pest=flies),
            far,
        ):
            self.assertNotIn("roaming", [f.code for f in critique(calm)])

    def test_looks(self) -> None:
        after = self.mended(plan(WATER, NEEM, looks=(2, 4)), "looks_too_early")
        self.assertEqual(after.question.look_days, (2, 4, 7))
        after = self.mended(plan(looks=(3, 30)), "looks_too_late")
        self.assertEqual(after.question.look_days, (3, 17))

    def test_a_measure_that_cannot_show_it(self) -> None:
        self.assertEqual(
            self.mended(plan(measure="catch"), "measure_blind").question.measure, "live"
        )

    def test_plants_that_must_wait(self) -> None:
        after = self.mended(plan(in_bloom=True), "in_bloom")
        self.assertEqual(after.start_on, date(2026, 5, 24))
        self.mended(plan(stressed=True), "stressed")
        picked = date(2026, 5, 16)
        after = self.mended(plan(eaten=True, harvest_on=picked), "near_harvest")
        self.assertEqual(after.start_on, date(2026, 5, 17))
        setup = after.question.setup  # eaten or not is a fact of the plants, never a mend
        self.assertEqual((setup.eaten, setup.harvest_on), (True, picked))
        mend = self.finding(plan(eaten=True, harvest_on=picked), "near_harvest").mend
        self.assertIn("17 May", mend.label if mend else "")
        moved = replace(plan(eaten=True, harvest_on=picked), start_on=date(2026, 6, 7))
        self.assertNotIn("near_harvest", {f.code for f in critique(moved)})
        # Far off, but before the last round's waiting time is over.
        late = plan(WATER, SOAP, JET, looks=(3, 30), eaten=True, harvest_on=date(2026, 5, 30))
        far = replace(late, question=replace(late.question, round_days=(0, 10, 20)))
        self.finding(far, "near_harvest")

    def test_what_is_picked_all_the_time_bears_no_waiting_time(self) -> None:
        salad = plan(WATER, NEEM, JET, eaten=True, picked=True)
        after = self.mended(salad, "picked_1")
        self.assertEqual([r.name for r in after.question.remedies], [WATER.name, JET.name])
        codes = {f.code for f in critique(plan(WATER, JET, SOAP, eaten=True, picked=True))}
        self.assertNotIn("picked_1", codes)  # water is eaten with
        self.assertFalse({c for c in codes if c.startswith("picked")} - {"picked_2"})
        once = {f.code for f in critique(plan(WATER, NEEM, JET, eaten=True))}
        self.assertNotIn("picked_1", once)

    def test_what_the_picker_says_is_found_before_the_layout(self) -> None:
        """Shipped or the gardener's own, each part of it, and only where it holds."""
        own = RemedyDraft("Fairy", Role.REMEDY, "10 ml washing-up liquid in 1 litre")
        white_oil = RemedyDraft("White oil", Role.REMEDY, "10 ml paraffin oil and 2 ml soap per l")
        soda = RemedyDraft("Bicarb", Role.REMEDY, "5 g bicarb per litre")
        evening = Traits(steps=(Step(1, "neem", "5 ml neem and 2 ml soap in 1 litre"),))
        stepped = RemedyDraft(
            "Soap, then neem", Role.REMEDY, "10 ml soap per litre", traits=evening
        )
        drench = replace(soda, traits=Traits(way="drench"))
        for remedy, setup, said in (
            (own, {"delicate": True}, "strips the wax"),
            (own, {"eaten": True}, "not made for food plants"),
            (own, {"stressed": True}, "thirsty"),
            (white_oil, {"eaten": True}, "ornamentals"),
            (NEEM, {"delicate": True}, "lose their bloom"),
            (stepped, {"stressed": True}, "neem on a stressed plant"),
            (soda, {}, "insects do not mind"),
            (soda, {"delicate": True}, "hairy or waxy"),
            (soda, {"unit": Unit.POT}, "Sodium builds up"),
            (SULPHUR, {"eaten": True}, "eaten this season"),
        ):
            with self.subTest(remedy.name, **setup):
                found = self.finding(plan(WATER, SOAP, remedy, **setup), "unsuited_2")
                self.assertRegex(found.harm, said)
                mended = self.mended(plan(WATER, SOAP, remedy, **setup), "unsuited_2")
                self.assertEqual(mended.question.remedies, (WATER, SOAP))
        sound = plan(
            WATER, SOAP, drench, RemedyDraft("Milky", Role.REMEDY, "200 ml milk per litre")
        )
        self.assertEqual([f.code for f in critique(sound) if f.code.startswith("unsuited_1")], [])
        gnats = replace(
            plan(WATER, NEEM), pest=PestFacts("x", target=Target("fungus_gnats", "pest", {}, True))
        )
        self.assertIn("soil", self.finding(gnats, "unsuited_1").harm)

    def test_a_remedy_comes_no_sooner_than_leaves_bear(self) -> None:
        quick = plan(WATER, SOAP, OIL, looks=(3, 12))
        quick = replace(quick, question=replace(quick.question, round_days=(0, 1, 2)))
        self.assertIn("days 0, 1, 2", self.finding(quick, "too_often_2").harm)
        self.assertEqual(self.mended(quick, "too_often_2").question.round_days, (0, 5, 10))
        daily = replace(OIL, traits=replace(OIL.traits, programme=Programme(Rhythm.EVERY, 2)))
        mended = self.mended(plan(WATER, SOAP, daily, looks=(3, 12)), "too_often_2")
        self.assertEqual(mended.question.remedies[2].traits.programme, Programme(Rhythm.EVERY, 5))
        own = RemedyDraft("Kernel oil", Role.REMEDY, "5 ml neem and 2 ml soap in 1 litre")
        usual = RemedyDraft(
            "What I do now", Role.CONTROL, "10 ml neem oil, 2 ml soap in 1 litre",
            traits=Traits(way="spray"),
        )  # fmt: skip
        # A control that holds something burns leaves as a remedy does; it is never taken out.
        self.assertIsNone(self.finding(plan(usual, SOAP, stressed=True), "unsuited_0").mend)
        self.finding(plan(usual, SOAP, JET, looks=(3, 12)), "too_often_0")
        for recipe in ("10 ml Greenshield in 1 litre", "As its label says"):
            self.finding(plan(replace(usual, recipe=recipe), SOAP), "unknown_0")
        for recipe in (
            "",
            "nothing",
            "Lukewarm water",
            "plain rain water, as much as the others get",
        ):
            self.assertEqual(plan(replace(usual, recipe=recipe), SOAP).given, (SOAP,))
        self.finding(plan(WATER, own, looks=(3, 12)), "too_often_1")  # days 0 and 5, neem wants 7

    def test_what_nobody_knows_is_asked_about(self) -> None:
        bought = RemedyDraft("Greenshield", Role.REMEDY, "10 ml Greenshield per litre")
        self.assertIn("label", self.finding(plan(WATER, bought), "unknown_1").harm)
        known = replace(bought, recipe="10 ml Greenshield castile soap per litre")
        self.assertNotIn("unknown_1", {f.code for f in critique(plan(WATER, known))})

    def test_helpers_are_not_released_beside_a_spray(self) -> None:
        predators = draft_of(remedy_named("predators"))
        mended = self.mended(plan(WATER, SOAP, predators), "release_beside_spray")
        self.assertEqual(mended.question.remedies, (WATER, SOAP))

    def test_plants_set_aside_do_not_count(self) -> None:
        whole = plan()
        few = tuple(replace(p, set_aside="odd") if p.id > 8 else p for p in whole.plants)
        self.finding(replace(whole, plants=few), "too_few_blocks")


if __name__ == "__main__":
    unittest.main()
