"""Pictures in and out: read with care, made smaller, without a word of where and by whom."""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from orthocris.core.errors import InputError

KINDS = ("JPEG", "PNG", "WEBP")
MOST_PIXELS = 60_000_000  # what a phone of today makes, and some more
LONGEST_SIDE = 1600  # pixels of what is kept
QUALITY = 85
COVERED = (226, 88, 255, 150)  # over what counts as covered: no leaf has this colour


@dataclass(frozen=True, slots=True)
class KeptPicture:
    """A picture as it is kept: JPEG, upright, small, with nothing told beside what it shows."""

    content: bytes
    width: int
    height: int


def as_kept(content: bytes) -> KeptPicture:
    """Return a picture as it is kept: turned upright, made smaller, its particulars removed.

    Place, time, device and thumbnail that a phone writes into a picture are gone; only the
    pixels are taken over.

    Raises
    ------
    InputError
        For what is no picture, is damaged, or is far too large.
    """
    try:
        with Image.open(io.BytesIO(content), formats=KINDS) as image:
            if image.width * image.height > MOST_PIXELS:
                raise _refused(f"a picture of {image.width} by {image.height} pixels", "too_large")
            image.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))  # quicker where it is far larger
            upright = ImageOps.exif_transpose(image).convert("RGB")
    except UnidentifiedImageError:
        raise _refused("this is no picture in a known form", "no_picture") from None
    except Image.DecompressionBombError:
        raise _refused("a picture with too many pixels", "too_large") from None
    except (OSError, ValueError, SyntaxError, EOFError):
        raise _refused("the picture is damaged", "damaged_picture") from None
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=QUALITY)
    return KeptPicture(out.getvalue(), plain.width, plain.height)


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


def _refused(what: str, code: str) -> InputError:
    return InputError(
        what,
        code=code,
        field="picture",
        fix="Send a JPEG, PNG or WebP picture of at most 60 million pixels; phones that make HEIC "
        "can be set to the most compatible form.",
    )
