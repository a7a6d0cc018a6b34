"""A trial goes from one garden to another: looked at, taken in once, put together with own ones."""

from __future__ import annotations

import io
import json
import tempfile
import zipfile
from pathlib import Path

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.verdict.shared import shared_from
from orthocris.formats.tidy_table import read_table, write_table
from orthocris.services.context import Context
from orthocris.services.counting.bundle import bundle_of
from orthocris.services.verdict.before import known_before
from orthocris.services.verdict.judging import record_verdict, verdict_of
from orthocris.services.verdict.known import known_of, known_pests
from orthocris.services.verdict.neighbours import all_kept, look_at, take_in, take_off
from orthocris.storage.database import Database
from tests.services.world import ServiceCase


class Neighbours(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw(16)
        self.count_all(0, 40, 42)
        self.spray_all()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name) / "other.sqlite", durable=False)
        database.migrate()
        self.other = Context(database, lambda: self.now, lambda: 5)

    def finish(self) -> None:
        """Count the last look and read its verdict."""
        for look in (1, 2):
            self.later(3 if look == 1 else 4)
            self.count_all(look, 5, 44)
        record_verdict(self.context, self.trial_id)

    def bundle(self, *, without_names: bool = False) -> bytes:
        """The trial's bundle."""
        return bundle_of(self.context, self.trial_id, without_names=without_names)

    def test_it_is_judged_anew_and_stands_beside_own_trials(self) -> None:
        self.finish()
        found = look_at(self.other, self.bundle())
        self.assertEqual((found.trial.name, found.plants, found.here), ("Gutters", 16, None))
        self.assertEqual(found.verdict.recommended, "Soap")
        made = take_in(self.other, self.bundle(), " Bram  next door ")
        (one,) = all_kept(self.other)
        self.assertEqual((one.id, one.garden), (made, "Bram next door"))
        known = known_of(self.other, "spider_mites")
        (trial,) = known.remedies[0].trials
        self.assertEqual(
            (trial.garden, trial.trial_id, trial.name), ("Bram next door", None, "Gutters")
        )
        own = known_of(self.context, "spider_mites").remedies[0]
        self.assertAlmostEqual(trial.efficacy, own.efficacy, delta=0.02)
        self.assertIn("none of them here", known.remedies[0].words)
        self.assertEqual([one.pest for one in known_pests(self.other)], ["spider_mites"])
        take_off(self.other, made)
        self.assertEqual(known_of(self.other, "spider_mites").remedies, ())
        with self.assertRaises(NotFoundError):
            take_off(self.other, made)
        self.assertNotEqual(take_in(self.other, self.bundle(), "Bram"), made)  # it may come back

    def test_a_verdict_with_what_was_known_before_stands_beside_it(self) -> None:
        self.finish()
        self.assertEqual(known_before(self.context, self.trial_id), ())  # nothing was known
        take_in(self.context, self.earlier(), "Bram")
        (soap,) = known_before(self.context, self.trial_id)
        assert soap.found is not None
        own = verdict_of(self.context, self.trial_id).verdict.remedies[0]
        self.assertEqual((soap.name, soap.trials, soap.harmed), ("Soap", 1, 0))
        self.assertFalse(soap.found.apart)
        assert own.efficacy_low is not None and own.efficacy_high is not None
        self.assertLess(
            soap.found.high - soap.found.low, 1.02 * (own.efficacy_high - own.efficacy_low)
        )
        self.assertIn("With 1 earlier trial, Soap removes about", soap.words)
        # What began later says nothing of what was known before.
        (kept,) = all_kept(self.context)
        take_off(self.context, kept.id)
        take_in(self.context, self.earlier(on="2026-08-01"), "Bram")
        self.assertEqual(known_before(self.context, self.trial_id), ())

    def test_harm_seen_before_outranks_every_number(self) -> None:
        self.finish()
        take_in(self.context, self.earlier(burns=True), "Bram")
        (soap,) = known_before(self.context, self.trial_id)
        self.assertIsNone(soap.found)
        self.assertIn("harmed its plants in 1 earlier trial", soap.words)

    def earlier(self, on: str = "2025-06-01", *, burns: bool = False) -> bytes:
        """The trial as another garden might have had it on another day."""
        with zipfile.ZipFile(io.BytesIO(self.bundle())) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        plain = json.loads(files["datapackage.json"])
        plain["trial"]["first_spray"] = on
        files["datapackage.json"] = json.dumps(plain).encode()
        if burns:
            seen = read_table(files["table.csv"])[0]
            marks = {"Soap": 3.0, "Water": 0.0}
            harm = [o._replace(measure="damage", value=marks[o.remedy]) for o in seen if o.day == 7]
            files["table.csv"] = write_table([*seen, *harm])
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            for name, content in files.items():
                archive.writestr(name, content)
        return out.getvalue()

    def test_it_comes_once_whatever_its_plants_are_called_and_never_home(self) -> None:
        self.finish()
        made = take_in(self.other, self.bundle(), "Bram")
        self.assertEqual(take_in(self.other, self.bundle(without_names=True), "Someone else"), made)
        self.assertEqual(look_at(self.other, self.bundle(without_names=True)).here, made)
        with self.assertRaisesRegex(ConflictError, "your own trial Gutters"):
            take_in(self.context, self.bundle(without_names=True), "Me")

    def test_names_stay_at_home(self) -> None:
        self.finish()
        content = self.bundle(without_names=True)
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            names = set(archive.namelist())
            text = b"".join(archive.read(name) for name in names).decode()
        self.assertNotIn("verdict.json", names)
        self.assertNotIn("Gutters", text)
        self.assertNotRegex(text, r"\bS\d")
        self.assertIn("P16", text)
        with zipfile.ZipFile(io.BytesIO(self.bundle())) as archive:
            described = json.loads(archive.read("datapackage.json"))
            recorded = json.loads(archive.read("verdict.json"))
        self.assertEqual(shared_from(described["trial"]).name, "Gutters")
        self.assertEqual(recorded["verdict"]["recommended"], "Soap")

    def test_while_the_key_is_sealed_or_counting_goes_on_nothing_is_taken_in(self) -> None:
        with self.assertRaisesRegex(InputError, r"no table\.csv"):
            look_at(self.other, self.bundle())
        self.later(3)
        self.count_all(1, 5, 44)
        self.open_key()
        with self.assertRaisesRegex(InputError, "still under way"):
            look_at(self.other, self.bundle())

    def test_a_garden_has_a_name(self) -> None:
        self.finish()
        for name in ("", "  ", "x" * 61, "a\x07b"):
            with self.assertRaises(InputError) as caught:
                take_in(self.other, self.bundle(), name)
            self.assertEqual(caught.exception.field, "garden")
        self.assertEqual(all_kept(self.other), ())

    def test_a_verdict_that_was_written_into_it_is_not_believed(self) -> None:
        self.finish()
        with zipfile.ZipFile(io.BytesIO(self.bundle())) as archive:
            files = {name: archive.read(name) for name in archive.namelist()}
        files["verdict.json"] = files["verdict.json"].replace(b"Soap", b"Snake oil")
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            for name, content in files.items():
                archive.writestr(name, content)
        take_in(self.other, out.getvalue(), "Bram")
        self.assertEqual(known_of(self.other, "spider_mites").remedies[0].name, "Soap")
