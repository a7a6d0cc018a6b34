"""The spray round as it is kept: held back, recorded plant by plant, taken back with its trace."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.field.rounds import Checks
from orthocris.core.pantry.remedies import draft_of
from orthocris.core.trial.batches import MixKind
from orthocris.core.trial.patches import Harm
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.standing import standing_of
from orthocris.knowledge import remedy_named
from orthocris.services.field import batches, labels, patches, rounds
from orthocris.services.field.batches import BatchDraft
from orthocris.services.field.patches import PatchDraft
from orthocris.services.planning import critiques as planning
from orthocris.services.trial import questions
from orthocris.storage.trial import trials
from tests.services.world import ServiceCase


def remedies_named(*keys: str) -> tuple[RemedyDraft, ...]:
    """Shipped remedies as a question takes them."""
    return tuple(draft_of(remedy_named(key)) for key in keys)


class RoundCase(ServiceCase):
    """A laid-out trial whose plants were counted before."""

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.count_all(0, 30, 30)
        self.soap = next(r.id for r in self.trial.remedies if r.name == "Soap")
        self.plants = [p.id for p in self.trial.trial_plants]

    def refused(self, code: str, call: Any, *arguments: Any, **named: Any) -> ConflictError:
        """The refusal of a call, which must have this code."""
        with self.assertRaises(ConflictError) as caught:
            call(*arguments, **named)
        self.assertEqual(caught.exception.code, code)
        return caught.exception

    def codes(self, checks: Checks) -> list[str]:
        """What holds the first round back."""
        return [b.code for b in rounds.what_blocks(self.context, self.trial_id, 1, checks)]

    def pass_patch_test(self) -> None:
        """The soap passes on the trial's leaves."""
        draft = PatchDraft(self.soap, "the trial's plants")
        patch = patches.put_on(self.context, self.trial_id, draft)
        for hours in (24, 48):
            self.later(1)
            patches.look_at(
                self.context,
                self.trial_id,
                patch,
                hours=hours,
                treated=0,
                beside=0,
                harm=Harm.NONE,
            )


class BeforeItStarts(RoundCase):
    def test_everything_open_is_named(self) -> None:
        self.assertEqual(
            self.codes(Checks()),
            ["no_batch", "patch_tests", "weather", "shaken", "cautions", "bees", "fruit"],
        )

    def test_what_is_no_matter_of_opinion_cannot_be_overruled(self) -> None:
        every = dict.fromkeys(("no_batch", "shaken", "cautions", "bees", "fruit"), "because")
        self.assertIn("no_batch", self.codes(Checks(reasons=every)))
        self.assertIn("bees", self.codes(Checks(reasons=every)))

    def test_patch_tests_open_the_first_spray(self) -> None:
        self.assertIn("patch_tests", self.codes(self.checks(reasons={})))
        self.pass_patch_test()
        self.assertEqual(self.codes(self.checks(reasons={})), [])

    def test_only_reasons_that_were_needed_are_kept(self) -> None:
        self.pass_patch_test()
        self.start(1, weather_looked=False)
        self.assertEqual(self.trial.starts[0].overruled, {"window_closed": "a test"})

    def test_an_old_bottle_or_another_s_is_refused(self) -> None:
        checks = self.checks()
        self.later(1)  # the soap of the gardener's own is taken to live eight hours
        self.assertEqual(self.codes(checks), ["expired"])
        batch = self.trial.batches[0].id
        batches.discard_batch(self.context, self.trial_id, batch)
        self.assertEqual(self.codes(checks), ["no_batch"])

    def test_nothing_is_sprayed_before_the_start_or_hours_after_it(self) -> None:
        self.refused("not_started", self.spray_one, 1, self.plants[0])
        self.start(1)
        self.spray_one(1, self.plants[0])
        self.later(7 / 24)
        self.refused("check_again", self.spray_one, 1, self.plants[1])
        self.start(1)
        self.spray_one(1, self.plants[1])
        self.assertEqual(len(self.trial.sprays), 2)


class PlantByPlant(RoundCase):
    def setUp(self) -> None:
        super().setUp()
        self.start(1)

    def test_the_batch_and_the_usual_volume_are_kept(self) -> None:
        treated = next(p for p in self.trial.trial_plants if p.remedy_id == self.soap)
        self.spray_one(1, treated.id)
        (mark,) = self.trial.sprays
        self.assertEqual((mark.volume, mark.batch_id), (40, self.trial.batches[-1].id))

    def test_twice_in_a_round_is_a_deviation(self) -> None:
        self.spray_one(1, self.plants[0])
        self.refused("already_sprayed", self.spray_one, 1, self.plants[0])
        self.spray_one(1, self.plants[0], deviation="the bottle slipped")
        self.assertIs(self.trial.sprays[-1].kind, SprayKind.AGAIN)
        self.refused(
            "already_sprayed", self.spray_one, 1, self.plants[0], kind=SprayKind.SKIPPED, note="x"
        )

    def test_too_soon_after_the_last_round(self) -> None:
        self.spray_one(1, self.plants[0])
        self.later(2)
        self.start(2)
        said = self.refused("too_soon", self.spray_one, 2, self.plants[0])
        self.assertIn("less than 3 days ago", said.message)
        self.spray_one(2, self.plants[1])  # it was not sprayed in the first round
        self.spray_one(2, self.plants[0], deviation="rain had washed it off")
        self.assertIn("rain had washed it off", self.trial.sprays[-1].deviation)

    def test_a_skipped_plant_says_why_and_may_follow_later(self) -> None:
        with self.assertRaises(InputError):
            self.spray_one(1, self.plants[0], kind=SprayKind.SKIPPED)
        self.spray_one(1, self.plants[0], kind=SprayKind.SKIPPED, note="a bee")
        round_ = self.trial.rounds[0]
        self.assertEqual(self.trial.skipped_in(round_), {self.plants[0]})
        self.assertIsNone(self.trial.sprayed_on)
        self.spray_one(1, self.plants[0])
        self.assertEqual(self.trial.skipped_in(round_), set())

    def test_neighbours_and_volumes_that_cannot_be(self) -> None:
        with self.assertRaises(NotFoundError):
            self.spray_one(1, self.plants[0], neighbour_id=99_999)
        for changes in ({"neighbour_id": self.plants[0]}, {"volume": 0.0}):
            with self.assertRaises(InputError):
                self.spray_one(1, self.plants[0], **changes)
        self.assertEqual(self.trial.sprays, ())

    def test_a_whole_round_is_taken_back_with_its_reason(self) -> None:
        for plant in self.plants:
            self.spray_one(1, plant)
        undo = rounds.undo_spray
        self.refused("reason_needed", undo, self.context, self.trial_id, 1, None, " ")
        undo(self.context, self.trial_id, 1, None, "wrong day")
        self.assertIsNone(self.trial.sprayed_on)
        self.assertIn("8 records were taken back: wrong day", self.trial.events[-1].text)
        with self.context.database.reading() as connection:
            rows = connection.execute("SELECT undo_reason FROM spray").fetchall()
        self.assertEqual([r["undo_reason"] for r in rows], ["wrong day"] * 8)


class Bottles(RoundCase):
    def test_a_bottle_serves_its_plants_with_a_margin(self) -> None:
        """Four plants of 40 ml and a tenth more are 176 ml, of which 1.76 ml soap."""
        (bottle,) = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        self.assertEqual((bottle.plants, bottle.volume), (4, 176))
        assert bottle.mix is not None
        self.assertEqual(float(bottle.mix.pours[0].pour.amount), 1.76)

    def test_what_was_really_measured_is_kept(self) -> None:
        batches.record_batch(self.context, self.trial_id, self.soap, BatchDraft(mixed_by="Bram"))
        (batch,) = self.trial.batches
        self.assertEqual(
            [(p.name, p.amount) for p in batch.parts], [("soap", 1.8), ("water", 174.24)]
        )
        self.assertEqual(batch.mixed_by, "Bram")

    def test_a_batch_that_is_entered_late_says_when_it_was_mixed(self) -> None:
        now = self.context.now()
        early = now - timedelta(hours=30)
        said = BatchDraft(mixed_at=early, life_hours=24)
        batches.record_batch(self.context, self.trial_id, self.soap, said)
        (batch,) = self.trial.batches
        self.assertEqual((batch.mixed_at, batch.usable(now)), (early, False))
        for wrong in (now + timedelta(hours=1), now - timedelta(days=400)):
            with self.assertRaises(InputError) as refused:
                batches.record_batch(
                    self.context, self.trial_id, self.soap, BatchDraft(mixed_at=wrong)
                )
            self.assertEqual(refused.exception.field, "mixed_at")

    def test_strong_cautions_are_acknowledged_once_a_batch(self) -> None:
        recipe = "150 ml of 70% alcohol in 1 litre"
        record = batches.record_batch
        draft = BatchDraft(recipe=recipe)
        said = self.refused(
            "not_acknowledged", record, self.context, self.trial_id, self.soap, draft
        )
        self.assertIn("flame", said.message)
        read = BatchDraft(recipe=recipe, acknowledged=("alcohol",))
        record(self.context, self.trial_id, self.soap, read)
        self.assertEqual(self.trial.batches[0].recipe, recipe)

    def test_dangerous_and_impossible_bottles_are_not_kept(self) -> None:
        for draft in (
            BatchDraft(recipe="10 ml bleach and 10 ml soap in 1 litre"),
            BatchDraft(volume=-5),
            BatchDraft(life_hours=0),
        ):
            with self.subTest(draft), self.assertRaises(InputError):
                batches.record_batch(self.context, self.trial_id, self.soap, draft)
        self.assertEqual(self.trial.batches, ())

    def test_what_must_not_be_mixed_does_not_hide_the_other_bottles(self) -> None:
        danger = "50 ml vinegar and 5 g baking soda in 1 litre"
        asked = replace(
            questions.question_of(self.trial),
            remedies=(
                *questions.question_of(self.trial).remedies,
                RemedyDraft("Fizz", Role.REMEDY, danger),
            ),
        )
        with self.assertRaisesRegex(InputError, "Fizz: an acid with soda") as refused:
            questions.change_question(self.context, self.trial_id, asked, self.trial.start_on)
        self.assertEqual(refused.exception.field, "remedies.2.recipe")
        with self.context.database.atomic() as connection:  # one kept before that was looked at
            trials.replace_remedies(connection, self.trial_id, asked.remedies, self.now)
        soap, fizz = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        self.assertIsNotNone(soap.mix)
        self.assertIsNone(fizz.mix)
        self.assertIn("bursts a closed bottle", fizz.unread)
        with self.assertRaisesRegex(InputError, "bursts"):
            batches.record_batch(self.context, self.trial_id, fizz.remedy.id, BatchDraft())

    def test_a_product_and_a_brew_are_kept_too(self) -> None:
        label = remedies_named("bt_spray", "garlic_brew", "alcohol_dab")
        asked = replace(
            questions.question_of(self.trial),
            remedies=(*questions.question_of(self.trial).remedies[:1], *label),
        )
        questions.change_question(self.context, self.trial_id, asked, self.trial.start_on)
        product, brew, dab = batches.bottles_of(self.context, self.trial_id, helper=True).bottles
        self.assertIn("label", product.unread)
        self.assertIn("as it is", dab.unread)
        self.assertEqual(brew.card.kind, MixKind.BREW)
        self.assertIsNotNone(brew.mix)
        for bottle in (product, brew, dab):
            read = tuple(c.key for c in bottle.strong)
            draft = BatchDraft(acknowledged=read, life_hours=48, note="from the label")
            batches.record_batch(self.context, self.trial_id, bottle.remedy.id, draft)
        kinds = {b.kind for b in self.trial.batches}
        self.assertEqual(kinds, {MixKind.PRODUCT, MixKind.BREW, MixKind.STOCK})

    def test_a_remedy_that_goes_leaves_its_bottle_and_spray_on_record(self) -> None:
        self.start(1)
        treated = next(p for p in self.trial.trial_plants if p.remedy_id == self.soap)
        self.spray_one(1, treated.id)
        rounds.undo_spray(self.context, self.trial_id, 1, treated.id)
        asked = questions.question_of(self.trial)
        other = RemedyDraft("Oil", Role.REMEDY, "10 ml oil in 1 litre")
        changed = replace(asked, remedies=(asked.remedies[0], other))
        questions.change_question(self.context, self.trial_id, changed, self.trial.start_on)
        with self.context.database.reading() as connection:
            row = connection.execute("SELECT batch_id, undone_at FROM spray").fetchone()
        self.assertEqual(row["batch_id"], self.trial.batches[0].id)
        self.assertIsNotNone(row["undone_at"])
        self.assertEqual([r.name for r in self.trial.left_out_remedies], ["Soap"])

    def test_labels_do_not_tell_while_the_key_is_sealed(self) -> None:
        self.refused("no_batch", labels.labels_of, self.context, self.trial_id, "a4")
        batches.record_batch(self.context, self.trial_id, self.soap, BatchDraft())
        label = labels.labels_of(self.context, self.trial_id, "a4").decode()
        letter = next(r.letter for r in self.trial.remedies if r.id == self.soap)
        self.assertIn(f"Bottle {letter}", label)
        self.assertIn("Use by", label)
        self.assertNotIn("Soap", label)
        self.assertNotIn("soap", label)
        water = next(r.letter for r in self.trial.remedies if r.id != self.soap)
        self.assertIn(f"Bottle {water}", label)  # the control's water is labelled alike
        self.assertEqual(label.count("Use by"), 2)

    def test_after_the_last_look_labels_and_rounds_tell_as_the_screens_do(self) -> None:
        self.count_all(0, 30, 30)
        self.spray_all()
        for look, days in ((1, 3), (2, 4)):
            self.later(days)
            self.count_all(look, 3, 30)
        self.assertFalse(standing_of(self.trial).sealed)
        batches.record_batch(self.context, self.trial_id, self.soap, BatchDraft())
        label = labels.labels_of(self.context, self.trial_id, "a4").decode()
        self.assertIn("10 ml soap in 1 litre", label)
        self.assertFalse(rounds.round_sheet(self.context, self.trial_id, 2)[1])

    def test_once_the_key_is_open_the_label_tells_all(self) -> None:
        planning.open_key(self.context, self.trial_id)
        batches.record_batch(self.context, self.trial_id, self.soap, BatchDraft())
        label = labels.labels_of(self.context, self.trial_id, "letter").decode()
        self.assertIn("10 ml soap in 1 litre", label)
