"""A plan to be played, the board as it stands, and what is opened at its end."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field

from orthocris.api.base import Day, In, Out, Text
from orthocris.core.playing.garden import LAST_DAY, PlayedRemedy, PlayPlan
from orthocris.core.playing.hindsight import hindsight
from orthocris.core.playing.lessons import About
from orthocris.core.playing.play import LETTERS, Board, Due, Move
from orthocris.core.trial.measures import MeasureKey
from orthocris.core.trial.question import MAX_REMEDIES

MOST_PLANTS, MOST_MOVES = 120, 200


class PlayedRemedyIn(In):
    """A remedy by its name, and in how many days its effect comes."""

    name: Annotated[Text, Field(min_length=1, max_length=120)]
    days_to_show: Annotated[int, Field(ge=1, le=LAST_DAY)] = 1


class PlayPlanIn(In):
    """What is played; the control first."""

    remedies: Annotated[list[PlayedRemedyIn], Field(min_length=2, max_length=MAX_REMEDIES)]
    plants: Annotated[int, Field(ge=1, le=MOST_PLANTS)]
    looks: Annotated[list[Day], Field(min_length=1, max_length=20)]
    rounds: Annotated[list[Day], Field(min_length=1, max_length=20)]
    measure: MeasureKey = MeasureKey.LIVE
    threshold: Annotated[float, Field(allow_inf_nan=False, gt=0, lt=1)] = 0.6
    two_looks: bool = False

    def plan(self) -> PlayPlan:
        """Return it as the core has it."""
        return PlayPlan(
            tuple(PlayedRemedy(r.name, r.days_to_show) for r in self.remedies),
            self.plants,
            tuple(self.looks),
            tuple(self.rounds),
            self.measure,
            self.threshold,
            self.two_looks,
        )


Seed = Annotated[int, Field(ge=0, le=2**31 - 1)]


class PlayIn(In):
    """A plan, what its chances are drawn by, and the moves made so far."""

    plan: PlayPlanIn
    seed: Seed
    moves: Annotated[tuple[Move, ...], Field(max_length=MOST_MOVES)] = ()


class PlayedPlantOut(Out):
    """A plant: its tag's letter (by its place in the alphabet, 1 and up), group and counts."""

    tag: int | None
    group: int | None
    counts: tuple[float, ...]


class PlayedTagOut(Out):
    """A remedy and its tag."""

    name: str
    letter: str
    tag: int


class ToldOut(Out):
    """What was said of a remedy, and what it truly removed."""

    name: str
    low: float | None
    high: float | None
    truth: float


class WhatIfOut(Out):
    """Another way to do the same trial."""

    code: str
    title: str
    says: str


class HindsightOut(Out):
    """The truth beside the verdict."""

    remedies: tuple[ToldOut, ...]
    right: bool
    says: str
    what_if: tuple[WhatIfOut, ...]


class PlayOut(Out):
    """A play as it stands; names and truth only when they are opened."""

    day: int
    due: Due
    choices: tuple[Move, ...]
    says: str
    told: tuple[str, ...]
    days: tuple[int, ...]
    measure: MeasureKey
    plants: tuple[PlayedPlantOut, ...]
    tags: tuple[PlayedTagOut, ...]
    sentence: str | None
    advice: str | None
    hindsight: HindsightOut | None

    @classmethod
    def of(cls, board: Board, seed: int) -> Self:
        """Write a board down: nothing of it that is still sealed."""
        bench, verdict = board.bench, board.verdict
        drawn = bool(board.looks)
        tags = [
            PlayedTagOut(name=r.name, letter=LETTERS[k], tag=int(k) + 1)
            for r, k in zip(board.plan.remedies, bench.letter, strict=True)
        ]
        plants = [
            PlayedPlantOut(
                tag=int(bench.letter[r]) + 1 if drawn and r >= 0 else None,
                group=int(bench.block[k]) + 1 if drawn and r >= 0 else None,
                counts=tuple(float(values[k]) for _, values in board.looks),
            )
            for k, r in enumerate(bench.remedy.tolist())
        ]
        return cls(
            day=board.station.day,
            due=board.station.due,
            choices=board.choices,
            says=board.says,
            told=board.told,
            days=tuple(day for day, _ in board.looks),
            measure=MeasureKey(board.plan.counted),
            plants=tuple(plants),
            tags=tuple(tags) if verdict else (),
            sentence=verdict.sentence if verdict else None,
            advice=verdict.advice if verdict else None,
            hindsight=HindsightOut.model_validate(hindsight(board, seed)) if board.opened else None,
        )


class LessonIn(In):
    """A plan, what the lesson is about, and what its chances are drawn by."""

    plan: PlayPlanIn
    about: About
    seed: Seed = 1


class DemoOut(Out):
    """Where the demo garden is served."""

    address: str


class LessonOut(Out):
    """What many gardens show, done without the thing and with it."""

    about: About
    title: str
    says: str
    asks: str
    without: tuple[float, ...]
    with_: tuple[float, ...]
    fooled: float
    fooled_with: float
    limit: float
    either_way: bool
