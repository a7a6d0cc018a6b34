"""The critic's findings on a kept plan: mending them, or overruling them on the record."""

from __future__ import annotations

from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.core.planning.critique import Finding, PestFacts, Plan, critique
from orthocris.core.plants import MAX_PLACES, MAX_PLANTS
from orthocris.core.setup import DesignKind
from orthocris.core.trial import Plant, Trial
from orthocris.core.verdict.reading import promise
from orthocris.knowledge import pest_named
from orthocris.services.context import Context
from orthocris.services.layouts import clear_if_drawn
from orthocris.services.questions import change_question, question_of
from orthocris.storage import plants, records, trials
from orthocris.storage.records import Overrule


def plan_of(trial: Trial) -> Plan:
    """Return a kept trial as the critic sees it."""
    pest = pest_named(trial.pest)
    facts = PestFacts(trial.pest)
    if pest is not None:
        facts = PestFacts(pest.name, pest.measures, pest.measure, pest.generation_days)
    return Plan(question_of(trial), trial.start_on, trial.plants, facts)


def findings(
    context: Context, trial_id: int
) -> tuple[tuple[Finding, ...], tuple[Overrule, ...], str]:
    """Return the findings that stand, those overruled, and what the verdict will say."""
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
        overruled = records.overruled(connection, trial_id)
    plan = plan_of(trial)
    codes = {o.code for o in overruled}
    standing = tuple(f for f in critique(plan) if f.code not in codes)
    names = [r.name for r in plan.others]
    return standing, overruled, promise(trial.setup.kind, names, trial.threshold)


def mend(context: Context, trial_id: int, code: str) -> None:
    """Carry out the mend of a finding.

    Raises
    ------
    NotFoundError
        When the plan has no such finding (any more).
    ConflictError
        When no click can mend it, or the first spray is done.
    """
    with context.database.reading() as connection:
        trial = trials.load(connection, trial_id)
    if trial.sprayed_on is not None:
        raise ConflictError(
            "the first spray is done, so the plan stands",
            code="question_fixed",
            fix="The verdict will name what was found.",
        )
    finding = _finding(trial, code)
    if finding.mend is None:
        raise ConflictError(
            f"{finding.title} cannot be mended by the program",
            code="no_mend",
            fix=finding.harm,
        )
    if finding.mend.add_plants:
        _add_places(context, trial, finding.mend.add_plants)
    else:
        change_question(context, trial_id, finding.mend.question, finding.mend.start_on)


def overrule(context: Context, trial_id: int, code: str, reason: str) -> None:
    """Overrule a finding with a reason that stays on the record and goes with the verdict."""
    if not reason.strip():
        raise InputError(
            "a finding is overruled with a reason",
            code="empty",
            field="reason",
            fix="Say why it does not matter here.",
        )
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        finding = _finding(trial, code)
        entry = Overrule(code, f"{finding.title}: {finding.harm}", reason.strip(), context.now())
        records.overrule(connection, trial_id, entry)


def _finding(trial: Trial, code: str) -> Finding:
    for finding in critique(plan_of(trial)):
        if finding.code == code:
            return finding
    raise NotFoundError(
        f"the plan has no finding {code!r} now",
        code="no_such_finding",
        fix="Reload the page; it may be mended already.",
    )


def _add_places(context: Context, trial: Trial, number: int) -> None:
    """Add plants in rows as long as the longest, named on from those there."""
    width = min(max((p.place for p in trial.plants), default=8), MAX_PLACES)
    if len(trial.plants) + number > MAX_PLANTS:
        raise ConflictError(
            f"that makes {len(trial.plants) + number} plants",
            code="too_many_plants",
            fix=f"A trial holds at most {MAX_PLANTS}; compare fewer remedies.",
        )
    prefix = "".join(c for c in (trial.plants[-1].name if trial.plants else "P") if not c.isdigit())
    names = {p.name for p in trial.plants}
    row = max((p.row for p in trial.plants), default=0)
    counter = 0
    with context.database.atomic() as connection:
        for k in range(number):
            counter += 1
            while f"{prefix}{counter}" in names:
                counter += 1
            plants.insert(
                connection, trial.id, f"{prefix}{counter}", row + 1 + k // width, 1 + k % width
            )


def move_plant(context: Context, trial_id: int, plant_id: int, row: int, place: int) -> None:
    """Put a plant at another place on the bench; whoever stands there changes places with it.

    Before the first spray only. A layout that was drawn stays, for plants carry their tags
    along; only a Latin square is cleared, because it lives by rows and places.
    """
    with context.database.atomic() as connection:
        trial = trials.load(connection, trial_id)
        if trial.sprayed_on is not None:
            raise ConflictError(
                "the first spray is done, so plants stay where they are",
                code="plants_fixed",
                fix="Write a real move into the journal.",
            )
        moving = next((p for p in trial.plants if p.id == plant_id), None)
        if moving is None:
            raise NotFoundError(
                f"there is no plant {plant_id} in {trial.name}",
                code="no_such_plant",
                fix="Reload the page; it may have been removed.",
            )
        check_place(row, place)
        if trial.setup.design is DesignKind.LATIN:
            clear_if_drawn(connection, context, trial, f"{moving.name} was moved")
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
        trial = trials.load(connection, trial_id)
        if not trial.laid_out:
            raise ConflictError(
                "there is no key before the layout is drawn",
                code="no_key",
                fix="Draw the layout first.",
            )
        trials.open_key(connection, trial_id, context.now())
