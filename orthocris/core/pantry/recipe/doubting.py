"""What was said of the whole mix and cannot be followed: it is asked about, never passed over."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.heard import Counted, Heard, Poured, Share
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.said import Phrase, Thing
from orthocris.core.pantry.substance_list import Trait

_GREASY = (Trait.SOAPY, Trait.DETERGENT, Trait.OIL, Trait.NEEM, Trait.SCENTED)
MISFIT = Fraction(3, 100)  # shares that are told of a whole make the whole but for so much
UNNAMED = "what is that?"
_QUOTES = tuple('"“«')
_MORE = frozenset({"another", "more", "again", "extra", "further"})
ALIKE = Fraction(1, 10)  # two strengths so near are one, said again


def definite(thing: Thing) -> bool:
    """True for "the concentrate", "this", "it": what was made before."""
    return thing.brew and thing.name.startswith(("the ", "this", "that", "it", "of "))


def is_stock(thing: Thing) -> bool:
    """True for "stock", which may be what was told before or another."""
    return thing.brew and thing.name in ("stock", "concentrate", "stock solution", "base")


def ask_about_the_rest(heard: Heard) -> None:
    """Add a doubt for water that thins nothing in particular, and for a "this" that is no stock."""
    known = {id(phrase) for phrase, _ in heard.doubts}
    heard.doubts += [one for one in _unfollowed(heard) if id(one[0]) not in known]


def ask_which_strength(heard: Heard) -> None:
    """ "Soap 2%, 20 ml per litre" says its strength in the mix twice; "2%, 5 ml" is asked about.

    "5 ml of 20% soap" is of a bottle at that strength.
    """
    for one in heard.poured:
        found, strength = one.thing.substance, one.thing.strength
        bought = found is None or found.has(Trait.STOCK)
        clear = one.phrase.sort != "name_first" or any(map(_says_stock, one.phrase.row))
        if bought or clear or not strength or one.volume is None:
            continue
        size = one.volume.ml
        if size and abs(one.measure.size / size / strength - 1) <= ALIKE:
            one.thing = replace(one.thing, strength=None)
        else:
            heard.doubts.append((one.phrase, "a strength and an amount"))


def ask_which_share(heard: Heard) -> None:
    """ "1:50 (2%) soap" says one share twice; "1:50 (5%) soap" is asked about."""
    for one in heard.shares:
        found, strength = one.thing.substance, one.thing.strength
        bought = found is None or found.has(Trait.STOCK)
        told = one.phrase.ratio is not None and not any(map(_says_stock, one.phrase.row))
        if bought or not strength or not told:
            continue
        thinned = any(word.kind in (Kind.VERB, Kind.THIN) for word in one.phrase.row)
        if abs(one.share / strength - 1) <= ALIKE and not thinned:
            one.thing = replace(one.thing, strength=None)
        else:  # "10% soap thinned 1:10" is a stock that is thinned, or the same twice
            heard.doubts.append((one.phrase, "a strength and an amount"))


def _misfit(heard: Heard) -> Iterator[tuple[Phrase, str]]:
    """ "30% milk, 50% water", "a third milk, half water": what is the rest?"""
    if heard.water is not None and heard.shares:
        phrase, water = heard.water
        if abs(sum((one.share for one in heard.shares), water) - 1) > MISFIT:
            yield phrase, "and the rest?"
    wholes = [one for one in heard.counted if one.of_whole]
    watery = [one for one in wholes if one.thing.water]
    if watery and abs(sum((one.number for one in wholes), Fraction(0)) - 1) > MISFIT:
        yield watery[0].phrase, "and the rest?"


def _says_stock(word: Lexeme) -> bool:
    return word.text in ("solution", "concentrate") or "stock" in word.text


def _nameless(heard: Heard) -> Iterator[tuple[Phrase, str]]:
    """What nobody knows, and no quotes say to be a name: "unless hot, 3 ml", "10 ml burns".

    "10 ml Greenshield per litre" may be a soap or a poison: what it is decides what is said of it.
    """
    said: list[Share | Poured | Counted] = [*heard.shares, *heard.poured, *heard.counted]
    for one in said:
        if unnamed(one.thing, one.phrase):
            yield one.phrase, UNNAMED


def _solid_in_ml(heard: Heard) -> Iterator[tuple[Phrase, str]]:
    """ "Ferns: 5 ml": a plant by the ml, with nothing said of steeping it."""
    for one in heard.poured:
        if one.solid and one.amount.unit in ("ml", "cl") and not (heard.steeped or heard.strained):
            yield one.phrase, "of what?"


def unnamed(thing: Thing, phrase: Phrase) -> bool:
    """True for what is no known ingredient, no water or brew, and not quoted."""
    unknown = thing.substance is None and not (thing.water or thing.brew)
    inside = [one for one in phrase.row if thing.start <= one.start < thing.end]
    return unknown and not any(one.text[:1] in _QUOTES for one in inside)


def _unfollowed(heard: Heard) -> Iterator[tuple[Phrase, str]]:
    yield from _told_again(heard)
    yield from _nameless(heard)
    yield from _solid_in_ml(heard)
    yield from _misfit(heard)
    if heard.counted and _is_dry(heard):
        yield heard.counted[-1].phrase, "and the water?"
    waters = [c for c in heard.counted if c.thing.water]
    followed = heard.brewed_in is not None and not (heard.thinned or heard.brew_measured)
    alone = len(waters) == len(heard.counted) and not followed
    wholes = any(c.of_whole for c in heard.counted)
    for part in heard.counted:
        if (part.thing.water and alone) or (wholes and not part.of_whole):
            yield part.phrase, "as much as what?"
    said: list[Share | Poured | Counted] = [*heard.shares, *heard.poured, *heard.counted]
    for one in (o for o in said if definite(o.thing) or is_stock(o.thing)):
        halved = isinstance(one, Counted) and one.of_whole and len(heard.counted) == 1
        if one.stage and heard.mother and isinstance(one, Poured):
            continue  # taken of the stock that was told in parts
        later = is_stock(one.thing) and any(_is_poured_before(p, one.phrase) for p in heard.poured)
        if halved or later or any(_is_made(other, one.phrase) for other in said):
            yield one.phrase, "of what?"


def _told_again(heard: Heard) -> Iterator[tuple[Phrase, str]]:
    """ "Weak: 5 ml soap per litre; strong: 15 ml soap per litre": one of them, and not the sum."""
    said: list[Share | Poured] = sorted(
        [*heard.shares, *heard.poured], key=lambda one: one.phrase.start
    )
    before: dict[tuple[str, int], Share | Poured] = {}
    for one in said:
        if one.thing.brew or one.thing.water:
            continue
        first = before.setdefault((one.thing.name, one.stage), one)
        if first is one or first.phrase is one.phrase:
            continue
        both = isinstance(first, Poured) and isinstance(one, Poured)
        if not (both and _volume_of(first) is _volume_of(one) and _is_more(one.phrase)):
            yield one.phrase, "told again"


def _is_more(phrase: Phrase) -> bool:
    """True for "another 5 ml soap"."""
    return any(set(one.text.split()) & _MORE for one in phrase.row)


def _volume_of(one: Share | Poured) -> object:
    return one.volume if isinstance(one, Poured) else None


def _is_dry(heard: Heard) -> bool:
    """True for "oil and soap 3:1", or one part of something, and nothing else."""
    things = [one.thing for one in heard.counted]
    known = [thing.substance for thing in things if thing.substance is not None]
    greasy = any(one.has(trait) for one in known for trait in _GREASY)
    watery = heard.mother or heard.volumes or any(t.water or t.brew for t in things)
    alone = len(things) == 1 and not heard.counted[0].of_whole  # "one part soap", of how many?
    return (alone or (len(things) > 1 and greasy)) and not watery


def _is_poured_before(one: Poured, later: Phrase) -> bool:
    """True for what is in a volume already: "stock" may be that, or another bottle."""
    done = one.volume is not None and one.volume.phrase.start < later.start
    return done and one.stage == 0 and one.phrase.start < later.start


def _is_made(one: Share | Poured | Counted, later: Phrase) -> bool:
    """True for a part told as a share of the whole: there is no stock to take "this" from."""
    told = not isinstance(one, Poured) and not one.thing.brew and not one.thing.water
    return told and one.stage == 0 and one.phrase.start < later.start
