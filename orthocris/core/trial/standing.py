"""How far a trial has come, in numbers: what its thread and its jobs are made of."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime

from orthocris.core.trial.batches import Batch
from orthocris.core.trial.patches import PatchTest
from orthocris.core.trial.plan import Look, Round, TrialPlan
from orthocris.core.trial.sprays import EventKind, SprayKind
from orthocris.core.trial.trial import CountedTrial, Trial

DAYS_OFF = 1  # a count this many days off its look's day is still of that day


@dataclass(frozen=True, slots=True)
class LookStanding:
    """How many of the trial's plants are counted at a look, and how many of them on its day."""

    look: Look
    counted: int = 0
    in_time: int = 0


@dataclass(frozen=True, slots=True)
class RoundStanding:
    """How far a round is: plants sprayed, and plants done with (sprayed or skipped).

    `begun_at` is when the first plant was sprayed, lost plants included; None before.
    `washed_off` is the rain logged on it, in mm.
    """

    round: Round
    sprayed: int = 0
    done: int = 0
    begun_at: datetime | None = None
    left_out: bool = False
    washed_off: float | None = None


BottleKey = tuple[int, int]  # remedy id, and which part of it


@dataclass(frozen=True, slots=True)
class BottleStanding:
    """What was mixed of a remedy: how many batches, and until when the one that lasts longest can
    be used; `until` is None when it keeps, `usable` False when none is left. `recipes` are those
    that were mixed, whatever the plan says."""

    batches: int
    usable: bool
    until: datetime | None
    recipes: frozenset[str] = frozenset()

    def usable_at(self, when: datetime) -> bool:
        """True when a batch can be used at a time."""
        return self.usable and (self.until is None or when <= self.until)


@dataclass(frozen=True, slots=True)
class Standing:
    """A trial's plan with how many plants there are and how far looks and rounds have come.

    `listed` are all plants, `active` those that take part, `uncounted` the active ones without
    a match count, `allotted` the active ones with a remedy, in `blocks` blocks; `by_remedy` is
    how many of them got which. `bottles` tell what was mixed, by remedy and part, and `given` on
    which day a remedy was last given, lost plants included; asked for plants that are eaten only.
    `read`: the final verdict was read, and is on record, or the trial goes on elsewhere.
    """

    plan: TrialPlan
    listed: int
    active: int
    uncounted: int
    allotted: int
    blocks: int
    laid_out: bool
    by_remedy: Mapping[int, int]
    looks: tuple[LookStanding, ...]
    rounds: tuple[RoundStanding, ...]
    bottles: Mapping[BottleKey, BottleStanding]
    patches: tuple[PatchTest, ...]
    given: Mapping[int, date] = field(default_factory=dict)
    read: bool = False

    @property
    def in_use(self) -> frozenset[int]:
        """Ids of the remedies that some plant got."""
        return frozenset(self.by_remedy)

    def due_in(self, round_: Round) -> int:
        """Return how many plants are treated in a round."""
        return sum(n for remedy, n in self.by_remedy.items() if round_.gives(remedy))

    @property
    def verdict_ready(self) -> bool:
        """True once every plant still standing is counted at the last planned look, on its day."""
        return bool(self.allotted and self.looks) and self.complete(self.looks[-1])

    @property
    def sealed(self) -> bool:
        """True while nobody may be told which letter is which remedy: counts are still to come."""
        return self.laid_out and self.plan.key_opened_at is None and not self.verdict_ready

    def complete(self, look: LookStanding) -> bool:
        """True when every plant of the trial is counted at a look, on its day."""
        return look.in_time >= self.allotted


def counted_early(trial: CountedTrial, look: Look) -> dict[int, date]:
    """Return plants counted more than a day before a look's day, and when, by plant id."""
    days = {plant: t.counted_on for plant, t in trial.tallies_at(look, trial.measure).items()}
    early = {day for day in set(days.values()) if is_early(trial, look, day)}
    return {plant: day for plant, day in days.items() if day in early}


def is_early(plan: TrialPlan, look: Look, counted_on: date) -> bool:
    """True when a count was made more than a day before its look's day; never for day 0."""
    return look.number > 0 and (plan.date_of(look.day) - counted_on).days > DAYS_OFF


def standing_of(trial: CountedTrial) -> Standing:
    """Return how far a trial has come that is loaded whole."""
    plants = {p.id for p in trial.trial_plants}
    return Standing(
        plan=trial,
        listed=len(trial.plants),
        active=len(trial.active_plants),
        uncounted=sum(p.match_count is None for p in trial.active_plants),
        allotted=len(plants),
        blocks=len({p.block for p in trial.trial_plants}),
        laid_out=trial.laid_out,
        by_remedy=Counter(p.remedy_id for p in trial.trial_plants if p.remedy_id is not None),
        looks=tuple(_look(trial, look, plants) for look in trial.looks),
        rounds=tuple(_round(trial, round_, plants) for round_ in trial.rounds),
        bottles=_bottles(trial.batches),
        patches=trial.patches,
        given=_given(trial) if trial.setup.eaten else {},
    )


def _given(trial: Trial) -> dict[int, date]:
    got = {p.id: p.remedy_id for p in trial.plants if p.remedy_id is not None}
    found: dict[int, date] = {}
    for spray in trial.sprays:
        remedy = got.get(spray.plant_id)
        if remedy is not None and spray.kind is not SprayKind.SKIPPED:
            day = spray.sprayed_at.date()
            found[remedy] = max(found.get(remedy, day), day)
    return found


def _bottles(batches: Iterable[Batch]) -> dict[BottleKey, BottleStanding]:
    found: dict[BottleKey, list[Batch]] = {}
    for batch in batches:
        found.setdefault((batch.remedy_id, batch.step), []).append(batch)
    return {key: _bottle(own) for key, own in found.items()}


def _bottle(batches: list[Batch]) -> BottleStanding:
    left = [b.use_by for b in batches if b.discarded_at is None]
    lasting = None if None in left else max((t for t in left if t is not None), default=None)
    recipes = frozenset(b.recipe for b in batches)
    return BottleStanding(len(batches), bool(left), lasting, recipes)


def _look(trial: CountedTrial, look: Look, plants: set[int]) -> LookStanding:
    counted = trial.counted_at(look) & plants
    return LookStanding(look, len(counted), len(counted - set(counted_early(trial, look))))


def _round(trial: Trial, round_: Round, plants: set[int]) -> RoundStanding:
    sprayed = trial.sprayed_in(round_)
    rain = [
        e.amount for e in trial.events if e.round_id == round_.id and e.kind is EventKind.WASHED_OFF
    ]
    return RoundStanding(
        round=round_,
        sprayed=len(sprayed & plants),
        done=len((sprayed | trial.skipped_in(round_)) & plants),
        begun_at=trial.first_sprayed_at(round_),
        left_out=trial.left_out(round_),
        washed_off=rain[0] if rain else None,
    )
