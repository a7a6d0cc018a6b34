"""What is due in a trial, and when."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from enum import StrEnum

from orthocris.core.field.patchtest import Held, PatchOutcome, held_back, judge_patch, look_hours
from orthocris.core.trial.patches import PatchTest
from orthocris.core.trial.plan import Look, Remedy, Role, Round, TrialPlan
from orthocris.core.trial.standing import BottleKey, LookStanding, RoundStanding, Standing
from orthocris.core.trial.ways import ONTO_LEAVES


class JobKind(StrEnum):
    """What is to be done."""

    PLAN = "plan"
    PATCH = "patch"
    MIX = "mix"
    COUNT = "count"
    SPRAY = "spray"
    READ = "read"


@dataclass(frozen=True, slots=True)
class Job:
    """Something to do on a day.

    `number` is the look's or round's; `left` of `of` plants (tests, bottles) remain; `at` is
    the best hour for it and `note` why, where they are known.
    """

    kind: JobKind
    title: str
    station: str
    due_on: date
    number: int | None = None
    left: int = 0
    of: int = 0
    at: datetime | None = None
    note: str = ""


def jobs(
    standing: Standing,
    now: datetime,
    bottles: Collection[BottleKey] = (),
    ahead_days: int = 7,
    oils: Collection[int] = (),
) -> tuple[Job, ...]:
    """List what is due in a trial up to some days ahead, earliest first.

    Planning steps are due now. The count before comes before the first spray, and on one
    day looks come before rounds. After the last look the verdict is to be read, for a week.

    Parameters
    ----------
    now:
        The time, with its offset.
    bottles:
        The remedies and parts that come out of a bottle, to be mixed for each round.
    oils:
        Ids of the remedies that are oils: on slow leaves they are looked at for a week.
    """
    today = now.date()
    patch = list(_patch_jobs(standing, now, oils))
    planning = _planning_job(standing, today)
    if planning is not None:
        return (planning, *patch)
    found = [
        *patch,
        *_look_jobs(standing, today),
        *_round_jobs(standing, now, bottles),
        *_read_job(standing, today),
    ]
    limit = today + timedelta(days=ahead_days)
    due_soon = [job for job in found if job.due_on <= limit]
    return tuple(sorted(due_soon, key=lambda job: (job.due_on, _ORDER.index(job.kind))))


_ORDER = tuple(JobKind)


def patched_remedies(plan: TrialPlan) -> tuple[Remedy, ...]:
    """Return the remedies that must be patch-tested: those of which a part comes onto leaves."""
    return tuple(
        r
        for r in plan.remedies
        if r.role is Role.REMEDY and any(part.traits.way in ONTO_LEAVES for part in r.parts)
    )


def patches_held(plan: TrialPlan, patches: Sequence[PatchTest]) -> tuple[Held, ...]:
    """Return the patch tests that hold back the first spray."""
    remedy_ids = [r.id for r in patched_remedies(plan)]
    return held_back(remedy_ids, plan.care.leaf_kinds, patches)


def hours_until_passed(plan: TrialPlan, remedy_id: int, oils: Collection[int]) -> int:
    """Return how many hours before the first spray a remedy must be put on a few leaves."""
    hours = look_hours(
        plan.care.patch_wait, oil=remedy_id in oils, slow_leaves=plan.care.slow_leaves
    )
    return max(hours)


def is_superseded(plan: TrialPlan, look: Look, today: date) -> bool:
    """A look nobody finished is no longer due once the next one is."""
    if look.number == 0 or plan.sprayed_on is None:
        return look.number != 0  # nothing after the spray is due before the spray
    later = [other for other in plan.looks if other.day > look.day]
    return bool(later) and plan.date_of(later[0].day) <= today


def is_over(standing: Standing, round_: RoundStanding, today: date) -> bool:
    """True once a round is no longer waited for: left out, passed by the next, or the last look."""
    plan = standing.plan
    if round_.left_out:
        return True
    if plan.sprayed_on is None:
        return round_.round.number != 1
    if standing.looks and standing.looks[-1].in_time:
        return True  # a spray after the last look belongs to no comparison
    later = [other for other in plan.rounds if other.day > round_.round.day]
    return bool(later) and plan.date_of(later[0].day) <= today


def last_complete(standing: Standing) -> Look | None:
    """Return the newest look after the spray at which every plant was counted, on its day."""
    if not standing.allotted:
        return None
    done = [s.look for s in standing.looks if s.look.number and standing.complete(s)]
    return done[-1] if done else None


def _look_jobs(standing: Standing, today: date) -> Iterator[Job]:
    plan = standing.plan
    for found in standing.looks:
        look = found.look
        missed = look.number == 0 and plan.sprayed_on is not None
        if standing.complete(found) or missed or is_superseded(plan, look, today):
            continue
        yield _count_job(standing, found)


def _count_job(standing: Standing, found: LookStanding) -> Job:
    look = found.look
    hours = f", {look.when} after" if look.hours else ""
    title = (
        "Count before the first spray" if look.number == 0 else f"Count, look {look.number}{hours}"
    )
    due = standing.plan.date_of(look.day)
    left = standing.allotted - found.in_time
    return Job(JobKind.COUNT, title, "look", due, look.number, left, standing.allotted)


def _round_jobs(standing: Standing, now: datetime, bottles: Collection[BottleKey]) -> Iterator[Job]:
    for found in standing.rounds:
        of = standing.due_in(found.round)
        left = of - found.done
        if left <= 0 or is_over(standing, found, now.date()):
            continue
        number = found.round.number
        due = standing.plan.date_of(found.round.day)
        title = f"{_verb(standing.plan, found.round)}, round {number}"
        yield Job(JobKind.SPRAY, title, "round", due, number, left, of)
        yield from _mix_job(standing, found, now, bottles)


def _verb(plan: TrialPlan, round_: Round) -> str:
    """What is done in a round: a spray, unless something else is done as well."""
    ways = {r.traits.way for r in plan.given_in(round_) if r.role is Role.REMEDY}
    return "Spray" if ways <= {"spray", "mist", "none"} else "Treat"


def _mix_job(
    standing: Standing, found: RoundStanding, now: datetime, bottles: Collection[BottleKey]
) -> Iterator[Job]:
    """Mix before a round whose bottles are missing or will be past their life."""
    due = standing.plan.date_of(found.round.day)
    when = now if due <= now.date() else datetime.combine(due, time(6), now.tzinfo)
    given = {(r, found.round.step_of(r)) for r in standing.in_use if found.round.gives(r)}
    used = given & set(bottles)
    missing = [
        r for r in used if r not in standing.bottles or not standing.bottles[r].usable_at(when)
    ]
    if missing:
        number, left = found.round.number, len(missing)
        yield Job(JobKind.MIX, "Mix the bottles", "mix", due, number, left, len(used))


def _read_job(standing: Standing, today: date) -> Iterator[Job]:
    if standing.verdict_ready and not standing.read:
        last = standing.plan.date_of(standing.looks[-1].look.day)
        if today - last <= timedelta(days=7):
            yield Job(JobKind.READ, "Read the verdict", "verdict", last)


def _patch_jobs(standing: Standing, now: datetime, oils: Collection[int]) -> Iterator[Job]:
    """Put on what was never tested, look at what runs; nothing once the trial was sprayed."""
    plan = standing.plan
    if plan.sprayed_on is not None:
        return
    held = patches_held(plan, standing.patches)
    of = len(patched_remedies(plan)) * len(plan.care.leaf_kinds)
    fresh = [h for h in held if h.outcome is None or h.outcome is PatchOutcome.WEAKER]
    if fresh:
        longest = max(hours_until_passed(plan, h.remedy_id, oils) for h in fresh)
        due = max(plan.start_on - timedelta(days=-(-longest // 24)), now.date())
        yield Job(JobKind.PATCH, "Put on the patch tests", "patch", due, left=len(fresh), of=of)
    keys = {(h.remedy_id, h.leaf_kind) for h in held if h.outcome is PatchOutcome.RUNNING}
    running = [t for t in standing.patches if (t.remedy_id, t.leaf_kind) in keys]
    looks = [at for t in running if (at := judge_patch(t).next_look) is not None]
    if looks:
        yield _patch_look_job(looks, now)


def _patch_look_job(looks: Sequence[datetime], now: datetime) -> Job:
    first = min(looks)
    due_now = sum(at.date() <= first.date() for at in looks)
    due = first.astimezone(now.tzinfo).date()
    return Job(
        JobKind.PATCH,
        "Look at the patch tests",
        "patch",
        due,
        left=due_now,
        of=len(looks),
        at=first,
    )


def _planning_job(standing: Standing, today: date) -> Job | None:
    if not standing.listed:
        return Job(JobKind.PLAN, "List the plants", "plants", today)
    if not standing.laid_out:
        return Job(JobKind.PLAN, "Draw the layout", "layout", today)
    return None
