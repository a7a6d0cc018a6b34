"""What stands apart from the ingredient it is about: a ratio, an amount, "undiluted"."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.said import Item, Phrase, Thing
from orthocris.core.pantry.substance_list import Substance

_GLUE = frozenset({Kind.SEP, Kind.VERB, Kind.ADJECTIVE, Kind.SOLUTION, Kind.IN, Kind.TO, Kind.AT,
                   Kind.STRAIN, Kind.OF, Kind.A, Kind.NOTE})  # fmt: skip
_HEADS = frozenset({Kind.NAME, Kind.STOCK, Kind.BREW})


def attached(items: Sequence[Item]) -> tuple[Item, ...]:
    """Join a ratio, a lone amount or "undiluted" with the ingredient that stands apart from it."""
    made: list[Item] = []
    for item in items:
        end = _end(made)
        if end is not None and _is(item, "dose") and _is(made[end], "equal"):
            made[end:] = [_joined(made[end:], item)]  # "equal amounts of both, 5 ml each"
            continue
        head = _head(made)
        fits = _headless(item)
        if fits == "parts" and any(_is(one, "parts") for one in made):
            fits = ""
        if head is not None and fits and not (fits == "bare" and not _is(made[head], "lone")):
            made[head:] = [_joined(made[head:], item)]
        else:
            made.append(item)
    return tuple(made)


def _end(made: Sequence[Item]) -> int | None:
    """The place of the last item that does more than join."""
    for place in range(len(made) - 1, -1, -1):
        one = made[place]
        if isinstance(one, Phrase) or one.kind not in _GLUE:
            return place
    return None


def _is(item: Item, sort: str) -> bool:
    return isinstance(item, Phrase) and item.sort == sort


def _headless(item: Item) -> str:
    if isinstance(item, Phrase):
        without = item.sort in ("ratio", "one_to", "bare") and not item.things
        watery = item.sort in ("same", "parts", "equal") and all(t.water for t in item.things)
        return item.sort if without or watery else ""
    return "neat" if item.kind is Kind.NEAT else ""


def _head(made: Sequence[Item]) -> int | None:
    """The place of the last ingredient without an amount, over words that only join."""
    place = _end(made)
    if place is None:
        return None
    one = made[place]
    if isinstance(one, Phrase):
        return place if one.sort == "lone" else None
    return _named_from(made, place) if one.kind in _HEADS else None


def _named_from(made: Sequence[Item], place: int) -> int:
    """Where the name of a brew begins: "comfrey tea" is more than "tea"."""
    head = made[place]
    while place and isinstance(head, Lexeme) and head.kind is Kind.BREW:
        before = made[place - 1]
        if isinstance(before, Phrase) or before.kind not in _HEADS | {Kind.WORD, Kind.ADJECTIVE}:
            break
        place -= 1
    return place


def _joined(made: Sequence[Item], item: Item) -> Phrase:
    head = made[0]
    row = tuple(
        word for one in (*made, item) for word in (one.row if isinstance(one, Phrase) else (one,))
    )
    thing = head.thing if isinstance(head, Phrase) else _loose(made)
    start, end = head.start, item.end
    if not isinstance(item, Phrase):
        return Phrase("neat", start, end, row, (thing,))
    if item.sort == "dose" and isinstance(head, Phrase):
        return replace(head, sort="each", end=end, row=row, amount=item.amount)
    sort = "name_first" if item.sort == "bare" else item.sort
    sort = "thinned_with" if item.sort in ("same", "parts", "equal") else sort
    return replace(item, sort=sort, start=start, end=end, row=row, things=(thing,))


def _loose(made: Sequence[Item]) -> Thing:
    """The ingredient that loose words name, from the first to the one that makes it a brew."""
    words = [one for one in made if isinstance(one, Lexeme)]
    last = next((k for k, one in enumerate(words) if one.kind is Kind.BREW), 0)
    named = words[: last + 1]
    found = next((one.value for one in named if isinstance(one.value, Substance)), None)
    name = " ".join(one.text for one in named)
    return Thing(
        name, found, brew=named[-1].kind is Kind.BREW, start=named[0].start, end=named[-1].end
    )
