"""Drawing the layout, again if need be, and keeping the record of it."""

from __future__ import annotations

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.planning.allocation import Allocation, allocate
from orthocris.core.planning.drawn_layouts import DrawnLayouts
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.planning.neighbours import drift_of
from orthocris.core.planning.reference import other_layouts, restricted
from orthocris.core.trial.trial import Trial
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.receipts import made_before, once
from orthocris.storage.database import Connection
from orthocris.storage.trial import layout_sets, plants, reading, trials


def draw_layout(
    context: Context, trial_id: int, *, reason: str, seed: int | None, key: str | None = None
) -> None:
    """Form blocks and allot remedies at random, before the first spray only.

    Where the bench restricts the lot, the other layouts that it could have drawn are noted as due
    (see `draw_others`).

    Parameters
    ----------
    reason:
        Why it is drawn anew; needed from the second drawing on, and recorded.
    seed:
        A seed to draw with, or None for one that nobody chose.

    Raises
    ------
    ConflictError
        When a plant was sprayed already, or the plants are too few or not all counted.
    InputError
        When a reshuffle has no reason.
    """
    scope, payload = f"layout of trial {trial_id}", (reason, seed)
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        if made_before(connection, key, scope, payload) is not None:
            return
    _check_drawable(trial, reason)
    chosen = context.new_seed() if seed is None else seed
    # Drawing may take long where plants stand close: nobody else waits for it.
    found = allocate(
        trial.active_plants,
        remedies=len(trial.remedies),
        seed=chosen,
        setup=trial.setup,
        drift_cm=drift_of(trial),
    )
    with context.database.atomic() as connection:
        now = reading.load(connection, trial_id)
        _check_drawable(now, reason)
        if _drawn_for(now) != _drawn_for(trial):
            raise ConflictError(
                "plants or remedies were changed while the layout was being drawn",
                code="changed_while_drawing",
                fix="Look at them, then draw again.",
            )

        def keep() -> int:
            _keep(connection, trial, found)
            if restricted(trial.active_plants, trial.setup, drift_of(trial)):
                layout_sets.note_due(connection, trial_id)
            else:
                layout_sets.keep(connection, trial_id, None)
            event = LayoutEvent(context.now(), "drawn", chosen, reason.strip() or "first drawing")
            plants.record_layout(connection, trial_id, event)
            return chosen

        once(connection, key, scope, payload, context.now(), keep)


def draw_others(context: Context, trial_id: int) -> None:
    """Draw the other layouts that the lot could have drawn, where they are still due.

    A lot that the bench restricts takes about a tenth of a second for them, which nobody waits for:
    they are drawn behind the answer, or when the program starts again after it was stopped.
    """
    while True:
        with context.database.reading() as connection:
            if not layout_sets.is_due(connection, trial_id):
                return
            trial = reading.load(connection, trial_id)
        others = _others(trial)
        with context.database.atomic() as connection:
            if not layout_sets.is_due(connection, trial_id):
                return  # another was here first, or the trial is gone
            if _drawn_for(reading.load(connection, trial_id)) == _drawn_for(trial):
                layout_sets.keep(connection, trial_id, others)


def draw_all_due(context: Context) -> None:
    """Draw what an earlier program left undone."""
    with context.database.reading() as connection:
        due = layout_sets.due(connection)
    for trial_id in due:
        draw_others(context, trial_id)


def layouts_of(connection: Connection, trial: Trial) -> DrawnLayouts | None:
    """Return the layouts that the lot could have drawn: as kept, else as they will be kept."""
    kept = layout_sets.kept(connection, trial.id)
    if kept is None and layout_sets.is_due(connection, trial.id):
        return _others(trial)
    return kept


def _others(trial: Trial) -> DrawnLayouts | None:
    place = {remedy.id: k for k, remedy in enumerate(trial.remedies)}
    laid = [p for p in trial.active_plants if p.block is not None and p.remedy_id is not None]
    if trial.seed is None or not laid:
        return None
    return other_layouts(
        laid,
        block_of={p.id: p.block for p in laid if p.block is not None},
        remedy_of={p.id: place[p.remedy_id] for p in laid if p.remedy_id is not None},
        setup=trial.setup,
        drift_cm=drift_of(trial),
        seed=trial.seed,
    )


def _check_drawable(trial: Trial, reason: str) -> None:
    check_not_sprayed(
        trial,
        "a plant was sprayed already, so the layout is fixed",
        code="layout_fixed",
        fix="Finish this trial as it stands, or start a new one.",
    )
    if trial.laid_out and not reason.strip():
        raise InputError(
            "a new drawing needs a reason",
            code="empty",
            field="reason",
            fix="Say why: reshuffling until it pleases is no longer random.",
        )


def _drawn_for(trial: Trial) -> tuple[object, ...]:
    """All that a drawing depends on."""
    remedies = tuple((r.id, r.role, r.drift_cm) for r in trial.remedies)
    return trial.active_plants, remedies, trial.setup, trial.seed


def _keep(connection: Connection, trial: Trial, found: Allocation) -> None:
    plants.clear_layout(connection, trial.id)
    ids = [remedy.id for remedy in trial.remedies]
    plants.set_layout(
        connection, trial.id, found.block_of, {p: ids[k] for p, k in found.remedy_of.items()}
    )
    codes = {i: (c.letter, c.notches) for i, c in zip(ids, found.codes, strict=True)}
    trials.set_codes(connection, codes)
    trials.set_seed(connection, trial.id, found.seed)
    trials.seal_key(connection, trial.id)


def clear_if_drawn(connection: Connection, context: Context, trial: Trial, reason: str) -> None:
    """Clear the layout when there is one, and record why."""
    if not trial.laid_out:
        return
    plants.clear_layout(connection, trial.id)
    layout_sets.keep(connection, trial.id, None)
    trials.set_codes(connection, {remedy.id: None for remedy in trial.remedies})
    trials.set_seed(connection, trial.id, None)
    plants.record_layout(connection, trial.id, LayoutEvent(context.now(), "cleared", None, reason))
