"""The plants of a trial: adding, changing, setting aside, removing."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.errors import ConflictError
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.plants import check_death, check_plant, next_plants
from orthocris.core.trial.setup import DesignKind
from orthocris.core.trial.trial import Plant, Trial
from orthocris.services.context import Context
from orthocris.services.field.fixed import check_not_sprayed
from orthocris.services.planning.layouts import clear_if_drawn
from orthocris.services.receipts import once
from orthocris.services.revisions import check_unchanged, revision_of
from orthocris.storage.counting import counts, notebook
from orthocris.storage.database import Connection
from orthocris.storage.trial import plants, reading


def add_plants(
    context: Context,
    trial_id: int,
    *,
    prefix: str,
    rows: int,
    per_row: int,
    row_is_plant: bool = False,
    key: str | None = None,
) -> tuple[Plant, ...]:
    """Add rows of new plants, named prefix and number, behind those already there; return them.

    With `row_is_plant` they are leaves, halves, clusters or traps, and each row is on one plant.

    Sent again with the same key, those of them are returned that are still there.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)

        def make() -> int:
            _open_trial(trial)
            fresh = next_plants(trial.plants, prefix=prefix.strip(), rows=rows, per_row=per_row)
            for name, row, place in fresh:
                check_plant(Plant(0, name, row, place), trial.plants, trial.measure)
            ids = [
                plants.insert(
                    connection, trial_id, name, row, place, f"plant {row}" if row_is_plant else None
                )
                for name, row, place in fresh
            ]
            clear_if_drawn(connection, context, trial, "plants were added")
            return ids[0]

        scope = f"plants of trial {trial_id}"
        payload = (prefix, rows, per_row, row_is_plant)
        first = once(connection, key, scope, payload, context.now(), make)
        # Added in one go, they have ids that follow one another.
        made = range(first, first + rows * per_row)
        return tuple(p for p in plants.of_trial(connection, trial_id) if p.id in made)


def plant_revision(plant: Plant) -> str:
    """Return the revision of what can be edited of a plant."""
    return revision_of(
        *(plant.name, plant.row, plant.place, plant.match_count, plant.set_aside),
        *(plant.size, plant.host, plant.died_on),
    )


def bench_revision(of: Sequence[Plant]) -> str:
    """Return the revision of all plants of a trial together."""
    return revision_of(*(plant_revision(plant) for plant in of))


def change_plant(
    context: Context, trial_id: int, plant: Plant, expected: str | None = None
) -> None:
    """Change name, place, match count, size or set-aside reason of a plant.

    Before the first spray, a change of the match count, the size or of who takes part clears
    a layout that was drawn. After it, a plant of the layout may still be set aside as lost (and
    taken back): its counts so far stay, and the verdict names it. Where it stands is then fixed.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        before = _plant(trial, plant.id)
        check_unchanged(
            expected, plant_revision(before), before.name, whole=bench_revision(trial.plants)
        )
        check_plant(plant, trial.plants, trial.measure)
        check_death(plant, trial.sprayed_on, context.now().date())
        matched = (before.match_count, before.size, before.host)
        measured = (plant.match_count, plant.size, plant.host) != matched
        joins_or_leaves = (plant.set_aside is None) != (before.set_aside is None)
        is_loss = trial.sprayed_on is not None and before.remedy_id is not None
        if measured or (joins_or_leaves and not is_loss):
            _open_trial(trial)
            clear_if_drawn(connection, context, trial, f"{before.name} was changed")
        elif (plant.row, plant.place) != (before.row, before.place):
            check_movable(trial)
            clear_square(connection, context, trial, before)
        plants.update(connection, trial_id, plant)


def remove_plant(context: Context, trial_id: int, plant_id: int) -> None:
    """Remove a plant that was not counted or sprayed yet."""
    with context.database.atomic() as connection:
        trial = _open_trial(reading.load(connection, trial_id))
        plant = _plant(trial, plant_id)
        if counts.plant_counted(connection, plant_id):
            raise ConflictError(
                f"{plant.name} was counted already",
                code="plant_counted",
                fix="Set it aside with the reason instead; its counts stay on the record.",
            )
        if notebook.number_kept(connection, trial_id, plant_id):
            raise ConflictError(
                f"there are notes of {plant.name}",
                code="plant_noted",
                fix="Set it aside with the reason instead; its notes and photos stay.",
            )
        clear_if_drawn(connection, context, trial, f"{plant.name} was removed")
        plants.delete(connection, plant_id)


def check_movable(trial: Trial) -> None:
    """Refuse to move plants once the first was sprayed: the layout is where they stand."""
    check_not_sprayed(
        trial,
        "the first spray is done, so plants stay where they are",
        code="plants_fixed",
        fix="Put it back where it stood, or set it aside and say why.",
    )


def clear_square(connection: Connection, context: Context, trial: Trial, moved: Plant) -> None:
    """A Latin square lives by rows and places, so moving a plant clears it; tags of other
    designs go along with their plants."""
    if trial.setup.design is DesignKind.LATIN:
        clear_if_drawn(connection, context, trial, f"{moved.name} was moved")


def _open_trial(trial: Trial) -> Trial:
    check_not_sprayed(
        trial,
        "the first spray is done, so plants can no longer come or go",
        code="plants_fixed",
        fix="A plant that is lost can be set aside; its counts so far stay.",
    )
    return trial


def _plant(trial: Trial, plant_id: int) -> Plant:
    return first_of(
        trial.plants,
        lambda plant: plant.id == plant_id,
        f"there is no plant {plant_id} in {trial.name}",
        code="no_such_plant",
        fix="Reload the page; it may have been removed.",
    )
