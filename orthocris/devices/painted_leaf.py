"""Painting a synthetic leaf as a lens would show it: blade, veins, light, what lies on it."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

from orthocris.core.counting.leaf.looks import CARD, CREATURES, PATCHES, Colour, CreatureLook
from orthocris.core.counting.leaf.scene import (
    FIRST,
    HEIGHT,
    LAST,
    MIDDLE,
    Figure,
    Leaf,
    patch_field,
)

Pixels = NDArray[np.float64]
FINER = 2  # painted so much finer than shown: smooth edges
INK = (0.10, 0.10, 0.09)
SIDE_VEINS = 7
GRAIN = 0.018  # noise of the sensor, as a share of full scale
QUALITY = 90


def paint(leaf: Leaf, width: int) -> bytes:
    """Return the picture of a leaf as JPEG, `width` pixels wide."""
    rng = np.random.default_rng([leaf.seed, 79])
    size = (width * FINER, round(width * HEIGHT) * FINER)
    card = PATCHES[leaf.pest].card if leaf.pest in PATCHES else CARD
    image = Image.new("RGB", size, _rgb(card))
    pen = ImageDraw.Draw(image)
    _paint_blade(pen, leaf, size[0])
    shown = _shrunk(image, width)
    if leaf.patches:
        shown = _with_patches(shown, leaf, width)
    image = Image.fromarray(_bytes(shown)).resize(size, Image.Resampling.BICUBIC)
    pen = ImageDraw.Draw(image, "RGBA")
    look = CREATURES.get(leaf.pest)
    if look is not None:
        # What lies about is below what is counted.
        for figure in sorted(leaf.figures, key=lambda f: f.thing in ("live", "young", "dead")):
            _paint_figure(pen, leaf, look, figure, rng)
    shown = _lit(_shrunk(image, width), leaf)
    shown += rng.normal(0, GRAIN, shown.shape)
    out = io.BytesIO()
    softened = Image.fromarray(_bytes(shown)).filter(ImageFilter.GaussianBlur(0.6))
    softened.save(out, "JPEG", quality=QUALITY)
    return out.getvalue()


def _paint_blade(pen: ImageDraw.ImageDraw, leaf: Leaf, width: int) -> None:
    xs = np.linspace(FIRST, LAST, 120)
    upper = [(x * width, (MIDDLE - leaf.half_width(float(x))) * width) for x in xs]
    lower = [(x * width, (MIDDLE + leaf.half_width(float(x))) * width) for x in xs[::-1]]
    pen.polygon(upper + lower, fill=_rgb(leaf.green))
    pale = _mixed(leaf.green, (0.75, 0.82, 0.55), 0.35)
    line = max(round(width * 0.004), 1)
    stalk = [((FIRST - 0.06) * width, MIDDLE * width), (LAST * width, MIDDLE * width)]
    pen.line(stalk, fill=_rgb(pale), width=2 * line)
    for x in np.linspace(FIRST + 0.08, LAST - 0.26, SIDE_VEINS):
        for side in (-1, 1):
            vein = list(_side_vein(leaf, float(x), side))
            pen.line([(a * width, b * width) for a, b in vein], fill=_rgb(pale), width=line)


def _side_vein(leaf: Leaf, x: float, side: int) -> Iterator[tuple[float, float]]:
    for step in np.linspace(0, 1, 12):
        at = x + 0.12 * float(step)
        yield at, MIDDLE + side * 0.88 * float(step) ** 0.8 * leaf.half_width(at)


def _with_patches(shown: Pixels, leaf: Leaf, width: int) -> Pixels:
    look = PATCHES[leaf.pest]
    field = patch_field(leaf, width)
    # Half way through at the edge that the truth is told by.
    depth = np.clip(field / max(look.softness, 0.05) + 0.5, 0, 1) * (field > -1)
    alpha = np.minimum(depth, 0.95)[:, :, None]
    return np.asarray(shown * (1 - alpha) + np.array(look.colour) * alpha)


def _paint_figure(
    pen: ImageDraw.ImageDraw,
    leaf: Leaf,
    look: CreatureLook,
    figure: Figure,
    rng: np.random.Generator,
) -> None:
    width = pen.im.size[0] if pen.im else 0
    slender = {"eggs": 0.7, "honeydew": 0.9, "wax": 0.8}.get(figure.thing, look.slender)
    ragged = {"dead": 0.14, "wax": 0.3, "skin": 0.08}.get(figure.thing, 0.02)
    outline = _outline(look, figure, slender, ragged, rng) * width
    points = [(float(x), float(y)) for x, y in outline]
    line = max(round(width * 0.0012), 1)
    match figure.thing:
        case "honeydew":
            pen.polygon(points, fill=(*_rgb((1.0, 1.0, 0.94)), 70))
            _shine(pen, figure, width, 0.22)
        case "wax":
            pen.polygon(points, fill=(*_rgb((0.98, 0.98, 0.98)), 150))
        case "skin":
            pen.polygon(points, fill=(*_rgb((0.95, 0.95, 0.92)), 150))
            pen.line([*points, points[0]], fill=(*_rgb((0.98, 0.98, 0.96)), 220), width=line)
        case "dead":
            pen.polygon(points, fill=(*_rgb(look.dead), 245))
        case "eggs":
            pen.polygon(points, fill=(*_rgb(look.egg), 255))
            _shine(pen, figure, width, 0.18)
        case stage:
            body = look.young if stage == "young" or leaf.body is None else leaf.body
            if look.legs:
                _legs(pen, figure, look, width, line)
            pen.polygon(points, fill=(*_rgb(body), 255))
            pen.line([*points, points[0]], fill=(*_rgb(_mixed(body, INK, 0.55)), 255), width=line)
            _shine(pen, figure, width, 0.2)


def _outline(
    look: CreatureLook, figure: Figure, slender: float, ragged: float, rng: np.random.Generator
) -> Pixels:
    """Return the outline of a figure, points by (x, y) as shares of the width."""
    turn = np.linspace(0, 2 * math.pi, 28, endpoint=False)
    rough = 1 + ragged * rng.normal(0, 1, len(turn))
    along = 0.5 * figure.length * np.cos(turn) * rough
    across = 0.5 * figure.length * slender * np.sin(turn) * rough
    if look.shape == "pear" and figure.thing in ("live", "young", "dead", "skin"):
        across *= 0.85 + 0.35 * np.cos(turn)
    cos, sin = math.cos(figure.angle), math.sin(figure.angle)
    return np.column_stack(
        (figure.x + along * cos - across * sin, figure.y + along * sin + across * cos)
    )


def _legs(
    pen: ImageDraw.ImageDraw, figure: Figure, look: CreatureLook, width: int, line: int
) -> None:
    cos, sin = math.cos(figure.angle), math.sin(figure.angle)
    for at in (-0.2, 0.05, 0.28):
        for side in (-1, 1):
            reach = side * look.slender * 0.95 * figure.length
            ends = []
            for along, across in ((at, 0.0), (at + 0.12, reach / figure.length)):
                x, y = along * figure.length, across * figure.length
                ends.append(
                    ((figure.x + x * cos - y * sin) * width, (figure.y + x * sin + y * cos) * width)
                )
            pen.line(ends, fill=(*_rgb(INK), 200), width=line)


def _shine(pen: ImageDraw.ImageDraw, figure: Figure, width: int, share: float) -> None:
    radius = 0.5 * share * figure.length * width
    x, y = (figure.x - 0.08 * figure.length) * width, (figure.y - 0.1 * figure.length) * width
    pen.ellipse((x - radius, y - radius, x + radius, y + radius), fill=(255, 255, 255, 120))


def _lit(shown: Pixels, leaf: Leaf) -> Pixels:
    """Let light fall from one side, as it does through a lens."""
    height, width = shown.shape[:2]
    xs, ys = np.linspace(-0.5, 0.5, width), np.linspace(-0.375, 0.375, height)
    toward = xs[None, :] * math.cos(leaf.light) + ys[:, None] * math.sin(leaf.light)
    return shown * (1 + 1.4 * leaf.shade * toward)[:, :, None]


def _shrunk(image: Image.Image, width: int) -> Pixels:
    small = image.resize((width, round(width * HEIGHT)), Image.Resampling.BOX)
    return np.asarray(small, np.float64) / 255


def _bytes(shown: Pixels) -> NDArray[np.uint8]:
    return np.clip(np.round(shown * 255), 0, 255).astype(np.uint8)


def _rgb(colour: Colour) -> tuple[int, int, int]:
    red, green, blue = (round(255 * part) for part in colour)
    return red, green, blue


def _mixed(a: Colour, b: Colour, share: float) -> Colour:
    red, green, blue = (x + (y - x) * share for x, y in zip(a, b, strict=True))
    return red, green, blue
