"""Routes of what the gardener minds, and which remedy suits by it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import Field

from orthocris.api.base import In, Out
from orthocris.api.requests import Ctx, TrialId
from orthocris.core.trial.minds import Mind, Weight
from orthocris.services.verdict import suiting
from orthocris.services.verdict.suiting import Suited

router = APIRouter(prefix="/api")


class MindsIn(In):
    """How much each thing is minded: 0 not, 1 some, 2 much; what is not named stays."""

    minds: Annotated[dict[str, int], Field(max_length=20)]


class WeighedOut(Out):
    """A remedy by what is minded: points of pests removed, and what each thing took off."""

    name: str
    removes: float
    score: float
    off: dict[Mind, float]
    costs: dict[Mind, float | None]


class FlipOut(Out):
    """That another weight of one thing would choose another remedy."""

    mind: Mind
    weight: Weight
    name: str


class SuitedOut(Out):
    """What is minded, and how the remedies that work come out by it."""

    minds: dict[Mind, Weight]
    asked: tuple[Mind, ...]
    ranked: tuple[WeighedOut, ...]
    flips: tuple[FlipOut, ...]
    unknown: tuple[Mind, ...]

    @classmethod
    def of(cls, found: Suited) -> SuitedOut:
        """Return the shape of a choice."""
        choice = found.choice
        return cls(
            minds=dict(found.minds),
            asked=found.asked,
            ranked=tuple(
                WeighedOut(
                    name=one.name,
                    removes=one.removes,
                    score=one.score,
                    off=dict(one.off),
                    costs=dict(found.costs[one.name]),
                )
                for one in choice.ranked
            ),
            flips=tuple(FlipOut.model_validate(one) for one in choice.flips),
            unknown=choice.unknown,
        )


@router.get("/trials/{trial_id}/verdict/suited")
def suited(
    context: Ctx,
    trial_id: TrialId,
    look: Annotated[int | None, Query(ge=0, le=1000)] = None,
) -> SuitedOut:
    """Return the remedies that work in the order in which they suit, by what is minded."""
    return SuitedOut.of(suiting.suited_to(context, trial_id, look))


@router.put("/minds", status_code=204)
def change_minds(context: Ctx, body: MindsIn) -> None:
    """Keep what is minded about remedies, for all trials."""
    suiting.change_minds(context, body.minds)
