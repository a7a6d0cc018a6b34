"""What the program knows, over HTTP."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from orthocris.api.base import Day, In, Out
from orthocris.api.field.schemas import CareIO
from orthocris.api.trial.setup_schemas import SetupIO
from orthocris.core.trial.crops import Habit
from orthocris.core.trial.measures import MeasureKey, Scale
from orthocris.core.trial.own_pests import OwnPest
from orthocris.core.trial.setup import Unit


class MeasureOut(Out):
    """What can be counted."""

    key: MeasureKey
    label: str
    noun: str
    scale: Scale
    upper: float
    judged: bool


class PestOut(Out):
    """A pest or disease and how it is counted."""

    key: str
    name: str
    kind: str
    measure: MeasureKey
    count_what: str
    where: str
    dead_or_alive: str
    look_days: tuple[int, ...]
    round_days: tuple[int, ...]
    signs: dict[str, int]
    tell_tale: str
    look_alikes: tuple[str, ...]
    sample_unit: str
    stages: tuple[str, ...]
    measures: tuple[MeasureKey, ...]
    tolerance_share: float
    tolerance: str
    helpers: tuple[str, ...]
    generation_days: int
    first_aid: str
    synonyms: tuple[str, ...]
    cannot_work: dict[str, str]


class OwnPestIn(In):
    """A pest of the gardener's own, and how it is counted."""

    name: Annotated[str, StringConstraints(max_length=100)]
    kind: Annotated[str, StringConstraints(max_length=20)] = "pest"
    sample_unit: Annotated[str, StringConstraints(max_length=40)] = "leaf"
    count_what: Annotated[str, StringConstraints(max_length=500)] = ""
    dead_or_alive: Annotated[str, StringConstraints(max_length=500)] = ""
    where: Annotated[str, StringConstraints(max_length=500)] = ""
    measure: MeasureKey = MeasureKey.LIVE
    look_days: Annotated[list[Day], Field(min_length=1, max_length=40)] = Field(
        default_factory=lambda: [3, 7]
    )
    round_days: Annotated[list[Day], Field(min_length=1, max_length=40)] = Field(
        default_factory=lambda: [0]
    )
    generation_days: Annotated[int, Field(ge=0, le=400)] = 0

    def to_core(self) -> OwnPest:
        """Return the core's own pest."""
        plain = self.model_dump()
        days = {name: tuple(plain[name]) for name in ("look_days", "round_days")}
        return OwnPest(0, **{**plain, **days, "measure": self.measure.value})


class OwnPestOut(PestOut):
    """A pest of the gardener's own, as the shipped ones are laid out, with its number."""

    id: int


class CropOut(Out):
    """A garden or house plant on a day: what it answers of a question, and the sentence for it."""

    key: str
    name: str
    other_names: tuple[str, ...]
    habit: Habit
    delicate: bool
    eaten: bool
    in_bloom: bool
    ml: float
    said: str


class DisorderOut(Out):
    """What no remedy helps, being no pest or none that one reaches: how to tell, and what does."""

    key: str
    name: str
    signs: dict[str, int]
    tell: str
    do: str


class SignOut(Out):
    """Something that can be seen."""

    key: str
    text: str
    part: str
    drawing: str | None


class ClassOut(Out):
    """A class that many are told by, and the number it is read as."""

    words: str
    reads: int


class Numbers(BaseModel):
    """Numbers of the rules that screens show before anything is sent.

    `least_blocks` and `usual_blocks` are plants of each remedy; `own_tolerance` the share of
    plants borne of a pest the program does not know; `care` and `setup` the usual choices;
    `egg_measure` is what a question about eggs counts, on units `egg_unit`.
    """

    least_blocks: int
    usual_blocks: int
    most_plants: int
    household: dict[str, str]
    most_remedies: int
    own_tolerance: float
    egg_measure: MeasureKey
    egg_unit: Unit
    care: CareIO
    setup: SetupIO
    classes: tuple[ClassOut, ...]


class WayOut(Out):
    """A way of giving a remedy: the unit of its dose, whether it wets, usual minutes a plant."""

    key: str
    name: str
    unit: str
    wets: bool
    whole: bool
    minutes: float


class Knowledge(BaseModel):
    """What the program knows beforehand."""

    numbers: Numbers
    ways: tuple[WayOut, ...]

    pests: tuple[PestOut, ...]
    measures: tuple[MeasureOut, ...]
    signs: tuple[SignOut, ...]
    disorders: tuple[DisorderOut, ...]


class Health(BaseModel):
    """Whether the application is ready."""

    status: Literal["ok"]
    version: str
