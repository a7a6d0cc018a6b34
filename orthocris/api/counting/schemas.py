"""Counts over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Self

from pydantic import Field, StringConstraints

from orthocris.api.base import Date, Id, In, Instant, Out, Real
from orthocris.core.counting.tally import TallyEntry, Tap
from orthocris.core.trial.measures import MeasureKey
from orthocris.services.counting.keeping import Kept

MOST_TAPS = 500  # in one request
Name = Annotated[str, StringConstraints(min_length=8, max_length=64)]
Sample = Annotated[int, Field(ge=0, le=200)]
Person = Annotated[str, StringConstraints(max_length=40, strip_whitespace=True)]


class TallyIn(In):
    """A number counted on a plant; `session` and `step` order what one device sends.

    `counted_on` is the day it was counted on: today, or that of the number it corrects, when
    left out. `sample` is the leaf it is of, 0 the plant as a whole; `last` says that the plant has
    no more; `knows` are the sessions of the sample that the device knew of, its own among them.
    `classed`: the value is what a class is read as; `person`: somebody counts a second time.
    """

    plant_id: Id
    measure: MeasureKey
    value: Real | None
    of: Real | None = None
    effort: Real = 1.0
    finished: bool
    session: Name
    step: Annotated[int, Field(ge=0, le=2**31 - 1)]
    counted_on: Date | None = None
    sample: Sample = 0
    last: bool = False
    knows: Annotated[tuple[Name, ...], Field(max_length=50)] | None = None
    classed: bool = False
    person: Person = ""

    def to_core(self) -> TallyEntry:
        """Return it as the core takes it."""
        return TallyEntry(**self.model_dump())


class TapIn(In):
    """A tap under a name of its own, with the time of the device it was made on."""

    key: Name
    trial_id: Id
    look: Annotated[int, Field(ge=0, le=1000)]
    tapped_at: Instant
    tally: TallyIn

    def to_core(self) -> Tap:
        """Return it as the core takes it."""
        return Tap(self.key, self.trial_id, self.look, self.tally.to_core(), self.tapped_at)


class TapsIn(In):
    """Taps in the order in which they were made.

    `sent_at` is the time of the device as it sends them: where its clock goes wrong, the times of
    its taps are set right by it.
    """

    taps: Annotated[list[TapIn], Field(min_length=1, max_length=MOST_TAPS)]
    sent_at: Instant | None = None


class RefusedOut(Out):
    """A tap that was not kept, and why."""

    key: str
    code: str
    message: str
    fix: str


class TapsOut(Out):
    """What became of taps; see `services.counting.keeping.Kept`."""

    kept: tuple[str, ...]
    refused: tuple[RefusedOut, ...]
    contested: tuple[str, ...]
    slow: float

    @classmethod
    def of(cls, found: Kept) -> Self:
        """Return what is sent of it."""
        refused = tuple(
            RefusedOut(key=r.key, code=r.error.code, message=r.error.message, fix=r.error.fix)
            for r in found.refused
        )
        return cls(kept=found.kept, refused=refused, contested=found.contested, slow=found.slow)


class SettleIn(In):
    """Which session's count of a sample is right."""

    plant_id: Id
    sample: Sample
    session: Name


class TallyOut(Out):
    """A number kept; null when it was withdrawn."""

    id: int
    look_id: int
    plant_id: int
    measure: MeasureKey
    value: float | None
    of: float | None
    effort: float
    finished: bool
    counted_at: datetime
    counted_on: date
    sample: int
    standing: str
    session: str
    step: int
    last: bool


class SideOut(Out):
    """What one device counted on a sample, by measure."""

    session: str
    values: dict[MeasureKey, float | None]
    counted_at: datetime
    held: bool
    device: str


class ContestOut(Out):
    """A sample counted on two devices that did not know of each other."""

    plant_id: int
    sample: int
    sides: tuple[SideOut, ...]


class EarlierOut(Out):
    """What a marked leaf had at the look before."""

    plant_id: int
    sample: int
    value: float


class CountSheetOut(Out):
    """What was counted at one look; see `core.counting.sheet.CountSheet`."""

    tallies: tuple[TallyOut, ...]
    early: tuple[int, ...]
    totals: dict[int, float]
    contests: tuple[ContestOut, ...]
    damage_before: dict[int, float]
    earlier: tuple[EarlierOut, ...]


class ClusterWatchOut(Out):
    """How an egg cluster went; see `core.counting.eggs.ClusterWatch`."""

    plant_id: int
    total: int
    hatched: int
    vanished: int
    left: int
    first_hatch_after: date | None
    first_hatch_on: date | None
    ended_on: date | None
    shrank: bool


class ApartOut(Out):
    """A place on which two people are far apart."""

    plant_id: int
    sample: int
    first: float
    second: float


class AgreementOut(Out):
    """How a second person's numbers compare; see `core.counting.agreement.Agreement`."""

    person: str
    pairs: int
    ratio: float | None
    ratio_low: float | None
    ratio_high: float | None
    spread: float | None
    apart: tuple[ApartOut, ...]
    says: str


class SpreadOut(Out):
    """How a pest is spread over leaves; `counted` 0: typical values."""

    mean: float
    clumping: float
    seconds: float
    counted: int


class SamplingOptionOut(Out):
    """So many leaves a plant: error of a plant's mean (a fraction) and minutes of the look."""

    samples: int
    error: float
    minutes: float


class SamplingOut(Out):
    """What numbers of leaves bring and cost."""

    spread: SpreadOut
    options: tuple[SamplingOptionOut, ...]


class CountCheckOut(Out):
    """Something worth a second look."""

    code: str
    text: str
    plant_id: int | None
    sample: int | None
