"""A plan as the critic sees it, what it finds, and the mends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date

from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.pantry.remedies import CatalogueRemedy
from orthocris.core.pantry.suiting import Target, is_plain
from orthocris.core.planning.mending import PlanChange
from orthocris.core.trial.plan import Role
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.trial import Plant

NO_TARGET = Target("")


@dataclass(frozen=True, slots=True)
class PestFacts:
    """What the critic must know of the pest; None fields are unknown (the gardener's own pest)."""

    name: str
    measures: tuple[str, ...] | None = None
    usual_measure: str | None = None
    generation_days: int | None = None
    target: Target = NO_TARGET
    roams: str = ""  # what of it moves about the whole bench
    settled: str = ""  # and what stays on its plant
    also: tuple[str, Target] | None = None  # a second pest on the same plants


@dataclass(frozen=True, slots=True)
class Plan:
    """A plan before its first spray; `catalogue` and `cards` have the shipped remedies, by key.

    `away` are the days, from the first to the last, on which nobody is there.
    """

    question: Question
    start_on: date
    plants: tuple[Plant, ...]
    pest: PestFacts
    catalogue: Mapping[str, CatalogueRemedy] = field(default_factory=dict)
    cards: Mapping[str, RecipeCard] = field(default_factory=dict)
    away: tuple[tuple[date, date], ...] = ()

    @property
    def active(self) -> tuple[Plant, ...]:
        """Plants that take part."""
        return tuple(p for p in self.plants if p.set_aside is None)

    @property
    def others(self) -> tuple[RemedyDraft, ...]:
        """The remedies beside the control."""
        return tuple(r for r in self.question.remedies if r.role is Role.REMEDY)

    @property
    def given(self) -> tuple[RemedyDraft, ...]:
        """What gives a plant more than water: the remedies, and a control that holds anything."""
        return tuple(r for r in self.question.remedies if r.role is Role.REMEDY or not is_plain(r))

    @property
    def control(self) -> RemedyDraft | None:
        """The control, if there is one."""
        return next((r for r in self.question.remedies if r.role is Role.CONTROL), None)


@dataclass(frozen=True, slots=True)
class Mend:
    """A change of the plan that removes a finding; `changes` tells it before it is done.

    It never adds plants: those are the gardener's to offer.
    """

    label: str
    question: Question
    start_on: date
    changes: tuple[PlanChange, ...] = ()


@dataclass(frozen=True, slots=True)
class Finding:
    """A fault of a plan: its code, what would go wrong, and a mend where one click can do it."""

    code: str
    title: str
    harm: str
    mend: Mend | None


def with_changes(plan: Plan, label: str, **changes: object) -> Mend:
    """Return a mend that changes these fields of the question."""
    return Mend(label, replace(plan.question, **changes), plan.start_on)  # type: ignore[arg-type]


def with_setup(plan: Plan, label: str, **changes: object) -> Mend:
    """Return a mend that changes these fields of the setup."""
    setup = replace(plan.question.setup, **changes)  # type: ignore[arg-type]
    return with_changes(plan, label, setup=setup)
