"""The classical efficacy formulas on group means, the cross-check of the model.

T treated, C control, b before, a after. Each function returns a fraction, or raises
`NotComputable` with the reason in words; a zero or missing control value never gives a number.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from orthocris.core.trial.measures import MEASURES, Measure, Scale
from orthocris.core.verdict.amounts import rate
from orthocris.core.verdict.dataset import Dataset
from orthocris.core.verdict.gathering import Gathered, Sample, latest_before


class NotComputable(Exception):  # noqa: N818 - a reason, not a fault
    """The formula has no value for these data; the message says why."""


@dataclass(frozen=True, slots=True)
class GroupMeans:
    """Means of one remedy's plants over the plants counted at the look.

    `before` and `after` are in the measure's unit; `dead_share` is the pooled share dead.
    Each is None when not counted.
    """

    before: float | None
    after: float | None
    dead_share: float | None


@dataclass(frozen=True, slots=True)
class Classic:
    """The four formulas, with a note for each that has no value."""

    values: dict[str, float | None]
    notes: dict[str, str]


def abbott(treated: GroupMeans, control: GroupMeans) -> float:
    """Abbott 1925: 1 - Ta/Ca, for live counts from equal starts, and for shares hatched."""
    return 1 - _need(treated.after, "live pests after") / _above_zero(
        _need(control.after, "live pests after on the control"), "no pests on the control after"
    )


def henderson_tilton(treated: GroupMeans, control: GroupMeans) -> float:
    """Henderson & Tilton 1955: 1 - (Ta/Ca)·(Cb/Tb), for live counts from unequal starts."""
    ta = _need(treated.after, "live pests after")
    ca = _above_zero(
        _need(control.after, "live pests after on the control"), "no pests on the control after"
    )
    tb = _above_zero(_need(treated.before, "a count before"), "no pests on it before")
    cb = _above_zero(
        _need(control.before, "a count before on the control"), "no pests on the control before"
    )
    return 1 - (ta / ca) * (cb / tb)


def schneider_orelli(treated: GroupMeans, control: GroupMeans) -> float:
    """Schneider-Orelli 1947: (mT - mC)/(1 - mC), on mortality shares.

    A mortality is the share dead where that was counted, else the fall in live pests.
    """
    mt, mc = _mortality(treated, ""), _mortality(control, " on the control")
    if mc < 0:
        raise NotComputable("the control grew, so nothing died there by itself")
    return (mt - mc) / _above_zero(1 - mc, "everything on the control died too")


def _mortality(group: GroupMeans, where: str) -> float:
    if group.dead_share is not None:
        return group.dead_share
    need = f"dead counted out of all{where}, or live pests before and after"
    before = _above_zero(_need(group.before, need), f"no pests{where or ' on it'} before")
    return 1 - _need(group.after, need) / before


def sun_shepard(treated: GroupMeans, control: GroupMeans) -> float:
    """Sun & Shepard 1947: (mT + dC)/(1 + dC), dC the relative change of the control.

    The mortality mT is the share dead where that was counted, else the fall in live pests.
    """
    cb = _above_zero(
        _need(control.before, "a count before on the control"), "no pests on the control before"
    )
    change = _need(control.after, "live pests after on the control") / cb - 1
    if treated.dead_share is not None:
        mortality = treated.dead_share
    else:
        tb = _above_zero(_need(treated.before, "a count before"), "no pests on it before")
        mortality = 1 - _need(treated.after, "live pests after") / tb
    return (mortality + change) / _above_zero(1 + change, "no pests on the control after")


FORMULAS: dict[str, Callable[[GroupMeans, GroupMeans], float]] = {
    "abbott": abbott,
    "henderson_tilton": henderson_tilton,
    "schneider_orelli": schneider_orelli,
    "sun_shepard": sun_shepard,
}


def classic_for(treated: GroupMeans, control: GroupMeans | None, role: str) -> Classic:
    """Compute all four formulas for one remedy, with a reason where there is no number."""
    values: dict[str, float | None] = {}
    notes: dict[str, str] = {}
    for name, formula in FORMULAS.items():
        values[name] = None
        if role == "control":
            notes[name] = "this is the control itself"
        elif control is None:
            notes[name] = "there is no control to compare with"
        else:
            try:
                values[name] = formula(treated, control)
            except NotComputable as reason:
                notes[name] = str(reason)
    return Classic(values, notes)


def group_means(remedy: str, data: Dataset, gathered: Gathered) -> GroupMeans:
    """Collect the means of one remedy's plants.

    Parameters
    ----------
    remedy, data:
        The remedy and the plants of the look.
    gathered:
        All that was counted: of it the measure that stands for "live" (live, catch, cover,
        rating, or the share hatched), and `dead` for the shares.
    """
    plants = [line.plant for line in data.lines if line.remedy == remedy]
    own = data.measure.scale is not Scale.SHARE or data.measure.key == "hatched"
    measure = data.measure if own else MEASURES["live"]
    amounts, dead = gathered.of(measure.key), gathered.of("dead")
    after = [_on(amounts.get(p, {}), data.days) for p in plants]
    before = [latest_before(amounts.get(p, {})) for p in plants]
    died = [_on(dead.get(p, {}), data.days) for p in plants]
    shares = [(s.value, s.of or 0) for s in died if s is not None]
    total = sum(of for _, of in shares)
    return GroupMeans(
        before=_mean(measure, before) if all(before) else None,
        after=_mean(measure, after),
        dead_share=sum(value for value, _ in shares) / total if total else None,
    )


def _on(by_day: dict[float, Sample], days: tuple[float, ...]) -> Sample | None:
    found = [by_day[day] for day in days if day in by_day]
    return found[-1] if found else None


def _mean(measure: Measure, samples: list[Sample | None]) -> float | None:
    rates = [rate(measure, sample) for sample in samples if sample is not None]
    return sum(rates) / len(rates) if rates else None


def _need(value: float | None, what: str) -> float:
    if value is None:
        raise NotComputable(f"needs {what}, which was not recorded")
    return value


def _above_zero(value: float, why: str) -> float:
    if value <= 0:
        raise NotComputable(why)
    return value
