"""The patch test: two or three leaves first, looked at beside an unsprayed one."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.trial.patches import Harm, PatchReading, PatchTest, PatchWait
from orthocris.core.words import weekday_and_day

WAIT_HOURS = {
    PatchWait.DAY: (24,),
    PatchWait.TWO_DAYS: (24, 48),
    PatchWait.WEEK: (24, 48, 168),
}
WAIT_REASONS = {
    PatchWait.DAY: "A day shows what soap and alcohol burn.",
    PatchWait.TWO_DAYS: "Two days: salts and oils show late.",
    PatchWait.WEEK: "A week: on thick, slow leaves an oil shows only then.",
}
WEEK_HOURS = 168
EARLY_TOLERANCE_HOURS = 4  # a look may be this early and still count as the planned one
WEAKER = Fraction(1, 2)


class PatchOutcome(StrEnum):
    """How a patch test stands."""

    RUNNING = "running"
    PASSED = "passed"
    WEAKER = "weaker"  # repeat with a weaker mix
    FAILED = "failed"


@dataclass(frozen=True, slots=True)
class PatchResult:
    """The outcome of a patch test and why; `next_look` is the planned time of the next look."""

    outcome: PatchOutcome
    worst: int
    reason: str
    next_look: datetime | None


def look_hours(wait: PatchWait, *, oil: bool, slow_leaves: bool) -> tuple[int, ...]:
    """Return the planned looks: oils on slow, thick leaves are always looked at for a week."""
    hours = WAIT_HOURS[wait]
    if oil and slow_leaves and WEEK_HOURS not in hours:
        return (*hours, WEEK_HOURS)
    return hours


def beyond(test: PatchTest, look: PatchReading) -> int:
    """Return the damage beyond the unsprayed leaf's and beyond its own before, at least 0."""
    own = look.treated - test.treated_before
    other = max(look.beside - test.beside_before, 0)
    return max(own - other, 0)


def judge_patch(test: PatchTest) -> PatchResult:
    """Compute the outcome from the scores.

    Failed: 2 steps or more beyond the unsprayed leaf at any look, or any drop or wilting
    beyond it. Weaker: one step (trace), or a sticky leaf. Passed: nothing beyond it at every
    planned look. Until the last planned look it runs, unless it failed.
    """
    worst = max((beyond(test, look) for look in test.readings), default=0)
    seen = {look.hours for look in test.readings}
    open_ = [h for h in test.hours if h not in seen]
    grave = [
        look
        for look in test.readings
        if beyond(test, look) >= 1 and look.harm in (Harm.DROP, Harm.WILTING)
    ]
    if worst >= 2 or grave:
        why = f"{worst} {'step' if worst == 1 else 'steps'} beyond the unsprayed leaf"
        if grave and worst < 2:
            why = f"{grave[0].harm.value} that the unsprayed leaf does not have"
        return PatchResult(PatchOutcome.FAILED, worst, f"{why}: leave this kind out", None)
    if open_:
        due = test.applied_at + timedelta(hours=open_[0])
        return PatchResult(PatchOutcome.RUNNING, worst, f"next look after {open_[0]} hours", due)
    sticky = any(look.harm is Harm.STICKY for look in test.readings)
    if worst == 1 or sticky:
        said = "a trace beyond the unsprayed leaf" if worst else "sticky leaves: too much"
        said += ". Repeat at half the strength"
        return PatchResult(PatchOutcome.WEAKER, worst, said, None)
    return PatchResult(PatchOutcome.PASSED, worst, "nothing beyond the unsprayed leaf", None)


def check_look(test: PatchTest, look: PatchReading) -> None:
    """Check a look against its test, or raise InputError naming the field."""
    for field in ("treated", "beside"):
        value = getattr(look, field)
        if not 0 <= value <= 5:
            raise InputError(
                f"a score of {value}",
                code="bad_score",
                field=field,
                fix="Score 0 (none) to 5 (over 60% of the leaf).",
            )
    if look.hours not in test.hours and look.hours < max(test.hours):
        raise InputError(
            f"no look was planned after {look.hours} hours",
            code="no_such_look",
            field="hours",
            fix=f"Planned are {', '.join(str(h) for h in test.hours)} h; damage that shows later "
            "is entered with its hour.",
        )
    early = test.applied_at + timedelta(hours=look.hours - EARLY_TOLERANCE_HOURS)
    if look.seen_at < early:
        raise InputError(
            f"the look after {look.hours} hours is not due before {weekday_and_day(early)}, "
            f"{early:%H:%M}",
            code="too_early",
            field="hours",
            fix="Burn shows late: look again then.",
        )
    if look.harm is not Harm.NONE and look.treated == 0 and look.harm is not Harm.STICKY:
        raise InputError(
            f"{look.harm.value} with a score of 0",
            code="harm_without_score",
            field="treated",
            fix="Score how much of the leaf is damaged, or choose no damage.",
        )


@dataclass(frozen=True, slots=True)
class Held:
    """A remedy that has not passed on a kind of leaf, and how its newest test stands."""

    remedy_id: int
    leaf_kind: str
    outcome: PatchOutcome | None
    reason: str


def held_back(
    remedy_ids: Iterable[int], leaf_kinds: Sequence[str], tests: Sequence[PatchTest]
) -> tuple[Held, ...]:
    """Return what still holds back the first spray: each remedy must pass on each kind of leaf.

    The newest test of a remedy and kind counts, and only one at full strength.
    """
    found = []
    for remedy_id in remedy_ids:
        for kind in leaf_kinds:
            own = [t for t in tests if t.remedy_id == remedy_id and t.leaf_kind == kind]
            if not own:
                found.append(Held(remedy_id, kind, None, "not patch-tested yet"))
                continue
            newest = max(own, key=lambda t: (t.applied_at, t.id))
            result = judge_patch(newest)
            if result.outcome is PatchOutcome.PASSED and newest.strength < 1:
                reason = f"passed only at {newest.strength:.0%} of the strength in the recipe"
                found.append(Held(remedy_id, kind, PatchOutcome.WEAKER, reason))
            elif result.outcome is not PatchOutcome.PASSED:
                found.append(Held(remedy_id, kind, result.outcome, result.reason))
    return tuple(found)
