"""What the phrases of a recipe come to, heard one after the other."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from fractions import Fraction

from orthocris.core.pantry.recipe.amounts import Kitchen, measure_of
from orthocris.core.pantry.recipe.asides import TOLD_TWICE
from orthocris.core.pantry.recipe.attaching import attached
from orthocris.core.pantry.recipe.doubting import (
    ALIKE,
    ask_about_the_rest,
    ask_which_share,
    ask_which_strength,
    definite,
    is_stock,
)
from orthocris.core.pantry.recipe.heard import Counted, Heard, Poured, Share, Volume
from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme
from orthocris.core.pantry.recipe.mixes import ask_whether_one
from orthocris.core.pantry.recipe.row import Ratio
from orthocris.core.pantry.recipe.said import Amount, Item, Phrase, Thing
from orthocris.core.pantry.recipe.titles import TITLE
from orthocris.core.pantry.recipe.volumes import LEAST_MIXED, add_water, give_volumes, thin_brew
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.pantry.units import Dimension

MANY = 10  # nobody thins so many parts with one of water
_THINNING = ("dilut", "thin", "water", "let down", "cut", "weaken")


def hear(items: Sequence[Item], kitchen: Kitchen) -> Heard:
    """Gather what the phrases say, each amount with its volume."""
    heard = Heard()
    row = attached(items)
    _Hearing(heard, kitchen).all(row)
    give_volumes(heard)
    ask_whether_one(heard, row)
    add_water(heard)
    ask_which_strength(heard)
    ask_which_share(heard)
    thin_brew(heard)
    ask_about_the_rest(heard)
    return heard


def _of_a_mix(thing: Thing, amount: Amount) -> bool:
    """True for an amount of a mix at a strength, not of a bottle that is bought at one."""
    bought = thing.substance is not None and thing.substance.has(Trait.STOCK)
    return thing.strength is not None and not bought and not amount.small


def _is_thinning(word: Lexeme) -> bool:
    return word.kind is Kind.THIN or (word.kind is Kind.VERB and word.text.startswith(_THINNING))


class _Hearing:
    """Goes over the items once, from the beginning."""

    def __init__(self, heard: Heard, kitchen: Kitchen) -> None:
        self._heard, self._kitchen = heard, kitchen
        self._stage = 0
        self._solid = False
        self._after: Phrase | None = None
        self._told_twice = False
        self._titled = False  # "stock: ..."
        self._measured = False  # so much of a mix at a strength was told
        self._thins = False  # "dilute" was said, and what is thinned is made

    def all(self, items: Iterable[Item]) -> None:
        row = list(items)
        for place, item in enumerate(row):
            if isinstance(item, Phrase):
                beside = row[place + 1] if place + 1 < len(row) else item
                self._told_twice = isinstance(beside, Lexeme) and beside.value == TOLD_TWICE
                self._after = next((o for o in row[place + 1 :] if isinstance(o, Phrase)), None)
                self._phrase(item)
            else:
                self._word(item)

    def _word(self, item: Item) -> None:
        assert not isinstance(item, Phrase)  # noqa: S101 - asked only of loose words
        if item.kind is Kind.STEEP:
            self._heard.steeped = True
            self._heard.how = self._heard.how or item.text
        elif item.kind is Kind.STRAIN:
            self._heard.strained = True
            self._stage = 1 if self._solid else self._stage
        elif item.kind is Kind.TIME and self._heard.minutes is None:
            minutes = item.value
            if (self._heard.steeped or self._solid) and self._stage == 0:
                self._heard.minutes = Fraction(str(minutes))
        elif item.value == TITLE:
            self._titled = True
        elif _is_thinning(item):
            self._stage = 1 if self._solid else self._stage
            self._thins = bool(self._heard.poured)

    def _phrase(self, phrase: Phrase) -> None:
        for one in phrase.row:
            if one.kind is Kind.STEEP:
                self._word(one)
        again = any(self._is_what_was_told(t) for t in phrase.things)
        if self._solid and (phrase.ratio is not None or any(t.brew for t in phrase.things)):
            self._stage = 1
        elif again:
            self._stage, self._heard.mother = 1, True
        said = getattr(self, f"_{phrase.sort}", None)
        if said is None:
            self._volume_said(phrase)
        else:
            said(phrase)

    def _is_what_was_told(self, thing: Thing) -> bool:
        """True for "10 ml of this" after amounts or parts, and of a "stock" in no volume yet."""
        told = self._heard.poured or self._heard.counted
        stock = is_stock(thing) and (self._titled or not self._heard.volumes)
        return bool(told) and (definite(thing) or stock)

    def _pour(self, phrase: Phrase, thing: Thing, amount: Amount) -> None:
        if thing.brew and amount.weighs and thing.substance is not None:
            name = thing.name.rpartition(" ")[0] or thing.name  # "garlic tea: 3 cloves"
            thing = replace(thing, brew=False, name=name)
        measure = measure_of(amount, thing, self._kitchen)
        volume = None
        if phrase.per is not None:
            inside = measure_of(phrase.per, None, self._kitchen)
            volume = Volume(inside, "per", phrase, self._stage, used=True)
            self._heard.volumes.append(volume)
        found = Poured(thing, measure, amount, phrase, self._stage, volume)
        self._solid = self._solid or found.solid
        self._heard.poured.append(found)

    def _amount_first(self, phrase: Phrase) -> None:
        assert phrase.amount is not None  # noqa: S101 - the grammar's rule has one
        for thing in phrase.things:
            if _of_a_mix(thing, phrase.amount) and not self._is_stock(phrase):  # 2 l of 1% oil
                if self._measured:  # "500 ml of 1% soap and 500 ml of 0.5% oil"
                    self._heard.doubts.append((phrase, "a second volume"))
                self._measured = True
                self._lone(replace(phrase, things=(thing,)))
                self._volume_said(phrase)
            else:
                self._pour(phrase, thing, phrase.amount)

    def _is_stock(self, phrase: Phrase) -> bool:
        """True for "100 ml of 20% soap per litre": an amount of a stock, and not of the mix."""
        after = self._after
        if phrase.per is not None:
            return True
        inside = after is not None and after.sort == "volume" and after.joint != "UP_TO"
        return inside and not any(one.kind is Kind.VESSEL for one in (after or phrase).row)

    _name_first = _each = _amount_first

    def _same(self, phrase: Phrase) -> None:
        factor = phrase.number or Fraction(1)
        if phrase.thing.water and self._solid and self._stage:  # as much water as brew
            thinned = Counted(phrase.thing, factor, phrase, False, self._stage)
            self._heard.counted.append(thinned)
            return
        before = self._heard.poured[-1] if self._heard.poured else None
        if before is None:
            self._heard.doubts.append((phrase, "as much as what?"))
            return
        amount = replace(before.amount, number=before.amount.number * factor)
        if phrase.thing.water:
            size = measure_of(amount, None, self._kitchen)
            self._heard.volumes.append(Volume(size, "water", phrase, self._stage))
        else:
            self._pour(phrase, phrase.thing, amount)

    def _more(self, phrase: Phrase) -> None:
        """ "two spoons of oil and one of soap"."""
        before = self._heard.poured[-1] if self._heard.poured else None
        if before is None or phrase.number is None:
            self._heard.doubts.append((phrase, "of what?"))
        else:
            self._pour(phrase, phrase.thing, replace(before.amount, number=phrase.number))

    def _proportion(self, phrase: Phrase) -> None:
        for thing, number in zip(phrase.things, phrase.proportion, strict=True):
            self._heard.counted.append(Counted(thing, number, phrase, False, self._stage))

    def _strength(self, phrase: Phrase) -> None:
        """ "Use at 10%", "dilute to 20%": of what was steeped."""
        if self._solid and phrase.share is not None:
            self._stage = 1
            self._share(phrase, phrase.share, Thing("the brew", brew=True))
        else:
            self._heard.doubts.append((phrase, "of what?"))

    def _rest(self, phrase: Phrase) -> None:
        """The share of water follows from the others, and has to fit them."""
        if phrase.share is not None:
            self._heard.water = (phrase, phrase.share)

    def _dose(self, phrase: Phrase) -> None:
        """What each plant gets is no part of the mix."""

    def _thinned_with(self, phrase: Phrase) -> None:
        times = phrase.number or Fraction(1)
        self._share(phrase, 1 / (1 + times))

    def _share(self, phrase: Phrase, share: Fraction, thing: Thing | None = None) -> None:
        found = Share(thing or phrase.thing, share, phrase, self._stage)
        self._heard.shares.append(found)

    def _lone(self, phrase: Phrase) -> None:
        thing = phrase.thing
        found = thing.substance
        if found is not None and found.has(Trait.STOCK):
            self._heard.doubts.append((phrase, "stock"))
        else:
            self._share(phrase, thing.strength or Fraction(0), replace(thing, strength=None))

    def _of_stock(self, phrase: Phrase) -> None:
        self._share(phrase, phrase.share or Fraction(0))

    def _thinned(self, phrase: Phrase) -> None:
        stock = phrase.thing.strength or Fraction(0)
        self._share(phrase, phrase.share / stock if phrase.share and stock else Fraction(0))

    def _thinned_from(self, phrase: Phrase) -> None:
        wanted, stock = phrase.thing.strength or Fraction(0), phrase.share or Fraction(0)
        self._share(phrase, wanted / stock if stock else Fraction(0),
                    replace(phrase.thing, strength=stock))  # fmt: skip

    def _ratio(self, phrase: Phrase) -> None:
        ratio = phrase.ratio
        assert ratio is not None  # noqa: S101 - the grammar's rule has one
        if phrase.sort == "ratio" and not ratio.altogether and ratio.one > ratio.rest > 0:
            if not (self._thinned_again(phrase) or ratio.one >= MANY * ratio.rest):
                why = "which is water?" if phrase.things else "of what?"
                self._heard.doubts.append((phrase, why))
                return
            said = f"{ratio.one} parts of water to {ratio.rest}"
            self._heard.guesses.append((phrase, f"{ratio.one}:{ratio.rest} is taken as {said}"))
            ratio = Ratio(ratio.rest, ratio.one, False)
        whole = ratio.rest if ratio.altogether else ratio.one + ratio.rest
        share = ratio.one / whole if whole else Fraction(2)
        if phrase.things:
            self._share(phrase, share)
        elif self._solid:
            self._share(phrase, share, Thing("the brew", brew=True))
        elif self._thinned_again(phrase) and not self._restated(share):
            self._stage, self._heard.mother = 1, True
            self._share(phrase, share, Thing("the mix", brew=True))
        else:
            self._heard.doubts.append((phrase, "of what?"))

    _one_to = _one_in = _ratio

    def _thinned_again(self, phrase: Phrase) -> bool:
        return self._thins or any(_is_thinning(one) for one in phrase.row)

    def _restated(self, share: Fraction) -> bool:
        """ "20 ml soap in 1 litre, diluted 1:50" may say the same twice: it is asked about."""
        poured = sum((p.measure.size for p in self._heard.poured), Fraction(0))
        whole = self._heard.volumes[-1].measure.size if self._heard.volumes else Fraction(0)
        there = [poured / size for size in (whole, whole + poured) if whole and size]
        return any(abs(one / share - 1) < ALIKE for one in there)

    def _parts(self, phrase: Phrase) -> None:
        whole = not any(one.kind is Kind.PARTS for one in phrase.row)
        number = phrase.number or Fraction(1)
        self._heard.counted.append(Counted(phrase.thing, number, phrase, whole, self._stage))

    def _equal(self, phrase: Phrase) -> None:
        kinds = [one.kind for one in phrase.row]
        watered = Kind.WATER in kinds[kinds.index(Kind.EQUAL) :]  # "half and half with water"
        soaked = self._solid and (self._stage or self._heard.volumes)
        if len(phrase.things) == 1 and watered and soaked:
            self._stage = 1
            thinned = Counted(phrase.thing, Fraction(1), phrase, False, self._stage)
            self._heard.counted.append(thinned)
            return
        halved = any(one.text.endswith("by half") for one in phrase.row)
        if halved and len(phrase.things) == 1 and not self._solid:
            self._share(phrase, Fraction(1, 2))
            return
        if len(phrase.things) == 1 or (watered and len(phrase.things) > 2):
            self._heard.doubts.append((phrase, "as much as what?"))
            return
        for thing in phrase.things:
            self._heard.counted.append(Counted(thing, Fraction(1), phrase, False, self._stage))

    def _neat(self, phrase: Phrase) -> None:
        self._share(phrase, Fraction(1))

    def _volume_said(self, phrase: Phrase) -> None:
        assert phrase.amount is not None  # noqa: S101 - the grammar's rule has one
        size = measure_of(phrase.amount, None, self._kitchen)
        how = {"volume": phrase.joint.lower(), "filled": "up_to"}.get(phrase.sort, phrase.sort)
        if how == "up_to" and self._solid and any(v.ml < size.size for v in self._heard.volumes):
            self._stage = 1  # what was steeped in 2 litres is made up to 10
        if size.dimension is not Dimension.VOLUME:
            self._heard.doubts.append((phrase, "of what?"))
            return
        each = phrase.amount.article and phrase.amount.heap == 1 and not phrase.amount.small
        if self._told_twice:
            self._heard.doubts.append((phrase, "of what?"))  # "a cup (500 ml) of milk"
            return
        if phrase.sort == "bare" and each:
            how = "per"  # 10 ml a litre
        rate = self._after is not None and self._after.joint == "PER"  # "stock: 50 ml per litre"
        bare = phrase.sort == "bare" and how == "bare" and not self._solid
        if bare and (size.size < LEAST_MIXED or rate):
            self._heard.doubts.append((phrase, "of what?"))
            return
        if phrase.sort == "bare" and self._solid and self._stage and size.size < 500:
            self._pour(phrase, Thing("the brew", brew=True), phrase.amount)
            return
        self._heard.volumes.append(Volume(size, how, phrase, self._stage))
