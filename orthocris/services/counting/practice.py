"""Practice in counting: sessions on drawn leaves, and how a person counts over all of them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from orthocris.core.counting.leaf.scene import STAGES, Figure, Leaf, Truth, grow
from orthocris.core.counting.practice import (
    MOST_LEAVES,
    Counted,
    CounterError,
    Session,
    check_counted,
    counter_error,
    leaf_seed,
    practice_leaf,
    truth_of,
)
from orthocris.core.errors import ConflictError, InputError, NotFoundError
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera
from orthocris.services.context import Context
from orthocris.services.receipts import check_same
from orthocris.storage.counting import practice

LONGEST_NAME = 40


@dataclass(frozen=True, slots=True)
class LeafTold:
    """A practice leaf that was counted: what was counted, the truth, and where everything sits."""

    number: int
    counted: Counted
    truth: Truth
    figures: tuple[Figure, ...]


@dataclass(frozen=True, slots=True)
class SessionTold:
    """A session as it stands; leaves not counted yet tell nothing."""

    session: Session
    leaves: tuple[LeafTold, ...]
    error: CounterError


@dataclass(frozen=True, slots=True)
class Progress:
    """All sessions of a person with one pest, the oldest first, and what they come to together."""

    pest: str
    person: str
    sessions: tuple[tuple[Session, CounterError], ...]
    error: CounterError


def begin(
    context: Context, key: str, pest: str, fill: str, leaves: int, person: str
) -> SessionTold:
    """Begin a session, once for its key."""
    practice_leaf(pest, 0, 1, fill)  # says what is wrong with either
    if not 1 <= leaves <= MOST_LEAVES or len(person) > LONGEST_NAME:
        raise InputError(
            f"{leaves} leaves by {person[:LONGEST_NAME]!r}",
            code="bad_practice",
            field="leaves",
            fix=f"Choose 1 to {MOST_LEAVES} leaves, and a name of at most {LONGEST_NAME} letters.",
        )
    wanted = Session(0, key, pest, fill, person.strip(), context.new_seed(), leaves, context.now())
    with context.database.atomic() as connection:
        found = practice.session(connection, practice.add_session(connection, wanted))
    check_same(
        (found.pest, found.fill, found.person, found.leaves),
        (pest, fill, person.strip(), leaves),
    )
    return _told(found)


def session_of(context: Context, session_id: int) -> SessionTold:
    """Return a session as it stands."""
    with context.database.reading() as connection:
        return _told(practice.session(connection, session_id))


def leaf_picture(context: Context, session_id: int, number: int) -> bytes:
    """Return the picture of a practice leaf (JPEG)."""
    with context.database.reading() as connection:
        found = practice.session(connection, session_id)
    _check_number(found, number)
    plan = practice_leaf(found.pest, found.seed, number, found.fill)
    return SimulatedLeafCamera(leaf_seed(found.seed, number), plan).take()


def keep_count(context: Context, session_id: int, number: int, counted: Counted) -> SessionTold:
    """Keep what was counted on a leaf; after that its truth is told, so it cannot be changed.

    Raises
    ------
    ConflictError
        When something else was counted on it before.
    """
    check_counted(counted)
    with context.database.atomic() as connection:
        found = practice.session(connection, session_id)
        _check_number(found, number)
        before = found.counted.get(number)
        if before is not None and replace(before[0], seconds=0) != replace(counted, seconds=0):
            raise ConflictError(
                f"leaf {number} was counted, and its truth was told",
                code="already_counted",
                fix="Go on with the next leaf.",
            )
        truth = truth_of(found.pest, found.seed, number, found.fill)
        practice.keep_leaf(connection, session_id, number, counted, truth, context.now())
        return _told(practice.session(connection, session_id))


def progress(context: Context) -> tuple[Progress, ...]:
    """Return how everybody counts, by pest and person, who practised last first."""
    with context.database.reading() as connection:
        found = [s for s in practice.sessions(connection) if s.counted]
    by_person: dict[tuple[str, str], list[Session]] = {}
    for session in found:
        by_person.setdefault((session.pest, session.person), []).append(session)
    last = sorted(by_person.values(), key=lambda own: -own[-1].id)
    return tuple(_progress(own) for own in last)


def _progress(own: list[Session]) -> Progress:
    each = tuple((s, counter_error(list(s.counted.values()))) for s in own)
    together = counter_error([pair for s in own for pair in s.counted.values()])
    return Progress(own[0].pest, own[0].person, each, together)


def _told(session: Session) -> SessionTold:
    leaves = []
    for number, (counted, truth) in sorted(session.counted.items()):
        figures = tuple(f for f in _leaf(session, number).figures if f.thing in STAGES)
        leaves.append(LeafTold(number, counted, truth, figures))
    return SessionTold(
        session, tuple(leaves), counter_error([(leaf.counted, leaf.truth) for leaf in leaves])
    )


def _leaf(session: Session, number: int) -> Leaf:
    plan = practice_leaf(session.pest, session.seed, number, session.fill)
    return grow(leaf_seed(session.seed, number), plan)


def _check_number(session: Session, number: int) -> None:
    if not 1 <= number <= session.leaves:
        raise NotFoundError(
            f"this session has no leaf {number}",
            code="no_such_leaf",
            fix=f"Its leaves are 1 to {session.leaves}.",
        )
