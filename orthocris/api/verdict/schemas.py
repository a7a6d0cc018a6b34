"""A verdict over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from pydantic import BaseModel

from orthocris.api.base import Out
from orthocris.core.counting.notebook import Seen
from orthocris.core.trial.plan import Role
from orthocris.core.verdict.result import Outcome, Shown
from orthocris.services.verdict.before import Before


class RemedyVerdict(Out):
    """What a trial says of one remedy; fields as in the judge's JSON."""

    name: str
    role: Role
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
    worse_than_control: bool
    failed_on: int | None
    missed: list[str]
    lost: int
    died: int
    kills: bool
    damage_low: float | None
    damage_high: float | None
    damage_plants: int
    helpers: float | None


class WarningOut(Out):
    """Something to know before trusting the verdict."""

    code: str
    text: str


class DesignOut(Out):
    """How the trial was laid out."""

    kind: str
    blocks: int
    plants: int
    remedies: int


class BesideEffectOut(Out):
    """The fraction removed of something counted beside, with its 95% interval."""

    name: str
    efficacy: float
    efficacy_low: float
    efficacy_high: float
    shown: Shown


class BesideOut(Out):
    """What each remedy did to something counted beside the measure that decides."""

    measure: str
    label: str
    remedies: tuple[BesideEffectOut, ...]


class BetOut(Out):
    """What to take if something must be taken today, and in what share of gardens it is wrong."""

    remedy: str
    wrong: float


class VerdictBody(Out):
    """The judge's verdict."""

    outcome: Outcome
    recommended: str | None
    sentence: str
    advice: str
    measure: str
    look: str
    so_far: bool
    threshold: float
    design: DesignOut
    remedies: tuple[RemedyVerdict, ...]
    warnings: tuple[WarningOut, ...]
    reasons: tuple[str, ...]
    method: dict[str, Any]
    beside: tuple[BesideOut, ...]
    bet: BetOut | None
    if_today: str


class RecordOut(Out):
    """The verdict of this look that was put on record once final."""

    made_at: datetime
    version: str
    seed: int
    sentence: str


class SeenOut(Out):
    """On how many of a remedy's plants something was seen, of those somebody looked at for it."""

    what: Seen
    words: str
    remedy: str
    plants: int
    of: int


class NextPartOut(Out):
    """What a trial would go on with, or (`there`) the trial that goes on from it already.

    `keeps` are the remedies in question, `leaves_out` the others and why; `waiting` plants were
    kept for a second wave, and `wanted` in all would settle it, 0 where that is not known.
    """

    keeps: tuple[str, ...]
    leaves_out: dict[str, str]
    waiting: int
    wanted: int
    there: int | None


class VerdictOut(BaseModel):
    """A verdict with the deviations it must be read with; not final while looks are to come."""

    verdict: VerdictBody
    final: bool
    look_number: int
    notes: tuple[str, ...]
    answers: tuple[str, ...]
    early: bool
    record: RecordOut | None
    differs: tuple[str, ...]
    seen: tuple[SeenOut, ...]
    mess: dict[str, str]
    dots: dict[str, tuple[float, ...]]
    judged_on: str


class CheckOut(Out):
    """The trial judged in another way, and whether the answer changes."""

    way: str
    changed: bool
    says: str


class CourseOut(BaseModel):
    """The numbers of looks, and each plant's finished values at them (null: none), by plant id.

    Values are per unit of effort, or the share of a total; `damage` is that of the leaves, 0 to 5.
    """

    looks: tuple[int, ...]
    values: dict[int, tuple[float | None, ...]]
    damage: dict[int, tuple[float | None, ...]]


class KnownPestOut(Out):
    """A pest and in how many trials here remedies against it were judged."""

    pest: str
    name: str
    trials: int


class KnownTrialOut(Out):
    """What one trial says of a remedy; efficacies are fractions removed, with 95% limits."""

    trial_id: int | None
    garden: str
    name: str
    on: date
    crop: str
    plants: int
    efficacy: float
    low: float
    high: float
    damage: float | None
    out: bool
    best: bool
    warmth: float | None
    rain: float | None
    notches: int | None


class KnownRemedyOut(Out):
    """A remedy over all trials: its mean effect, what a next trial may find, and in words."""

    name: str
    strength: str
    catalogue: str | None
    trials: tuple[KnownTrialOut, ...]
    efficacy: float
    low: float
    high: float
    next_low: float
    next_high: float
    harmed: int
    words: str


class KnownHarmOut(Out):
    """A remedy that harmed the plants of every trial so that no number could be given."""

    name: str
    strength: str
    words: str


class KnownOut(Out):
    """What is known here of the remedies against a pest: the likeliest to work next first."""

    pest: str
    name: str
    trials: int
    remedies: tuple[KnownRemedyOut, ...]
    harmful: tuple[KnownHarmOut, ...]


class BeforeOut(Out):
    """A remedy with earlier trials: fractions removed with 95% limits, none where it harmed."""

    name: str
    trials: int
    harmed: int
    efficacy: float | None
    low: float | None
    high: float | None
    words: str

    @classmethod
    def of(cls, one: Before) -> BeforeOut:
        """Return the shape of a remedy with what was known before."""
        found = one.found
        return cls(
            name=one.name,
            trials=one.trials,
            harmed=one.harmed,
            efficacy=found.efficacy if found else None,
            low=found.low if found else None,
            high=found.high if found else None,
            words=one.words,
        )
