"""The gardener's own sentence, piece by piece: what each was taken for, and what else it may be."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from difflib import get_close_matches
from enum import StrEnum
from fractions import Fraction
from functools import cache

from orthocris.core.pantry.recipe.doubting import UNNAMED, unnamed
from orthocris.core.pantry.recipe.heard import Heard
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.mixes import ONE_OR_TWO
from orthocris.core.pantry.recipe.parts import Brew, SaidPart
from orthocris.core.pantry.recipe.said import Choice, Item, Phrase
from orthocris.core.pantry.recipe.vocabulary import USES
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.substances import SUBSTANCES, Substance, substances_in
from orthocris.core.pantry.units import Dimension


class TokenKind(StrEnum):
    """What a piece of the sentence was taken for."""

    PART = "part"
    VOLUME = "volume"
    NOTE = "note"
    GUESS = "guess"  # a part or a volume for which something was assumed
    OPEN = "open"  # must be settled


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of the gardener's own sentence, what it was taken for, and what else it may be."""

    start: int
    end: int
    kind: TokenKind
    words: str
    taken_for: str
    choices: tuple[Choice, ...] = ()


def tokens_of(
    text: str, items: Sequence[Item], heard: Heard, said: Sequence[SaidPart], brew: Brew | None
) -> Iterator[Token]:
    parts: dict[Phrase, list[Part]] = {}
    for one in said:
        parts.setdefault(one.phrase, []).append(one.part)
    doubts = dict(heard.doubts)
    things = [p.thing for p in heard.poured] + [s.thing for s in heard.shares]
    things += [c.thing for c in heard.counted]
    known = {thing.substance for thing in things if thing.substance is not None}
    known |= {found for thing in things for found in substances_in(thing.name)}
    for place, item in enumerate(items):
        if isinstance(item, Phrase):
            found = parts.get(item, [])
            yield _phrase_token(text, item, found, doubts.get(item), heard, brew)
        else:
            every = [one.part for one in said]
            token = _word_token(text, items, place, known, every)
            if token is not None:
                yield token


def _phrase_token(
    text: str,
    phrase: Phrase,
    parts: Sequence[Part],
    doubt: str | None,
    heard: Heard,
    brew: Brew | None,
) -> Token:
    words = text[phrase.start : phrase.end]
    if doubt is not None:
        taken, choices = _told_twice(text, phrase) or _doubt(phrase, words, doubt)
        if doubt == ONE_OR_TWO:
            choices = _one_or_two(text, phrase, heard)
        if doubt == UNNAMED:
            choices = (*_names(text, phrase), *choices)
        return Token(phrase.start, phrase.end, TokenKind.OPEN, words, taken, choices)
    measures = [p.measure for p in heard.poured if p.phrase is phrase]
    guesses = [g for m in measures for g in m.guesses]
    choices = tuple(dict.fromkeys(c for m in measures for c in m.others))
    if phrase.things and not all(t.water for t in phrase.things):
        taken = "; ".join(_part_words(part) for part in parts) or _brew_words(brew)
        taken = taken or (FROM_BEFORE if heard.mother and phrase.amount else "")
        own = [thing for thing in phrase.things if unnamed(thing, phrase)]
        guesses += [f"{thing.name} is not known here: its label rules" for thing in own]
        choices += _names(text, phrase)
        turned = [guess for one, guess in heard.guesses if one is phrase]
        guesses += turned
        choices += _sides(phrase)[1:] if turned else ()
    else:
        volumes = [v for v in heard.volumes if v.phrase is phrase]
        guesses = [g for v in volumes for g in v.measure.guesses]
        choices = tuple(dict.fromkeys(c for v in volumes for c in v.measure.others))
        taken = "parts of water"
        if volumes:
            made = any(p.volume is volumes[0] and p.solid for p in heard.poured)
            what = "brew" if made else "ready mix"
            taken = _volume_words(volumes[0].ml, volumes[0].how, what)
    kind = TokenKind.PART if phrase.things else TokenKind.VOLUME
    said = "; ".join((*filter(None, [taken]), *guesses))
    return Token(
        phrase.start, phrase.end, TokenKind.GUESS if guesses else kind, words, said, choices
    )


def _one_or_two(text: str, phrase: Phrase, heard: Heard) -> tuple[Choice, ...]:
    """The ways to settle two volumes: one mix for both, or one of the two mixes."""
    seam = next(one for one in heard.seams if one.phrase is phrase)
    first, second = (v for v in heard.volumes if v.phrase is phrase), heard.volumes
    own = next(first)
    alike = [v for v in second if v.used and v is not own and v.ml == own.ml]
    found = [Choice("only the first", seam.start, seam.until, "")]
    if own.how == "per":
        found.insert(0, Choice("one mix for both", seam.start, seam.end, " and "))
    elif alike:
        found.insert(0, Choice("one mix for both", phrase.start, phrase.end, ""))
    return tuple(found)


def _names(text: str, phrase: Phrase) -> tuple[Choice, ...]:
    """What an unknown name may be: known ones spelt nearly so, and one of the gardener's own."""
    return tuple(
        c for t in phrase.things if unnamed(t, phrase) for c in _like(text, t.name, t.start, t.end)
    )


def _part_words(part: Part) -> str:
    unit = "g" if part.dimension is Dimension.MASS else "ml"
    steeped = ", steeped" if part.steeped else ""
    return f"{part.name}{steeped}, {float(part.per_litre):.4g} {unit} a litre"


def _brew_words(brew: Brew | None) -> str:
    return f"{brew.name}, {float(brew.share):.3%} of the mix".replace(".000%", "%") if brew else ""


def _volume_words(ml: Fraction, how: str, what: str) -> str:
    size = f"{float(ml / 1000):.4g} litres" if ml >= 1000 else f"{float(ml):.4g} ml"
    size = size.replace("1 litres", "1 litre") if ml == 1000 else size
    return f"to each {size}" if how == "per" else f"{size} of {what}"


_WHY = {
    "stock": "is that the bottle's strength, or the one wanted?",
    "a second volume": "a second volume; which one is meant?",
    "of what?": "an amount of what?",
    UNNAMED: "not known here: is that its name?",
    "as much as what?": "as much as what?",
    "a strength and an amount": "is that the strength in the mix, or in the bottle?",
    "and the rest?": "it is not the whole: what is the rest?",
    "told again": "the same again: keep one of them",
    "and the water?": "and how much water?",
    ONE_OR_TWO: "a volume of its own: is it one mix or two?",
    "which is water?": "which of the two is the water?",
}


def _sides(phrase: Phrase) -> tuple[Choice, ...]:
    """The two ways to mean "vinegar 3:1": three of water, three of vinegar."""
    if phrase.ratio is None or not phrase.things:
        return ()
    one, rest, name = phrase.ratio.one, phrase.ratio.rest, phrase.thing.name
    ways = ((f"{one} of water to {rest}", f"{rest}:{one} {name}"),
            (f"{one} of {name} to {rest}", f"{one} parts {name} to {rest} part water"))  # fmt: skip
    return tuple(Choice(label, phrase.start, phrase.end, text) for label, text in ways)


def _strengths(phrase: Phrase, words: str) -> tuple[Choice, ...]:
    """The ways to mean "oil 2%, 5 ml per litre": of the mix, of the bottle, neither."""
    strength, name = phrase.thing.strength or Fraction(0), phrase.thing.name
    percent = f"{float(strength * 100):g}%"
    said = phrase.amount.said if phrase.amount is not None else ()
    amount = words[said[0].start - phrase.start : said[-1].end - phrase.start] if said else ""
    ways = ((f"{percent} of the mix", f"{percent} {name}, a note: [{amount}]"),
            (f"{amount} from a bottle of {percent}", f"{amount} of {percent} {name}"),
            (f"{amount} as it comes", f"{amount} of {name}"))  # fmt: skip
    return tuple(Choice(label, phrase.start, phrase.end, text) for label, text in ways)


def _told_twice(text: str, phrase: Phrase) -> tuple[str, tuple[Choice, ...]] | None:
    """The two ways to mean "1 tablespoon (5 ml) soap"; None for any other amount."""
    if phrase.sort != "bare":
        return None
    start, words = phrase.start, text[phrase.start : phrase.end]
    after = _ASIDE.match(text, phrase.end)
    within = _ASIDE.search(text, max(0, text.rfind("(", 0, start)))
    if after is not None:
        ways = [(after.end(), after[1]), (after.end(), words)]
    elif within is not None and within.start(1) <= start and phrase.end <= within.end(1):
        start, ways = len(text[: within.start()].rstrip()), [(within.end(), "")]
    else:
        return None
    found = tuple(Choice(f"it is {way}" if way else "leave it out", start, end, way)
                  for end, way in ways)  # fmt: skip
    return "told twice, and not the same", found


def _doubt(phrase: Phrase, words: str, why: str) -> tuple[str, tuple[Choice, ...]]:
    start, end = phrase.start, phrase.end
    note = Choice("it is only a note", start, end, f"[{words}]")
    if why == "which is water?" and phrase.ratio is not None:
        return _WHY[why], (*_sides(phrase), note)
    if why == "a strength and an amount" and phrase.amount is not None:
        return _WHY[why], (*_strengths(phrase, words), note)
    if why == "and the water?":
        stock = f"{words}; 10 ml of this per litre"
        return _WHY[why], (Choice("a stock, 10 ml of it to the litre", start, end, stock), note)
    if why != "stock" or not phrase.things or phrase.thing.strength is None:
        return _WHY.get(why, why), (note,)
    percent = f"{float(phrase.thing.strength * 100):g}%"
    name = phrase.thing.name
    found = phrase.thing.substance
    usual = found.stock if found else None
    choices = [
        Choice(f"{percent} bottle, used undiluted", start, end, f"undiluted {percent} {name}")
    ]
    if usual is not None and usual > phrase.thing.strength:
        shop = f"{float(usual * 100):g}%"
        choices.append(
            Choice(f"{shop} bottle, thinned to {percent}", start, end,
                   f"{shop} {name} thinned to {percent}")
        )  # fmt: skip
    choices.append(Choice(f"{percent} of the mix is {name} as it comes", start, end,
                          f"{percent} \"{name}\""))  # fmt: skip
    return _WHY[why], (*choices, note)


# Loose words that are no part of the mix.
_SILENT = frozenset({Kind.SEP, Kind.OF, Kind.IN, Kind.TO, Kind.PER, Kind.AT, Kind.A, Kind.EACH,
                     Kind.VESSEL, Kind.DROP, Kind.ADJECTIVE, Kind.DASH, Kind.BREW, Kind.FROM,
                     Kind.SOME, Kind.UP_TO, Kind.OPEN, Kind.CLOSE, Kind.DENIES})  # fmt: skip
_NOTES = frozenset({Kind.NOTE, Kind.VERB, Kind.TIME, Kind.SOLUTION, Kind.COUNTED, Kind.WATER,
                    Kind.STRAIN, Kind.STEEP, Kind.PIECE, Kind.HEAP, Kind.VAGUE,
                    Kind.PARTS})  # fmt: skip
FROM_BEFORE = "of what was mixed first"
_ASIDE = re.compile(r"\s*\(([^()]*)\)")
LONGEST_CLAUSE = 20  # words before and after that are asked what a clause is about
_DOING = frozenset({Kind.NOTE, Kind.VERB, Kind.STEEP, Kind.STRAIN, Kind.SOLUTION, Kind.TIME})


def _word_token(
    text: str, items: Sequence[Item], place: int, known: set[Substance], parts: Sequence[Part]
) -> Token | None:
    word = items[place]
    assert not isinstance(word, Phrase)  # noqa: S101 - asked only of loose words
    words = text[word.start : word.end]

    def token(kind: TokenKind, taken: str, choices: tuple[Choice, ...] = ()) -> Token:
        return Token(word.start, word.end, kind, words, taken, choices)

    if _is_another_use(items, place):
        return token(TokenKind.OPEN, "for something else: is it one mix or two?",
                     (Choice("one mix for both", word.start, word.end, f"[{words}]"),))  # fmt: skip
    note = Choice("it is only a note", word.start, word.end, f"[{words}]")
    away = Choice("leave it out", word.start, word.end, "")
    if word.kind is Kind.OR:
        if _between_parts(items, place):
            return token(
                TokenKind.OPEN, "one or the other? Keep one of them", _either(items, place)
            )
        return None
    if word.kind in (Kind.NAME, Kind.STOCK):
        # "soap" is a remark on "dish soap"; milk beside whey is another thing of the same kind.
        alike = any(set(word.text.split()) & set(part.name.split()) for part in parts)
        if (word.value in known and alike) or any(word.text in part.name for part in parts):
            return token(TokenKind.NOTE, "a remark on it")
        return token(TokenKind.OPEN, "how much of it?", (note, away))
    if (
        not words
        or word.kind in _SILENT
        or (word.kind is Kind.WORD and not re.search(r"\w", words))
    ):
        return None
    neat = any(isinstance(one, Phrase) and one.sort == "neat" for one in items)
    brewed = word.kind is Kind.NEAT and (neat or any(part.steeped for part in parts))
    repeated = word.kind is Kind.TIMES and word.text not in ("double", "treble")  # spray twice
    if (
        word.kind in _NOTES
        or repeated
        or brewed
        or (word.kind is Kind.WORD and _is_doing(items, place))
    ):
        return token(TokenKind.NOTE, "what is done" if word.kind is Kind.VERB else "a note")
    close = _like(text, word.text, word.start, word.end) if word.kind is Kind.WORD else ()
    why = {Kind.WORD: "not understood", Kind.SAME: _WHY["as much as what?"],
           Kind.TIMES: _WHY["as much as what?"]}.get(word.kind, "an amount of what?")  # fmt: skip
    return token(TokenKind.OPEN, why, (*close, note, away))


def _is_another_use(items: Sequence[Item], place: int) -> bool:
    """True at the mites of "5 ml soap for aphids and 3 ml neem for mites" """
    if not _is_use(items[place]):
        return False
    told = "".join(
        "u" if _is_use(one) else "p"
        for one in items[: place + 1]
        if _is_use(one) or (isinstance(one, Phrase) and _unwatered(one))
    )
    after = any(isinstance(one, Phrase) and _unwatered(one) for one in items[place + 1 :])
    groups = re.sub(r"(.)\1+", r"\1", told)
    return groups.endswith("pupu") or (groups.endswith("upu") and (after or groups[0] == "p"))


def _is_use(item: Item) -> bool:
    if isinstance(item, Phrase) or item.kind is not Kind.NOTE or item.text.startswith("["):
        return False
    return any(word.removesuffix("s") in USES for word in item.text.split())


def _unwatered(phrase: Phrase) -> bool:
    return any(not thing.water for thing in phrase.things)


def _between_parts(items: Sequence[Item], place: int) -> bool:
    after = items[place + 1] if place + 1 < len(items) else None
    if isinstance(after, Lexeme):
        return after.kind in (Kind.NAME, Kind.STOCK, Kind.STRENGTH, Kind.NUMBER)
    return after is not None and bool(after.things) and place > 0


def _either(items: Sequence[Item], place: int) -> tuple[Choice, ...]:
    before, after = items[place - 1] if place else items[place], items[place + 1]
    word = items[place]
    return (
        Choice("the first", word.start, after.end, ""),
        Choice("the second", before.start, word.end, ""),
    )


def _is_doing(items: Sequence[Item], place: int) -> bool:
    """True in a clause that only says what is done: no ingredient, no amount beside the word."""
    start = end = place
    while start > max(0, place - LONGEST_CLAUSE) and not _ends_clause(items[start - 1]):
        start -= 1
    last = min(len(items), place + LONGEST_CLAUSE)
    while end + 1 < last and not _ends_clause(items[end + 1]):
        end += 1
    kinds = {one.kind for one in items[start : end + 1] if isinstance(one, Lexeme)}
    return bool(kinds & _DOING) and not kinds & {Kind.NAME, Kind.STOCK}


def _ends_clause(item: Item) -> bool:
    return isinstance(item, Phrase) or item.kind is Kind.SEP


@cache
def _all_names() -> tuple[str, ...]:
    return tuple(name for one in SUBSTANCES for name in one.names if len(name) > 3)


def _like(text: str, name: str, start: int, end: int) -> tuple[Choice, ...]:
    """Known names that are spelt nearly so, and the name as the gardener's own."""
    alike = [one for one in _all_names() if one[0] == name[:1] and abs(len(one) - len(name)) < 4]
    near = get_close_matches(name, alike, n=2, cutoff=0.75)
    own = text[start:end]
    found = [Choice(f"{one}?", start, end, one) for one in near]
    if not own.startswith(('"', "“", "«")):
        found.append(Choice("a name of my own", start, end, f'"{own}"'))
    return tuple(found)
