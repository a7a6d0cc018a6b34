"""The gardener's own sentence, piece by piece: what each was taken for, and what else it may be."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from difflib import get_close_matches
from enum import StrEnum
from fractions import Fraction
from functools import cache

from orthocris.core.pantry.recipe.doubting import ALIKE, UNNAMED, unnamed
from orthocris.core.pantry.recipe.heard import Heard
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.parts import Brew, SaidPart
from orthocris.core.pantry.recipe.row import Ratio
from orthocris.core.pantry.recipe.said import Choice, Item, Phrase
from orthocris.core.pantry.recipe.settling import WHY, settling, sides
from orthocris.core.pantry.recipe.vocabulary import USES
from orthocris.core.pantry.recipes import LITRE, Part
from orthocris.core.pantry.substance_list import SUBSTANCES, Substance
from orthocris.core.pantry.substances import substances_in
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
        taken, choices = settling(text, phrase, doubt, heard)
        if doubt == UNNAMED:
            choices = (*_names(text, phrase), *choices)
        return Token(phrase.start, phrase.end, TokenKind.OPEN, words, taken, choices)
    measures = [p.measure for p in heard.poured if p.phrase is phrase]
    guesses = [g for m in measures for g in m.guesses]
    choices = tuple(dict.fromkeys(c for m in measures for c in m.others))
    if phrase.things and not all(t.water for t in phrase.things):
        taken = "; ".join(_part_words(part) for part in parts) or _brew_words(brew)
        taken = taken or (FROM_BEFORE if heard.mother and phrase.amount else "")
        turned = [guess for one, guess in heard.guesses if one is phrase]
        guesses += turned
        choices += sides(phrase)[1:] if turned else ()
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


def _names(text: str, phrase: Phrase) -> tuple[Choice, ...]:
    """What an unknown name may be: a soap, an oil, a known one spelt nearly so, a product."""
    own = [t for t in phrase.things if unnamed(t, phrase)]
    kinds = (("a soap", "soap"), ("an oil", "oil"))
    return tuple(
        choice
        for t in own
        for choice in (
            *(
                Choice(one, t.start, t.end, f"{text[t.start : t.end]} {kind}")
                for one, kind in kinds
            ),
            *_like(text, t.name, t.start, t.end),
        )
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


# Loose words that are no part of the mix.
_SILENT = frozenset({Kind.SEP, Kind.OF, Kind.IN, Kind.TO, Kind.PER, Kind.AT, Kind.A, Kind.EACH,
                     Kind.VESSEL, Kind.DROP, Kind.ADJECTIVE, Kind.DASH, Kind.BREW, Kind.FROM,
                     Kind.SOME, Kind.UP_TO, Kind.OPEN, Kind.CLOSE, Kind.DENIES})  # fmt: skip
_NOTES = frozenset({Kind.NOTE, Kind.VERB, Kind.TIME, Kind.SOLUTION, Kind.COUNTED, Kind.WATER,
                    Kind.STRAIN, Kind.STEEP, Kind.PIECE, Kind.HEAP, Kind.VAGUE,
                    Kind.PARTS})  # fmt: skip
BY_LABEL = "a product of that name, by its label"
FROM_BEFORE = "of what was mixed first"
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
    if word.kind is Kind.NOTE and (asked := _asked(items, place, parts)):
        return token(TokenKind.OPEN, asked, (note,))
    neat = any(isinstance(one, Phrase) and one.sort == "neat" for one in items)
    strained = any(isinstance(one, Lexeme) and one.kind is Kind.STRAIN for one in items)
    brewed = word.kind is Kind.NEAT and (neat or strained or any(p.steeped for p in parts))
    repeated = word.kind is Kind.TIMES and word.text in ("twice", "times", "thrice")
    if (
        word.kind in _NOTES
        or repeated
        or brewed
        or (word.kind is Kind.WORD and _is_doing(items, place))
    ):
        return token(TokenKind.NOTE, "what is done" if word.kind is Kind.VERB else "a note")
    close = _like(text, word.text, word.start, word.end) if word.kind is Kind.WORD else ()
    why = {Kind.WORD: "not understood", Kind.SAME: WHY["as much as what?"],
           Kind.TIMES: WHY["as much as what?"]}.get(word.kind, "an amount of what?")  # fmt: skip
    return token(TokenKind.OPEN, why, (*close, note, away))


def _asked(items: Sequence[Item], place: int, parts: Sequence[Part]) -> str:
    """Why a note has to be settled; empty for one that changes nothing."""
    note = items[place]
    if isinstance(note, Lexeme) and isinstance(note.value, Ratio) and not _fits(note.value, parts):
        return "told twice, and not the same"
    used = "for something else: a note on one mix, or another mix?"
    return used if _is_another_use(items, place) else ""


def _fits(ratio: Ratio, parts: Sequence[Part]) -> bool:
    """True where a ratio told beside an amount says the same of some part."""
    whole = ratio.rest if ratio.altogether else ratio.one + ratio.rest
    return any(
        abs(part.per_litre * size / (LITRE * ratio.one) - 1) <= ALIKE
        for part in parts
        for size in (whole, ratio.rest)
        if size and ratio.one
    )


def _is_another_use(items: Sequence[Item], place: int) -> bool:
    """True at the mites of "5 ml soap for aphids and 3 ml neem for mites" """
    if not _is_use(items[place]):
        return False
    told = "".join(map(_use_or_part, items[: place + 1], (None, *items[:place])))
    after = any(isinstance(one, Phrase) and _unwatered(one) for one in items[place + 1 :])
    groups = re.sub(r"(.)\1+", r"\1", told.lower())
    another = groups.endswith("upu") and (after or groups[0] == "p")
    return another or (after and re.search("p+[uU]+U$", told) is not None)


def _use_or_part(item: Item, before: Item | None) -> str:
    """ "p" for an ingredient, "u" for a use, "U" for one with its own "for"; empty for the rest."""
    if _is_use(item):
        joined = isinstance(before, Lexeme) and before.kind in (Kind.IN, Kind.TO)
        return "U" if joined else "u"
    return "p" if isinstance(item, Phrase) and _unwatered(item) else ""


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
        found.append(Choice(BY_LABEL, start, end, f'"{own}"'))
    return tuple(found)
