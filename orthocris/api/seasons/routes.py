"""Routes of the garden's year: its journal, and what is expected when."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Query, Response

from orthocris.api.base import Date
from orthocris.api.files import CSV, JPEG, Csv, Jpeg
from orthocris.api.requests import Ctx, Key, MadeAt, RowId
from orthocris.api.seasons.schemas import EntryIn, YearOut
from orthocris.services.seasons import writing, years

router = APIRouter(prefix="/api")


@router.get("/year")
def year(
    context: Ctx,
    start: Annotated[Date | None, Query()] = None,
    place: Annotated[str, Query(max_length=120)] = "",
) -> YearOut:
    """Return a year of the garden by the day it begins on, else the current one."""
    return YearOut.of(years.garden_year(context, start, place))


@router.post("/journal", status_code=201)
def write(context: Ctx, made_at: MadeAt, body: EntryIn, key: Key = None) -> YearOut:
    """Keep a line of the journal; return the current year."""
    made = writing.write_entry(context, body.to_core(), key)
    made_at(f"/api/journal/{made}")
    return YearOut.of(years.garden_year(context))


@router.post("/journal/{row_id}/done")
def finish(context: Ctx, row_id: RowId) -> YearOut:
    """Keep that a task was done today, and return the current year with what follows."""
    writing.finish_task(context, row_id)
    return YearOut.of(years.garden_year(context))


@router.put("/journal/{row_id}/picture")
def keep_photo(
    context: Ctx, row_id: RowId, body: Annotated[bytes, Body(media_type="image/*")]
) -> YearOut:
    """Give a line a photo, in place of one before; its place, time and device are not kept."""
    writing.keep_photo(context, row_id, body)
    return YearOut.of(years.garden_year(context))


@router.get("/journal/{row_id}/picture.jpg", response_class=Response, responses=JPEG)
def photo(context: Ctx, row_id: RowId) -> Jpeg:
    """Return the photo of a line."""
    return Jpeg(writing.photo_content(context, row_id))


@router.delete("/journal/{row_id}", status_code=204)
def take_back(context: Ctx, row_id: RowId) -> None:
    """Take a line back; its trace stays on record."""
    writing.take_back(context, row_id)


@router.get("/journal.csv", response_class=Csv, responses=CSV)
def table(context: Ctx) -> Csv:
    """Return every line as a table."""
    return Csv(writing.journal_table(context))
