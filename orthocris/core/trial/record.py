"""Records of what was changed while a trial is planned or runs, so that nothing changes unseen."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orthocris.core.trial.trial_plan import KeptPlan
from orthocris.core.words import day_words

LIMITS = {"low": "lower limit, °C", "high": "upper limit, °C", "wind": "wind limit, km/h"}
LIMITS_AND_REST = {**LIMITS, "days_between": "days between two sprays"}


@dataclass(frozen=True, slots=True)
class Change:
    """A setting that was changed: `what` it belongs to, and its plain values before and after."""

    made_at: datetime
    what: str
    before: Mapping[str, Any]
    after: Mapping[str, Any]

    def parts(self) -> Iterator[tuple[str, Any, Any]]:
        """Yield name, value before and value after of every part that differs."""
        for name in dict.fromkeys((*self.before, *self.after)):
            old, new = self.before.get(name), self.after.get(name)
            if old != new:
                yield name, old, new


@dataclass(frozen=True, slots=True)
class MendRecord:
    """A mend of the critic that was carried out, with the plan before and after it."""

    id: int
    code: str
    label: str
    made_at: datetime
    before: KeptPlan
    after: KeptPlan


def limit_notes(changes: tuple[Change, ...], first_spray: datetime | None) -> Iterator[str]:
    """Say which limits of spraying were changed after the first spray, for the verdict."""
    for change in changes:
        if change.what != "care" or first_spray is None or change.made_at < first_spray:
            continue
        for name, old, new in change.parts():
            if name in LIMITS_AND_REST:
                yield (
                    f"On {day_words(change.made_at)} the {LIMITS_AND_REST[name]} was changed "
                    f"from {_said(old)} to {_said(new)}."
                )


def name_notes(changes: tuple[Change, ...]) -> Iterator[str]:
    """Say which remedies were called otherwise after the first spray, for the verdict."""
    for change in changes:
        if change.what == "question":
            for _, old, new in change.parts():
                day = f"{day_words(change.made_at)}"
                yield f"On {day} {old} was renamed to {new}; it is the same one."


def limits_said(limits: Mapping[str, float]) -> str:
    """Say the gardener's own limits that were in force at a start; empty where there were none."""
    return ", ".join(f"{LIMITS[name]} {value:g}" for name, value in limits.items())


def _said(value: Any) -> str:
    return "each remedy's own" if value is None else f"{value:g}"
