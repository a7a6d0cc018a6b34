"""After a look: stop, go on with the next round, or change a plan that is too slow."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.trial.plan import Look, Role
from orthocris.core.trial.setup import Kind
from orthocris.core.trial.standing import Standing

CLEAN_SHARE = 0.05  # of what was there before: as good as gone
GONE_BY_ITSELF = 0.2  # of what the control had before


class Next(StrEnum):
    """What a look calls for."""

    STOP = "stop"
    NEXT_ROUND = "next_round"
    CHANGE_PLAN = "change_plan"
    LOOK_FIRST = "look_first"


@dataclass(frozen=True, slots=True)
class Course:
    """Mean count (per plant) of one remedy's plants before the first spray and at the look."""

    before: float
    after: float


@dataclass(frozen=True, slots=True)
class StopAdvice:
    """What to do after a look, why, and the numbers that led to it.

    `best_left` is the smallest share of pests left on a remedy's plants, `most_left` the largest;
    `best_efficacy` the largest Henderson-Tilton efficacy, None without a control that still has
    pests.
    """

    action: Next
    reason: str
    best_left: float | None
    best_efficacy: float | None
    most_left: float | None = None


SEALED = {
    Next.STOP: "Spray no more, and count the looks that are planned.",
    Next.NEXT_ROUND: "Go on with the next round, alike for all.",
    Next.CHANGE_PLAN: "This is too slow: count the last look, then plan it otherwise.",
    Next.LOOK_FIRST: "Nothing was counted before and after yet.",
}


def while_sealed(advice: StopAdvice) -> StopAdvice:
    """Return what to do without the numbers that led to it: they would tell the control."""
    said = f"{SEALED[advice.action]} The numbers behind it are told when the key is open."
    return StopAdvice(advice.action, said, None, None)


def stop_after(standing: Standing, look: Look, courses: Mapping[int, Course]) -> StopAdvice:
    """Apply the stopping rule to a trial as it stands after a look.

    Parameters
    ----------
    courses:
        The course of each remedy, the control's too, by remedy id.
    """
    plan = standing.plan
    done = sum(r.begun_at is not None for r in standing.rounds)
    left = sum(r.begun_at is None and not r.left_out for r in standing.rounds)
    if plan.setup.kind in (Kind.PREVENTION, Kind.EGGS):
        action = Next.NEXT_ROUND if left else Next.STOP
        return StopAdvice(action, "This question keeps the rounds it planned.", None, None)
    later = any(k.number > look.number for k in plan.looks)
    return after_look(
        [courses[r.id] for r in plan.remedies if r.role is Role.REMEDY and r.id in courses],
        courses.get(plan.control.id) if plan.control else None,
        threshold=plan.threshold,
        rounds_done=done,
        rounds_left=left if later else 0,
    )


CONTROL_FELL = (
    "The control itself has only {left:.0%} of what it had: the pest is going by itself, and "
    "another spray could show nothing."
)
CLEAN = (
    "Every remedy left at most {left:.0%} of what was there: as good as gone. Count the looks that "
    "are planned, spray no more."
)
SOME_CLEAN = (
    "On the plants of {clean} of {of} remedies hardly any are left (at best {left:.0%} of what was "
    "there); the others need their time: go on with the next round, alike for all."
)
TOO_SLOW = (
    "After {rounds} rounds the best removed {removed:.0%} of what the control has, less than half "
    "of the {threshold:.0%} that would be worth it: too slow. Read the verdict, then plan another "
    "remedy, strength or interval."
)
GO_ON = (
    "Pests are left on every remedy's plants (at best {left:.0%} of what was there): go on with "
    "the next round."
)


def after_look(
    remedies: Sequence[Course],
    control: Course | None,
    *,
    threshold: float,
    rounds_done: int,
    rounds_left: int,
) -> StopAdvice:
    """Apply the stopping rule; it names no remedy, so that the counting stays blind.

    Parameters
    ----------
    remedies:
        One course for each remedy that was counted before and at the look.
    control:
        The control's course, None without one.
    threshold:
        The efficacy that makes a remedy worth it.
    rounds_done, rounds_left:
        Spray rounds sprayed, and still planned.

    Notes
    -----
    Each remedy is looked at by itself. Stop: every remedy's plants keep 5% or less of what they
    had, or the control itself fell to 20% (the pest is going anyway), or no round is left; one
    clean remedy never stops the slow ones. Change the plan: two rounds or more
    and the best efficacy is below half the threshold. Otherwise the next round. The verdict
    is still read at the last planned look, so stopping early does not favour anybody.
    """
    seen = [c for c in remedies if c.before > 0]
    if not seen:
        return StopAdvice(Next.LOOK_FIRST, "Nothing was counted before and after yet.", None, None)
    left = min(c.after / c.before for c in seen)
    clean = sum(c.after / c.before <= CLEAN_SHARE for c in seen)
    efficacy = _best_efficacy(seen, control)
    going = _going_by_itself(control)
    if going is not None:
        action, reason = Next.STOP, going
    elif clean == len(seen):
        worst = max(c.after / c.before for c in seen)
        action, reason = Next.STOP, CLEAN.format(left=worst)
    elif rounds_done >= 2 and efficacy is not None and efficacy < threshold / 2:
        removed = max(efficacy, 0)
        reason = TOO_SLOW.format(rounds=rounds_done, removed=removed, threshold=threshold)
        action = Next.CHANGE_PLAN
    elif not rounds_left:
        action, reason = Next.STOP, "No round is left in the plan: count the last look."
    else:
        said = SOME_CLEAN if clean else GO_ON
        action, reason = Next.NEXT_ROUND, said.format(left=left, clean=clean, of=len(seen))
    return StopAdvice(action, reason, left, efficacy, max(c.after / c.before for c in seen))


def _going_by_itself(control: Course | None) -> str | None:
    """The reason to stop because the control's pests go too, if they do."""
    if control is None or control.before <= 0:
        return None
    left = control.after / control.before
    return CONTROL_FELL.format(left=left) if left <= GONE_BY_ITSELF else None


def _best_efficacy(seen: Sequence[Course], control: Course | None) -> float | None:
    """Henderson & Tilton 1955: 1 - (Ta/Ca)(Cb/Tb), the largest."""
    if control is None or control.after <= 0 or control.before <= 0:
        return None
    growth = control.after / control.before
    return max(1 - (c.after / c.before) / growth for c in seen)
