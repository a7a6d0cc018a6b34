"""Headers that every answer carries, so that a text entered by a person is never run."""

from __future__ import annotations

from starlette.datastructures import MutableHeaders

POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "font-src 'self'; object-src 'none'; base-uri 'self'; form-action 'self'; "
    "frame-ancestors 'none'"
)


def harden(headers: MutableHeaders, path: str) -> None:
    """Set the headers that every answer carries."""
    headers["X-Content-Type-Options"] = "nosniff"
    headers["Referrer-Policy"] = "no-referrer"
    headers.setdefault("Content-Security-Policy", POLICY)
    if path.startswith("/api/"):
        headers.setdefault("Cache-Control", "no-store")
