"""Saying what a remedy was like to use, by the letter on its bottle."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.errors import InputError
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.mess import DRY_LEAF, MessKind
from orthocris.services.context import Context
from orthocris.storage.field import mess
from orthocris.storage.trial import reading


def say_mess(
    context: Context, trial_id: int, number: int, letter: str, kinds: Sequence[MessKind]
) -> dict[str, tuple[MessKind, ...]]:
    """Keep what was said of a letter's bottle after a round; returns what is said of that round.

    Raises
    ------
    InputError
        For a letter that no tag of the trial bears, or two answers of one dry leaf.
    """
    if len(DRY_LEAF.intersection(kinds)) > 1:
        raise InputError(
            "dry leaves look one way",
            code="one_dry_leaf",
            field="kinds",
            fix="Give the answer that most leaves of this bottle show.",
        )
    with context.database.atomic() as connection:
        plan = reading.load_plan(connection, trial_id)
        round_ = find_round(plan, number)
        remedy = next((r for r in plan.remedies if r.letter == letter), None)
        if remedy is None:
            raise InputError(
                f"no tag bears {letter!r}",
                code="no_such_bottle",
                field="letter",
                fix="Use the letters of the tags.",
            )
        mess.keep_mess(connection, round_.id, remedy.id, kinds, context.now())
    return mess_in(context, trial_id, number)


def mess_in(context: Context, trial_id: int, number: int) -> dict[str, tuple[MessKind, ...]]:
    """Return what is said of a round so far, by letter."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        find_round(plan, number)
        said = mess.mess_of(connection, trial_id)
    letters = {r.id: r.letter for r in plan.remedies}
    return {
        letter: m.kinds
        for m in said
        if m.round_number == number and (letter := letters.get(m.remedy_id)) is not None
    }
