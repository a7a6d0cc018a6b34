"""Small made-up trials for the judge's tests."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from orthocris.core import Observation
from orthocris.core.verdict.result import RemedyResult, Verdict


def trial(
    after: Mapping[str, Sequence[float]],
    before: Mapping[str, Sequence[float]] | None = None,
    *,
    blocked: bool = True,
    measure: str = "live",
    of: float | None = None,
) -> list[Observation]:
    """Observations of a trial: the k-th number of each remedy is its plant in block k."""
    found = []
    for day, counts in ((0.0, before or {}), (7.0, after)):
        for remedy, values in counts.items():
            for k, value in enumerate(values):
                block = f"b{k}" if blocked else None
                found.append(
                    Observation(f"{remedy}-{k}", block, remedy, day, measure, float(value), of)
                )
    return found


CONTROL = (41, 38, 52, 29, 60, 47)
CLEAR = {"control": CONTROL, "soap": (3, 5, 2, 4, 6, 3), "jet": (30, 22, 41, 19, 40, 35)}
BEFORE = {"control": (40, 35, 55, 30, 58, 44), "soap": (42, 37, 50, 33, 55, 45), "jet": CONTROL}


def named(verdict: Verdict, name: str) -> RemedyResult:
    """The result of one remedy."""
    return next(r for r in verdict.remedies if r.name == name)


def codes(verdict: Verdict) -> set[str]:
    """The codes of a verdict's warnings."""
    return {w.code for w in verdict.warnings}
