"""Answers that are files: their media type as it is sent, and as the schema tells it."""

from __future__ import annotations

from typing import Any

from fastapi.responses import Response


def file_of(media_type: str) -> dict[int | str, dict[str, Any]]:
    """Return the `responses` of a route that answers with a file."""
    content = {media_type: {"schema": {"type": "string"}}}
    return {200: {"description": "The file.", "content": content}}


CSV, SVG, CALENDAR = (file_of(m) for m in ("text/csv", "image/svg+xml", "text/calendar"))
JPEG, PNG, ZIP, PDF = (
    file_of(m) for m in ("image/jpeg", "image/png", "application/zip", "application/pdf")
)


class Csv(Response):
    """A table."""

    media_type = "text/csv"


class Svg(Response):
    """A page to print."""

    media_type = "image/svg+xml"


class Jpeg(Response):
    """A photo."""

    media_type = "image/jpeg"


class Png(Response):
    """A picture to lay over another."""

    media_type = "image/png"


class Pdf(Response):
    """A document."""

    media_type = "application/pdf"


class Zip(Response):
    """Several files in one."""

    media_type = "application/zip"


class Calendar(Response):
    """A calendar file or feed."""

    media_type = "text/calendar"
