"""What pests and diseases look like under a lens: shapes, sizes and colours, roughly.

Typical looks, drawn from what pests.json says of live, dead and not counted; one species of each
stands for many. Lengths are fractions of the width of a picture that shows one leaf.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Colour = tuple[float, float, float]  # sRGB, 0 to 1
# What a leaf is laid on: matt dark blue; under black film a pale one, or its edges cannot be told.
CARD: Colour = (0.19, 0.22, 0.30)
PALE_CARD: Colour = (0.86, 0.86, 0.90)
Shape = Literal["oval", "pear", "dome", "slim"]


@dataclass(frozen=True, slots=True)
class CreatureLook:
    """How the individuals of a pest look.

    `bodies` are the colours a live one may have (one of them on one leaf); `length` is that of an
    adult, `slender` its width as a share of its length; `young_size` and `egg_size` are lengths as
    shares of the adult's. `skins`, `wax` and `honeydew` say what else lies about and is not
    counted.
    """

    shape: Shape
    bodies: tuple[Colour, ...]
    young: Colour
    dead: Colour
    egg: Colour
    length: float
    slender: float
    young_size: float
    egg_size: float
    legs: bool = True
    skins: bool = False
    wax: bool = False
    honeydew: bool = False


@dataclass(frozen=True, slots=True)
class PatchLook:
    """How a disease or film looks: its colour, and the radius of one patch."""

    colour: Colour
    radius: float
    softness: float  # of its edge, as a share of the radius
    card: Colour = CARD


CREATURES: dict[str, CreatureLook] = {
    "aphids": CreatureLook(
        "pear",
        ((0.16, 0.19, 0.15), (0.80, 0.84, 0.46), (0.66, 0.30, 0.34)),
        (0.83, 0.86, 0.55),
        (0.60, 0.43, 0.26),
        (0.10, 0.09, 0.10),
        0.034,
        0.62,
        0.5,
        0.3,
        skins=True,
        honeydew=True,
    ),
    "whiteflies": CreatureLook(
        "oval",
        ((0.90, 0.93, 0.72),),
        (0.93, 0.95, 0.80),
        (0.46, 0.33, 0.20),
        (0.35, 0.26, 0.22),
        0.024,
        0.66,
        0.6,
        0.32,
        legs=False,
        honeydew=True,
    ),
    "spider_mites": CreatureLook(
        "oval",
        ((0.78, 0.36, 0.18), (0.88, 0.82, 0.50)),
        (0.90, 0.84, 0.56),
        (0.34, 0.26, 0.22),
        (0.95, 0.93, 0.86),
        0.022,
        0.68,
        0.6,
        0.36,
        skins=True,
    ),
    "mealybugs": CreatureLook(
        "oval",
        ((0.95, 0.93, 0.92),),
        (0.94, 0.84, 0.82),
        (0.55, 0.44, 0.36),
        (0.96, 0.80, 0.55),
        0.044,
        0.55,
        0.5,
        0.2,
        legs=False,
        wax=True,
        honeydew=True,
    ),
    "scale_insects": CreatureLook(
        "dome",
        ((0.52, 0.30, 0.14),),
        (0.90, 0.68, 0.36),
        (0.75, 0.70, 0.64),
        (0.95, 0.72, 0.50),
        0.038,
        0.78,
        0.35,
        0.2,
        legs=False,
        honeydew=True,
    ),
    "thrips": CreatureLook(
        "slim",
        ((0.18, 0.14, 0.12),),
        (0.92, 0.86, 0.50),
        (0.55, 0.45, 0.38),
        (0.90, 0.92, 0.82),
        0.036,
        0.24,
        0.65,
        0.25,
        legs=False,
    ),
}

PATCHES: dict[str, PatchLook] = {
    "powdery_mildew": PatchLook((0.93, 0.94, 0.92), 0.055, 0.5),
    "leaf_spot": PatchLook((0.42, 0.28, 0.16), 0.030, 0.25),
    "rust": PatchLook((0.82, 0.44, 0.13), 0.014, 0.3),
    "sooty_mould": PatchLook((0.15, 0.15, 0.14), 0.070, 0.6, PALE_CARD),
}
