"""The silhouette of a plant tag: a stake with notches cut into its edges, as with scissors.

It is drawn here and nowhere else: prints scale it to millimetres, and the screens read its table
(`python -m orthocris tags`).
"""

from __future__ import annotations

MOST_NOTCHES = 12
PER_EDGE = 6
SHOULDER = 0.78  # of the height: below, the stake runs to its point
DEPTH = 0.26  # of the width
Point = tuple[float, float]


def tag_outline(notches: int) -> tuple[Point, ...]:
    """Return the corners of a tag of width 1 and height 1, from the top left and clockwise.

    Up to six notches are on the right edge, the rest on the left; few are cut wide, so that they
    are seen from afar, and many share the edge evenly.
    """
    right = _notches(min(notches, PER_EDGE), 1.0, -DEPTH)
    left = _notches(max(notches - PER_EDGE, 0), 0.0, DEPTH)[::-1]
    return (
        (0.0, 0.0),
        (1.0, 0.0),
        *right,
        (1.0, SHOULDER),
        (0.5, 1.0),
        (0.0, SHOULDER),
        *left,
    )


def _notches(count: int, edge: float, depth: float) -> list[Point]:
    top = 0.04
    step = (SHOULDER - top) / max(4, count)
    half = step * 0.36
    points = []
    for k in range(count):
        middle = top + step * (k + 0.5)
        points += [(edge, middle - half), (edge + depth, middle), (edge, middle + half)]
    return points
