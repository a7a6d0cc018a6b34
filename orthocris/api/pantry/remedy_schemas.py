"""The catalogue of remedies over HTTP."""

from __future__ import annotations

from typing import Annotated

from fastapi import Path
from pydantic import BaseModel, Field

from orthocris.api.base import In, Out, Real, Text
from orthocris.api.planning.schemas import Key
from orthocris.api.trial.schemas import RemedyIn
from orthocris.api.trial.setup_schemas import SetupIO, TraitsIO
from orthocris.core.pantry.own import OwnRemedy


class IngredientOut(Out):
    """An ingredient of a shipped remedy with its usual range."""

    key: str
    name: str
    amount: float
    unit: str
    low: float
    high: float


class SchoolOut(Out):
    """A school and its reason."""

    name: str
    reason: str


class CatalogueOut(BaseModel):
    """A shipped remedy, with the reasons against it here and what own trials found (`tried`).

    `missing` names what of it is not in the house.
    """

    key: str
    name: str
    role: str
    way: str
    acts: str
    recipe: str
    ingredients: tuple[IngredientOut, ...]
    schools: tuple[SchoolOut, ...]
    usual_ladder: tuple[float, ...]
    reasons: tuple[str, ...]
    acts_on_it: bool
    tried: str
    missing: tuple[str, ...]


class SuitIn(In):
    """For which pest and setup remedies are asked for."""

    pest: Key
    setup: SetupIO = Field(default_factory=SetupIO)


class ProposalIn(In):
    """Which remedies to make from the shipped list.

    One key and strengths: a ladder; `square` with two keys: two-by-two; else one remedy each.
    """

    keys: Annotated[list[Key], Field(min_length=1, max_length=11)]
    strengths: Annotated[list[Real], Field(max_length=10)] | None = None
    square: bool = False


class ProposalOut(BaseModel):
    """Remedies for a question."""

    remedies: list[RemedyIn]


OwnId = Annotated[int, Path(ge=1, le=2**31 - 1)]


class OwnRemedyIn(In):
    """A remedy of the gardener's own."""

    name: Text
    recipe: Text = ""
    traits: TraitsIO = Field(default_factory=TraitsIO)

    def to_core(self, remedy_id: int) -> OwnRemedy:
        """Return the core's own remedy."""
        return OwnRemedy(remedy_id, self.name, self.recipe, self.traits.to_core())


class OwnRemedyOut(Out):
    """A remedy of the gardener's own, with the key by which the list knows it."""

    id: int
    key: str
    name: str
    recipe: str
    traits: TraitsIO
