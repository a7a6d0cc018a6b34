"""What was counted beside the measure that decides, and which of it is more than luck."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import JUDGED_IN_ORDER, MEASURES, MeasureKey
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.evidence import MOST_LOG, Effect, weigh
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.rerandomise import FAMILY_ERROR
from orthocris.core.verdict.result import BesideEffect, BesideReading
from orthocris.core.verdict.table import make_table
from orthocris.core.verdict.words import change

SIDES = 2  # less and more are both told


@dataclass(frozen=True, slots=True)
class ReadEffect:
    """One remedy's effect; p over its measure's remedies of so much `less`, and so much `more`."""

    effect: BesideEffect
    less: float
    more: float


@dataclass(frozen=True, slots=True)
class Read:
    """What each remedy did to one measure."""

    measure: str
    remedies: tuple[ReadEffect, ...]


def shown_of(reads: tuple[Read, ...], *, decisive: bool) -> tuple[BesideReading, ...]:
    """Say which differences are more than luck: of all that is counted beside, together.

    The question's own measure has its 5%; these share another (Bonferroni over the measures and
    the two sides, the lot's step-down within each). Nothing is shown before the look that decides.
    """

    own = {MeasureKey.OTHER}  # the second pest has a verdict of its own
    judged = [read.measure for read in reads if decisive and read.measure not in own]

    def said(measure: str, one: ReadEffect) -> BesideEffect:
        less, more = (
            measure in judged and p * SIDES * len(judged) < FAMILY_ERROR
            for p in (one.less, one.more)
        )
        return replace(one.effect, shown="less" if less else "more" if more else "")

    return tuple(
        BesideReading(
            read.measure,
            MEASURES[read.measure].label,
            tuple(said(read.measure, one) for one in read.remedies),
        )
        for read in reads
    )


def shown_words(beside: tuple[BesideReading, ...]) -> Iterator[tuple[str, str, str]]:
    """Yield what is shown of what was counted beside: measure, remedy, "22% less height"."""
    for read in beside:
        for one in read.remedies:
            if one.shown:
                yield read.measure, one.name, change(one.efficacy, MEASURES[read.measure])


def read_beside(
    gathered: Gathered, decides: str, *, control: str, look: str, seed: int
) -> tuple[Read, ...]:
    """Return the fraction removed of everything else that was counted at the same look.

    Young and eggs beside the live tell whether a remedy leaves what hatches later. A measure that
    was not counted at this look, or has no spread to be read by, is left out.
    """
    found = []
    for key in JUDGED_IN_ORDER:
        days = {day for samples in gathered.of(key).values() for day in samples}
        if key == decides or max(days, default=0) <= 0:
            continue
        try:
            data = collect(gathered, control=control, measure=key, look=look)
            table = make_table(data)
            responses, early = table.responses(data), len(data.earlier)
            effects = weigh(table, responses, control=control, seed=seed, early=early).effects
        except InputError:
            continue
        if effects:
            found.append(
                Read(key, tuple(_effect(name, effect) for name, effect in effects.items()))
            )
    return tuple(found)


def _effect(name: str, effect: Effect) -> ReadEffect:
    return ReadEffect(
        BesideEffect(name, removed(effect.middle), removed(effect.high), removed(effect.low)),
        effect.better if effect.beats else 1.0,
        effect.worse if effect.is_worse else 1.0,
    )


def removed(log_ratio: float) -> float:
    """Return the fraction removed from the log of what is left, as far as anybody can use it."""
    return 1 - math.exp(min(log_ratio, MOST_LOG))
