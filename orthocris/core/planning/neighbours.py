"""Who stands beside whom, and where drift would spoil it."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.trial.setup import Setup
from orthocris.core.trial.trial import Plant, Trial

DEFAULT_DRIFT_CM = 30.0  # a hand sprayer without wind; typical


def close_pairs(
    plants: Sequence[Plant], setup: Setup, drift_cm: float
) -> tuple[tuple[int, int], ...]:
    """Return pairs of plant ids that stand nearer to each other than the spray drifts.

    Neighbours in a row are `place_cm` apart, plants at one place in neighbouring rows
    `row_cm`. Distances equal to the drift are far enough.
    """
    at = {(p.row, p.place): p.id for p in plants}
    pairs = []
    for (row, place), own in at.items():
        if setup.place_cm < drift_cm and (row, place + 1) in at:
            pairs.append((own, at[row, place + 1]))
        if setup.row_cm < drift_cm and (row + 1, place) in at:
            pairs.append((own, at[row + 1, place]))
    return tuple(pairs)


def shields_needed(trial: Trial) -> tuple[tuple[int, int], ...]:
    """Return pairs of neighbours with different remedies that need a shield between them."""
    remedy = {p.id: p.remedy_id for p in trial.trial_plants}
    pairs = close_pairs(trial.trial_plants, trial.setup, drift_of(trial))
    return tuple((a, b) for a, b in pairs if remedy[a] != remedy[b])


def drift_of(trial: Trial) -> float:
    """Return how far the widest-drifting remedy of a trial drifts, in cm."""
    return max((r.drift_cm for r in trial.remedies), default=DEFAULT_DRIFT_CM)
