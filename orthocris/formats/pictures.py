"""Kept pictures as numbers, and masks as pictures."""

from __future__ import annotations

import io

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from orthocris.formats.picture_reading import KINDS, LONGEST_SIDE

COVERED = (226, 88, 255, 150)  # over what counts as covered: no leaf has this colour


def pixels(content: bytes, longest: int = LONGEST_SIDE) -> NDArray[np.float64]:
    """Return a kept picture as numbers from 0 to 1: height by width by red, green and blue.

    It is made smaller where a side has more pixels than `longest`.
    """
    with Image.open(io.BytesIO(content), formats=KINDS) as image:
        shown = image.convert("RGB")
        shown.thumbnail((longest, longest))
        return np.asarray(shown, np.float64) / 255


def overlay(mask: NDArray[np.bool_]) -> bytes:
    """Return a mask as a picture (PNG) to lay over another: coloured where it holds, else clear."""
    shown = np.zeros((*mask.shape, 4), np.uint8)
    shown[mask] = COVERED
    out = io.BytesIO()
    Image.fromarray(shown, "RGBA").quantize(2).save(out, "PNG", optimize=True)
    return out.getvalue()
