"""A small trial in real storage, on a clock the test sets."""

from __future__ import annotations

import itertools
import tempfile
import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from orthocris.core.counting.tally import TallyEntry
from orthocris.core.field.rounds import Checks
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.sprays import SprayEntry
from orthocris.core.trial.standing import standing_of
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.verdict.frozen import FrozenVerdict
from orthocris.services.context import Context
from orthocris.services.counting import keeping as fieldwork
from orthocris.services.field import batches, rounds
from orthocris.services.field.batches import BatchDraft
from orthocris.services.planning import critiques, layouts
from orthocris.services.trial import benches, questions
from orthocris.storage import verdicts
from orthocris.storage.database import Database
from orthocris.storage.trial import reading
from orthocris.storage.trial.standings import standings

QUESTION = Question(
    name="Gutters",
    pest="spider_mites",
    measure="live",
    threshold=0.6,
    remedies=(
        RemedyDraft("Water", Role.CONTROL, "Plain water"),
        RemedyDraft("Soap", Role.REMEDY, "10 ml soap in 1 litre"),
    ),
    look_days=(3, 7),
    round_days=(0, 5),
)


class ServiceCase(unittest.TestCase):
    """A test with its own data file and clock."""

    whole = True  # a test that breaks the file says so

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name) / "data.sqlite", durable=False)
        database.migrate()
        self.now = datetime(2026, 5, 10, 8, tzinfo=UTC)
        self.context = Context(database, lambda: self.now, lambda: 77)
        self.session = (f"session-{k}" for k in itertools.count())
        self.trial_id = questions.create_trial(self.context, QUESTION, self.now.date())

    @property
    def trial(self) -> CountedTrial:
        """The trial as kept."""
        with self.context.database.reading() as connection:
            return reading.load_counted(connection, self.trial_id)

    def tearDown(self) -> None:
        """Whatever was done: the numbers kept for the screens are those of the whole record."""
        if not self.whole:
            return
        with self.context.database.reading() as connection:
            kept = standings(connection, self.trial_id)[0]
        self.assertEqual(replace(kept, plan=self.trial, read=False), standing_of(self.trial))
        super().tearDown()

    def plant_and_draw(self, per_row: int = 8) -> None:
        """A row of plants, laid out."""
        benches.add_plants(self.context, self.trial_id, prefix="S", rows=1, per_row=per_row)
        layouts.draw_layout(self.context, self.trial_id, reason="", seed=None)

    def open_key(self) -> None:
        """Open the key, so that a verdict tells what each remedy did."""
        critiques.open_key(self.context, self.trial_id)

    def record(self, recommended: str | None = "Soap", look: int = 2, **soap: Any) -> None:
        """Put a verdict of a look on record that says so of the soap."""
        usual = {
            **{"name": "Soap", "efficacy": 0.85, "efficacy_low": 0.7, "efficacy_high": 0.93},
            **{"beats_control": True, "could_be_best": True},
            **{"vetoed": False, "worse_than_control": False},
        }
        control = {**usual, "name": "Water", "efficacy": None}
        verdict = {"recommended": recommended, "remedies": [{**usual, **soap}, control]}
        with self.context.database.atomic() as connection:
            frozen = FrozenVerdict(self.now, "1, model 4", 77, "", verdict)
            verdicts.keep_verdict(connection, self.trial_id, look, frozen)

    def entry(self, plant: int, value: float | None, **changes: object) -> TallyEntry:
        """A finished count of one plant in a session of its own."""
        fields: dict[str, object] = {
            "plant_id": plant,
            "measure": "live",
            "session": next(self.session),
            "step": 1,
            "value": value,
            "of": None,
            "effort": 1.0,
            "finished": True,
        }
        return TallyEntry(**{**fields, **changes})  # type: ignore[arg-type]

    def count(self, plant: int, value: float, look: int = 0) -> None:
        """Keep a finished count."""
        fieldwork.keep_tally(self.context, self.trial_id, look, self.entry(plant, value))

    def count_all(self, look: int, soap: float, water: float) -> None:
        """Count every plant, about these numbers."""
        names = {r.id: r.name for r in self.trial.remedies}
        for k, plant in enumerate(self.trial.trial_plants):
            base = soap if names[plant.remedy_id or 0] == "Soap" else water
            self.count(plant.id, base + k % 3, look)

    def spray_all(self, round_number: int = 1) -> None:
        """Mark every plant."""
        self.start(round_number)
        for plant in self.trial.trial_plants:
            self.spray_one(round_number, plant.id)

    def spray_one(self, round_number: int, plant_id: int, **changes: Any) -> None:
        """Record one plant as sprayed."""
        entry = SprayEntry(plant_id, **changes)
        rounds.record_spray(self.context, self.trial_id, round_number, entry)

    def checks(self, **changes: Any) -> Checks:
        """Everything in order, with fresh bottles; what cannot be is overruled."""
        mixed = {
            b.remedy.id: batches.record_batch(
                self.context,
                self.trial_id,
                b.remedy.id,
                BatchDraft(acknowledged=tuple(c.key for c in b.strong)),
            )
            for b in batches.bottles_of(self.context, self.trial_id, helper=True).bottles
            if not b.step
        }
        said: dict[str, Any] = {
            "shaken": True,
            "cautions_read": True,
            "bees_looked": True,
            "fruit_looked": True,
            "weather_looked": True,
            "batches": mixed,
            "reasons": dict.fromkeys(("patch_tests", "window_closed", "before_missing"), "a test"),
        }
        return Checks(**{**said, **changes})

    def start(self, round_number: int, **changes: Any) -> None:
        """Start a round with everything in order."""
        rounds.start_round(self.context, self.trial_id, round_number, self.checks(**changes))

    def later(self, days: float) -> None:
        """Move the clock."""
        self.now += timedelta(days=days)
