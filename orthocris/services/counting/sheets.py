"""Reading what was counted: the sheet of a look, and the record of one plant."""

from __future__ import annotations

from collections.abc import Iterable

from orthocris.core.counting.agreement import Agreement, agreement
from orthocris.core.counting.eggs import ClusterWatch, EggLook, watch
from orthocris.core.counting.sheet import CountSheet, Earlier
from orthocris.core.trial.lookup import find_look
from orthocris.core.trial.measures import EGG_MEASURE, MeasureKey
from orthocris.core.trial.plan import Look, TrialPlan
from orthocris.core.trial.trial import Tally
from orthocris.services.context import Context
from orthocris.storage.counting import counts
from orthocris.storage.database import Connection
from orthocris.storage.trial import reading


def _earlier(connection: Connection, plan: TrialPlan, look: Look) -> tuple[Earlier, ...]:
    """Return what the leaves had at the newest look before, where they are marked."""
    before = [other for other in plan.looks if other.number < look.number]
    if not plan.setup.marked or not before:
        return ()
    return tuple(
        Earlier(t.plant_id, t.sample, t.value)
        for t in counts.samples_at(connection, before[-1].id)
        if t.measure == plan.measure and t.sample and t.value is not None
    )


def egg_watch(context: Context, trial_id: int) -> tuple[ClusterWatch, ...]:
    """Return how each egg cluster went, by plant id; empty where no eggs are watched."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        if plan.measure != EGG_MEASURE:
            return ()
        tallies = counts.current(connection, trial_id)
    number = {look.id: look.number for look in plan.looks}
    gone = {(t.plant_id, t.look_id): t.value for t in tallies if t.measure == MeasureKey.VANISHED}
    looks: dict[int, list[tuple[int, EggLook]]] = {}
    for t in tallies:
        if t.measure == EGG_MEASURE and t.value is not None and t.of is not None:
            vanished = gone.get((t.plant_id, t.look_id)) or 0.0
            seen = EggLook(t.counted_on, t.of, t.value, vanished)
            looks.setdefault(t.plant_id, []).append((number[t.look_id], seen))
    found = (
        watch(plant, [look for _, look in sorted(own, key=lambda pair: pair[0])])
        for plant, own in sorted(looks.items())
    )
    return tuple(one for one in found if one is not None)


def agreements(context: Context, trial_id: int, look_number: int) -> tuple[Agreement, ...]:
    """Return how second people's numbers of a look compare with those that hold."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        look = find_look(plan, look_number)
        return compared(connection, look.id, plan.measure)


def compared(connection: Connection, look_id: int, measure: str) -> tuple[Agreement, ...]:
    """Compare second people's numbers of a measure with those that hold, by place."""
    seconds = counts.seconds_at(connection, look_id)
    if not seconds:
        return ()
    first = _by_place(counts.samples_at(connection, look_id), measure)
    return tuple(
        agreement(person, first, _by_place(lines, measure)) for person, lines in seconds.items()
    )


def _by_place(tallies: Iterable[Tally], measure: str) -> dict[tuple[int, int], float]:
    return {
        (t.plant_id, t.sample): t.value / (t.of or t.effort)
        for t in tallies
        if t.measure == measure and t.value is not None and t.finished
    }


def tally_history(
    context: Context, trial_id: int, look_number: int, plant_id: int, measure: str
) -> tuple[Tally, ...]:
    """Return every count kept of one plant, look and measure, the oldest first."""
    with context.database.reading() as connection:
        look = find_look(reading.load_plan(connection, trial_id), look_number)
        return counts.history(connection, look.id, plant_id, measure)


def count_sheet(context: Context, trial_id: int, look_number: int, person: str = "") -> CountSheet:
    """Return what is counted at one look so far, or what a second person counted: that alone."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        look = find_look(plan, look_number)
        if person:
            own = counts.seconds_at(connection, look.id, person).get(person, ())
            totals = counts.totals_before(connection, trial_id, look_number, plan.measure)
            return CountSheet(own, (), totals)
        return CountSheet(
            counts.samples_at(connection, look.id),
            counts.early_at(connection, look.id),
            counts.totals_before(connection, trial_id, look_number, plan.measure),
            counts.contests_at(connection, look.id),
            counts.damage_before(connection, trial_id),
            _earlier(connection, plan, look),
        )
