"""How far an amount lies above what is ever used: the strong word, or a refusal."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.cautions import Caution
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.remedies import CatalogueRemedy, Ingredient, models_of
from orthocris.core.pantry.strengths import is_ingredient, per_litre
from orthocris.core.pantry.substances import classify, words_of

STRONG_FROM = 3  # times the harsh end of the widest usual range
NOTHING_LEFT = 10  # times; beyond it what kills any leaf is no remedy
DABBED = frozenset(["dab", "dabbed", "brush", "brushed", "swab", "swabs", "cotton"])
KEY = "dose"
_READY = re.compile(r"\bready[ -]?(to[ -]use|mixed|made|diluted)\b|\brtu\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Dose:
    """An ingredient beyond its usual range: `times` its harsh end, `high` in `unit`."""

    name: str
    times: Fraction
    high: Fraction
    unit: str


def doses(
    parts: Sequence[Part], remedies: Iterable[CatalogueRemedy], *, said: str = ""
) -> tuple[Dose, ...]:
    """Return the ingredients that reach three times the harsh end of any usual range.

    The widest range among the shipped remedies is taken, else that of the remedy whose rules hold
    for it: washing soda is no milder than baking soda. A bottle of another strength than the
    usual counts by what of the pure substance is in the mix; what is dabbed may be neat, and so
    may what is sold ready to use, for it is thinned already.
    """
    ready = bool(_READY.search(said))
    dabbed = bool(DABBED.intersection(words_of(said)))
    known = tuple(remedies)
    found = (
        _dose(part, known, dabbed=dabbed)
        for part in parts
        if not (part.steeped or (ready and part.per_litre >= LITRE))
    )
    return tuple(one for one in found if one is not None and one.times >= STRONG_FROM)


def check_doses(found: Iterable[Dose]) -> None:
    """Refuse what is so strong that nothing of a remedy is left.

    Raises
    ------
    InputError
        Code ``no_remedy_left``.
    """
    for dose in found:
        if dose.times > NOTHING_LEFT:
            raise InputError(
                f"{_times(dose.times)} times as much {dose.name} as the harshest usual mix "
                "kills any plant: nothing is left of a remedy",
                code="no_remedy_left",
                field="parts",
                fix=f"Check the unit; typical is at most {float(dose.high):.3g} {dose.unit}.",
            )


def dose_cautions(found: Sequence[Dose]) -> tuple[Caution, ...]:
    """Return what must be acknowledged of such doses, as one strong caution; none without any."""
    texts = tuple(
        f"{dose.name[:1].upper()}{dose.name[1:]}: {_times(dose.times)} times the harsh end of "
        f"what is usual ({float(dose.high):.3g} {dose.unit}). It may burn leaves, skin and eyes; "
        "check the unit."
        for dose in found
    )
    return (Caution(KEY, frozenset(), texts, strong=True),) if texts else ()


def _times(many: Fraction) -> str:
    """How many times as much, in figures that people say."""
    return f"{float(many):.0f}" if many >= NOTHING_LEFT else f"{float(many):.2g}"


def _dose(part: Part, remedies: Sequence[CatalogueRemedy], *, dabbed: bool) -> Dose | None:
    usual = [i for remedy in remedies for i in remedy.ingredients if is_ingredient(i, part)]
    poured = [i for i in usual if i.unit in ("ml/L", "g/L")]
    if not poured:
        alike = models_of(part.name)
        poured = [
            i
            for remedy in remedies
            if remedy.key in alike
            for i in remedy.ingredients[:1]
            if i.unit == per_litre(part)
        ]
    if not poured or (dabbed and any(i.unit == "% of stock" for i in usual)):
        return None
    widest: Ingredient = max(poured, key=lambda one: one.high)
    found = classify(part.name)
    pure = part.per_litre
    if found is not None and found.stock and part.strength is not None:
        pure = pure * part.strength / found.stock
    high = Fraction(str(widest.high))
    return Dose(part.name, pure / high, high, widest.unit)
