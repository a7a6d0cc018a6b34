"""Printing a trial's layout: the sheet, the tags, and sheets to be filled in by hand."""

from __future__ import annotations

from orthocris.core.errors import ConflictError
from orthocris.core.planning.neighbours import shields_needed
from orthocris.core.trial.trial import Trial
from orthocris.formats.prints import paper_named, sheet_svg, tag_pages, tags_svg
from orthocris.services.context import Context
from orthocris.services.trial.own_pests import pest_of
from orthocris.storage import weather as yard
from orthocris.storage.trial import reading


def sheet_of(context: Context, trial_id: int, paper: str, address: str) -> bytes:
    """Return the bench as a sheet (SVG); its code leads to the trial at an address."""
    trial = _drawn(context, trial_id)
    with context.database.reading() as connection:
        region = yard.load(connection).region
    return sheet_svg(trial, paper_named(paper), shields_needed(trial), region, address)


def tags_of(context: Context, trial_id: int, paper: str, page: int, address: str) -> bytes:
    """Return a page of tags at real size (SVG)."""
    return tags_svg(_drawn(context, trial_id), paper_named(paper), page, address)


def tag_pages_of(context: Context, trial_id: int, paper: str) -> int:
    """Return how many pages the tags fill."""
    return tag_pages(_drawn(context, trial_id), paper_named(paper))


def blank_of(context: Context, trial_id: int, paper: str) -> bytes:
    """Return sheets to count on and to spray by (PDF), in walking order."""
    from orthocris.formats.blank_sheets import blank_sheets  # loaded with its faces, when asked for

    trial = _drawn(context, trial_id)
    with context.database.reading() as connection:
        pest = pest_of(connection, trial.pest)
    helps = (pest.where, pest.count_what, pest.dead_or_alive) if pest else ()
    return blank_sheets(trial, [line for line in helps if line], paper=paper)


def _drawn(context: Context, trial_id: int) -> Trial:
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
    if not trial.laid_out:
        raise ConflictError(
            "there are no tags before the layout is drawn",
            code="not_drawn",
            fix="Draw the layout first.",
        )
    return trial
