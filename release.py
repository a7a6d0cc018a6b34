#!/usr/bin/env python3
"""Makes one wheel with the built front end inside; installed, it needs no Node.

`python3 run.py wheel` sets up what this needs and runs it.
"""

from __future__ import annotations

import json
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent
FRONT_END = ROOT / "web" / "dist"
NOTICES = ("README.md", "CHANGELOG.md")


def needed(requirements: str) -> list[str]:
    """Return what the application needs, as a wheel says it: every package as it was pinned."""
    bare = re.sub(r"\s*\\\n\s*--hash=\S+", "", requirements)
    lines = (line.strip() for line in bare.splitlines())
    return [line for line in lines if line and not line.startswith("#")]


def make_wheel(into: Path) -> Path:
    """Make the wheel from a copy of the sources, and return where it is."""
    if not (FRONT_END / "index.html").is_file():
        raise SystemExit("The front end is not built: python3 run.py wheel builds it first.")
    with tempfile.TemporaryDirectory(prefix="orthocris-wheel-") as name:
        copy = Path(name)
        shutil.copytree(
            ROOT / "orthocris", copy / "orthocris", ignore=shutil.ignore_patterns("__pycache__")
        )
        shutil.copytree(FRONT_END, copy / "orthocris" / "front_end")
        for notice in NOTICES:
            shutil.copyfile(ROOT / notice, copy / notice)
        project = (ROOT / "pyproject.toml").read_text("utf-8")
        pins = json.dumps(needed((ROOT / "requirements.txt").read_text("utf-8")), indent=2)
        told = project.replace("dynamic = [", f"dependencies = {pins}\ndynamic = [", 1)
        (copy / "pyproject.toml").write_text(told, "utf-8")
        into.mkdir(parents=True, exist_ok=True)
        pip = [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-index"]
        subprocess.run(
            [*pip, "--no-build-isolation", "--wheel-dir", str(into), str(copy)], check=True
        )
    return max(into.glob("orthocris-*.whl"), key=lambda made: made.stat().st_mtime)


if __name__ == "__main__":
    print(make_wheel(ROOT / "dist"))
