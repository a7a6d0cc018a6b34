"""A picture as numbers: colours as eyes tell them apart, and which pixels are leaf."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from orthocris.core.errors import InputError

Image = NDArray[np.float64]  # height by width by 3, sRGB from 0 to 1
Mask = NDArray[np.bool_]
# Linear sRGB to XYZ (IEC 61966-2-1), and its white.
TO_XYZ = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
WHITE = TO_XYZ.sum(axis=1)
BORDER = 0.015  # of the width: what lies there is the card, where the leaf does not fill all
GREEN_CARD = 0.06  # excess green above which the border is leaf, too
STALK = 0.02  # of the width: what is thinner is a stalk, or dust on the card
CONTRAST = 8.0  # distance in L*a*b* by which a leaf stands out from its card, at least
SMALLEST_LEAF = 0.03  # of the picture


def lab(image: Image) -> Image:
    """Return the colours in CIE L*a*b* (D65): equal distances look about equally different."""
    linear = np.where(image <= 0.04045, image / 12.92, ((image + 0.055) / 1.055) ** 2.4)
    scaled = linear @ (TO_XYZ.T / WHITE)
    root = np.where(scaled > 216 / 24389, np.cbrt(scaled), (24389 / 27 * scaled + 16) / 116)
    x, y, z = root[..., 0], root[..., 1], root[..., 2]
    return np.stack((116 * y - 16, 500 * (x - y), 200 * (y - z)), axis=-1)


def excess_green(image: Image) -> NDArray[np.float64]:
    """Return (2G - R - B) / (R + G + B): high on green leaf, about 0 on white, grey and black.

    Light that falls off to one side cancels out. Source: Woebbecke et al. 1995, colour indices
    for weed identification (the excess green index on chromatic coordinates).
    """
    total = image.sum(axis=-1)
    red, green, blue = image[..., 0], image[..., 1], image[..., 2]
    return np.asarray((2 * green - red - blue) / np.maximum(total, 0.06))


def leaf_mask(image: Image) -> Mask:
    """Return which pixels are leaf: what differs from the card that the borders show.

    A picture whose borders are green is leaf all over. Holes within the leaf belong to it.

    Raises
    ------
    InputError
        Where nothing stands out from the card.
    """
    edge = max(round(BORDER * image.shape[1]), 2)
    border = np.concatenate(
        [
            part.reshape(-1, 3)
            for part in (image[:edge], image[-edge:], image[:, :edge], image[:, -edge:])
        ]
    )
    if float(np.median(excess_green(border))) > GREEN_CARD:
        return np.ones(image.shape[:2], np.bool_)
    card = np.median(lab(border), axis=0)
    # Lightness counts less: the card has shadows.
    away = np.sqrt((((lab(image) - card) * (0.5, 1.0, 1.0)) ** 2).sum(axis=-1))
    apart = opened(away > otsu(away), STALK * image.shape[1] / 2)
    labels, found = ndimage.label(apart)
    if found:
        sizes = ndimage.sum_labels(apart, labels, range(1, found + 1))
        leaf: Mask = ndimage.binary_fill_holes(labels == 1 + int(np.argmax(sizes)))
        if leaf.mean() >= SMALLEST_LEAF and float(np.median(away[leaf])) > CONTRAST:
            return leaf
    raise InputError(
        "no leaf stands out in the picture",
        code="no_leaf",
        field="picture",
        fix="Lay one leaf flat on a plain card, dark (pale under black film), with the card to be "
        "seen all round, or let the leaf fill the picture.",
    )


def opened(mask: Mask, radius: float) -> Mask:
    """Open a mask by a disc (pixels), through distances, which is quicker for large discs."""
    kept = ndimage.distance_transform_edt(mask) > radius
    if not kept.any():
        return np.zeros_like(mask)
    found: Mask = mask & (ndimage.distance_transform_edt(~kept) <= radius)
    return found


def otsu(values: NDArray[np.float64]) -> float:
    """Return the level that parts values into two groups with the least spread within.

    Source: Otsu 1979, a threshold selection method from grey-level histograms.
    """
    counts, edges = np.histogram(values, bins=128)
    middles = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(counts)
    above = below[-1] - below
    sums = np.cumsum(counts * middles)
    with np.errstate(divide="ignore", invalid="ignore"):
        between = below * above * (sums / below - (sums[-1] - sums) / above) ** 2
    return float(middles[int(np.nanargmax(np.where(np.isfinite(between), between, -1)))])
