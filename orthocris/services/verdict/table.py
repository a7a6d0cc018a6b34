"""A trial as the judge takes it: every finished number, and the plants that died."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import partial

from orthocris.core import Observation
from orthocris.core.trial.measures import LOST
from orthocris.core.trial.plan import Look
from orthocris.core.trial.setup import DesignKind
from orthocris.core.trial.trial import CountedTrial

SHOWS_LATER = frozenset({"damage", "helpers", LOST})


def together(parts: Sequence[CountedTrial], look: Look | None = None) -> list[Observation]:
    """Return the numbers of a trial behind those of the trials from which it goes on.

    Those a verdict at `look` is made of, where one is named: harm shows later too. Plants of
    earlier parts carry the number of their part, so that no two share a name.
    """
    until = math.inf if look is None else float(look.moment)
    if len(parts) == 1:
        return _observations(parts[0], until)
    return [
        one._replace(
            plant=in_part(one.plant, k, len(parts)),
            group=one.group and in_part(one.group, k, len(parts)),
            column=one.column and f"{k}/{one.column}",
            added=k,
        )
        for k, part in enumerate(parts)
        for one in _observations(part, until)
    ]


def in_part(name: str, part: int, parts: int) -> str:
    """Return how a plant of a part (from 0) is called where `parts` are judged together."""
    return name if part == parts - 1 else f"{name} (part {part + 1})"


def _observations(trial: CountedTrial, until: float) -> list[Observation]:
    """Return every finished tally as an observation; days are the planned days of the looks.

    A plant that died is an observation of its own, on the day of its death.
    """
    names = {remedy.id: remedy.name for remedy in trial.remedies}
    # Plants that were lost stay in: the judge names them.
    plants = {plant.id: plant for plant in trial.plants if plant.remedy_id is not None}
    days = {look.id: float(look.moment) for look in trial.looks}
    latin = trial.setup.design is DesignKind.LATIN
    blocked = trial.setup.design is not DesignKind.RANDOMISED

    homes = {
        key: (plant.name, str(plant.block) if blocked else None, names[plant.remedy_id or 0])
        for key, plant in plants.items()
    }
    beside = {
        key: (str(plant.place) if latin else None, plant.host) for key, plant in plants.items()
    }
    rows = [
        (*homes[plant], day, measure, value, of, effort, *beside[plant], 0)
        for _, look, plant, measure, value, of, effort, finished, *_ in trial.tallies
        if value is not None and finished and plant in plants
        if (day := days[look]) <= until or measure in SHOWS_LATER
    ]
    counted = list(map(partial(tuple.__new__, Observation), rows))
    died = [
        Observation(
            *homes[plant.id],
            float((plant.died_on - trial.day_zero).days),
            LOST,
            1.0,
            None,
            1.0,
            *beside[plant.id],
        )
        for plant in plants.values()
        if plant.died_on is not None
    ]
    return counted + died
