"""Entering a trial that was done on paper, in one sitting and all or nothing."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, time

from orthocris.core.counting.paper import Allotted, Paper, allotted, check_days
from orthocris.core.counting.pasted import Pasted, read_pasted
from orthocris.core.counting.tally import TallyEntry
from orthocris.core.errors import ConflictError, InputError, OrthocrisError
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.trial.lookup import find_look, find_round
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.setup import DesignKind
from orthocris.core.trial.sprays import RoundStart, SprayEntry
from orthocris.core.trial.trial import CountedTrial, Trial
from orthocris.services.context import Context
from orthocris.services.counting.keeping import keep_entry
from orthocris.services.field import following
from orthocris.services.receipts import once
from orthocris.storage.database import Connection
from orthocris.storage.field import rounds as kept_rounds
from orthocris.storage.field import sprays
from orthocris.storage.trial import plants, reading, trials

LETTERS = "ABCDEFGHIJKL"
MOST_IN_A_ROW = 12
NOON = time(12)


def enter_paper(context: Context, trial_id: int, paper: Paper, key: str | None = None) -> None:
    """Keep what stands on paper: who got what, the days of spraying, and every count.

    A number that is kept already and is the same is left as it is; another is a correction.
    Days are the true ones; that it was entered later is seen from the time of entering.

    Raises
    ------
    InputError
        For the first line, day or number that cannot be; nothing is kept then.
    ConflictError
        When who got what is given for a trial whose layout is drawn.
    """
    with context.database.atomic() as connection:
        now = context.now()

        def make() -> int:
            trial = reading.load(connection, trial_id)
            check_days(paper, trial.sprayed_on, now.date())
            if paper.plants:
                _allot(connection, trial, paper, now)
            for number, on in sorted(paper.rounds):
                _spray(connection, trial_id, number, datetime.combine(on, NOON, now.tzinfo), now)
            _count(connection, trial_id, paper, now)
            known = {r.number for r in trial.rounds if trial.sprayed_in(r)}
            following.settle(connection, trial_id, {n for n, _ in paper.rounds} - known)
            return trial_id

        once(connection, key, f"paper of trial {trial_id}", paper, now, make)


def _allot(connection: Connection, trial: Trial, paper: Paper, now: datetime) -> None:
    if trial.laid_out:
        raise ConflictError(
            "the layout is drawn already",
            code="layout_fixed",
            field="plants",
            fix="Enter the counts alone; or clear the layout first, if the paper is right.",
        )
    blocked = trial.setup.design is not DesignKind.RANDOMISED
    found = allotted(paper.plants, trial.remedies, blocked=blocked)
    ids = _plant_ids(connection, trial, found)
    plants.set_layout(
        connection,
        trial.id,
        {ids[a.name.casefold()]: a.block for a in found},
        {ids[a.name.casefold()]: a.remedy_id for a in found},
    )
    codes = {r.id: (LETTERS[k], k + 1) for k, r in enumerate(trial.remedies)}
    trials.set_codes(connection, codes)
    trials.open_key(connection, trial.id, now)  # whoever has the paper knows who got what
    plants.record_layout(
        connection, trial.id, LayoutEvent(now, "given", None, "Who got what was decided on paper.")
    )


def _plant_ids(connection: Connection, trial: Trial, found: list[Allotted]) -> dict[str, int]:
    """The plants by name; those that are not on the bench yet are put behind the others."""
    ids = {p.name.casefold(): p.id for p in trial.plants}
    row = max((p.row for p in trial.plants), default=0)
    fresh = [a for a in found if a.name.casefold() not in ids]
    for k, plant in enumerate(fresh):
        at = (row + 1 + k // MOST_IN_A_ROW, 1 + k % MOST_IN_A_ROW)
        ids[plant.name.casefold()] = plants.insert(connection, trial.id, plant.name, *at)
    return ids


def _spray(connection: Connection, trial_id: int, number: int, at: datetime, now: datetime) -> None:
    """Every plant that was due got its share on that day; a round on record stays as it is."""
    trial = reading.load(connection, trial_id)
    round_ = find_round(trial, number)
    if trial.sprayed_in(round_):
        return
    kept_rounds.keep_start(connection, RoundStart(round_.id, now, {}, {}, {}, at.date()))
    for plant in trial.due_in(round_):
        sprays.keep(connection, round_.id, SprayEntry(plant.id), None, at)
    if trial.sprayed_on is None or at.date() < trial.sprayed_on:
        trials.set_first_spray(connection, trial_id, at.date())


def _count(connection: Connection, trial_id: int, paper: Paper, now: datetime) -> None:
    trial = reading.load_counted(connection, trial_id)
    by_name = {p.name.strip().casefold(): p for p in trial.plants}
    days = dict(paper.looks)
    for k, count in enumerate(paper.counts):
        plant = by_name.get(count.plant.strip().casefold())
        if plant is None:
            raise InputError(
                f"there is no plant “{count.plant}”",
                code="no_such_plant",
                field=f"counts.{k}.plant",
                fix="Use the names on the bench.",
            )
        entry = TallyEntry(
            plant_id=plant.id,
            measure=count.measure,
            session=f"paper-{trial_id}-{now.timestamp():.3f}-{count.look}",
            step=1,
            value=count.value,
            of=count.of,
            effort=count.effort,
            finished=True,
            counted_on=days.get(count.look),
        )
        if _is_kept(trial, count.look, entry):
            continue
        try:
            keep_entry(connection, trial_id, count.look, entry, now)
        except OrthocrisError as error:
            error.message = f"{plant.name}, look {count.look}: {error.message}"
            error.field = f"counts.{k}.{error.field or 'value'}"
            raise


def _is_kept(trial: CountedTrial, number: int, entry: TallyEntry) -> bool:
    kept = trial.tallies_at(find_look(trial, number), entry.measure).get(entry.plant_id)
    if kept is None:
        return False
    same = (kept.value, kept.of, kept.effort) == (entry.value, entry.of, entry.effort)
    return same and (entry.counted_on is None or kept.counted_on == entry.counted_on)


def read_table(
    context: Context, trial_id: int, rows: Sequence[Sequence[str]], *, month_first: bool | None
) -> Pasted | None:
    """Read a pasted table by its header, None where it has none; nothing is kept."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
    measure = measure_named(plan.measure)
    names = (measure.key, measure.label.casefold(), plan.pest.replace("_", " "))
    also = plan.setup.also.replace("_", " ").casefold()
    today = context.now().date()
    return read_pasted(rows, plan.looks, names, today, also=also, month_first=month_first)
