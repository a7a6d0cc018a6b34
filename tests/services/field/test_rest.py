"""After a verdict: the rest of the garden is planned, followed on Today, and ends by its rule."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from typing import Any

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.field.progress import JobKind
from orthocris.core.field.rest import Act, Done, RestDraft, Which
from orthocris.core.field.rounds import Checks
from orthocris.core.pantry.costs import Price
from orthocris.core.trial.patches import Harm
from orthocris.services.field import bearing, patches, rest, rest_plans
from orthocris.services.field.calendars import calendar_of
from orthocris.services.field.patches import PatchDraft
from orthocris.services.field.rest import Said
from orthocris.services.trial import questions
from orthocris.services.trial.overviews import today
from orthocris.storage import weather as yard
from tests.services.world import ServiceCase

TICKS = Checks(cautions_read=True, bees_looked=True, fruit_looked=True, weather_looked=True)


class Rest(ServiceCase):
    def draft(self, **changes: Any) -> RestDraft:
        """The soap on twelve plants by the wall, from today."""
        soap = next(r for r in self.trial.remedies if r.name == "Soap")
        usual = RestDraft(soap.id, Which.SICK, "By the wall", 12, self.now.date(), ml_each=50)
        return replace(usual, **changes)

    def begun(self, **changes: Any) -> int:
        """A treatment that was begun."""
        self.record()
        return rest_plans.begin(self.context, self.trial_id, self.draft(**changes))

    def act(self, treatment: int, act: Act, checks: Checks = TICKS, **told: Any) -> None:
        """Do something today."""
        done = Done(act, told.pop("on", self.now.date()), **told)
        rest.keep_act(self.context, self.trial_id, treatment, Said(done, checks))

    def due(self, treatment: int) -> tuple[Act, int]:
        """What comes next, and in how many days."""
        due = rest.rest_of(self.context, self.trial_id, treatment).standing.due
        assert due is not None
        return due.act, (due.on - self.now.date()).days

    def test_only_what_a_verdict_on_record_recommends_is_taken(self) -> None:
        self.assertEqual(rest_plans.options(self.context, self.trial_id).choices, ())
        not_so: tuple[dict[str, Any], ...]
        not_so = ({"recommended": None}, {"efficacy": None}, {"name": "Oil"})
        for look, said in enumerate(not_so):
            self.record(look=look, **said)
            with self.subTest(said), self.assertRaises(ConflictError):
                rest_plans.plan_rest(self.context, self.trial_id, self.draft())
            with self.subTest(said), self.assertRaises(ConflictError):
                rest_plans.begin(self.context, self.trial_id, self.draft())
        self.record(look=4)
        (choice,) = rest_plans.options(self.context, self.trial_id).choices
        self.assertEqual((choice.remedy.name, choice.shown.low), ("Soap", 0.7))

    def test_the_plan_tells_bottles_days_cost_work_food_and_what_is_left(self) -> None:
        self.record()
        with self.context.database.atomic() as connection:
            yard.replace_prices(connection, (Price("soap", Fraction(1000), Fraction(5)),))
        found = rest_plans.plan_rest(
            self.context, self.trial_id, self.draft(plants=200, eaten=True, kinds=("Fuchsias",))
        )
        self.assertEqual([round(share, 3) for share in found.left], [0.15, 0.023])
        self.assertEqual(found.days[0], self.now.date())
        self.assertGreaterEqual((found.days[1] - found.days[0]).days, 3)
        self.assertEqual(found.volume, 11_000.0)
        self.assertGreater(found.fills, 1)  # no bottle at hand holds that
        self.assertAlmostEqual(found.cost or 0, 11 * 10 * 5 / 1000 * 2)
        self.assertGreater(found.minutes, 10)
        self.assertEqual(found.patch_days, 2)
        self.assertIn("nothing before", found.eating)
        self.assertTrue(found.helpers and found.cautions)
        assert found.mix is not None
        self.assertEqual(found.mix.reading.parts[0].name, "soap")
        self.assertEqual(rest_plans.plan_rest(self.context, self.trial_id, self.draft()).eating, "")

    def test_it_is_followed_on_today_until_two_looks_find_hardly_any(self) -> None:
        treatment = self.begun()
        self.assertEqual(self.due(treatment), (Act.COUNT, 0))
        self.act(treatment, Act.COUNT, pests=30.0, looked_at=5)
        (job,) = (j for row in today(self.context).trials for j in row.jobs if j.station == "rest")
        self.assertEqual((job.kind, job.number), (JobKind.SPRAY, treatment))
        self.assertEqual((job.left, job.of), (12, 12))
        self.assertIn(b"Treat the rest: Soap", calendar_of(self.context))
        self.act(treatment, Act.SPRAY)
        self.assertEqual(self.due(treatment), (Act.COUNT, 2))
        self.later(2)
        self.act(treatment, Act.COUNT, pests=1.0, looked_at=5)
        self.later(7)
        self.act(treatment, Act.COUNT, pests=0.0, looked_at=5)
        view = rest.rest_of(self.context, self.trial_id, treatment)
        self.assertIsNone(view.standing.due)
        self.assertIn("as good as gone", view.standing.ended)
        self.assertFalse(
            [j for row in today(self.context).trials for j in row.jobs if j.station == "rest"]
        )

    def test_a_spray_asks_what_a_round_asks_and_a_closed_hour_a_reason(self) -> None:
        treatment = self.begun(eaten=True)
        self.act(treatment, Act.COUNT, pests=30.0, looked_at=5)
        for missing in ("cautions_read", "bees_looked", "fruit_looked", "weather_looked"):
            bare: dict[str, Any] = {missing: False}
            with self.subTest(missing), self.assertRaises(ConflictError) as caught:
                self.act(treatment, Act.SPRAY, replace(TICKS, **bare))
            self.assertEqual(caught.exception.code, "round_held")
        self.act(treatment, Act.SPRAY)
        self.assertIn("nothing before", rest.rest_of(self.context, self.trial_id, treatment).eating)

    def test_what_was_done_yesterday_is_entered_today(self) -> None:
        treatment = self.begun()
        yesterday = self.now.date() - timedelta(days=1)
        self.act(treatment, Act.COUNT, pests=30.0, looked_at=5, on=yesterday)
        bare = replace(TICKS, weather_looked=False)
        self.act(treatment, Act.SPRAY, bare, on=yesterday)
        with self.assertRaises(InputError):
            self.act(treatment, Act.SPRAY, on=yesterday - timedelta(days=3))

    def test_the_last_act_and_an_end_are_taken_back(self) -> None:
        treatment = self.begun()
        self.act(treatment, Act.COUNT, pests=300.0, looked_at=5)
        rest.take_back(self.context, self.trial_id, treatment)
        self.assertEqual(self.due(treatment), (Act.COUNT, 0))
        rest.take_back(self.context, self.trial_id, treatment)  # nothing is left to take back
        rest.end(self.context, self.trial_id, treatment)
        view = rest.rest_of(self.context, self.trial_id, treatment)
        self.assertIn("You ended it", view.standing.ended)
        with self.assertRaises(InputError):
            self.act(treatment, Act.COUNT, pests=3.0, looked_at=5)
        rest.take_back(self.context, self.trial_id, treatment)
        self.assertEqual(self.due(treatment), (Act.COUNT, 0))

    def test_what_leaves_bore_is_known_from_every_test_that_is_over(self) -> None:
        self.assertEqual(bearing.borne(self.context), ())
        soap = self.draft().remedy_id
        for kind, half in (("Fuchsias", 1.0), ("Fuchsias", 0.5), ("Ferns", 1.0)):
            draft = PatchDraft(soap, kind, strength=half)
            care = replace(self.trial.care, leaf_kinds=("Fuchsias", "Ferns"))
            patches.change_care(self.context, self.trial_id, care)
            test = patches.put_on(self.context, self.trial_id, draft)
            self.later(2.1)
            if kind == "Ferns":
                continue  # nobody looked: it says nothing yet
            for hours in (24, 48):
                patches.look_at(
                    self.context,
                    self.trial_id,
                    test,
                    hours=hours,
                    treated=2 if half == 1 else 0,
                    beside=0,
                    harm=Harm.SPOTS if half == 1 else Harm.NONE,
                )
        treatment = self.begun(kinds=("roses",))
        self.act(treatment, Act.PATCH)
        self.later(2)
        self.act(treatment, Act.PATCH_LOOK)
        told = [(b.kind, b.strength, b.passed, b.marked) for b in bearing.borne(self.context)]
        said = [("fuchsias", "", 0, 1), ("fuchsias", "at 50%", 1, 0), ("roses", "", 1, 0)]
        self.assertEqual(told, said)

    def test_sent_twice_it_is_begun_and_done_once(self) -> None:
        self.record()
        first, again = (
            rest_plans.begin(self.context, self.trial_id, self.draft(), "a-key-of-it")
            for _ in range(2)
        )
        self.assertEqual(first, again)
        said = Said(Done(Act.COUNT, self.now.date(), 4.0, 5), TICKS)
        for _ in range(2):
            rest.keep_act(self.context, self.trial_id, first, said, "another-key")
        self.assertEqual(len(rest.rest_of(self.context, self.trial_id, first).treatment.done), 1)

    def test_it_is_of_its_trial_and_told_before_that_is_put_away(self) -> None:
        treatment = self.begun()
        with self.assertRaises(NotFoundError):
            rest.rest_of(self.context, self.trial_id, treatment + 1)
        with self.assertRaises(ConflictError) as caught:
            questions.remove_trial(self.context, self.trial_id)
        self.assertIn("the treatment of the rest", caught.exception.message)

    def test_by_night_no_hour_is_open_unless_a_reason_is_given(self) -> None:
        treatment = self.begun()
        self.act(treatment, Act.COUNT, pests=30.0, looked_at=5)
        self.now = datetime(2026, 5, 10, 23, tzinfo=UTC)
        self.assertTrue(rest.rest_of(self.context, self.trial_id, treatment).hour.closed)
        with self.assertRaises(ConflictError):
            self.act(treatment, Act.SPRAY)
        self.act(treatment, Act.SPRAY, replace(TICKS, reasons={"window_closed": "by lamp"}))
        (_, spray) = rest.rest_of(self.context, self.trial_id, treatment).treatment.done
        self.assertEqual(spray.reason, "by lamp")


if __name__ == "__main__":
    import unittest

    unittest.main()
