"""The watch over egg clusters: when the first hatched, what became of the others, when it ended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise


@dataclass(frozen=True, slots=True)
class EggLook:
    """A cluster at one look: eggs in all, hatched and gone by then."""

    on: date
    total: float
    hatched: float
    vanished: float = 0.0


@dataclass(frozen=True, slots=True)
class ClusterWatch:
    """How a cluster went.

    `first_hatch_after` and `first_hatch_on` are the looks between which the first egg hatched
    (the former None where it was hatched at the first look already, both None while none is);
    `ended_on` is the first look at which no egg was left; `shrank` tells that more had hatched or
    gone than there were eggs, or fewer than at a look before, so that a number is wrong.
    """

    plant_id: int
    total: int
    hatched: int
    vanished: int
    left: int
    first_hatch_after: date | None
    first_hatch_on: date | None
    ended_on: date | None
    shrank: bool


def watch(plant_id: int, looks: Sequence[EggLook]) -> ClusterWatch | None:
    """Return how one cluster went over its looks, in their order; None without any."""
    if not looks:
        return None
    last = looks[-1]
    first = next((k for k, look in enumerate(looks) if look.hatched > 0), None)
    ended = next((look.on for look in looks if _left(look) <= 0), None)
    return ClusterWatch(
        plant_id,
        total=int(last.total),
        hatched=int(last.hatched),
        vanished=int(last.vanished),
        left=max(int(_left(last)), 0),
        first_hatch_after=None if not first else looks[first - 1].on,
        first_hatch_on=None if first is None else looks[first].on,
        ended_on=ended,
        shrank=any(_left(look) < 0 for look in looks)
        or any(b.hatched < a.hatched for a, b in pairwise(looks))
        or any(b.vanished < a.vanished for a, b in pairwise(looks)),
    )


def _left(look: EggLook) -> float:
    return look.total - look.hatched - look.vanished
