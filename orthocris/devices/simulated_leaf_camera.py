"""A simulated leaf camera: it shows a leaf grown from a seed, whose truth can be known."""

from __future__ import annotations

from orthocris.core.counting.leaf.scene import LeafPlan, grow

WIDTH = 1200  # pixels


class SimulatedLeafCamera:
    """A lens over one synthetic leaf.

    Parameters
    ----------
    seed, plan:
        The leaf; `grow` tells the truth of it.
    """

    name = "simulated leaf camera"

    def __init__(self, seed: int, plan: LeafPlan, width: int = WIDTH) -> None:
        self._leaf = grow(seed, plan)
        self._width = width

    def take(self) -> bytes:
        """Return its picture, the same each time."""
        from orthocris.devices.painted_leaf import paint  # brushes are loaded at their first use

        return paint(self._leaf, self._width)
