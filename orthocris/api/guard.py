"""The guard: only the application's own pages may talk to it, by the names it answers to."""

from __future__ import annotations

import re
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orthocris.api.errors import error_response
from orthocris.api.headers import harden

OWN_NAMES = frozenset({"127.0.0.1", "localhost", "::1"})
NAMES = (
    "orthocris.names"  # in a request's scope: the hosts it may name, when it came from elsewhere
)
MAX_BODY = 2_000_000  # bytes
MAX_TABLE = 12_000_000  # bytes; five years of hours fill about 2.5 million
TABLES = frozenset({"/api/weather/table"})
MAX_PACKAGE = 200_000_000  # bytes; some hundred photos
PACKAGES = frozenset({"/api/queries/bundle", "/api/neighbours", "/api/moving", "/api/moving/look"})
PICTURE = re.compile(r"/api/(notes|journal)/\d+/picture")  # as a phone makes them
READING = frozenset({"GET", "HEAD", "OPTIONS"})
OWN_SITES = frozenset({"same-origin", "none"})
LONGEST_PATH = 250  # characters; a file system refuses longer names, and no page has one
Refusal = tuple[int, str, str, str]


class Guard:
    """Refuses requests with a foreign Host (DNS rebinding) or Origin (other sites' scripts).

    It also refuses addresses and bodies that no honest page sends, answers HEAD as GET without
    a body, and sets the headers that keep a text entered by a person from ever being run.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one connection."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        head = scope["method"] == "HEAD"

        async def hardened(message: Message) -> None:
            if message["type"] == "http.response.start":
                harden(MutableHeaders(scope=message), scope["path"])
            elif head and message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        most = _most(scope["path"])
        names = scope.get(NAMES, OWN_NAMES)
        refusal = _bad_path(scope["path"]) or _refusal(
            Headers(scope=scope), most, names, changes=scope["method"] not in READING
        )
        if refusal is not None:
            status, code, message, fix = refusal
            await error_response(status, code, message, fix=fix)(scope, receive, hardened)
            return
        asked = {**scope, "method": "GET"} if head else scope
        await self._app(asked, _bounded(receive, most), hardened)


def _most(path: str) -> int:
    """How many bytes a request to an address may have."""
    if path in PACKAGES:
        return MAX_PACKAGE
    return MAX_TABLE if path in TABLES or PICTURE.fullmatch(path) else MAX_BODY


def _bounded(receive: Receive, most: int) -> Receive:
    """Count the body as it comes in: a body sent in chunks tells no length beforehand."""
    got = 0

    async def counted() -> Message:
        nonlocal got
        message = await receive()
        got += len(message.get("body", b""))
        if got > most:
            raise HTTPException(413, f"the request is larger than {most} bytes")
        return message

    return counted


def _bad_path(path: str) -> Refusal | None:
    if len(path) <= LONGEST_PATH and path.isprintable():
        return None
    return (
        404,
        "not_found",
        "the address is longer than any page has, or holds signs that no address has",
        "Check the address.",
    )


def _refusal(
    headers: Headers, most: int, names: frozenset[str], *, changes: bool
) -> Refusal | None:
    host = _name(f"//{headers.get('host', '')}")
    if host not in names:
        return (
            403,
            "foreign_host",
            "the Host header does not name this machine",
            "Open the address that was printed at the start.",
        )
    origin = headers.get("origin")
    foreign = origin is not None and _place(origin) != headers.get("host")
    # A browser that tells no origin still tells this; whoever follows a link only reads.
    if foreign or (changes and headers.get("sec-fetch-site", "none") not in OWN_SITES):
        return (
            403,
            "foreign_origin",
            "the request comes from another site's page",
            "Use the application's own page.",
        )
    length = headers.get("content-length", "0")
    if not (length.isascii() and length.isdigit()) or len(length) > 12 or int(length) > most:
        return (413, "too_large", f"the request is larger than {most} bytes", "Send less at once.")
    return None


def _name(address: str) -> str | None:
    try:
        return urlsplit(address).hostname
    except ValueError:
        return None


def _place(address: str) -> str | None:
    try:
        return urlsplit(address).netloc
    except ValueError:
        return None
