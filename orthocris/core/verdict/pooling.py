"""Several trials of one remedy together: what it does on the whole, and what it may do next.

Trials differ in more than chance (plants, weather, hands), so their true effects are taken to
scatter about a mean (random effects). All is on the scale of the log of the share left over.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import expm1, log

import numpy as np

from orthocris.core.verdict.words import percent, surplus
from orthocris.core.words import many

ENOUGH = 5  # trials from which on the scatter is read from them alone
USUAL_SCATTER = 0.75  # scale of the half-normal that stands for it where they are fewer
LEAST_LEFT = 0.001  # of what was there: less is not told apart
Z = 1.959963984540054


@dataclass(frozen=True, slots=True)
class Effect:
    """What one trial says of a remedy: the log of the share left, and its standard error."""

    left: float
    error: float


@dataclass(frozen=True, slots=True)
class Pooled:
    """Trials together: the mean effect and that of a next trial, each with 95% limits, in logs.

    `scatter` is the standard deviation of true effects between trials; the limits of a next trial
    are None where the trials are too few to tell any.
    """

    left: float
    low: float
    high: float
    next_low: float | None
    next_high: float | None
    scatter: float


def effect_of(efficacy: float, low: float, high: float) -> Effect:
    """Return a trial's effect from the fraction removed and its 95% limits.

    On the scale of logs the limits lie about evenly; where a trial left nothing over, the middle of
    them stands for it.
    """
    most = log(max(1 - low, LEAST_LEFT))
    least = log(max(1 - high, LEAST_LEFT))
    at = min(max(log(max(1 - efficacy, LEAST_LEFT)), least), most)
    return Effect(at, max((most - least) / (2 * Z), 0.01))


def removed(left: float) -> float:
    """Return the fraction removed of a log share left."""
    return -expm1(left)


def pool(effects: Sequence[Effect]) -> Pooled:
    """Take trials together: by their own scatter where they are many, else by what is usual.

    From five trials on by restricted maximum likelihood with intervals of Hartung and Knapp, never
    narrower than without them; below that the scatter is averaged over a half-normal, as proposed
    for few trials by Röver and others (2021), so that one trial is told too. A next trial gets the
    wider limits of both. `bench/pooling.py` says how often they hold.
    """
    few = few_trials(effects)
    if len(effects) < ENOUGH:
        return few
    found = random_effects(effects, narrower=False)
    ends = (found.next_low, found.next_high, few.next_low, few.next_high)
    told = [end for end in ends if end is not None]
    return replace(found, next_low=min(told), next_high=max(told))


def random_effects(effects: Sequence[Effect], *, narrower: bool = True) -> Pooled:
    """Random effects over two trials or more.

    The scatter by restricted maximum likelihood (fixed point of its equation), the mean with the
    variance of Hartung and Knapp (2001) and t of k - 1 degrees; a next trial by t of k - 2 (Higgins
    and others 2009), from three trials on. `narrower` False keeps the interval at least as wide as
    the variance without their correction makes it.
    """
    from scipy.stats import t as student

    y, v = _arrays(effects)
    k = len(y)
    between = _restricted_likelihood(y, v)
    weight = 1 / (v + between)
    mean = float(weight @ y / weight.sum())
    plain = 1 / float(weight.sum())
    variance = float(weight @ (y - mean) ** 2) / ((k - 1) * float(weight.sum()))
    if not narrower:
        variance = max(variance, plain)
    half = float(student.ppf(0.975, k - 1)) * variance**0.5
    ahead = None
    if k > 2:
        ahead = float(student.ppf(0.975, k - 2)) * (between + variance) ** 0.5
    return Pooled(
        mean,
        mean - half,
        mean + half,
        None if ahead is None else mean - ahead,
        None if ahead is None else mean + ahead,
        between**0.5,
    )


def few_trials(effects: Sequence[Effect]) -> Pooled:
    """One trial or a few: the mean and the next, averaged over how far trials may scatter."""
    y, v = _arrays(effects)
    scatter = (np.arange(400) + 0.5) / 400 * 4 * USUAL_SCATTER
    weight = 1 / (v[:, None] + scatter**2)
    total = weight.sum(axis=0)
    mean = (weight * y[:, None]).sum(axis=0) / total
    fit = (
        np.log(weight).sum(axis=0) - np.log(total) - (weight * (y[:, None] - mean) ** 2).sum(axis=0)
    )
    logs = 0.5 * fit - 0.5 * (scatter / USUAL_SCATTER) ** 2
    share = np.exp(logs - logs.max())
    share /= share.sum()
    low, high = _limits(share, mean, 1 / total)
    next_low, next_high = _limits(share, mean, 1 / total + scatter**2)
    return Pooled(float(share @ mean), low, high, next_low, next_high, float(share @ scatter))


def _arrays(effects: Sequence[Effect]) -> tuple[np.ndarray, np.ndarray]:
    return np.array([e.left for e in effects]), np.array([e.error**2 for e in effects])


def _restricted_likelihood(y: np.ndarray, v: np.ndarray) -> float:
    """The scatter (variance) that makes the trials likeliest, the mean being unknown."""
    between = max(float(y.var(ddof=1) - v.mean()), 0.0)
    for _ in range(2000):
        weight = 1 / (v + between)
        mean = weight @ y / weight.sum()
        squares = weight**2 @ ((y - mean) ** 2 - v)
        found = max(float(squares / (weight**2).sum() + 1 / weight.sum()), 0.0)
        if abs(found - between) < 1e-12:
            break
        between = found
    return between


def _limits(share: np.ndarray, mean: np.ndarray, variance: np.ndarray) -> tuple[float, float]:
    """2.5% and 97.5% of a mixture of normal distributions."""
    from scipy.optimize import brentq
    from scipy.special import ndtr

    deviation = np.sqrt(variance)
    ends = float((mean - 9 * deviation).min()), float((mean + 9 * deviation).max())

    def at(level: float) -> float:
        return float(brentq(lambda x: float(share @ ndtr((x - mean) / deviation)) - level, *ends))

    return at(0.025), at(0.975)


def known_words(
    trials: int,
    now: tuple[float, float, float],
    ahead: tuple[float, float],
    harmed: int,
    *,
    elsewhere: int = 0,
) -> str:
    """Say what trials of a remedy found, and what another may find (fractions removed).

    `elsewhere` is how many of them are of other gardens.
    """
    efficacy, low, high = now
    where = " here" if not elsewhere else ", none of them here" if elsewhere == trials else ""
    if 0 < elsewhere < trials:
        where = f", {elsewhere} of them in other gardens"
    found = f"{many(trials, 'trial')}{where}: {_one(efficacy)}, likely {_between(low, high)}."
    said = f"{found} Another trial would likely find {_between(*ahead)}."
    return f"{harm_words(harmed)} {said}" if harmed else said


def harm_words(harmed: int) -> str:
    """Say in how many trials a remedy harmed the plants."""
    return f"It harmed the plants in {many(harmed, 'trial')}."


def _one(efficacy: float) -> str:
    if round(efficacy * 100) == 0:
        return "as many as untreated"
    return f"{percent(abs(efficacy))} {'fewer' if efficacy > 0 else 'more'} than untreated"


def _between(low: float, high: float) -> str:
    if low >= 0:
        return f"{percent(low)} to {percent(high)} fewer"
    if high <= 0:
        return f"{surplus(-high)} to {surplus(-low)} more"
    return f"{surplus(-low)} more to {percent(high)} fewer"


@dataclass(frozen=True, slots=True)
class WithBefore:
    """A trial's effect together with earlier ones, as fractions removed with 95% limits.

    `apart` tells that this trial and the earlier ones are hardly of one kind.
    """

    efficacy: float
    low: float
    high: float
    apart: bool


def with_before(own: Effect, before: Pooled) -> WithBefore:
    """Take what a next trial was expected to find together with what it found.

    Before the trial its true effect was as likely as the earlier trials' prediction says, taken as
    normal on the log scale; both are weighed by their precision. They are apart where their
    difference is more than twice its error.
    """
    least = before.low if before.next_low is None else before.next_low
    most = before.high if before.next_high is None else before.next_high
    spread = max((most - least) / (2 * Z), 0.01)
    weight = spread**-2 / (spread**-2 + own.error**-2)
    left = weight * before.left + (1 - weight) * own.left
    error = (spread**-2 + own.error**-2) ** -0.5
    apart = abs(own.left - before.left) > 2 * (spread**2 + own.error**2) ** 0.5
    low, high = removed(left + Z * error), removed(left - Z * error)
    return WithBefore(removed(left), low, high, apart)


def before_words(name: str, found: WithBefore, trials: int) -> str:
    """Say what comes of a trial with the earlier ones; never in the place of its own verdict."""
    said = (
        f"With {many(trials, 'earlier trial')}, {name} removes about {percent(found.efficacy)} "
        f"(likely between {percent(found.low)} and {percent(found.high)})."
        if found.low >= 0
        else f"With {many(trials, 'earlier trial')}, {name}: {_one(found.efficacy)}, likely "
        f"{_between(found.low, found.high)}."
    )
    if not found.apart:
        return said
    return (
        f"{said} But this trial and the earlier ones hardly fit together: ask what was different, "
        "the strength, the plants or the weather, before you believe either."
    )
