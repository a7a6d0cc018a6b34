"""A trial on its bench: its plan with plants, sprays and bottles; and with what was counted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import NamedTuple

from orthocris.core.trial.batches import Batch
from orthocris.core.trial.patches import PatchTest
from orthocris.core.trial.plan import Look, Round, TrialPlan
from orthocris.core.trial.sprays import EventKind, RoundEvent, RoundStart, SprayKind


@dataclass(frozen=True, slots=True)
class Plant:
    """An experimental unit at a place on the bench.

    `row` and `place` count from 1, as one walks; `match_count` is the quick count before the
    layout; `set_aside` is the reason it takes no part, or None; `size` is any measure of size
    (leaves, cm) that is the same for all; `host` the plant that a leaf, half, cluster or trap is
    on, None where the unit stands alone; `died_on` the day on which a plant that was set aside
    died, which is an outcome of its remedy.
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
    host: str | None = None
    died_on: date | None = None


class Tally(NamedTuple):  # of a large trial there are fifteen thousand, made anew each time
    """What was counted on one plant at one look for one measure.

    `value` is None when the count was withdrawn; `finished` is False while the gardener is
    still counting, and only finished tallies are judged. `counted_on` is the day it was really
    counted on, which a later correction keeps; `first_counted_at` when the first number of this
    plant, look and measure was kept, None for one that is not kept yet. `sample` is the leaf it is
    of, 0 for the plant; `standing` tells whether it holds, is contested, or was set aside;
    `session` is the spell of counting it is of and `step` its newest tap there; `last` says that
    its plant has no more leaves.
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
    sample: int = 0
    standing: str = "held"
    session: str = ""
    step: int = 0
    last: bool = False


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
class Trial(TrialPlan):
    """A trial with its bench, without the counts: those are many, and few screens need them."""

    plants: tuple[Plant, ...] = ()
    sprays: tuple[Spray, ...] = ()
    batches: tuple[Batch, ...] = ()
    patches: tuple[PatchTest, ...] = ()
    starts: tuple[RoundStart, ...] = ()
    events: tuple[RoundEvent, ...] = ()

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

    def due_in(self, round_: Round) -> tuple[Plant, ...]:
        """Return the plants that are treated in a round, in walking order."""
        return tuple(p for p in self.trial_plants if round_.gives(p.remedy_id))

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


@dataclass(frozen=True, slots=True)
class CountedTrial(Trial):
    """A trial with every number that holds now: what the verdict is made of."""

    tallies: tuple[Tally, ...] = ()
    _found: dict[tuple[int, str], dict[int, Tally]] = field(
        default_factory=dict, init=False, repr=False, compare=False
    )

    def __post_init__(self) -> None:
        """Sort the numbers by look and measure: every screen asks for them so, many times."""
        found: defaultdict[tuple[int, str], dict[int, Tally]] = defaultdict(dict)
        for tally in self.tallies:
            _, look, plant, measure, value, *_ = tally  # unpacked: of a large trial there are many
            if value is not None:
                found[look, measure][plant] = tally
        self._found.update(found)

    def tallies_at(self, look: Look, measure: str) -> Mapping[int, Tally]:
        """Return the current tally of each plant for one look and measure, withdrawn ones out."""
        return self._found.get((look.id, measure), {})

    def counted_at(self, look: Look) -> set[int]:
        """Return the ids of plants whose count of the trial's measure is finished at a look."""
        return {p for p, t in self.tallies_at(look, self.measure).items() if t.finished}


def walking_key(plant: Plant) -> tuple[int, int]:
    """Order plants as one walks without crossing: odd rows forwards, even rows back."""
    return plant.row, plant.place if plant.row % 2 else -plant.place
