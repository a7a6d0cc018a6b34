"""Connections that are kept: readers and the one writer leave each other alone."""

from __future__ import annotations

import sqlite3
import tempfile
import threading
import unittest
from pathlib import Path

from orthocris.core.weather.yard import Yard
from orthocris.storage import weather
from orthocris.storage.database import Database


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "data.sqlite"
        self.database = Database(self.path, durable=False)
        self.addCleanup(self.database.close)
        self.database.migrate()

    def name(self) -> str:
        """The name of the yard as it is kept."""
        with self.database.reading() as connection:
            return weather.load(connection).name

    def rename(self, name: str) -> None:
        """Give the yard another name."""
        with self.database.atomic() as connection:
            weather.save(connection, Yard(name=name))

    def test_a_reader_sees_one_state_while_others_write(self) -> None:
        self.rename("old")
        with self.database.reading() as connection:
            before = weather.load(connection).name
            writer = threading.Thread(target=self.rename, args=("new",))
            writer.start()
            writer.join(5)
            self.assertFalse(writer.is_alive(), "a writer waited for a reader")
            self.assertEqual((before, weather.load(connection).name), ("old", "old"))
        self.assertEqual(self.name(), "new")

    def test_a_reader_does_not_wait_for_a_writer(self) -> None:
        self.rename("old")
        with self.database.atomic() as connection:
            weather.save(connection, Yard(name="half done"))
            seen: list[str] = []
            reader = threading.Thread(target=lambda: seen.append(self.name()))
            reader.start()
            reader.join(5)
            self.assertEqual(seen, ["old"])

    def test_writers_take_turns_and_nothing_is_lost(self) -> None:
        def add() -> None:
            for _ in range(20):
                with self.database.atomic() as connection:
                    yard = weather.load(connection)
                    weather.save(connection, Yard(seed=yard.seed + 1))

        writers = [threading.Thread(target=add) for _ in range(4)]
        for writer in writers:
            writer.start()
        for writer in writers:
            writer.join()
        with self.database.reading() as connection:
            self.assertEqual(weather.load(connection).seed, 81)

    def test_a_file_put_back_from_a_copy_is_the_one_that_is_read(self) -> None:
        self.rename("first")
        copy = self.path.with_name("copy.sqlite")
        self.database.copy_to(copy)
        self.rename("second")
        copy.replace(self.path)
        self.assertEqual(self.name(), "first")
        self.rename("third")
        self.assertEqual(self.name(), "third")

    def test_a_file_moved_away_takes_all_with_it(self) -> None:
        self.rename("before it went")
        away = self.path.with_name("away.sqlite")
        self.path.rename(away)
        with self.assertRaises(sqlite3.OperationalError):
            self.name()
        alone = self.path.with_name("alone")
        alone.mkdir()
        away.rename(alone / "data.sqlite")  # without a journal beside it
        moved = Database(alone / "data.sqlite")
        self.addCleanup(moved.close)
        with moved.reading() as connection:
            self.assertEqual(weather.load(connection).name, "before it went")

    def test_a_copy_of_the_running_file_has_all_but_the_last_seconds(self) -> None:
        self.rename("kept")
        self.database.checkpoint()
        copy = self.path.with_name("copy.sqlite")
        copy.write_bytes(self.path.read_bytes())
        copied = Database(copy)
        self.addCleanup(copied.close)
        with copied.reading() as connection:
            self.assertEqual(weather.load(connection).name, "kept")

    def test_what_failed_leaves_the_writer_free(self) -> None:
        with self.assertRaises(sqlite3.IntegrityError), self.database.atomic() as connection:
            connection.execute("INSERT INTO price (name, pack, price) VALUES ('soap', -1, 1)")
        self.rename("after it")
        self.assertEqual(self.name(), "after it")

    def test_closed_in_good_order_it_leaves_one_file(self) -> None:
        self.rename("x")
        self.database.close()
        self.assertEqual([p.name for p in self.path.parent.iterdir()], ["data.sqlite"])


class LargeAndDamaged(unittest.TestCase):
    def test_a_large_file_is_checked_beside_the_first_requests(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "data.sqlite"
        database = Database(path, durable=False)
        database.migrate()
        with database.atomic() as connection:
            connection.execute("CREATE TABLE filler (text TEXT)")
            connection.execute("INSERT INTO filler VALUES (hex(zeroblob(5000000)))")
        database.close()
        with path.open("r+b") as file:
            file.seek(9_000_000)
            file.write(b"\xff" * 40_000)
        later = Database(path, durable=False)
        self.addCleanup(later.close)
        self.assertEqual(later.migrate(), [])
        later.check()
        with self.assertRaises(Exception) as caught, later.reading():
            pass
        self.assertEqual(getattr(caught.exception, "code", ""), "data_damaged")


if __name__ == "__main__":
    unittest.main()
