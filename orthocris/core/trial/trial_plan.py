"""A plan as it is kept beside a mend, so that the mend can be taken back."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from orthocris.core.trial.question import Question


@dataclass(frozen=True, slots=True)
class KeptPlan:
    """The question, the day of the first spray, the plants' ids and the seed of the layout.

    `seed` is None while no layout is drawn.
    """

    question: Question
    start_on: date
    plant_ids: tuple[int, ...]
    seed: int | None
