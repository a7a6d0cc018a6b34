"""The trial's thread: its stations and how each stands."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

from orthocris.core.field.patchtest import PatchOutcome
from orthocris.core.field.progress import (
    is_over,
    is_superseded,
    patched_remedies,
    patches_held,
)
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.trial.setup import UNIT_WORDS
from orthocris.core.trial.standing import BottleKey, Standing


class StationKey(StrEnum):
    """The stations, in their order; also where a job leads, beside a look or a round."""

    QUESTION = "question"
    PLANTS = "plants"
    LAYOUT = "layout"
    PATCH = "patch"
    MIX = "mix"
    ROUNDS = "rounds"
    VERDICT = "verdict"


class State(StrEnum):
    """The state of a station on the thread."""

    DONE = "done"
    NEXT = "next"
    FRAYED = "frayed"  # done, but not as planned
    LATER = "later"


@dataclass(frozen=True, slots=True)
class Station:
    """One station of the thread, with a line that says how it stands."""

    key: StationKey
    title: str
    state: State
    line: str


def stations(
    standing: Standing, now: datetime, bottles: Collection[BottleKey] = ()
) -> tuple[Station, ...]:
    """Describe the stations; exactly one is next unless all is done."""
    found = [
        (StationKey.QUESTION, "Question", *_question_state(standing)),
        (StationKey.PLANTS, "Plants", *_plants_state(standing)),
        (StationKey.LAYOUT, "Layout", *_layout_state(standing)),
        (StationKey.PATCH, "Patch test", *_patch_state(standing)),
        (StationKey.MIX, "Mix", *_mix_state(standing, now, bottles)),
        (StationKey.ROUNDS, "Rounds and looks", *_rounds_state(standing, now.date())),
        (StationKey.VERDICT, "Verdict", *_verdict_state(standing)),
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


def _question_state(standing: Standing) -> tuple[State | None, str]:
    others = len(standing.plan.remedies) - 1
    return State.DONE, f"{others} {'remedy' if others == 1 else 'remedies'} and a control"


def _plants_state(standing: Standing) -> tuple[State | None, str]:
    if not standing.listed:
        return None, "none listed yet"
    aside = standing.listed - standing.active
    one, several = UNIT_WORDS[standing.plan.setup.unit]
    line = f"{standing.active} {one if standing.active == 1 else several}"
    line += f", {aside} set aside" if aside else ""
    enough = standing.active >= LEAST_BLOCKS * len(standing.plan.remedies)
    alike = standing.active > 0 and standing.uncounted in (0, standing.active)
    return (State.DONE if enough and alike else None), line


def _layout_state(standing: Standing) -> tuple[State | None, str]:
    if not standing.laid_out:
        return None, "not drawn yet"
    how = "as on paper" if standing.plan.seed is None else "drawn at random"
    return State.DONE, f"{standing.blocks} {'block' if standing.blocks == 1 else 'blocks'}, {how}"


def _patch_state(standing: Standing) -> tuple[State | None, str]:
    plan = standing.plan
    of = len(patched_remedies(plan)) * len(plan.care.leaf_kinds)
    if not of:
        return State.DONE, "nothing comes onto leaves"
    held = patches_held(plan, standing.patches)
    line = f"{of - len(held)} of {of} passed"
    if not held:
        return State.DONE, line
    if plan.sprayed_on is not None:
        return State.FRAYED, f"{line}; sprayed all the same"
    running = sum(h.outcome is PatchOutcome.RUNNING for h in held)
    return None, f"{line}, {running} running" if running else line


def _mix_state(
    standing: Standing, now: datetime, bottles: Collection[BottleKey]
) -> tuple[State | None, str]:
    there = {r.id for r in standing.plan.remedies}
    needed = {key for key in bottles if key[0] in there}
    if not needed:
        return State.DONE, "nothing to mix"
    if standing.plan.sprayed_on is not None:
        if not needed <= set(standing.bottles):
            return State.FRAYED, "sprayed without a recorded batch"
        return State.DONE, f"{sum(b.batches for b in standing.bottles.values())} batches mixed"
    ready = sum(r in standing.bottles and standing.bottles[r].usable_at(now) for r in needed)
    line = f"{ready} of {len(needed)} bottles ready"
    return (State.DONE if ready == len(needed) else None), line


def _rounds_state(standing: Standing, today: date) -> tuple[State | None, str]:
    if not standing.allotted:
        return None, "after the layout"
    done = sum(standing.complete(found) for found in standing.looks)
    line = f"{done} of {len(standing.looks)} looks counted"
    frayed = _missed(standing, today)
    line += frayed
    if not standing.verdict_ready:
        return None, line
    return (State.FRAYED if frayed else State.DONE), line


def _missed(standing: Standing, today: date) -> str:
    """Say which round or look that is over left plants out; empty when none did."""
    plan = standing.plan
    for found in standing.rounds:
        begun = found.begun_at is not None
        if (
            begun
            and found.sprayed < standing.due_in(found.round)
            and is_over(standing, found, today)
        ):
            return f"; round {found.round.number} missed some plants"
    for seen in standing.looks:
        past = plan.sprayed_on is not None and plan.date_of(seen.look.day) <= today
        over = past and is_superseded(plan, seen.look, today)
        if over and seen.counted < standing.allotted:
            return f"; look {seen.look.number} is not complete"
    return ""


def _verdict_state(standing: Standing) -> tuple[State | None, str]:
    if standing.verdict_ready:
        return State.DONE, "ready to read"
    return None, "after the last look"
