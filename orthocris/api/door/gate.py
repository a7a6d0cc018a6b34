"""The gate before the application for other devices: nothing of the trials without a session."""

from __future__ import annotations

from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orthocris.api.errors import DATA_FAULTS, error_response, of_data
from orthocris.api.guard import NAMES
from orthocris.api.headers import harden
from orthocris.api.requests import DEVICE
from orthocris.services.context import Context
from orthocris.services.door import admission

# Kept by the browser for this very address and for https alone, and told to no script.
COOKIE = "__Host-orthocris"
# To let oneself in and out, and to come to trust the certificate.
OPEN = frozenset({"/api/door/enter", "/api/door/authority", "/api/health"})
# What is looked after on the machine itself: the door, and what holds the whole garden.
ONLY_HERE = ("/api/door", "/api/backups", "/api/moving", "/api/demo")
OWN_SESSION = frozenset({"/api/door/leave"})


class Gate:
    """Lets requests of the home network through that carry a session.

    The pages themselves hold nothing of anybody and are open, so that a passcode can be asked for.
    The door and the copies are looked after on the machine itself alone.
    """

    def __init__(self, app: ASGIApp, context: Context, names: Callable[[], frozenset[str]]) -> None:
        self._app = app
        self._context = context
        self._names = names

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one connection."""
        if scope["type"] != "http":
            return
        path = scope["path"]
        inside = {**scope, NAMES: self._names()}
        if not path.startswith("/api/") or path in OPEN:
            await self._app(inside, receive, send)
            return
        token = token_of(Headers(scope=scope).get("cookie", ""))
        device: admission.Admitted | None = None
        refusal: Response | None = None
        try:
            if token is not None:
                device = await run_in_threadpool(admission.admitted, self._context, token)
        except DATA_FAULTS as error:
            refusal = of_data(error)
        if refusal is not None:
            pass
        elif token is None or device is None:
            refusal = error_response(
                401, "not_admitted", "this device was not let in", fix="Give the passcode."
            )
        elif path.startswith(ONLY_HERE) and path not in OWN_SESSION:
            refusal = error_response(
                403,
                "only_here",
                "the door and the copies are looked after on the machine itself",
                fix="Open the Yard there.",
            )
        else:
            inside[DEVICE] = device.device
            again = _with_cookie(send, token) if device.renewed else send
            await self._app(inside, receive, again)
            return
        harden(refusal.headers, path)
        await refusal(scope, receive, send)


def give_cookie(answer: Response, token: str) -> None:
    """Let a browser carry its session for as long as an unused one lasts."""
    answer.set_cookie(
        COOKIE,
        token,
        max_age=round(admission.UNUSED.total_seconds()),
        path="/",
        secure=True,
        httponly=True,
        samesite="strict",
    )


def _with_cookie(send: Send, token: str) -> Send:
    """Send an answer that gives the cookie anew: a device that comes often stays let in."""
    given = Response()
    give_cookie(given, token)

    async def sent(message: Message) -> None:
        if message["type"] == "http.response.start":
            MutableHeaders(scope=message).append("set-cookie", given.headers["set-cookie"])
        await send(message)

    return sent


def token_of(cookies: str) -> str | None:
    """Return what a device carries, None where it carries nothing."""
    try:
        found = SimpleCookie(cookies).get(COOKIE)
    except CookieError:
        return None
    return found.value if found else None
