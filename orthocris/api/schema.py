"""The schema of the API: what each route may refuse is told there, and nothing that cannot be."""

from __future__ import annotations

import re
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from orthocris.api.door.gate import OPEN
from orthocris.api.requests import errors_of

READING = ("get", "head")
ABOUT_ONE = re.compile(r"\{\w+\}")  # an address of one thing, which may not be there
# What routes refuse besides: by method, address and status.
BESIDES = tuple(
    (re.compile(method), re.compile(path), statuses)
    for method, path, statuses in (
        ("get", r"/api/door/(authority|code\.svg)", {409}),
        (
            "get",
            r".*/(bottles(/\w+)?|table\.csv|prints|blank\.pdf|sheet\.svg|tags\.svg|labels\.svg)",
            {409},
        ),
        ("get", r".*/verdict(\.pdf|/\w+)?", {409}),
        ("get", r"/api/(places|sampling|year)", {404}),
        ("post", r"/api/queries/proposal", {404}),
        ("post", r"/api/(demo|neighbours)", {409}),
        ("put", r"/api/(door|own-pests/.*|own-remedies/.*|practice/.*)", {409}),
        ("post", r"/api/door/enter", {401, 429}),
        ("put|post", r".*/(picture|lens)", {429}),
    )
)
PLACE = {"description": "Where it is found.", "schema": {"type": "string"}}
THEIRS = ("HTTPValidationError", "ValidationError")  # the library's shape of an error, not ours


def tell_errors(app: FastAPI) -> None:
    """Give an application the schema whose routes tell their errors.

    What a route says itself (`errors_of`) is added to what follows from what it takes.
    """

    def openapi() -> dict[str, Any]:
        if app.openapi_schema is None:
            schema = get_openapi(title=app.title, version=app.version, routes=app.routes)
            for path, methods in schema["paths"].items():
                for method, operation in methods.items():
                    told = errors_of(*_refusals(path, method, operation))
                    if made := operation["responses"].get("201"):
                        made["headers"] = {"Location": PLACE}
                    own = {k: v for k, v in operation["responses"].items() if k != "422"}
                    operation["responses"] = dict(
                        sorted({**{str(k): v for k, v in told.items()}, **own}.items())
                    )
            for name in THEIRS:
                schema["components"]["schemas"].pop(name, None)
            app.openapi_schema = schema
        return app.openapi_schema

    app.openapi = openapi  # type: ignore[method-assign]


def _refusals(path: str, method: str, operation: dict[str, Any]) -> set[int]:
    """The statuses that follow from what a route takes.

    A foreign page and a data file that cannot be used are refused everywhere, a device that was not
    let in wherever there is a door.
    """
    told = {403, 503}
    asked = operation.get("parameters", [])
    body = operation.get("requestBody")
    if path not in OPEN:
        told.add(401)
    if asked or body:
        told.add(422)
    if body:
        told.add(413)
        if "application/json" in body["content"]:
            told.add(400)
    if any(one["name"] == "If-Match" for one in asked):
        told.add(412)
    if ABOUT_ONE.search(path):
        told.add(404)
    if method not in READING and "{trial_id}" in path:
        told.add(409)  # of a trial that was put away
    if any(one["name"] == "Idempotency-Key" for one in asked):
        told.add(409)  # of a key that came with something else
    for methods, paths, statuses in BESIDES:
        if methods.fullmatch(method) and paths.fullmatch(path):
            told |= statuses
    return told
