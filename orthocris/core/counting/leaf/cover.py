"""How much of a leaf is covered: film, spots, pustules, by how far they are from healthy green."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from orthocris.core.counting.leaf.pixels import Image, Mask, excess_green, leaf_mask
from orthocris.core.counting.notebook import HALF_WAY
from orthocris.core.errors import InputError

HEALTHY = 0.85  # quantile of green on the leaf that is taken for healthy
NEARLY = 0.9  # of that green: pixels that are healthy, too
TRIMS = 5
FEWEST = 50  # pixels by which a plane is laid
LEAST_GREEN = 0.12  # a leaf with less than this is not green at all, or covered all over
SMOOTH = 5  # pixels of the median that takes away grain and thin veins


@dataclass(frozen=True, slots=True)
class Cover:
    """What share of a leaf is covered, in per cent, at a threshold, and where (`mask`).

    `of_leaf` is the share of the picture that is leaf; pixels of it that are covered are `mask`.
    """

    percent: float
    threshold: float
    of_leaf: float
    mask: Mask
    leaf: Mask


def measure_cover(image: Image, threshold: float = HALF_WAY) -> Cover:
    """Measure what share of the leaf in a picture is no longer green.

    Parameters
    ----------
    image:
        One leaf on a plain card, or a part of a leaf that fills the picture; sRGB, 0 to 1.
    threshold:
        How far from the green of the healthy part (0) towards no green at all (1) a pixel must
        be to count as covered. A film that is thin needs less, a pale or yellow leaf more.

    Raises
    ------
    InputError
        For a threshold outside 0 to 1, or where no leaf stands out.

    Notes
    -----
    Healthy is what the greenest sixth of the leaf shows; on a leaf covered all but entirely there
    is none, and the answer is too low. Red or variegated leaves cannot be measured in this way.
    """
    if not 0 < threshold < 1:
        raise InputError(
            f"a threshold of {threshold:g}",
            code="bad_threshold",
            field="threshold",
            fix="Give a number between 0 and 1; 0.5 is half way from green.",
        )
    leaf = leaf_mask(image)
    shown = ndimage.median_filter(image, (SMOOTH, SMOOTH, 1))
    covered = leaf & (1 - _green(shown) / _healthy(shown, leaf) > threshold)
    covered = ndimage.binary_opening(covered, iterations=1)
    percent = 100 * float(covered.sum() / leaf.sum())
    return Cover(percent, threshold, float(leaf.mean()), covered, leaf)


def _green(image: Image) -> NDArray[np.float64]:
    """Return 2G - R - B, which falls in step with how much of a pixel is covered."""
    return np.asarray(2 * image[..., 1] - image[..., 0] - image[..., 2])


def _healthy(image: Image, leaf: Mask) -> NDArray[np.float64]:
    """Return how green each pixel would be on healthy leaf (a plane: light falls unevenly)."""
    index = excess_green(image)
    level = max(float(np.quantile(index[leaf], HEALTHY)), LEAST_GREEN)
    rows, columns = np.nonzero(leaf & (index > NEARLY * level))
    height, width = leaf.shape
    if len(rows) < FEWEST:
        return np.full(leaf.shape, LEAST_GREEN)
    sides = np.column_stack((np.ones(len(rows)), columns / width, rows / height))
    green_there = _green(image)[rows, columns]
    plane, *_ = np.linalg.lstsq(sides, green_there, rcond=None)
    for _ in range(TRIMS):  # thin dark film is green still, only less so: it is left out
        most = green_there > NEARLY * (sides @ plane)
        if most.sum() < FEWEST:
            break
        plane, *_ = np.linalg.lstsq(sides[most], green_there[most], rcond=None)
    across, down = np.arange(width) / width, np.arange(height) / height
    green = plane[0] + plane[1] * across[None, :] + plane[2] * down[:, None]
    return np.asarray(np.maximum(green, LEAST_GREEN / 2))
