"""What a word of a recipe can be."""

from __future__ import annotations

from enum import StrEnum


class Kind(StrEnum):
    """What a word is in a recipe; the terminals of the grammar among them are in capitals."""

    NUMBER = "NUMBER"
    FRACTION = "FRACTION"  # said as a word: half, two thirds
    A = "A"
    UNIT = "UNIT"
    VAGUE = "VAGUE"  # a dash, a few drops
    HEAP = "HEAP"
    PIECE = "PIECE"  # cloves, tablets
    STRENGTH = "STRENGTH"  # 2%
    RATIO = "RATIO"  # 1:40, one in twenty
    PROPORTION = "PROPORTION"  # 1:1:98
    EQUAL = "EQUAL"  # equal parts
    PARTS = "PARTS"
    NAME = "NAME"  # a known ingredient
    STOCK = "STOCK"  # a known ingredient that is sold at a strength
    WATER = "WATER"
    WORD = "WORD"  # not known
    ADJECTIVE = "ADJECTIVE"
    OF = "OF"
    IN = "IN"
    TO = "TO"
    PER = "PER"
    UP_TO = "UP_TO"
    AT = "AT"
    EACH = "EACH"
    SAME = "SAME"  # as much, half as much
    TIMES = "TIMES"  # twice, nine times
    TIME = "TIME"  # hour, week
    COUNTED = "COUNTED"  # plant, cm: what makes a number no amount of the mix
    DROP = "DROP"  # the, about: nothing is lost without it
    SEP = "SEP"
    OR = "OR"
    VESSEL = "VESSEL"
    THIN = "THIN"  # diluted to
    FROM = "FROM"
    NEAT = "NEAT"
    STEEP = "STEEP"
    STRAIN = "STRAIN"
    BREW = "BREW"  # the brew, the stock: what was steeped before
    SOLUTION = "SOLUTION"
    NOTE = "NOTE"
    VERB = "VERB"  # what is done; the words beside it are no ingredients
    SOME = "SOME"  # an amount that says nothing
    DENIES = "DENIES"  # no, without
    OPEN = "OPEN"  # (
    CLOSE = "CLOSE"  # )
    DASH = "DASH"
