"""Routes of other gardens' trials: a bundle looked at, taken in, taken off."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Query

from orthocris.api.requests import Ctx, MadeAt, RowId
from orthocris.api.verdict.neighbour_schemas import LookedOut, NeighbourOut
from orthocris.services.verdict import neighbours

router = APIRouter(prefix="/api")
Bundle = Annotated[bytes, Body(media_type="application/zip")]


@router.post("/queries/bundle")
def look_at_bundle(context: Ctx, body: Bundle) -> LookedOut:
    """Return what a bundle would bring in; nothing is kept."""
    return LookedOut.of(neighbours.look_at(context, body))


@router.get("/neighbours")
def all_neighbours(context: Ctx) -> tuple[NeighbourOut, ...]:
    """Return the trials of other gardens that were taken in."""
    return tuple(NeighbourOut.of(one) for one in neighbours.all_kept(context))


@router.post("/neighbours", status_code=201)
def take_in(
    context: Ctx, made_at: MadeAt, body: Bundle, garden: Annotated[str, Query(max_length=200)]
) -> tuple[NeighbourOut, ...]:
    """Take a bundle's trial in under its garden's name; return all that are kept."""
    neighbours.take_in(context, body, garden)
    made_at("/api/neighbours")
    return all_neighbours(context)


@router.delete("/neighbours/{row_id}", status_code=204)
def take_off(context: Ctx, row_id: RowId) -> None:
    """Take a trial of another garden off; its trace stays on record."""
    neighbours.take_off(context, row_id)
