"""A trial as it lies before the judge: its plants, what they say, and the terms agreed before."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import Enum

from orthocris.core.errors import InputError
from orthocris.core.trial.setup import UNIT_WORDS, USUAL_MARGIN, Unit
from orthocris.core.verdict.bet import Burden
from orthocris.core.verdict.dataset import Dataset
from orthocris.core.verdict.evidence import Evidence
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.harm import Harm
from orthocris.core.verdict.layouts import LayoutSet
from orthocris.core.verdict.table import Table

LEAST_DAYS = 1.0  # knock-down within hours is not control, whatever the plan says


class Gone(Enum):
    """Where nothing was left at the look, so that no ratio to the control exists."""

    NOWHERE = "nowhere"
    ON_CONTROL = "on the control"
    EVERYWHERE = "everywhere"


@dataclass(frozen=True, slots=True)
class Terms:
    """What was agreed before the trial, beside the threshold.

    Attributes
    ----------
    margin:
        Fraction removed that the gardener gives up for a gentler remedy, 0 up to 1.
    planned:
        Days of the planned looks. None planned: the look judged decides.
    decisive:
        The day of the look that decides, before which nothing is recommended; None: the last that
        is planned.
    layouts:
        The layouts that the lot could have drawn, where a rule restricted it; None: any within
        the blocks.
    whole:
        False while plants that still stand are not yet counted at the look: then nothing is
        recommended either.
    burdens:
        What each remedy costs in work and money, where known: it decides between bets about as
        good, never a verdict.
    two_waves:
        True where plants were kept for a second wave (`Observation.added`): then the first decides
        nothing but which remedies go on.
    two_looks:
        True where the look that decides is judged together with the planned one before it.
    usual:
        The control's name where it is what is done anyway, and nothing is left untreated; else
        empty. The arithmetic is the same, the words are not.
    units:
        What gets one remedy, as one and as several: a plant, plants.
    """

    margin: float = USUAL_MARGIN
    planned: tuple[float, ...] = ()
    decisive: float | None = None
    layouts: LayoutSet | None = None
    whole: bool = True
    burdens: Mapping[str, Burden] = field(default_factory=dict)
    two_waves: bool = False
    two_looks: bool = False
    usual: str = ""
    units: tuple[str, str] = UNIT_WORDS[Unit.PLANT]

    def is_early(self, day: float) -> bool:
        """Tell whether a look on this day comes before the decisive one."""
        last = max(self.planned, default=-math.inf) if self.decisive is None else self.decisive
        return day < last - 1e-9

    def so_far(self, day: float) -> bool:
        """Tell whether a look on this day settles nothing yet.

        It is not whole, comes before the decisive one, or within a day of the spray.
        """
        return not self.whole or self.is_early(day) or day < LEAST_DAYS


@dataclass(frozen=True, slots=True)
class Case:
    """All that a verdict is made of; see each part."""

    gathered: Gathered
    data: Dataset
    table: Table
    evidence: Evidence
    harm: Mapping[str, Harm]
    threshold: float
    gone: Gone


def check_terms(threshold: float, seed: int, terms: Terms) -> None:
    """Refuse a threshold, a seed or a margin that cannot be used."""
    if not (math.isfinite(threshold) and 0 < threshold < 1):
        raise InputError(
            f"the threshold is {threshold:g}",
            code="bad_threshold",
            field="threshold",
            fix="Give a fraction above 0 and below 1, such as 0.6.",
        )
    if not (math.isfinite(terms.margin) and 0 <= terms.margin < 1):
        raise InputError(
            f"the margin is {terms.margin:g}",
            code="bad_margin",
            field="margin",
            fix="Give a fraction from 0 up to 1, such as 0.1.",
        )
    if terms.decisive is not None and not (math.isfinite(terms.decisive) and terms.decisive > 0):
        raise InputError(
            f"the decisive day is {terms.decisive:g}",
            code="bad_decisive",
            field="decisive",
            fix="Give the day of the look that decides, counted from the first spray.",
        )
    if seed < 0:
        raise InputError(
            f"the seed is {seed}",
            code="bad_seed",
            field="seed",
            fix="Give a whole number, 0 or larger.",
        )


def where_gone(data: Dataset, table: Table) -> Gone:
    """Tell where nothing was left."""
    if all(line.left.harm == 0 for line in table.lines):
        return Gone.EVERYWHERE
    of_control = [line for line in table.lines if line.remedy == data.control]
    if of_control and all(line.left.harm == 0 for line in of_control):
        return Gone.ON_CONTROL
    return Gone.NOWHERE
