"""run.py: only what changed is done again, and a broken step is told in words."""

from __future__ import annotations

import contextlib
import importlib.util
import io
import os
import sys
import tempfile
import unittest
from pathlib import Path
from types import ModuleType
from unittest import mock

ROOT = Path(__file__).resolve().parents[1]


def front_door() -> ModuleType:
    """run.py as a module."""
    spec = importlib.util.spec_from_file_location("front_door", ROOT / "run.py")
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


class Steps(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.root = Path(folder.name)
        self.door = front_door()
        self.door.ROOT, self.door.LOGS = self.root, self.root / ".run"  # type: ignore[attr-defined]
        self.source = self.root / "source.txt"
        self.source.write_text("one")
        self.result = self.root / "result"
        self.times = 0

    def step(self) -> None:
        """A step that makes its result from the source."""

        def act() -> None:
            self.times += 1
            self.result.write_text("made")

        with contextlib.redirect_stdout(io.StringIO()):
            self.door._step("a step", act, [self.source], self.result)

    def test_a_step_is_done_again_only_when_something_changed(self) -> None:
        self.step()
        self.step()
        self.assertEqual(self.times, 1)
        self.source.write_text("two")
        self.step()
        self.assertEqual(self.times, 2)
        self.result.unlink()
        self.step()
        self.assertEqual(self.times, 3)

    def test_a_step_that_failed_is_not_marked_as_done(self) -> None:
        def fail() -> None:
            raise self.door.SetupError("no")

        with contextlib.redirect_stdout(io.StringIO()), self.assertRaises(self.door.SetupError):
            self.door._step("a step", fail, [self.source], self.result)
        self.step()
        self.assertEqual(self.times, 1)

    def test_a_broken_command_shows_its_last_lines_and_what_to_do(self) -> None:
        command = [sys.executable, "-c", "print('the reason'); raise SystemExit(3)"]
        with self.assertRaises(self.door.SetupError) as caught:
            self.door._do(command, "Mend it.", cwd=self.root)
        for said in ("the reason", "ended with 3", "Mend it."):
            self.assertIn(said, str(caught.exception))

    def test_missing_and_old_node_are_told(self) -> None:
        with (
            mock.patch.dict(os.environ, {"PATH": str(self.root)}),
            self.assertRaisesRegex(self.door.SetupError, "Node 20 or newer"),
        ):
            self.door._npm()
        for name, script in (("node", "echo v18.1.0"), ("npm", "true")):
            path = self.root / name
            path.write_text(f"#!/bin/sh\n{script}\n")
            path.chmod(0o755)
        with (
            mock.patch.dict(os.environ, {"PATH": f"{self.root}:/bin:/usr/bin"}),
            self.assertRaisesRegex(self.door.SetupError, "v18.1.0"),
        ):
            self.door._npm()

    def test_the_counts_of_both_suites_are_read(self) -> None:
        for output, expected in (
            ("      Tests  3 failed | 9 passed (12)", (9, 3)),
            ("      Tests  12 passed (12)", (12, 0)),
            ("unittest: 7 passed, 1 failed", (7, 1)),
            ("nothing ran", (0, 1)),
        ):
            command = [sys.executable, "-c", f"print({output!r})"]
            with contextlib.redirect_stdout(io.StringIO()):
                self.assertEqual(self.door._counted(command, self.root), expected)

    def test_without_set_up_it_says_what_is_missing(self) -> None:
        with self.assertRaisesRegex(self.door.SetupError, "dist is missing"):
            self.door._need_set_up(self.root / "dist")


if __name__ == "__main__":
    unittest.main()
