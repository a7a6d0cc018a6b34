"""Which remedies go on to further plants, and which are out of question."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.result import Verdict
from orthocris.core.verdict.words import odds

LEAST_BEST, LEAST_WORTH = 0.025, 0.05  # below both a remedy is out of question


def in_question(best: FloatArray, worth: FloatArray) -> NDArray[np.bool_]:
    """Tell which remedies go on, by the chance of being the `best` and of being `worth` it."""
    return np.asarray((best >= LEAST_BEST) | (worth >= LEAST_WORTH))


def left_out(verdict: Verdict, *, all_go_on: bool = False) -> dict[str, str]:
    """Return the remedies that do not go on to further plants, and why.

    What harmed plants does not, nor what is out of question; `all_go_on` keeps the others all
    the same, for a ladder or a two-by-two needs each of its steps. A remedy of which nothing is
    known goes on.
    """
    found: dict[str, str] = {}
    for one in verdict.remedies:
        if one.role != "remedy":
            continue
        if one.vetoed:
            found[one.name] = "it harmed the plants"
        elif one.prob_best is None or one.prob_worth_it is None or all_go_on:
            continue
        elif not in_question(np.array(one.prob_best), np.array(one.prob_worth_it)):
            found[one.name] = (
                f"best with a chance of {odds(one.prob_best)}, worth it with one of "
                f"{odds(one.prob_worth_it)}"
            )
    return found
