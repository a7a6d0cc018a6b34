"""Moving a planned round, adding one, leaving one out: each with its reason."""

from __future__ import annotations

from datetime import date

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.ranges import check_length
from orthocris.core.trial.lookup import find_round
from orthocris.core.trial.plan import Round
from orthocris.core.trial.question import MAX_DAY, MOST_DAYS
from orthocris.core.trial.sprays import EventKind, RoundEvent
from orthocris.core.trial.trial import Trial
from orthocris.core.words import day_words
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.trial.questions import check_start
from orthocris.storage.database import Connection
from orthocris.storage.field import rounds
from orthocris.storage.trial import reading, trials

LONGEST_REASON = 500


def move_round(context: Context, trial_id: int, number: int, on: date, reason: str) -> None:
    """Move a round that was not sprayed yet, or add one behind the last; it is logged.

    Raises
    ------
    ConflictError
        When the round was sprayed, or the day is not after the round before it.
    """
    why = said_reason(reason)
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        if number == 1:
            _move_first(connection, context, trial, on, why)
            return
        day = (on - trial.day_zero).days
        _check_day(trial, number, day)
        if number == len(trial.rounds) + 1:
            _check_room(trial)
            round_id = trials.add_round(connection, trial_id, number, day, trial.rounds[-1])
            shift, text = day, f"Round {number} was added for {day_words(on)}: {why}"
        else:
            round_ = find_round(trial, number)
            _check_open(trial, round_)
            trials.move_round(connection, round_.id, day)
            round_id, shift = round_.id, day - round_.day
            text = f"Round {number} was moved from day {round_.day} to day {day}: {why}"
        look_day = _look_needed(trial, day)
        if look_day is not None:
            trials.add_look(connection, trial_id, len(trial.looks), look_day)
            text += f" A look was added on day {look_day}, for the last one came before it."
        event = RoundEvent(round_id, context.now(), EventKind.MOVED, shift, text)
        rounds.keep_event(connection, event)


def _move_first(connection: Connection, context: Context, trial: Trial, on: date, why: str) -> None:
    """Days are counted from round 1: moving it moves the day planned for the whole trial."""
    round_ = find_round(trial, 1)
    _check_open(trial, round_)
    check_not_sprayed(
        trial,
        "counts after the first spray stand, so its day stands too",
        code="round_done",
        fix="Record round 1 again on the day it was really done.",
    )
    check_start(context, on)
    trials.set_start(connection, trial.id, on)
    shift = (on - trial.start_on).days
    text = f"Round 1, and with it every day of the plan, was moved to {day_words(on)}: {why}"
    event = RoundEvent(round_.id, context.now(), EventKind.MOVED, shift, text)
    rounds.keep_event(connection, event)


def leave_out(context: Context, trial_id: int, number: int, reason: str) -> None:
    """Leave a planned round out, as the stopping rule may ask; moving it brings it back.

    Raises
    ------
    ConflictError
        When it was sprayed, or is the first: without it there is no trial.
    """
    why = said_reason(reason)
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        round_ = find_round(trial, number)
        _check_open(trial, round_)
        if number == 1:
            raise ConflictError(
                "without the first round there is no trial",
                code="first_round",
                fix="Move it to another day instead.",
            )
        text = f"Round {number} (day {round_.day}) was left out: {why}"
        event = RoundEvent(round_.id, context.now(), EventKind.LEFT_OUT, round_.day, text)
        rounds.keep_event(connection, event)


def _check_open(trial: Trial, round_: Round) -> None:
    if trial.sprayed_in(round_):
        raise ConflictError(
            f"round {round_.number} was sprayed", code="round_done", fix="Move a later one."
        )


def _look_needed(trial: Trial, day: int) -> int | None:
    """A round on or after the last look is compared by nothing: a look must follow it."""
    last = trial.looks[-1].day
    if day < last:
        return None
    first = next((look.day for look in trial.looks if look.number), 3)
    look_day = min(day + max(first, 1), MAX_DAY)
    if look_day <= max(day, last) or len(trial.looks) > MOST_DAYS:
        raise InputError(
            f"after a round on day {day} there is no room for another look",
            code="bad_day",
            field="on",
            fix=f"Choose an earlier day: a trial has at most {MOST_DAYS} looks, up to day "
            f"{MAX_DAY}.",
        )
    return look_day


def _check_room(trial: Trial) -> None:
    """As many rounds as a question may have, or it could never be saved again."""
    if len(trial.rounds) >= MOST_DAYS:
        raise ConflictError(
            f"{len(trial.rounds)} rounds are planned already",
            code="too_many_rounds",
            fix="Finish this trial, and begin another where more rounds are needed.",
        )


def _check_day(trial: Trial, number: int, day: int) -> None:
    before = [r for r in trial.rounds if r.number < number]
    after = [r for r in trial.rounds if r.number > number]
    lowest = before[-1].day + 1 if before else 0
    highest = after[0].day - 1 if after else MAX_DAY
    if not lowest <= day <= highest:
        raise InputError(
            f"day {day} does not lie between the rounds around it",
            code="bad_day",
            field="on",
            fix=f"Choose {day_words(trial.date_of(lowest))} to "
            f"{day_words(trial.date_of(highest))}.",
        )


def said_reason(text: str) -> str:
    """Return a reason as it is kept, whole; refuse none and one too long to be read."""
    said = text.strip()
    if not said:
        raise InputError(
            "a round is moved without a reason",
            code="empty",
            field="reason",
            fix="Say why, such as: rain, or by the egg cycle.",
        )
    check_length(said, LONGEST_REASON, "the reason", "reason")
    return said
