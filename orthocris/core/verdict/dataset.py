"""From single observations to one line a plant: the look chosen, subsamples added up."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

from orthocris.core.errors import InputError
from orthocris.core.trial.measures import (
    JUDGED_IN_ORDER,
    MEASURES,
    Measure,
    measure_named,
)
from orthocris.core.verdict.amounts import Amount, amount
from orthocris.core.verdict.gathering import Gathered, Home, Sample, Samples, latest_before
from orthocris.core.verdict.looks import choose_days, looks_after, sample_at, whole_looks


@dataclass(frozen=True, slots=True)
class PlantLine:
    """One plant in the analysis: what it had before, and what at the look."""

    plant: str
    block: str | None
    remedy: str
    before: Sample | None
    after: Sample
    start: Amount | None
    left: Amount
    column: str | None = None
    added: int = 0


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
    earlier:
        The amounts of every plant at each complete look before this one, by plant.
    earlier_days:
        The last day of each of those looks.
    lost:
        Plants that were not counted at the look, with the day of their loss where it was marked.
    stray:
        Days later than the look on which too few plants were counted to be one.
    control:
        The control's name, or None.
    """

    measure: Measure
    look: str
    days: tuple[float, ...]
    lines: tuple[PlantLine, ...]
    earlier: tuple[Mapping[str, Amount], ...]
    earlier_days: tuple[float, ...]
    lost: Mapping[str, float | None]
    stray: tuple[float, ...]
    control: str | None

    @property
    def remedies(self) -> tuple[str, ...]:
        """Names of the remedies in the order first seen, control included."""
        return tuple(dict.fromkeys(line.remedy for line in self.lines))

    @property
    def additions(self) -> int:
        """How often plants were added after a verdict."""
        return max(len({line.added for line in self.lines}) - 1, 0)


class AtLook(NamedTuple):
    """The measure and days chosen, one line a plant counted then, and all looks there are."""

    measure: Measure
    days: tuple[float, ...]
    lines: tuple[PlantLine, ...]
    looks: list[tuple[float, ...]]
    whole: list[tuple[float, ...]]


def at_look(
    gathered: Gathered,
    *,
    control: str | None,
    measure: str | None,
    look: str,
) -> AtLook:
    """Choose measure and look and make one line a plant.

    Raises
    ------
    InputError
        When the measure, the look or the control named is not among what was gathered.
    """
    chosen = _choose_measure(gathered, measure)
    _check_control(gathered, control)
    samples = gathered.of(chosen.key)
    looks = looks_after(samples)
    whole = whole_looks(gathered, samples, looks) or looks
    days = choose_days(looks, whole, look)
    lines = tuple(
        line_of(plant, gathered.homes[plant], chosen, latest_before(by_day), *after)
        for plant, by_day in samples.items()
        if (after := sample_at(by_day, days, look)) is not None
    )
    if not lines:
        raise InputError(
            "no plant was counted often enough for an area under the curve",
            code="no_curve",
            field="look",
            fix="Judge the last look, or a day.",
        )
    return AtLook(chosen, days, lines, looks, whole)


def collect(
    gathered: Gathered,
    *,
    control: str | None,
    measure: str | None,
    look: str,
) -> Dataset:
    """Return what is analysed at a look, with the looks before it; errors as `at_look`."""
    chosen, days, lines, looks, whole = at_look(
        gathered, control=control, measure=measure, look=look
    )
    samples = gathered.of(chosen.key)
    counted = {line.plant for line in lines}
    until = days[-1] if look == "auc" else days[0]
    before = [one for one in whole if one[-1] < until]
    return Dataset(
        measure=chosen,
        look=look,
        days=days,
        lines=lines,
        earlier=tuple(_amounts_at(samples, one, chosen) for one in before),
        earlier_days=tuple(one[-1] for one in before),
        lost={p: gathered.lost_on.get(p) for p in gathered.homes if p not in counted},
        stray=tuple(d for one in looks if look == "last" and one[0] > days[-1] for d in one),
        control=control,
    )


def line_of(
    plant: str,
    home: Home,
    measure: Measure,
    before: Sample | None,
    after: Sample,
    together: float = 1.0,
) -> PlantLine:
    """Return one plant as it is analysed; `together` as in `amount`."""
    return PlantLine(
        plant=plant,
        remedy=home.remedy,
        block=home.block,
        column=home.column,
        added=home.added,
        before=before,
        after=after,
        start=None if before is None else amount(measure, before),
        left=amount(measure, after, together),
    )


def _amounts_at(samples: Samples, days: tuple[float, ...], measure: Measure) -> dict[str, Amount]:
    found = {plant: sample_at(by_day, days, "day") for plant, by_day in samples.items()}
    return {plant: amount(measure, at[0]) for plant, at in found.items() if at is not None}


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
