"""Keeping what was counted: one number, or the taps of a device that was out of reach."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from orthocris.core.counting.tally import (
    TallyEntry,
    Tap,
    check_entry,
    check_session,
    clock_off,
    day_counted,
    time_of_tap,
)
from orthocris.core.errors import ConflictError, NotFoundError, OrthocrisError
from orthocris.core.trial.trial import Tally
from orthocris.services.context import Context
from orthocris.services.field import following
from orthocris.storage.counting import counts, keeping
from orthocris.storage.database import Connection


@dataclass(frozen=True, slots=True)
class Refused:
    """A tap that was not kept, with the reason; the rest of its batch was."""

    key: str
    error: OrthocrisError


@dataclass(frozen=True, slots=True)
class Kept:
    """What became of a batch of taps; `contested` are those that contradict another device.

    `slow` is by how many seconds the device's clock is behind (negative: ahead), 0 where it is
    right.
    """

    kept: tuple[str, ...]
    refused: tuple[Refused, ...]
    contested: tuple[str, ...]
    slow: float = 0.0


def keep_tally(
    context: Context, trial_id: int, look_number: int, entry: TallyEntry
) -> tuple[Tally, ...]:
    """Keep what was counted on one plant; return its whole history, the newest last.

    Parameters
    ----------
    look_number:
        0 for the count before, then 1, 2, …

    Raises
    ------
    InputError
        When the number is not one its measure allows.
    ConflictError
        When the look is out of turn; see `day_counted`.
    """
    with context.database.atomic() as connection:
        now = context.now()
        keep_entry(connection, trial_id, look_number, entry, now)
        following.settle(connection, trial_id)
        place = keeping.place_of(connection, trial_id, look_number, entry)
        return counts.history(connection, place.look_id, entry.plant_id, entry.measure)


def keep_taps(
    context: Context, taps: Sequence[Tap], *, sent_at: datetime | None = None, device: str = ""
) -> Kept:
    """Keep taps of one device in one transaction, each once however often it is sent.

    What one tap is refused for keeps no other from being kept. Of the taps of one line (session,
    plant, sample and measure) the newest holds; the others are kept as taps. A tap is of the
    moment its device made it, though it comes days later. Where the device's clock goes wrong, by
    the time at which it says to have sent them, their times are set right; both are kept.
    """
    with context.database.atomic() as connection:
        now = context.now()
        off = clock_off(sent_at, now)
        known = keeping.known_taps(connection, [tap.key for tap in taps])
        fresh, refused = _sorted_out(taps, known)
        contested: list[str] = []
        for line in _by_line(fresh):
            newest = max(line, key=lambda tap: tap.entry.step)
            first = min(line, key=lambda tap: tap.entry.step)
            try:
                at = time_of_tap(newest.tapped_at + off, now)
                kept, against = keep_entry(
                    connection, newest.trial_id, newest.look_number, newest.entry, at, device
                )
                if first is not newest:  # it was begun with the first of them
                    begun = time_of_tap(first.tapped_at + off, now)
                    keeping.begun_at(connection, kept, begun)
            except OrthocrisError as error:
                refused += [Refused(tap.key, error) for tap in line]
                continue
            keeping.keep_taps(connection, kept, line, now)
            if against:
                contested += [tap.key for tap in line]
        for trial_id in {tap.trial_id for tap in fresh if tap.entry.finished}:
            following.settle(connection, trial_id)
    lost = {refusal.key for refusal in refused}
    return Kept(
        tuple(tap.key for tap in taps if tap.key not in lost),
        tuple(refused),
        tuple(contested),
        off.total_seconds(),
    )


def _sorted_out(
    taps: Sequence[Tap], known: Mapping[str, tuple[object, ...]]
) -> tuple[list[Tap], list[Refused]]:
    """Leave out taps that are kept already; refuse other numbers under a name that was used."""
    fresh: dict[str, Tap] = {}
    refused: list[Refused] = []
    for tap in taps:
        before = fresh[tap.key].said if tap.key in fresh else known.get(tap.key)
        if before is None:
            fresh[tap.key] = tap
        elif before != tap.said:
            error = ConflictError(
                "another tap was sent under this name before",
                code="key_reused",
                field="key",
                fix="Give every tap a name of its own; then look at what is kept of this plant.",
            )
            refused.append(Refused(tap.key, error))
    return list(fresh.values()), refused


def settle_contest(
    context: Context, trial_id: int, look_number: int, plant_id: int, sample: int, session: str
) -> None:
    """Say which of two counts of one sample is right; the other stays on record, set aside."""
    with context.database.atomic() as connection:
        entry = TallyEntry(plant_id, "", session, 0, None, None, 1.0, False, sample=sample)
        place = keeping.place_of(connection, trial_id, look_number, entry)
        if not keeping.settle(connection, place, plant_id, sample, session):
            raise NotFoundError(
                "nothing was counted there by that device",
                code="no_such_count",
                field="session",
                fix="Read the look anew and choose one of the two.",
            )
        following.settle(connection, trial_id)


def _by_line(taps: Sequence[Tap]) -> list[list[Tap]]:
    lines: dict[tuple[object, ...], list[Tap]] = {}
    for tap in taps:
        lines.setdefault((tap.trial_id, tap.look_number, *tap.entry.slot), []).append(tap)
    return list(lines.values())


def keep_entry(
    connection: Connection,
    trial_id: int,
    look_number: int,
    entry: TallyEntry,
    now: datetime,
    device: str = "",
) -> tuple[int, bool]:
    """Check a number and keep it; return its line, and whether it contradicts another device."""
    place = keeping.place_of(connection, trial_id, look_number, entry)
    check_entry(entry, place.measure)
    check_session(place, entry)
    on = day_counted(place, entry, now.date())
    return keeping.keep(connection, place, entry, on, now, device)
