"""Amounts in the units of real kitchens and sheds, exactly.

All factors are exact rationals: the US gallon is 231 cubic inches, the imperial gallon 4.54609
litres, the avoirdupois pound 0.45359237 kg (by definition). Spoons and drops are typical.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from fractions import Fraction

from orthocris.core.errors import InputError


class Dimension(StrEnum):
    """What a unit measures."""

    VOLUME = "volume"  # in ml
    MASS = "mass"  # in g


class Region(StrEnum):
    """Whose spoons, pints and gallons are meant."""

    METRIC = "metric"
    US = "us"
    IMPERIAL = "imperial"
    AUSTRALIAN = "australian"


TWICE_ROUND = frozenset([Region.US, Region.AUSTRALIAN])  # whose clocks have twelve hours


def clock_words(moment: datetime, region: Region) -> str:
    """Return a time of day as the gardener's clock has it: 16:05, or 4:05 pm."""
    if region not in TWICE_ROUND:
        return f"{moment:%H:%M}"
    return f"{moment.hour % 12 or 12}:{moment:%M} {'am' if moment.hour < 12 else 'pm'}"


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit: how much of the dimension's base (ml or g) it is."""

    key: str
    name: str
    dimension: Dimension
    factor: Fraction


_US_GALLON = Fraction("3785.411784")
_GALLON = Fraction("4546.09")
_POUND = Fraction("453.59237")


def _volume(key: str, name: str, factor: Fraction | int | str) -> Unit:
    return Unit(key, name, Dimension.VOLUME, Fraction(factor))


UNITS: dict[str, Unit] = {
    unit.key: unit
    for unit in (
        _volume("ml", "ml", 1),
        _volume("cl", "cl", 10),
        _volume("dl", "dl", 100),
        _volume("l", "litre", 1000),
        _volume("tsp", "teaspoon (5 ml)", 5),
        _volume("dsp", "dessert spoon (10 ml)", 10),
        _volume("tbsp", "tablespoon (15 ml)", 15),
        _volume("tbsp_au", "Australian tablespoon (20 ml)", 20),
        _volume("tsp_us", "US teaspoon", _US_GALLON / 768),
        _volume("tbsp_us", "US tablespoon", _US_GALLON / 256),
        _volume("floz_us", "US fluid ounce", _US_GALLON / 128),
        _volume("cup_us", "US cup", _US_GALLON / 16),
        _volume("cup", "cup (250 ml)", 250),
        _volume("pint_us", "US pint", _US_GALLON / 8),
        _volume("quart_us", "US quart", _US_GALLON / 4),
        _volume("gal_us", "US gallon", _US_GALLON),
        _volume("floz", "imperial fluid ounce", _GALLON / 160),
        _volume("pint", "imperial pint", _GALLON / 8),
        _volume("quart", "imperial quart", _GALLON / 4),
        _volume("gal", "imperial gallon", _GALLON),
        _volume("drop", "drop (about 0.05 ml)", "0.05"),
        Unit("mg", "mg", Dimension.MASS, Fraction(1, 1000)),
        Unit("g", "g", Dimension.MASS, Fraction(1)),
        Unit("kg", "kg", Dimension.MASS, Fraction(1000)),
        Unit("oz", "ounce", Dimension.MASS, _POUND / 16),
        Unit("lb", "pound", Dimension.MASS, _POUND),
    )
}

# Which unit a bare word means, by region; words not listed mean the same everywhere.
_REGIONAL: dict[str, dict[Region, str]] = {
    "tsp": {Region.US: "tsp_us"},
    "tbsp": {Region.US: "tbsp_us", Region.AUSTRALIAN: "tbsp_au"},
    "floz": {Region.US: "floz_us"},
    "cup": {Region.US: "cup_us"},
    "pint": {Region.US: "pint_us"},
    "quart": {Region.US: "quart_us"},
    "gal": {Region.US: "gal_us"},
}


def unit_named(key: str, region: Region = Region.METRIC) -> Unit:
    """Return a unit by its key, as the region means it, or raise InputError."""
    meant = _REGIONAL.get(key, {}).get(region, key)
    if meant not in UNITS:
        raise InputError(
            f"there is no unit {key!r}",
            code="unknown_unit",
            field="unit",
            fix=f"Use one of: {', '.join(UNITS)}.",
        )
    return UNITS[meant]


def length_words(cm: float, region: Region) -> str:
    """Return a length as the region says it: "30 cm", or "12 in" (1 inch is 2.54 cm)."""
    return f"{cm / 2.54:.0f} in" if region is Region.US else f"{cm:g} cm"


def volume_words(ml: float, region: Region) -> str:
    """Return a volume as the region says it: "264 ml", or "8.9 fl oz (264 ml)".

    A US fluid ounce is 29.5735295625 ml (231/128 cubic inches); the millilitres stay beside it, for
    syringes and sprayers bear them.
    """
    own = f"{ml / 29.5735295625:.1f} fl oz ({ml:.0f} ml)"
    return own if region is Region.US else f"{ml:.0f} ml"


def convert(
    amount: Fraction, unit: Unit, to: Unit, *, grams_per_ml: Fraction | None = None
) -> Fraction:
    """Convert an amount exactly.

    Parameters
    ----------
    amount, unit, to:
        How much of what, and the unit wanted.
    grams_per_ml:
        Density, needed between mass and volume (a powder's bulk density per spoon).

    Raises
    ------
    InputError
        Between mass and volume without a density above 0.

    Examples
    --------
    >>> convert(Fraction(1), UNITS["gal"], UNITS["l"])
    Fraction(454609, 100000)
    """
    base = amount * unit.factor
    if unit.dimension is not to.dimension:
        if grams_per_ml is None or grams_per_ml <= 0:
            raise InputError(
                f"{unit.name} to {to.name} needs the density",
                code="density_needed",
                field="density",
                fix="Weigh one level spoon, or give grams per millilitre.",
            )
        base = base * grams_per_ml if unit.dimension is Dimension.VOLUME else base / grams_per_ml
    return base / to.factor


def conversions(
    amount: Fraction, key: str, grams_per_ml: Fraction | None
) -> tuple[tuple[Unit, Fraction], ...]:
    """Return an amount in every other unit of its kind; with a density, in those of both kinds.

    Raises
    ------
    InputError
        For an unknown unit, an amount below 0, or a density that no powder has.
    """
    unit = unit_named(key)
    if amount < 0:
        raise InputError(
            f"{float(amount):g} is less than nothing",
            code="negative_amount",
            field="amount",
            fix="Give an amount of 0 or more.",
        )
    if grams_per_ml is not None and not Fraction(1, 100) <= grams_per_ml <= 25:
        raise InputError(
            f"{float(grams_per_ml):g} g in a ml",
            code="bad_density",
            field="grams_per_ml",
            fix="Powders have 0.01 to 25 g a ml: weigh a level spoon.",
        )
    return tuple(
        (other, convert(amount, unit, other, grams_per_ml=grams_per_ml))
        for other in UNITS.values()
        if other is not unit and (other.dimension is unit.dimension or grams_per_ml is not None)
    )


@dataclass(frozen=True, slots=True)
class Tool:
    """Something to measure with: `step` is the least it can tell, `most` the most it holds.

    Both in ml, or in g for a scale. Nobody fills one without `refills` (a dropper) twice.
    """

    key: str
    name: str
    dimension: Dimension
    step: Fraction
    most: Fraction
    refills: bool = True


def _tool(key: str, name: str, step: str, most: str, *, mass: bool = False) -> Tool:
    dimension = Dimension.MASS if mass else Dimension.VOLUME
    return Tool(key, name, dimension, Fraction(step), Fraction(most), refills=key != "dropper")


TOOLS: dict[str, Tool] = {
    tool.key: tool
    for tool in (
        _tool("dropper", "dropper", "0.05", "1"),
        _tool("syringe_1", "1 ml syringe", "0.1", "1"),
        _tool("syringe_10", "10 ml syringe", "0.5", "10"),
        _tool("syringe_60", "60 ml syringe", "1", "60"),
        _tool("tsp", "teaspoon (5 ml)", "2.5", "5"),
        _tool("tbsp", "tablespoon (15 ml)", "7.5", "15"),
        _tool("jug", "measuring jug (1 litre)", "50", "1000"),
        _tool("scale", "kitchen scale", "1", "5000", mass=True),
        _tool("fine_scale", "pocket scale", "0.1", "200", mass=True),
    )
}
MOST_FILLS = 6
ROUNDING_WARNING = Fraction(1, 10)


@dataclass(frozen=True, slots=True)
class Measured:
    """An amount as it can really be measured.

    `fills` times the whole tool and `rest` on its scale make `amount`; `error` is the relative
    difference from what was wanted (positive: too much).
    """

    tool: Tool
    fills: int
    rest: Fraction
    amount: Fraction
    error: Fraction

    @property
    def warns(self) -> bool:
        """True when rounding changes the amount by more than a tenth."""
        return abs(self.error) > ROUNDING_WARNING


def measure_with(amount: Fraction, dimension: Dimension, tools: Sequence[Tool]) -> Measured:
    """Choose the tool that comes nearest with few fills, and round to what it can tell.

    Parameters
    ----------
    amount:
        In ml or g, above 0.
    dimension:
        Whether it is poured or weighed.
    tools:
        What the gardener has.

    Raises
    ------
    InputError
        When the amount is not above 0, or no tool of this kind is there.
    """
    if amount <= 0:
        raise InputError(
            f"{float(amount):g} cannot be measured",
            code="bad_amount",
            field="amount",
            fix="Give an amount above 0.",
        )
    fitting = [tool for tool in tools if tool.dimension is dimension]
    if not fitting:
        raise InputError(
            "no tool can measure this",
            code="no_tool",
            field="tools",
            fix="Add a scale for powders, or a spoon or syringe for liquids.",
        )
    found = [_round_to(amount, tool) for tool in fitting]
    return min(found, key=_clumsiness)


def _round_to(amount: Fraction, tool: Tool) -> Measured:
    steps = max(round(amount / tool.step), 1)
    rounded = steps * tool.step
    fills = int(rounded // tool.most)
    return Measured(tool, fills, rounded - fills * tool.most, rounded, (rounded - amount) / amount)


def _clumsiness(measured: Measured) -> tuple[bool, int, int, Fraction]:
    """Too many fills are worst; then error by classes of 2%; then fills; then error."""
    error = abs(measured.error)
    again = measured.fills > 0 and not measured.tool.refills
    return (measured.fills > MOST_FILLS or again, int(error * 50), measured.fills, error)
