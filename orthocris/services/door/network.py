"""What the door needs of the network, whoever provides it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True, slots=True)
class Opened:
    """Where other devices find the program, the names it answers to, and how it is trusted.

    `fingerprint` is the SHA-256 of the authority's certificate, to be compared by eye.
    """

    address: str
    others: tuple[str, ...]
    names: frozenset[str]
    fingerprint: str


class Network(Protocol):
    """A second way to the same application, from the home network."""

    @property
    def opened(self) -> Opened | None:
        """Where it is open, None while it is shut."""

    def open(self) -> Opened:
        """Open it, or raise NetworkError; nothing where it is open already."""

    def shut(self) -> None:
        """Shut it; nothing where it is shut."""

    def authority(self) -> bytes:
        """Return the certificate (PEM) by which devices trust this one."""


class DemoGarden(Protocol):
    """The demo world, served beside the gardener's own."""

    def open(self) -> str:
        """Return its address; it is started where it does not run yet."""
