"""The mixing bench: a recipe read, scaled to a bottle or to plants, and made measurable."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.batch_size import measurable_volume
from orthocris.core.pantry.cautions import (
    Caution,
    cautions_for,
    general_cautions,
)
from orthocris.core.pantry.costs import Cost, Price, cost_of, hardness_warning
from orthocris.core.pantry.dilution import (
    DilutionStep,
    bottle_for,
    dilute,
    dilution_steps,
    share_of_parts,
    volume_for,
)
from orthocris.core.pantry.recipe.reading import Reading, read_recipe, understand
from orthocris.core.pantry.recipe_cards import PartRole, RecipeCard, school_note
from orthocris.core.pantry.recipes import LITRE, Part, Pour, pours_of, reason_for
from orthocris.core.pantry.remedies import CatalogueRemedy
from orthocris.core.pantry.strengths import Axis, alike, axes, place_on, usual_for
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.substances import classify
from orthocris.core.pantry.units import TOOLS, Dimension, Measured, Tool, measure_with
from orthocris.core.weather.yard import Yard
from orthocris.knowledge import cautions, recipe_cards, remedies
from orthocris.services.pantry.soundness import check_sound, strong_for

HEADROOM = Fraction(1, 5)  # of the bottle stays empty, to shake
MIN_VOLUME = Fraction(1, 100)  # ml
MAX_VOLUME = Fraction(1_000_000)  # ml


@dataclass(frozen=True, slots=True)
class Wanted:
    """How much to mix: `volume` ml; or what a `bottle` (ml) holds with room to shake; or (both
    None) `plants` × `ml_per_plant` and a `margin`, and as much more as the tools measure well."""

    volume: Fraction | None = None
    plants: int | None = None
    ml_per_plant: Fraction = Fraction(40)
    margin: Fraction = Fraction(1, 10)
    bottle: Fraction | None = None

    @property
    def for_plants(self) -> bool:
        """Whether it is for plants: then more may be mixed than they need."""
        return self.volume is None and self.bottle is None

    def ml(self) -> Fraction:
        """Return the ready mix needed, checked."""
        wanted = self.volume
        if wanted is None and self.bottle is not None:
            wanted = self.bottle * (1 - HEADROOM)
        if wanted is None:
            wanted = volume_for(self.plants or 0, self.ml_per_plant, self.margin)
        if not MIN_VOLUME <= wanted <= MAX_VOLUME:
            raise InputError(
                f"{float(wanted):g} ml",
                code="bad_volume",
                field="volume",
                fix="Give a volume of 0.01 ml up to 1000 litres.",
            )
        return wanted


@dataclass(frozen=True, slots=True)
class MixPour:
    """One thing to put into the bottle, what it is for, and the tool (None for the water)."""

    pour: Pour
    role: PartRole
    reason: str
    measured: Measured | None


@dataclass(frozen=True, slots=True)
class BrewStep:
    """One thing that is done for the brew, before the bottle; `measured` where it is weighed."""

    text: str
    measured: Measured | None = None


@dataclass(frozen=True, slots=True)
class Mix:
    """A batch ready to be mixed.

    `pours` are empty while words of the recipe are open: no bottle is drawn before they are
    settled. `needed` is what was asked for in ml, `volume` what is mixed. `like` names the shipped
    remedy that is most alike; its card gives life, shaking, coverage and leaves. `schools` says
    where the amounts lie for each school.
    """

    reading: Reading
    needed: Fraction
    volume: Fraction
    bottle: Fraction
    brew: tuple[BrewStep, ...]
    pours: tuple[MixPour, ...]
    axes: tuple[Axis, ...]
    like: CatalogueRemedy | None
    card: RecipeCard | None
    schools: tuple[str, ...]
    cost: Cost
    warnings: tuple[str, ...]
    cautions: tuple[str, ...]
    strong: tuple[Caution, ...]
    general_cautions: tuple[str, ...]


def fillings(volume: float | None, yard: Yard) -> int:
    """Return how often the largest bottle is filled for so many ml, room to shake left in it."""
    largest = max((float(b * (1 - HEADROOM)) for b in yard.exact_bottles()), default=0.0)
    return math.ceil(volume / largest - 1e-9) if volume and largest else 1


def mix(
    text: str,
    yard: Yard,
    wanted: Wanted,
    *,
    prices: Sequence[Price] = (),
    compare_with: str = "",
    near_flame: bool = False,
) -> Mix:
    """Read a recipe and make it a batch.

    Parameters
    ----------
    text:
        The recipe as it is said.
    yard:
        Whose spoons are meant, tools, bottles and water.
    wanted:
        How much.
    prices:
        Packs, for the cost.
    compare_with:
        Another recipe to put on the same axis, empty for none.
    near_flame:
        Whether a flame or stove is near.

    Raises
    ------
    InputError
        When the recipe cannot be read, is impossible or dangerous, or cannot be measured.
    """
    reading = _read(text, yard)
    check_sound(reading.parts, text, near_flame=near_flame)
    needed = wanted.ml()
    tools = [_own_tool(TOOLS[key], yard) for key in yard.tools]
    volume = needed
    if wanted.for_plants and not reading.open:
        most = max((b * (1 - HEADROOM) for b in yard.exact_bottles()), default=needed)
        volume = measurable_volume(reading.parts, needed, tools, most)
    like = alike(reading.parts, remedies())
    card = recipe_cards()[like.key] if like else None
    theirs = _read(compare_with, yard).parts if compare_with.strip() else ()
    ranges = {p: i for p in (*reading.parts, *theirs) if (i := usual_for(like, p))}
    settled = not reading.open
    pours = pours_of(reading.parts, volume)
    return Mix(
        reading=reading,
        needed=needed,
        volume=volume,
        bottle=_bottle(volume, yard),
        brew=tuple(_brew_steps(reading, volume, tools)) if settled else (),
        pours=_pours(pours, like, card, tools) if settled else (),
        axes=axes([p for p in reading.parts if not p.steeped], theirs, ranges),
        like=like,
        card=card,
        schools=tuple(_schools(reading.parts, like, card)),
        cost=cost_of(reading.parts, prices, volume, wanted.plants),
        warnings=tuple(_warnings(reading, yard)),
        cautions=cautions_for(text, cautions()),
        strong=strong_for(text, reading.parts),
        general_cautions=general_cautions(cautions()),
    )


@dataclass(frozen=True, slots=True)
class HeardRecipe:
    """A recipe as far as it is typed, and why it would not be mixed so (None: it would)."""

    reading: Reading
    refused: InputError | None


def heard(text: str, yard: Yard, *, near_flame: bool = False) -> HeardRecipe:
    """Read a recipe for the sentence on the screen: it is never refused, whatever is typed."""
    reading = understand(text, yard.region, Fraction(repr(yard.drop)))
    try:
        check_sound(reading.parts, text, near_flame=near_flame)
    except InputError as danger:
        return HeardRecipe(reading, danger)
    return HeardRecipe(reading, reading.fault)


def _read(text: str, yard: Yard) -> Reading:
    return read_recipe(text, yard.region, Fraction(repr(yard.drop)))


def _brew_steps(reading: Reading, volume: Fraction, tools: Sequence[Tool]) -> Iterator[BrewStep]:
    """What is done for a brew: weighed, steeped for its time, cooled, strained."""
    brew = reading.brew
    if brew is None:
        return
    stock = brew.share * volume
    for solid in brew.solids:
        amount = solid.per_litre * stock / LITRE
        unit = "g" if solid.dimension is Dimension.MASS else "ml"
        text = f"{float(amount):.3g} {unit} {solid.name} for {float(stock):.4g} ml of brew"
        yield BrewStep(text, measure_with(amount, solid.dimension, tools))
    hours = "" if brew.minutes is None else f" for {_time(brew.minutes)}"
    how = {"boil": "Boil", "simmer": "Simmer"}.get(brew.how[:6].rstrip("e"), "Let it steep")
    how = "Boil" if brew.how.startswith("boil") else how
    yield BrewStep(f"{how}{hours or ', its time was not said'}.")
    if brew.hot:
        yield BrewStep("Let it cool with the lid on: it scalds.")
    yield BrewStep("Strain it through a cloth, or the nozzle clogs; use it the same day.")


def _time(minutes: Fraction) -> str:
    if minutes >= 1440 and minutes % 1440 == 0:
        return f"{float(minutes / 1440):g} days"
    return f"{float(minutes / 60):g} hours" if minutes >= 60 else f"{float(minutes):g} minutes"


def _warnings(reading: Reading, yard: Yard) -> Iterator[str]:
    hard = hardness_warning(reading.parts, yard.hardness)
    if hard:
        yield hard
    found = [one for part in reading.parts if (one := classify(part.name)) is not None]
    acid = any(one.has(Trait.ACID) for one in found)
    if acid and any(one.has(Trait.SOAPY) for one in found):
        yield "An acid splits soap: it curdles, and neither works. Use one or the other."
    if any(one.has(Trait.OIL) for one in found) and not any(one.has(Trait.SOAPY) for one in found):
        yield (
            "Nothing holds the oil in the water: it floats, and the first plant gets most of it. "
            "1 to 5 ml of mild soap a litre does."
        )


@dataclass(frozen=True, slots=True)
class Dilution:
    """A stock made weaker: the steps, each with what to measure, and the strength reached."""

    steps: tuple[DilutionStep, ...]
    measured: tuple[Measured, ...]
    share: Fraction
    bottle: Fraction


def dilute_stock(stock: Fraction, strength: Fraction, yard: Yard, wanted: Wanted) -> Dilution:
    """Dilute a stock (both as shares) to a strength: C1·V1 = C2·V2."""
    volume = wanted.ml()
    take = dilute(stock, strength, volume)
    step = DilutionStep(take, volume - take, volume)
    return Dilution((step,), (_take(take, yard),), take / volume, _bottle(volume, yard))


def dilute_parts(
    parts: Sequence[Fraction], yard: Yard, wanted: Wanted, *, altogether: bool
) -> Dilution:
    """Dilute one part in N, once or in several steps (a brew, then its dilution)."""
    volume = wanted.ml()
    shares = [share_of_parts(n, altogether=altogether) for n in parts]
    tools = [_own_tool(TOOLS[k], yard) for k in yard.tools]
    least = min((t.step for t in tools if t.dimension is Dimension.VOLUME), default=Fraction(0))
    steps = dilution_steps(shares, volume, least)
    share = Fraction(1)
    for one in shares:
        share *= one
    taken = tuple(_take(s.take, yard) for s in steps)
    return Dilution(steps, taken, share, _bottle(volume, yard))


def _own_tool(tool: Tool, yard: Yard) -> Tool:
    """A dropper tells drops of the yard's size."""
    return replace(tool, step=Fraction(repr(yard.drop))) if tool.key == "dropper" else tool


def _take(amount: Fraction, yard: Yard) -> Measured:
    tools = [_own_tool(TOOLS[key], yard) for key in yard.tools]
    return measure_with(amount, Dimension.VOLUME, tools)


def _bottle(volume: Fraction, yard: Yard) -> Fraction:
    """The smallest own bottle with room to shake; beyond those, one made to measure."""
    try:
        return bottle_for(volume, yard.exact_bottles(), HEADROOM)
    except InputError:
        return volume / (1 - HEADROOM)


def _pours(
    pours: Sequence[Pour],
    like: CatalogueRemedy | None,
    card: RecipeCard | None,
    tools: Sequence[Tool],
) -> tuple[MixPour, ...]:
    steps = [pour.step for pour in pours]
    return tuple(_measured(p, reason_for(p.step, steps), like, card, tools) for p in pours)


def _measured(
    pour: Pour,
    reason: str,
    like: CatalogueRemedy | None,
    card: RecipeCard | None,
    tools: Sequence[Tool],
) -> MixPour:
    if pour.name == "water" or pour.amount <= 0:
        return MixPour(pour, PartRole.CARRIER, reason, None)
    usual = usual_for(like, Part(pour.name, Fraction(0), pour.dimension))
    role = PartRole.ACTIVE
    if usual is not None and card is not None:
        role = card.roles.get(usual.key, PartRole.ACTIVE)
    return MixPour(pour, role, reason, measure_with(pour.amount, pour.dimension, tools))


def _schools(
    parts: Sequence[Part], like: CatalogueRemedy | None, card: RecipeCard | None
) -> Sequence[str]:
    said: list[str] = []
    for part in parts:
        usual = usual_for(like, part)
        if usual is not None and card is not None:
            said += school_note(card, usual.key, float(place_on(part, usual)), usual.unit)
    return said
