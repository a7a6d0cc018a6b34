"""A trial read for a question of its own: the same plants, model and lot as the judge's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.dataset import collect
from orthocris.core.verdict.evidence import MOST_LOG, Evidence, weigh
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.observation import Observation
from orthocris.core.verdict.table import Table, make_table
from orthocris.core.verdict.two_looks import taken_together


@dataclass(frozen=True, slots=True)
class Reading:
    """The plants compared, what was found of them, and the control among them."""

    table: Table
    evidence: Evidence
    control: str

    def log_ratio(self, remedy: str) -> FloatArray:
        """Return draws of the log of a remedy's harm over the control's, (draws,)."""
        own = self.evidence.remedies.index
        harm = self.evidence.log_harm
        return np.asarray(harm[:, own(remedy)] - harm[:, own(self.control)])

    def efficacy(self, remedy: str) -> FloatArray:
        """Return draws of the fraction removed, (draws,)."""
        return 1 - np.exp(np.minimum(self.log_ratio(remedy), MOST_LOG))


def read_trial(
    observations: Sequence[Observation],
    *,
    control: str,
    measure: str,
    look: str,
    seed: int,
    terms: Terms = Terms(),  # noqa: B008 - frozen
) -> Reading:
    """Weigh a trial as the judge does (see `judge`)."""
    gathered = taken_together(gather(observations), terms)
    data = collect(gathered, control=control, measure=measure, look=look)
    table = make_table(data)
    evidence = weigh(table, table.responses(data), control=control, seed=seed)
    return Reading(table, evidence, control)
