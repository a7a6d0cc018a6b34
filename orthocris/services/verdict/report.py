"""A verdict as a document: gathered from the verdict, the bench, prices and what was noted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from orthocris.core.counting.notebook import SEEN
from orthocris.core.errors import ConflictError
from orthocris.core.pantry.costs import Price
from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.trial import CountedTrial, Tally
from orthocris.formats.verdict_pdf import verdict_pdf
from orthocris.formats.verdict_sheet import Told
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import laid_cost
from orthocris.services.verdict.judging import RECKONED_BY, TrialVerdict, checks_of, verdict_of
from orthocris.storage import weather as yard
from orthocris.storage.trial import reading


def report_of(
    context: Context, trial_id: int, look_number: int | None, *, whole: bool, paper: str
) -> bytes:
    """Return a trial's verdict as PDF; plant by plant too.

    Raises
    ------
    ConflictError
        When there is nothing to judge yet, saying what comes first.
    """
    found = verdict_of(context, trial_id, look_number)
    if not found.verdict.remedies:
        raise ConflictError(
            "there is nothing to print of the remedies while the key is sealed",
            code="key_sealed",
            fix="It opens by itself once every plant is counted at the last look; or open it now, "
            "which is put on the record.",
        )
    with context.database.reading() as connection:
        trial = reading.load_counted(connection, trial_id)
        currency = yard.load(connection).currency
        packs = yard.prices(connection)
    told = Told(
        trial=trial.name,
        look=found.judged_on,
        final=found.final,
        verdict=found.verdict,
        tags={r.name: (r.letter or "", r.notches or 0) for r in trial.remedies},
        prices={r.name: _price(trial, found, r, (packs, currency)) for r in trial.remedies},
        notes=found.notes,
        answers=found.answers,
        plants=_plants(trial, found),
        version=RECKONED_BY,
        doubts=_doubts(context, trial_id, look_number) if whole else (),
        dots=found.dots,
    )
    return verdict_pdf(told, whole=whole, paper=paper)


def _doubts(context: Context, trial_id: int, look_number: int | None) -> list[str]:
    return [
        f"{check.way}: {'the answer changes' if check.changed else 'it stands'}. {check.says}"
        for check in checks_of(context, trial_id, look_number)
    ]


def _price(
    trial: CountedTrial,
    found: TrialVerdict,
    remedy: Remedy,
    money: tuple[Sequence[Price], str],
) -> str:
    packs, currency = money
    costs = [b.cost for b in trial.batches if b.remedy_id == remedy.id and b.cost is not None]
    parts = [f"bottles {currency} {sum(costs):.2f}"] if costs else []
    laid = laid_cost(trial, remedy, packs)
    if laid is not None:
        parts.append(f"material {currency} {float(laid):.2f}")
    if remedy.name in found.mess:
        parts.append(f"mess: {found.mess[remedy.name]}")
    parts += [
        f"{SEEN[s.what]} on {s.plants} of {s.of}"
        for s in found.seen
        if s.remedy == remedy.name and s.plants
    ]
    return "; ".join(parts)


def _plants(trial: CountedTrial, found: TrialVerdict) -> list[list[str]]:
    """Return every plant of the trial with its numbers at every look, the header first."""
    missed = {plant for r in found.verdict.remedies for plant in r.missed}
    names = {remedy.id: remedy.name for remedy in trial.remedies}
    looks = [(look, trial.tallies_at(look, trial.measure)) for look in trial.looks]
    heads = ["before" if look.number == 0 else look.when for look, _ in looks]
    rows = [["Plant", "Block", "Remedy", *heads]]
    for plant in sorted(trial.trial_plants, key=lambda p: (p.row, p.place)):
        numbers = [_number(tallies.get(plant.id)) for _, tallies in looks]
        block = "" if plant.block is None else str(plant.block)
        got = names.get(plant.remedy_id or 0, "")
        got += " (missed)" if plant.name in missed else ""
        rows.append([plant.name, block, got, *numbers])
    return [*rows, *_lost(trial, len(looks))]


def _lost(trial: CountedTrial, looks: int) -> Iterator[list[str]]:
    for plant in trial.plants:
        if plant.set_aside is not None and plant.remedy_id is not None:
            yield [plant.name, "", plant.set_aside, *[""] * looks]


def _number(tally: Tally | None) -> str:
    if tally is None or tally.value is None:
        return "–"
    return f"{tally.value:g}" if tally.of is None else f"{tally.value:g} of {tally.of:g}"
