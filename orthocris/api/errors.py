"""One place turns every error into the same shape with a fitting status."""

from __future__ import annotations

import logging
import sqlite3
from collections.abc import Mapping, Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException
from starlette.routing import Match

from orthocris.api.headers import harden
from orthocris.core.errors import (
    ChangedElsewhereError,
    ConflictError,
    InputError,
    NetworkError,
    NotAdmittedError,
    NotFoundError,
    OrthocrisError,
    TooManyError,
)
from orthocris.storage.soundness import DatabaseError

_STATUS: tuple[tuple[type[OrthocrisError], int], ...] = (
    (NotAdmittedError, 401),
    (NotFoundError, 404),
    (ChangedElsewhereError, 412),
    (ConflictError, 409),
    (InputError, 422),
    (TooManyError, 429),
    (DatabaseError, 503),
    (NetworkError, 503),
)
_FIX = {
    "missing": "Send this field.",
    "string_too_short": "Fill it in.",
    "extra_forbidden": "Leave this field out; it may be misspelt.",
    "json_invalid": "Send valid JSON.",
    "finite_number": "Give a plain number such as 12.",
    "float_parsing": "Give a plain number such as 12.",
    "int_parsing": "Give a whole number.",
    "far_date": "Give a date such as 2026-05-31.",
    "date_from_datetime_parsing": "Give a date such as 2026-05-31.",
    "control_character": "Type it anew; what was pasted held signs that cannot be seen.",
}
# What the library says of a text in words of its own.
_SAID = {
    "string_too_short": "nothing was entered here",
    "string_too_long": "this text is too long",
    "missing": "this is not there",
}
_HTTP_CODES = {404: "not_found", 405: "method_not_allowed", 413: "too_large"}
# What a rule of the schema that no check before it caught says, by a word of its message.
_INTEGRITY = (
    ("FOREIGN KEY", 409, "gone", "something this belongs to is not there (any more)"),
    ("UNIQUE", 409, "already_there", "this is there already"),
)
MOST_FAULTS = 20  # told at once
log = logging.getLogger("orthocris")


def error_response(
    status: int,
    code: str,
    message: str,
    field: str | None = None,
    fix: str = "",
    headers: Mapping[str, str] | None = None,
    more: Sequence[Mapping[str, str | None]] = (),
) -> JSONResponse:
    """Build the one error shape; `more` are the other faults of what was sent."""
    error = {"code": code, "message": message, "field": field, "fix": fix}
    body = {"error": error, "more": list(more)} if more else {"error": error}
    return JSONResponse(body, status_code=status, headers=headers)


def _told(error: OrthocrisError) -> dict[str, str | None]:
    return {"code": error.code, "message": error.message, "field": error.field, "fix": error.fix}


def install(app: FastAPI) -> None:
    """Register the handlers."""

    @app.exception_handler(OrthocrisError)
    def ours(_: Request, error: OrthocrisError) -> JSONResponse:
        status = next((code for kind, code in _STATUS if isinstance(error, kind)), 400)
        more = [_told(one) for one in error.more]
        return error_response(status, error.code, error.message, error.field, error.fix, more=more)

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first, *more = [_fault(one) for one in error.errors()[:MOST_FAULTS]]
        return error_response(422, **first, more=more)

    @app.exception_handler(HTTPException)
    def http(request: Request, error: HTTPException) -> JSONResponse:
        code = _HTTP_CODES.get(error.status_code, "http")
        headers = error.headers
        if error.status_code == 405:
            headers = {"Allow": ", ".join(allowed_methods(request))}
        fix = "Send less at once." if code == "too_large" else "Check the address and the method."
        return error_response(error.status_code, code, str(error.detail), fix=fix, headers=headers)

    @app.exception_handler(sqlite3.DatabaseError)
    def data(_: Request, error: sqlite3.DatabaseError) -> JSONResponse:
        return _of_database(error)

    @app.exception_handler(Exception)
    def unforeseen(request: Request, error: Exception) -> JSONResponse:
        # The server logs the error itself; this answer is sent outside the guard.
        answer = error_response(
            500,
            "unforeseen",
            "the program made a mistake of its own",
            fix="Reload the page and see whether it was kept; if it happens again, report what you "
            "did.",
        )
        harden(answer.headers, request.url.path)
        return answer


# What reading the data may raise before the application itself is asked.
DATA_FAULTS = (sqlite3.DatabaseError, OrthocrisError)


def of_data(error: sqlite3.DatabaseError | OrthocrisError) -> JSONResponse:
    """Say why the data could not be read, whoever found out."""
    if isinstance(error, sqlite3.DatabaseError):
        return _of_database(error)
    return error_response(503, error.code, error.message, fix=error.fix)


def _of_database(error: sqlite3.DatabaseError) -> JSONResponse:
    """Say what the data file refused: a rule of its own, being busy or gone, or being damaged."""
    said = str(error)
    if isinstance(error, sqlite3.IntegrityError):
        for word, status, code, message in _INTEGRITY:
            if word in said:
                return error_response(status, code, message, fix="Reload the page and try again.")
        log.error("a rule of the data refused what no check before it did: %s", said)
        return error_response(
            422,
            "rule_of_the_data",
            "a value breaks a rule of the data",
            fix="Correct what was entered; names must hold letters, numbers lie in their range.",
        )
    log.error("the data file could not be used: %s", said)
    if "unable to open" in said:
        return error_response(
            503,
            "data_gone",
            "the data file is not where it was",
            fix="Put it back where it lay, or start the program again.",
        )
    if isinstance(error, sqlite3.OperationalError):
        return error_response(
            503,
            "data_busy",
            f"the data file could not be used ({said})",
            fix="Try again; if it stays so, check the disk's free space and the file's owner.",
        )
    return error_response(
        503,
        "data_damaged",
        f"the data file is damaged ({said})",
        fix="Stop the program and put back a copy of the file; keep the damaged one too.",
    )


def _fault(found: Any) -> dict[str, Any]:
    """One validation fault, without echoing what was sent."""
    place = [str(part) for part in found["loc"] if part not in ("body", "path", "query")]
    if found["type"] == "json_invalid":
        place = []
    return {
        "code": str(found["type"]),
        "message": _SAID.get(found["type"], str(found["msg"])),
        "field": ".".join(place) or None,
        "fix": _FIX.get(found["type"], "Correct this value."),
    }


def allowed_methods(request: Request) -> list[str]:
    """The methods of every route at this address, not only of the first that fits it."""
    exact = [r for r in request.app.routes if ":path" not in getattr(r, "path", "")]
    return [
        method
        for method in ("DELETE", "GET", "PATCH", "POST", "PUT")
        if any(r.matches({**request.scope, "method": method})[0] is Match.FULL for r in exact)
    ]
