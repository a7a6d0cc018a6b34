"""One mix or two: amounts that each stand in a volume of their own.

"2 tbsp soap per gallon and 1 tsp oil per quart" is one mix. "5 ml soap per litre, then after 3
days 5 ml neem per litre", "5 ml soap in 1 litre; 3 g soda in 1 litre" may be two, which nobody
may add up unasked.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from orthocris.core.pantry.recipe.heard import Heard, Poured, Seam, Share, Volume
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.said import Item, Phrase
from orthocris.core.pantry.recipe.vocabulary import vocabulary

ONE_OR_TWO = "one mix or two?"
_LATER = frozenset({"then", "next", "after", "followed", "later", "before", "afterwards"})
_DOING = ("spray", "apply", "appli", "use", "treat", "mist", "drench")
_POURING = ("pour", "put", "top", "fill", "mix", "dissolve", "stir")
_FAR = 10**6
_APART = re.compile(
    r"(?:not|never|don't) (?:mix|combine)\w* (?:them|these|together|both|the two)"
    r"|(?:not|never) together|whichever|either one|one of (?:them|these|the two)"
)
_MIXES = frozenset({"mix", "mixture", "solution", "spray", "batch"})
_ASIDE = frozenset({"not", "no", "or", "from", "if", "without"})
_WHEN = frozenset({"morning", "mornings", "evening", "evenings", "dusk", "dawn", "noon", "first",
                   "last", "time", "until", "till", "when", "if", "below", "above",
                   "under", "over"})  # fmt: skip
_NUMBERED = frozenset({"day", "week", "month", "night", "variant", "treatment", "option", "version",
                       "batch", "recipe", "round", "spray"})  # fmt: skip


def ask_whether_one(heard: Heard, items: Sequence[Item]) -> None:
    """Add a doubt where what was heard may be two mixes."""
    brewed = heard.steeped or heard.mother or any(p.solid or p.stage for p in heard.poured)
    if brewed or any(p.thing.brew for p in heard.poured):
        return
    for seam in _seams(heard, items):
        heard.seams.append(seam)
        heard.doubts.append((seam.phrase, ONE_OR_TWO))


def _seams(heard: Heard, items: Sequence[Item]) -> Iterator[Seam]:
    groups = _groups(heard)
    for place, (first, second) in enumerate(pairwise(groups)):
        if first.end > second.start:
            continue
        between = _loose(items, first.end, second.start)
        before = _loose(items, groups[place - 1].end if place else 0, first.start)
        after = _loose(items, second.end, _FAR) if place + 2 == len(groups) else []
        named = sum(any(_is_strange(w) for w in words) for words in (before, between, after))
        later = any(_is_later(w, before) for w in between)
        timed = any(map(_is_when, before)) and any(map(_is_when, (*between, *after)))
        timed = timed or (any(map(_is_when, between)) and any(_is_later(w, ()) for w in after))
        apart = first.apart and second.apart
        if apart or later or timed or named > 1 or any(w.text == "/" for w in between):
            yield Seam(second.phrase, first.end, second.start, second.end)
    yield from _vessels(heard, items)
    yield from _forbidden(groups, items)


def _forbidden(groups: Sequence[_Group], items: Sequence[Item]) -> Iterator[Seam]:
    """ "Do not mix them": two, then."""
    said = " ".join(one.text for one in items if not isinstance(one, Phrase))
    if len(groups) > 1 and _APART.search(said):
        first, second = groups[-2:]
        yield Seam(second.phrase, first.end, second.start, second.end)


def _vessels(heard: Heard, items: Sequence[Item]) -> Iterator[Seam]:
    """ "A 500 ml bottle with 2 ml soap, a 5 l bucket with 20 ml oil"; "one can …, other can …"."""
    sizes = {v.phrase: v.ml for v in heard.volumes if v.how not in ("per", "up_to")}
    twice = {phrase for phrase, ml in sizes.items() if list(sizes.values()).count(ml) > 1}
    said = [
        one for one in items
        if (_is_vessel(one) if not isinstance(one, Phrase)
            else one in twice or any(map(_is_vessel, one.row)))
    ]  # fmt: skip
    for one, other in pairwise(said):
        within = [p.phrase for p in heard.poured if one.end <= p.phrase.start < other.start]
        later = [p.phrase for p in heard.poured if p.phrase.start >= other.end]
        if not within or not later:
            continue
        between = _loose(items, within[-1].end, other.start)
        poured = any(w.kind is Kind.VERB and w.text.startswith(_POURING) for w in between)
        filled = isinstance(other, Phrase) and other.joint == "UP_TO"
        if not (poured or filled):
            yield Seam(later[0], within[-1].end, later[0].start, later[-1].end)


def _is_vessel(word: Lexeme) -> bool:
    return word.kind is Kind.VESSEL and word.text.split()[-1] not in _MIXES


@dataclass(frozen=True, slots=True)
class _Group:
    """Parts in one volume, or a share: from where to where, the phrase that says the volume."""

    start: int
    end: int
    phrase: Phrase
    apart: bool  # in a volume that is no "per litre"


def _is_rate(volume: Volume) -> bool:
    """True for "per litre", "to a gallon": so much to each."""
    amount = volume.phrase.amount
    return volume.how == "per" or (amount is not None and amount.article)


def _groups(heard: Heard) -> list[_Group]:
    """What stands in the same volume, and shares, in the order they were said."""
    made: list[tuple[list[Phrase], Volume | None]] = []
    said: list[Poured | Share] = [p for p in heard.poured if p.volume is not None]
    for part in sorted([*said, *heard.shares], key=lambda p: p.phrase.start):
        volume = part.volume if isinstance(part, Poured) else None
        if made and volume is not None and made[-1][1] is volume:
            made[-1][0].append(part.phrase)
        else:
            made.append(([part.phrase], volume))
    return [_group(phrases, volume) for phrases, volume in made]


def _group(phrases: Sequence[Phrase], volume: Volume | None) -> _Group:
    start, end = phrases[0].start, phrases[-1].end
    if volume is None:
        return _Group(start, end, phrases[0], False)
    own = volume.phrase
    led = own.end <= start
    return _Group(
        min(start, own.start) if led else start, end if led else max(end, own.end),
        own, not _is_rate(volume),
    )  # fmt: skip


def _loose(items: Sequence[Item], start: int, end: int) -> list[Lexeme]:
    return [
        one
        for one in items
        if not isinstance(one, Phrase) and start <= one.start and one.end <= end
    ]


def _is_later(word: Lexeme, before: Sequence[Lexeme]) -> bool:
    """True for "after 3 days", "week 2", and the "then with" of "first spray with …"."""
    said = set(word.text.split())
    if word.kind is Kind.SEP:
        first = any("first" in w.text.split() for w in before) or "with" in said
        sprayed = first and any(w.text.startswith(_DOING) for w in before)
        return "followed" in said or (bool(said & _LATER) and sprayed)
    return (
        word.kind is Kind.TIME or (word.kind is Kind.NOTE and bool(said & _LATER)) or _is_when(word)
    )


def _is_when(word: Lexeme) -> bool:
    """True for "mornings", "week 2", said of one of two."""
    said = set(word.text.split())
    numbered = bool(said & _NUMBERED) and any(w.isdigit() for w in said)
    return word.kind is Kind.NOTE and (numbered or bool(said & _WHEN))


def _is_strange(word: Lexeme) -> bool:
    """True for a note of words that nobody knows: "(roses)"."""
    known, words = vocabulary(), tuple(word.text.split())
    if word.kind is not Kind.NOTE or word.text[:1] == "[" or set(words[:1]) & _ASIDE:
        return False
    return words not in known and any(
        one.isalpha() and (one,) not in known and (one.removesuffix("s"),) not in known
        for one in words
    )
