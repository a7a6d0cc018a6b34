"""Drawing the layout, again if need be, and keeping the record of it."""

from __future__ import annotations

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.planning.allocation import Allocation, allocate
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.planning.neighbours import drift_of
from orthocris.core.planning.reference import other_layouts
from orthocris.core.trial.plan import Role
from orthocris.core.trial.trial import Trial
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.receipts import made_before, once
from orthocris.storage.database import Connection
from orthocris.storage.trial import plants, reading, trials


def draw_layout(
    context: Context, trial_id: int, *, reason: str, seed: int | None, key: str | None = None
) -> None:
    """Form blocks and allot remedies at random, before the first spray only.

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
    control = next(i for i, r in enumerate(trial.remedies) if r.role is Role.CONTROL)
    # Drawing may take long where plants stand close: nobody else waits for it.
    found = allocate(
        trial.active_plants,
        remedies=len(trial.remedies),
        control=control,
        seed=chosen,
        setup=trial.setup,
        drift_cm=drift_of(trial),
    )
    others = other_layouts(
        trial.active_plants, found, setup=trial.setup, drift_cm=drift_of(trial), seed=chosen
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
            plants.keep_layouts(connection, trial_id, others)
            event = LayoutEvent(context.now(), "drawn", chosen, reason.strip() or "first drawing")
            plants.record_layout(connection, trial_id, event)
            return chosen

        once(connection, key, scope, payload, context.now(), keep)


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
    plants.keep_layouts(connection, trial.id, None)
    trials.set_codes(connection, {remedy.id: None for remedy in trial.remedies})
    trials.set_seed(connection, trial.id, None)
    plants.record_layout(connection, trial.id, LayoutEvent(context.now(), "cleared", None, reason))
