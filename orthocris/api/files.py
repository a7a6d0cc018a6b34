"""Answers that are files, each with its media type in the schema."""

from __future__ import annotations

from fastapi.responses import Response


class Csv(Response):
    """A table."""

    media_type = "text/csv"


class Svg(Response):
    """A page to print."""

    media_type = "image/svg+xml"


class Calendar(Response):
    """A calendar file or feed."""

    media_type = "text/calendar"
