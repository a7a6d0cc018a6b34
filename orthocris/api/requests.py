"""What requests carry: the context, ids, revisions and keys; and the errors all may answer."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import Depends, Header, Path, Request, Response
from pydantic import BaseModel

from orthocris.services.context import Context
from orthocris.services.trial.questions import check_on_list


class ErrorBody(BaseModel):
    """What is wrong, where, and what to do."""

    code: str
    message: str
    field: str | None
    fix: str


class ErrorOut(BaseModel):
    """The shape of every error; what else is wrong with the same form stands in `more`."""

    error: ErrorBody
    more: tuple[ErrorBody, ...] = ()


_REASONS = {
    400: "Bad Request",
    401: "Unauthorized",
    403: "Forbidden",
    404: "Not Found",
    409: "Conflict",
    412: "Precondition Failed",
    413: "Content Too Large",
    422: "Unprocessable Content",
    429: "Too Many Requests",
    503: "Service Unavailable",
}
# Told by a reference: a model for each of them on each route would double the time of a start.
_ERROR = {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorOut"}}}


def errors_of(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """Return answers that are errors, as the schema tells of them."""
    return {status: {"description": _REASONS[status], "content": _ERROR} for status in statuses}


async def context_of(request: Request) -> Context:
    """Return the context the application was made with (async: no thread for so little)."""
    context: Context = request.app.state.context
    return context


# What may be done with a trial that was put away: reading it, and these.
_STILL_ALLOWED = frozenset({"remove_trial", "bring_back"})


def on_the_list(request: Request) -> None:
    """Refuse every change of a trial that was put away."""
    trial = request.path_params.get("trial_id", "")
    if request.method in ("GET", "HEAD") or not trial.isdecimal():
        return
    name = getattr(request.scope.get("endpoint"), "__name__", "")
    if "/queries/" not in request.url.path and name not in _STILL_ALLOWED:
        context: Context = request.app.state.context
        check_on_list(context, int(trial))


DEVICE = "orthocris.device"  # in a request's scope: what the device that was let in calls itself


async def device_of(request: Request) -> str:
    """Return what the asking device calls itself; empty for this machine."""
    return str(request.scope.get(DEVICE, ""))


Device = Annotated[str, Depends(device_of)]
Ctx = Annotated[Context, Depends(context_of)]
TrialId = Annotated[int, Path(ge=1, le=2**31 - 1)]
PlantId = Annotated[int, Path(ge=1, le=2**31 - 1)]
RowId = Annotated[int, Path(ge=1, le=2**31 - 1)]
# The number of a look (0 is the count before) or of a round.
DayNumber = Annotated[int, Path(ge=0, le=1000)]


async def _place_of(response: Response) -> Callable[[str], None]:
    """Return what says where a thing that was made is found (the header Location)."""

    def made_at(path: str) -> None:
        response.headers["Location"] = path

    return made_at


MadeAt = Annotated[Callable[[str], None], Depends(_place_of)]
# What was read (a revision): a change is refused with 412 when it was changed since.
IfMatch = Annotated[str | None, Header(alias="If-Match", max_length=120)]
# The sender's own name of a creation: sent twice, it is made once.
Key = Annotated[str | None, Header(alias="Idempotency-Key", min_length=8, max_length=80)]
