"""From single observations to one line a plant: the look chosen, subsamples added up."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import (
    JUDGED_IN_ORDER,
    MEASURES,
    Measure,
    Scale,
    measure_named,
)
from orthocris.core.verdict.gathering import Gathered, Home, Sample, Samples, latest_before

LOOK_SPAN_DAYS = 0.5  # plants counted at most this far apart belong to one look


@dataclass(frozen=True, slots=True)
class PlantLine:
    """One plant in the analysis; the analysis scale is described at `harm_log`."""

    plant: str
    block: str | None
    remedy: str
    before: Sample | None
    after: Sample
    log_before: float | None
    log_after: float
    column: str | None = None


@dataclass(frozen=True, slots=True)
class Dataset:
    """What is analysed: one line a plant, and what had to be left out.

    Attributes
    ----------
    measure:
        The measure judged.
    look:
        ``last``, ``auc`` or the day asked for, as given.
    days:
        The days after the first spray that make up the look.
    lines:
        One line a plant that was counted at the look, in the order first seen.
    lost:
        Plants that were counted some time but not at the look.
    control:
        The control's name, or None.
    """

    measure: Measure
    look: str
    days: tuple[float, ...]
    lines: tuple[PlantLine, ...]
    lost: tuple[str, ...]
    control: str | None

    @property
    def remedies(self) -> tuple[str, ...]:
        """Names of the remedies in the order first seen, control included."""
        return tuple(dict.fromkeys(line.remedy for line in self.lines))


def collect(
    gathered: Gathered,
    *,
    control: str | None,
    measure: str | None,
    look: str,
) -> Dataset:
    """Choose measure and look and make one line a plant.

    Raises
    ------
    InputError
        When the measure, the look or the control named is not among what was gathered.
    """
    chosen = _choose_measure(gathered, measure)
    _check_control(gathered, control)
    samples = gathered.of(chosen.key)
    days = _choose_days(samples, look)
    lines = tuple(
        _line(plant, gathered.homes[plant], chosen, latest_before(by_day), after)
        for plant, by_day in samples.items()
        if (after := _at_look(by_day, days, look)) is not None
    )
    counted = {line.plant for line in lines}
    return Dataset(
        measure=chosen,
        look=look,
        days=days,
        lines=lines,
        lost=tuple(plant for plant in gathered.homes if plant not in counted),
        control=control,
    )


def _line(
    plant: str, home: Home, measure: Measure, before: Sample | None, after: Sample
) -> PlantLine:
    return PlantLine(
        plant=plant,
        remedy=home.remedy,
        block=home.block,
        column=home.column,
        before=before,
        after=after,
        log_before=None if before is None else harm_log(measure, before),
        log_after=harm_log(measure, after),
    )


def rate(measure: Measure, sample: Sample) -> float:
    """Return the sample in the measure's own unit: per leaf or trap, as a share, in % or grades."""
    if measure.scale is Scale.SHARE:
        return sample.value / (sample.of or math.nan)
    return sample.value / sample.effort


def harm_log(measure: Measure, sample: Sample) -> float:
    """Return the log of what should become less, the scale the model works on.

    Counts: log((count + 1/2) / effort). Shares: log((harm + 1/2) / (total + 1)), where harm is
    the survivors for `dead` and the hatched for `hatched`. Percentages and grades:
    log(value + 1/2). The half keeps zeros; it is the usual start for small counts
    (Anscombe 1948, Biometrika 35, 246-254).
    """
    if measure.scale is Scale.SHARE:
        total = sample.of or 0.0
        harm = total - sample.value if measure.key == "dead" else sample.value
        return math.log((harm + 0.5) / (total + 1.0))
    return math.log((sample.value + 0.5) / sample.effort)


def looks_after(samples: Samples) -> list[tuple[float, ...]]:
    """Group the days after the first spray into looks.

    Days at most half a day apart are one look when no plant was counted on both, for then
    the round of counting merely took that long.
    """
    who: dict[float, set[str]] = defaultdict(set)
    for plant, by_day in samples.items():
        for day in by_day:
            if day > 0:
                who[day].add(plant)
    looks: list[list[float]] = []
    seen: set[str] = set()
    for day in sorted(who):
        if looks and day - looks[-1][0] <= LOOK_SPAN_DAYS and not seen & who[day]:
            looks[-1].append(day)
            seen |= who[day]
        else:
            looks.append([day])
            seen = set(who[day])
    return [tuple(look) for look in looks]


def _choose_measure(gathered: Gathered, asked: str | None) -> Measure:
    present = gathered.samples
    if asked is None:
        for key in JUDGED_IN_ORDER:
            if key in present:
                return MEASURES[key]
        raise InputError(
            f"only {', '.join(sorted(present))} was recorded, and that is not an aim of a remedy",
            code="nothing_to_judge",
            field="measure",
            fix=f"Record one of: {', '.join(JUDGED_IN_ORDER)}.",
        )
    chosen = measure_named(asked)
    if not chosen.judged:
        raise InputError(
            f"{asked} is the price of a remedy, not its aim, so no efficacy is computed from it",
            code="not_judged",
            field="measure",
            fix=f"Judge one of: {', '.join(JUDGED_IN_ORDER)}; {asked} is weighed beside it.",
        )
    if asked not in present:
        raise InputError(
            f"no line has the measure {asked}",
            code="measure_absent",
            field="measure",
            fix=f"Measures found: {', '.join(sorted(present))}.",
        )
    return chosen


def _check_control(gathered: Gathered, control: str | None) -> None:
    names = sorted(gathered.remedies)
    if control is not None and control not in names:
        raise InputError(
            f"no plant has the remedy {control!r}, named as the control",
            code="control_absent",
            field="control",
            fix=f"Remedies found: {', '.join(names)}. Name one of them, or none.",
        )


def _choose_days(samples: Samples, look: str) -> tuple[float, ...]:
    looks = looks_after(samples)
    if not looks:
        raise InputError(
            "nothing was counted after the first spray (every day is 0 or below)",
            code="no_look_after",
            field="day",
            fix="Add the counts of a later day.",
        )
    if look == "last":
        return looks[-1]
    if look == "auc":
        if len(looks) < 2:
            raise InputError(
                "the area under the curve needs at least two looks after the first spray",
                code="one_look",
                field="look",
                fix="Judge the last look, or count once more.",
            )
        return tuple(day for days in looks for day in days)
    return _days_of(looks, look)


def _days_of(looks: list[tuple[float, ...]], look: str) -> tuple[float, ...]:
    known = ", ".join(f"{days[-1]:g}" for days in looks)
    try:
        asked = float(look)
    except ValueError:
        raise InputError(
            f"the look {look!r} is neither last, auc nor a day",
            code="bad_look",
            field="look",
            fix=f"Use last, auc or one of the days {known}.",
        ) from None
    for days in looks:
        if any(abs(day - asked) < 1e-9 for day in days):
            return days
    raise InputError(
        f"nothing was counted on day {look}",
        code="no_such_look",
        field="look",
        fix=f"Days counted after the first spray: {known}.",
    )


def _at_look(by_day: Mapping[float, Sample], days: tuple[float, ...], look: str) -> Sample | None:
    found = [by_day[day] for day in days if day in by_day]
    if look != "auc":
        return found[-1] if found else None
    # A plant's curve counts only when it spans the whole time: otherwise it is no fair area.
    whole = (
        len(found) > 1
        and found[0].day - days[0] <= LOOK_SPAN_DAYS
        and days[-1] - found[-1].day <= LOOK_SPAN_DAYS
    )
    return _mean_level(found) if whole else None


def _mean_level(found: list[Sample]) -> Sample:
    """Area under the progress curve by trapezoids, divided by its length in days.

    Counts are put on the first sample's effort, so that the mean level is in the same unit.
    Source: trapezoidal AUDPC, Shaner & Finney 1977, Phytopathology 67, 1051-1056.
    """
    first = found[0]
    unit = first.of if first.of is not None else first.effort
    levels = [(s.day, s.value / (s.of if s.of is not None else s.effort) * unit) for s in found]
    area = sum(
        (later[0] - earlier[0]) * (later[1] + earlier[1]) / 2 for earlier, later in pairwise(levels)
    )
    return Sample(found[-1].day, area / (levels[-1][0] - levels[0][0]), first.of, first.effort)
