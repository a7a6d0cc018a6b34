"""What a verdict will be able to answer for each kind of question, promised beforehand."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.trial.setup import Kind
from orthocris.core.verdict.words import percent
from orthocris.core.words import listing


def promise(kind: Kind, names: Sequence[str], threshold: float, usual: str = "") -> str:
    """Say before the trial what its verdict will be able to say.

    `names` are those of the remedies beside the control, weakest first in a ladder; `usual` is the
    control's where it is what is done anyway.
    """
    some = listing(names) or "the remedies"
    which = f"whether {some}" if len(names) == 1 else f"which of {some}"
    best = "" if len(names) == 1 else " which is best,"
    worth = percent(threshold)
    if kind is Kind.LADDER:
        return (
            f"The verdict will say at which strength {worth} would be removed, and which is the "
            f"weakest of {some} that likely removes so much."
        )
    if kind is Kind.SQUARE:
        return (
            "The verdict will say how much each ingredient does, and whether both together do "
            "more than the two apart."
        )
    if kind is Kind.PREVENTION:
        return (
            f"The verdict will say {which} keeps {worth} or more of the arrivals away, on "
            "plants that start clean."
        )
    if kind is Kind.EGGS:
        return f"The verdict will say {which} keeps {worth} or more of the eggs from hatching."
    return (
        f"The verdict will say {which} removes {worth} or more of what "
        f"{f'plants with {usual}' if usual else 'untreated plants'} have,{best} and what it costs "
        "the leaves."
        + (
            f" Nothing is left untreated, so whether {usual} does anything stays open."
            * bool(usual)
        )
    )
