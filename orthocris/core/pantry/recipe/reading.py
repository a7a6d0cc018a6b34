"""Recipes as people say them, read into amounts per litre, word by word and nothing lost."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.amounts import Kitchen
from orthocris.core.pantry.recipe.attaching import attached
from orthocris.core.pantry.recipe.heard import Heard
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.meaning import hear
from orthocris.core.pantry.recipe.parts import Brew, SaidPart, parts_of
from orthocris.core.pantry.recipe.phrases import sentence
from orthocris.core.pantry.recipe.said import Item, Phrase
from orthocris.core.pantry.recipe.tokens import Token, TokenKind, tokens_of
from orthocris.core.pantry.recipes import Part, check_parts
from orthocris.core.pantry.units import UNITS, Region
from orthocris.core.ranges import check_length

LONGEST_RECIPE = 2000  # letters
LONGEST_NUMBER = 12  # figures and signs
LONG_NUMBER = re.compile(rf"\d[\d.,]{{{LONGEST_NUMBER},}}")
MOST_WORDS = 300


@dataclass(frozen=True, slots=True)
class Reading:
    """A recipe read: its parts per litre, and what had to be guessed.

    `volume` is the ready mix it was said for, in ml, None for a bare ratio or strength; `brew`
    what has to be made first; `tokens` the sentence piece by piece. Those that are `open` must
    be settled before a bottle is drawn; `fault` says why there are no parts.
    """

    parts: tuple[Part, ...]
    volume: Fraction | None
    guesses: tuple[str, ...]
    tokens: tuple[Token, ...] = ()
    brew: Brew | None = None
    fault: InputError | None = None

    @property
    def open(self) -> tuple[Token, ...]:
        """The words that were not understood."""
        return tuple(token for token in self.tokens if token.kind is TokenKind.OPEN)


def read_recipe(
    text: str, region: Region = Region.METRIC, drop: Fraction = UNITS["drop"].factor
) -> Reading:
    """Read a recipe as people say it.

    Parameters
    ----------
    text:
        Such as "15 ml/L soap", "1:40 soap", "a heaped dessert spoon of baking soda to a 5-litre
        can and a dash of soap". "1:40" is one part and forty of water; "1 in 40" is one part
        in forty altogether. "In", "to" or "per" a volume is read as topped up to it, unless
        as much as a twentieth of something else is named beside water.
        What is written in [brackets] is a note; a "quoted" name is an ingredient of that name.
    region:
        Whose spoons and gallons are meant.
    drop:
        ml in a drop of the gardener's own dropper.

    Raises
    ------
    InputError
        When no amount can be found, or an amount has no volume to be in.
    """
    found = understand(text, region, drop)
    if found.fault is not None:
        raise InputError(
            found.fault.message, code=found.fault.code, field=found.fault.field, fix=found.fault.fix
        )
    return found


def amount_said(text: str, region: Region, drop: Fraction) -> Fraction | None:
    """Return the ml or g of the one amount in a text such as "32 fl oz soap"; None for no such."""
    _refuse_long(text)
    heard = hear(sentence(text), Kitchen(region, drop))
    if len(heard.poured) != 1 or heard.doubts or heard.volumes:
        return None
    return heard.poured[0].measure.size


@lru_cache(maxsize=2048)
def understand(
    text: str, region: Region = Region.METRIC, drop: Fraction = UNITS["drop"].factor
) -> Reading:
    """Read a recipe as `read_recipe` does, with what can be said of it even where it fails."""
    try:
        _refuse_long(text)
        items = sentence(text)
        _refuse_negative(text, items)
        heard = hear(items, Kitchen(region, drop))
    except InputError as error:
        return Reading((), None, (), fault=_alone(error))
    said: tuple[SaidPart, ...] = ()
    brew, fault = None, None
    try:
        said, brew = parts_of(heard)
        check_parts([one.part for one in said])
    except InputError as error:
        fault = _alone(error)
    tokens = tuple(tokens_of(text, attached(items), heard, said, brew))
    if not said and fault is None:
        fault = _nothing(text, tokens)
    measures = [p.measure for p in heard.poured] + [v.measure for v in heard.volumes]
    guesses = [guess for measure in measures for guess in measure.guesses]
    guesses += [w.guess for i in items if isinstance(i, Phrase) for w in i.row if w.guess]
    guesses += [guess for _, guess in heard.guesses]
    guesses += _added(heard)
    return Reading(
        tuple(one.part for one in said),
        _volume(heard),
        tuple(dict.fromkeys(guesses)),
        tokens,
        brew,
        fault,
    )


def _alone(error: InputError) -> InputError:
    """The error without where it came from: kept with its reading it would keep all of that."""
    error.__context__ = error.__cause__ = None
    return error.with_traceback(None)


def _nothing(text: str, tokens: Sequence[Token]) -> InputError:
    doubt = next((t for t in tokens if t.kind is TokenKind.OPEN), None)
    said = f"no amount was found in {text.strip()[:60]!r}"
    return InputError(
        said if doubt is None else f"{doubt.words!r}: {doubt.taken_for}",
        code="no_amount",
        field="text",
        fix="Say how much of what in how much water, such as 10 ml soap in 1 litre.",
    )


def _refuse_long(text: str) -> None:
    """No recipe has such a number or is so long; refused before anything looks for patterns."""
    check_length(text, LONGEST_RECIPE, "the recipe", "text")
    long = LONG_NUMBER.search(text)
    if long:
        raise InputError(
            f"{long[0][:LONGEST_NUMBER]}… is too long for an amount",
            code="no_amount",
            field="text",
            fix="Give a number of a few figures.",
        )


def _refuse_negative(text: str, items: Sequence[Item]) -> None:
    """A minus at a number is no amount; a dash between numbers, or set apart, is another thing."""
    for before, item in pairwise(items):
        if isinstance(before, Phrase) or not isinstance(item, Phrase):
            continue
        close = before.end == item.start and not text[before.start - 1 : before.start].strip()
        word = before.text == "minus"
        if (before.kind is Kind.DASH and close) or word:
            raise InputError(
                f"minus {text[item.start : item.end]} is less than nothing",
                code="negative_amount",
                field="text",
                fix="Give an amount of 0 or more.",
            )


def _volume(heard: Heard) -> Fraction | None:
    found = [v.ml for v in heard.volumes if (v.how != "per" and v.stage == 0) or v.used]
    return found[-1] if found else None


def _added(heard: Heard) -> Iterator[str]:
    for volume in heard.volumes:
        if volume.used and volume.on_top and volume.how != "water":
            yield f"together {float(volume.ml):g} ml, for the water is added"
