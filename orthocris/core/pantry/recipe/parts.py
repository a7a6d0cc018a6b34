"""From what was heard to parts in a litre of the ready mix, and the brew where one is made."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.heard import Heard, Poured, Volume
from orthocris.core.pantry.recipe.said import Phrase, Thing
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.units import Dimension

OVERNIGHT = 480  # minutes


@dataclass(frozen=True, slots=True)
class Brew:
    """A stock that is made first: solids steeped in water, cooled, strained.

    `solids` are grams in a litre of the stock; `minutes` None where no time was said; `hot` for
    what is boiled or infused; `share` is what a litre of ready mix holds of the stock.
    """

    name: str
    solids: tuple[Part, ...]
    how: str
    minutes: Fraction | None
    hot: bool
    share: Fraction


@dataclass(frozen=True, slots=True)
class SaidPart:
    """A part and the phrase that says it."""

    part: Part
    phrase: Phrase


_HOT = ("boil", "simmer", "infus", "decoct", "stew", "cook", "pour")


def parts_of(heard: Heard) -> tuple[tuple[SaidPart, ...], Brew | None]:
    """Return the parts of the ready mix with their phrases, and the brew.

    Raises
    ------
    InputError
        Codes ``no_volume``, ``bad_ratio``, ``stock_too_weak``, ``more_than_whole``.
    """
    solids = [p for p in heard.poured if heard.steeps(p)]
    brew = _brew(heard, solids) if solids else None
    said: list[SaidPart] = []
    if brew is not None:
        first = solids[0].phrase
        said.append(SaidPart(Part(brew.name, brew.share * LITRE), first))
        for solid, part in zip(solids, brew.solids, strict=True):
            scaled = replace(part, per_litre=part.per_litre * brew.share, steeped=True)
            said.append(SaidPart(scaled, solid.phrase))
    made = brew is not None or heard.mother
    mother = _mother(heard) if heard.mother and brew is None else None
    for poured in heard.poured:
        if poured not in solids and not (made and poured.thing.brew):
            part = _poured(poured, mother, brew, solids)
            said.append(SaidPart(part, poured.phrase))
    said += [
        SaidPart(_part(one.thing, _checked(one.share, one.phrase)), one.phrase)
        for one in heard.shares
        if not (made and one.thing.brew)
    ]
    said += _counted(heard, made)
    return _in_place_of_water(_merged(sorted(said, key=lambda one: one.phrase.start)), brew)


def _in_place_of_water(
    said: tuple[SaidPart, ...], brew: Brew | None
) -> tuple[tuple[SaidPart, ...], Brew | None]:
    """ "A litre of brew, used neat, with a spoon of soap": what is neat makes room for the rest."""
    poured = [p for p in said if p.part.dimension is Dimension.VOLUME and not p.part.steeped]
    whole = [one for one in poured if one.part.per_litre == LITRE]
    rest = sum((one.part.per_litre for one in poured if one not in whole), Fraction(0))
    if len(whole) != 1 or not 0 < rest < LITRE:
        return said, brew
    room = 1 - rest / LITRE
    brewed = brew is not None and whole[0].part.name == brew.name
    if not (brewed or whole[0].phrase.sort == "neat"):
        return said, brew
    fitted = tuple(
        replace(one, part=replace(one.part, per_litre=one.part.per_litre * room))
        if one is whole[0] or (brewed and one.part.steeped)
        else one
        for one in said
    )
    return fitted, replace(brew, share=brew.share * room) if brewed and brew is not None else brew


def _brew(heard: Heard, solids: Sequence[Poured]) -> Brew:
    inside = next((p.volume for p in solids if p.volume is not None), None)
    if inside is None:
        raise _no_volume(solids[0])
    parts = tuple(
        Part(p.thing.name, p.measure.size * LITRE / _size(p.volume or inside), p.measure.dimension)
        for p in solids
    )
    names = list(dict.fromkeys(p.thing.name for p in solids))
    how = heard.how or "steeped"
    return Brew(
        f"{' and '.join(names)} brew", parts, how, heard.minutes,
        how.startswith(_HOT) or _hot_water(inside), _brew_share(heard),
    )  # fmt: skip


def _hot_water(volume: Volume) -> bool:
    return any(word in one.text for one in volume.phrase.row for word in ("hot", "boiling"))


def _mother(heard: Heard) -> tuple[Fraction, Fraction]:
    """ml of a stock made of liquids alone, and the share of it in the ready mix."""
    liquids = [
        p.measure.size
        for p in heard.poured
        if p.stage == 0 and p.measure.dimension is Dimension.VOLUME
    ]
    return sum(liquids, Fraction(0)), _brew_share(heard)


def _brew_share(heard: Heard) -> Fraction:
    """What the ready mix holds of the brew; all of it where no dilution was said."""
    shares = [_checked(s.share, s.phrase) for s in heard.shares if s.thing.brew]
    shares += [
        _checked(p.measure.size / _size(p.volume), p.phrase)
        for p in heard.poured
        if p.thing.brew and p.volume is not None
    ]
    made = heard.brewed_in
    wanted = next((v for v in heard.volumes if v.stage == 1 and v.how == "up_to"), None)
    if not shares and made is not None and wanted is not None:
        shares.append(_checked(made.ml / wanted.ml if wanted.ml else Fraction(2), wanted.phrase))
    if not shares and made is not None and heard.thinned is not None:
        shares.append(made.ml / heard.thinned.ml)
    total = sum((c.number for c in heard.counted), Fraction(0))
    if not shares and total and all(c.thing.water for c in heard.counted):
        shares.append(1 / (1 + total))  # "thin with 4 parts water"
    shares += [c.number / total for c in heard.counted if c.thing.brew and total]
    share = Fraction(1)
    for one in shares:
        share *= one
    return share


def _poured(
    poured: Poured,
    mother: tuple[Fraction, Fraction] | None,
    brew: Brew | None,
    solids: Sequence[Poured],
) -> Part:
    volume, share = poured.volume, Fraction(1)
    if mother is not None and poured.stage == 0:
        whole, taken = mother
        size = volume.ml if volume is not None else whole
        scaled = poured.measure.size * LITRE / size * taken if size else Fraction(0)
        return replace(
            _part(poured.thing, Fraction(0)), per_litre=scaled, dimension=poured.measure.dimension
        )
    if brew is not None and poured.stage == 0:
        volume, share = volume or solids[0].volume, brew.share
    elif brew is not None and volume is None and brew.share == 1:
        volume = solids[0].volume
    if volume is None:
        raise _no_volume(poured)
    per_litre = poured.measure.size * LITRE / _size(volume) * share
    return replace(
        _part(poured.thing, Fraction(0)), per_litre=per_litre, dimension=poured.measure.dimension
    )


def _part(thing: Thing, share: Fraction) -> Part:
    name = thing.name
    if thing.strength is not None:
        name = f"{float(thing.strength * 100):g}% {name}"
    return Part(name, share * LITRE, strength=thing.strength)


def _counted(heard: Heard, made: bool) -> Iterable[SaidPart]:
    """Parts of a whole: three of soap and one of oil in so many of water.

    What is told in parts may be a stock of which the ready mix takes so much.
    """
    counted = [one for one in heard.counted if not (heard.mother and one.stage)]
    taken = _brew_share(heard) if heard.mother else Fraction(1)
    total = sum((c.number for c in counted), Fraction(0))
    if counted and all(c.of_whole for c in counted):
        total = max(total, Fraction(1)) if any(c.thing.water for c in counted) else Fraction(1)
    for one in counted:
        if not one.thing.water and not (made and one.thing.brew):
            share = one.number / total if total else Fraction(2)
            part = _part(one.thing, _checked(share, one.phrase) * taken)
            yield SaidPart(part, one.phrase)


def _checked(share: Fraction, phrase: Phrase) -> Fraction:
    if 0 < share <= 1:
        return share
    said = _words(phrase)
    if phrase.sort.startswith("thinned"):
        raise InputError(
            f"{said!r} asks for more than the bottle has",
            code="stock_too_weak",
            field="text",
            fix="Water makes it weaker, never stronger: get a stronger stock or want less.",
        )
    if phrase.ratio is not None:
        raise InputError(
            f"{said!r} is no strength",
            code="bad_ratio",
            field="text",
            fix="Say how many parts there are altogether, such as 1 in 40.",
        )
    raise InputError(
        f"{said!r} is {float(share):.0%} of the mix",
        code="more_than_whole",
        field="text",
        fix="A strength is above 0 and at most 100%.",
    )


def _merged(said: Sequence[SaidPart]) -> tuple[SaidPart, ...]:
    """The same ingredient said twice is one part."""
    made: dict[tuple[str, Dimension, bool], SaidPart] = {}
    for one in said:
        key = (one.part.name, one.part.dimension, one.part.steeped)
        before = made.get(key)
        if before is not None:
            both = before.part.per_litre + one.part.per_litre
            one = replace(before, part=replace(before.part, per_litre=both))  # noqa: PLW2901
        made[key] = one
    return tuple(made.values())


def _size(volume: Volume) -> Fraction:
    """The ready mix, ml, above 0."""
    if volume.ml > 0:
        return volume.ml
    raise InputError(
        f"{_words(volume.phrase)!r} is no water to be in",
        code="no_volume",
        field="text",
        fix="Give the volume of the ready mix, above 0.",
    )


def _no_volume(poured: Poured) -> InputError:
    return InputError(
        f"{_words(poured.phrase)!r} has no volume of water to be in",
        code="no_volume",
        field="text",
        fix="Add it, such as in 1 litre.",
    )


def _words(phrase: Phrase) -> str:
    return " ".join(one.text for one in phrase.row)
