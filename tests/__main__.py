"""Runs the unittest suites: python -m tests [--fast] [PATTERN]. --fast leaves the browser out."""

from __future__ import annotations

import sys
import unittest
from pathlib import Path

HERE = Path(__file__).resolve().parent


def main() -> int:
    """Collect, run, and end with the numbers that run.py reads."""
    arguments = sys.argv[1:]
    fast = "--fast" in arguments
    names = [name for name in arguments if not name.startswith("--")]
    suite = unittest.TestSuite()
    for test in _flat(
        unittest.defaultTestLoader.discover(str(HERE), top_level_dir=str(HERE.parent))
    ):
        module = type(test).__module__
        if fast and module.startswith("tests.browser"):
            continue
        if names and not any(name in test.id() for name in names):
            continue
        suite.addTest(test)
    result = unittest.TextTestRunner(verbosity=1, warnings="error").run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    print(f"unittest: {result.testsRun - bad - len(result.skipped)} passed, {bad} failed")
    return 0 if result.wasSuccessful() and result.testsRun else 1


def _flat(suite: unittest.TestSuite) -> list[unittest.TestCase]:
    found: list[unittest.TestCase] = []
    for item in suite:
        found += _flat(item) if isinstance(item, unittest.TestSuite) else [item]
    return found


if __name__ == "__main__":
    sys.exit(main())
