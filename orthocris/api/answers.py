"""Answers as they go over the wire: compressed, and not sent again while they are the same."""

from __future__ import annotations

import gzip
import hashlib
import re
from functools import lru_cache

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

LEAST = 1000  # bytes; less is not worth compressing
LARGE = 64_000  # bytes; more keeps others waiting while it is compressed
# Pictures, packages and PDFs are packed already.
TEXT = re.compile(r"text/.*|application/json|image/svg\+xml")
LEVEL = 4  # of gzip: most of the gain for little time


class Answers:
    """Gives every good answer to a GET under /api an ETag, answers 304, and compresses texts.

    An answer that names its own ETag (a revision) keeps it.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one connection."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            await self._app(scope, receive, send)
            return
        await self._app(scope, receive, _Held(Headers(scope=scope), scope["method"], send))


class _Held:
    """Holds an answer back until it is whole, for its tag and its length are those of the whole."""

    def __init__(self, asked: Headers, method: str, send: Send) -> None:
        self._asked = asked
        self._method = method
        self._send = send
        self._start: Message = {}
        self._body = b""

    async def __call__(self, message: Message) -> None:
        """Take a part of the answer; send it once it is whole."""
        if message["type"] == "http.response.start":
            self._start = message
            return
        self._body += message.get("body", b"")
        if message.get("more_body", False):
            return
        headers = MutableHeaders(scope=self._start)
        if self._method == "GET" and self._start["status"] == 200:
            tag = headers.setdefault("ETag", tag_of(self._body))
            headers["Cache-Control"] = "private, no-cache"
            if tag in _tags(self._asked.get("if-none-match", "")):
                self._start = {**self._start, "status": 304}
                self._body = b""
                del headers["Content-Length"]
        await self._compress(headers)
        await self._send({**self._start, "headers": headers.raw})
        await self._send({"type": "http.response.body", "body": self._body})

    async def _compress(self, headers: MutableHeaders) -> None:
        kind = headers.get("content-type", "").partition(";")[0]
        if len(self._body) < LEAST or "content-encoding" in headers or not TEXT.fullmatch(kind):
            return
        headers.add_vary_header("Accept-Encoding")
        if "gzip" in self._asked.get("accept-encoding", ""):
            small = len(self._body) < LARGE  # a thread for so little would cost more
            self._body = (
                _compressed(self._body)
                if small
                else await run_in_threadpool(_compressed, self._body)
            )
            headers["Content-Encoding"] = "gzip"
            headers["Content-Length"] = str(len(self._body))


@lru_cache(maxsize=16)
def _compressed(body: bytes) -> bytes:
    """Compress a text; one that was asked for just now is compressed already."""
    return gzip.compress(body, LEVEL, mtime=0)


def tag_of(body: bytes, *revisions: str) -> str:
    """Return a weak tag: the same text compressed or not; with the revisions of its parts."""
    own = hashlib.blake2b(body, digest_size=12).hexdigest()
    return f'W/"{".".join((own, *revisions))}"'


def _tags(header: str) -> set[str]:
    return {tag.strip() for tag in header.split(",")}
