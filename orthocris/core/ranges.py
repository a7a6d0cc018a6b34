"""Numbers with a range each, texts with a length: one check, one message."""

from __future__ import annotations

from collections.abc import Iterable

from orthocris.core.errors import InputError

Range = tuple[str, float, float, str]  # field, least, most, unit


def check_ranges(thing: object, ranges: Iterable[Range]) -> None:
    """Refuse the first field of `thing` outside of its range; None is no number and passes.

    Raises
    ------
    InputError
        Code ``out_of_range``, naming the field and what is allowed.
    """
    for field, low, high, unit in ranges:
        value = getattr(thing, field)
        by = 100 if unit == "%" else 1  # a share is typed in per cent
        if value is not None and not low <= value <= high:
            raise InputError(
                f"{field.replace('_', ' ')} of {value * by:g}{'%' if by > 1 else ''}",
                code="out_of_range",
                field=field,
                fix=f"Give {' '.join((f'{low * by:g} to {high * by:g}', unit)).strip()}.",
            )


def check_length(text: str, most: int, what: str, field: str) -> None:
    """Refuse a text that is too long to be kept whole.

    Raises
    ------
    InputError
        Code ``too_long``, telling how long it is and what is allowed.
    """
    if len(text) > most:
        raise InputError(
            f"{what} is {len(text)} letters long",
            code="too_long",
            field=field,
            fix=f"Use at most {most}; nothing is cut off unseen.",
        )
