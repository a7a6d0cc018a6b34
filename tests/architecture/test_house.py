"""The house keeps its order: layers, clean files, generated files in step."""

from __future__ import annotations

import ast
import contextlib
import io
import json
import re
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from orthocris.__main__ import main

ROOT = Path(__file__).resolve().parents[2]
PACKAGE = ROOT / "orthocris"

# What each folder may import: parts of orthocris, and packages from outside the standard library.
MAY: dict[str, tuple[set[str], set[str]]] = {
    "core": ({"core"}, {"lark", "numpy", "scipy"}),
    "knowledge": ({"core", "knowledge"}, {"pydantic"}),
    "storage": ({"core", "storage"}, {"numpy", "pydantic"}),
    "devices": ({"core", "devices"}, {"numpy", "PIL"}),
    "formats": ({"core", "formats"}, {"PIL", "icalendar", "numpy", "reportlab", "segno"}),
    "services": (
        {"core", "knowledge", "storage", "devices", "formats", "services"},
        {"argon2", "numpy", "tzlocal"},
    ),
    "api": (
        {"core", "knowledge", "services", "storage", "formats", "api"},
        {"fastapi", "starlette", "pydantic", "pydantic_core"},
    ),
    "network": ({"core", "services", "network"}, {"cryptography", "starlette", "uvicorn"}),
    "demo": ({"core", "services", "storage", "demo"}, {"numpy"}),
}
# Which chapters of the core each chapter may import beside itself; arrows run one way.
ARROWS: dict[str, set[str]] = {
    "errors": set(),
    "ranges": {"errors"},
    "words": set(),
    "trial": {"errors", "ranges", "words"},
    "pantry": {"errors", "ranges", "trial"},
    "weather": {"errors", "ranges", "trial", "pantry"},
    "finding": {"errors"},
    "door": {"errors"},
    "counting": {"errors", "words", "trial"},
    "verdict": {"errors", "words", "trial"},
    "planning": {"errors", "words", "trial", "pantry", "verdict"},
    "playing": {"errors", "words", "trial", "verdict", "planning"},
    "field": {"errors", "ranges", "words", "trial", "pantry", "weather"},
    "seasons": {"errors", "field"},
}
# Modules of the standard library that reach outside, barred from the core.
OUTSIDE = {
    "sqlite3",
    "socket",
    "os",
    "pathlib",
    "time",
    "random",
    "secrets",
    "urllib",
    "json",
    "io",
}


def imports(path: Path) -> set[str]:
    """Every module a file imports, by its full name."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            assert node.level == 0, f"{path} has a relative import"
            module = node.module or ""
            found |= (
                {f"{module}.{a.name}" for a in node.names} if module == "orthocris" else {module}
            )
    return found


def tracked() -> list[Path]:
    """The files git tracks, or every file outside the folders it ignores."""
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    return [ROOT / name for name in listed.stdout.splitlines() if (ROOT / name).is_file()]


class Layers(unittest.TestCase):
    def test_each_folder_imports_only_what_it_may(self) -> None:
        broken = []
        for folder, (ours, theirs) in MAY.items():
            for path in (PACKAGE / folder).rglob("*.py"):
                for name in imports(path):
                    parts = name.split(".")
                    if parts[0] == "orthocris":
                        allowed = len(parts) < 2 or parts[1] in ours or parts[1] == "__version__"
                    else:
                        allowed = parts[0] in sys.stdlib_module_names or parts[0] in theirs
                        allowed = allowed and not (folder == "core" and parts[0] in OUTSIDE)
                    if not allowed:
                        broken.append(f"{path.relative_to(ROOT)} imports {name}")
        self.assertEqual(broken, [])

    def test_every_folder_has_a_rule(self) -> None:
        folders = {p.name for p in PACKAGE.iterdir() if p.is_dir() and p.name != "__pycache__"}
        self.assertEqual(folders, set(MAY))

    def test_chapters_of_the_core_import_one_way(self) -> None:
        broken = []
        for path in (PACKAGE / "core").rglob("*.py"):
            chapter = path.relative_to(PACKAGE / "core").parts[0].removesuffix(".py")
            if chapter == "__init__":
                continue
            for name in imports(path):
                parts = name.split(".")
                ours = parts[:2] == ["orthocris", "core"] and len(parts) > 2
                if ours and parts[2] not in ARROWS[chapter] | {chapter}:
                    broken.append(f"{path.relative_to(ROOT)} imports {name}")
        self.assertEqual(broken, [])

    def test_every_shelf_has_the_words_of_the_chapters(self) -> None:
        chapters = set(ARROWS) - {"errors", "ranges", "words"} | {"knowledge"}
        for shelf in (
            PACKAGE / "services",
            PACKAGE / "storage",
            PACKAGE / "api",
            ROOT / "web" / "src" / "views",
            ROOT / "web" / "src" / "components",
        ):
            folders = {p.name for p in shelf.iterdir() if p.is_dir() and p.name[0].isalpha()} - {
                "migrations"
            }
            self.assertLessEqual(folders, chapters, shelf)

    def test_sql_stays_in_storage(self) -> None:
        for path in PACKAGE.rglob("*.py"):
            if "storage" not in path.parts and path.name != "errors.py":
                self.assertNotIn("sqlite3", imports(path), path)

    def test_core_uses_no_global_chance_or_clock(self) -> None:
        for path in (PACKAGE / "core").rglob("*.py"):
            text = path.read_text("utf-8")
            self.assertIsNone(re.search(r"np\.random\.(?!Generator|default_rng)", text), path)
            self.assertNotIn(".now(", text, path)
            self.assertNotIn("date.today", text, path)


class Files(unittest.TestCase):
    def test_no_host_of_a_registry_and_no_path_of_a_machine(self) -> None:
        hosts = "|".join(
            (r"registry\.npm" + "js", r"py" + r"pi\.org", "python" + "hosted", r"deb\.deb" + "ian")
        )
        for path in tracked():
            if path.suffix in (".png", ".woff2", ".ttf"):
                continue
            text = path.read_text("utf-8")
            self.assertIsNone(re.search(hosts, text), path)
            self.assertNotIn("/work" + "/main", text, path)

    def test_a_paragraph_of_the_method_can_be_read_in_one_breath(self) -> None:
        for paragraph in (ROOT / "docs" / "method.md").read_text("utf-8").split("\n\n"):
            if not re.match(r"\s*([|#`<!-]|\d+\. )", paragraph):
                self.assertLessEqual(len(paragraph), 800, paragraph[:100])  # eight lines of 100

    def test_colours_stand_in_the_token_file_only(self) -> None:
        for path in (ROOT / "web" / "src").rglob("*.vue"):
            found = re.findall(r"#[0-9a-fA-F]{3,8}\b|rgba?\(", path.read_text("utf-8"))
            self.assertEqual(found, [], path)

    def test_schema_of_the_front_end_is_the_api_s(self) -> None:
        """After a change: python -m orthocris openapi > web/openapi.json, npm run types."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            main(["openapi"])
        kept = json.loads((ROOT / "web" / "openapi.json").read_text("utf-8"))
        self.assertEqual(json.loads(out.getvalue()), kept)

    def test_the_tables_are_drawn_as_they_are(self) -> None:
        """After a migration: python -m orthocris tables > docs/tables.md."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            main(["tables"])
        self.assertEqual((ROOT / "docs" / "tables.md").read_text("utf-8"), out.getvalue())

    def test_tags_on_screen_are_those_that_are_printed(self) -> None:
        """After a change: python -m orthocris tags > web/src/charts/tagOutlines.json."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            main(["tags"])
        kept = (ROOT / "web" / "src" / "charts" / "tagOutlines.json").read_text("utf-8")
        self.assertEqual(out.getvalue(), kept)

    def test_types_of_the_front_end_are_made_of_that_schema(self) -> None:
        """After a change of web/openapi.json: npm run types, in web."""
        web = ROOT / "web"
        npx = shutil.which("npx") or "npx"
        with tempfile.TemporaryDirectory() as name:
            fresh = Path(name) / "schema.d.ts"
            made = subprocess.run(
                [npx, "openapi-typescript", "openapi.json", "-o", str(fresh)],
                cwd=web,
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(made.returncode, 0, made.stderr)
            kept = (web / "src" / "api" / "schema.d.ts").read_text("utf-8")
            self.assertEqual(fresh.read_text("utf-8"), kept)

    def test_pictures_are_linked(self) -> None:
        readme = (ROOT / "README.md").read_text("utf-8")
        for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
            self.assertIn(f"docs/screenshots/{picture.name}", readme)


if __name__ == "__main__":
    unittest.main()
