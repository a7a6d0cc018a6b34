"""Simulated benches: what would be counted, if the remedies did what is assumed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.planning.many_trials import Tables
from orthocris.core.trial.measures import MEASURES, MeasureKey, Scale
from orthocris.core.trial.setup import Kind
from orthocris.core.verdict.amounts import GRADE_PARTS
from orthocris.core.verdict.distributions import normal_quantile
from orthocris.core.verdict.layouts import IntArray
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray

# Typical starts where nothing was counted yet: pests on a plant, % of the leaf, grade.
USUAL_START = {Scale.COUNT: 30.0, Scale.PERCENT: 20.0, Scale.GRADE: 2.5}
USUAL_SPREAD = 0.5
KNOWN = 4  # counts from which a bench is drawn as it was counted, not as usual
USUAL_ARRIVALS = 8.0  # pests that reach an untreated plant by the last look
USUAL_TOTAL = 20.0  # individuals or eggs that a share is counted out of
# What is harm untreated: of pests kept under watch nine in ten live, of eggs eight in ten hatch.
USUAL_HARM = {MeasureKey.DEAD: 0.9, MeasureKey.HATCHED: 0.8}
LEFT_BY_USUAL = 0.4  # growth on a control that is what is done anyway, typical
LASTING = 0.7  # of how plants differ beyond their start: the part that the next look finds again
SHARE_SHIFT = 0.3  # by which blocks differ, in logits


@dataclass(frozen=True, slots=True)
class Assumptions:
    """What is taken to be true in the simulated gardens.

    Attributes
    ----------
    efficacies:
        True fraction removed by each remedy but the control, at least one.
    growth:
        Pests after over pests before on the control.
    dispersion:
        Clumping: the gamma shape of the extra variation between plants; about 1 is strong
        clumping, 10 little.
    starts:
        Match counts; the simulated plants take their levels from these. Empty: a usual bench.
    measure, kind, threshold:
        What is counted, the kind of question, and the fraction removed that is worth it.
    of:
        Out of how many a share is counted.
    two_looks:
        Whether two looks of counts are judged together.
    """

    efficacies: tuple[float, ...]
    growth: float = 1.0
    dispersion: float = 4.0
    starts: tuple[float, ...] = ()
    measure: str = MeasureKey.LIVE
    kind: Kind = Kind.COMPARE
    threshold: float = 0.6
    of: float = USUAL_TOTAL
    two_looks: bool = False

    @property
    def scale(self) -> Scale:
        """The kind of number that is counted."""
        return MEASURES[self.measure].scale


def check_assumptions(assumptions: Assumptions) -> None:
    """Refuse what cannot be simulated, with the field at fault."""
    if not assumptions.efficacies or not all(-1 <= e < 1 for e in assumptions.efficacies):
        raise InputError(
            "an assumed efficacy is not below 100%",
            code="bad_efficacy",
            field="efficacies",
            fix="Give a percentage below 100 for each remedy.",
        )
    for field in ("growth", "dispersion"):
        if not 0.05 <= getattr(assumptions, field) <= 50:
            raise InputError(
                f"{field} is {getattr(assumptions, field):g}",
                code="bad_assumption",
                field=field,
                fix="Give a number from 0.05 to 50.",
            )


def simulate(
    layout: Layout, assumptions: Assumptions, trials: int, rng: np.random.Generator
) -> Tables:
    """Draw what is counted on each plant before and after, in many trials.

    Each trial has a bench of its own, whose plants take their levels from the match counts (drawn
    anew) or from a usual spread. They are put into blocks from the most to the least infested, and
    remedies fall at random on the plants of a block. After, counts are negative binomial about own
    level × growth × survival; shares, covers and grades are beta about theirs, with a correlation
    that stands for the same clumping.
    """
    survival = 1 - np.array([0.0, *assumptions.efficacies])[layout.remedy]
    if assumptions.scale is Scale.SHARE:
        return _shares(layout, assumptions, survival, trials, rng)
    own = _levels(layout, assumptions, trials, rng)
    if assumptions.scale is not Scale.COUNT:
        return _read_by_eye(assumptions, own, survival, rng)
    k = assumptions.dispersion
    rise = 1.0 if assumptions.kind is Kind.PREVENTION else assumptions.growth
    left = own * rise * survival
    if assumptions.two_looks:
        # What stays with a plant, and what is new at each look: their variances add up to 1 / k.
        lasting = rng.gamma(k / LASTING, LASTING / k, own.shape)
        passing = k / (1 - LASTING)
        moods = rng.gamma(passing, 1 / passing, (2, *own.shape))
        after = rng.poisson(left * lasting * moods).sum(axis=0).astype(float)
    else:
        after = rng.poisson(left * rng.gamma(k, 1 / k, own.shape)).astype(float)
    if assumptions.kind is Kind.PREVENTION:
        return Tables(after, None, None)  # all start clean: nothing before tells them apart
    return Tables(after, None, np.log(rng.poisson(own) + 0.5))


def _levels(
    layout: Layout, assumptions: Assumptions, trials: int, rng: np.random.Generator
) -> FloatArray:
    """Own levels of the plants, (trials, plants): most infested first, shuffled within blocks."""
    plants = len(layout.remedy)
    share = np.sort(rng.random((trials, plants)), axis=1)[:, ::-1]
    counted = [s for s in assumptions.starts if s > 0]
    if assumptions.kind is Kind.PREVENTION:
        own = USUAL_ARRIVALS * np.exp(USUAL_SPREAD * normal_quantile(share))
    elif len(counted) >= KNOWN:
        own = np.quantile(np.array(counted), share)
    else:
        usual = USUAL_START.get(assumptions.scale, 1.0)
        start = float(np.mean(counted)) if counted else usual
        own = start * np.exp(USUAL_SPREAD * normal_quantile(share))
    own = np.maximum(own, 0.05)
    groups = [np.arange(plants)] if layout.block is None else _members(layout.block)
    for members in groups:
        own[:, members] = rng.permuted(own[:, members], axis=1)
    return np.asarray(own)


def _shares(
    layout: Layout,
    assumptions: Assumptions,
    survival: FloatArray,
    trials: int,
    rng: np.random.Generator,
) -> Tables:
    block = np.zeros(len(survival), dtype=int) if layout.block is None else layout.block
    shift = rng.normal(0, SHARE_SHIFT, (trials, int(block.max()) + 1))[:, block]
    p = _inside(USUAL_HARM.get(MeasureKey(assumptions.measure), 0.9) * survival)
    p = 1 / (1 + np.exp(-(np.log(p / (1 - p)) + shift)))
    harm = rng.binomial(int(assumptions.of), _beta(p, assumptions.dispersion, rng))
    return Tables(harm.astype(float), assumptions.of, None)


def _read_by_eye(
    assumptions: Assumptions, own: FloatArray, survival: FloatArray, rng: np.random.Generator
) -> Tables:
    """Covers and grades: shares of the worst there can be; a grade is a whole number."""
    worst = MEASURES[assumptions.measure].upper
    before = _inside(own / worst)
    after = _beta(_inside(before * assumptions.growth * survival), assumptions.dispersion, rng)
    start = _beta(before, 25.0, rng)
    if assumptions.scale is Scale.PERCENT:
        return Tables(worst * after, None, np.log(worst * start + 0.5), worst)
    parts = GRADE_PARTS
    after, start = (np.round(worst * value) / worst for value in (after, start))
    logit = np.log((parts * start + 0.5) / (parts - parts * start + 0.5))
    return Tables(parts * after, parts, logit)


def _beta(p: FloatArray, dispersion: float, rng: np.random.Generator) -> FloatArray:
    """Shares about p; a gamma shape of 4 is a correlation of 0.05, of 1 of 0.17."""
    size = 5 * dispersion
    return np.asarray(rng.beta(p * size, (1 - p) * size))


def _inside(p: FloatArray) -> FloatArray:
    return np.asarray(np.clip(p, 0.002, 0.998))


def _members(label: IntArray) -> list[IntArray]:
    return [np.flatnonzero(label == b) for b in range(int(label.max()) + 1)]
