"""A trial as it is shared: what must be known of it beside its numbers, and what is refused."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.plan import Amount, Remedy, Role, Traits
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.observation import Observation

LONGEST_NAME, LONGEST_RECIPE = 200, 4000
MOST_REMEDIES, MOST_PARTS, MOST_LOOKS = 60, 40, 400
UNITS_LONGEST = 20


@dataclass(frozen=True, slots=True)
class Shared:
    """A trial as it goes from one garden to another.

    Attributes
    ----------
    name, pest, pest_name:
        What it is called; the pest's key and its name where it was held.
    crop:
        The plants, as they were called.
    on:
        The day of the first spray.
    measure, look, threshold:
        What was judged, at which day after it, and the fraction that was worth it.
    remedies:
        The control among them, each with what it is made of.
    usual:
        The control's name where it was a usual remedy and not untreated plants.
    planned, decisive, two_waves, two_looks:
        As of the judge's terms.
    """

    name: str
    pest: str
    pest_name: str
    crop: str
    on: date
    measure: str
    look: float
    threshold: float
    remedies: tuple[Remedy, ...]
    usual: str = ""
    planned: tuple[float, ...] = ()
    decisive: float | None = None
    two_waves: bool = False
    two_looks: bool = False

    @property
    def control(self) -> str | None:
        """The name of the control, if there was one."""
        return next((r.name for r in self.remedies if r.role is Role.CONTROL), None)

    @property
    def terms(self) -> Terms:
        """What was agreed before it, for the judge."""
        return Terms(
            planned=self.planned,
            decisive=self.decisive,
            two_waves=self.two_waves,
            two_looks=self.two_looks,
            usual=self.usual,
        )

    def to_plain(self) -> dict[str, Any]:
        """Return it as plain data; `shared_from` reads it back to the same."""
        return {
            "name": self.name,
            "pest": self.pest,
            "pest_name": self.pest_name,
            "crop": self.crop,
            "first_spray": self.on.isoformat(),
            "measure": self.measure,
            "look": self.look,
            "threshold": self.threshold,
            "usual": self.usual,
            "planned": list(self.planned),
            "decisive": self.decisive,
            "two_waves": self.two_waves,
            "two_looks": self.two_looks,
            "remedies": [
                {
                    "name": r.name,
                    "control": r.role is Role.CONTROL,
                    "recipe": r.recipe,
                    "catalogue": r.traits.catalogue,
                    "made_of": [
                        {"key": a.key, "amount": a.amount, "unit": a.unit}
                        for a in r.traits.ingredients
                    ],
                }
                for r in self.remedies
            ],
        }


def shared_from(plain: object) -> Shared:
    """Read a shared trial from plain data that anybody may have written.

    Raises
    ------
    InputError
        For the first value that no trial could have, naming its field.
    """
    top = _Reader(plain, "trial")
    found = Shared(
        name=top.text("name"),
        pest=top.text("pest"),
        pest_name=top.text("pest_name"),
        crop=top.text("crop", empty=True),
        on=top.day("first_spray"),
        measure=measure_named(top.text("measure")).key,
        look=top.number("look", 0, 3660),
        threshold=top.number("threshold", 0, 1),
        remedies=tuple(_remedy(one) for one in top.parts("remedies", MOST_REMEDIES)),
        usual=top.text("usual", empty=True),
        planned=tuple(top.numbers("planned", MOST_LOOKS)),
        decisive=None if top.get("decisive") is None else top.number("decisive", 0, 3660),
        two_waves=top.flag("two_waves"),
        # Written before there was such a thing: no.
        two_looks=top.get("two_looks") is not None and top.flag("two_looks"),
    )
    names = [r.name for r in found.remedies]
    if len(set(names)) != len(names):
        raise _wrong("trial.remedies", "two remedies have one name")
    if sum(r.role is Role.CONTROL for r in found.remedies) > 1:
        raise _wrong("trial.remedies", "there are several controls")
    if found.usual and found.usual != found.control:
        raise _wrong("trial.usual", f"{found.usual!r} is not the control")
    return found


def check_numbers(shared: Shared, seen: Sequence[Observation]) -> None:
    """Refuse numbers of remedies that the description does not know, and those of no comparison.

    Raises
    ------
    InputError
        Saying which remedy, or that nothing was compared.
    """
    known = {r.name for r in shared.remedies}
    strange = sorted({o.remedy for o in seen} - known)
    if strange:
        raise _wrong("table.csv", f"the remedy {strange[0]!r} is not in the description")
    if shared.control is None:
        raise InputError(
            "it has no control, so what its remedies remove cannot be told",
            code="no_control",
            field="trial.remedies",
            fix="Only trials with plants left untreated can be put together with others.",
        )


class _Reader:
    """Reads values out of plain data, each checked, under a name for faults."""

    def __init__(self, plain: object, where: str) -> None:
        if not isinstance(plain, Mapping):
            raise _wrong(where, "it is not there, or no list of values by name")
        self._plain, self._where = plain, where

    def get(self, name: str) -> object:
        return self._plain.get(name)

    def _wrong(self, name: str, what: str) -> InputError:
        return _wrong(f"{self._where}.{name}", what)

    def text(self, name: str, longest: int = LONGEST_NAME, *, empty: bool = False) -> str:
        value = self.get(name)
        if not isinstance(value, str) or len(value) > longest:
            raise self._wrong(name, f"it is no text of at most {longest} letters")
        if not empty and not value.strip():
            raise self._wrong(name, "it is empty")
        if not all(
            sign.isprintable() or (sign == "\n" and longest > LONGEST_NAME) for sign in value
        ):
            raise self._wrong(name, "it holds signs that cannot be seen")
        return value

    def number(self, name: str, least: float, most: float) -> float:
        return self._number(name, self.get(name), least, most)

    def _number(self, name: str, value: object, least: float, most: float) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise self._wrong(name, "it is no number")
        if not least <= value <= most:  # not so of what is no number either
            raise self._wrong(name, f"it is not between {least:g} and {most:g}")
        return float(value)

    def numbers(self, name: str, most: int) -> list[float]:
        return [self._number(name, value, 0, 3660) for value in self._list(name, most)]

    def flag(self, name: str) -> bool:
        value = self.get(name)
        if not isinstance(value, bool):
            raise self._wrong(name, "it is neither true nor false")
        return value

    def day(self, name: str) -> date:
        try:
            found = date.fromisoformat(self.text(name))
        except ValueError:
            raise self._wrong(name, "it is no day such as 2026-05-10") from None
        if not 1900 <= found.year <= 2999:
            raise self._wrong(name, "the year is not one of 1900 to 2999")
        return found

    def _list(self, name: str, most: int) -> list[Any]:
        value = self.get(name)
        if not isinstance(value, list) or len(value) > most:
            raise self._wrong(name, f"it is no list of at most {most}")
        return value

    def parts(self, name: str, most: int) -> Iterable[_Reader]:
        found = self._list(name, most)
        if not found:
            raise self._wrong(name, "it is empty")
        return [_Reader(one, f"{self._where}.{name}.{k}") for k, one in enumerate(found)]


def _remedy(one: _Reader) -> Remedy:
    made_of = one.get("made_of")
    parts = one.parts("made_of", MOST_PARTS) if made_of else []
    ingredients = tuple(
        Amount(part.text("key"), part.number("amount", 0, 1e6), part.text("unit", UNITS_LONGEST))
        for part in parts
    )
    catalogue = one.text("catalogue") if one.get("catalogue") is not None else None
    return Remedy(
        id=0,
        name=one.text("name"),
        role=Role.CONTROL if one.flag("control") else Role.REMEDY,
        recipe=one.text("recipe", LONGEST_RECIPE, empty=True),
        traits=Traits(catalogue=catalogue, ingredients=ingredients),
    )


def _wrong(field: str, what: str) -> InputError:
    return InputError(
        f"{field}: {what}",
        code="bad_bundle",
        field=field,
        fix="Ask whoever sent it to save the bundle anew.",
    )
