"""The spotter: proposes where on a picture of a leaf something sits, and what it may be.

It proposes; a person confirms or removes. It knows the looks in `looks`, which are typical.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage
from scipy.spatial import cKDTree

from orthocris.core.counting.leaf.looks import CREATURES, Colour, CreatureLook
from orthocris.core.counting.leaf.pixels import Image, Mask, lab, leaf_mask, opened
from orthocris.core.counting.leaf.scene import STAGES, Stage, Thing, size_of
from orthocris.core.errors import InputError

STAND_OUT = 13.0  # distance in L*a*b* from the leaf round about
ROUND_ABOUT = 0.06  # of the width: what the leaf looks like there (a median)
COARSE = 8  # the surroundings are looked at in coarser pixels
SMALLEST = 0.35  # of the length of the smallest thing that is counted
MOST = 500
COLOUR_SPREAD = 14.0  # of one kind, in L*a*b*
LIGHT = 0.6  # lightness counts less, for light falls unevenly
LENGTH_SPREAD = 0.3  # of one kind, on the log scale
VEIN = 0.012  # veins are thinner than this share of the width …
LONG = 0.07  # … and longer than this
VEIN_LIKE = 8.0  # distance in L*a*b* from the line on which the colours of veins lie
MORE_THAN_VEIN = 2.0  # times as far from the leaf as veins usually are
LITTER_COLOURS: dict[Thing, Colour] = {
    "skin": (0.80, 0.83, 0.74),
    "wax": (0.78, 0.83, 0.74),
    "honeydew": (0.60, 0.70, 0.50),
}


@dataclass(frozen=True, slots=True)
class Spot:
    """Something found: its middle and length as shares of the picture's width, and its stage."""

    x: float
    y: float
    length: float
    stage: Stage


@dataclass(frozen=True, slots=True)
class _Kind:
    thing: Thing
    colour: NDArray[np.float64]
    length: float


@dataclass(frozen=True, slots=True)
class _Named:
    """What a piece was taken for (None: nothing that is counted), and how unlike that it is."""

    spot: Spot | None
    unlike: float


def spot(image: Image, pest: str) -> tuple[Spot, ...]:
    """Propose what is on a leaf, from left to right.

    Raises
    ------
    InputError
        For a pest whose look is not known, or where no leaf stands out.
    """
    look = CREATURES.get(pest)
    if look is None:
        raise InputError(
            f"{pest} has no look to go by",
            code="no_look",
            field="pest",
            fix="Tap the marks yourself, or measure the covered share.",
        )
    width = image.shape[1]
    colours = lab(ndimage.gaussian_filter(image, (0.7, 0.7, 0)))
    leaf = leaf_mask(image)
    kinds = _kinds(look)
    smallest = min(kind.length for kind in kinds if kind.thing in STAGES) * width
    blobs = _stand_out(colours, leaf, SMALLEST * smallest)
    found: list[Spot] = []
    labels, count = ndimage.label(blobs)
    for number, box in enumerate(ndimage.find_objects(labels, count), 1):
        corner = (box[0].start, box[1].start)
        found += _told_apart(labels[box] == number, corner, colours, kinds, smallest)
    return tuple(sorted(found, key=lambda s: s.x)[:MOST])


def _told_apart(
    blob: Mask,
    corner: tuple[int, int],
    colours: Image,
    kinds: tuple[_Kind, ...],
    smallest: float,
) -> list[Spot]:
    """Take a blob for one thing, or for several that touch, whichever is more like what it knows.

    `corner` is the row and column at which the blob's box begins in the picture.
    """
    pieces = [piece + np.array(corner)[:, None] for piece in _pieces(blob, smallest)]
    whole = np.argwhere(blob).T + np.array(corner)[:, None]
    as_one = _named(whole, colours, kinds)
    as_several = [named for piece in pieces if (named := _named(piece, colours, kinds))]
    if as_one is None or (
        len(as_several) > 1 and np.mean([named.unlike for named in as_several]) < as_one.unlike
    ):
        names = as_several
    else:
        names = [as_one]
    return [named.spot for named in names if named.spot is not None]


def _kinds(look: CreatureLook) -> tuple[_Kind, ...]:
    shown: list[tuple[Thing, Colour]] = [("live", body) for body in look.bodies]
    shown += [("young", look.young), ("eggs", look.egg), ("dead", look.dead)]
    litter: dict[Thing, bool] = {"skin": look.skins, "wax": look.wax, "honeydew": look.honeydew}
    shown += [(thing, LITTER_COLOURS[thing]) for thing, lies in litter.items() if lies]
    return tuple(
        _Kind(thing, lab(np.array([[colour]]))[0, 0], size_of(look, thing))
        for thing, colour in shown
    )


def _stand_out(colours: Image, leaf: Mask, thinnest: float) -> Mask:
    """Return what differs from the leaf round about it and is no vein."""
    size = max(round(ROUND_ABOUT * colours.shape[1] / COARSE), 3)
    coarse = colours[::COARSE, ::COARSE]
    # Beyond the edge it is as on the leaf beside it, so that the edge does not stand out.
    nearest = ndimage.distance_transform_edt(
        ~leaf[::COARSE, ::COARSE], return_distances=False, return_indices=True
    )
    coarse = coarse[tuple(nearest)]
    around = np.stack([ndimage.median_filter(coarse[..., k], size) for k in range(3)], axis=-1)
    zoom = (colours.shape[0] / around.shape[0], colours.shape[1] / around.shape[1], 1)
    ours = colours - ndimage.zoom(around, zoom, order=1)
    away = np.sqrt((ours**2).sum(axis=-1))
    inner = ndimage.distance_transform_edt(leaf) > 3
    blobs = (away > STAND_OUT) & inner
    blobs &= ~_veins(blobs, ours)
    return opened(ndimage.binary_fill_holes(blobs), max(thinnest / 2, 1.0))


def _veins(blobs: Mask, ours: Image) -> Mask:
    """Return what is thin and part of something long, in the colour of most of that."""
    width = blobs.shape[1]
    thin = blobs & ~opened(blobs, VEIN * width / 2)
    labels, count = ndimage.label(thin, np.ones((3, 3)))
    sides = [
        max(piece[0].stop - piece[0].start, piece[1].stop - piece[1].start) > LONG * width
        for piece in ndimage.find_objects(labels, count)
    ]
    vein: Mask = np.isin(labels, 1 + np.flatnonzero(sides))
    if not vein.any():
        return vein
    usual = np.median(ours[vein], axis=0)
    # Fine ones are blurred into the leaf and thick ones stand out more, all in one direction.
    much = (ours @ usual) / float(usual @ usual)
    aside = np.sqrt(((ours - much[..., None] * usual) ** 2).sum(axis=-1))
    alike: Mask = thin & (aside < VEIN_LIKE) & (much < MORE_THAN_VEIN)
    return alike


def _pieces(blobs: Mask, smallest: float) -> list[NDArray[np.intp]]:
    """Part blobs that touch: every peak of the depth within has what lies nearest to it."""
    depth = ndimage.gaussian_filter(ndimage.distance_transform_edt(blobs), 1.0)
    reach = max(round(0.8 * smallest), 3)
    peaks = (depth == ndimage.maximum_filter(depth, reach)) & blobs
    marks, count = ndimage.label(peaks)
    if not count:
        return []
    pixels = np.argwhere(blobs)
    middles = np.array(ndimage.center_of_mass(peaks, marks, range(1, count + 1)))
    nearest = np.asarray(cKDTree(middles).query(pixels)[1])
    order = np.argsort(nearest, kind="stable")
    cuts = np.searchsorted(nearest[order], np.arange(1, count))
    return [piece.T for piece in np.split(pixels[order], cuts)]


def _named(piece: NDArray[np.intp], colours: Image, kinds: tuple[_Kind, ...]) -> _Named | None:
    """Name a piece by what it is most like; None where it is too small to be anything."""
    if piece.shape[1] < 4:
        return None
    rows, columns = piece
    width = colours.shape[1]
    spread = np.linalg.eigvalsh(np.cov(piece.astype(np.float64)))
    length = 4 * math.sqrt(max(float(spread[-1]), 1e-9)) / width  # of a filled ellipse
    colour = np.median(colours[rows, columns], axis=0)
    unlike, most = min(
        ((_unlike(kind, colour, length), kind) for kind in kinds), key=lambda pair: pair[0]
    )
    if most.thing not in STAGES:
        return _Named(None, unlike)
    x, y = float(columns.mean() / width), float(rows.mean() / width)
    return _Named(Spot(x, y, length, most.thing), unlike)


def _unlike(kind: _Kind, colour: NDArray[np.float64], length: float) -> float:
    """Return how unlike a kind something is: 1 for a usual difference in colour or in length."""
    apart = float(np.sqrt((((colour - kind.colour) * (LIGHT, 1.0, 1.0)) ** 2).sum()))
    return (apart / COLOUR_SPREAD) ** 2 + (math.log(length / kind.length) / LENGTH_SPREAD) ** 2
