"""Looks, rounds and plants of a trial by number or id."""

from __future__ import annotations

from orthocris.core.errors import NotFoundError
from orthocris.core.trial.plan import Look, Round, TrialPlan
from orthocris.core.trial.trial import Plant, Trial


def find_look(trial: TrialPlan, number: int) -> Look:
    """Return a look by its number, or raise NotFoundError."""
    for look in trial.looks:
        if look.number == number:
            return look
    raise NotFoundError(
        f"{trial.name} has no look {number}",
        code="no_such_look",
        fix=f"Its looks are 0 (before) to {len(trial.looks) - 1}.",
    )


def find_round(trial: TrialPlan, number: int) -> Round:
    """Return a round by its number, or raise NotFoundError."""
    for round_ in trial.rounds:
        if round_.number == number:
            return round_
    raise NotFoundError(
        f"{trial.name} has no round {number}",
        code="no_such_round",
        fix=f"Its rounds are 1 to {len(trial.rounds)}.",
    )


def trial_plant(trial: Trial, plant_id: int) -> Plant:
    """Return a plant that takes part, or raise NotFoundError."""
    for plant in trial.trial_plants:
        if plant.id == plant_id:
            return plant
    raise NotFoundError(
        f"plant {plant_id} takes no part in {trial.name}",
        code="no_such_plant",
        fix="Draw the layout first, or choose a plant that has a tag.",
    )
