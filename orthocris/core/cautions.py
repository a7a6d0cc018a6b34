"""Which cautions belong to a recipe, found by the words in it."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Caution:
    """Short warnings that apply when one of `words` is in a recipe; always, when it has none."""

    key: str
    words: tuple[str, ...]
    texts: tuple[str, ...]


def cautions_for(text: str, known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that a free-text remedy calls for.

    A word counts at the start of a word of the text, so that "oil" does not answer to "soil".
    """
    return tuple(
        sentence
        for caution in known
        if any(re.search(rf"\b{re.escape(word)}", text, re.IGNORECASE) for word in caution.words)
        for sentence in caution.texts
    )


def general_cautions(known: Iterable[Caution]) -> tuple[str, ...]:
    """Return the cautions that hold for every spray."""
    return tuple(sentence for caution in known if not caution.words for sentence in caution.texts)
