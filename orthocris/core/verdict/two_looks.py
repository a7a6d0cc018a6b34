"""The decisive look taken together with the one before it, where that was planned."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core.trial.measures import MEASURES, Scale
from orthocris.core.trial.plan import on_moment
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.gathering import Gathered, Sample, Samples

TAKEN = (Scale.COUNT, Scale.PERCENT, Scale.GRADE)
PRICES = ("damage", "helpers")


def two_looks(terms: Terms) -> tuple[float, float] | None:
    """Return the days of the looks that are judged together: the decisive last, if two are."""
    if not terms.two_looks:
        return None
    last = max(terms.planned, default=0.0) if terms.decisive is None else terms.decisive
    before = max((day for day in terms.planned if 0 < day < last), default=None)
    return None if before is None else (before, last)


def judged_on(terms: Terms, moment: float) -> str:
    """Say when what is judged was counted: "on day 9", or "on day 5 and on day 9 together"."""
    pair = two_looks(terms)
    if pair is None or pair[1] != moment:
        return on_moment(moment)
    return f"{on_moment(pair[0])} and {on_moment(moment)} together"


def taken_together(gathered: Gathered, terms: Terms) -> Gathered:
    """Put the numbers of the last two planned looks together, as those of the last.

    Counts and their effort are added, what is read by eye is averaged, as leaves of one plant are.
    A plant counted at one of them keeps what it has. Shares are of individuals under watch, of
    which more die or hatch from day to day: they stay as they are, as do harm, helpers and growth,
    which are read over all looks. Nothing changes where no two looks were planned.
    """
    pair = two_looks(terms)
    if pair is None:
        return gathered
    before, last = pair
    samples = {
        key: _summed(own, before, last, by_eye=MEASURES[key].scale is not Scale.COUNT)
        if MEASURES[key].scale in TAKEN and key not in PRICES
        else own
        for key, own in gathered.samples.items()
    }
    return replace(gathered, samples=samples)


def _summed(samples: Samples, before: float, last: float, *, by_eye: bool) -> Samples:
    found = {}
    for plant, by_day in samples.items():
        one, other = by_day.get(before), by_day.get(last)
        if one is None or other is None:
            found[plant] = by_day
            continue
        value, effort = one.value + other.value, one.effort + other.effort
        both = Sample(last, value / 2, None, 1.0) if by_eye else Sample(last, value, None, effort)
        found[plant] = {**by_day, last: both}
    return found
