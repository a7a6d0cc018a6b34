"""Everything a recipe says, gathered once: amounts, volumes, shares, parts of a whole."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from orthocris.core.pantry.recipe.amounts import Measure
from orthocris.core.pantry.recipe.said import Amount, Phrase, Thing
from orthocris.core.pantry.recipe.turns import LEADS
from orthocris.core.pantry.substance_list import Form
from orthocris.core.pantry.units import Dimension


@dataclass(eq=False, slots=True)
class Volume:
    """A volume that was said: how (in, to, per, up_to, water, vessel, bare), and where."""

    measure: Measure
    how: str
    phrase: Phrase
    stage: int
    used: bool = False

    on_top: Fraction = Fraction(0)  # ml of the parts that the water was added to

    @property
    def ml(self) -> Fraction:
        """The ready mix it makes, ml."""
        return self.measure.size + self.on_top

    @property
    def leads(self) -> bool:
        """True for "per gallon: ...", the volume of what follows."""
        return any(one.value == LEADS for one in self.phrase.row)

    @property
    def water(self) -> bool:
        """True when it was said to be water."""
        return self.phrase.water


@dataclass(eq=False, slots=True)
class Poured:
    """An amount of a thing and the volume it is in."""

    thing: Thing
    measure: Measure
    amount: Amount
    phrase: Phrase
    stage: int
    volume: Volume | None = None

    @property
    def solid(self) -> bool:
        """True for what is steeped and strained off again."""
        found = self.thing.substance
        return found is not None and found.form is Form.SOLID and not self.thing.brew


@dataclass(eq=False, slots=True)
class Share:
    """A thing and its share of the whole; `stock` its own strength where that was said."""

    thing: Thing
    share: Fraction
    phrase: Phrase
    stage: int = 0


@dataclass(eq=False, slots=True)
class Counted:
    """So many parts of a thing; `of_whole` for a half or a third of all."""

    thing: Thing
    number: Fraction
    phrase: Phrase
    of_whole: bool
    stage: int = 0


@dataclass(frozen=True, slots=True)
class Seam:
    """Where two mixes may meet: what lies between them, and where the second ends."""

    phrase: Phrase
    start: int
    end: int
    until: int


@dataclass(slots=True)
class Heard:
    """Everything a recipe says, gathered once; later steps only look here.

    `doubts` are phrases whose sense must be settled, with the reason.
    """

    poured: list[Poured] = field(default_factory=list)
    shares: list[Share] = field(default_factory=list)
    counted: list[Counted] = field(default_factory=list)
    volumes: list[Volume] = field(default_factory=list)
    doubts: list[tuple[Phrase, str]] = field(default_factory=list)
    seams: list[Seam] = field(default_factory=list)
    guesses: list[tuple[Phrase, str]] = field(default_factory=list)
    water: tuple[Phrase, Fraction] | None = None  # "90% water"
    steeped: bool = False
    thinned: Volume | None = None  # the water that a strained brew is thinned with
    mother: bool = False  # a stock of liquids that is thinned in a second step
    strained: bool = False
    minutes: Fraction | None = None
    how: str = ""

    def steeps(self, poured: Poured) -> bool:
        """True for what is steeped: solid things, and weighed unknown ones in a brew."""
        unknown = poured.thing.substance is None and not poured.thing.brew
        weighed = poured.measure.dimension is Dimension.MASS
        return poured.solid or (unknown and weighed and self.steeped and poured.stage == 0)

    @property
    def brewed_in(self) -> Volume | None:
        """The water that a brew was made in; None where none was made."""
        return next((p.volume for p in self.poured if self.steeps(p) and p.volume), None)

    @property
    def brew_measured(self) -> bool:
        """True where it was said how much of the brew is taken."""
        things = [one.thing for one in self.shares] + [one.thing for one in self.poured]
        return any(thing.brew for thing in things + [one.thing for one in self.counted])
