"""The shipped remedies: what speaks against each here, and proposals for a question."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from orthocris.core.pantry.household import missing
from orthocris.core.pantry.own import listed, own_draft
from orthocris.core.pantry.remedies import (
    CatalogueRemedy,
    draft_of,
    ladder,
    square,
    usual_ladder,
)
from orthocris.core.pantry.suiting import misses, reasons_against, unsuitable
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.knowledge import remedies, remedy_named
from orthocris.services.context import Context
from orthocris.services.pantry.own_remedies import own_remedies
from orthocris.services.trial.own_pests import pest_of, target_of
from orthocris.services.verdict.known import known_of
from orthocris.storage import weather as yards

LAST = 10**6  # a rank behind all that was tried


@dataclass(frozen=True, slots=True)
class Suited:
    """A remedy of the list with its usual ladder and the reasons against it here.

    `acts_on_it` is false where the pest is none that it can act on; other reasons are the plants'.
    `tried` says what own trials against this pest found of it; `missing` names what it is made of
    and is not in the house.
    """

    remedy: CatalogueRemedy
    usual_ladder: tuple[float, ...]
    reasons: Sequence[str]
    acts_on_it: bool
    tried: str = ""
    missing: tuple[str, ...] = ()


def suited(context: Context, pest: str, setup: Setup) -> tuple[Suited, ...]:
    """Return every shipped remedy, and the gardener's own, as they suit a pest and a bench.

    What can be made of what is in the house stands first; of that, what did well in own trials and
    harmed nothing, in the order of what another trial would at least find.
    """
    with context.database.reading() as connection:
        known = pest_of(connection, pest)
        in_house = yards.load(connection).in_house
    target = target_of(pest, known)
    catalogue = {remedy.key: remedy for remedy in remedies()}
    own = (
        (listed(one), reasons_against(own_draft(one), setup, target, catalogue), True)
        for one in own_remedies(context)
    )
    shipped = (
        (one, unsuitable(one, setup, target), not misses(one, target, one.way))
        for one in remedies()
    )
    told: dict[str, tuple[int, str]] = {}
    here = known_of(context, pest)
    for rank, seen in enumerate(here.remedies):
        well = seen.low > 0 and not seen.harmed
        told.setdefault(seen.catalogue or seen.name, (rank if well else LAST, seen.words))
    for harm in here.harmful:
        told.setdefault(harm.catalogue or harm.name, (LAST, harm.words))

    def of(one: CatalogueRemedy) -> tuple[int, str]:
        return told.get(one.key) or told.get(one.name) or (LAST, "")

    found = [
        Suited(
            one,
            usual_ladder(one) if one.ingredients else (),
            reasons,
            acts,
            of(one)[1],
            missing([i.key for i in one.ingredients], in_house),
        )
        for one, reasons, acts in (*own, *shipped)
    ]
    return tuple(sorted(found, key=lambda one: (bool(one.missing), of(one.remedy)[0])))


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
