"""A trial that goes on: the same question on further plants, judged together with the first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from orthocris.core.errors import ConflictError
from orthocris.core.trial.question import Question
from orthocris.core.trial.setup import WHOLE_KINDS, DesignKind, Setup
from orthocris.core.trial.standing import standing_of
from orthocris.core.trial.trial import CountedTrial, Plant
from orthocris.core.verdict.going_on import left_out
from orthocris.core.verdict.observation import MOST_ADDITIONS
from orthocris.core.verdict.result import Outcome
from orthocris.services.context import Context
from orthocris.services.receipts import once
from orthocris.services.trial.questions import keep_trial, question_of
from orthocris.services.verdict.judging import record_verdict, verdict_of
from orthocris.storage.trial import plants, reading, trials

GOES_ON = ", goes on"


@dataclass(frozen=True, slots=True)
class NextPart:
    """What a trial would go on with.

    `keeps` are the remedies that go on, the control first; `leaves_out` the others, and why;
    `waiting` the plants that were kept for a second wave; `wanted` how many in all would settle it,
    0 where that is not known. `there` is the id of the trial that
    goes on from this one, where there is one.
    """

    keeps: tuple[str, ...]
    leaves_out: Mapping[str, str]
    waiting: int
    wanted: int
    there: int | None


def next_part(context: Context, trial_id: int) -> NextPart | None:
    """Return what a trial would go on with; None where it does not.

    It goes on from a final verdict that settled nothing, twice at most, and from the first of two
    waves once that is counted to its end.
    """
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        there = trials.gone_on(connection, trial_id)
    trial = parts[-1]
    if trial.control is None or len(parts) > MOST_ADDITIONS or not standing_of(trial).verdict_ready:
        return None
    found = verdict_of(context, trial_id, trial.looks[-1].number)
    open_ = found.final and found.verdict.outcome is Outcome.UNDECIDED
    if not (open_ or trial.setup.two_waves or there):
        return None
    out = left_out(found.verdict, all_go_on=trial.setup.kind in WHOLE_KINDS)
    names = [r.name for r in trial.remedies]
    keeps = tuple(name for name in names if name not in out)
    return NextPart(
        keeps=keeps,
        leaves_out={name: out[name] for name in names if name in out},
        waiting=len(_waiting(trial)),
        wanted=found.verdict.more_plants * len(keeps),
        there=there,
    )


def go_on(context: Context, trial_id: int, key: str | None = None) -> int:
    """Keep the trial that goes on from this one, and return its id.

    It asks the same of the remedies in question; plants that were kept for a second wave come
    into it, to be counted anew. The verdict so far goes on record first.

    Raises
    ------
    ConflictError
        When it does not go on, or nothing is in question any more.
    """
    found = next_part(context, trial_id)
    if found is None:
        raise ConflictError(
            "this trial does not go on",
            code="goes_not_on",
            fix="Count its last look to the end first; from a settled verdict begin a new trial.",
        )
    if len(found.keeps) < 2:
        raise ConflictError(
            "no remedy of this trial is in question any more",
            code="nothing_in_question",
            fix="Begin a new trial with other remedies.",
        )
    with context.database.reading() as connection:
        trial = reading.load_counted(connection, trial_id)
    if found.there is None and not trial.setup.two_waves:
        record_verdict(context, trial_id, trial.looks[-1].number)
    with context.database.atomic() as connection:

        def make() -> int:
            if trials.gone_on(connection, trial_id) is not None:
                raise ConflictError(
                    f"{trial.name} goes on already",
                    code="goes_on_already",
                    fix="Open that trial; bring it back from Today if it was put away.",
                )
            today = context.now().date()
            made = keep_trial(connection, context, _goes_on(trial, found.keeps), today, trial_id)
            for p in _waiting(trial):
                plants.insert(connection, made, p.name, p.row, p.place, p.host)
            return made

        return once(connection, key, f"part of trial {trial_id}", (), context.now(), make)


def _goes_on(trial: CountedTrial, keeps: Sequence[str]) -> Question:
    asked = question_of(trial)
    remedies = tuple(replace(r, id=None) for r in asked.remedies if r.name in keeps)
    setup: Setup = replace(asked.setup, two_waves=False)
    if len(remedies) < len(asked.remedies):  # its square or its blocks were made for all
        setup = replace(setup, block_size=None)
        if setup.design in (DesignKind.LATIN, DesignKind.INCOMPLETE):
            setup = replace(setup, design=DesignKind.COMPLETE)
    first = trial.name.removesuffix(GOES_ON)
    name = f"{trial.name} again" if first != trial.name else f"{first}{GOES_ON}"
    return replace(asked, name=name, remedies=remedies, setup=setup)


def _waiting(trial: CountedTrial) -> list[Plant]:
    return [p for p in trial.active_plants if p.remedy_id is None] if trial.setup.two_waves else []
