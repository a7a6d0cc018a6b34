"""What a recipe says, in pieces: things, amounts and the phrases they stand in."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import Ratio
from orthocris.core.pantry.substance_list import Substance


@dataclass(frozen=True, slots=True)
class Choice:
    """Another way to mean words of the text: put `text` in the place of `start` to `end`."""

    label: str
    start: int
    end: int
    text: str


@dataclass(frozen=True, slots=True)
class Thing:
    """What a phrase is about: an ingredient as it was called, or water.

    `strength` is the percentage said beside it, as a share; `brew` true for "the brew", which
    has to be made first.
    """

    name: str
    substance: Substance | None = None
    strength: Fraction | None = None
    water: bool = False
    brew: bool = False
    start: int = 0
    end: int = 0


@dataclass(frozen=True, slots=True)
class Amount:
    """An amount as it was said: `unit` a unit's key, "vague" (number × `size` ml) or "piece"."""

    number: Fraction
    unit: str
    heap: Fraction = Fraction(1)
    size: Fraction = Fraction(1)
    words: str = ""
    counted: bool = True  # False where no number was said
    article: bool = False
    said: tuple[Lexeme, ...] = ()

    @property
    def weighs(self) -> bool:
        """True for what is counted in pieces or weighed."""
        return self.unit in ("piece", "g", "mg", "kg", "oz", "lb")

    @property
    def small(self) -> bool:
        """True for what nobody means as the volume of a mix."""
        spoon = self.unit in ("tsp", "tbsp", "dsp", "drop", "vague", "piece", "g", "mg", "oz?")
        return spoon or (self.unit == "ml" and self.number < 50)


@dataclass(frozen=True, slots=True)
class Phrase:
    """A phrase of the grammar with where it stands; `sort` is the grammar's name of it.

    What it says is in the others, those that its sort has: things, an amount, the amount it is
    in (`per`), a share, a ratio, a number of parts.
    """

    sort: str
    start: int
    end: int
    row: tuple[Lexeme, ...]
    things: tuple[Thing, ...] = ()
    amount: Amount | None = None
    per: Amount | None = None
    share: Fraction | None = None
    ratio: Ratio | None = None
    number: Fraction | None = None
    joint: str = ""  # in, to, per, up_to
    proportion: tuple[Fraction, ...] = ()
    water: bool = False

    @property
    def thing(self) -> Thing:
        """The first thing it is about."""
        return self.things[0]


Item = Phrase | Lexeme
