"""Which cautions belong to a recipe, found by the words in it."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Caution:
    """Short warnings that apply when one of `words` is in a recipe; always, when it has none.

    Those that are `strong` must be acknowledged once for each batch.
    """

    key: str
    words: tuple[str, ...]
    texts: tuple[str, ...]
    strong: bool = False


def cautions_for(text: str, known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that a free-text remedy calls for.

    A word counts at the start of a word of the text, so that "oil" does not answer to "soil".
    """
    return tuple(
        sentence for caution in known if _applies(caution, text) for sentence in caution.texts
    )


def strong_cautions_for(text: str, known: Iterable[Caution]) -> tuple[Caution, ...]:
    """Return the cautions of a recipe that must be acknowledged before its batch is used."""
    return tuple(caution for caution in known if caution.strong and _applies(caution, text))


def _applies(caution: Caution, text: str) -> bool:
    return any(re.search(rf"\b{re.escape(word)}", text, re.IGNORECASE) for word in caution.words)


def general_cautions(known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that hold for every spray."""
    return tuple(sentence for caution in known if not caution.words for sentence in caution.texts)
