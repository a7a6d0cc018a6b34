"""Practice over HTTP."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints

from orthocris.api.base import In, Out, Real
from orthocris.api.counting.schemas import Name
from orthocris.core.counting.practice import MOST_COUNTED, MOST_LEAVES, Counted
from orthocris.services.counting.practice import LONGEST_NAME, Progress, SessionTold

Number = Annotated[int, Field(ge=0, le=MOST_COUNTED)]
Fill = Literal["few", "some", "many"]


class PracticeIn(In):
    """A session wanted: which pest, how full the leaves, how many, by whom."""

    key: Name
    pest: Annotated[str, StringConstraints(max_length=40)]
    fill: Fill = "some"
    leaves: Annotated[int, Field(ge=1, le=MOST_LEAVES)] = 6
    person: Annotated[str, StringConstraints(max_length=LONGEST_NAME)] = ""


class CountedIn(In):
    """What was counted on a leaf; null where that was not counted."""

    live: Number
    young: Number | None = None
    eggs: Number | None = None
    dead: Number | None = None
    seconds: Annotated[Real, Field(ge=0, le=86_400)] = 0.0

    def to_core(self) -> Counted:
        """Return it as the core takes it."""
        return Counted(**self.model_dump())


class CountedOut(Out):
    """What was counted on a leaf."""

    live: int
    young: int | None
    eggs: int | None
    dead: int | None
    seconds: float


class TruthOut(Out):
    """What is on it."""

    live: int
    young: int
    eggs: int
    dead: int


class FigureOut(Out):
    """One that is counted, where it sits (shares of the picture's width) and how long it is."""

    thing: str
    x: float
    y: float
    length: float


class LeafToldOut(Out):
    """A leaf that was counted, and its truth."""

    number: int
    counted: CountedOut
    truth: TruthOut
    figures: tuple[FigureOut, ...]


class CounterAdviceOut(Out):
    """What to do better."""

    code: str
    text: str


class CounterErrorOut(Out):
    """How a person counts; see `core.counting.practice.CounterError`."""

    leaves: int
    bias: float | None
    bias_low: float | None
    bias_high: float | None
    spread: float | None
    found: dict[str, float]
    dead_taken: float | None
    seconds: float | None
    advice: tuple[CounterAdviceOut, ...]


class PracticeOut(Out):
    """A session as it stands."""

    id: int
    pest: str
    fill: str
    person: str
    leaves: int
    begun_at: datetime
    told: tuple[LeafToldOut, ...]
    error: CounterErrorOut

    @classmethod
    def of(cls, found: SessionTold) -> Self:
        """Return what is sent of it."""
        told = tuple(LeafToldOut.model_validate(leaf) for leaf in found.leaves)
        error = CounterErrorOut.model_validate(found.error)
        session = found.session
        return cls(
            id=session.id,
            pest=session.pest,
            fill=session.fill,
            person=session.person,
            leaves=session.leaves,
            begun_at=session.begun_at,
            told=told,
            error=error,
        )


class SessionErrorOut(Out):
    """How one session went."""

    id: int
    begun_at: datetime
    error: CounterErrorOut


class ProgressOut(Out):
    """How a person counts one pest, session by session and together."""

    pest: str
    person: str
    sessions: tuple[SessionErrorOut, ...]
    error: CounterErrorOut

    @classmethod
    def of(cls, found: Progress) -> Self:
        """Return what is sent of it."""
        return cls(
            pest=found.pest,
            person=found.person,
            sessions=tuple(
                SessionErrorOut(
                    id=session.id,
                    begun_at=session.begun_at,
                    error=CounterErrorOut.model_validate(error),
                )
                for session, error in found.sessions
            ),
            error=CounterErrorOut.model_validate(found.error),
        )
