"""What a text speaks of as being there: by the reader's own sense of what is denied."""

from __future__ import annotations

from functools import lru_cache

from orthocris.core.pantry.recipe.composing import row_of
from orthocris.core.pantry.recipe.denying import SAID_DENIED
from orthocris.core.pantry.recipe.reading import LONG_NUMBER, LONGEST_RECIPE
from orthocris.core.pantry.substances import Substance, substances_in


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
