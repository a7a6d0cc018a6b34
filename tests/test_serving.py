"""The program as a process: it starts with a check, ends in good order, says what is wrong."""

from __future__ import annotations

import io
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from contextlib import redirect_stdout
from datetime import UTC, datetime
from pathlib import Path
from urllib.request import urlopen

from orthocris.__main__ import main
from orthocris.demo.build import fresh_copy
from orthocris.demo.world import STORIES
from orthocris.storage import backups
from orthocris.storage.database import Database

ROOT = Path(__file__).resolve().parents[1]


class Ends(unittest.TestCase):
    def serve(self, *arguments: str, **environment: str) -> subprocess.Popen[str]:
        """The program, started."""
        process = subprocess.Popen(
            [sys.executable, "-m", "orthocris", "serve", "--port", "0", *arguments],
            cwd=ROOT,
            env={**os.environ, **environment},
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        self.addCleanup(process.wait)  # the last first: killed, then waited for
        self.addCleanup(process.kill)
        for stream in (process.stdout, process.stderr):
            assert stream is not None
            self.addCleanup(stream.close)
        return process

    def ended(self, process: subprocess.Popen[str]) -> tuple[int, str]:
        """Exit status and what it said on the error stream."""
        _, said = process.communicate(timeout=60)
        return process.returncode, said

    def wait_until_ready(self, process: subprocess.Popen[str]) -> None:
        """Wait for the line that names the address."""
        assert process.stdout is not None
        for line in process.stdout:
            if "ready at" in line:
                return
        self.fail("it ended before it was ready")

    def test_told_to_end_it_leaves_no_demo_folder_and_no_traceback(self) -> None:
        own = self.enterContext(
            tempfile.TemporaryDirectory()
        )  # others make demos at this time, too
        for told, status in ((signal.SIGTERM, 0), (signal.SIGINT, 130)):
            process = self.serve("--demo", TMPDIR=own)
            self.wait_until_ready(process)
            self.assertEqual(len(list(Path(own).glob("orthocris-demo-*"))), 1)
            process.send_signal(told)
            code, said = self.ended(process)
            self.assertNotIn("Traceback", said)
            self.assertEqual(code, status)
            self.assertEqual(list(Path(own).glob("orthocris-demo-*")), [])

    def test_a_damaged_file_is_told_at_the_start(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            file = Path(name) / "orthocris.sqlite"
            Database(file).migrate()
            whole = bytearray(file.read_bytes())
            whole[4096 * 3 : 4096 * 6] = b"\xff" * (4096 * 3)
            for content, word in ((bytes(whole), "damaged"), (b"no database" * 99, "cannot be")):
                file.write_bytes(content)
                code, said = self.ended(self.serve("--data", name))
                self.assertEqual(code, 2)
                self.assertIn(word, said)
                self.assertIn("Put back a copy", said)
                self.assertNotIn("Traceback", said)
                self.assertEqual(file.read_bytes(), content)

    def test_damaged_data_with_a_copy_is_served_to_put_it_back(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            file = Path(name) / "orthocris.sqlite"
            Database(file).migrate()
            made = backups.make(file, backups.Reason.DAILY, datetime.now(UTC))
            file.unlink()
            process = self.serve("--data", name)
            self.wait_until_ready(process)
            self.assertFalse(file.exists())  # no empty garden in place of the lost one
            process.send_signal(signal.SIGTERM)
            code, said = self.ended(process)
            self.assertEqual(code, 0)
            self.assertIn("copies of it are", said)
            self.assertNotIn("Traceback", said)
            with redirect_stdout(io.StringIO()) as told:
                self.assertEqual(main(["check", "--data", name]), 1)
                self.assertEqual(main(["restore", made.name, "--data", name]), 0)
                self.assertEqual(main(["check", "--data", name]), 0)
                self.assertEqual(main(["repair", "--data", name]), 0)
            self.assertIn("is whole: there is nothing to repair", told.getvalue())

    def test_a_port_that_is_none(self) -> None:
        for port in ("65536", "-1", "9" * 20, "http", "٣"):
            for command in (
                [sys.executable, "-m", "orthocris", "serve", "--port", port],
                [sys.executable, "run.py", "serve", "--no-setup", "--port", port],
            ):
                done = subprocess.run(
                    command, cwd=ROOT, capture_output=True, text=True, check=False
                )
                self.assertEqual(done.returncode, 2, done.stderr)
                self.assertRegex(done.stderr, "no port: give")


class DemoBesideOwn(unittest.TestCase):
    def test_it_is_served_once_and_ends_with_who_asked_for_it_even_if_that_is_killed(self) -> None:
        own = self.enterContext(tempfile.TemporaryDirectory())
        asks = (
            "import sys, time; from orthocris.demo.beside import DemoBeside; demo = DemoBeside();"
            "print(demo.open() == demo.open(), demo.open(), flush=True); time.sleep(600)"
        )
        asking = subprocess.Popen(
            [sys.executable, "-c", asks],
            cwd=ROOT,
            env={**os.environ, "TMPDIR": own},
            stdout=subprocess.PIPE,
            text=True,
        )
        assert asking.stdout is not None
        self.addCleanup(asking.stdout.close)
        self.addCleanup(asking.wait)
        self.addCleanup(asking.kill)
        once, address = asking.stdout.readline().split()
        self.assertEqual(once, "True")
        with urlopen(f"{address}/api/today", timeout=60) as answer:
            self.assertEqual(len(json.load(answer)["trials"]), len(STORIES))
        self.assertTrue(list(Path(own).glob("orthocris-demo-*")))
        asking.kill()
        until = time.monotonic() + 60
        while list(Path(own).glob("orthocris-demo-*")) and time.monotonic() < until:
            time.sleep(0.1)
        self.assertEqual(list(Path(own).glob("orthocris-demo-*")), [])


class DemoCopy(unittest.TestCase):
    def test_a_kept_copy_that_was_cut_off_is_built_again(self) -> None:
        now = datetime(2026, 5, 10, 9, tzinfo=UTC)
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            fresh_copy(folder / "first.sqlite", now, folder / "cache")
            (kept,) = (folder / "cache").glob("demo-*.sqlite")
            whole = kept.read_bytes()
            for k, cut in enumerate((0, len(whole) // 2)):
                kept.write_bytes(whole[:cut])
                file = folder / f"copy{k}.sqlite"
                fresh_copy(file, now, folder / "cache")
                with Database(file).reading() as connection:
                    count = connection.execute("SELECT count(*) FROM trial").fetchone()[0]
                self.assertEqual(count, len(STORIES))


if __name__ == "__main__":
    unittest.main()
