"""A garden is put back from a copy: as it was, what was there before kept, and nobody let in."""

from __future__ import annotations

import itertools
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

from orthocris.core.counting.leaf.scene import LeafPlan
from orthocris.core.counting.notebook import NoteEntry
from orthocris.core.errors import NotFoundError
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from orthocris.services import backups
from orthocris.services.counting import notebook
from orthocris.services.door import admission
from orthocris.storage import backups as files
from orthocris.storage.database import Database
from orthocris.storage.soundness import DatabaseError
from tests.services.world import ServiceCase

AT = datetime(2026, 5, 10, 7, tzinfo=UTC)


class PutBack(ServiceCase):
    whole = False

    def setUp(self) -> None:
        super().setUp()
        self.plant_and_draw()
        self.plant = self.trial.trial_plants[0].id
        self.count(self.plant, 12)

    def value(self) -> float | None:
        """What the first plant has at the count before."""
        return self.trial.tallies[0].value

    def restore(self, name: str) -> backups.Restored:
        """Put a copy back."""
        return backups.restore(self.context, backups.place_of(self.context, name))

    def damage(self) -> None:
        """Spoil the file, as the start of the program finds it."""
        with self.context.database.reading() as connection:
            page = connection.execute(
                "SELECT rootpage FROM sqlite_master WHERE name = 'tally'"
            ).fetchone()[0]
        self.context.database.close()
        file = self.context.database.path
        content = bytearray(file.read_bytes())
        content[(page - 1) * 4096 : page * 4096] = b"\xff" * 4096
        file.write_bytes(content)
        with self.assertRaises(DatabaseError) as caught:
            Database(file).migrate()
        self.context.database.refuse(caught.exception)

    def test_it_is_as_it_was_and_can_be_taken_back(self) -> None:
        made = backups.make_backup(self.context)
        self.now += timedelta(hours=1)
        self.count(self.plant, 99)
        found = self.restore(made.name)
        self.assertEqual(self.value(), 12)
        assert found.kept is not None
        self.now += timedelta(hours=1)
        self.restore(found.kept.name)
        self.assertEqual(self.value(), 99)
        self.count(self.plant, 5)  # and it is written to as before
        self.assertEqual(self.value(), 5)

    def test_a_count_that_comes_while_a_copy_is_put_back_is_not_lost(self) -> None:
        made = backups.make_backup(self.context)
        self.now += timedelta(hours=1)
        stop = threading.Event()
        counted: list[float] = []

        def counts() -> None:
            for k in itertools.count(1):
                if stop.is_set():
                    return
                self.count(self.plant, k)
                counted.append(k)

        hand = threading.Thread(target=counts)
        hand.start()
        try:
            found = self.restore(made.name)
        finally:
            stop.set()
            hand.join()
        assert found.kept is not None
        after = self.value()
        # Each count is in the copy of that moment, or came after it and is in the data.
        self.now += timedelta(hours=1)
        self.restore(found.kept.name)
        last_before = self.value()
        assert last_before is not None and after is not None
        done = 0 if last_before == 12 else counted.index(last_before) + 1
        self.assertEqual(after, counted[-1] if len(counted) > done else 12)

    def test_who_was_sent_out_since_is_not_let_in_again(self) -> None:
        told = admission.set_passcode(self.context, None)
        token = admission.enter(self.context, told, "a phone", "192.0.2.1")
        made = backups.make_backup(self.context)
        admission.end_session(self.context, admission.sessions(self.context)[0].id)
        self.restore(made.name)
        self.assertIsNone(admission.admitted(self.context, token))
        self.assertFalse(admission.has_passcode(self.context))

    def test_damaged_data_is_set_aside_and_the_copy_of_the_day_is_there(self) -> None:
        made = backups.make_daily(self.context)
        assert made is not None
        self.damage()
        spoilt = self.context.database.path.read_bytes()
        with self.assertRaises(DatabaseError):
            self.value()
        with self.assertRaises(DatabaseError):
            backups.make_backup(self.context)
        self.assertIsNone(backups.make_daily(self.context))
        found = self.restore(made.name)
        assert found.set_aside is not None
        self.assertEqual(self.value(), 12)
        self.assertEqual(self.context.database.path.with_name(found.set_aside).read_bytes(), spoilt)

    def test_a_copy_that_cannot_be_used_changes_nothing(self) -> None:
        made = backups.make_backup(self.context)
        place = backups.place_of(self.context, made.name)
        content = bytearray(place.read_bytes())
        content[3 * 4096 : 6 * 4096] = b"\xff" * (3 * 4096)
        self.count(self.plant, 99)
        for spoilt in (bytes(content), b"", b"no database" * 900):
            place.write_bytes(spoilt)
            with self.assertRaises(DatabaseError):
                self.restore(made.name)
            self.assertEqual(self.value(), 99)
        with self.assertRaises(NotFoundError):
            self.restore("20260510T080000000000Z-daily.sqlite")
        names = {p.name for p in self.context.database.path.parent.iterdir()}
        self.assertEqual({n for n in names if "restoring" in n}, set())

    def test_pictures_come_along_to_a_stick_and_back(self) -> None:
        entry = NoteEntry("note-0001", self.plant, 0, "Curled tips", AT)
        note = notebook.keep_note(self.context, self.trial_id, 0, entry).id
        lens = SimulatedLeafCamera(5, LeafPlan("spider_mites", 6, 4, 3, 2), 900)
        notebook.take_picture(self.context, note, lens)
        here = self.context.database.path.parent
        stick = here / "stick"
        place = backups.copy_elsewhere(self.context, stick)
        self.now += timedelta(days=3)
        notebook.remove_note(self.context, note)
        made = backups.make_backup(self.context)
        for picture in (here / "pictures").iterdir():
            picture.unlink()  # as a sweep does after a day
        self.assertEqual(backups.restore(self.context, place).pictures_missing, 0)
        self.assertGreater(len(notebook.picture_content(self.context, note)), 1000)
        for picture in (here / "pictures").iterdir():
            picture.unlink()
        self.restore(made.name)
        self.assertEqual(backups.pictures_missing(self.context), 1)

    def test_repairing_keeps_the_damaged_file_and_what_can_be_read(self) -> None:
        self.damage()
        found, tables = backups.repair(self.context)
        self.assertIsNotNone(found.set_aside)
        self.assertIn("tally", [one.table for one in tables if not one.whole])
        self.assertIn("trial", [one.table for one in tables if one.whole and one.rows == 1])
        self.assertIsNone(self.context.database.damage)
        with self.context.database.reading() as connection:
            self.assertEqual(connection.execute("PRAGMA integrity_check").fetchone()[0], "ok")

    def test_copies_do_not_pile_up(self) -> None:
        for _ in range(40):
            self.now += timedelta(days=1)
            self.count(self.plant, 3)
            backups.make_backup(self.context, files.Reason.DAILY)
        found = backups.backups_of(self.context)
        self.assertLess(len(found), 15)
        self.assertEqual(found[0].made_at, self.now)
        self.assertEqual(
            {one.name for one in found},
            {p.name for p in Path(backups.folder_of(self.context)).iterdir()},
        )
