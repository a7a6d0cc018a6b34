"""A verdict on record, and why a later one differs from it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orthocris.core.verdict.result import Outcome, Verdict
from orthocris.core.verdict.words import percent

SAME = 0.01  # of the fraction removed: less is no difference to a gardener


@dataclass(frozen=True, slots=True)
class FrozenVerdict:
    """A verdict as it was first read, with all that it was made of.

    Attributes
    ----------
    made_at:
        When it was first read.
    version:
        Of the program.
    seed:
        Of the draws.
    inputs:
        The trial's counts as a tidy table.
    verdict:
        The verdict as plain data (see `Verdict.to_dict`).
    """

    made_at: datetime
    version: str
    seed: int
    inputs: str
    verdict: Mapping[str, Any]

    @property
    def sentence(self) -> str:
        """What it said."""
        return str(self.verdict["sentence"])


def why_different(
    record: FrozenVerdict, now: Verdict, *, inputs: str, version: str
) -> tuple[str, ...]:
    """Say why a verdict differs from the one on record; nothing when it says the same.

    The same is the same outcome and recommendation, and every fraction removed within one point.
    """
    if _says_the_same(record.verdict, now.to_dict()):
        return ()
    return tuple(_causes(record, now, inputs, version))


def _says_the_same(then: Mapping[str, Any], now: Mapping[str, Any]) -> bool:
    if any(then.get(key) != now[key] for key in ("outcome", "recommended")):
        return False
    before = {r["name"]: r.get("efficacy") for r in then["remedies"]}
    after = {r["name"]: r["efficacy"] for r in now["remedies"]}
    return before.keys() == after.keys() and all(
        (a is None) == (b is None) and abs((a or 0.0) - (b or 0.0)) <= SAME
        for a, b in ((before[name], after[name]) for name in after)
    )


def _causes(record: FrozenVerdict, now: Verdict, inputs: str, version: str) -> Iterator[str]:
    old, new = (Counter(text.splitlines()) for text in (record.inputs, inputs))
    gone, added = sum((old - new).values()), sum((new - old).values())
    if gone or added:
        yield (
            f"Counts were changed since: {gone} {_lines(gone)} of then are no more, {added} "
            f"{_lines(added)} came."
        )
    if record.verdict.get("threshold") != now.threshold:
        yield (
            f"What is worth it was {record.verdict.get('threshold'):.0%} then and is "
            f"{now.threshold:.0%} now."
        )
    if record.version != version:
        yield f"It was reckoned by version {record.version} of this program, now by {version}."
    if record.seed != now.method["seed"]:
        yield "The seed of the draws is another."


def _lines(count: int) -> str:
    return "line" if count == 1 else "lines"


def headline(verdict: Mapping[str, Any]) -> str:
    """Say in a few words what a verdict on record came to, for a mark in a picture."""
    best = verdict.get("recommended")
    found = next((r for r in verdict["remedies"] if r["name"] == best), None)
    if found is not None and found.get("efficacy") is not None:
        return f"{best}, {percent(found['efficacy'])}"
    return {
        Outcome.NONE_BEATS_CONTROL: "none was shown to work",
        Outcome.TIE: "several work alike",
    }.get(verdict["outcome"], "not settled")
