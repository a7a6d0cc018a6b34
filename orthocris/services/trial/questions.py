"""Setting up a trial: its question, and changing or removing it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, datetime, timedelta
from operator import attrgetter

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.trial.care import Care
from orthocris.core.trial.crops import crop_named
from orthocris.core.trial.question import Question, RemedyDraft, check_question, timetable_of
from orthocris.core.trial.record import Change
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.trial import Trial
from orthocris.core.words import day_words, listing
from orthocris.knowledge import crops, pest_key
from orthocris.services.context import Context
from orthocris.services.pantry.soundness import as_they_are, check_remedies
from orthocris.services.planning.layouts import clear_if_drawn
from orthocris.services.receipts import once
from orthocris.services.revisions import check_unchanged, revision_of
from orthocris.storage import record, verdicts
from orthocris.storage.counting import counts, notebook
from orthocris.storage.database import Connection
from orthocris.storage.field import rest
from orthocris.storage.trial import plants, reading, trials

LONGEST_COPIED = 70  # letters of a name, so that a word more finds room


def create_trial(
    context: Context, question: Question, start_on: date, key: str | None = None
) -> int:
    """Keep a new trial and return its id; sent again with the same key, the same trial.

    Raises
    ------
    InputError
        When the question breaks a rule; nothing is kept then.
    """
    check_question(question)
    check_remedies(question.remedies)
    check_start(context, start_on)
    question = _as_it_is(question)
    with context.database.atomic() as connection:

        def make() -> int:
            return keep_trial(connection, context, question, start_on)

        payload = (question, start_on)
        return once(connection, key, "trial", payload, context.now(), make)


def copy_trial(context: Context, trial_id: int, key: str | None = None) -> int:
    """Keep the plan of a trial as a new one that begins today, with its places; return its id.

    The remedies are as they are asked now; nothing that was counted, drawn or mixed comes along,
    nor the day of a harvest, which was that season's.

    Raises
    ------
    InputError
        When a remedy is known by now not to be for plants.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        asked = question_of(trial)
        today = context.now().date()
        setup = replace(asked.setup, harvest_on=None)
        again = replace(asked, name=f"{trial.name[:LONGEST_COPIED]}, again", setup=setup)
        check_question(again)
        check_remedies(again.remedies)

        def make() -> int:
            made = keep_trial(connection, context, again, today)
            trials.save_care(connection, made, trial.care)
            for p in trial.active_plants:
                plants.insert(connection, made, p.name, p.row, p.place, p.host)
            return made

        return once(connection, key, f"copy of trial {trial_id}", (), context.now(), make)


def _as_it_is(question: Question) -> Question:
    """Pests by their keys, and each remedy as what it holds: what is known of them speaks then."""
    also = question.setup.also and pest_key(question.setup.also)
    setup = replace(question.setup, also=also)
    remedies = as_they_are(question.remedies)
    return replace(question, pest=pest_key(question.pest), remedies=remedies, setup=setup)


def keep_trial(
    connection: Connection,
    context: Context,
    question: Question,
    start_on: date,
    goes_on: int | None = None,
) -> int:
    """Keep a checked question as a new trial, within a transaction; return its id."""
    trial_id = trials.insert(connection, question, start_on, context.now(), goes_on)
    fresh = tuple(replace(r, id=None) for r in question.remedies)
    trials.replace_remedies(connection, trial_id, fresh, context.now())
    _keep_days(connection, trial_id, question)
    crop = crop_named(question.setup.crop, crops())
    if crop is not None:
        care = Care(ml_per_plant=crop.ml, leaf_kinds=(crop.name,))
        trials.save_care(connection, trial_id, care)
    return trial_id


def change_question(
    context: Context,
    trial_id: int,
    question: Question,
    start_on: date,
    expected: str | None = None,
) -> None:
    """Change a trial's question; after the first spray only its name and those of remedies.

    Changing the remedies clears a layout that was drawn, which is recorded. Recipes and names
    of remedies may change without that. `expected` is the revision that was read, if any.
    """
    check_question(question)
    question = _as_it_is(question)
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        check_unchanged(expected, question_revision(trial), "the question")
        save_question(connection, context, trial, question, start_on)


def save_question(
    connection: Connection, context: Context, trial: Trial, question: Question, start_on: date
) -> None:
    """Keep a checked question within a transaction, and clear the layout where it must be."""
    if trial.sprayed_on is not None:
        _only_names_change(trial, question, start_on)
        trials.rename(connection, trial.id, question.name)
        _respell(connection, context, trial, question)
        return
    if trial.goes_on is not None:
        _check_same_question(trial, question)
    check_remedies(question.remedies)
    check_start(context, start_on)
    _check_measure_free(connection, trial, question)
    why = clears_layout(trial, question)
    if why:
        clear_if_drawn(connection, context, trial, why)
    trials.update(connection, trial.id, question, start_on)
    trials.replace_remedies(connection, trial.id, question.remedies, context.now())
    _keep_days(connection, trial.id, question)


def _keep_days(connection: Connection, trial_id: int, question: Question) -> None:
    trials.replace_days(
        connection, trial_id, question.look_days, question.round_days, timetable_of(question)
    )


def check_on_list(context: Context, trial_id: int) -> None:
    """Refuse a change of a trial that was put away, or raise ConflictError."""
    if not 1 <= trial_id < 2**31:
        return  # the route refuses it
    with context.database.reading() as connection:
        name = trials.put_away_name(connection, trial_id)
    if name is not None:
        raise ConflictError(
            f"{name} was put away",
            code="put_away",
            fix="Bring it back from Today, then go on.",
        )


def clears_layout(trial: Trial, question: Question) -> str:
    """Say why a changed question clears a layout that was drawn; empty when it does not."""
    if {(r.id, r.role) for r in trial.remedies} != {(r.id, r.role) for r in question.remedies}:
        return "the remedies were changed"
    if layout_part(question.setup) != layout_part(trial.setup):
        return "the design was changed"
    return ""


def question_revision(trial: Trial) -> str:
    """Return the revision of a trial's question and planned start."""
    return revision_of(question_of(trial), trial.start_on)


def remove_trial(context: Context, trial_id: int, *, with_records: bool = False) -> None:
    """Put a trial away: it leaves the list, and can be brought back whole.

    Raises
    ------
    ConflictError
        Code ``trial_has_records`` when something was observed or mixed in it and
        `with_records` does not say that this is known; the message names what.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        kept = counts.number_kept(connection, trial_id)
        held = records_in(trial, kept, notebook.number_kept(connection, trial_id))
        if rest.of_trials(connection, trial_id):
            held = (*held, "the treatment of the rest")
        if held and not with_records:
            raise ConflictError(
                f"{trial.name} holds {', '.join(held)}",
                code="trial_has_records",
                fix="Nothing of it is deleted: say that you mean it, and it can be brought back.",
            )
        trials.put_away(connection, trial_id, context.now())


def bring_back(context: Context, trial_id: int) -> None:
    """Bring a trial back that was put away."""
    with context.database.atomic() as connection:
        reading.load(connection, trial_id)
        trials.put_away(connection, trial_id, None)


def put_away_trials(context: Context) -> tuple[tuple[int, str, datetime], ...]:
    """Return id, name and time of every trial that was put away, the newest first."""
    with context.database.reading() as connection:
        return trials.put_away_trials(connection)


def records_in(trial: Trial, counts: int, notes: int) -> tuple[str, ...]:
    """Name what was observed or mixed in a trial, empty for a mere plan."""
    kinds = (
        (counts, "count", "counts"),
        (notes, "note", "notes"),
        (len(trial.sprays), "spray", "sprays"),
        (len(trial.patches), "patch test", "patch tests"),
        (len(trial.batches), "bottle", "bottles"),
    )
    return tuple(f"{n} {one if n == 1 else many}" for n, one, many in kinds if n)


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
        look_days=tuple(look.moment for look in trial.looks if look.number),
        round_days=trial.own_rounds,
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


def check_start(context: Context, start_on: date) -> None:
    """Refuse a first spray planned more than two years from today."""
    today = context.now().date()
    if abs(start_on - today) > timedelta(days=730):
        raise InputError(
            f"the first spray on {day_words(start_on)} is more than two years from today",
            code="bad_start",
            field="start_on",
            fix="Give the day on which you plan to spray first.",
        )


def _check_same_question(trial: Trial, question: Question) -> None:
    """What goes on from another trial is judged with it, so it asks the same."""
    kept, setup = question_of(trial), question.setup
    asked = replace(question, name=kept.name, setup=kept.setup)
    fixed = attrgetter("kind", "unit", "samples", "two_waves", "two_looks")
    if asked != kept or fixed(kept.setup) != fixed(setup):
        raise ConflictError(
            "this trial goes on from another and is judged with it, so it asks the same",
            code="goes_on",
            fix="Change its name, its start or the bench; for another question begin a new trial.",
        )


def _respell(connection: Connection, context: Context, trial: Trial, question: Question) -> None:
    """Give remedies other names; which is which stays, and what they were called is on record."""
    called = {f"remedy {k}": r.name for k, r in enumerate(trial.remedies, 1)}
    after = {f"remedy {k}": r.name.strip() for k, r in enumerate(question.remedies, 1)}
    if after == called:
        return
    check_remedies(question.remedies)
    new = {name for key, name in after.items() if name != called[key]}
    taken = new & {*called.values(), *(r.name for r in trial.left_out_remedies)}
    if taken:  # what one plant got would be told of another
        raise ConflictError(
            f"{listing(sorted(taken))} is what another remedy of this trial is called",
            code="name_taken",
            field="name",
            fix="A name can be spelt otherwise; two remedies cannot change places any more.",
        )
    on_record = verdicts.last_of(connection, trial.id) is not None
    if on_record or trial.goes_on is not None or trials.gone_on(connection, trial.id) is not None:
        raise ConflictError(
            "a verdict on record, or another part of this trial, calls its remedies as they are",
            code="names_fixed",
            field="name",
            fix="Leave the names of the remedies; the name of the trial can change.",
        )
    ids = [r.id for r in trial.remedies]
    trials.respell(connection, dict(zip(ids, after.values(), strict=True)))
    change = Change(context.now(), "question", called, after)
    record.record_change(connection, trial.id, change)


def _only_names_change(trial: Trial, question: Question, start_on: date) -> None:
    asked = (
        question.pest,
        question.measure,
        question.threshold,
        start_on,
        question.look_days,
        question.round_days,
        tuple(
            (r.id, r.role, r.recipe.strip(), r.traits.programme, r.traits.steps)
            for r in question.remedies
        ),
        question.setup,
    )
    kept = (
        trial.pest,
        trial.measure,
        trial.threshold,
        trial.start_on,
        tuple(look.moment for look in trial.looks if look.number),
        trial.own_rounds,
        tuple((r.id, r.role, r.recipe, r.traits.programme, r.traits.steps) for r in trial.remedies),
        trial.setup,
    )
    if asked != kept:
        raise ConflictError(
            "the first spray is done, so the question stands as it was asked",
            code="question_fixed",
            fix="Start a new trial for a new question; only names can change in this one.",
        )


def _check_measure_free(connection: Connection, trial: Trial, question: Question) -> None:
    if question.measure != trial.measure and counts.number_kept(connection, trial.id):
        raise ConflictError(
            "counts were kept already, so the measure cannot change",
            code="measure_fixed",
            field="measure",
            fix="Start a new trial, or keep the measure.",
        )
