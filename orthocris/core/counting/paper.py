"""A trial that was done on paper: who got what, when it was sprayed, and what was counted when."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from orthocris.core.errors import InputError
from orthocris.core.trial.plan import Remedy
from orthocris.core.words import day_words


@dataclass(frozen=True, slots=True)
class PaperPlant:
    """A plant of the paper: its name, its block (any text) and what it got, by name or letter."""

    name: str
    block: str
    remedy: str


@dataclass(frozen=True, slots=True)
class PaperCount:
    """A number on the paper: of a plant (by name) at a look, out of `of`, on `effort` leaves."""

    plant: str
    look: int
    measure: str
    value: float
    of: float | None = None
    effort: float = 1.0


@dataclass(frozen=True, slots=True)
class Paper:
    """All that is entered in one sitting; empty parts were entered before, or are still to come.

    `rounds` and `looks` give the true day of each by its number.
    """

    plants: tuple[PaperPlant, ...] = ()
    rounds: tuple[tuple[int, date], ...] = ()
    looks: tuple[tuple[int, date], ...] = ()
    counts: tuple[PaperCount, ...] = ()


@dataclass(frozen=True, slots=True)
class Allotted:
    """A plant of the paper with its block as a number and the id of its remedy."""

    name: str
    block: int
    remedy_id: int


def allotted(
    plants: Sequence[PaperPlant], remedies: Sequence[Remedy], *, blocked: bool
) -> list[Allotted]:
    """Return what each plant got, or raise InputError naming the line that cannot be read.

    Parameters
    ----------
    blocked:
        Whether the design has blocks: then every plant names its own, or none does.
    """
    blocked = blocked and any(plant.block.strip() for plant in plants)
    known = {r.name.strip().casefold(): r.id for r in remedies}
    known |= {r.letter.casefold(): r.id for r in remedies if r.letter}
    blocks: dict[str, int] = {}
    found: list[Allotted] = []
    for k, plant in enumerate(plants):
        name, block = plant.name.strip(), plant.block.strip() if blocked else "all"
        remedy = known.get(plant.remedy.strip().casefold())
        if not name or name.casefold() in {a.name.casefold() for a in found}:
            _refuse(k, "name", f"“{name}” is no name, or there twice", "Name each plant once.")
        if remedy is None:
            names = ", ".join(r.name for r in remedies)
            _refuse(k, "remedy", f"no remedy is called “{plant.remedy}”", f"Use one of: {names}.")
        if not block:
            _refuse(k, "block", f"{name} has no block", "Give the block it stood in, such as 1.")
        found.append(Allotted(name, blocks.setdefault(block, len(blocks) + 1), remedy or 0))
    got = {a.remedy_id for a in found}
    missing = next((r.name for r in remedies if r.id not in got), None)
    if missing is not None:
        raise InputError(
            f"no plant got {missing}",
            code="remedy_without_plants",
            field="plants",
            fix="Give at least one plant to each remedy, or take the remedy out of the question.",
        )
    return found


def check_days(paper: Paper, sprayed_on: date | None, today: date) -> None:
    """Refuse days to come, rounds out of their order, and looks on the wrong side of the spray."""
    for name, days in (("rounds", paper.rounds), ("looks", paper.looks)):
        ordered = sorted(days)
        for k, (number, on) in enumerate(ordered):
            if on > today:
                _refuse_day(name, on, "That day is still to come.")
            if k and on < ordered[k - 1][1]:
                _refuse_day(name, on, f"It is before number {ordered[k - 1][0]}.")
            if number < (0 if name == "looks" else 1):
                _refuse_day(name, on, "Number rounds from 1 and looks from 0, the count before.")
    undated = sorted({c.look for c in paper.counts} - {number for number, _ in paper.looks})
    if undated:
        raise InputError(
            f"look {undated[0]} has numbers and no day",
            code="no_day",
            field="looks",
            fix="Give the day on which it was counted.",
        )
    first = min((on for _, on in paper.rounds), default=sprayed_on)
    if paper.counts and first is None and any(number for number, _ in paper.looks):
        raise InputError(
            "the day of the first spray is missing",
            code="no_spray_day",
            field="rounds",
            fix="Give the day of round 1: all days are counted from it.",
        )


def _refuse(line: int, field: str, message: str, fix: str) -> None:
    raise InputError(
        f"line {line + 1}: {message}", code="bad_line", field=f"plants.{line}.{field}", fix=fix
    )


def _refuse_day(field: str, on: date, fix: str) -> None:
    raise InputError(f"{day_words(on)}", code="bad_day", field=field, fix=fix)
