"""What was found on a plant, as the model reads it."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

from orthocris.core.trial.measures import Measure, Scale
from orthocris.core.verdict.gathering import Sample

GRADE_PARTS = 20.0


class Amount(NamedTuple):
    """What was found on a plant, as the model reads it.

    Attributes
    ----------
    harm:
        What should become less: pests, survivors, hatched eggs, parts of the leaf.
    of:
        Out of how many parts; None for counts.
    effort:
        What was searched for it; 1 for shares.
    """

    harm: float
    of: float | None
    effort: float

    @property
    def log(self) -> float:
        """Log((harm + 1/2) / effort) of counts, logit of (harm + 1/2) / (of + 1) of shares.

        The half keeps zeros; it is the usual start for small counts (Anscombe 1948, Biometrika
        35, 246-254).
        """
        if self.of is None:
            return math.log((self.harm + 0.5) / self.effort)
        return math.log((self.harm + 0.5) / (self.of - self.harm + 0.5))


def amount(measure: Measure, sample: Sample, together: float = 1.0) -> Amount:
    """Return a sample as the model reads it.

    Parameters
    ----------
    measure, sample:
        The numbers of one plant.
    together:
        How many counts a mean over looks is worth: it is read as so many counted together.

    Returns
    -------
    Counts and sizes as they are. Shares: the harm is the survivors for `dead`, the hatched for
    `hatched`.
    A percentage is counted in points, as pests are: covers of plants vary by far more than any
    share of a whole would, and no law of shares holds for all of them (bench/calibration). A mean
    grade is its share of the worst grade in twenty parts (the severity index of Townsend &
    Heuberger 1943), so that reading by eye is as unsure as drawing 20 parts: half a grade.
    """
    if measure.scale is Scale.SHARE:
        total = sample.of or 0.0
        harm = total - sample.value if measure.key == "dead" else sample.value
        return Amount(harm * together, total * together, 1.0)
    if measure.scale is Scale.COUNT:
        return Amount(sample.value * together, None, sample.effort * together)
    if measure.scale in (Scale.PERCENT, Scale.SIZE):
        return Amount(sample.value * together, None, together)
    parts = GRADE_PARTS * together
    return Amount(sample.value / measure.upper * parts, parts, 1.0)


def rate(measure: Measure, sample: Sample) -> float:
    """Return the sample in the measure's own unit: per leaf or trap, as a share, in % or grades."""
    if measure.scale is Scale.SHARE:
        return sample.value / (sample.of or math.nan)
    return sample.value / sample.effort


def mean_level(found: list[Sample]) -> tuple[Sample, float]:
    """Area under the progress curve by trapezoids, divided by its length in days.

    Counts are put on the first sample's effort, so that the mean level is in the same unit.
    Source: trapezoidal AUDPC, Shaner & Finney 1977, Phytopathology 67, 1051-1056.

    The mean of counts with weights w has counting variance sum(w^2 m): about that of 1 / sum(w^2)
    counts taken together, so it is worth so many and no more.
    """
    first = found[0]
    unit = first.of if first.of is not None else first.effort
    length = found[-1].day - first.day
    gaps = [later.day - earlier.day for earlier, later in pairwise(found)]
    weights = [(a + b) / (2 * length) for a, b in zip([0.0, *gaps], [*gaps, 0.0], strict=True)]
    levels = [s.value / (s.of if s.of is not None else s.effort) * unit for s in found]
    mean = sum(w * level for w, level in zip(weights, levels, strict=True))
    worth = 1 / sum(w * w for w in weights)
    return Sample(found[-1].day, mean, first.of, first.effort), worth
