"""What is due in a trial, and when."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from enum import StrEnum

from orthocris.core.field.batches import newest_usable
from orthocris.core.field.patchtest import Held, PatchOutcome, held_back, judge_patch, look_hours
from orthocris.core.trial.trial import Look, Remedy, Role, Round, Trial

DAYS_OFF = 1  # a count this many days off its look's day is still of that day
PATCHED_WAYS = ("spray", "dab", "bath", "dust")  # ways that bring a remedy onto leaves


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
    trial: Trial,
    now: datetime,
    bottles: Collection[int] = (),
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
        Ids of the remedies that come out of a bottle, to be mixed for each round.
    oils:
        Ids of the remedies that are oils: on slow leaves they are looked at for a week.
    """
    today = now.date()
    patch = list(_patch_jobs(trial, now, oils))
    planning = _planning_job(trial, today)
    if planning is not None:
        return (planning, *patch)
    found: list[Job] = patch
    plants = {p.id for p in trial.trial_plants}
    for look in trial.looks:
        left = plants - counted_in_time(trial, look)
        before_day = trial.date_of(0)
        due = before_day if look.number == 0 else trial.date_of(look.day)
        missed = look.number == 0 and trial.sprayed_on is not None
        if left and not missed and not is_superseded(trial, look, today):
            found.append(_count_job(look, due, len(left), len(plants)))
    for round_ in trial.rounds:
        left = plants - trial.sprayed_in(round_) - trial.skipped_in(round_)
        if left and not is_over(trial, round_, today):
            due = trial.date_of(round_.day)
            found.append(_spray_job(round_, due, len(left), len(plants)))
            found += _mix_jobs(trial, round_, now, bottles)
    if verdict_ready(trial):
        last = trial.date_of(trial.looks[-1].day)
        if today - last <= timedelta(days=7):
            found.append(Job(JobKind.READ, "Read the verdict", "verdict", last))
    limit = today + timedelta(days=ahead_days)
    due_soon = [job for job in found if job.due_on <= limit]
    return tuple(sorted(due_soon, key=lambda job: (job.due_on, _ORDER.index(job.kind))))


_ORDER = tuple(JobKind)


def patched_remedies(trial: Trial) -> tuple[Remedy, ...]:
    """Return the remedies that must be patch-tested: those that come onto leaves."""
    return tuple(
        r for r in trial.remedies if r.role is Role.REMEDY and r.traits.way in PATCHED_WAYS
    )


def patches_held(trial: Trial) -> tuple[Held, ...]:
    """Return the patch tests that hold back the first spray."""
    remedy_ids = [r.id for r in patched_remedies(trial)]
    return held_back(remedy_ids, trial.care.leaf_kinds, trial.patches)


def _patch_jobs(trial: Trial, now: datetime, oils: Collection[int]) -> Iterator[Job]:
    """Put on what was never tested, look at what runs; nothing once the trial was sprayed."""
    if trial.sprayed_on is not None:
        return
    held = patches_held(trial)
    of = len(patched_remedies(trial)) * len(trial.care.leaf_kinds)
    fresh = [h for h in held if h.outcome is None or h.outcome is PatchOutcome.WEAKER]
    if fresh:
        longest = max(hours_until_passed(trial, h.remedy_id, oils) for h in fresh)
        due = max(trial.start_on - timedelta(days=-(-longest // 24)), now.date())
        yield Job(JobKind.PATCH, "Put on the patch tests", "patch", due, left=len(fresh), of=of)
    keys = {(h.remedy_id, h.leaf_kind) for h in held if h.outcome is PatchOutcome.RUNNING}
    running = [t for t in trial.patches if (t.remedy_id, t.leaf_kind) in keys]
    looks = [at for t in running if (at := judge_patch(t).next_look) is not None]
    if looks:
        first = min(looks)
        due_now = sum(at.date() <= first.date() for at in looks)
        yield Job(
            JobKind.PATCH,
            "Look at the patch tests",
            "patch",
            first.astimezone(now.tzinfo).date(),
            left=due_now,
            of=len(looks),
            at=first,
        )


def hours_until_passed(trial: Trial, remedy_id: int, oils: Collection[int]) -> int:
    """Return how many hours before the first spray a remedy must be put on a few leaves."""
    hours = look_hours(
        trial.care.patch_school, oil=remedy_id in oils, slow_leaves=trial.care.slow_leaves
    )
    return max(hours)


def _mix_jobs(
    trial: Trial, round_: Round, now: datetime, bottles: Collection[int]
) -> Iterator[Job]:
    """Mix before a round whose bottles are missing or will be past their life."""
    due = trial.date_of(round_.day)
    when = now if due <= now.date() else datetime.combine(due, time(6), now.tzinfo)
    used = {p.remedy_id for p in trial.trial_plants} & set(bottles)
    missing = [r for r in used if r and newest_usable(trial.batches, r, when) is None]
    if missing:
        left = len(missing)
        yield Job(JobKind.MIX, "Mix the bottles", "mix", due, round_.number, left, len(used))


def counted_early(trial: Trial, look: Look) -> dict[int, date]:
    """Return plants counted more than a day before a look's day, and when, by plant id."""
    due = trial.date_of(look.day)
    return {
        plant: tally.counted_on
        for plant, tally in trial.tallies_at(look, trial.measure).items()
        if look.number and (due - tally.counted_on).days > DAYS_OFF
    }


def counted_in_time(trial: Trial, look: Look) -> set[int]:
    """Return the ids of plants counted at a look, and not before its day."""
    return trial.counted_at(look) - set(counted_early(trial, look))


def verdict_ready(trial: Trial) -> bool:
    """True once every plant still standing is counted at the last planned look, on its day."""
    plants = {p.id for p in trial.trial_plants}
    return bool(plants) and bool(trial.looks) and plants <= counted_in_time(trial, trial.looks[-1])


def _planning_job(trial: Trial, today: date) -> Job | None:
    if not trial.plants:
        return Job(JobKind.PLAN, "List the plants", "plants", today)
    if not trial.laid_out:
        return Job(JobKind.PLAN, "Draw the layout", "layout", today)
    return None


def _count_job(look: Look, due: date, left: int, of: int) -> Job:
    title = "Count before the first spray" if look.number == 0 else f"Count, look {look.number}"
    return Job(JobKind.COUNT, title, "look", due, look.number, left, of)


def _spray_job(round_: Round, due: date, left: int, of: int) -> Job:
    return Job(
        JobKind.SPRAY, f"Spray, round {round_.number}", "round", due, round_.number, left, of
    )


def is_superseded(trial: Trial, look: Look, today: date) -> bool:
    """A look nobody finished is no longer due once the next one is."""
    if look.number == 0 or trial.sprayed_on is None:
        return look.number != 0  # nothing after the spray is due before the spray
    later = [other for other in trial.looks if other.day > look.day]
    return bool(later) and trial.date_of(later[0].day) <= today


def is_over(trial: Trial, round_: Round, today: date) -> bool:
    """True once a round is no longer waited for: left out, passed by the next, or the last look."""
    if trial.left_out(round_):
        return True
    if trial.sprayed_on is None:
        return round_.number != 1
    if trial.looks and counted_in_time(trial, trial.looks[-1]):
        return True  # a spray after the last look belongs to no comparison
    later = [other for other in trial.rounds if other.day > round_.day]
    return bool(later) and trial.date_of(later[0].day) <= today
