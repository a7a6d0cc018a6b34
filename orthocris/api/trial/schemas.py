"""What goes in and out over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import Date, Day, Id, In, Moment, Out, Real, Text
from orthocris.api.field.round_schemas import EventOut
from orthocris.api.field.schemas import BatchOut, CareIO
from orthocris.api.knowledge.schemas import MeasureOut, PestOut
from orthocris.api.trial.setup_schemas import SetupIO, TraitsIO
from orthocris.core.field.progress import JobKind
from orthocris.core.field.thread import State, StationKey
from orthocris.core.seasons.journal import EntryKind
from orthocris.core.trial.crops import Habit
from orthocris.core.trial.measures import MeasureKey
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.ways import Reach


class RemedyIn(In):
    """A remedy of a question; `id` when it is one already kept."""

    id: Id | None = None
    name: Text
    role: Role
    recipe: Text = ""
    traits: TraitsIO = Field(default_factory=TraitsIO)

    def to_core(self) -> RemedyDraft:
        """Return the core's draft."""
        return RemedyDraft(self.name, self.role, self.recipe, self.id, self.traits.to_core())


class QuestionIn(In):
    """A question; days are counted from the first spray."""

    name: Text
    pest: Annotated[str, StringConstraints(min_length=1, max_length=80)]
    measure: MeasureKey
    threshold: Real
    start_on: Date
    remedies: Annotated[list[RemedyIn], Field(max_length=100)]
    look_days: Annotated[list[Moment], Field(max_length=100)]
    round_days: Annotated[list[Day], Field(max_length=100)]
    setup: SetupIO = Field(default_factory=SetupIO)

    @classmethod
    def of(cls, question: Question, start_on: date) -> QuestionIn:
        """Return a question of the core as it would be asked."""
        remedies = [RemedyIn.model_validate(r, from_attributes=True) for r in question.remedies]
        return cls(
            name=question.name,
            pest=question.pest,
            measure=MeasureKey(question.measure),
            threshold=question.threshold,
            start_on=start_on,
            remedies=remedies,
            look_days=list(question.look_days),
            round_days=list(question.round_days),
            setup=SetupIO.model_validate(question.setup),
        )

    def to_core(self) -> Question:
        """Return the core's question."""
        return Question(
            name=self.name,
            pest=self.pest,
            measure=self.measure.value,
            threshold=self.threshold,
            remedies=tuple(r.to_core() for r in self.remedies),
            look_days=tuple(int(day) if day == int(day) else day for day in self.look_days),
            round_days=tuple(self.round_days),
            setup=self.setup.to_core(self.start_on),
        )


class PlantsIn(In):
    """A part of the bench to add: rows of plants named prefix and number."""

    prefix: Annotated[str, StringConstraints(max_length=20)] = ""
    rows: Annotated[int, Field(ge=-(10**6), le=10**6)]
    per_row: Annotated[int, Field(ge=-(10**6), le=10**6)]
    row_is_plant: bool = False


class PlantIn(In):
    """A plant as it should be."""

    name: Text
    row: Annotated[int, Field(ge=-(10**6), le=10**6)]
    place: Annotated[int, Field(ge=-(10**6), le=10**6)]
    match_count: Real | None = None
    set_aside: Annotated[str, StringConstraints(min_length=1, max_length=200)] | None = None
    size: Real | None = None
    host: Annotated[str, StringConstraints(max_length=100)] | None = None
    died_on: Date | None = None


class LayoutIn(In):
    """A drawing of the layout; `reason` is needed from the second one on."""

    reason: Annotated[str, StringConstraints(max_length=500)] = ""
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] | None = None


class RemedyOut(Out):
    """A remedy with its code and the cautions its recipe calls for."""

    id: int
    name: str
    role: Role
    recipe: str
    letter: str | None
    notches: int | None
    cautions: tuple[str, ...] = ()
    traits: TraitsIO
    oil: bool
    poured: bool
    agitation: str
    coverage: str
    aftercare: str
    unsuited: tuple[str, ...] = ()
    rule: str = ""


class TagOut(BaseModel):
    """What stands on the tags of one remedy, and how its bottle is handled.

    While the key is sealed `remedy_id` is null, and what would tell the remedy is the same for
    every tag, but for what must be known to give it: whether it is poured, its ml, what it reaches.
    `step` is the part of a remedy with steps that is meant, 0 for the first.
    """

    letter: str
    notches: int
    remedy_id: int | None
    poured: bool
    ml: float | None
    bottled: bool
    reach: Reach
    dose: str
    oil: bool
    agitation: str
    coverage: str
    aftercare: str
    step: int


class PlantOut(Out):
    """A plant on the bench; `letter` is that of its tag, null before the layout."""

    id: int
    name: str
    row: int
    place: int
    match_count: float | None
    set_aside: str | None
    block: int | None
    letter: str | None = None
    size: float | None
    host: str | None
    died_on: date | None
    revision: str = ""


class LookOut(Out):
    """A counting occasion: when it is, in words too, and how many plants are counted then."""

    id: int
    number: int
    day: int
    hours: int
    when: str
    on: date
    counted: int


class RoundOut(Out):
    """A spray day with its date and the plants done; `batches` has the bottles by letter.

    `due` are the plants treated on it, `remedies` what is given (None: everything), `parts` the
    tags under which a later step of a remedy is given on it, as it is given then, and `steps`
    which step that is, by remedy.
    """

    due: tuple[int, ...]
    remedies: tuple[int, ...] | None
    id: int
    number: int
    day: int
    on: date
    sprayed: tuple[int, ...]
    skipped: tuple[int, ...]
    left_out: bool
    events: tuple[EventOut, ...]
    started_at: datetime | None
    running: bool
    batches: dict[str, int]
    notes: tuple[str, ...]
    parts: tuple[TagOut, ...]
    steps: dict[int, int]


class StationOut(Out):
    """A station of the trial's thread."""

    key: StationKey
    title: str
    state: State
    line: str


class JobOut(Out):
    """Something due."""

    kind: JobKind
    title: str
    station: StationKey | Literal["look", "round", "rest"]
    due_on: date
    number: int | None
    left: int
    of: int
    at: datetime | None
    note: str


class LayoutEventOut(Out):
    """A layout drawn or cleared."""

    made_at: datetime
    kind: Literal["drawn", "cleared", "given"]
    seed: int | None
    reason: str


class ShieldOut(BaseModel):
    """Two neighbours (by plant id) that need a shield between them."""

    one: int
    other: int


class ChangePartOut(BaseModel):
    """One part of a setting, before and after, in plain words."""

    name: str
    before: str
    after: str


class ChangeOut(BaseModel):
    """A setting that was changed, part by part."""

    made_at: datetime
    what: str
    parts: tuple[ChangePartOut, ...]


class WorkOut(BaseModel):
    """How often a remedy is given, and the minutes of work for all its plants together.

    `cost` is that of cards, granules and the like, where they have a price; bottles have their own.
    """

    remedy_id: int
    times: int
    minutes: float
    cost: float | None


class TrialOut(BaseModel):
    """A trial with everything its screens need."""

    id: int
    name: str
    pest: str
    pest_card: PestOut | None
    measure: MeasureOut
    threshold: float
    start_on: date
    sprayed_on: date | None
    today: date
    seed: int | None
    remedies: tuple[RemedyOut, ...]
    sealed: bool
    told_apart: tuple[str, ...]
    tags: tuple[TagOut, ...]
    plants: tuple[PlantOut, ...]
    walk: tuple[int, ...]
    rounds: tuple[RoundOut, ...]
    round_days: tuple[int, ...]
    work: tuple[WorkOut, ...]
    looks: tuple[LookOut, ...]
    stations: tuple[StationOut, ...]
    jobs: tuple[JobOut, ...]
    layout_events: tuple[LayoutEventOut, ...]
    general_cautions: tuple[str, ...]
    eating: str
    holds: tuple[str, ...]
    put_away_at: datetime | None
    question_revision: str
    care_revision: str
    changes: tuple[ChangeOut, ...]
    setup: SetupIO
    habit: Habit | None
    mark: str
    key_opened_at: datetime | None
    goes_on: int | None
    usual: str
    shields: tuple[ShieldOut, ...]
    odd_plants: dict[int, str]
    care: CareIO
    batches: tuple[BatchOut, ...]


class TodayTrialOut(BaseModel):
    """A trial in the list of Today."""

    id: int
    name: str
    pest: str
    crop: str
    plants: int
    stations: tuple[StationOut, ...]
    jobs: tuple[JobOut, ...]
    eating: str


class PutAwayOut(BaseModel):
    """A trial that was put away and can be brought back."""

    id: int
    name: str
    put_away_at: datetime


class GardenJobOut(Out):
    """Something due outside the trials: a look, a treatment, or a newcomer that may join."""

    key: str
    title: str
    due_on: date
    note: str
    kind: EntryKind
    pest: str
    place: str


class TodayOut(BaseModel):
    """What is due in the trials and beside them, every trial, and those put away."""

    today: date
    trials: tuple[TodayTrialOut, ...]
    put_away: tuple[PutAwayOut, ...]
    garden: tuple[GardenJobOut, ...]


class TrialRowOut(Out):
    """A trial in the list of all."""

    id: int
    name: str
    pest: str
    measure: MeasureKey
    start_on: date
    sprayed_on: date | None
    put_away_at: datetime | None


class TrialListOut(BaseModel):
    """A page of trials; `next` is the id to give as `after`, null on the last page."""

    trials: tuple[TrialRowOut, ...]
    next: int | None
