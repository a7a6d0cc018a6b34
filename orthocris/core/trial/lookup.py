"""Finding one thing among several by number or id."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

from orthocris.core.errors import NotFoundError
from orthocris.core.trial.plan import Look, Round, TrialPlan

T = TypeVar("T")


def first_of(
    items: Iterable[T], fits: Callable[[T], bool], missing: str, *, code: str, fix: str
) -> T:
    """Return the first item that fits, or raise NotFoundError saying what is missing."""
    for item in items:
        if fits(item):
            return item
    raise NotFoundError(missing, code=code, fix=fix)


def find_look(trial: TrialPlan, number: int) -> Look:
    """Return a look by its number, or raise NotFoundError."""
    return first_of(
        trial.looks,
        lambda look: look.number == number,
        f"{trial.name} has no look {number}",
        code="no_such_look",
        fix=f"Its looks are 0 (before) to {len(trial.looks) - 1}.",
    )


def find_round(trial: TrialPlan, number: int) -> Round:
    """Return a round by its number, or raise NotFoundError."""
    return first_of(
        trial.rounds,
        lambda round_: round_.number == number,
        f"{trial.name} has no round {number}",
        code="no_such_round",
        fix=f"Its rounds are 1 to {len(trial.rounds)}.",
    )
