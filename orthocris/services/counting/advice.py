"""What helps while counting is planned and done: how many leaves, and what to look at again."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from orthocris.core.counting.checks import CountCheck, Counted, count_checks
from orthocris.core.counting.sampling import SamplingOption, Spread, options, spread_of
from orthocris.core.trial.lookup import find_look
from orthocris.core.trial.trial import Tally, Trial
from orthocris.services.context import Context
from orthocris.services.trial.own_pests import pest_of
from orthocris.storage.counting import counts
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class SamplingAdvice:
    """What numbers of leaves bring and cost, and what that rests on."""

    spread: Spread
    options: tuple[SamplingOption, ...]


def sampling_advice(
    context: Context, trial_id: int | None, plants: int | None = None, mean: float | None = None
) -> SamplingAdvice:
    """Return what numbers of leaves bring and cost, from a trial's counts or typical values."""
    leaves: dict[tuple[int, int], list[float]] = {}
    seconds: tuple[float, ...] = ()
    if trial_id is not None:
        with context.database.reading() as connection:
            trial = reading.load(connection, trial_id)
            leaves = counts.leaves_of(connection, trial_id, trial.measure)
            seconds = counts.seconds_a_leaf(connection, trial_id)
        plants = plants or len(trial.active_plants) or None
    spread = spread_of(leaves.values(), seconds, mean)
    return SamplingAdvice(spread, options(spread, plants or 24))


def checks_at(context: Context, trial_id: int, number: int) -> tuple[CountCheck, ...]:
    """Return what is worth a second look at a look, while it is counted."""
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        look = find_look(trial, number)
        samples = [
            t
            for t in counts.samples_at(connection, look.id)
            if t.measure == trial.measure and t.value is not None
        ]
        held = counts.at_look(connection, look.id)
        now = _finished(held, trial)
        before = _finished(counts.at_look(connection, trial.looks[0].id), trial)
        pest = pest_of(connection, trial.pest)
    counted = Counted(
        number=number,
        plants={p.id: p.name for p in trial.trial_plants},
        leaves={(t.plant_id, t.sample): t.value or 0.0 for t in samples},
        before={plant: _number(t) for plant, t in before.items()},
        now={plant: _number(t) for plant, t in now.items()},
        due=trial.date_of(look.day),
        on=[t.counted_on for t in now.values()],
        times=_hours(now.values()),
        times_before=_hours(before.values()),
        unscored=_unscored(trial, now, held),
    )
    return count_checks(counted, pest.sample_unit if pest else "leaf")


def _unscored(trial: Trial, now: dict[int, Tally], held: tuple[Tally, ...]) -> list[int]:
    if "damage" not in trial.setup.beside:
        return []
    scored = {t.plant_id for t in held if t.measure == "damage" and t.value is not None}
    return [p.id for p in trial.trial_plants if p.id in now and p.id not in scored]


def _finished(tallies: tuple[Tally, ...], trial: Trial) -> dict[int, Tally]:
    return {
        t.plant_id: t
        for t in tallies
        if t.measure == trial.measure and t.finished and t.value is not None
    }


def _number(tally: Tally) -> float:
    return (tally.value or 0.0) / (tally.of or tally.effort)


def _hours(tallies: Iterable[Tally]) -> list[datetime]:
    """When plants were counted, of those that were entered on the day itself."""
    return [t.counted_at for t in tallies if t.counted_at.date() == t.counted_on]
