"""The gardener's own pests: kept, changed, taken off; and a pest by its key, shipped or own."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.pantry.suiting import Target
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.own_pests import OwnPest, check_own_pest, own_named
from orthocris.knowledge import Pest, pest_named, pests
from orthocris.services.context import Context
from orthocris.services.finding import OWN_TOLERANCE
from orthocris.services.receipts import once
from orthocris.storage.database import Connection
from orthocris.storage.trial import own_pests as shelf


def own_pests(context: Context) -> tuple[OwnPest, ...]:
    """Return the gardener's own pests, by name."""
    with context.database.reading() as connection:
        return shelf.all_kept(connection)


def keep_pest(context: Context, pest: OwnPest, key: str | None = None) -> OwnPest:
    """Keep a new pest on the list; sent again with the same key, it is kept once."""
    plain = replace(_plain(pest), id=0)
    with context.database.atomic() as connection:

        def make() -> int:
            _check(connection, plain)
            return shelf.keep(connection, plain, context.now())

        return _found(connection, once(connection, key, "own pest", pest, context.now(), make))


def change_pest(context: Context, pest: OwnPest) -> OwnPest:
    """Change a pest of the list; trials of it keep the name they have."""
    with context.database.atomic() as connection:
        _found(connection, pest.id)
        _check(connection, _plain(pest))
        shelf.keep(connection, _plain(pest), context.now())
        return _found(connection, pest.id)


def drop_pest(context: Context, pest_id: int) -> None:
    """Take a pest off the list; trials of it stay as they are."""
    with context.database.atomic() as connection:
        _found(connection, pest_id)
        shelf.remove(connection, pest_id, context.now())


def _plain(pest: OwnPest) -> OwnPest:
    return replace(
        pest,
        name=" ".join(pest.name.split()),
        sample_unit=pest.sample_unit.strip().lower(),
        count_what=pest.count_what.strip(),
        dead_or_alive=pest.dead_or_alive.strip(),
        where=pest.where.strip(),
    )


def _check(connection: Connection, pest: OwnPest) -> None:
    words = [word for known in pests() for word in known.words]
    check_own_pest(pest, words, shelf.all_kept(connection))


def _found(connection: Connection, pest_id: int) -> OwnPest:
    return first_of(
        shelf.all_kept(connection),
        lambda pest: pest.id == pest_id,
        f"you keep no pest {pest_id}",
        code="no_such_pest",
        fix="Choose one of your list.",
    )


def target_of(key: str, known: Pest | None) -> Target:
    """Return what a remedy must know of a pest; of one nobody knows only its key."""
    if known is None:
        return Target(key)
    return Target(known.key, known.kind, known.cannot_work, known.in_soil)


def pest_of(connection: Connection, key: str) -> Pest | None:
    """Return a pest by its key, or by the name under which the gardener keeps it; or None."""
    shipped = pest_named(key)
    if shipped is not None:
        return shipped
    own = own_named(key, shelf.all_kept(connection))
    return None if own is None else as_pest(own)


def as_pest(own: OwnPest) -> Pest:
    """Return an own pest as the screens show it; nothing is claimed of what works on it."""
    return Pest(
        key=own.name,
        name=own.name,
        kind=own.kind,
        signs={},
        tell_tale="",
        look_alikes=(),
        where=own.where,
        sample_unit=own.sample_unit,
        count_what=own.count_what,
        stages=(),
        dead_or_alive=own.dead_or_alive,
        measure=own.measure,
        measures=(),
        tolerance_share=OWN_TOLERANCE,
        tolerance="",
        helpers=(),
        cannot_work={},
        generation_days=own.generation_days,
        look_days=own.look_days,
        round_days=own.round_days,
        first_aid="",
        note="",
        synonyms=(),
    )
