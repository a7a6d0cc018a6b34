"""The plan of a trial: what it asks, its remedies, and the days of its rounds and looks."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from enum import StrEnum

from orthocris.core.trial.care import Care
from orthocris.core.trial.programme import ON_EACH_ROUND, Programme, Step, all_said
from orthocris.core.trial.setup import Setup


class Role(StrEnum):
    """Whether a remedy is the control or one of those compared with it."""

    CONTROL = "control"
    REMEDY = "remedy"


@dataclass(frozen=True, slots=True)
class Amount:
    """An ingredient of a remedy and how much of it, in a unit such as ml/L."""

    key: str
    amount: float
    unit: str


@dataclass(frozen=True, slots=True)
class Traits:
    """What the program knows of a remedy beside its recipe.

    `catalogue` is its key in the shipped list, None for the gardener's own; `way` how it is
    applied; `drift_cm` how far it drifts; `first_look_days` when its effect can first be
    seen; `wets` whether leaves get wet. `programme` tells its days, and `dose` how much a
    plant gets each time in a unit of its own (`dose_unit`: s, min, g, cards; empty: ml as all).
    `steps` are what follows each time, some days later; `caution` is what the gardener adds to the
    program's own warnings, such as a label's.
    """

    catalogue: str | None = None
    way: str = "spray"
    ingredients: tuple[Amount, ...] = ()
    drift_cm: float = 30.0
    first_look_days: int = 2
    wets: bool = True
    programme: Programme = ON_EACH_ROUND
    dose: float | None = None
    dose_unit: str = ""
    steps: tuple[Step, ...] = ()
    caution: str = ""

    @property
    def ways(self) -> tuple[str, ...]:
        """The ways in which it and its steps are given."""
        return (self.way, *(step.way for step in self.steps))

    def ml_each(self, usual: float) -> float:
        """Return the ml a plant gets each time: its own where it has one, else the usual."""
        return self.dose if self.dose and self.dose_unit in ("", "ml") else usual


@dataclass(frozen=True, slots=True)
class Remedy:
    """What is compared. `letter` and `notches` are its code on tags once the layout is drawn."""

    id: int
    name: str
    role: Role
    recipe: str
    letter: str | None = None
    notches: int | None = None
    traits: Traits = Traits()

    @property
    def drift_cm(self) -> float:
        """How far it drifts, in cm."""
        return self.traits.drift_cm

    @property
    def parts(self) -> tuple[Remedy, ...]:
        """What is given of it, one after the other; itself alone where it has no steps."""
        return tuple(self.part(k) for k in range(1 + len(self.traits.steps)))

    def part(self, number: int) -> Remedy:
        """Return the remedy as it is in one of its parts: 0 the first, then its steps."""
        traits = self.traits
        if not traits.steps:
            return self
        if not number:
            return replace(self, traits=replace(traits, steps=()))
        step = traits.steps[number - 1]
        alone = replace(
            traits,
            catalogue=None,
            way=step.way,
            ingredients=(),
            wets=step.wets,
            dose=step.dose,
            dose_unit=step.dose_unit,
            steps=(),
        )
        return replace(self, name=f"{self.name}: {step.name}", recipe=step.recipe, traits=alone)

    @property
    def said(self) -> str:
        """All that is said of it and its steps, to look for substances in."""
        return all_said(self.name, self.recipe, self.traits.steps)


@dataclass(frozen=True, slots=True)
class Round:
    """A spray day, planned as days after the first spray (the first is day 0).

    `remedies` are the ids of those given on it, None for all; `steps` has, for those of which a
    later step is given on it, which one.
    """

    id: int
    number: int
    day: int
    remedies: frozenset[int] | None = None
    steps: tuple[tuple[int, int], ...] = ()

    def step_of(self, remedy_id: int | None) -> int:
        """Return which part of a remedy is given on it, 0 for the first."""
        return next((step for given, step in self.steps if given == remedy_id), 0)

    def gives(self, remedy_id: int | None) -> bool:
        """True when a remedy is given on it."""
        return self.remedies is None or remedy_id in self.remedies


def day_and_hours(moment: float) -> tuple[int, int]:
    """Return days after the first spray as whole days and whole hours."""
    return divmod(round(moment * 24), 24)


def moment_words(moment: float) -> str:
    """Name a moment after the first spray: day 3, 5 hours, 1 day 12 hours; others as they are."""
    day, hours = day_and_hours(moment)
    if abs(day + hours / 24 - moment) > 1e-6 or not hours:
        return f"day {moment:g}"
    said = f"{hours} hour" + ("s" if hours > 1 else "")
    return said if not day else f"{day} day{'s' if day > 1 else ''} {said}"


def on_moment(moment: float) -> str:
    """Say when something was: on day 3, after 5 hours."""
    said = moment_words(moment)
    return f"on {said}" if said.startswith("day") else f"after {said}"


@dataclass(frozen=True, slots=True)
class Look:
    """A counting occasion, so many days and hours after the first spray; 0 is the count before."""

    id: int
    number: int
    day: int
    hours: int = 0

    @property
    def moment(self) -> float:
        """Days after the first spray, whole ones as whole numbers."""
        return self.day + self.hours / 24 if self.hours else self.day

    @property
    def when(self) -> str:
        """When it is, as it is named."""
        return moment_words(self.moment)


@dataclass(frozen=True, slots=True)
class TrialPlan:
    """What is small and soon read of a trial: all of it but its bench.

    `sprayed_on` is the day of the first spray, None until then; `left_out_remedies` were taken
    out of the question and keep their patch tests and batches; `put_away_at` is when it was
    taken off the list.
    """

    id: int
    name: str
    pest: str
    measure: str
    threshold: float
    start_on: date
    sprayed_on: date | None
    seed: int | None
    remedies: tuple[Remedy, ...] = ()
    rounds: tuple[Round, ...] = ()
    looks: tuple[Look, ...] = ()
    setup: Setup = Setup()
    key_opened_at: datetime | None = None
    goes_on: int | None = None
    care: Care = Care()
    left_out_remedies: tuple[Remedy, ...] = ()
    put_away_at: datetime | None = None

    @property
    def day_zero(self) -> date:
        """The day of the first spray, planned or done."""
        return self.sprayed_on or self.start_on

    @property
    def control(self) -> Remedy | None:
        """The control, or None when the question names none yet."""
        return next((r for r in self.remedies if r.role is Role.CONTROL), None)

    def given_in(self, round_: Round) -> tuple[Remedy, ...]:
        """Return what is given in a round: of a remedy with steps, the part of that day."""
        return tuple(r.part(round_.step_of(r.id)) for r in self.remedies if round_.gives(r.id))

    def days_of(self, remedy: Remedy) -> tuple[int, ...]:
        """Return the planned days of a remedy."""
        return tuple(r.day for r in self.rounds if r.gives(remedy.id))

    @property
    def told_apart(self) -> tuple[Remedy, ...]:
        """The remedies given on other days, in another way or amount than any other.

        Whoever treats the plants knows their letters, even while the key of the tags is sealed.
        """
        given = [
            (
                self.days_of(r),
                r.traits.dose,
                r.traits.dose_unit,
                r.traits.ways,
            )
            for r in self.remedies
        ]
        return tuple(r for r, how in zip(self.remedies, given, strict=True) if given.count(how) < 2)

    @property
    def own_rounds(self) -> tuple[int, ...]:
        """The days of the rounds that are the trial's own, not only of a remedy's programme."""
        others = [r for r in self.remedies if r.role is not Role.CONTROL]
        shared = {r.id for r in others if not r.traits.programme.own}
        days = [
            r.day
            for r in self.rounds
            if r.remedies is None or any(not r.step_of(k) for k in r.remedies & shared)
        ]
        return tuple(days) if days[:1] == [0] or not self.rounds else (0, *days)

    def remedy_with(self, letter: str) -> Remedy | None:
        """Return the remedy that has a letter on the tags, if one has."""
        return next((r for r in self.remedies if r.letter == letter), None)

    def date_of(self, day: int) -> date:
        """Return the calendar date of a day counted from the first spray."""
        return self.day_zero + timedelta(days=day)
