"""Changes that would hurt a gardener, made one by one: does a test notice?

Each mutant is one line of the program put wrong in a copy of the repository; the tests that should
notice are run there. A mutant that survives is a test that is missing.

Run: .venv/bin/python -m bench.mutants [words of their names]
"""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
SLOW = 400  # seconds after which a mutant counts as noticed: it hangs


@dataclass(frozen=True, slots=True)
class Mutant:
    """A change: in `file` the text `good`, which stands there once, becomes `bad`."""

    name: str
    file: str
    good: str
    bad: str
    tests: str


VERDICT = "test_judge test_decision test_numbers test_additions test_honest_words test_going_on"
PLANNING, SERVICES = "test_allocation test_designs", "tests.services.field tests.services.counting"
CORE, BOX, COUNT = "orthocris/core/", "web/src/composables/useOutbox.ts", "web/src/composables/"
MUTANTS = (
    Mutant("a veto from 1.5 grades of harm", CORE + "verdict/harm.py",
           "VETO_STEPS = 1.0", "VETO_STEPS = 1.5", VERDICT),
    Mutant("one dead plant of four is no veto", CORE + "verdict/harm.py",
           "VETO_DEATHS, VETO_DEATH_SHARE = 2, 0.25", "VETO_DEATHS, VETO_DEATH_SHARE = 4, 0.25",
           VERDICT),
    Mutant("hours after the spray settle", CORE + "verdict/case.py",
           "LEAST_DAYS = 1.0", "LEAST_DAYS = 0.0", "test_trial_life"),
    Mutant("the early looks spend all", CORE + "verdict/rerandomise.py",
           "EARLY_ERROR * (1 - 0.5 ** (k + 1))", "FIRST_ERROR", VERDICT),
    Mutant("what harmed goes on", CORE + "verdict/going_on.py",
           "if one.vetoed:", "if one.vetoed and all_go_on:", "test_parts test_going_on"),
    Mutant("a part is judged as if planned at once", "orthocris/services/verdict/table.py",
           "added=k,", "added=0,", "test_parts"),
    Mutant("letters in the order of the remedies", CORE + "planning/allocation.py",
           "notches = rng.permutation(remedies).tolist()", "notches = list(range(remedies))",
           PLANNING),
    Mutant("plants left over to the first remedies", CORE + "planning/allocation.py",
           "extra = rng.permutation(remedies).tolist()[:doubled]",
           "extra = list(range(remedies))[:doubled]", PLANNING),
    Mutant("hatched eggs that shrink", CORE + "counting/eggs.py",
           "or any(b.hatched < a.hatched for a, b in pairwise(looks))", "", "test_eggs"),
    Mutant("eggs gone that come back", CORE + "counting/eggs.py",
           "or any(b.vanished < a.vanished for a, b in pairwise(looks))", "", "test_eggs"),
    Mutant("a batch's life by the wall clock", CORE + "field/batches.py",
           "return (mixed_at.astimezone(UTC) + timedelta(hours=hours)).astimezone(mixed_at.tzinfo)",
           "return mixed_at + timedelta(hours=hours)", "tests.core.field tests.services.field"),
    Mutant("sealed for ever", CORE + "trial/standing.py",
           "self.plan.key_opened_at is None and not self.verdict_ready",
           "self.plan.key_opened_at is None", SERVICES),
    Mutant("steps sealed for ever", "orthocris/api/trial/views.py",
           "parts=_later_parts(trial, round_, sealed=sealed)",
           "parts=_later_parts(trial, round_, sealed=True)", "test_programmes tests.api"),
    Mutant("one plant counted is a look counted", CORE + "trial/standing.py",
           "return look.in_time >= self.allotted", "return look.in_time >= 1", "test_sealed"),
    Mutant("copper is eaten after three days", CORE + "pantry/food.py",
           "    Trait.COPPER,\n", "", "tests.core.pantry test_eaten"),
    Mutant("twenty times the harshest is a remedy", CORE + "pantry/doses.py",
           "NOTHING_LEFT = 10", "NOTHING_LEFT = 100", "tests.core.pantry test_eaten"),
    Mutant("eaten on the day of the last spray", CORE + "field/edibles.py",
           "last + timedelta(days=days)", "last", "test_edibles test_eaten"),
    Mutant("an overdue round is forgotten by the harvest", CORE + "field/edibles.py",
           "max(standing.plan.date_of(found.round.day), today)",
           "standing.plan.date_of(found.round.day)", "test_edibles test_eaten"),
    Mutant("taps are sent before the device has them", BOX,
           "await write(); // on the device first", "", "web"),
    Mutant("the newest tap of a leaf is forgotten with an older one", BOX,
           "if (tap && newest.get(spotOf(tap))?.key === key) newest", "if (tap) newest", "web"),
    Mutant("what a broken program answered is dropped", BOX,
           " || fault.status >= 500) return false", ") return false", "web"),
    Mutant("a correction counts on under the old session", COUNT + "useCounting.ts",
           "tallies.endSession(left.id, leaf);", "{}", "web"),
    Mutant("only two taps can be undone", COUNT + "useCounting.ts",
           "MARKS = 200", "MARKS = 2", "web"),
    Mutant("every tap for ever can be undone", COUNT + "useCounting.ts",
           "MARKS = 200", "MARKS = 100_000", "web"),
)  # fmt: skip


def main() -> int:
    """Put each mutant into a copy, run its tests, and print which survive."""
    chosen = [m for m in MUTANTS if all(word in m.name for word in sys.argv[1:])]
    survived = []
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "copy"
        shutil.copytree(
            ROOT, copy, ignore=shutil.ignore_patterns(".git", ".venv", "node_modules", ".*cache")
        )
        (copy / "web" / "node_modules").symlink_to(ROOT / "web" / "node_modules")
        for mutant in chosen:
            noticed = _noticed(copy, mutant)
            survived += [] if noticed else [mutant.name]
            print(f"{'noticed ' if noticed else 'SURVIVED'}  {mutant.name}", flush=True)
    print(f"{len(chosen) - len(survived)} of {len(chosen)} mutants noticed")
    return 1 if survived else 0


def _noticed(copy: Path, mutant: Mutant) -> bool:
    path = copy / mutant.file
    sound = path.read_text()
    if sound.count(mutant.good) != 1:
        raise SystemExit(f"{mutant.file}: {mutant.good!r} stands there {sound.count(mutant.good)}×")
    path.write_text(sound.replace(mutant.good, mutant.bad))
    try:
        if mutant.tests == "web":
            command, where = ["npx", "vitest", "run", "--bail", "1"], copy / "web"
        else:
            command = [sys.executable, "-m", "tests", "--fast", *mutant.tests.split()]
            where = copy
        ended = subprocess.run(command, cwd=where, capture_output=True, timeout=SLOW, check=False)
        return ended.returncode != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        path.write_text(sound)


if __name__ == "__main__":
    sys.exit(main())
