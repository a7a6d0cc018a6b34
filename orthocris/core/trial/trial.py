"""A trial as it stands: its question, plants, layout, rounds, looks and tallies."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

from orthocris.core.trial.batches import Batch
from orthocris.core.trial.care import Care
from orthocris.core.trial.patches import PatchTest
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.sprays import EventKind, RoundEvent, RoundStart, SprayKind


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
    seen; `wets` whether leaves get wet.
    """

    catalogue: str | None = None
    way: str = "spray"
    ingredients: tuple[Amount, ...] = ()
    drift_cm: float = 30.0
    first_look_days: int = 2
    wets: bool = True


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


@dataclass(frozen=True, slots=True)
class Plant:
    """An experimental unit at a place on the bench.

    `row` and `place` count from 1, as one walks; `match_count` is the quick count before the
    layout; `set_aside` is the reason it takes no part, or None; `size` is any measure of size
    (leaves, cm) that is the same for all.
    """

    id: int
    name: str
    row: int
    place: int
    match_count: float | None = None
    set_aside: str | None = None
    block: int | None = None
    remedy_id: int | None = None
    size: float | None = None


@dataclass(frozen=True, slots=True)
class Round:
    """A spray day, planned as days after the first spray (the first is day 0)."""

    id: int
    number: int
    day: int


@dataclass(frozen=True, slots=True)
class Look:
    """A counting occasion; number 0 is the count before the first spray."""

    id: int
    number: int
    day: int


@dataclass(frozen=True, slots=True)
class Tally:
    """What was counted on one plant at one look for one measure.

    `value` is None when the count was withdrawn; `finished` is False while the gardener is
    still counting, and only finished tallies are judged. `counted_on` is the day it was really
    counted on, which a later correction keeps; `first_counted_at` when the first number of this
    plant, look and measure was kept, None for one that is not kept yet.
    """

    id: int
    look_id: int
    plant_id: int
    measure: str
    value: float | None
    of: float | None
    effort: float
    finished: bool
    counted_at: datetime
    counted_on: date
    first_counted_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Spray:
    """What one plant got (or did not get) in one round; see `rounds.SprayEntry`."""

    round_id: int
    plant_id: int
    sprayed_at: datetime
    kind: SprayKind = SprayKind.SPRAYED
    batch_id: int | None = None
    volume: float | None = None
    undersides: bool = True
    drifted: bool = False
    neighbour_id: int | None = None
    deviation: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class Trial:
    """A whole trial.

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
    plants: tuple[Plant, ...] = ()
    rounds: tuple[Round, ...] = ()
    looks: tuple[Look, ...] = ()
    tallies: tuple[Tally, ...] = ()
    sprays: tuple[Spray, ...] = ()
    setup: Setup = Setup()
    key_opened_at: datetime | None = None
    care: Care = Care()
    batches: tuple[Batch, ...] = ()
    patches: tuple[PatchTest, ...] = ()
    starts: tuple[RoundStart, ...] = ()
    events: tuple[RoundEvent, ...] = ()
    left_out_remedies: tuple[Remedy, ...] = ()
    put_away_at: datetime | None = None

    @property
    def day_zero(self) -> date:
        """The day of the first spray, planned or done."""
        return self.sprayed_on or self.start_on

    @property
    def active_plants(self) -> tuple[Plant, ...]:
        """Plants that take part, in walking order (row by row, every other row backwards)."""
        taking_part = [p for p in self.plants if p.set_aside is None]
        return tuple(sorted(taking_part, key=walking_key))

    @property
    def laid_out(self) -> bool:
        """True once remedies are allotted to plants."""
        return any(p.remedy_id is not None for p in self.plants)

    @property
    def trial_plants(self) -> tuple[Plant, ...]:
        """Plants that were allotted a remedy, in walking order."""
        return tuple(p for p in self.active_plants if p.remedy_id is not None)

    @property
    def control(self) -> Remedy | None:
        """The control, or None when the question names none yet."""
        return next((r for r in self.remedies if r.role is Role.CONTROL), None)

    def date_of(self, day: int) -> date:
        """Return the calendar date of a day counted from the first spray."""
        return self.day_zero + timedelta(days=day)

    def tallies_at(self, look: Look, measure: str) -> dict[int, Tally]:
        """Return the current tally of each plant for one look and measure, withdrawn ones out."""
        return {
            t.plant_id: t
            for t in self.tallies
            if t.look_id == look.id and t.measure == measure and t.value is not None
        }

    def counted_at(self, look: Look) -> set[int]:
        """Return the ids of plants whose count of the trial's measure is finished at a look."""
        return {p for p, t in self.tallies_at(look, self.measure).items() if t.finished}

    def sprayed_in(self, round_: Round) -> set[int]:
        """Return the ids of plants marked as sprayed in a round."""
        return {
            s.plant_id
            for s in self.sprays
            if s.round_id == round_.id and s.kind is not SprayKind.SKIPPED
        }

    def skipped_in(self, round_: Round) -> set[int]:
        """Return the ids of plants skipped in a round and not sprayed later in it."""
        skipped = {s.plant_id for s in self.sprays if s.round_id == round_.id}
        return skipped - self.sprayed_in(round_)

    def left_out(self, round_: Round) -> bool:
        """True when a planned round was left out, and not moved to another day since."""
        kinds = [
            e.kind
            for e in self.events
            if e.round_id == round_.id and e.kind in (EventKind.LEFT_OUT, EventKind.MOVED)
        ]
        return bool(kinds) and kinds[-1] is EventKind.LEFT_OUT

    def first_sprayed_at(self, round_: Round) -> datetime | None:
        """Return when the first plant of a round was sprayed, None before."""
        times = [
            s.sprayed_at
            for s in self.sprays
            if s.round_id == round_.id and s.kind is not SprayKind.SKIPPED
        ]
        return min(times, default=None)


def walking_key(plant: Plant) -> tuple[int, int]:
    """Order plants as one walks without crossing: odd rows forwards, even rows back."""
    return plant.row, plant.place if plant.row % 2 else -plant.place
