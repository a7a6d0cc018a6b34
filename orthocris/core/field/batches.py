"""A batch: one bottle as it was really mixed, labelled, used within its life."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.trial.batches import Batch

MAX_LIFE_HOURS = 24 * 365


def use_by(card: RecipeCard, mixed_at: datetime, own_hours: float | None) -> datetime | None:
    """Return when a mix is past its life: the gardener's own hours, or the card's."""
    hours = own_hours if own_hours is not None else card.life_hours
    if hours is None:
        return None
    if not 0 < hours <= MAX_LIFE_HOURS:
        raise InputError(
            f"a life of {hours:g} hours",
            code="bad_life",
            field="life_hours",
            fix="Give hours above 0 and up to a year; a product's label tells them.",
        )
    # Hours as they pass, also over a change of the clock.
    return (mixed_at.astimezone(UTC) + timedelta(hours=hours)).astimezone(mixed_at.tzinfo)


def missing_acknowledgements(strong: Sequence[str], batch: Batch) -> tuple[str, ...]:
    """Return the keys of strong cautions that were not acknowledged for a batch."""
    return tuple(key for key in strong if key not in batch.acknowledged)
