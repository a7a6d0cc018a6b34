"""The gardener's own list of remedies: kept, changed, taken off."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.pantry.own import OwnRemedy, check_own
from orthocris.core.trial.lookup import first_of
from orthocris.services.context import Context
from orthocris.services.pantry.soundness import check_one_remedy
from orthocris.services.receipts import once
from orthocris.storage.database import Connection
from orthocris.storage.pantry import own_remedies as shelf


def own_remedies(context: Context) -> tuple[OwnRemedy, ...]:
    """Return the gardener's own remedies, by name."""
    with context.database.reading() as connection:
        return shelf.all_kept(connection)


def keep_remedy(context: Context, remedy: OwnRemedy, key: str | None = None) -> OwnRemedy:
    """Keep a new remedy on the list; sent again with the same key, it is kept once."""
    with context.database.atomic() as connection:

        def make() -> int:
            check_own(remedy, shelf.all_kept(connection))
            _check_sound(remedy)
            return shelf.keep(connection, replace(remedy, id=0), context.now())

        made = once(connection, key, "own remedy", remedy, context.now(), make)
        return _found(connection, made)


def change_remedy(context: Context, remedy: OwnRemedy) -> OwnRemedy:
    """Change a remedy of the list; trials that were asked with it stay as they are."""
    with context.database.atomic() as connection:
        _found(connection, remedy.id)
        check_own(remedy, shelf.all_kept(connection))
        _check_sound(remedy)
        shelf.keep(connection, remedy, context.now())
        return _found(connection, remedy.id)


def drop_remedy(context: Context, remedy_id: int) -> None:
    """Take a remedy off the list."""
    with context.database.atomic() as connection:
        _found(connection, remedy_id)
        shelf.remove(connection, remedy_id, context.now())


def _check_sound(remedy: OwnRemedy) -> None:
    steps = [(step.name, step.recipe, step.way) for step in remedy.traits.steps]
    for name, recipe, way in ((remedy.name, remedy.recipe, remedy.traits.way), *steps):
        check_one_remedy(name, recipe, way)


def _found(connection: Connection, remedy_id: int) -> OwnRemedy:
    return first_of(
        shelf.all_kept(connection),
        lambda remedy: remedy.id == remedy_id,
        f"you keep no remedy {remedy_id}",
        code="no_such_remedy",
        fix="Choose one of your list.",
    )
