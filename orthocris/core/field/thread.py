"""The trial's thread: its stations and how each stands."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

from orthocris.core.field.batches import newest_usable
from orthocris.core.field.patchtest import PatchOutcome
from orthocris.core.field.progress import (
    counted_in_time,
    is_over,
    is_superseded,
    patched_remedies,
    patches_held,
    verdict_ready,
)
from orthocris.core.trial.trial import Trial


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


def stations(trial: Trial, now: datetime, bottles: Collection[int] = ()) -> tuple[Station, ...]:
    """Describe the stations; exactly one is next unless all is done."""
    today = now.date()
    found = [
        ("question", "Question", *_question_state(trial)),
        ("plants", "Plants", *_plants_state(trial)),
        ("layout", "Layout", *_layout_state(trial)),
        ("patch", "Patch test", *_patch_state(trial)),
        ("mix", "Mix", *_mix_state(trial, now, bottles)),
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


def _patch_state(trial: Trial) -> tuple[State | None, str]:
    of = len(patched_remedies(trial)) * len(trial.care.leaf_kinds)
    if not of:
        return State.DONE, "nothing comes onto leaves"
    held = patches_held(trial)
    line = f"{of - len(held)} of {of} passed"
    if not held:
        return State.DONE, line
    if trial.sprayed_on is not None:
        return State.FRAYED, f"{line}; sprayed all the same"
    running = sum(h.outcome is PatchOutcome.RUNNING for h in held)
    return None, f"{line}, {running} running" if running else line


def _mix_state(trial: Trial, now: datetime, bottles: Collection[int]) -> tuple[State | None, str]:
    needed = {r.id for r in trial.remedies} & set(bottles)
    if not needed:
        return State.DONE, "nothing to mix"
    ready = sum(newest_usable(trial.batches, r, now) is not None for r in needed)
    mixed = {b.remedy_id for b in trial.batches}
    if trial.sprayed_on is not None:
        if not needed <= mixed:
            return State.FRAYED, "sprayed without a recorded batch"
        return State.DONE, f"{len(trial.batches)} batches mixed"
    line = f"{ready} of {len(needed)} bottles ready"
    return (State.DONE if ready == len(needed) else None), line


def _rounds_state(trial: Trial, today: date) -> tuple[State | None, str]:
    plants = {p.id for p in trial.trial_plants}
    if not plants:
        return None, "after the layout"
    over_looks = [k for k in trial.looks if trial.sprayed_on and trial.date_of(k.day) <= today]
    done = sum(plants <= counted_in_time(trial, look) for look in trial.looks)
    line = f"{done} of {len(trial.looks)} looks counted"
    missed_spray = [
        r
        for r in trial.rounds
        if trial.sprayed_in(r) and not plants <= trial.sprayed_in(r) and is_over(trial, r, today)
    ]
    skipped = [
        k for k in over_looks if is_superseded(trial, k, today) and plants - trial.counted_at(k)
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
