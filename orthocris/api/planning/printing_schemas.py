"""Prints over HTTP."""

from __future__ import annotations

from pydantic import BaseModel


class PrintsOut(BaseModel):
    """Addresses of what can be printed, by paper, and whether a phone can open its codes."""

    sheet: dict[str, str]
    tags: dict[str, tuple[str, ...]]
    blank: dict[str, str]
    phones_can_open: bool
