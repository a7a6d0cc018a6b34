"""Making a strong thing weak: stock to strength, one part in N, brews in two steps, bottles."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from orthocris.core.errors import InputError

LEAST = Fraction(1, 1_000_000)  # the weakest share worth a thought


def volume_for(plants: int, ml_per_plant: Fraction, margin: Fraction) -> Fraction:
    """Return the mix needed: plants × ml per plant, plus a margin (a fraction, such as 1/10)."""
    if plants < 1 or ml_per_plant <= 0 or not 0 <= margin <= 1:
        raise InputError(
            f"{plants} plants of {float(ml_per_plant):g} ml and {float(margin):.0%} more",
            code="bad_volume",
            field="plants",
            fix="Give at least one plant, ml above 0, and a margin from 0 to 100%.",
        )
    return plants * ml_per_plant * (1 + margin)


def dilute(stock: Fraction, wanted: Fraction, volume: Fraction) -> Fraction:
    """Return the ml of stock for a volume at the wanted strength: C1·V1 = C2·V2.

    `stock` and `wanted` are shares in the same unit (0.03 for 3%).

    Examples
    --------
    >>> dilute(Fraction(3, 100), Fraction(1, 200), Fraction(600))
    Fraction(100, 1)
    """
    if not LEAST <= stock <= 1 or not LEAST <= wanted <= 1 or volume <= 0:
        raise InputError(
            f"{float(stock):.3%} to {float(wanted):.3%} in {float(volume):g} ml",
            code="bad_strength",
            field="stock",
            fix="Give strengths from 0.0001 to 100%, and a volume above 0.",
        )
    if wanted > stock:
        raise InputError(
            f"the stock has {float(stock):.3%}, weaker than the {float(wanted):.3%} wanted",
            code="stock_too_weak",
            field="wanted",
            fix="Water makes it weaker, never stronger: get a stronger stock or want less.",
        )
    return wanted * volume / stock


def share_of_parts(parts: Fraction, *, altogether: bool) -> Fraction:
    """Return the share of one part in `parts` altogether, or of one part and `parts` of water.

    Examples
    --------
    >>> share_of_parts(Fraction(40), altogether=True), share_of_parts(Fraction(40),
    ...     altogether=False)
    (Fraction(1, 40), Fraction(1, 41))
    """
    if parts < (1 if altogether else 0) or parts > 1_000_000:
        raise InputError(
            f"one part in {float(parts):g}",
            code="bad_ratio",
            field="parts",
            fix="Give how many parts there are altogether, 1 or more.",
        )
    return 1 / (parts if altogether else parts + 1)


@dataclass(frozen=True, slots=True)
class DilutionStep:
    """One step: `take` ml of what came before and `water` ml make `makes` ml."""

    take: Fraction
    water: Fraction
    makes: Fraction


def dilution_steps(
    shares: Sequence[Fraction], volume: Fraction, least: Fraction = Fraction(0)
) -> tuple[DilutionStep, ...]:
    """Return the steps of a brew or a stock diluted several times, the first step first.

    Parameters
    ----------
    shares:
        What each step takes of the one before (1/10: one part in ten altogether).
    volume:
        Ready mix after the last step, ml.
    least:
        The least that can be measured, ml: an earlier step makes more than is needed rather
        than asking for less than that.

    Examples
    --------
    >>> [float(s.take) for s in dilution_steps([Fraction(1, 10), Fraction(1, 40)], Fraction(1000))]
    [2.5, 25.0]
    """
    if not shares or not all(0 < share <= 1 for share in shares) or volume <= 0:
        raise InputError(
            "this is no dilution",
            code="bad_ratio",
            field="parts",
            fix="Give one part in 1 or more at each step, and a volume above 0.",
        )
    steps: list[DilutionStep] = []
    needed = volume
    for k, share in enumerate(reversed(shares)):
        take = needed * share
        makes = needed
        if k and take < least:  # the last step's volume is what was asked for
            take, makes = least, least / share
        steps.append(DilutionStep(take, makes - take, makes))
        needed = take
    return tuple(reversed(steps))


def bottle_for(volume: Fraction, bottles: Sequence[Fraction], headroom: Fraction) -> Fraction:
    """Return the smallest bottle (ml) that holds a volume and leaves room to shake.

    `headroom` is the share of the bottle to stay empty.
    """
    for bottle in sorted(bottles):
        if bottle * (1 - headroom) >= volume:
            return bottle
    raise InputError(
        f"no bottle holds {float(volume):g} ml with room to shake",
        code="no_bottle",
        field="bottles",
        fix="Mix it in two batches, or use a larger one.",
    )
