"""The door: only this machine's own pages may talk to the application."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orthocris.api.errors import error_response

OWN_NAMES = frozenset({"127.0.0.1", "localhost", "::1"})
MAX_BODY = 2_000_000  # bytes
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "font-src 'self'; object-src 'none'; base-uri 'self'; form-action 'self'; "
    "frame-ancestors 'none'"
)


class Guard:
    """Refuses requests with a foreign Host (DNS rebinding) or Origin (other sites' scripts).

    It also refuses bodies that no honest page sends, and sets the headers that keep a text
    entered by a person from ever being run.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one connection."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = _refusal(headers)
        if refusal is not None:
            status, code, message, fix = refusal
            await error_response(status, code, message, fix=fix)(scope, receive, send)
            return

        async def hardened(message: Message) -> None:
            if message["type"] == "http.response.start":
                out = MutableHeaders(scope=message)
                out["X-Content-Type-Options"] = "nosniff"
                out["Referrer-Policy"] = "no-referrer"
                out.setdefault("Content-Security-Policy", POLICY)
                if scope["path"].startswith("/api/"):
                    out["Cache-Control"] = "no-store"
            await send(message)

        await self._app(scope, receive, hardened)


def _refusal(headers: Headers) -> tuple[int, str, str, str] | None:
    host = _name(f"//{headers.get('host', '')}")
    if host not in OWN_NAMES:
        return (
            403,
            "foreign_host",
            "the Host header does not name this machine",
            "Open the address that was printed at the start.",
        )
    origin = headers.get("origin")
    if origin is not None and urlsplit(origin).netloc != headers.get("host"):
        return (
            403,
            "foreign_origin",
            "the request comes from another site's page",
            "Use the application's own page.",
        )
    length = headers.get("content-length", "0")
    if not length.isdigit() or int(length) > MAX_BODY:
        return (
            413,
            "too_large",
            f"the request is larger than {MAX_BODY} bytes",
            "Send less at once.",
        )
    return None


def _name(address: str) -> str | None:
    try:
        return urlsplit(address).hostname
    except ValueError:
        return None
