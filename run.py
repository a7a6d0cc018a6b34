#!/usr/bin/env python3
"""The one front door: sets up what is needed, then runs the demo, the application or the tests.

Needs only Python 3.11 or newer with venv, Node 20 or newer with npm, and on Debian apt for the
browser of the tests. Uses nothing outside the standard library.
"""

from __future__ import annotations

import argparse
import hashlib
import os
import re
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent
WEB = ROOT / "web"
VENV = ROOT / ".venv"
PYTHON = VENV / ("Scripts/python.exe" if os.name == "nt" else "bin/python")
LOGS = ROOT / ".run"
CHROMIUM = Path("/usr/bin/chromium")
# What the program itself does with a garden that is not served.
KEEPING = {
    "backup": "copy your garden; --to FOLDER copies it with its photos",
    "restore": "put a copy in the place of your garden",
    "check": "look through your garden and its copies",
    "repair": "save what can be read of a damaged garden",
}


class SetupError(Exception):
    """A step of the set-up failed; the message says which, why and what to do."""


def main() -> int:
    """Run one command."""
    parser = argparse.ArgumentParser(description="Orthocris: set up and run.")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, words in (("demo", "serve the demo world"), ("serve", "serve your own data")):
        command = commands.add_parser(name, help=words)
        command.add_argument("--port", type=_port, default=8747)
        command.add_argument("--no-setup", action="store_true", help="skip the set-up")
        command.add_argument("--lan", action="store_true", help="let the home network in")
        command.add_argument("--lan-port", type=_port, default=8748, help="its port")
        command.add_argument(
            "--lan-host", help="name or address by which others reach this machine"
        )
        if name == "demo":
            command.add_argument("--keep", action="store_true", help="keep the demo copy")
        else:
            command.add_argument("--data", type=Path, help="folder of the data")
    test = commands.add_parser("test", help="run every check and test")
    test.add_argument("--fast", action="store_true", help="leave the browser out")
    test.add_argument("--no-setup", action="store_true", help="skip the set-up")
    for name, words in KEEPING.items():
        commands.add_parser(name, help=words, add_help=False)
    commands.add_parser("wheel", help="make one wheel that needs no Node, in dist/")
    shots = commands.add_parser("shots", help="refresh docs/screenshots")
    shots.add_argument("names", nargs="*", help="only these pictures")
    options, rest = parser.parse_known_args()
    if rest and options.command not in KEEPING:
        parser.error(f"unrecognized arguments: {' '.join(rest)}")
    try:
        return _keep(options.command, rest) if options.command in KEEPING else _run(options)
    except SetupError as error:
        print(f"\n{error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _port(text: str) -> int:
    if not (text.isascii() and text.isdigit() and len(text) <= 5 and int(text) <= 65_535):
        raise argparse.ArgumentTypeError(f"{text!r} is no port: give 1 to 65535, or 0 for any")
    return int(text)


def _run(options: argparse.Namespace) -> int:
    if options.command in ("demo", "serve"):
        if not options.no_setup:
            set_up(dev=False, browser=False)
        _need_set_up(WEB / "dist" / "index.html")
        return serve(options)
    if options.command == "wheel":
        set_up(dev=True, browser=False)
        return subprocess.call([PYTHON, "release.py"], cwd=ROOT)
    if options.command == "shots":
        set_up(dev=True, browser=True)
        return subprocess.call([PYTHON, "-m", "tests.browser.shots", *options.names], cwd=ROOT)
    if not options.no_setup:
        set_up(dev=True, browser=not options.fast)
    _need_set_up(PYTHON)
    return run_tests(browser=not options.fast)


def _keep(command: str, arguments: list[str]) -> int:
    _need_set_up(PYTHON)
    paths = {**os.environ, "PYTHONPATH": str(ROOT)}
    return subprocess.call([str(PYTHON), "-m", "orthocris", command, *arguments], env=paths)


def serve(options: argparse.Namespace) -> int:
    """Start the application and stay until it ends."""
    command = [str(PYTHON), "-m", "orthocris", "serve", "--port", str(options.port)]
    command += ["--lan-port", str(options.lan_port), *(["--lan"] if options.lan else [])]
    command += ["--lan-host", options.lan_host] if options.lan_host else []
    if options.command == "demo":
        command += ["--demo", *(["--keep"] if options.keep else [])]
    elif options.data:
        command += ["--data", str(options.data)]
    process = subprocess.Popen(command, cwd=ROOT)
    # Whoever ends this program ends the application with it, in good order.
    signal.signal(signal.SIGTERM, lambda *_: process.terminate())
    try:
        return process.wait()
    except KeyboardInterrupt:
        return process.wait()  # Ctrl-C reached the application too; let it end in good order


# Set-up: each step has inputs; it is done anew only when their contents changed.


def set_up(*, dev: bool, browser: bool) -> None:
    """Bring environment, packages, front end and browser up to date."""
    if sys.version_info < (3, 11):  # noqa: UP036 - who runs this may have an older one
        raise SetupError(f"Python 3.11 or newer is needed, this is {sys.version.split()[0]}.")
    _step("Python environment", _make_venv, [], VENV / "pyvenv.cfg")
    wanted = ROOT / ("requirements-dev.txt" if dev else "requirements.txt")
    inputs = [ROOT / "requirements.txt", wanted]
    _step("Python packages", lambda: _pip(wanted), inputs, PYTHON, stamp=f"pip-{wanted.stem}")
    front_end = [WEB / "package.json", WEB / "package-lock.json"]
    _step("front-end packages", _npm_ci, front_end, WEB / "node_modules")
    sources = [
        *front_end,
        *(WEB / n for n in ("index.html", "vite.config.ts", "compress.mjs", "tsconfig.json")),
        *_files(WEB / "public"),
        *_files(WEB / "src"),
    ]
    _step("front-end build", _build, sources, WEB / "dist" / "index.html")
    if browser and not CHROMIUM.exists() and "CHROMIUM" not in os.environ:
        _step("browser for the tests", _apt_chromium, [], CHROMIUM)


def _step(
    name: str,
    act: Callable[[], None],
    inputs: Iterable[Path],
    result: Path,
    stamp: str | None = None,
) -> None:
    digest = hashlib.sha256()
    for path in inputs:
        digest.update(str(path.relative_to(ROOT)).encode() + b"\0" + path.read_bytes())
    mark = LOGS / f"{(stamp or name).replace(' ', '-')}.stamp"
    if result.exists() and mark.exists() and mark.read_text() == digest.hexdigest():
        return
    print(f"  {name} … ", end="", flush=True)
    start = time.monotonic()
    act()
    LOGS.mkdir(exist_ok=True)
    mark.write_text(digest.hexdigest())
    print(f"{time.monotonic() - start:.0f} s", flush=True)


def _files(folder: Path) -> list[Path]:
    return sorted(path for path in folder.rglob("*") if path.is_file() and path.suffix != ".map")


def _make_venv() -> None:
    shutil.rmtree(VENV, ignore_errors=True)
    for mark in LOGS.glob("pip-*.stamp"):
        mark.unlink()
    _do([sys.executable, "-m", "venv", str(VENV)], "Install Python's venv (Debian: python3-venv).")


def _pip(wanted: Path) -> None:
    command = [str(PYTHON), "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
    _do([*command, "-r", str(wanted)], "Check that the package registry can be reached.")


def _npm_ci() -> None:
    _do([_npm(), "ci", "--no-audit", "--no-fund"], "Check the npm registry.", cwd=WEB)


def _build() -> None:
    _do([_npm(), "run", "build"], "Look at the first error above.", cwd=WEB)


def _apt_chromium() -> None:
    apt = shutil.which("apt-get")
    if apt is None or (hasattr(os, "geteuid") and os.geteuid() != 0):
        raise SetupError(
            "The browser tests need Chromium at /usr/bin/chromium: install it (Debian: apt-get "
            "install chromium), or name another with the variable CHROMIUM, or use --fast."
        )
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    _do([apt, "update"], "Check that the package registry can be reached.", env=quiet)
    _do(
        [apt, "install", "-y", "--no-install-recommends", "chromium"],
        "Install Chromium by hand.",
        env=quiet,
    )


def _npm() -> str:
    node, npm = shutil.which("node"), shutil.which("npm")
    if node is None or npm is None:
        raise SetupError("Node 20 or newer with npm is needed to build the front end. Install it.")
    version = subprocess.run(
        [node, "--version"], capture_output=True, text=True, check=False
    ).stdout
    found = re.match(r"v(\d+)", version)
    if found is None or int(found.group(1)) < 20:
        raise SetupError(f"Node 20 or newer is needed, this is {version.strip() or 'unreadable'}.")
    return npm


def _do(
    command: Sequence[str], fix: str, *, cwd: Path = ROOT, env: dict[str, str] | None = None
) -> None:
    LOGS.mkdir(exist_ok=True)
    log = LOGS / "last-step.log"
    with log.open("w") as out:
        code = subprocess.call(command, cwd=cwd, stdout=out, stderr=subprocess.STDOUT, env=env)
    if code:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-15:])
        raise SetupError(f"failed.\n{tail}\n\n{' '.join(command)} ended with {code}. {fix}")


def _need_set_up(path: Path) -> None:
    if not path.exists():
        raise SetupError(f"{path.relative_to(ROOT)} is missing: run once without --no-setup.")


# Tests: every check counts as one, beside the tests that unittest and vitest count themselves.


Check = tuple[str, list[str], Path]


def run_tests(*, browser: bool) -> int:
    """Run checks and tests; end with one line of numbers."""
    passed = failed = 0
    npx = shutil.which("npx") or "npx"
    checks: list[Check] = [
        ("ruff check", [str(PYTHON), "-m", "ruff", "check", "."], ROOT),
        ("ruff format", [str(PYTHON), "-m", "ruff", "format", "--check", "."], ROOT),
        ("mypy", [str(PYTHON), "-m", "mypy"], ROOT),
        ("eslint", [npx, "eslint", ".", "--max-warnings", "0"], WEB),
        ("prettier", [npx, "prettier", "--check", "."], WEB),
        ("vue-tsc", [npx, "vue-tsc", "--noEmit"], WEB),
    ]
    with ThreadPoolExecutor(2) as side_by_side:
        for told, well in side_by_side.map(_check, checks):
            print(told, flush=True)
            passed, failed = passed + well, failed + (not well)
    for command, where in _suites(npx, browser=browser):
        ok, bad = _counted(command, where)
        passed, failed = passed + ok, failed + bad
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if failed else 0


def _check(check: Check) -> tuple[str, bool]:
    """Run a check; return what to say of it, and whether it is well."""
    name, command, where = check
    start = time.monotonic()
    done = subprocess.run(command, cwd=where, capture_output=True, text=True, check=False)
    ok = done.returncode == 0
    told = f"{name}: {'ok' if ok else 'FAILED'} ({time.monotonic() - start:.0f} s)"
    return (told if ok else f"{told}\n{done.stdout}{done.stderr}"), ok


def _suites(npx: str, *, browser: bool) -> list[tuple[list[str], Path]]:
    python = [str(PYTHON), "-W", "error", "-m", "tests"]
    return [
        ([npx, "vitest", "run", "--reporter=default"], WEB),
        ([*python, *([] if browser else ["--fast"])], ROOT),
    ]


def _counted(command: list[str], where: Path) -> tuple[int, int]:
    """Run a suite, show its output and read its numbers; a suite that dies counts as a failure."""
    plain = {**os.environ, "NO_COLOR": "1"}
    passed = failed = 0
    with subprocess.Popen(
        command, cwd=where, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=plain
    ) as process:
        for line in process.stdout or ():
            print(line, end="", flush=True)
            vitest = re.match(r"\s*Tests\s+(?:(\d+) failed \| )?(?:(\d+) passed)?", line)
            unit = re.match(r"unittest: (\d+) passed, (\d+) failed", line)
            if vitest:
                failed, passed = int(vitest.group(1) or 0), int(vitest.group(2) or 0)
            if unit:
                passed, failed = int(unit.group(1)), int(unit.group(2))
        code = process.wait()
    return passed, failed or (1 if code or not passed else 0)


if __name__ == "__main__":
    sys.exit(main())
