"""Prints over HTTP."""

from __future__ import annotations

from pydantic import BaseModel


class PrintsOut(BaseModel):
    """Addresses of what can be printed, by paper."""

    sheet: dict[str, str]
    tags: dict[str, tuple[str, ...]]
