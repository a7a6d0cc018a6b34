"""Setting up a trial: its question, and changing or removing it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.question import Question, RemedyDraft, check_question
from orthocris.core.setup import Setup
from orthocris.core.trial import Trial
from orthocris.services.context import Context
from orthocris.services.layouts import clear_if_drawn
from orthocris.storage import tallies, trials
from orthocris.storage.database import Connection


def create_trial(context: Context, question: Question, start_on: date) -> int:
    """Keep a new trial and return its id.

    Raises
    ------
    InputError
        When the question breaks a rule; nothing is kept then.
    """
    check_question(question)
    _check_start(context, start_on)
    with context.database.atomic() as connection:
        trial_id = trials.insert(connection, question, start_on, context.now())
        fresh = replace(question, remedies=tuple(replace(r, id=None) for r in question.remedies))
        trials.replace_remedies(connection, trial_id, fresh.remedies)
        trials.replace_days(connection, trial_id, question.look_days, question.round_days)
    return trial_id


def change_question(context: Context, trial_id: int, question: Question, start_on: date) -> None:
    """Change a trial's question; after the first spray only its name.

    Changing the remedies clears a layout that was drawn, which is recorded. Recipes and names
    of remedies may change without that.
    """
    check_question(question)
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        if trial.sprayed_on is not None:
            _only_name_changes(trial, question, start_on)
            trials.rename(connection, trial_id, question.name)
            return
        _check_start(context, start_on)
        _check_measure_free(connection, trial, question)
        if {(r.id, r.role) for r in trial.remedies} != {(r.id, r.role) for r in question.remedies}:
            clear_if_drawn(connection, context, trial, "the remedies were changed")
        elif layout_part(question.setup) != layout_part(trial.setup):
            clear_if_drawn(connection, context, trial, "the design was changed")
        trials.update(connection, trial_id, question, start_on)
        trials.replace_remedies(connection, trial_id, question.remedies)
        trials.replace_days(connection, trial_id, question.look_days, question.round_days)


def remove_trial(context: Context, trial_id: int) -> None:
    """Remove a trial in which nothing was counted or sprayed yet."""
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        if trial.sprayed_on is not None or tallies.any_kept(connection, trial_id):
            raise ConflictError(
                f"{trial.name} has counts or sprays",
                code="trial_has_records",
                fix="What was observed is never thrown away; leave it in the list.",
            )
        trials.delete(connection, trial_id)


def question_of(trial: Trial) -> Question:
    """Return a kept trial's question as it could be asked again."""
    return Question(
        name=trial.name,
        pest=trial.pest,
        measure=trial.measure,
        threshold=trial.threshold,
        remedies=tuple(
            RemedyDraft(r.name, r.role, r.recipe, r.id, r.traits) for r in trial.remedies
        ),
        look_days=tuple(look.day for look in trial.looks if look.number),
        round_days=tuple(round_.day for round_ in trial.rounds),
        setup=trial.setup,
    )


def layout_part(setup: Setup) -> tuple[object, ...]:
    """Return those parts of a setup that a drawn layout depends on."""
    return (
        setup.design,
        setup.block_size,
        setup.match_place,
        setup.place_cm,
        setup.row_cm,
        setup.shields,
    )


def _check_start(context: Context, start_on: date) -> None:
    today = context.now().date()
    if abs(start_on - today) > timedelta(days=730):
        raise InputError(
            f"the first spray on {start_on.isoformat()} is more than two years from today",
            code="bad_start",
            field="start_on",
            fix="Give the day on which you plan to spray first.",
        )


def _only_name_changes(trial: Trial, question: Question, start_on: date) -> None:
    asked = (
        question.pest,
        question.measure,
        question.threshold,
        start_on,
        question.look_days,
        question.round_days,
        tuple((r.id, r.name.strip(), r.role, r.recipe.strip()) for r in question.remedies),
        question.setup,
    )
    kept = (
        trial.pest,
        trial.measure,
        trial.threshold,
        trial.start_on,
        tuple(look.day for look in trial.looks if look.number),
        tuple(round_.day for round_ in trial.rounds),
        tuple((r.id, r.name, r.role, r.recipe) for r in trial.remedies),
        trial.setup,
    )
    if asked != kept:
        raise ConflictError(
            "the first spray is done, so the question stands as it was asked",
            code="question_fixed",
            fix="Start a new trial for a new question; only the name of this one can change.",
        )


def _check_measure_free(connection: Connection, trial: Trial, question: Question) -> None:
    if question.measure != trial.measure and tallies.any_kept(connection, trial.id):
        raise ConflictError(
            "counts were kept already, so the measure cannot change",
            code="measure_fixed",
            field="measure",
            fix="Start a new trial, or keep the measure.",
        )
