"""Patch tests and bottles on the thread and among the jobs; care that cannot be."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from orthocris.core.errors import InputError
from orthocris.core.field.progress import JobKind, jobs, patched_remedies, patches_held
from orthocris.core.field.thread import State, Station, stations
from orthocris.core.trial.batches import Batch, MixKind
from orthocris.core.trial.care import Care, Spot, check_care
from orthocris.core.trial.patches import PatchReading, PatchTest
from orthocris.core.trial.plan import Look, Remedy, Role, Round, Traits
from orthocris.core.trial.sprays import EventKind, RoundEvent
from orthocris.core.trial.stages import Phase, Stage
from orthocris.core.trial.standing import standing_of
from orthocris.core.trial.trial import CountedTrial, Plant, Spray, Tally

NOW = datetime(2026, 5, 10, 8, tzinfo=UTC)
BOTTLES = {(2, 0)}


def trial() -> CountedTrial:
    """Water against soap on eight plants, first sprayed on the 12th."""
    water = Remedy(1, "Water", Role.CONTROL, "", "A", 1)
    soap = Remedy(2, "Soap", Role.REMEDY, "10 ml soap in 1 litre", "B", 2)
    jet = Remedy(3, "Jet", Role.REMEDY, "", "C", 3, Traits(way="jet"))
    plants = tuple(Plant(k, f"S{k}", 1, k, 5.0, None, (k + 1) // 2, 1 + k % 2) for k in range(1, 9))
    return CountedTrial(
        id=1,
        name="Gutters",
        pest="aphids",
        measure="live",
        threshold=0.6,
        start_on=date(2026, 5, 12),
        sprayed_on=None,
        seed=1,
        remedies=(water, soap, jet),
        plants=plants,
        rounds=(Round(1, 1, 0), Round(2, 2, 5)),
        looks=(Look(1, 0, 0), Look(2, 1, 3), Look(3, 2, 7)),
    )


def passed(remedy: int = 2, kind: str = "the trial's plants") -> PatchTest:
    """A patch test that passed two days ago."""
    put_on = NOW - timedelta(days=3)
    looks = tuple(PatchReading(h, put_on + timedelta(hours=h), 0, 0) for h in (24, 48))
    return PatchTest(1, remedy, kind, 3, 1.0, (24, 48), put_on, readings=looks)


def bottle(hours: float = 72) -> Batch:
    """A bottle of soap, mixed now."""
    until = NOW + timedelta(hours=hours)
    return Batch(1, 1, 2, "Soap", MixKind.MIX, "", 500, (), NOW, until)


def sprayed(found: CountedTrial) -> CountedTrial:
    """The trial counted and sprayed in round 1 on the 10th."""
    tallies = tuple(
        Tally(0, 1, p.id, "live", 9, None, 1, True, NOW, NOW.date()) for p in found.plants
    )
    marks = tuple(Spray(1, p.id, NOW) for p in found.plants)
    return replace(found, tallies=tallies, sprays=marks, sprayed_on=NOW.date())


class OnTheThread(unittest.TestCase):
    def station(self, found: CountedTrial, key: str) -> Station:
        """One station."""
        return next(s for s in stations(standing_of(found), NOW, BOTTLES) if s.key == key)

    def test_only_what_comes_onto_leaves_is_patch_tested(self) -> None:
        self.assertEqual([r.name for r in patched_remedies(trial())], ["Soap"])
        dry = replace(trial(), remedies=(trial().remedies[0], trial().remedies[2]))
        self.assertEqual(self.station(dry, "patch").state, State.DONE)

    def test_patch_tests_from_open_to_passed(self) -> None:
        self.assertEqual(self.station(trial(), "patch").line, "0 of 1 passed")
        running = replace(passed(), readings=())
        found = self.station(replace(trial(), patches=(running,)), "patch")
        self.assertEqual((found.state, found.line), (State.NEXT, "0 of 1 passed, 1 running"))
        done = self.station(replace(trial(), patches=(passed(),)), "patch")
        self.assertEqual((done.state, done.line), (State.DONE, "1 of 1 passed"))

    def test_sprayed_without_a_test_is_frayed(self) -> None:
        found = self.station(sprayed(trial()), "patch")
        self.assertEqual(found.state, State.FRAYED)
        self.assertIn("sprayed all the same", found.line)

    def test_bottles_from_missing_to_mixed(self) -> None:
        tested = replace(trial(), patches=(passed(),))
        self.assertEqual(self.station(tested, "mix").line, "0 of 1 bottles ready")
        ready = self.station(replace(tested, batches=(bottle(),)), "mix")
        self.assertEqual((ready.state, ready.line), (State.DONE, "1 of 1 bottles ready"))
        old = self.station(replace(tested, batches=(bottle(-1),)), "mix")
        self.assertEqual(old.line, "0 of 1 bottles ready")
        none = self.station(sprayed(tested), "mix")
        self.assertEqual(
            (none.state, none.line), (State.FRAYED, "sprayed without a recorded batch")
        )

    def test_more_kinds_of_leaf_hold_it_back_again(self) -> None:
        care = Care(leaf_kinds=("the trial's plants", "seedlings"))
        held = patches_held(replace(trial(), care=care), (passed(),))
        self.assertEqual([h.leaf_kind for h in held], ["seedlings"])


class AmongTheJobs(unittest.TestCase):
    def kinds(self, found: CountedTrial, now: datetime = NOW) -> list[tuple[JobKind, date]]:
        """Kind and day of every job."""
        return [(j.kind, j.due_on) for j in jobs(standing_of(found), now, BOTTLES)]

    def test_before_the_first_spray(self) -> None:
        day = date(2026, 5, 12)
        self.assertEqual(
            self.kinds(trial()),
            [
                (JobKind.PATCH, date(2026, 5, 10)),  # two days of looks before the 12th
                (JobKind.MIX, day),
                (JobKind.COUNT, day),
                (JobKind.SPRAY, day),
            ],
        )

    def test_oils_on_slow_leaves_are_put_on_a_week_before(self) -> None:
        slow = replace(trial(), care=Care(slow_leaves=True), start_on=date(2026, 5, 30))
        due = {
            oils: jobs(standing_of(slow), NOW, BOTTLES, 30, oils)[0].due_on for oils in ((), (2,))
        }
        self.assertEqual(due, {(): date(2026, 5, 28), (2,): date(2026, 5, 23)})

    def test_a_running_test_is_looked_at_in_its_hour(self) -> None:
        running = replace(passed(), applied_at=NOW - timedelta(hours=20), readings=())
        found = jobs(standing_of(replace(trial(), patches=(running,))), NOW, BOTTLES)[0]
        self.assertEqual((found.kind, found.at), (JobKind.PATCH, NOW + timedelta(hours=4)))

    def test_a_bottle_that_lasts_to_the_round_needs_no_mixing(self) -> None:
        tested = replace(trial(), patches=(passed(),))
        lasting = replace(tested, batches=(bottle(72),))
        self.assertNotIn(JobKind.MIX, [kind for kind, _ in self.kinds(lasting)])
        short = replace(tested, batches=(bottle(24),))
        self.assertIn(JobKind.MIX, [kind for kind, _ in self.kinds(short)])

    def test_after_the_spray_nobody_patch_tests(self) -> None:
        self.assertNotIn(JobKind.PATCH, [kind for kind, _ in self.kinds(sprayed(trial()))])

    def test_a_round_left_out_is_not_due_until_it_is_moved(self) -> None:
        out = RoundEvent(2, NOW, EventKind.LEFT_OUT, 5, "left out")
        found = replace(sprayed(trial()), events=(out,))
        self.assertNotIn(JobKind.SPRAY, [kind for kind, _ in self.kinds(found)])
        back = replace(found, events=(out, RoundEvent(2, NOW, EventKind.MOVED, 0, "moved")))
        self.assertIn(JobKind.SPRAY, [kind for kind, _ in self.kinds(back)])


class CareThatCannotBe(unittest.TestCase):
    def test_each_field_is_named(self) -> None:
        for care, field in (
            (Care(leaf_kinds=()), "leaf_kinds"),
            (Care(leaf_kinds=("a", " A")), "leaf_kinds"),
            (Care(leaf_kinds=("x" * 61,)), "leaf_kinds"),
            (Care(ml_per_plant=0), "ml_per_plant"),
            (Care(margin=1.5), "margin"),
            (Care(days_between=-1), "days_between"),
            (Care(high=80), "high"),
            (Care(low=25, high=20), "low"),
            (Care(wind=0), "wind"),
            (Care(stages=(Stage("eggs", Phase.EGG, -1, 10),)), "stages.0"),
            (Care(spot=Spot(sun_to=25)), "spot.sun_to"),
            (Care(spot=Spot(outdoors=False, lamp_from=6)), "spot.lamp_to"),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                check_care(care)
            self.assertEqual(caught.exception.field, field)

    def test_usual_care_is_sound(self) -> None:
        stages = (Stage("eggs", Phase.EGG, 50, 10),)
        check_care(Care())
        check_care(Care(stages=stages, spot=Spot(outdoors=False, lamp_from=20, lamp_to=6)))


if __name__ == "__main__":
    unittest.main()
