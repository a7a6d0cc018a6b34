"""The release: one wheel that has the front end inside and serves its demo without Node."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import unittest
import urllib.request
import zipfile
from pathlib import Path

from release import FRONT_END, make_wheel, needed


@unittest.skipUnless((FRONT_END / "index.html").is_file(), "the front end is not built")
class Wheel(unittest.TestCase):
    def test_unpacked_anywhere_it_serves_its_demo_with_no_node_on_the_path(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            with zipfile.ZipFile(make_wheel(folder / "made")) as wheel:
                wheel.extractall(folder / "there")
            told = next((folder / "there").glob("*.dist-info/METADATA")).read_text("utf-8")
            self.assertIn("Requires-Dist: fastapi==", told)
            self.assertNotIn("--hash", told)
            paths = {"PYTHONPATH": str(folder / "there"), "PATH": "", "HOME": name, "TMPDIR": name}
            served = subprocess.Popen(
                [sys.executable, "-m", "orthocris", "demo", "--port", "0"],
                cwd=folder,
                env={**os.environ, **paths, "XDG_CACHE_HOME": str(folder / "cache")},
                stdout=subprocess.PIPE,
                text=True,
            )
            try:
                assert served.stdout is not None
                address = served.stdout.readline().split()[-1]
                with urllib.request.urlopen(f"{address}/trial/2/verdict", timeout=60) as page:
                    self.assertIn('<div id="app">', page.read().decode())
                with urllib.request.urlopen(f"{address}/api/today", timeout=60) as answer:
                    self.assertGreater(len(json.load(answer)["trials"]), 3)
            finally:
                served.terminate()
                served.wait(60)
                if served.stdout:
                    served.stdout.close()
            self.assertFalse((folder / "there" / ".run").exists())  # nothing is written beside it

    def test_each_package_is_named_as_it_was_pinned(self) -> None:
        hashed = " \\\n    --hash=sha256:0a \\\n    --hash=sha256:0b\n"
        text = f'# words\na==1.0{hashed}b==2 ; os_name == "nt"{hashed}'
        self.assertEqual(needed(text), ["a==1.0", 'b==2 ; os_name == "nt"'])


if __name__ == "__main__":
    unittest.main()
