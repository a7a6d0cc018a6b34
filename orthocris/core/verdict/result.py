"""The verdict: frozen, complete at birth, and ready to be written down."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from enum import StrEnum
from typing import Any, Literal

Shown = Literal["", "less", "more"]

DIGITS = 6  # rounding at the edge; also hides the last bits that differ between machines


class Outcome(StrEnum):
    """What the trial settled."""

    WINNER = "winner"
    TIE = "tie"
    NONE_BEATS_CONTROL = "none_beats_control"
    UNDECIDED = "undecided"
    RANKED_WITHOUT_CONTROL = "ranked_without_control"


@dataclass(frozen=True, slots=True)
class Warning_:  # noqa: N801 - `Warning` is Python's own
    """Something the reader must know before trusting the verdict."""

    code: str
    text: str


@dataclass(frozen=True, slots=True)
class Design:
    """How the trial was laid out: kind, and the numbers that were analysed."""

    kind: str
    blocks: int
    plants: int
    remedies: int


@dataclass(frozen=True, slots=True)
class RemedyResult:
    """All that the trial says of one remedy.

    Efficacy is the fraction removed: 1 less the ratio of expected counts to the control's, adjusted
    for the count before (negative: more were left than on the control); `efficacy_low` and
    `efficacy_high` bound it with 95% confidence. `rate_ratio` is relative to the control, or to the
    first in rank where there is none. `failed_on` counts the plants on which fewer than half as
    many were removed as on the whole; `missed` names those that did as if untreated, where that is
    likely enough (`model/failing.py`); `lost` are those that died or were not counted, `died` those
    marked as dead or lost; `kills` tells that deaths strike it out; `helpers` is the mean number of
    helpers seen on a plant at a look after the spray. Damage has its 95% interval and the number of
    plants scored. Null means: not computable, with the reason among the warnings.
    """

    name: str
    role: str
    plants: int
    mean_before: float | None
    mean_after: float | None
    efficacy: float | None
    efficacy_low: float | None
    efficacy_high: float | None
    rate_ratio: float | None
    p_adjusted: float | None
    beats_control: bool
    prob_best: float | None
    prob_worth_it: float | None
    could_be_best: bool
    damage_beyond_control: float | None
    vetoed: bool
    classic: dict[str, float | None]
    classic_notes: dict[str, str]
    worse_than_control: bool = False
    failed_on: int | None = None
    missed: tuple[str, ...] = ()
    lost: int = 0
    died: int = 0
    kills: bool = False
    damage_low: float | None = None
    damage_high: float | None = None
    damage_plants: int = 0
    helpers: float | None = None


@dataclass(frozen=True, slots=True)
class BesideEffect:
    """The fraction removed of something counted beside, with its 95% interval.

    `shown` is "less" or "more" where the difference is beyond the luck of the draw, over all that
    was counted beside together; empty where it is not.
    """

    name: str
    efficacy: float
    efficacy_low: float
    efficacy_high: float
    shown: Shown = ""


@dataclass(frozen=True, slots=True)
class BesideReading:
    """What each remedy did to something that was counted beside the measure that decides."""

    measure: str
    label: str
    remedies: tuple[BesideEffect, ...]


@dataclass(frozen=True, slots=True)
class Bet:
    """What to take if something must be taken today, and in what share of gardens it is wrong."""

    remedy: str
    wrong: float


@dataclass(frozen=True, slots=True)
class Verdict:
    """What works, how sure, and at what price to the plant.

    `advice` says what would settle an unsettled trial, or what to do now. `so_far` is True before
    the look that the plan made the decisive one: then nothing is recommended. `reasons` are the
    steps to it, in order; `beside` is what was read of other measures (`beside.shown_of`).
    `bet` stands beside a verdict that names nothing, in words `if_today`; never in its place.
    `more_plants` of each remedy are what its advice asks for, 0 where it asks for none.
    """

    outcome: Outcome
    recommended: str | None
    sentence: str
    advice: str
    measure: str
    look: str
    so_far: bool
    threshold: float
    design: Design
    remedies: tuple[RemedyResult, ...]
    warnings: tuple[Warning_, ...]
    reasons: tuple[str, ...]
    method: dict[str, Any]
    beside: tuple[BesideReading, ...] = ()
    bet: Bet | None = None
    if_today: str = ""
    more_plants: int = 0

    def to_dict(self) -> dict[str, Any]:
        """Return plain data for JSON, numbers rounded to six decimals."""
        plain: dict[str, Any] = _rounded(asdict(self))
        return plain


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, DIGITS) + 0.0  # + 0.0 turns -0.0 into 0.0
    if isinstance(value, dict):
        return {key: _rounded(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_rounded(item) for item in value]
    return value
