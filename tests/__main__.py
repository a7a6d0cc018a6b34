"""Runs the unittest suites: python -m tests [--fast] [--jobs N] [PATTERN …].

--fast leaves the browser out. Classes run beside one another in a few processes (--jobs, usually
three: much of the time a browser is waited for); a class stays in one process, so that what its
tests share is set up once.
"""

from __future__ import annotations

import faulthandler
import io
import multiprocessing
import os
import signal
import sys
import tempfile
import time
import unittest
from dataclasses import dataclass
from pathlib import Path

HERE = Path(__file__).resolve().parent
JOBS = 3
LONGEST = 1500  # seconds without any part ending: one waits for ever


@dataclass(frozen=True, slots=True)
class Outcome:
    """How the tests of one class went; `told` is empty when all is well."""

    name: str
    run: int
    bad: int
    skipped: int
    seconds: float
    told: str


def main() -> int:
    """Collect, run, and end with the numbers that run.py reads."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # as the program itself does
    arguments = sys.argv[1:]
    jobs = int(arguments.pop(arguments.index("--jobs") + 1)) if "--jobs" in arguments else JOBS
    names = [name for name in arguments if not name.startswith("--")]
    chosen = _chosen(names, fast="--fast" in arguments)
    if not names or any(_is_browser(tests[0]) for tests in chosen.values()):
        _build_the_demo_once()
    begun = time.monotonic()
    outcomes: list[Outcome] = []
    with multiprocessing.get_context("fork").Pool(min(jobs, len(chosen) or 1)) as pool:
        coming = pool.imap_unordered(_run, list(chosen.items()))
        for _ in chosen:
            try:
                outcome = coming.next(LONGEST)
            except multiprocessing.TimeoutError:
                pool.terminate()
                left = sorted(set(chosen) - {done.name for done in outcomes})
                text = f"no part ended for {LONGEST} s; left: {', '.join(left)}"
                outcomes.append(Outcome("the runner", 1, 1, 0, LONGEST, text))
                break
            outcomes.append(outcome)
            print("F" if outcome.bad else ".", end="", flush=True)
    return _report(outcomes, time.monotonic() - begun)


def _chosen(names: list[str], *, fast: bool) -> dict[str, list[unittest.TestCase]]:
    """The tests asked for by their class, those with a browser first: they take longest."""
    found: dict[str, list[unittest.TestCase]] = {}
    suite = unittest.defaultTestLoader.discover(str(HERE), top_level_dir=str(HERE.parent))
    for test in _flat(suite):
        if fast and _is_browser(test):
            continue
        if names and not any(name in test.id() for name in names):
            continue
        found.setdefault(_unit(test), []).append(test)
    return dict(sorted(found.items(), key=lambda item: not _is_browser(item[1][0])))


def _unit(test: unittest.TestCase) -> str:
    """What runs in one go: a class; of the browser's each test by itself, for they are long."""
    kind = type(test)
    return test.id() if _is_browser(test) else f"{kind.__module__}.{kind.__qualname__}"


def _is_browser(test: unittest.TestCase) -> bool:
    return type(test).__module__.startswith("tests.browser")


def _build_the_demo_once() -> None:
    """Servers of the demo copy it from one place; built before, it is not built twice at once."""
    from orthocris.__main__ import CACHE
    from orthocris.demo.build import fresh_copy
    from orthocris.services.context import local_now

    with tempfile.TemporaryDirectory() as folder:
        fresh_copy(Path(folder) / "demo.sqlite", local_now(), CACHE)


def _run(chosen: tuple[str, list[unittest.TestCase]]) -> Outcome:
    name, tests = chosen
    told = io.StringIO()
    begun = time.monotonic()
    faulthandler.dump_traceback_later(LONGEST - 60)  # where it waits, should it wait for ever
    runner = unittest.TextTestRunner(told, verbosity=0, warnings="error")
    result = runner.run(unittest.TestSuite(tests))
    faulthandler.cancel_dump_traceback_later()
    # A test may have served in this process: a server raises at this signal, which a finalizer may
    # swallow, and the pool would wait for ever for a process that it told to end.
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return Outcome(
        name,
        max(result.testsRun, bad),
        bad,
        len(result.skipped),
        time.monotonic() - begun,
        told.getvalue() if bad else "",
    )


def _report(outcomes: list[Outcome], seconds: float) -> int:
    print(f"\n{len(outcomes)} parts in {seconds:.0f} s; the longest:")
    for outcome in sorted(outcomes, key=lambda o: -o.seconds)[:5]:
        print(f"  {outcome.seconds:5.1f} s {outcome.name}")
    for outcome in outcomes:
        if outcome.told:
            print(f"\n{outcome.name}\n{outcome.told}", file=sys.stderr)
    run, bad, skipped = (sum(getattr(o, f) for o in outcomes) for f in ("run", "bad", "skipped"))
    print(f"unittest: {run - bad - skipped} passed, {bad} failed")
    return 0 if run and not bad else 1


def _flat(suite: unittest.TestSuite) -> list[unittest.TestCase]:
    found: list[unittest.TestCase] = []
    for item in suite:
        found += _flat(item) if isinstance(item, unittest.TestSuite) else [item]
    return found


if __name__ == "__main__":
    sys.exit(main())
