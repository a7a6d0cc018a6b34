"""Look rounds: find out the pest by signs, decide, keep the record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.errors import InputError
from orthocris.core.finding.inspection import Inspection
from orthocris.core.finding.triage import Advice, Candidate, Sighting, advise, candidates
from orthocris.core.seasons.journal import EntryDraft, EntryKind, Level
from orthocris.knowledge import disorders, pest_named, pests, signs
from orthocris.services.context import Context
from orthocris.services.receipts import once
from orthocris.storage import finding as records

# Up to which share of what was looked at a level goes.
SHARES = {Level.NONE: 0.0, Level.FEW: 0.1, Level.SOME: 0.5, Level.MANY: 1.0}
OWN_TOLERANCE = 0.05  # for a pest of the gardener's own nothing is known; be careful


def find_out(seen: Sequence[str]) -> tuple[Candidate, ...]:
    """Rank pests, and what is none, by the signs seen; an unknown sign is refused."""
    known = {sign.key for sign in signs()}
    for sign in seen:
        if sign not in known:
            raise InputError(
                f"there is no sign called {sign!r}",
                code="unknown_sign",
                field="signs",
                fix="Choose from the list of signs.",
            )
    weights = {pest.key: pest.signs for pest in pests()}
    weights.update({none.key: none.signs for none in disorders()})
    return candidates(seen, weights)


def advise_on(context: Context, pest: str, place: str, look: Sighting) -> Advice:
    """Decide what a look calls for, with the trend since the last look at this place."""
    with context.database.reading() as connection:
        earlier = records.last_inspection(connection, pest, place.strip())
    known = pest_named(pest)
    if earlier is not None and look.earlier_share is None:
        look = replace(look, earlier_share=earlier.affected / earlier.looked)
    tolerance = known.tolerance_share if known else OWN_TOLERANCE
    return advise(look, tolerance, disease=known is not None and known.kind == "disease")


def keep_inspection(
    context: Context,
    pest: str,
    place: str,
    seen: Sequence[str],
    look: Sighting,
    key: str | None = None,
) -> Inspection:
    """Decide and keep a look round for the journal; return the record."""
    if not pest.strip():
        raise InputError(
            "no pest or disease is named",
            code="empty",
            field="pest",
            fix="Choose one, or write what it may be.",
        )
    find_out(seen)
    decision = advise_on(context, pest, place, look)
    record = Inspection(
        id=0,
        seen_at=context.now(),
        place=place.strip(),
        pest=pest.strip(),
        signs=tuple(seen),
        looked=look.looked,
        affected=look.affected,
        helpers=look.helpers,
        vigorous=look.vigorous,
        wilting=look.wilting,
        action=decision.action.value,
        reason=decision.reason,
    )
    with context.database.atomic() as connection:
        payload = (pest, place, tuple(seen), look)
        made = once(
            connection,
            key,
            "look",
            payload,
            context.now(),
            lambda: records.keep_inspection(connection, record),
        )
        return replace(record, id=made)


def look_of(record: Inspection) -> EntryDraft:
    """Return an inspection as a line of the journal: how many there were, by the share affected."""
    share = record.affected / record.looked
    level = next(level for level, most in SHARES.items() if share <= most)
    return EntryDraft(
        kind=EntryKind.LOOK,
        on=record.seen_at.date(),
        place=record.place,
        pest=record.pest,
        level=level,
        helpers=record.helpers > 0,
    )


def inspections(context: Context) -> tuple[Inspection, ...]:
    """Return the look rounds kept, the newest first."""
    with context.database.reading() as connection:
        return records.inspections(connection)
