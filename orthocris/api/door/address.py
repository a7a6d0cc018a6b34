"""The address that codes on prints carry."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request

from orthocris.services.door.network import Network


def address_for_prints(request: Request) -> str:
    """Return where a phone finds the program; where the door is shut, where it was asked."""
    home: Network | None = request.app.state.network
    if home is not None and home.opened is not None:
        return home.opened.address
    return str(request.base_url).rstrip("/")


def phones_can_open(request: Request) -> bool:
    """Tell whether a phone can open what a printed code leads to."""
    home: Network | None = request.app.state.network
    return home is not None and home.opened is not None


Address = Annotated[str, Depends(address_for_prints)]
ForPhones = Annotated[bool, Depends(phones_can_open)]
