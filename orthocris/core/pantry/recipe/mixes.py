"""One mix or two: amounts that each stand in a volume of their own.

"2 tbsp soap per gallon and 1 tsp oil per quart" is one mix. "5 ml soap per litre, then after 3
days 5 ml neem per litre", "5 ml soap in 1 litre; 3 g soda in 1 litre" may be two, which nobody
may add up unasked.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from orthocris.core.pantry.recipe.heard import Heard, Poured, Seam, Volume
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.said import Item, Phrase
from orthocris.core.pantry.recipe.vocabulary import vocabulary

ONE_OR_TWO = "one mix or two?"
_LATER = frozenset({"then", "next", "after", "followed", "later", "before", "afterwards"})
_DOING = ("spray", "apply", "appli", "use", "treat", "mist", "drench")
_ASIDE = frozenset({"not", "no", "or", "from", "if", "without"})
_WHEN = frozenset({"morning", "mornings", "evening", "evenings", "dusk", "dawn", "noon", "day",
                   "week", "month", "night", "variant", "treatment", "option", "version", "batch",
                   "recipe", "round", "spray", "first", "last", "time"})  # fmt: skip


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
    for place, ((first, one), (second, other)) in enumerate(pairwise(groups)):
        start = max(first[-1].phrase.end, one.phrase.end if not one.leads else 0)
        end = min(second[0].phrase.start, other.phrase.start)
        if start > end:
            continue
        between = _loose(items, start, end)
        before = _loose(items, groups[place - 1][0][-1].phrase.end if place else 0,
                        min(first[0].phrase.start, one.phrase.start))  # fmt: skip
        until = max(second[-1].phrase.end, other.phrase.end)
        after = _loose(items, until, until + 10**6) if place + 2 == len(groups) else []
        apart = not (_is_rate(one) or _is_rate(other))
        named = sum(any(_is_strange(w) for w in words) for words in (before, between, after))
        sprays = any(w.text.startswith(_DOING) for w in (*before, *between))
        later = any(_is_later(w) and (sprays or w.kind is not Kind.SEP) for w in between)
        if apart or later or named > 1 or any(w.text == "/" for w in between):
            yield Seam(other.phrase, start, end, until)
    vessels = [v for v in heard.volumes if any(w.kind is Kind.VESSEL for w in v.phrase.row)]
    if len(vessels) > 1 and len(groups) == 1 and vessels[0].ml == vessels[1].ml:
        seam = vessels[1].phrase  # "a 1 litre bottle with soap, a 1 litre bottle with soda"
        yield Seam(seam, seam.start, seam.end, groups[0][0][-1].phrase.end)


def _is_rate(volume: Volume) -> bool:
    """True for "per litre", "to a gallon": so much to each."""
    amount = volume.phrase.amount
    return volume.how == "per" or (amount is not None and amount.article)


def _groups(heard: Heard) -> list[tuple[list[Poured], Volume]]:
    """What stands in the same volume, in the order it was said."""
    made: list[tuple[list[Poured], Volume]] = []
    for part in sorted(heard.poured, key=lambda p: p.phrase.start):
        if part.volume is None:
            continue
        if made and made[-1][1] is part.volume:
            made[-1][0].append(part)
        else:
            made.append(([part], part.volume))
    return made


def _loose(items: Sequence[Item], start: int, end: int) -> list[Lexeme]:
    return [
        one
        for one in items
        if not isinstance(one, Phrase) and start <= one.start and one.end <= end
    ]


def _is_later(word: Lexeme) -> bool:
    """True for "then", "after 3 days", "in the evening", "week 2"."""
    said = set(word.text.split())
    if word.kind is Kind.SEP:
        return bool(said & _LATER)
    return word.kind is Kind.TIME or (word.kind is Kind.NOTE and bool(said & (_LATER | _WHEN)))


def _is_strange(word: Lexeme) -> bool:
    """True for a note of words that nobody knows: "(roses)"."""
    known, words = vocabulary(), tuple(word.text.split())
    if word.kind is not Kind.NOTE or word.text[:1] == "[" or set(words[:1]) & _ASIDE:
        return False
    return words not in known and any(
        one.isalpha() and (one,) not in known and (one.removesuffix("s"),) not in known
        for one in words
    )
