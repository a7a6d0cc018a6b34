"""An amount as it was said, in ml or g, and what had to be assumed for it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.recipe.said import Amount, Choice, Thing
from orthocris.core.pantry.substance_list import Form
from orthocris.core.pantry.units import UNITS, Dimension, Region, unit_named

SOLID_DENSITY = Fraction(2, 5)  # g in a ml of chopped leaves or flakes, typical
HEAD = Fraction(50)  # g of a head of garlic or a bunch, typical
HEADS = ("head", "bulb", "bunch")  # pieces that weigh as much
PIECE = Fraction(5)  # g of a clove or a pod, typical


@dataclass(frozen=True, slots=True)
class Kitchen:
    """Whose spoons and gallons are meant, and how many ml a drop has."""

    region: Region
    drop: Fraction


@dataclass(frozen=True, slots=True)
class Measure:
    """ml or g, what was assumed, and how else the words could be meant."""

    size: Fraction
    dimension: Dimension
    guesses: tuple[str, ...] = ()
    others: tuple[Choice, ...] = ()


def measure_of(amount: Amount, thing: Thing | None, kitchen: Kitchen) -> Measure:
    """Return an amount of a thing (None: of water or of the mix) in ml or g."""
    found = thing.substance if thing else None
    form = _form(thing)
    guesses = [one.guess for one in amount.said if one.guess]
    others = [
        Choice(f"it is {one.other}", one.start, one.end, one.other)
        for one in amount.said
        if one.other
    ]
    if amount.unit == "piece":
        weight = found.piece if found and found.piece else PIECE
        weight = HEAD if amount.words.removesuffix("s") in HEADS else weight
        guesses.append(f"one {_piece_words(amount, thing)} is taken as {float(weight):g} g")
        return Measure(amount.number * weight, Dimension.MASS, tuple(guesses), tuple(others))
    size, dimension = _plain(amount, form, kitchen, guesses, others)
    size *= amount.heap
    if amount.heap != 1:
        guesses.append(f"{_heap_word(amount)} is taken as {float(amount.heap):g} level ones")
    if thing is not None and form is not Form.LIQUID and dimension is Dimension.VOLUME:
        density = found.density if found and found.density else SOLID_DENSITY
        guesses.append(f"1 ml of {thing.name} is taken as {float(density):g} g")
        size, dimension = size * density, Dimension.MASS
    return Measure(size, dimension, tuple(guesses), tuple(others))


def _form(thing: Thing | None) -> Form | None:
    """How a thing comes; None for water and the mix itself."""
    if thing is None:
        return None
    return thing.substance.form if thing.substance and not thing.brew else Form.LIQUID


def _plain(
    amount: Amount,
    form: Form | None,
    kitchen: Kitchen,
    guesses: list[str],
    others: list[Choice],
) -> tuple[Fraction, Dimension]:
    if amount.unit == "vague":
        each = amount.size
        guesses.append(f"a {amount.words} is taken as {float(each):g} ml; measure it next time")
        measured = f"{float(amount.number * each):g} ml"
        others.append(
            Choice(f"write {measured}", amount.said[0].start, amount.said[-1].end, measured)
        )
        return amount.number * each, Dimension.VOLUME
    if amount.unit == "drop":
        return amount.number * kitchen.drop, Dimension.VOLUME
    key = amount.unit
    if key == "oz?":
        weighed = form in (Form.POWDER, Form.SOLID)
        key = "oz" if weighed else "floz"
        guesses.append(f"an ounce is taken {'by weight' if weighed else 'as a fluid ounce'}")
        others.append(_instead(amount, *_OUNCES[weighed]))
    if amount.words.startswith("spoon"):
        guesses.append("a spoon is taken as a tablespoon")
        others.append(_instead(amount, "a teaspoon", "teaspoon"))
    if key in _TWO_OF and kitchen.region is Region.METRIC:
        size = unit_named(key).factor / 1000
        guesses.append(f"{amount.words} is the imperial one, {float(size):.3g} litres")
        others.append(_instead(amount, f"US {amount.words}", f"US {amount.words}"))
    unit = UNITS[key[1:]] if key.startswith("=") else unit_named(key, kitchen.region)
    if form is not None and not amount.counted and key not in ("l", "gal", "quart", "pint"):
        guesses.append(f"{amount.words} without a number is taken as one")
    return amount.number * unit.factor, unit.dimension


_TWO_OF = ("gal", "quart", "pint")  # a US one and an imperial one, neither of them metric
_OUNCES = {True: ("fluid ounces", "fl oz"), False: ("ounces by weight", "oz weight")}


def _instead(amount: Amount, label: str, words: str) -> Choice:
    """Another unit in the place of the one that was said."""
    unit = amount.said[-1]
    return Choice(label, unit.start, unit.end, words)


def _heap_word(amount: Amount) -> str:
    return next((one.text for one in amount.said if one.kind.value == "HEAP"), "heaped")


def _piece_words(amount: Amount, thing: Thing | None) -> str:
    return amount.words or (thing.name if thing else "piece")
