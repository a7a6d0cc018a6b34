"""One place turns every error into the same shape with a fitting status."""

from __future__ import annotations

import logging
import sqlite3
from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from orthocris.core.errors import ConflictError, InputError, NotFoundError, OrthocrisError

_STATUS: tuple[tuple[type[OrthocrisError], int], ...] = (
    (NotFoundError, 404),
    (ConflictError, 409),
    (InputError, 422),
)
_FIX = {
    "missing": "Send this field.",
    "extra_forbidden": "Leave this field out; it may be misspelt.",
    "json_invalid": "Send valid JSON.",
    "finite_number": "Give a plain number such as 12.",
    "float_parsing": "Give a plain number such as 12.",
    "int_parsing": "Give a whole number.",
    "date_from_datetime_parsing": "Give a date such as 2026-05-31.",
}
log = logging.getLogger("orthocris")


def error_response(
    status: int, code: str, message: str, field: str | None = None, fix: str = ""
) -> JSONResponse:
    """Build the one error shape."""
    body = {"error": {"code": code, "message": message, "field": field, "fix": fix}}
    return JSONResponse(body, status_code=status)


def install(app: FastAPI) -> None:
    """Register the handlers."""

    @app.exception_handler(OrthocrisError)
    def ours(_: Request, error: OrthocrisError) -> JSONResponse:
        status = next((code for kind, code in _STATUS if isinstance(error, kind)), 400)
        return error_response(status, error.code, error.message, error.field, error.fix)

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return _first_fault(error.errors())

    @app.exception_handler(HTTPException)
    def http(_: Request, error: HTTPException) -> JSONResponse:
        code = {404: "not_found", 405: "method_not_allowed"}.get(error.status_code, "http")
        return error_response(
            error.status_code, code, str(error.detail), fix="Check the address and the method."
        )

    @app.exception_handler(sqlite3.OperationalError)
    def busy(_: Request, error: sqlite3.OperationalError) -> JSONResponse:
        log.error("the data file could not be used: %s", error)
        return error_response(
            503,
            "data_busy",
            f"the data file could not be used ({error})",
            fix="Try again; if it stays so, check the disk's free space and the file's owner.",
        )


def _first_fault(errors: Sequence[Any]) -> JSONResponse:
    """Turn the first validation fault into the error shape, without echoing what was sent."""
    first = errors[0]
    place = [str(part) for part in first["loc"] if part not in ("body", "path", "query")]
    if first["type"] == "json_invalid":
        place = []
    return error_response(
        422,
        str(first["type"]),
        str(first["msg"]),
        ".".join(place) or None,
        _FIX.get(first["type"], "Correct this value."),
    )
