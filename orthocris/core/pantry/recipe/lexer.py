"""From a sentence to lexemes: its words with what each is, where it stands, and its value."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.vocabulary import (
    CARDINALS,
    FRACTION_WORDS,
    longest_phrase,
    vocabulary,
)


@dataclass(frozen=True, slots=True)
class Lexeme:
    """A word or a phrase of a recipe: `start` and `end` in the text, what it is, its value.

    `guess` says what was assumed in reading it, empty when nothing was; `other` is how else the
    same letters could have been meant, written so that it is clear.
    """

    kind: Kind
    start: int
    end: int
    text: str
    value: object = None
    guess: str = ""
    other: str = ""


_SIGNS = {"½": Fraction(1, 2), "¼": Fraction(1, 4), "¾": Fraction(3, 4), "⅓": Fraction(1, 3),
          "⅔": Fraction(2, 3), "⅛": Fraction(1, 8), "⅕": Fraction(1, 5)}  # fmt: skip
_SIGN = "".join(_SIGNS)
_PROPER = r"(?:1/(?:[2-9]|1[06])|2/[3-9]|3/[4-9]|4/[5-9]|5/[6-9]|[67]/[89])(?!\d)"  # below one
_SCAN = re.compile(
    rf"""
    (?P<note>\[[^\]]*\])
  | (?P<quoted>"[^"]*"|“[^”]*”|«[^»]*»)
  | (?P<date>(?:\d{{1,2}}(?P<cut>[./-])\d{{1,2}}(?P=cut)\d{{4}}|\d{{4}}-\d\d-\d\d)(?!\d))
  | (?P<mixed>\d+\s*[-–]?\s*[{_SIGN}]
      |\d+\s+\d+\s*/\s*\d+(?![\d%])|\d+\s?[-–]\s?{_PROPER}(?![\d%]))
  | (?P<even>(?P<one>\d+)\s*/\s*(?P=one)(?!\d))
  | (?P<over>\d+\s*/\s*\d+(?!\d))
  | (?P<thousands>[1-9]\d{{0,2}}
      (?:(?:[ '\u00a0\u202f]\d{{3}})+|(?:,\d{{3}})+(?:\.\d+)?)(?![\d.,]?\d))
  | (?P<decimal>\d+[.,]\d+|(?<![^\s(~<>≈=+/:;,–—-])[.,]\d+)
  | (?P<whole>\d+)
  | (?P<sign>[{_SIGN}])
  | (?P<same>\bi\.\s?e\.?)
  | (?P<word>[vw]/[vw]\b|w/(?:out\b|o\b)?(?=[\s\w])
      |[^\W\d_]+(?:['’][^\W\d_]+)?(?:\d(?:[^\W\d_]\d?)?)?(?:\(e?s\))?)
  | (?P<percent>[%‰])
  | (?P<degree>°\s?[cfCF]?)
  | (?P<arrow>-+>|=+>|→)
  | (?P<stop>(?:[;\n,+&|•?!]|\.(?!\d)|(?<=[^\W\d_])\.)+|\s[-–—]+\s)
  | (?P<mark>[^\s\w])
    """,
    re.VERBOSE,
)
_ITEM = re.compile(r"(?<!\S)(\d{1,2})[.)](?=\s)")
_SPOONS = {"T": "tbsp", "t": "tsp"}  # a capital makes the larger spoon
_SHORT = frozenset(
    [
        *("fl", "oz", "ozs", "tbsp", "tsp", "tbs", "tbl", "tblsp", "gal", "pt", "qt", "lb", "lbs"),
        *("approx", "ca", "ml", "l", "c", "cc", "g", "kg", "no", "min", "hr", "hrs", "vol", "q"),
    ]
)


SHORT = "short"  # the value of the stop of an abbreviation, until it is known for one


@dataclass(frozen=True, slots=True)
class _Raw:
    """A mark of the text before anybody asks what it means."""

    sort: str
    text: str
    start: int
    end: int


def lexemes(text: str) -> tuple[Lexeme, ...]:
    """Return the lexemes of a text in their order; nothing but blanks lies between them."""
    raw = _joined(_raw(text))
    return tuple(_named(raw))


def _raw(text: str) -> list[_Raw]:
    plain = "".join(c.lower() if len(c.lower()) == 1 else c for c in _unlisted(text))
    found: list[_Raw] = []
    for match in _SCAN.finditer(plain):
        sort = match.lastgroup or "mark"
        sort = next(
            k for k, v in match.groupdict().items() if v is not None and k not in ("one", "cut")
        )
        word = match[0].removesuffix("(s)").removesuffix("(es)") if sort == "word" else match[0]
        if word == "t" and found and _is_number(found[-1]):
            word = _SPOONS[text[match.start()]]
        found.append(_Raw(sort, word, match.start(), match.end()))
    return found


def _unlisted(text: str) -> str:
    """The text with the numbers of a list ("1. ... 2. ...") as stops, letter for letter."""
    found = list(_ITEM.finditer(text))
    if [int(one[1]) for one in found] != [*range(1, len(found) + 1)] or len(found) < 2:
        return text
    if text[: found[0].start()].strip():
        return text
    for one in found:
        text = text[: one.start(1)] + ";".rjust(len(one[1]) + 1) + text[one.end(1) + 1 :]
    return text


def _joined(raw: list[_Raw]) -> list[_Raw]:
    """Take away hyphens that only join words, and the stops of abbreviations."""
    kept: list[_Raw] = []
    for k, one in enumerate(raw):
        before = raw[k - 1] if k else None
        after = raw[k + 1] if k + 1 < len(raw) else None
        close = before is not None and before.end == one.start
        if one.text in ("-", "–", "—", "~", "≈", "*", "_", "'", "’") and one.sort == "mark":
            joins = close and after is not None and after.start == one.end
            numbers = before is not None and after is not None and _is_number(after)
            if one.text in ("-", "–", "—") and not (joins and not numbers):
                kept.append(one)
            continue
        if one.text == "." and close and before is not None and before.text in _SHORT and after:
            if after.start > one.end:  # it may end a sentence as well
                kept.append(replace(one, sort="short"))
            continue
        kept.append(one)
    return kept


def _is_number(one: _Raw) -> bool:
    return one.sort in ("mixed", "over", "even", "thousands", "decimal", "whole", "sign")


def _named(raw: Sequence[_Raw]) -> Iterator[Lexeme]:
    """Give every mark its meaning; words by the longest phrase of the vocabulary."""
    place = 0
    while place < len(raw):
        one = raw[place]
        if one.sort == "word":
            lexeme, used = _phrase(raw, place)
            yield lexeme
            place += used
            continue
        yield _mark(one)
        place += 1


def _phrase(raw: Sequence[_Raw], place: int) -> tuple[Lexeme, int]:
    words, places = [], []
    for k, one in enumerate(raw[place : place + 2 * longest_phrase()], place):
        if one.sort == "word":
            words.append(one.text.replace("’", "'"))
            places.append(k)
        elif one.sort != "short":  # "fl. oz" is one phrase
            break
    words = words[: longest_phrase()]
    known = vocabulary()
    for length in range(len(words), 0, -1):
        spelled = tuple(words[:length])
        meaning = known.get(spelled) or known.get((*spelled[:-1], spelled[-1].removesuffix("s")))
        number = _number_word(spelled[0]) if length == 1 else None
        last = raw[places[length - 1]]
        whole = " ".join(spelled)
        if number is not None:
            return replace(number, start=raw[place].start, end=last.end, text=whole), 1
        if meaning is not None:
            kind, value = meaning.kind, meaning.value
            used = places[length - 1] + 1 - place
            return Lexeme(kind, raw[place].start, last.end, whole, value), used
    one = raw[place]
    return Lexeme(Kind.WORD, one.start, one.end, one.text), 1


def _number_word(word: str) -> Lexeme | None:
    if word in ("a", "an", "another"):
        return Lexeme(Kind.A, 0, 0, word, Fraction(1))
    if word in CARDINALS:
        return Lexeme(Kind.NUMBER, 0, 0, word, Fraction(CARDINALS[word]))
    if word in FRACTION_WORDS:
        return Lexeme(Kind.FRACTION, 0, 0, word, FRACTION_WORDS[word])
    if word in ("few", "several"):
        few = Fraction(3 if word == "few" else 5)
        return Lexeme(Kind.NUMBER, 0, 0, word, few, f"{word} is taken as {few}")
    return None


_OF_A_SORT = {"note": Kind.NOTE, "date": Kind.NOTE, "quoted": Kind.NAME, "same": Kind.AT,
              "degree": Kind.COUNTED, "arrow": Kind.UP_TO}  # fmt: skip


def _mark(one: _Raw) -> Lexeme:
    def made(kind: Kind, value: object = None, guess: str = "", other: str = "") -> Lexeme:
        return Lexeme(kind, one.start, one.end, one.text, value, guess, other)

    if one.sort in _OF_A_SORT:
        return made(_OF_A_SORT[one.sort])
    if _is_number(one):
        return _number(one)
    if one.sort == "stop":
        return made(
            Kind.SEP, "stop" if one.text.strip()[:1] in (".", ";", "?", "!", "\n", "") else None
        )
    if one.sort == "short":
        return made(Kind.SEP, SHORT)
    signs = {"%": Kind.STRENGTH, "‰": Kind.STRENGTH,
             "/": Kind.PER, "=": Kind.AT, ":": Kind.AT, "@": Kind.AT,
             "(": Kind.OPEN, ")": Kind.CLOSE, "-": Kind.DASH, "–": Kind.DASH,
             "—": Kind.DASH}  # fmt: skip
    return made(signs.get(one.text, Kind.WORD), one.text)


def _number(one: _Raw) -> Lexeme:
    """The value of figures, with what was assumed where two countries write it differently."""
    text, sort = one.text, one.sort
    value, guess, other = Fraction(0), "", ""
    kind = Kind.NUMBER
    if sort == "even":
        kind, value = Kind.EQUAL, Fraction(1, 2)
    elif sort == "sign":
        value = _SIGNS[text]
    elif sort == "mixed" and text[-1] in _SIGNS:
        value = Fraction(text[:-1].strip(" -–")) + _SIGNS[text[-1]]
    elif sort == "mixed":
        whole, rest = re.split(r"[\s–-]+", text, maxsplit=1)  # 1 1/2, or 1-1/2
        value = Fraction(whole) + _over(rest)
    elif sort == "over":
        value = _over(text)
        kind = Kind.NUMBER if value else Kind.WORD
    elif sort == "thousands":
        value = Fraction(re.sub(r"[^\d.]", "", text))
        if not re.search(r"[,.].*[,.]", text):
            guess = f"{text} is taken as {float(value):g}"
            other = re.sub(r"[^\d]", ".", text, count=1)
    else:
        value = Fraction(text.replace(",", ".") if text[0] not in ".," else "0." + text[1:])
        if text[0] == ",":
            guess, other = f"{text} is taken as {float(value):g}", f", {text[1:]}"
        if re.fullmatch(r"[1-9]\d{0,2}\.(?:000|500)", text):
            other = text.replace(".", "")
    return Lexeme(kind, one.start, one.end, text, value, guess, other)


def _over(text: str) -> Fraction:
    above, below = (int(part) for part in text.split("/"))
    return Fraction(above, below) if below else Fraction(0)
