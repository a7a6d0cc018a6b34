"""The grammar of recipes: which words make an amount, a part, a share, a ratio, a volume.

It describes phrases, not whole sentences, for people put them in any order. A sentence is read
from its beginning: at each place the longest phrase that the grammar knows is taken, and a word
that begins none stays loose, to be explained or asked about. Nothing is skipped.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterator, Sequence
from functools import cache

from lark import Lark, Token, Tree
from lark.exceptions import UnexpectedInput
from lark.lexer import Lexer
from lark.parsers.lalr_interactive_parser import InteractiveParser

from orthocris.core.pantry.recipe.kinds import Kind
from orthocris.core.pantry.recipe.lexer import Lexeme

GRAMMAR = r"""
?phrase: amount_first | name_first | ratio | parts | other | volume

// 10 ml of soap; 10 ml per litre of soap; 5 ml each of soap and oil
amount_first: amount (PER amount_in)? OF? thing        -> amount_first
    | amount EACH SEP? OF? matters                     -> each
    | NUMBER thing                                     -> counted
    | NUMBER OF thing                                  -> more
// soap 10 ml; soap and oil, 5 ml each; water up to 1 litre; 2% soap; milk undiluted
name_first: matters SEP? amount                        -> name_first
    | matters SEP? amount EACH                         -> each
    | matters (UP_TO | TO) amount                      -> filled
    | UP_TO WATER (UP_TO | TO) amount                  -> filled
    | matters                                          -> lone
    | matters (SEP | VERB)? IN? EQUAL (SEP WATER)?     -> equal
    | matters SEP? NEAT                                -> neat
// 3% peroxide thinned to 1%; 1% peroxide from a 3% bottle; 20% of 70% alcohol
    | matters SEP? (THIN | TO) STRENGTH                -> thinned
    | matters FROM STRENGTH                            -> thinned_from
    | STRENGTH OF STRENGTH OF? core                    -> of_stock
// soap 1:40; one in twenty soap; one part milk to four
ratio: matters SEP? RATIO                              -> ratio
    | matters SEP? PROPORTION                          -> ratio
    | (RATIO | PROPORTION) OF? matters                 -> ratio
    | RATIO OF? matter TO matter                       -> ratio
    | RATIO                                            -> ratio
    | number PARTS OF? thing TO number PARTS? (OF? WATER)?  -> one_to
    | number PARTS TO number PARTS? (OF? WATER)?            -> one_to
    | number PARTS OF? thing IN number PARTS?               -> one_in
parts: number PARTS OF? matter                         -> parts
    | matters SEP? number PARTS                        -> parts
    | FRACTION OF? matter                              -> parts
    | matters SEP? FRACTION                            -> last_of_whole
other: (THIN | TO)? STRENGTH                           -> strength
    | STRENGTH OF? WATER                               -> rest
    | WATER STRENGTH                                   -> rest
    | EQUAL OF? matters                               -> equal
    | EQUAL SEP WATER                                 -> equal
    | NEAT OF? thing                                   -> neat
    | SAME OF? matter                                  -> same
    | matters SEP? SAME                                -> same
volume: (IN | TO | PER | UP_TO) amount VESSEL* (OF? WATER)?      -> volume
    | (IN | TO | PER | UP_TO) VESSEL+ OF? amount (OF? WATER)?    -> volume
    | amount VESSEL+ (OF? WATER)?                                -> vessel
    | VESSEL+ OF amount                                          -> vessel
    | amount OF? WATER                                           -> water
    | amount                                                     -> bare
    | amount EACH                                                -> dose

amount_in: amount
amount: number HEAP? (UNIT | VAGUE | PIECE) | HEAP? (UNIT | VAGUE)
number: NUMBER | FRACTION | A
matters: matter | matters SEP matter
?matter: thing | WATER
thing: core SOLUTION?
    | STRENGTH SOLUTION? OF? core SOLUTION?
    | core STRENGTH SOLUTION?
core: leads? (NAME | STOCK) BREW? ADJECTIVE* | leads? BREW | leads
leads: (ADJECTIVE | WORD | STEEP | STRAIN)+
"""

# Every phrase has one of these: without it, words only name something.
_SAYING = frozenset(
    [
        *(Kind.NUMBER, Kind.FRACTION, Kind.A, Kind.STRENGTH, Kind.RATIO, Kind.PROPORTION),
        *(Kind.EQUAL, Kind.NEAT, Kind.SAME, Kind.UNIT, Kind.VAGUE, Kind.HEAP),
    ]
)
LONGEST_PHRASE = 24  # words; nobody says more in one breath, and reading stays quick


class _NoLexer(Lexer):
    """The words come from our own lexer, one at a time."""

    def __init__(self, _: object) -> None:
        """Take the configuration that Lark gives its lexers."""

    def lex(self, *_: object) -> Iterator[Token]:
        """Yield nothing: tokens are fed by hand."""
        return iter(())


@cache
def _parser() -> Lark:
    terminals = " ".join(kind.value for kind in Kind)
    return Lark(f"{GRAMMAR}\n%declare {terminals}\n", parser="lalr", lexer=_NoLexer, start="phrase")


def longest_phrases(row: Sequence[Lexeme], place: int) -> Iterator[tuple[int, Tree[Token]]]:
    """Yield the phrases that begin at a place, the longest first, with where each ends.

    The tokens of a tree are places in the row.
    """
    state = _fresh()()
    complete: list[int] = []
    saying = False
    for k in range(place, min(len(row), place + LONGEST_PHRASE)):
        if not _fed(state, row, k):
            break
        saying = saying or row[k].kind in _SAYING
        if saying and "$END" in _next(state):
            complete.append(k + 1)
    for end in reversed(complete):
        again = _fresh()()
        try:
            if all(_fed(again, row, k) for k in range(place, end)):
                tree: Tree[Token] = again.feed_eof()  # type: ignore[no-untyped-call]
                yield end, tree
        except UnexpectedInput:
            continue


def _fed(state: InteractiveParser, row: Sequence[Lexeme], place: int) -> bool:
    """Give the parser the word at a place; False when no phrase goes on with it."""
    kind = row[place].kind.value
    if kind not in _next(state):
        return False
    try:
        state.feed_token(Token(kind, str(place)))
    except UnexpectedInput:
        return False
    return True


@cache
def _fresh() -> Callable[[], InteractiveParser]:
    start = _parser().parse_interactive("")
    return lambda: _copy(start)


def _copy(state: InteractiveParser) -> InteractiveParser:
    copied: InteractiveParser = state.copy()  # type: ignore[no-untyped-call]
    return copied


def _next(state: InteractiveParser) -> Container[str]:
    """The terminals that may come next."""
    found: Container[str] = state.choices()  # type: ignore[no-untyped-call]
    return found
