"""Which remedy suits by what the gardener minds: what each removes, less what it costs.

A remedy that harmed the plants, or was not shown to work, is none of them, whatever is minded.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from orthocris.core.trial.minds import Mind, Minds, Weight

# Points of pests removed (per cent) that one gives up for the dearest of those compared.
POINTS = {Weight.NOT: 0.0, Weight.SOME: 5.0, Weight.MUCH: 20.0}


@dataclass(frozen=True, slots=True)
class Suitor:
    """A remedy that is shown to work and harms nothing, with what it costs.

    `removes` is a fraction; `costs` are in any unit, the more the worse, None where not known.
    """

    name: str
    removes: float
    costs: Mapping[Mind, float | None]


@dataclass(frozen=True, slots=True)
class Weighed:
    """A remedy by what is minded: `score` in points, and what each thing took off."""

    name: str
    removes: float
    score: float
    off: Mapping[Mind, float]


@dataclass(frozen=True, slots=True)
class Flip:
    """That another weight of one thing would choose another remedy."""

    mind: Mind
    weight: Weight
    name: str


@dataclass(frozen=True, slots=True)
class Choice:
    """The remedies in the order in which they suit, and what would change the first.

    `unknown` are things that are minded but not known of all of them: they weigh nothing.
    """

    ranked: tuple[Weighed, ...]
    flips: tuple[Flip, ...]
    unknown: tuple[Mind, ...]


def choose(suitors: Sequence[Suitor], minds: Minds) -> Choice:
    """Weigh the remedies by what is minded; nothing without any."""
    if not suitors:
        return Choice((), (), ())
    ranked = _ranked(suitors, minds)
    unknown = tuple(m for m in Mind if minds.get(m) and not _known(suitors, m))
    return Choice(ranked, tuple(_flips(suitors, minds, ranked[0].name)), unknown)


def _ranked(suitors: Sequence[Suitor], minds: Minds) -> tuple[Weighed, ...]:
    dearest = {m: max(_cost(s, m) for s in suitors) for m in Mind if _known(suitors, m)}
    found = []
    for one in suitors:
        off = {
            m: POINTS[minds[m]] * _cost(one, m) / most
            for m, most in dearest.items()
            if minds.get(m) and most > 0
        }
        score = 100 * one.removes - sum(off.values())
        found.append(Weighed(one.name, one.removes, score, off))
    return tuple(sorted(found, key=lambda w: -w.score))


def _flips(suitors: Sequence[Suitor], minds: Minds, first: str) -> Iterator[Flip]:
    """The nearest other weight of each thing by which another would come first."""
    for mind in Mind:
        own = minds.get(mind, Weight.NOT)
        for weight in sorted(Weight, key=lambda w: abs(w - own)):
            other = _ranked(suitors, {**minds, mind: weight})[0].name
            if other != first:
                yield Flip(mind, weight, other)
                break


def _known(suitors: Sequence[Suitor], mind: Mind) -> bool:
    return all(one.costs.get(mind) is not None for one in suitors)


def _cost(one: Suitor, mind: Mind) -> float:
    return max(one.costs.get(mind) or 0.0, 0.0)
