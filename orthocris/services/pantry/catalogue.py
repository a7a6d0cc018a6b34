"""The shipped remedies: what speaks against each here, and proposals for a question."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from orthocris.core.pantry.own import listed, own_draft
from orthocris.core.pantry.remedies import (
    CatalogueRemedy,
    draft_of,
    ladder,
    square,
    usual_ladder,
)
from orthocris.core.pantry.suiting import unsuitable
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.knowledge import remedies, remedy_named
from orthocris.services.context import Context
from orthocris.services.pantry.own_remedies import own_remedies
from orthocris.services.trial.own_pests import pest_of, target_of


@dataclass(frozen=True, slots=True)
class Suited:
    """A shipped remedy with its usual ladder and, by code, the reasons against it here."""

    remedy: CatalogueRemedy
    usual_ladder: tuple[float, ...]
    reasons: Sequence[str] | Mapping[str, str]


def suited(context: Context, pest: str, setup: Setup) -> tuple[Suited, ...]:
    """Return every shipped remedy, and the gardener's own, as they suit a pest and a bench."""
    with context.database.reading() as connection:
        known = pest_of(connection, pest)
    own = tuple(listed(remedy) for remedy in own_remedies(context))
    return tuple(
        Suited(
            remedy,
            usual_ladder(remedy) if remedy.ingredients else (),
            unsuitable(remedy, setup, target_of(pest, known)),
        )
        for remedy in (*own, *remedies())
    )


def propose(
    context: Context, keys: Sequence[str], *, strengths: Sequence[float] | None, as_square: bool
) -> tuple[RemedyDraft, ...]:
    """Make remedies for a question: a square of two, a ladder of one, or each as it is listed."""
    own = {remedy.key: remedy for remedy in own_remedies(context)}
    if any(key in own for key in keys):
        return tuple(
            own_draft(own[key]) if key in own else draft_of(remedy_named(key)) for key in keys
        )
    chosen = [remedy_named(key) for key in keys]
    if as_square and len(chosen) == 2:
        return square(chosen[0], chosen[1])
    if strengths is not None:
        return ladder(chosen[0], strengths)
    return tuple(draft_of(remedy) for remedy in chosen)
