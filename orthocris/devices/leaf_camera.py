"""The leaf camera: what the program asks of a lens clipped to a phone or a small microscope."""

from __future__ import annotations

from typing import Protocol


class LeafCamera(Protocol):
    """A lens that shows one leaf, or whatever stands in for it."""

    @property
    def name(self) -> str:
        """What the gardener calls it."""

    def take(self) -> bytes:
        """Return a picture of the leaf that lies under the lens now (JPEG or PNG)."""
