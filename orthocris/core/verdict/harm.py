"""What a remedy costs the plant: deaths first, then leaf damage beyond the control's."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from orthocris.core.verdict.distributions import t_quantile
from orthocris.core.verdict.gathering import Gathered, latest_before

# One whole step of the 0-5 scale. Burnt leaves are not waited for until they are proven: a
# remedy is struck out at this mean, while its benefit has to be proven.
VETO_STEPS = 1.0
# Dead plants are not waited for either: two, and a quarter more of its plants than of the
# control's.
VETO_DEATHS, VETO_DEATH_SHARE = 2, 0.25


@dataclass(frozen=True, slots=True)
class Harm:
    """What one remedy did to its plants.

    Attributes
    ----------
    damage:
        Mean rise in leaf damage beyond the control's, in steps of the 0-5 scale; None when it
        was not scored after the first spray.
    low, high:
        95% interval of it; None with a single plant.
    scored:
        How many of its plants were scored.
    beyond_control:
        False when the control was not scored, so that the rise beyond its own before stands alone.
    plants, lost:
        How many plants it had, and how many of them were not counted at the look.
    died:
        How many of those were marked as dead or lost; nobody knows of the others.
    kills:
        True when deaths strike the remedy out.
    """

    damage: float | None
    low: float | None
    high: float | None
    scored: int
    beyond_control: bool
    plants: int
    lost: int
    died: int
    kills: bool

    @property
    def vetoed(self) -> bool:
        """True when the remedy is struck out: it kills plants, or burns their leaves."""
        burns = self.damage is not None and self.damage >= VETO_STEPS - 1e-9
        return self.kills or burns


def harm_by_remedy(
    gathered: Gathered, control: str | None, lost: Mapping[str, float | None]
) -> dict[str, Harm]:
    """Sum up deaths and leaf damage.

    Parameters
    ----------
    gathered:
        All that was counted; of it `damage` (0 to 5).
    control:
        The control's name, or None: then the rise beyond its own before alone.
    lost:
        Plants that were not counted at the look, with the day of their loss where it was marked.

    Returns
    -------
    One for every remedy. A plant's damage after is the worst of its looks, for burn shows late and
    burnt leaves drop; its damage before is 0 when it was not scored. Where the control was not
    scored its rise is taken as none: better to refuse a sound remedy than to burn the rest.
    """
    rises = _rises(gathered)
    own = {name: [home.remedy == name for home in gathered.homes.values()] for name in rises}
    plants = {name: sum(found) for name, found in own.items()}
    gone = {n: [d for p, d in lost.items() if gathered.homes[p].remedy == n] for n in rises}
    base = rises.get(control or "", [])
    return {
        name: _harm(
            found,
            base if name != control else [],
            plants=plants[name],
            gone=gone[name],
            kills=name != control
            and _kills(
                plants[name], gone[name], plants.get(control or "", 0), gone.get(control or "", [])
            ),
        )
        for name, found in rises.items()
    }


def _rises(gathered: Gathered) -> dict[str, list[float]]:
    rises: dict[str, list[float]] = {remedy: [] for remedy in gathered.remedies}
    for plant, by_day in gathered.of("damage").items():
        after = [sample.value for day, sample in by_day.items() if day > 0]
        if after:
            before = latest_before(by_day)
            rises[gathered.homes[plant].remedy].append(
                max(after) - (before.value if before else 0.0)
            )
    return rises


def _harm(
    rises: list[float],
    base: list[float],
    *,
    plants: int,
    gone: list[float | None],
    kills: bool,
) -> Harm:
    n, mean = len(rises), _mean(rises)
    damage = None if mean is None else mean - (_mean(base) or 0.0)
    low = high = None
    if damage is not None and n > 1:
        df = n - 1 + max(len(base) - 1, 0)
        squares = _squares(rises) + _squares(base)
        error = math.sqrt(squares / df * (1 / n + (1 / len(base) if base else 0.0)))
        half = float(t_quantile(0.975, df)) * error
        low, high = damage - half, damage + half
    died = sum(day is not None for day in gone)
    return Harm(damage, low, high, n, bool(base), plants, len(gone), died, kills)


def _kills(
    plants: int, gone: list[float | None], others: int, others_gone: list[float | None]
) -> bool:
    """Deaths strike out when they are marked as such: what is not counted need not be dead."""
    died = sum(day is not None for day in gone)
    others_died = sum(day is not None for day in others_gone)
    if died and died == plants:
        return others_died < max(others, 1)
    share = others_died / others if others else 0.0
    return died >= VETO_DEATHS and died / plants - share >= VETO_DEATH_SHARE - 1e-9


def _mean(values: list[float]) -> float | None:
    return sum(values) / len(values) if values else None


def _squares(values: list[float]) -> float:
    mean = _mean(values) or 0.0
    return sum((value - mean) ** 2 for value in values)
