"""The data folder: one server at a time, and nobody else reads it."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from orthocris.storage.folder import claimed, keep_private
from orthocris.storage.soundness import DatabaseError


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_a_second_server_is_refused_and_told_of_the_first(self) -> None:
        with (
            claimed(self.folder, "http://127.0.0.1:8747"),
            self.assertRaises(DatabaseError) as caught,
            claimed(self.folder, "elsewhere"),
        ):
            pass
        said = caught.exception.message
        self.assertIn(f"process {os.getpid()}, at http://127.0.0.1:8747", said)
        with claimed(self.folder, "http://127.0.0.1:8748"):  # it ended: the next may come
            pass

    def test_the_lock_of_a_program_that_was_killed_is_gone_with_it(self) -> None:
        script = (
            "import sys, time; from pathlib import Path;"
            "from orthocris.storage.folder import claimed\n"
            "with claimed(Path(sys.argv[1]), 'there'): print('held', flush=True); time.sleep(60)"
        )
        with subprocess.Popen(
            [sys.executable, "-c", script, str(self.folder)], stdout=subprocess.PIPE, text=True
        ) as other:
            assert other.stdout is not None
            self.assertEqual(other.stdout.readline(), "held\n")
            there = self.assertRaisesRegex(DatabaseError, f"process {other.pid}, at there")
            with there, claimed(self.folder, "here"):
                pass
            other.kill()
        with claimed(self.folder, "here"):
            pass

    @unittest.skipIf(os.name == "nt", "rights of the owner alone are those of Unix")
    def test_nobody_else_reads_it(self) -> None:
        file = self.folder / "orthocris.sqlite"
        file.touch(0o644)
        self.folder.chmod(0o755)
        keep_private(self.folder)
        self.assertEqual(
            (self.folder.stat().st_mode & 0o777, file.stat().st_mode & 0o777), (0o700, 0o600)
        )


if __name__ == "__main__":
    unittest.main()
