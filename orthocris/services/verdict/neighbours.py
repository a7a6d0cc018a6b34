"""Trials of other gardens: looked at, taken in, taken off."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from orthocris.core import Observation, Verdict, judge
from orthocris.core.errors import ConflictError, InputError, NotFoundError, ObservationError
from orthocris.core.verdict.shared import Shared, check_numbers, shared_from
from orthocris.formats.bundle_reading import read_bundle
from orthocris.formats.tidy_table import read_table, write_table
from orthocris.knowledge import remedies as catalogue
from orthocris.services.context import Context
from orthocris.services.verdict.judging import RECKONED_BY
from orthocris.services.verdict.table import together
from orthocris.storage import neighbours
from orthocris.storage.database import Connection
from orthocris.storage.neighbours import Neighbour
from orthocris.storage.trial import reading, trials

LONGEST_GARDEN = 60


@dataclass(frozen=True, slots=True)
class Looked:
    """What a bundle would bring in: its trial, its numbers, and what is found in them here.

    `here` is the id under which the very same numbers were taken in before, `own` the name of the
    own trial whose numbers they are.
    """

    trial: Shared
    seen: Sequence[Observation]
    verdict: Verdict
    digest: str
    here: int | None
    own: str

    @property
    def plants(self) -> int:
        """How many plants it has numbers of."""
        return len({one.plant for one in self.seen})


def look_at(context: Context, content: bytes) -> Looked:
    """Read a bundle and judge its numbers anew; nothing is kept.

    Its own verdict is not believed. Notes and photos stay in it.

    Raises
    ------
    InputError
        When it cannot be read, tells of no trial, has no control or no whole look.
    """
    plain, table = read_bundle(content)
    if plain is None:
        raise InputError(
            "it tells of no trial whose key is open",
            code="bad_bundle",
            field="file",
            fix="A bundle can be shared once every plant is counted; save it anew then.",
        )
    trial = _with_known_remedies(shared_from(plain))
    seen, lines = read_table(table)
    check_numbers(trial, seen)
    try:
        verdict = judge(
            seen,
            control=trial.control,
            measure=trial.measure,
            look=f"{trial.look:g}",
            threshold=trial.threshold,
            terms=trial.terms,
        )
    except ObservationError as error:
        raise InputError(
            f"table.csv, line {lines[error.index]}: {error.message}",
            code="bad_bundle",
            field="file",
            fix=error.fix,
        ) from None
    if verdict.so_far:
        raise InputError(
            "its counting was still under way when it was saved",
            code="not_final",
            field="file",
            fix="Ask for it again once its last look is counted.",
        )
    digest = digest_of(trial.pest, trial.on, seen)
    with context.database.reading() as connection:
        here = neighbours.known(connection, digest)
        own = _own_name(connection, trial, digest)
    return Looked(trial, seen, verdict, digest, here, own)


def digest_of(pest: str, on: date, seen: Sequence[Observation]) -> str:
    """Name a trial by its numbers, in whatever order and whatever its plants are called."""
    numbers = sorted(repr((o.remedy, o.day, o.measure, o.value, o.of, o.effort)) for o in seen)
    return hashlib.sha256("\n".join([pest, on.isoformat(), *numbers]).encode()).hexdigest()


def _own_name(connection: Connection, trial: Shared, digest: str) -> str:
    """The name of the own trial with the very same numbers, empty where there is none."""
    for own in trials.begun_on(connection, trial.pest, trial.on):
        parts = reading.load_parts(connection, own)
        if digest_of(trial.pest, trial.on, together(parts)) == digest:
            return parts[-1].name
    return ""


def take_in(context: Context, content: bytes, garden: str) -> int:
    """Keep the trial of a bundle under the name of its garden and return its id.

    The very same numbers are kept once, whatever they are called.
    """
    named = " ".join(garden.split())
    if not 1 <= len(named) <= LONGEST_GARDEN or not named.isprintable():
        raise InputError(
            f"the garden's name has {len(named)} letters",
            code="bad_name",
            field="garden",
            fix=f"Say whose trial it is, in 1 to {LONGEST_GARDEN} letters.",
        )
    found = look_at(context, content)
    if found.own:
        raise ConflictError(
            f"it is your own trial {found.own}",
            code="own_trial",
            field="file",
            fix="It is among what you know already, once its verdict is read.",
        )
    judged = RECKONED_BY, found.verdict.to_dict()
    with context.database.atomic() as connection:
        here = neighbours.known(connection, found.digest)
        if here is not None:
            return here
        table = write_table(found.seen).decode()
        return neighbours.keep(
            connection, found.digest, named, found.trial, table, judged, context.now()
        )


def all_kept(context: Context) -> tuple[Neighbour, ...]:
    """Return the trials of other gardens, the oldest first."""
    with context.database.reading() as connection:
        return neighbours.kept(connection)


def take_off(context: Context, neighbour_id: int) -> None:
    """Take a trial off what is known, or raise NotFoundError."""
    with context.database.atomic() as connection:
        if not neighbours.remove(connection, neighbour_id, context.now()):
            raise NotFoundError(
                f"there is no neighbour's trial {neighbour_id}",
                code="no_such_neighbour",
                fix="Reload the page: it was taken off already.",
            )


def _with_known_remedies(trial: Shared) -> Shared:
    """Keys of remedies that are not shipped here are forgotten: such remedies go by their names."""
    shipped = {one.key for one in catalogue()}
    remedies = tuple(
        one
        if one.traits.catalogue in shipped
        else replace(one, traits=replace(one.traits, catalogue=None))
        for one in trial.remedies
    )
    return replace(trial, remedies=remedies)
