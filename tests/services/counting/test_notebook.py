"""Notes and pictures of plants: kept once, found again, counted by, and in the bundle."""

from __future__ import annotations

import csv
import io
import json
import os
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

from PIL import Image

from orthocris.core.counting.leaf.scene import LeafPlan
from orthocris.core.counting.notebook import Mark, NoteEntry
from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from orthocris.services.counting import bundle, notebook
from orthocris.services.trial import benches, questions
from orthocris.storage.soundness import DatabaseError
from tests.services.world import ServiceCase

AT = datetime(2026, 5, 10, 7, tzinfo=UTC)


class Notebook(ServiceCase):
    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.plant = self.trial.trial_plants[0].id

    def note(self, key: str = "note-0001", said: str = "Curled tips", sample: int = 0) -> int:
        """Keep a note at the first plant before the first spray."""
        entry = NoteEntry(key, self.plant, sample, said, AT)
        return notebook.keep_note(self.context, self.trial_id, 0, entry).id

    def lens(self) -> SimulatedLeafCamera:
        """A lens over a leaf with mites."""
        return SimulatedLeafCamera(5, LeafPlan("spider_mites", 6, 4, 3, 2), 900)

    def names(self) -> list[str]:
        """The files of pictures beside the data."""
        return sorted(p.name for p in Path(self.context.database.path.parent).glob("pictures/*"))

    def test_a_note_sent_twice_is_one_and_its_name_is_no_other_notes(self) -> None:
        self.assertEqual(self.note(), self.note())
        (kept,) = notebook.notes_of(self.context, self.trial_id, 0)
        self.assertEqual((kept.said, kept.noted_at), ("Curled tips", AT))
        with self.assertRaises(ConflictError):
            self.note(said="Something else")

    def test_a_clock_that_is_ahead_is_not_believed(self) -> None:
        entry = NoteEntry("note-0002", self.plant, 0, "", self.now + timedelta(days=3))
        kept = notebook.keep_note(self.context, self.trial_id, 0, entry)
        self.assertEqual(kept.noted_at, self.now)

    def test_a_note_taken_away_is_gone_until_it_is_put_back(self) -> None:
        note = self.note()
        notebook.remove_note(self.context, note)
        self.assertEqual(notebook.notes_of(self.context, self.trial_id), ())
        notebook.restore_note(self.context, note)
        self.assertEqual(len(notebook.notes_of(self.context, self.trial_id)), 1)

    def test_pictures_nobody_has_are_swept_after_a_day(self) -> None:
        """Replaced, of a note taken away, or left by a crash; within the day all can come back."""
        kept, replaced, gone = (self.note(f"note-000{k}") for k in range(3))
        for k, note in enumerate((kept, replaced, gone)):
            lens = SimulatedLeafCamera(k + 1, LeafPlan("spider_mites", 3, 2), 600)
            notebook.take_picture(self.context, note, lens)
        lens = SimulatedLeafCamera(9, LeafPlan("spider_mites", 3, 2), 600)
        notebook.take_picture(self.context, replaced, lens)
        folder = self.context.database.path.parent / "pictures"
        (folder / "half.part").write_bytes(b"x")
        self.assertEqual(len(self.names()), 5)
        notebook.remove_note(self.context, gone)
        with self.assertRaises(NotFoundError):
            notebook.picture_content(self.context, gone)
        self.assertEqual(notebook.sweep_pictures(self.context), 0)
        notebook.restore_note(self.context, gone)
        self.assertTrue(notebook.picture_content(self.context, gone))
        notebook.remove_note(self.context, gone)
        self.later(2)
        for file in folder.iterdir():  # made on the test's clock
            os.utime(file, (0, 0))
        self.assertEqual(notebook.sweep_pictures(self.context), 3)
        self.assertEqual(len(self.names()), 2)
        self.assertTrue(notebook.picture_content(self.context, kept))
        notebook.restore_note(self.context, gone)
        with self.assertRaises(NotFoundError):
            notebook.picture_content(self.context, gone)

    def test_a_plant_with_notes_is_set_aside_and_not_removed(self) -> None:
        self.note()
        with self.assertRaises(ConflictError) as caught:
            benches.remove_plant(self.context, self.trial_id, self.plant)
        self.assertEqual(caught.exception.code, "plant_noted")
        with self.assertRaises(ConflictError) as held:
            questions.remove_trial(self.context, self.trial_id)
        self.assertIn("1 note", held.exception.message)

    def test_a_folder_that_cannot_be_written_to_is_told_in_words(self) -> None:
        note = self.note()
        (self.context.database.path.parent / "pictures").write_text("in the way")
        with self.assertRaises(DatabaseError) as caught:
            notebook.keep_picture(self.context, note, self.lens().take())
        self.assertEqual(caught.exception.code, "no_room")
        (kept,) = notebook.notes_of(self.context, self.trial_id)
        self.assertIsNone(kept.picture)

    def test_what_is_not_of_the_trial_is_refused(self) -> None:
        for plant, look, said in (
            (99_999, 0, ""),
            (self.plant, 44, ""),
            (self.plant, 0, "x" * 3000),
        ):
            entry = NoteEntry("note-0003", plant, 0, said, AT)
            with self.subTest(plant=plant), self.assertRaises((NotFoundError, InputError)):
                notebook.keep_note(self.context, self.trial_id, look, entry)

    def test_a_picture_is_a_file_beside_the_data_once_however_often_it_is_sent(self) -> None:
        note = self.note()
        content = self.lens().take()
        for _ in range(2):
            kept = notebook.keep_picture(self.context, note, content)
        self.assertEqual(self.names(), [f"{kept.picture.file}.jpg"] if kept.picture else [])
        with Image.open(io.BytesIO(notebook.picture_content(self.context, note))) as image:
            self.assertEqual(image.size, (900, 675))

    def test_marks_are_counted_and_proposed_ones_sit_on_the_leaf(self) -> None:
        note = self.note()
        notebook.take_picture(self.context, note, self.lens())
        proposed = notebook.proposed_marks(self.context, note)
        self.assertGreater(len(proposed), 8)
        kept = notebook.keep_marks(self.context, note, [*proposed, Mark(0.5, 0.3, "dead")])
        self.assertEqual(len(kept.picture.marks if kept.picture else ()), len(proposed) + 1)
        with self.assertRaises(InputError):
            notebook.keep_marks(self.context, note, [Mark(0.5, 0.9, "live")])

    def test_the_covered_share_of_a_photo_follows_the_threshold(self) -> None:
        note = self.note()
        lens = SimulatedLeafCamera(5, LeafPlan("powdery_mildew", cover=30), 700)
        notebook.take_picture(self.context, note, lens)
        found = notebook.cover_of(self.context, note, 0.5)
        self.assertAlmostEqual(found.percent, 30, delta=4)
        self.assertLess(notebook.cover_of(self.context, note, 0.8).percent, found.percent)
        with Image.open(io.BytesIO(notebook.cover_overlay(self.context, note, 0.5))) as image:
            self.assertEqual(image.size, (700, 525))

    def test_a_picture_whose_file_is_gone_says_what_to_put_back(self) -> None:
        note = self.note()
        notebook.keep_picture(self.context, note, self.lens().take())
        for name in self.names():
            (self.context.database.path.parent / "pictures" / name).unlink()
        with self.assertRaises(NotFoundError) as caught:
            notebook.picture_content(self.context, note)
        self.assertEqual(caught.exception.code, "picture_gone")
        self.assertNotIn("pictures/", "".join(self.archive().namelist()))

    def archive(self) -> zipfile.ZipFile:
        """The trial's bundle."""
        return zipfile.ZipFile(io.BytesIO(bundle.bundle_of(self.context, self.trial_id)))

    def test_the_bundle_holds_notes_marks_and_pictures_and_no_key_while_it_is_sealed(self) -> None:
        note = self.note(said="=1+1, curled\nand sticky", sample=2)
        notebook.keep_picture(self.context, note, self.lens().take())
        notebook.keep_marks(self.context, note, [Mark(0.5, 0.3, "dead")])
        archive = self.archive()
        (row,) = csv.DictReader(io.StringIO(archive.read("notes.csv").decode()))
        self.assertEqual((row["leaf"], row["said"]), ("2", "'=1+1, curled\nand sticky"))
        self.assertEqual(archive.read(row["picture"])[:2], b"\xff\xd8")
        described = json.loads(archive.read("datapackage.json"))
        names = [resource["path"] for resource in described["resources"]]
        self.assertEqual(names, ["notes.csv", "marks.csv"])
        self.assertIn(b"0.5000,0.3000,dead", archive.read("marks.csv"))
