"""What stands apart from the ingredient it is about: a ratio, an amount, "undiluted"."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.pantry.recipe.phrases import Item, Phrase, Thing
from orthocris.core.pantry.recipe.vocabulary import Kind
from orthocris.core.pantry.substances import Substance

_GLUE = frozenset({Kind.SEP, Kind.VERB, Kind.ADJECTIVE, Kind.SOLUTION, Kind.IN, Kind.TO, Kind.AT,
                   Kind.STRAIN, Kind.OF, Kind.A, Kind.NOTE})  # fmt: skip
_HEADS = frozenset({Kind.NAME, Kind.STOCK, Kind.BREW})


def attached(items: Sequence[Item]) -> tuple[Item, ...]:
    """Join a ratio, a lone amount or "undiluted" with the ingredient that stands apart from it."""
    made: list[Item] = []
    for item in items:
        head = _head(made)
        fits = _headless(item)
        if fits == "parts" and any(isinstance(one, Phrase) and one.sort == "parts" for one in made):
            fits = ""
        if head is not None and fits and not (fits == "bare" and not _is_strong(made[head])):
            made[head:] = [_joined(made[head:], item)]
        else:
            made.append(item)
    return tuple(made)


def _headless(item: Item) -> str:
    if isinstance(item, Phrase):
        without = item.sort in ("ratio", "one_to", "bare") and not item.things
        watery = item.sort in ("same", "parts", "equal") and all(t.water for t in item.things)
        return item.sort if without or watery else ""
    return "neat" if item.kind is Kind.NEAT else ""


def _head(made: Sequence[Item]) -> int | None:
    """The place of the last ingredient without an amount, over words that only join."""
    for place in range(len(made) - 1, -1, -1):
        one = made[place]
        if isinstance(one, Phrase):
            return place if one.sort == "lone" else None
        if one.kind in _HEADS:
            return place
        if one.kind not in _GLUE:
            return None
    return None


def _is_strong(item: Item) -> bool:
    return isinstance(item, Phrase) and item.sort == "lone"


def _joined(made: Sequence[Item], item: Item) -> Phrase:
    head = made[0]
    row = tuple(
        word for one in (*made, item) for word in (one.row if isinstance(one, Phrase) else (one,))
    )
    if isinstance(head, Phrase):
        thing = head.thing
    else:
        found = head.value if isinstance(head.value, Substance) else None
        thing = Thing(head.text, found, brew=head.kind is Kind.BREW, start=head.start, end=head.end)
    start, end = head.start, item.end
    if not isinstance(item, Phrase):
        return Phrase("neat", start, end, row, (thing,))
    sort = "name_first" if item.sort == "bare" else item.sort
    sort = "thinned_with" if item.sort in ("same", "parts", "equal") else sort
    return replace(item, sort=sort, start=start, end=end, row=row, things=(thing,))
