"""What a text speaks of as being there: by the reader's own sense of what is denied."""

from __future__ import annotations

from functools import cache, lru_cache

from orthocris.core.pantry.recipe.composing import row_of
from orthocris.core.pantry.recipe.denying import SAID_DENIED
from orthocris.core.pantry.recipe.reading import LONG_NUMBER, LONGEST_RECIPE
from orthocris.core.pantry.recipe.vocabulary import vocabulary
from orthocris.core.pantry.substance_list import Substance
from orthocris.core.pantry.substances import classify, found_in, substances_in, words_of

# Words that name no more than a sort: what stands before them tells what it is.
SORTS = frozenset(["oil", "oils", "soap", "soaps", "spirit", "spirits", "shampoo"])


@lru_cache(maxsize=2048)
def substances_there(text: str) -> tuple[Substance, ...]:
    """Return every substance a text speaks of as being there, each once.

    "No oil", "wait four weeks after oil" and "chlorine-free" speak of what is not there, "never
    without soap" of what is.
    """
    if len(text) > LONGEST_RECIPE or LONG_NUMBER.search(text):
        return substances_in(text)  # no recipe: looked through word by word
    there = list(text)
    for one in row_of(text):
        if one.value == SAID_DENIED:
            there[one.start : one.end] = " " * (one.end - one.start - 1) + ";"
    return substances_in("".join(there))


def is_nameless(name: str) -> bool:
    """True for what nobody can say here what it is: a strange name, or a strange sort.

    Chain oil is no kitchen oil and tar soap no mild soap, whatever their last word.

    Examples
    --------
    >>> is_nameless("Greenshield"), is_nameless("tar soap"), is_nameless("cheap olive oil")
    (True, True, False)
    """
    if classify(name) is None:
        return True
    words = words_of(name)
    return any(
        place and length == 1 and words[place] in SORTS and words[place - 1] not in _known_words()
        for place, length, _ in found_in(words)
    )


@cache
def _known_words() -> frozenset[str]:
    return frozenset(word for phrase in vocabulary() for word in phrase)
