"""Patch tests of a trial: planned per remedy and kind of leaf, put on, looked at."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.field.patchtest import (
    WAIT_REASONS,
    PatchResult,
    check_look,
    judge_patch,
    look_hours,
)
from orthocris.core.field.progress import patched_remedies
from orthocris.core.ranges import check_ranges
from orthocris.core.trial.care import Care, check_care
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.patches import Harm, PatchReading, PatchTest
from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.record import Change
from orthocris.core.trial.trial import Trial
from orthocris.core.words import day_words
from orthocris.services.context import Context
from orthocris.services.field.batches import Bottle, listed_bottle
from orthocris.services.pantry.mixing import Wanted
from orthocris.services.pantry.remedy_cards import is_oil
from orthocris.services.receipts import once
from orthocris.services.revisions import check_unchanged, revision_of
from orthocris.storage import record as kept
from orthocris.storage.field import patches
from orthocris.storage.trial import reading, trials
from orthocris.storage.trial.plain import plain_care

TEST_MIX = Wanted(plants=1, ml_per_plant=Fraction(100), margin=Fraction(0))
LONG_AGO = timedelta(days=60)  # a test put on before that tells nothing of these leaves


@dataclass(frozen=True, slots=True)
class PatchCell:
    """One remedy on one kind of leaf: its planned looks and its tests, the newest last.

    `left_out` marks a kind or a remedy that was tested and is no longer in the trial.
    """

    remedy: Remedy
    leaf_kind: str
    hours: tuple[int, ...]
    tests: tuple[tuple[PatchTest, PatchResult], ...]
    left_out: bool


@dataclass(frozen=True, slots=True)
class PatchDraft:
    """A patch test to put on.

    `leaves` is how many (2 or 3 are usual), `strength` the share of the recipe's strength;
    the scores are those of the treated and the unsprayed leaf then. `applied_at` is when it was put
    on, None for now.
    """

    remedy_id: int
    leaf_kind: str
    leaves: int = 3
    strength: float = 1.0
    treated_before: int = 0
    beside_before: int = 0
    applied_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class PatchPlan:
    """Every cell of a trial, and why one waits as long as one does."""

    cells: tuple[PatchCell, ...]
    reason: str
    care: Care


def patch_plan(context: Context, trial_id: int) -> PatchPlan:
    """Return the patch tests a trial needs and how each stands."""
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
    cells = [
        PatchCell(
            remedy,
            kind,
            _hours(trial, remedy),
            tuple(
                (t, judge_patch(t))
                for t in trial.patches
                if t.remedy_id == remedy.id and t.leaf_kind == kind
            ),
            kind not in trial.care.leaf_kinds or remedy in trial.left_out_remedies,
        )
        for kind in dict.fromkeys((*trial.care.leaf_kinds, *(t.leaf_kind for t in trial.patches)))
        for remedy in (*patched_remedies(trial), *_left_out_with_tests(trial))
    ]
    return PatchPlan(tuple(cells), WAIT_REASONS[trial.care.patch_wait], trial.care)


def _left_out_with_tests(trial: Trial) -> tuple[Remedy, ...]:
    tested = {t.remedy_id for t in trial.patches}
    return tuple(r for r in trial.left_out_remedies if r.id in tested)


def test_mixes(context: Context, trial_id: int) -> tuple[Bottle, ...]:
    """Return the little bottle of each part of each remedy that is tried on leaves first.

    Some 100 ml wet twenty leaves, and are enough for a syringe or a spoon to measure well.
    """
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        return tuple(
            replace(listed_bottle(connection, part, TEST_MIX), step=step)
            for remedy in patched_remedies(trial)
            for step, part in enumerate(remedy.parts)
        )


def put_on(context: Context, trial_id: int, draft: PatchDraft, key: str | None = None) -> int:
    """Record a patch test; return its id."""
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        remedy = _remedy(trial, draft.remedy_id)
        _check_draft(trial, draft, context.now())
        test = PatchTest(
            id=0,
            remedy_id=draft.remedy_id,
            leaf_kind=draft.leaf_kind,
            leaves=draft.leaves,
            strength=draft.strength,
            hours=_hours(trial, remedy),
            applied_at=draft.applied_at or context.now(),
            treated_before=draft.treated_before,
            beside_before=draft.beside_before,
        )
        return once(
            connection,
            key,
            f"patch test of trial {trial_id}",
            draft,
            context.now(),
            lambda: patches.keep(connection, trial_id, test),
        )


def _check_draft(trial: Trial, draft: PatchDraft, now: datetime) -> None:
    if draft.applied_at is not None and not now - LONG_AGO <= draft.applied_at <= now:
        raise InputError(
            f"put on at {day_words(draft.applied_at)}, {draft.applied_at:%H:%M}",
            code="bad_time",
            field="applied_at",
            fix="Give a time that has passed, of the last two months.",
        )
    if draft.leaf_kind not in trial.care.leaf_kinds:
        raise InputError(
            f"{draft.leaf_kind!r} is no kind of leaf of this trial",
            code="no_such_kind",
            field="leaf_kind",
            fix=f"Use one of: {', '.join(trial.care.leaf_kinds)}.",
        )
    check_ranges(
        draft,
        (
            ("leaves", 1, 20, "leaves"),
            ("strength", 0.01, 1, "(1 is as written)"),
            ("treated_before", 0, 5, ""),
            ("beside_before", 0, 5, ""),
        ),
    )


def patch_test(context: Context, trial_id: int, patch_id: int) -> tuple[PatchTest, PatchResult]:
    """Return a patch test and its outcome, or raise NotFoundError."""
    with context.database.reading() as connection:
        test = _patch(reading.load(connection, trial_id), patch_id)
    return test, judge_patch(test)


def look_at(
    context: Context,
    trial_id: int,
    patch_id: int,
    *,
    hours: int,
    treated: int,
    beside: int,
    harm: Harm,
) -> PatchResult:
    """Keep a look at a patch test; a later one for the same hour corrects it."""
    with context.database.atomic() as connection:
        test = _patch(reading.load(connection, trial_id), patch_id)
        look = PatchReading(hours, context.now(), treated, beside, harm)
        check_look(test, look)
        patches.keep_reading(connection, patch_id, look)
        return judge_patch(_patch(reading.load(connection, trial_id), patch_id))


def withdraw(context: Context, trial_id: int, patch_id: int) -> None:
    """Take back a patch test entered by mistake; its trace stays."""
    with context.database.atomic() as connection:
        _patch(reading.load(connection, trial_id), patch_id)
        patches.withdraw(connection, patch_id, context.now())


def change_care(context: Context, trial_id: int, wanted: Care, expected: str | None = None) -> None:
    """Change how a trial is cared for; what it was before stays on record.

    A kind of leaf may be left out though it was tested (it failed, say); its tests stay on
    the record.
    """
    check_care(wanted)
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        check_unchanged(expected, revision_of(trial.care), "how the bench is cared for")
        trials.save_care(connection, trial_id, wanted)
        change = Change(context.now(), "care", plain_care(trial.care), plain_care(wanted))
        kept.record_change(connection, trial_id, change)


def _hours(trial: Trial, remedy: Remedy) -> tuple[int, ...]:
    return look_hours(trial.care.patch_wait, oil=is_oil(remedy), slow_leaves=trial.care.slow_leaves)


def _remedy(trial: Trial, remedy_id: int) -> Remedy:
    return first_of(
        patched_remedies(trial),
        lambda remedy: remedy.id == remedy_id,
        f"remedy {remedy_id} needs no patch test in {trial.name}",
        code="no_such_remedy",
        fix="Choose one of the trial's remedies that come onto leaves.",
    )


def _patch(trial: Trial, patch_id: int) -> PatchTest:
    return first_of(
        trial.patches,
        lambda test: test.id == patch_id,
        f"{trial.name} has no patch test {patch_id}",
        code="no_such_patch",
        fix="Choose one that was put on.",
    )
