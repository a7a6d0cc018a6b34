"""Where a trial stands: its thread of stations, and the jobs that are due."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from orthocris.core.trial import Look, Round, Trial


class State(StrEnum):
    """The state of a station on the thread."""

    DONE = "done"
    NEXT = "next"
    FRAYED = "frayed"  # done, but not as planned
    LATER = "later"


@dataclass(frozen=True, slots=True)
class Station:
    """One station of the thread, with a line that says how it stands."""

    key: str
    title: str
    state: State
    line: str


class JobKind(StrEnum):
    """What is to be done."""

    PLAN = "plan"
    COUNT = "count"
    SPRAY = "spray"
    READ = "read"


@dataclass(frozen=True, slots=True)
class Job:
    """Something to do on a day. `number` is the look's or round's; `left` plants remain."""

    kind: JobKind
    title: str
    station: str
    due_on: date
    number: int | None = None
    left: int = 0
    of: int = 0


def jobs(trial: Trial, today: date, ahead_days: int = 7) -> tuple[Job, ...]:
    """List what is due in a trial up to some days ahead, earliest first.

    Planning steps are due now. The count before comes before the first spray, and on one
    day looks come before rounds. After the last look the verdict is to be read, for a week.
    """
    planning = _planning_job(trial, today)
    if planning is not None:
        return (planning,)
    found: list[Job] = []
    plants = {p.id for p in trial.trial_plants}
    for look in trial.looks:
        left = plants - trial.counted_at(look)
        before_day = trial.date_of(0)
        due = before_day if look.number == 0 else trial.date_of(look.day)
        missed = look.number == 0 and trial.sprayed_on is not None
        if left and not missed and not _superseded(trial, look, today):
            found.append(_count_job(look, due, len(left), len(plants)))
    for round_ in trial.rounds:
        left = plants - trial.sprayed_in(round_)
        if left and not _round_over(trial, round_, today):
            found.append(_spray_job(round_, trial.date_of(round_.day), len(left), len(plants)))
    if verdict_ready(trial):
        last = trial.date_of(trial.looks[-1].day)
        if today - last <= timedelta(days=7):
            found.append(Job(JobKind.READ, "Read the verdict", "verdict", last))
    limit = today + timedelta(days=ahead_days)
    due_soon = [job for job in found if job.due_on <= limit]
    order = {JobKind.PLAN: 0, JobKind.COUNT: 1, JobKind.SPRAY: 2, JobKind.READ: 3}
    return tuple(sorted(due_soon, key=lambda job: (job.due_on, order[job.kind])))


def verdict_ready(trial: Trial) -> bool:
    """True once every plant still standing is counted at the last planned look."""
    plants = {p.id for p in trial.trial_plants}
    return bool(plants) and bool(trial.looks) and plants <= trial.counted_at(trial.looks[-1])


def stations(trial: Trial, today: date) -> tuple[Station, ...]:
    """Describe the five stations; exactly one is next unless all is done."""
    found = [
        ("question", "Question", *_question_state(trial)),
        ("plants", "Plants", *_plants_state(trial)),
        ("layout", "Layout", *_layout_state(trial)),
        ("rounds", "Rounds and looks", *_rounds_state(trial, today)),
        ("verdict", "Verdict", *_verdict_state(trial)),
    ]
    result = []
    next_seen = False
    for key, title, done, line in found:
        if done is None and not next_seen:
            state, next_seen = State.NEXT, True
        else:
            state = State.LATER if done is None else done
        result.append(Station(key, title, state, line))
    return tuple(result)


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


def _superseded(trial: Trial, look: Look, today: date) -> bool:
    """A look nobody finished is no longer due once the next one is."""
    if look.number == 0 or trial.sprayed_on is None:
        return look.number != 0  # nothing after the spray is due before the spray
    later = [other for other in trial.looks if other.day > look.day]
    return bool(later) and trial.date_of(later[0].day) <= today


def _round_over(trial: Trial, round_: Round, today: date) -> bool:
    if trial.sprayed_on is None:
        return round_.number != 1
    if trial.looks and trial.counted_at(trial.looks[-1]):
        return True  # a spray after the last look belongs to no comparison
    later = [other for other in trial.rounds if other.day > round_.day]
    return bool(later) and trial.date_of(later[0].day) <= today


def _question_state(trial: Trial) -> tuple[State | None, str]:
    others = len(trial.remedies) - 1
    return State.DONE, f"{others} {'remedy' if others == 1 else 'remedies'} and a control"


def _plants_state(trial: Trial) -> tuple[State | None, str]:
    active = len(trial.active_plants)
    if not trial.plants:
        return None, "none listed yet"
    aside = len(trial.plants) - active
    line = f"{active} plants" + (f", {aside} set aside" if aside else "")
    enough = active >= 2 * len(trial.remedies)
    counted = {p.match_count is None for p in trial.active_plants}
    return (State.DONE if enough and len(counted) == 1 else None), line


def _layout_state(trial: Trial) -> tuple[State | None, str]:
    if not trial.laid_out:
        return None, "not drawn yet"
    blocks = len({p.block for p in trial.trial_plants})
    return State.DONE, f"{blocks} blocks, drawn at random"


def _rounds_state(trial: Trial, today: date) -> tuple[State | None, str]:
    plants = {p.id for p in trial.trial_plants}
    if not plants:
        return None, "after the layout"
    over_looks = [k for k in trial.looks if trial.sprayed_on and trial.date_of(k.day) <= today]
    done = sum(plants <= trial.counted_at(look) for look in trial.looks)
    line = f"{done} of {len(trial.looks)} looks counted"
    missed_spray = [
        r
        for r in trial.rounds
        if trial.sprayed_in(r)
        and not plants <= trial.sprayed_in(r)
        and _round_over(trial, r, today)
    ]
    skipped = [
        k for k in over_looks if _superseded(trial, k, today) and plants - trial.counted_at(k)
    ]
    if missed_spray:
        line += f"; round {missed_spray[0].number} missed some plants"
    elif skipped:
        line += f"; look {skipped[0].number} is not complete"
    if not verdict_ready(trial):
        return None, line
    return (State.FRAYED if missed_spray or skipped else State.DONE), line


def _verdict_state(trial: Trial) -> tuple[State | None, str]:
    if verdict_ready(trial):
        return State.DONE, "ready to read"
    return None, "after the last look"
