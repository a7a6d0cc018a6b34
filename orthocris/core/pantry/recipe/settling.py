"""What is asked about a phrase, and the ways to settle it: each a change of the sentence."""

from __future__ import annotations

import re
from fractions import Fraction

from orthocris.core.pantry.recipe.doubting import UNNAMED
from orthocris.core.pantry.recipe.heard import Heard
from orthocris.core.pantry.recipe.mixes import ONE_OR_TWO
from orthocris.core.pantry.recipe.said import Choice, Phrase

_ASIDE = re.compile(r"\s*\(([^()]*)\)")


def settling(text: str, phrase: Phrase, why: str, heard: Heard) -> tuple[str, tuple[Choice, ...]]:
    """Return the question and its answers."""
    if why == ONE_OR_TWO:
        return WHY[why], _one_or_two(phrase, heard)
    return _told_twice(text, phrase) or _doubt(phrase, text[phrase.start : phrase.end], why)


def _one_or_two(phrase: Phrase, heard: Heard) -> tuple[Choice, ...]:
    """The ways to settle two volumes: one mix for both, or one of the two mixes."""
    seam = next(one for one in heard.seams if one.phrase == phrase)
    own = next((v for v in heard.volumes if v.phrase == phrase), None)
    first = Choice("only the first", seam.start, seam.until, "")
    both = "one mix for both"
    if own is None or own.how == "per":
        return (Choice(both, seam.start, seam.end, " and "), first)
    if any(v.used and v is not own and v.ml == own.ml for v in heard.volumes):
        return (Choice(both, phrase.start, phrase.end, ""), first)
    return (first,)


WHY = {
    "stock": "is that the bottle's strength, or the one wanted?",
    "a second volume": "a second volume; which one is meant?",
    "of what?": "an amount of what?",
    UNNAMED: "not known here: what is it?",
    "as much as what?": "as much as what?",
    "a strength and an amount": "is that the strength in the mix, or in the bottle?",
    "and the rest?": "it is not the whole: what is the rest?",
    "told again": "the same again: keep one of them",
    "and the water?": "and how much water?",
    ONE_OR_TWO: "a volume of its own: is it one mix or two?",
    "which is water?": "which of the two is the water?",
}


def sides(phrase: Phrase) -> tuple[Choice, ...]:
    """The two ways to mean "vinegar 3:1": three of water, three of vinegar."""
    if phrase.ratio is None or not phrase.things:
        return ()
    one, rest, name = phrase.ratio.one, phrase.ratio.rest, phrase.thing.name
    ways = ((f"{one} of water to {rest}", f"{rest}:{one} {name}"),
            (f"{one} of {name} to {rest}", f"{one} parts {name} to {rest} part water"))  # fmt: skip
    return tuple(Choice(label, phrase.start, phrase.end, text) for label, text in ways)


def _strengths(phrase: Phrase, words: str) -> tuple[Choice, ...]:
    """The ways to mean "oil 2%, 5 ml per litre": of the mix, of the bottle, neither."""
    strength, name = phrase.thing.strength or Fraction(0), phrase.thing.name
    percent = f"{float(strength * 100):g}%"
    said = phrase.amount.said if phrase.amount is not None else ()
    amount = words[said[0].start - phrase.start : said[-1].end - phrase.start] if said else ""
    ways = ((f"{percent} of the mix", f"{percent} {name}, a note: [{amount}]"),
            (f"{amount} from a bottle of {percent}", f"{amount} of {percent} {name}"),
            (f"{amount} as it comes", f"{amount} of {name}"))  # fmt: skip
    return tuple(Choice(label, phrase.start, phrase.end, text) for label, text in ways)


def _told_twice(text: str, phrase: Phrase) -> tuple[str, tuple[Choice, ...]] | None:
    """The two ways to mean "1 tablespoon (5 ml) soap"; None for any other amount."""
    if phrase.sort != "bare":
        return None
    start, words = phrase.start, text[phrase.start : phrase.end]
    after = _ASIDE.match(text, phrase.end)
    within = _ASIDE.search(text, max(0, text.rfind("(", 0, start)))
    if after is not None:
        ways = [(after.end(), after[1]), (after.end(), words)]
    elif within is not None and within.start(1) <= start and phrase.end <= within.end(1):
        start, ways = len(text[: within.start()].rstrip()), [(within.end(), "")]
    else:
        return None
    found = tuple(Choice(f"it is {way}" if way else "leave it out", start, end, way)
                  for end, way in ways)  # fmt: skip
    return "told twice, and not the same", found


def _doubt(phrase: Phrase, words: str, why: str) -> tuple[str, tuple[Choice, ...]]:
    start, end = phrase.start, phrase.end
    note = Choice("it is only a note", start, end, f"[{words}]")
    if why == "which is water?" and phrase.ratio is not None:
        return WHY[why], (*sides(phrase), note)
    if why == "a strength and an amount" and phrase.amount is not None:
        return WHY[why], (*_strengths(phrase, words), note)
    if why == "and the water?":
        stock = f"{words}; 10 ml of this per litre"
        return WHY[why], (Choice("a stock, 10 ml of it to the litre", start, end, stock), note)
    if why != "stock" or not phrase.things or phrase.thing.strength is None:
        return WHY.get(why, why), (note,)
    percent = f"{float(phrase.thing.strength * 100):g}%"
    name = phrase.thing.name
    found = phrase.thing.substance
    usual = found.stock if found else None
    choices = [
        Choice(f"{percent} bottle, used undiluted", start, end, f"undiluted {percent} {name}")
    ]
    if usual is not None and usual > phrase.thing.strength:
        shop = f"{float(usual * 100):g}%"
        choices.append(
            Choice(f"{shop} bottle, thinned to {percent}", start, end,
                   f"{shop} {name} thinned to {percent}")
        )  # fmt: skip
    choices.append(Choice(f"{percent} of the mix is {name} as it comes", start, end,
                          f"{percent} \"{name}\""))  # fmt: skip
    return WHY[why], (*choices, note)
