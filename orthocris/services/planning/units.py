"""Leaves or halves of the plants there are, where whole plants are too few."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.errors import ConflictError
from orthocris.core.planning.units import Proposal, proposals
from orthocris.core.trial.plants import check_plant
from orthocris.core.trial.setup import UNIT_WORDS, Unit
from orthocris.core.trial.trial import Plant
from orthocris.core.trial.ways import WHOLE
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.planning.layouts import clear_if_drawn
from orthocris.services.planning.powers import assumptions_of
from orthocris.services.trial.questions import question_of, save_question
from orthocris.storage.counting import counts, notebook
from orthocris.storage.trial import plants, reading


def unit_proposals(context: Context, trial_id: int) -> tuple[Proposal, ...]:
    """Return what could stand for plants that are too few, each with what it can show."""
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
    if trial.sprayed_on is not None or any(WHOLE & set(r.traits.ways) for r in trial.remedies):
        return ()
    assumed = replace(assumptions_of(trial, None), starts=())  # a leaf has fewer than its plant
    number = len(trial.active_plants)
    return tuple(proposals(trial.setup, len(trial.remedies), number, assumed, trial.id))


def split_plants(context: Context, trial_id: int, unit: Unit, each: int) -> None:
    """Put so many leaves or halves in the place of each plant; each plant is a row of them.

    Raises
    ------
    ConflictError
        When a plant was sprayed, or one was counted or noted at a look.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        check_not_sprayed(
            trial,
            "a plant was sprayed already",
            code="trial_started",
            fix="Finish this trial as it stands, or start a new one.",
        )
        whole = trial.active_plants
        for plant in whole:
            counted = counts.plant_counted(connection, plant.id)
            if counted or notebook.number_kept(connection, trial_id, plant.id):
                raise ConflictError(
                    f"{plant.name} was counted already as a whole",
                    code="plant_counted",
                    fix="Begin a new trial of its leaves.",
                )
        clear_if_drawn(connection, context, trial, f"plants became {UNIT_WORDS[unit][1]} of them")
        for plant in whole:
            plants.delete(connection, plant.id)
        taken = max((p.row for p in trial.plants if p not in whole), default=0)
        for row, plant in enumerate(whole, taken + 1):
            for place in range(1, each + 1):
                name = f"{plant.name}.{place}"
                check_plant(Plant(0, name, row, place, host=plant.name), (), trial.measure)
                plants.insert(connection, trial_id, name, row, place, plant.name)
        now = reading.load(connection, trial_id)
        asked = question_of(now)
        asked = replace(asked, setup=replace(asked.setup, unit=unit))
        save_question(connection, context, now, asked, now.start_on)
