"""Prevention: when pests first arrive, and on which plants they do not."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.gathering import Gathered, gather
from orthocris.core.verdict.layouts import reference_set
from orthocris.core.verdict.model.frame import Layout
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.observation import Observation

FAMILY_ERROR = 0.05
MOST_LAYOUTS = 2048


@dataclass(frozen=True, slots=True)
class Course:
    """One plant's time without pests.

    `until` is the day of the first arrival, or the last day on which it was seen clean; `arrived`
    tells which. A plant that was lost, or moved out of sight, counts as clean up to then.
    """

    remedy: str
    block: str | None
    until: float
    arrived: bool


@dataclass(frozen=True, slots=True)
class LogRank:
    """A remedy's arrivals against the control's, by the log-rank test.

    `z` is negative where fewer arrived than the control's pace would bring; `p` is family-wise
    and one-sided, by re-randomisation of the layout.
    """

    remedy: str
    z: float
    p: float


def courses(gathered: Gathered, measure: str) -> tuple[Course, ...]:
    """Return each plant's course, plants without any look after the spray left out."""
    found = []
    for plant, by_day in gathered.of(measure).items():
        days = sorted(day for day in by_day if day > 0)
        if not days:
            continue
        first = next((day for day in days if by_day[day].value > 0), None)
        home = gathered.homes[plant]
        until = days[-1] if first is None else first
        found.append(Course(home.remedy, home.block, until, first is not None))
    return tuple(found)


def log_rank_z(
    until: FloatArray, arrived: FloatArray, member: FloatArray, reference: FloatArray
) -> FloatArray:
    """Return the log-rank statistic of each group against a reference group.

    Parameters
    ----------
    until, arrived:
        Day of the first arrival or last clean look, and 1 where it was an arrival, (plants,).
    member:
        Membership in each group, (..., plants, groups).
    reference:
        Membership in the reference group, (..., plants).

    Returns
    -------
    (observed - expected) / sqrt(variance) of each group, (..., groups); 0 where nothing tells.
    Ties share the hypergeometric variance (Mantel 1966, Cancer Chemotherapy Reports 50, 163-170).
    """
    days = np.unique(until[arrived > 0])
    at_risk = (until[None, :] >= days[:, None]).astype(float)
    events = at_risk * (until[None, :] == days[:, None]) * arrived[None, :]
    own, own_events = at_risk @ member, events @ member
    other = at_risk @ reference[..., None]
    n, d = own + other, own_events + events @ reference[..., None]
    share = np.divide(own, n, out=np.zeros_like(n), where=n > 0)
    spread = np.divide(n - d, n - 1, out=np.zeros_like(n), where=n > 1)
    difference = np.sum(own_events - d * share, axis=-2)
    variance = np.sum(d * share * (1 - share) * spread, axis=-2)
    return np.asarray(
        np.divide(
            difference,
            np.sqrt(variance),
            out=np.zeros_like(difference),
            where=variance > 1e-12,
        )
    )


def log_rank(found: Sequence[Course], control: str, seed: int) -> tuple[LogRank, ...]:
    """Test each remedy's arrivals against the control's.

    The plants' courses are kept and the layout is drawn anew within the blocks; p is the share of
    layouts in which the most effective remedy would look at least as effective.
    """
    remedies = list(dict.fromkeys(c.remedy for c in found))
    if control not in remedies or len(remedies) < 2:
        return ()
    blocks = list(dict.fromkeys(c.block for c in found))
    blocked = None not in blocks and len(blocks) > 1
    layout = Layout(
        np.array([remedies.index(c.remedy) for c in found]),
        np.array([blocks.index(c.block) for c in found]) if blocked else None,
    )
    drawn = reference_set(layout, seed, MOST_LAYOUTS)
    others = [r for r in range(len(remedies)) if remedies[r] != control]
    member = (drawn[:, :, None] == np.array(others)).astype(float)
    reference = (drawn == remedies.index(control)).astype(float)
    until = np.array([c.until for c in found])
    arrived = np.array([float(c.arrived) for c in found])
    z = log_rank_z(until, arrived, member, reference)
    least = z.min(axis=1)
    return tuple(
        LogRank(remedies[r], float(z[0, k]), float(np.mean(least <= z[0, k] + 1e-9)))
        for k, r in enumerate(others)
    )


def prevention_answer(
    observations: Sequence[Observation],
    measure: str,
    order: Sequence[str],
    control: str | None,
    seed: int = 0,
) -> tuple[str, ...]:
    """Say when the first arrived on each remedy's plants, how many stayed clean, and what is shown.

    The median over plants is named, or that half or more stayed clean to the end.
    """
    found = courses(gather(observations), measure)
    shown = {r.remedy: r for r in log_rank(found, control, seed)} if control is not None else {}
    last = max((c.until for c in found), default=0.0)
    said = []
    for name in order:
        own = [c for c in found if c.remedy == name]
        if not own:
            continue
        days = sorted(c.until if c.arrived else math.inf for c in own)
        clean = sum(not c.arrived for c in own)
        left = sum(not c.arrived and c.until < last for c in own)
        gone = f" ({left} not seen to the end)" if left else ""
        said.append(
            f"{name}: {_arrival(days)}; {clean} of {len(own)} still clean on day {last:g}{gone}."
            f"{_shown(shown.get(name))}"
        )
    return tuple(said)


def _arrival(days: Sequence[float]) -> str:
    # By this day half of the plants, or the first plants beyond half, had their first.
    middle = days[(len(days) - 1) // 2]
    if math.isinf(middle):
        return "half or more stayed clean"
    return f"first arrival by day {middle:g} on half of the plants"


def _shown(result: LogRank | None) -> str:
    if result is None:
        return ""
    if result.p < FAMILY_ERROR:
        return " Arrivals were later or fewer than on the control, beyond the luck of the draw."
    if result.z >= 0:
        return " Not later than on the control."
    return " Later than on the control, but the luck of the draw could do that."
