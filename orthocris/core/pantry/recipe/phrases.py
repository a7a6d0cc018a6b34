"""What the phrases of a recipe say, and the reading of a sentence into phrases and loose words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

from lark import Token, Tree

from orthocris.core.pantry.recipe.composing import row_of
from orthocris.core.pantry.recipe.grammar import longest_phrases
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.row import MEASURES, NAMES, NUMBERS, Ratio, kinds, named_at
from orthocris.core.pantry.recipe.said import Amount, Item, Phrase, Thing
from orthocris.core.pantry.substance_list import Substance, Trait
from orthocris.core.pantry.substances import classify


def sentence(text: str) -> tuple[Item, ...]:
    """Return a recipe as phrases and loose words, in order, every word in one of them."""
    row = row_of(text)
    return tuple(_items(row, text))


def _items(row: Sequence[Lexeme], text: str) -> Iterator[Item]:
    place = 0
    builder = _Builder(row, text)
    while place < len(row):
        for end, tree in longest_phrases(row, place):
            phrase = builder.phrase(tree, row[place:end])
            if phrase is not None and not _steals(phrase, row, end):
                yield phrase
                place = end
                break
        else:
            yield row[place]
            place += 1


SHORTEST = 2  # letters of a name
# Ends of a phrase after which the amount just read belongs to what follows.
_UNNAMED = MEASURES | NUMBERS | {Kind.WORD, Kind.ADJECTIVE}
_TAKES = frozenset({Kind.OF, Kind.WORD, Kind.ADJECTIVE, Kind.BREW, Kind.WATER, Kind.VESSEL})


def _steals(phrase: Phrase, row: Sequence[Lexeme], end: int) -> bool:
    """True when the amount at a phrase's end is the next ingredient's: "milk, 5 ml soap"."""
    if phrase.sort == "proportion" and phrase.row[0].kind is Kind.RATIO:
        amount = end + (end < len(row) and row[end].kind is Kind.SEP)
        told = kinds(row, amount, NUMBERS | MEASURES) or kinds(row, amount, Kind.STRENGTH)
        if told or any(one.value == "stop" for one in phrase.row):
            return True  # "1:200 neem oil, soap, 5 ml a litre": of neem oil alone
    if phrase.sort == "same" and phrase.row[-1].kind is Kind.SAME:
        return row[end].kind is not Kind.SEP if end < len(row) else False
    unknown = phrase.things and all(one.kind in _UNNAMED for one in phrase.row[:-1])
    if phrase.sort == "name_first" and unknown and named_at(row, end):
        return True  # "whisk together 10 ml soap", "3 uncoated 325 mg aspirins"
    if phrase.sort in ("one_to", "one_in") and end < len(row) and row[end].kind in MEASURES:
        return True  # "one part milk in 9 litres"
    if end >= len(row) or row[end].kind not in _TAKES | NAMES:
        return False
    loose = any(one.kind is Kind.SEP for one in phrase.row)
    if phrase.sort == "equal" and len(phrase.things) == 1:
        return True  # "alcohol, equal parts water": of water, not of alcohol
    if phrase.sort in ("volume", "vessel", "bare") and phrase.amount is not None:
        named = row[end].kind is not Kind.VESSEL and row[end].kind is not Kind.WATER
        mixed = end + 1 < len(row) and row[end + 1].kind in (Kind.RATIO, Kind.STRENGTH)
        return (row[end].kind is Kind.OF and not mixed) or (named and phrase.amount.small)
    last, first = phrase.row[-1].kind, phrase.row[0].kind
    ends_open = (last in MEASURES | {Kind.RATIO, Kind.PARTS} and phrase.things) or (
        phrase.sort == "water" and last is not Kind.WATER
    )
    led = first in NAMES | {Kind.ADJECTIVE, Kind.WORD, Kind.WATER, Kind.STRENGTH, Kind.BREW}
    return bool(ends_open) and led and (loose or first is Kind.STRENGTH)


class _Builder:
    """Turns a tree of the grammar into a phrase."""

    def __init__(self, row: Sequence[Lexeme], text: str) -> None:
        self._row, self._text = row, text

    def phrase(self, tree: Tree[Token], row: Sequence[Lexeme]) -> Phrase | None:
        """Return what the tree says; None when the words make no sense as such a phrase."""
        found = self._said(tree, row)
        if any(len(thing.name) < SHORTEST for thing in found.things):
            return None
        if found.sort == "amount_first" and found.thing.strength is not None:
            return found if self._may_trail(row) else None
        if found.sort == "thinned" and _wanted(found):
            thing = replace(found.thing, strength=found.share)
            return replace(found, sort="lone", things=(thing,))
        if found.sort in _NEED_STRENGTH and found.thing.strength is None:
            return None
        by_sort = {"counted": _pieces, "ratio": _ratio, "parts": _half_a_piece,
                   "last_of_whole": self._last_of_whole}.get(found.sort)  # fmt: skip
        if by_sort is not None:
            return by_sort(found)
        if found.sort == "filled" and not all(thing.water for thing in found.things):
            return None
        if found.sort == "name_first" and found.thing.water:
            return replace(found, sort="water", things=())
        return found if len(found.things) <= 1 or found.sort in ("each", "equal") else None

    def _last_of_whole(self, found: Phrase) -> Phrase | None:
        """ "Whey one third, water two thirds"; "soap, half" alone says of nothing."""
        whole = _told_of_water(self._row) and len(found.things) == 1
        return replace(found, sort="parts") if whole else None

    def _said(self, tree: Tree[Token], row: Sequence[Lexeme]) -> Phrase:
        sort, tokens, things = str(tree.data), self._tokens(tree), tuple(self._things(tree))
        by_kind = {one.kind: one for one in reversed(tokens)}
        amounts = [self._amount(found) for found in _direct(tree, "amount")]
        inside = [a for found in _direct(tree, "amount_in") for a in _direct(found, "amount")]
        numbers = [self._number(found) for found in _direct(tree, "number")]
        counted = by_kind.get(Kind.NUMBER) or by_kind.get(Kind.FRACTION) or by_kind.get(Kind.SAME)
        shares = [one.value for one in tokens if one.kind is Kind.STRENGTH]
        share = shares[0 if sort == "of_stock" else -1] if shares else None
        ratio = by_kind[Kind.RATIO].value if Kind.RATIO in by_kind else None
        number = numbers[0] if numbers else counted.value if counted else None
        if sort in ("one_to", "one_in"):
            ratio = Ratio(numbers[0], numbers[1], sort == "one_in")
        joint = next((one.kind.value for one in tokens if one.kind in _JOINTS), "")
        return Phrase(
            sort, row[0].start, row[-1].end, tuple(row), things,
            amounts[0] if amounts else None,
            self._amount(inside[0]) if inside else None,
            share if isinstance(share, Fraction) else None,
            ratio if isinstance(ratio, Ratio) else None,
            number if isinstance(number, Fraction) else None,
            joint, self._proportion(tokens, ratio, things),
            Kind.WATER in by_kind or any(thing.water for thing in things),
        )  # fmt: skip

    @staticmethod
    def _may_trail(row: Sequence[Lexeme]) -> bool:
        """A strength after the name is the bottle's for what is sold at one, else a new part's."""
        return row[-1].kind is not Kind.STRENGTH or any(one.kind is Kind.STOCK for one in row)

    @staticmethod
    def _proportion(
        tokens: Sequence[Lexeme], ratio: object, things: Sequence[Thing]
    ) -> tuple[Fraction, ...]:
        """How many parts of each thing a ratio names."""
        for one in tokens:
            if one.kind is Kind.PROPORTION and isinstance(one.value, tuple):
                return one.value
        if isinstance(ratio, Ratio) and len(things) == 2:
            rest = ratio.rest - ratio.one if ratio.altogether else ratio.rest
            return (ratio.one, rest)
        return ()

    def _tokens(self, tree: Tree[Token]) -> list[Lexeme]:
        return [self._row[int(one)] for one in tree.children if isinstance(one, Token)]

    def _things(self, tree: Tree[Token]) -> Iterator[Thing]:
        takes_water = str(tree.data) in ("parts", "equal", "each", "same", "matters", "ratio")
        for child in tree.children:
            if isinstance(child, Token):
                word = self._row[int(child)]
                if word.kind is Kind.WATER and takes_water:
                    yield Thing("water", water=True, start=word.start, end=word.end)
            elif child.data == "matters":
                yield from self._things(child)
            elif child.data == "thing":
                yield self._thing(child)
            elif child.data == "core":
                strengths = [t.value for t in self._tokens(tree) if t.kind is Kind.STRENGTH]
                yield self._core(child, strengths[-1] if strengths else None)

    def _thing(self, tree: Tree[Token]) -> Thing:
        strengths = [t.value for t in self._tokens(tree) if t.kind is Kind.STRENGTH]
        (core,) = _direct(tree, "core")
        return self._core(core, strengths[0] if strengths else None)

    def _core(self, tree: Tree[Token], strength: object) -> Thing:
        words = [self._row[int(one)] for one in tree.scan_values(lambda _: True)]
        named = [w for w in words if w.kind not in (Kind.STEEP, Kind.STRAIN)]
        said = [w for w in named if w.kind is not Kind.ADJECTIVE]
        quoted = next((w for w in named if w.text[:1] in '"“«'), None)
        spelled = [self._text[w.start : w.end].lower().split("(")[0] for w in named]
        name = " ".join(" ".join(spelled).split()) if said else ""
        if quoted is not None:
            name = quoted.text[1:-1].strip()
        known = [w.value for w in words if isinstance(w.value, Substance)]
        found = classify(name) if quoted is not None else next(iter(known), None)
        brew = bool(said) and said[-1].kind is Kind.BREW
        return Thing(
            name, None if brew and not known else found,
            strength if isinstance(strength, Fraction) else None,
            brew=brew, start=words[0].start, end=words[-1].end,
        )  # fmt: skip

    def _amount(self, tree: Tree[Token]) -> Amount:
        tokens = self._tokens(tree)
        numbers = list(_direct(tree, "number"))
        number = self._number(numbers[0]) if numbers else Fraction(1)
        words = [self._row[int(one)] for one in tree.scan_values(lambda _: True)]
        heap = next((t.value for t in tokens if t.kind is Kind.HEAP), Fraction(1))
        last = tokens[-1]
        unit, size = "piece", Fraction(1)
        if last.kind is Kind.UNIT and isinstance(last.value, tuple):
            number, unit = last.value  # a litre and a half
        elif last.kind is Kind.UNIT:
            unit = str(last.value)
        elif last.kind is Kind.VAGUE:
            unit = "vague"
            size = last.value if isinstance(last.value, Fraction) else size
        return Amount(
            number, unit, heap if isinstance(heap, Fraction) else Fraction(1), size, last.text,
            bool(numbers) or isinstance(last.value, tuple), words[0].kind is Kind.A, tuple(words),
        )  # fmt: skip

    def _number(self, tree: Tree[Token]) -> Fraction:
        value = self._tokens(tree)[0].value
        return value if isinstance(value, Fraction) else Fraction(1)


def _told_of_water(row: Sequence[Lexeme]) -> bool:
    """True where water has its fraction of the whole, or the rest."""
    said = [one for one in row if one.kind not in (Kind.SEP, Kind.AT, Kind.OF, Kind.ADJECTIVE)]
    shared = frozenset({Kind.WATER, Kind.FRACTION})
    pairs = ({one.kind, other.kind} == shared for one, other in pairwise(said))
    rest = any(one.kind is Kind.NOTE and one.text.startswith("rest") for one in row)
    return rest or any(pairs)


_JOINTS = (Kind.IN, Kind.TO, Kind.PER, Kind.UP_TO)
_NEED_STRENGTH = ("lone", "thinned", "thinned_from")


def _wanted(found: Phrase) -> bool:
    """True for "milk diluted to 10%": what is sold at no strength is thinned to that share."""
    substance = found.thing.substance
    stock = substance is None or substance.has(Trait.STOCK)
    return found.thing.strength is None and not stock and not found.thing.water


def _pieces(found: Phrase) -> Phrase | None:
    """ "2 aspirin tablets": a number of what comes in pieces of a known weight."""
    substance = found.thing.substance
    brew = any(one.kind is Kind.BREW for one in found.row)  # "a third nettle tea"
    if substance is None or substance.piece is None or found.number is None or brew:
        return None
    amount = Amount(found.number, "piece", said=(found.row[0],))
    return replace(found, sort="amount_first", amount=amount)


def _half_a_piece(found: Phrase) -> Phrase | None:
    """ "half an onion" is of one piece, "half milk" of the whole."""
    if len(found.things) > 1:
        return None
    if found.row[0].kind is not Kind.FRACTION:
        return found
    return _pieces(found) or found


def _ratio(found: Phrase) -> Phrase | None:
    """A ratio of one thing to water, or of several things to each other."""
    if len(found.things) > 1:
        fits = len(found.proportion) == len(found.things)
        watery = any(thing.water for thing in found.things)
        fits = fits and (watery or all(thing.strength is None for thing in found.things))
        fits = fits and not any(w.kind is Kind.RATIO and "water" in w.text for w in found.row)
        return replace(found, sort="proportion") if fits else None
    watery = bool(found.things) and found.thing.water
    return found if found.ratio is not None and not watery else None


def _direct(tree: Tree[Token], data: str) -> Iterator[Tree[Token]]:
    """The children of a tree that are of one rule."""
    for child in tree.children:
        if isinstance(child, Tree) and child.data == data:
            yield child
