"""Which amount is in which volume, and where named water is added or is the mix.

A part takes the volume that was said with it, else the next one said, else the one before.
Water that is named beside as much as a twentieth of something else is added to it; below that
it is the volume of the mix.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.heard import Heard, Poured, Volume
from orthocris.core.pantry.units import Dimension

ADDED = Fraction(1, 20)  # from this share on, named water is added to what it is named beside
LEAST_MIXED = 50  # ml; nobody mixes less
MISMADE = Fraction(1, 10)  # of the water, by which what is said to come of it may be off
_RESULTS = frozenset({"makes", "yields", "making", "to give"})
_SMALL = frozenset({"ml", "cl", "dl", ""})
_LARGE = frozenset({"l", "ml", "cl", "dl"})  # units that do not count parts


def give_volumes(heard: Heard) -> None:
    """Give every amount its volume: its own, the next one said, else the one before."""
    for stage in (0, 1):
        here: list[Poured | Volume] = [p for p in heard.poured if p.stage == stage]
        here += [v for v in heard.volumes if v.stage == stage]
        order = sorted(here, key=lambda one: (one.phrase.start, isinstance(one, Volume)))
        waiting: list[Poured] = []
        last: Volume | None = None
        leading: Volume | None = None  # "per gallon: ..."
        for one in order:
            if isinstance(one, Poured):
                if one.volume is None:
                    waiting.append(one)
                continue
            led = _led(one, leading, last, waiting)
            if led is not None:
                last, leading = led, led if led.leads else leading
                waiting = []
            elif one.used:  # "10 ml per litre of soap"
                last = last or one
            elif waiting and last is not None and _first_counts(last, one):
                last = _take(last, waiting)
                waiting = []
                _second(heard, last, one)
            elif waiting:
                last = _take(one, waiting)
                waiting = []
            elif last is None:
                last = one
            else:
                _second(heard, last, one)
        if waiting and last is not None:
            _take(last, waiting)


def _led(
    one: Volume, leading: Volume | None, last: Volume | None, waiting: Sequence[Poured]
) -> Volume | None:
    """The volume that counts from here where one is said before its parts; None where none is.

    "Per gallon: 1 ml oil, per quart: 2 ml soap"; "per gallon: 1 ml oil and 2 ml soap per quart".
    """
    if one.leads and not one.used:
        _take(last or one, waiting)
        return _take(one, ())
    own = one.how == "per" or (one.how in ("in", "to") and len(waiting) > 1)
    if leading is not None and waiting and own and not one.used:
        _take(leading, waiting[:-1])
        return _take(one, waiting[-1:])
    return None


def _first_counts(first: Volume, second: Volume) -> bool:
    """ "A litre of water, 20 ml soap, plus 500 ml of water": the soap is in the litre first."""
    unread = first.how == "water" and not first.used
    return unread and second.how not in ("per", "up_to")


def _take(volume: Volume, waiting: Sequence[Poured]) -> Volume:
    volume.used = True
    for part in waiting:
        part.volume = volume
    return volume


def _second(heard: Heard, first: Volume, second: Volume) -> None:
    """A volume when all parts have one: how much is wanted, the whole of it, or a doubt."""
    more = any(one.text.startswith(("another", "more")) for one in second.phrase.row)
    again = first.ml == second.ml and second.how != "water" and not more
    other = second.how == "per" and first.used and not again
    if other and second.phrase.amount is not None and second.phrase.amount.counted:
        heard.doubts.append((second.phrase, "a second volume"))
        return
    if first.how == "per" and second.how == "up_to" and second.ml < LEAST_MIXED:
        heard.doubts.append((second.phrase, "of what?"))  # "can go up to 20 ml"
        return
    if (first.how == "per" and second.how != "water") or second.how == "per" or again:
        return
    if not first.used and second.how != "water":
        return
    if _results(second) and abs(second.ml - first.ml - _within(heard, first)) > MISMADE * first.ml:
        heard.doubts.append((second.phrase, "a second volume"))  # "in 1 litre makes 5 litres"
        return
    plain = not (heard.steeped or heard.strained)
    poured_on = plain and second.how == "water" and first.water and first.how in ("in", "water")
    if poured_on and _figures(first.ml + second.ml) <= max(map(_figures, (first.ml, second.ml))):
        first.measure = replace(first.measure, size=first.ml + second.ml)
        return  # "in 100 ml of hot water, then 900 ml of cold water"
    if second.how in ("up_to", "to") and second.ml > first.ml and first.how in ("in", "water"):
        _take(second, [p for p in heard.poured if p.volume is first])
    elif second.ml < LEAST_MIXED:
        heard.doubts.append((second.phrase, "of what?"))
    else:
        heard.doubts.append((second.phrase, "a second volume"))


def _results(volume: Volume) -> bool:
    """True for "makes 5 litres", which says what comes of it and not what to do."""
    return any(one.text in _RESULTS for one in volume.phrase.row)


def _within(heard: Heard, volume: Volume) -> Fraction:
    return sum((p.measure.size for p in heard.poured if p.volume is volume), Fraction(0))


def add_water(heard: Heard) -> None:
    """Where water itself was named beside much of something else, it is added to it."""
    for volume in heard.volumes:
        parts = [p for p in heard.poured if p.volume is volume and not p.solid]
        liquids = sum(
            (p.measure.size for p in parts if p.measure.dimension is Dimension.VOLUME), Fraction(0)
        )
        if liquids and _is_added(volume, parts, liquids):
            volume.on_top = liquids


def thin_brew(heard: Heard) -> None:
    """What is strained is thinned by the water named after it; other volumes are asked about."""
    made = heard.brewed_in
    if made is None or heard.brew_measured:
        return
    for volume in (v for v in heard.volumes if v.stage == 1 and v is not made):
        loose = volume.how in ("in", "to", "bare") and not volume.used
        if (volume.how == "water" or (loose and volume.water)) and heard.thinned is None:
            volume.on_top += made.ml
            heard.thinned = volume
        elif loose:
            heard.doubts.append((volume.phrase, "a second volume"))


def _is_added(volume: Volume, parts: Sequence[Poured], liquids: Fraction) -> bool:
    unit = volume.phrase.amount.unit if volume.phrase.amount else ""
    alike = all(p.amount.unit == unit for p in parts)
    much = liquids / (liquids + volume.ml) >= ADDED
    if not volume.water:
        return volume.how == "to" and alike and much and unit not in _LARGE
    if volume.how == "up_to":
        return False
    rounder = _figures(liquids + volume.ml) < _figures(volume.ml)
    if alike and parts and unit not in _SMALL and volume.how not in ("in", "per", "vessel"):
        return True  # a cup to fifty cups
    if volume.how in ("in", "per", "vessel"):
        return (alike and much) or (rounder and volume.how != "per")
    return much or rounder


def _figures(ml: Fraction) -> int:
    """How many figures a number of ml has without its last zeros."""
    return len(f"{float(ml):.6f}".rstrip("0").rstrip(".").replace(".", "").rstrip("0")) or 1
