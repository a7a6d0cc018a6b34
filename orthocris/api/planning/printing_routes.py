"""Routes of what is printed."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response

from orthocris.api.door.address import Address, ForPhones
from orthocris.api.files import PDF, SVG, Pdf, Svg
from orthocris.api.planning.printing_schemas import PrintsOut
from orthocris.api.requests import Ctx, TrialId
from orthocris.formats.prints import PAPERS
from orthocris.services.planning import printing

router = APIRouter(prefix="/api")


@router.get("/trials/{trial_id}/prints")
def prints(context: Ctx, trial_id: TrialId, for_phones: ForPhones) -> PrintsOut:
    """Return what can be printed."""
    base = f"/api/trials/{trial_id}"
    pages = {paper: printing.tag_pages_of(context, trial_id, paper) for paper in PAPERS}
    return PrintsOut(
        sheet={paper: f"{base}/sheet.svg?paper={paper}" for paper in PAPERS},
        tags={
            paper: tuple(f"{base}/tags.svg?paper={paper}&page={n + 1}" for n in range(count))
            for paper, count in pages.items()
        },
        blank={paper: f"{base}/blank.pdf?paper={paper}" for paper in PAPERS},
        phones_can_open=for_phones,
    )


@router.get("/trials/{trial_id}/blank.pdf", response_class=Response, responses=PDF)
def blank(context: Ctx, trial_id: TrialId, paper: Literal["a4", "letter"] = "a4") -> Pdf:
    """Return sheets to be filled in by hand: one to count on, one to spray by."""
    return Pdf(printing.blank_of(context, trial_id, paper))


@router.get("/trials/{trial_id}/sheet.svg", response_class=Response, responses=SVG)
def sheet(context: Ctx, trial_id: TrialId, address: Address, paper: str = "a4") -> Svg:
    """Return the bench as a sheet; its code leads to the trial."""
    return Svg(printing.sheet_of(context, trial_id, paper, address))


@router.get("/trials/{trial_id}/tags.svg", response_class=Response, responses=SVG)
def tags(
    context: Ctx,
    address: Address,
    trial_id: TrialId,
    paper: str = "a4",
    page: Annotated[int, Query(ge=-(10**6), le=10**6)] = 1,
) -> Svg:
    """Return a page of tags at real size; each code leads to the count of its plant."""
    content = printing.tags_of(context, trial_id, paper, page, address)
    return Svg(content)
