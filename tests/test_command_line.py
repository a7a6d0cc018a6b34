"""The command line: judge, and its refusals in one line."""

from __future__ import annotations

import contextlib
import io
import json
import socket
import subprocess
import sys
import tempfile
import unittest
from datetime import date
from pathlib import Path

from orthocris.__main__ import main
from orthocris.core.trial.plan import Remedy, Role
from orthocris.core.verdict.shared import Shared
from orthocris.formats.bundle import bundle
from orthocris.formats.tidy_table import write_table
from tests.core.verdict.gardens import trial

SPRAYS = Path(__file__).parent / "data" / "spray-counts.csv"


def run(*arguments: str) -> tuple[int, str, str]:
    """Exit status, standard output and standard error of a command."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        status = main(arguments)
    return status, out.getvalue(), err.getvalue()


class Judge(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "trial.csv"

    def write(self, *rows: str) -> str:
        """A table with these lines behind the header."""
        self.file.write_text("\n".join(("plant,block,remedy,day,value", *rows)) + "\n")
        return str(self.file)

    def test_json_is_one_object_and_repeats(self) -> None:
        arguments = ("judge", str(SPRAYS), "--control", "none", "--json", "--seed", "3")
        status, out, _ = run(*arguments)
        self.assertEqual(status, 0)
        self.assertEqual(json.loads(out)["outcome"], "ranked_without_control")
        self.assertEqual(out, run(*arguments)[1])

    def test_a_bundle_says_itself_what_is_judged(self) -> None:
        water = Remedy(0, "Water", Role.CONTROL, "")
        soap = Remedy(0, "Soap", Role.REMEDY, "")
        told = Shared(
            "Beds", "aphids", "Aphids", "", date(2026, 5, 1), "live", 7.0, 0.3, (water, soap)
        )
        counts = {"Water": (40, 38, 52, 29, 44, 41), "Soap": (4, 3, 5, 2, 6, 4)}
        seen = [o for o in trial(counts) if o.day > 0]
        self.file.write_bytes(bundle("Beds", write_table(seen), (), {}, {}, told.to_plain()))
        status, out, err = run("judge", str(self.file), "--json")
        self.assertEqual((status, err), (0, ""))
        found = json.loads(out)
        self.assertEqual((found["recommended"], found["threshold"]), ("Soap", 0.3))
        said = json.loads(run("judge", str(self.file), "--json", "--threshold", "0.9")[1])
        self.assertEqual(said["threshold"], 0.9)
        self.file.write_bytes(self.file.read_bytes()[:200])
        status, out, err = run("judge", str(self.file))
        self.assertEqual((status, out), (2, ""))
        self.assertIn("no whole ZIP file", err)

    def test_whoever_reads_may_stop_reading(self) -> None:
        command = [sys.executable, "-m", "orthocris", "judge", str(SPRAYS), "--control", "none"]
        with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as judged:
            assert judged.stdout is not None and judged.stderr is not None
            judged.stdout.close()
            self.assertEqual(judged.stderr.read(), b"")
        self.assertEqual(judged.returncode, 0)

    def test_plain_text_names_the_first(self) -> None:
        self.assertIn(
            "C was left with the fewest", run("judge", str(SPRAYS), "--control", "none")[1]
        )

    def test_the_plan_can_be_told_and_plants_that_were_added(self) -> None:
        rows = [
            f"{name}{b},{b},{name},{day},{20 + b if name == 'control' else 2},{b // 4}"
            for b in range(8)
            for name in ("control", "soap")
            for day in (3, 7)
        ]
        self.file.write_text("\n".join(("plant,block,remedy,day,value,added", *rows)) + "\n")
        told = json.loads(run("judge", str(self.file), "--json")[1])
        self.assertEqual(told["method"]["additions"], 1)
        early = ("--look", "3", "--planned", "3, 7,14", "--json")
        self.assertTrue(json.loads(run("judge", str(self.file), *early)[1])["so_far"])
        self.assertFalse(
            json.loads(run("judge", str(self.file), *early, "--decisive", "3")[1])["so_far"]
        )
        for wrong in (("--planned", "3;soon"), ("--decisive", "x"), ("--decisive", "-1")):
            status, _, err = run("judge", str(self.file), *wrong)
            self.assertEqual((status, err.count("\n")), (2, 1))
        self.file.write_text("plant,remedy,day,value,added\na,soap,7,3,1.5\n")
        self.assertIn("is no addition", run("judge", str(self.file))[2])

    def test_refusals_are_one_line_with_place_and_allowed(self) -> None:
        good = ("a,1,control,7,20", "b,1,soap,7,3")
        cases = {
            "column value": (*good, "c,1,soap,7,-3"),
            "column day": (*good, "c,1,soap,soon,3"),
            "column remedy": (*good, "a,1,soap,7,3"),
        }
        for said, rows in cases.items():
            status, out, err = run("judge", self.write(*rows))
            self.assertEqual((status, out, err.count("\n")), (2, "", 1))
            self.assertIn(f"{self.file}: line 4, {said}", err)
        for extra in (
            ("--control", "Soap"),
            ("--threshold", "x"),
            ("--look", "3"),
            ("--measure", "dead"),
            ("--seed", "inf"),
            ("--seed", "-1"),
            ("--seed", "1.5"),
            ("--threshold", "nan"),
        ):
            status, _, err = run("judge", self.write(*good), *extra)
            self.assertEqual((status, err.count("\n")), (2, 1))
        self.assertEqual(run("judge", str(self.file) + ".none")[0], 2)

    def test_control_named_otherwise(self) -> None:
        path = self.write(
            *(
                f"{n}{k},{k},{n},7,{v + k}"
                for n, v in (("Water", 30), ("soap", 2))
                for k in range(4)
            )
        )
        status, out, _ = run("judge", path, "--control", "Water", "--json")
        self.assertEqual((status, json.loads(out)["recommended"]), (0, "soap"))


class Serve(unittest.TestCase):
    def test_busy_port_is_told_in_words(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            status, _, err = run("serve", "--demo", "--port", str(port))
        self.assertEqual(status, 2)
        self.assertIn(f"--port {port + 1}", err)

    def test_data_that_is_no_database_is_refused(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "orthocris.sqlite").write_bytes(b"not a database, but long enough" * 9)
            status, _, err = run("serve", "--data", folder, "--port", "0")
        self.assertEqual(status, 2)
        self.assertIn("--data", err)


if __name__ == "__main__":
    unittest.main()
