"""What a remedy was like to use: a price beside leaf damage, money and minutes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

MessKind = Literal[
    "smells",
    "stains",
    "clogs",
    "film",
    "foams",
    "spills",
    "hands",
    "eggs",
    "dull",
    "shiny",
    "sticky",
]
MESS: dict[MessKind, str] = {
    "smells": "smells",
    "stains": "stains",
    "clogs": "clogs the nozzle",
    "film": "leaves a film about",
    "foams": "foams over",
    "spills": "spills what it takes off",
    "hands": "needs two pairs of hands",
    "eggs": "leaves eggs on",
    "dull": "dull once dry: too little",
    "shiny": "even gloss once dry: enough",
    "sticky": "sticky once dry: too much",
}
# What leaves look like once an oil has dried on them, which tells the dose: one of them.
DRY_LEAF: frozenset[MessKind] = frozenset({"dull", "shiny", "sticky"})


@dataclass(frozen=True, slots=True)
class RoundMess:
    """What was said of a remedy after a round; nothing in `kinds`: it was fine."""

    round_number: int
    remedy_id: int
    kinds: tuple[MessKind, ...]


def mess_words(said: Sequence[RoundMess], remedy_id: int) -> str:
    """Say what a remedy was like, with the rounds it was so in; "" where nobody said."""
    own = [m.kinds for m in said if m.remedy_id == remedy_id]
    if not own:
        return ""
    counts = {kind: sum(kind in kinds for kinds in own) for kind in MESS}
    told = [
        words if counts[kind] == len(own) else f"{words} ({counts[kind]} of {len(own)} rounds)"
        for kind, words in MESS.items()
        if counts[kind]
    ]
    return ", ".join(told) or "fine"
