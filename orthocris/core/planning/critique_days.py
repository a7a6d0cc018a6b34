"""The critic's rule of the calendar: nobody sprays or counts who is away."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta
from itertools import chain

from orthocris.core.planning.findings import Finding, Mend, Plan
from orthocris.core.trial.question import timetable_of
from orthocris.core.words import listing, weekday_words

FURTHEST = 60  # days that a start is put off at most
MOST_NAMED = 4


def away(plan: Plan) -> Iterator[Finding]:
    """A round or a look falls into days on which the gardener is away."""
    missed = [what for what, day in _done_on(plan) if _is_away(plan, _on(plan, day))]
    if not missed:
        return
    named = missed[:MOST_NAMED] if len(missed) <= MOST_NAMED else [*missed[:MOST_NAMED], "others"]
    verb = "falls" if len(missed) == 1 else "fall"
    free = next((k for k in range(1, FURTHEST + 1) if _all_there(plan, k)), None)
    harm = (
        f"{listing(named).capitalize()} {verb} into days on which you are away: a round left out "
        "makes every remedy look weaker, and a look taken late is another look."
    )
    helped = (
        f" No start within {FURTHEST} days has you there each time: ask a helper, who needs the "
        "letters of the tags alone, or plan fewer days."
    )
    if free is None:
        yield Finding("away", "You are away when it is due", harm + helped, None)
        return
    start = plan.start_on + timedelta(days=free)
    mend = Mend(f"Begin on {weekday_words(start)}", plan.question, start)
    yield Finding("away", "You are away when it is due", harm, mend)


def _done_on(plan: Plan) -> list[tuple[str, int]]:
    """What is done on which day of the trial, in their order; each day of a programme is one."""
    question = plan.question
    own = timetable_of(question)
    sprays = sorted(set(question.round_days) | set(own or ()))
    found = [(f"round {k} (day {day})", day) for k, day in enumerate(sprays, 1)]
    looks = [("the count before", 0)] if 0 not in sprays else []
    looks += [
        (f"look {k} (day {int(day)})", int(day)) for k, day in enumerate(question.look_days, 1)
    ]
    return sorted(chain(found, looks), key=lambda one: one[1])


def _on(plan: Plan, day: int) -> date:
    return plan.start_on + timedelta(days=day)


def _is_away(plan: Plan, on: date) -> bool:
    return any(first <= on <= last for first, last in plan.away)


def _all_there(plan: Plan, later: int) -> bool:
    return not any(_is_away(plan, _on(plan, day + later)) for _, day in _done_on(plan))
