"""The critic's findings on a kept plan: mending them, or overruling them on the record."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.planning.critique import critique
from orthocris.core.planning.findings import Finding, PestFacts, Plan
from orthocris.core.planning.mending import PlanChange, taken_back
from orthocris.core.planning.overrule import Overrule
from orthocris.core.planning.remarks import Remark, remark
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.plants import MAX_PLACES
from orthocris.core.trial.question import Question, check_question
from orthocris.core.trial.record import MendRecord
from orthocris.core.trial.trial import Plant, Trial
from orthocris.core.trial.trial_plan import KeptPlan
from orthocris.core.verdict.answers import promise
from orthocris.knowledge import recipe_cards, remedies
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.planning.layouts import clear_if_drawn, draw_layout
from orthocris.services.receipts import once
from orthocris.services.revisions import check_unchanged
from orthocris.services.trial.benches import check_movable, clear_square
from orthocris.services.trial.own_pests import pest_of, target_of
from orthocris.services.trial.questions import (
    clears_layout,
    question_of,
    question_revision,
    save_question,
)
from orthocris.storage import finding as records
from orthocris.storage import record as kept
from orthocris.storage import weather as yards
from orthocris.storage.database import Connection
from orthocris.storage.trial import plants, reading, trials


@dataclass(frozen=True, slots=True)
class Review:
    """The critic's view of a kept plan.

    `findings` stand, `overruled` were overruled (each time, the newest last), `promise` is what
    the verdict will be able to say, `mended` the newest mend that can be taken back.
    """

    findings: tuple[Finding, ...]
    overruled: tuple[Overrule, ...]
    promise: str
    mended: MendRecord | None


def plan_of(connection: Connection, trial: Trial) -> Plan:
    """Return a kept trial as the critic sees it."""
    return _plan(connection, question_of(trial), trial.start_on, trial.plants)


def _plan(
    connection: Connection, question: Question, start_on: date, benched: tuple[Plant, ...]
) -> Plan:
    pest = pest_of(connection, question.pest)
    facts = PestFacts(question.pest, target=target_of(question.pest, pest))
    if pest is not None:
        measures = pest.measures or None  # of an own pest nobody says what cannot show it
        facts = PestFacts(
            pest.name,
            measures,
            pest.measure,
            pest.generation_days,
            facts.target,
            pest.roams,
            pest.settled,
        )
    second = question.setup.also
    if second:
        also = pest_of(connection, second)
        facts = replace(facts, also=(also.name if also else second, target_of(second, also)))
    catalogue = {remedy.key: remedy for remedy in remedies()}
    away = tuple((days.first, days.last) for days in yards.load(connection).away)
    return Plan(question, start_on, benched, facts, catalogue, recipe_cards(), away)


def remarks(
    context: Context, question: Question, start_on: date, benched: tuple[Plant, ...]
) -> tuple[Remark, ...]:
    """Review a plan that is still being said, and tell what each finding is about.

    While it is no question yet, nothing is said of it.
    """
    try:
        check_question(question)
    except InputError:
        return ()
    with context.database.reading() as connection:
        plan = _plan(connection, question, start_on, benched)
    return tuple(remark(plan, finding) for finding in critique(plan))


def review(context: Context, trial_id: int) -> Review:
    """Review a plan as it stands."""
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        overruled = records.overruled(connection, trial_id)
        mended = kept.last_mend(connection, trial_id)
        plan = plan_of(connection, trial)
    codes = {o.code for o in overruled}
    standing = tuple(_with_layout(trial, f) for f in critique(plan) if f.code not in codes)
    names = [r.name for r in plan.others]
    open_ = trial.sprayed_on is None and mended is not None and _without(trial, mended) is not None
    said = promise(trial.setup.kind, names, trial.threshold, usual_of(trial))
    return Review(standing, overruled, said, mended if open_ else None)


def _with_layout(trial: Trial, finding: Finding) -> Finding:
    """Say with a mend that a layout already drawn would be cleared by it."""
    mend = finding.mend
    if mend is None or not trial.laid_out:
        return finding
    if not clears_layout(trial, mend.question):
        return finding
    drawn = "as on paper" if trial.seed is None else "drawn at random"
    cleared = PlanChange("the layout", drawn, "cleared, to be drawn again")
    return replace(finding, mend=replace(mend, changes=(*mend.changes, cleared)))


def mend(context: Context, trial_id: int, code: str, expected: str | None = None) -> None:
    """Carry out the mend of a finding, and keep the plan as it was before.

    Raises
    ------
    NotFoundError
        When the plan has no such finding (any more).
    ConflictError
        When no click can mend it, or the first spray is done.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        check_unchanged(expected, question_revision(trial), "the plan")
        _check_open(trial)
        finding = _finding(connection, trial, code)
        found = finding.mend
        if found is None:
            raise ConflictError(
                f"{finding.title} cannot be mended by the program",
                code="no_mend",
                fix=finding.harm,
            )
        check_question(found.question)
        save_question(connection, context, trial, found.question, found.start_on)
        after = _kept_plan(reading.load(connection, trial_id))
        record = MendRecord(0, code, found.label, context.now(), _kept_plan(trial), after)
        kept.keep_mend(connection, trial_id, record)


def take_back_mend(context: Context, trial_id: int) -> None:
    """Take back the newest mend; what was changed since beside it stays.

    Where nothing was, the plan is again as it was before, its layout too.

    Raises
    ------
    ConflictError
        When there is none, or what it changed was changed again.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        _check_open(trial)
        last = kept.last_mend(connection, trial_id)
        plan = None if last is None else _without(trial, last)
        if last is None or plan is None:
            raise ConflictError(
                "no mend of the plan as it is now can be taken back",
                code="no_mend_to_undo",
                fix="Change the question or the plants by hand.",
            )
        before, question, start_on = last.before, *plan
        whole = (question, start_on) == (before.question, before.start_on) and (
            before.plant_ids == _kept_plan(trial).plant_ids
        )
        clears = whole or clears_layout(trial, question)
        save_question(connection, context, trial, question, start_on)
        if clears:
            clear_if_drawn(connection, context, trial, f"taken back: {last.label}")
        kept.undo_mend(connection, last.id, context.now())
    if whole and before.seed is not None:  # the same plants, remedies and seed: the same layout
        reason = f"as before, taken back: {last.label}"
        draw_layout(context, trial_id, reason=reason, seed=before.seed)


def _without(trial: Trial, mend: MendRecord) -> tuple[Question, date] | None:
    """The question and start of a plan without a mend, None where that was changed again."""
    states = (mend.before, mend.after, _kept_plan(trial))
    question = taken_back(*(state.question for state in states))
    start_on = taken_back(*(state.start_on for state in states))
    return None if question is None or start_on is None else (question, start_on)


def _kept_plan(trial: Trial) -> KeptPlan:
    ids = tuple(sorted(p.id for p in trial.plants))
    return KeptPlan(question_of(trial), trial.start_on, ids, trial.seed)


def _check_open(trial: Trial) -> None:
    check_not_sprayed(
        trial,
        "the first spray is done, so the plan stands",
        code="question_fixed",
        fix="The verdict will name what was found.",
    )


def overrule(
    context: Context, trial_id: int, code: str, reason: str, key: str | None = None
) -> None:
    """Overrule a finding with a reason that stays on the record and goes with the verdict."""
    if not reason.strip():
        raise InputError(
            "a finding is overruled with a reason",
            code="empty",
            field="reason",
            fix="Say why it does not matter here.",
        )
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        now = context.now()

        def keep() -> int:
            finding = _finding(connection, trial, code)
            entry = Overrule(code, f"{finding.title}: {finding.harm}", reason.strip(), now)
            return records.overrule(connection, trial_id, entry)

        once(connection, key, f"overruling in trial {trial_id}", (code, reason), now, keep)


def _finding(connection: Connection, trial: Trial, code: str) -> Finding:
    return first_of(
        critique(plan_of(connection, trial)),
        lambda finding: finding.code == code,
        f"the plan has no finding {code!r} now",
        code="no_such_finding",
        fix="Reload the page; it may be mended already.",
    )


def move_plant(context: Context, trial_id: int, plant_id: int, row: int, place: int) -> None:
    """Put a plant at another place on the bench; whoever stands there changes places with it.

    Before the first spray only. A layout that was drawn stays, for plants carry their tags
    along; only a Latin square is cleared, because it lives by rows and places.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        check_movable(trial)
        moving = next((p for p in trial.plants if p.id == plant_id), None)
        if moving is None:
            raise NotFoundError(
                f"there is no plant {plant_id} in {trial.name}",
                code="no_such_plant",
                fix="Reload the page; it may have been removed.",
            )
        check_place(row, place)
        clear_square(connection, context, trial, moving)
        plants.move(connection, _steps(trial.plants, moving, row, place))


def check_place(row: int, place: int) -> None:
    """Check that a row and place lie on the bench."""
    for field, value, limit in (("row", row, 40), ("place", place, MAX_PLACES)):
        if not 1 <= value <= limit:
            raise InputError(
                f"{field} is {value}",
                code="bad_place",
                field=field,
                fix=f"Count rows and places from 1; {field} goes up to {limit}.",
            )


def _steps(
    all_plants: tuple[Plant, ...], moving: Plant, row: int, place: int
) -> list[tuple[int, tuple[int, int]]]:
    at = {(p.row, p.place): p for p in all_plants}
    other = at.get((row, place))
    if other is None or other.id == moving.id:
        return [(moving.id, (row, place))]
    # Two plants never stand at one place, not even in between: one waits at a free place.
    free = next((r, p) for r in range(40, 0, -1) for p in range(60, 0, -1) if (r, p) not in at)
    return [
        (other.id, free),
        (moving.id, (row, place)),
        (other.id, (moving.row, moving.place)),
    ]


def open_key(context: Context, trial_id: int) -> None:
    """Open the sealed key of the tags; the first time is recorded."""
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        if not trial.laid_out:
            raise ConflictError(
                "there is no key before the layout is drawn",
                code="no_key",
                fix="Draw the layout first.",
            )
        trials.open_key(connection, trial_id, context.now())
