"""Bottle labels to print: tag with notches, dates, life and cautions, at real size."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from xml.sax.saxutils import escape

from orthocris.core.errors import InputError
from orthocris.core.pantry.units import Region, clock_words, volume_words
from orthocris.core.words import day_words, weekday_and_day
from orthocris.formats.prints import MARGIN, Paper, code_path, fitting, svg_page, tag_path

WIDTH, GAP = 90.0, 6.0  # mm
HEAD, LINE, FOOT = 36.0, 3.5, 3.0  # mm above the texts, of each line, below them
# Letters that fit on a line: a letter of an ordinary face is about 0.56 of its size wide, a bold
# one 0.63.
CODE = 14.5  # mm, as on the tags
LETTERS, TITLE_LETTERS, NAME_LETTERS = 52, 18, 32
ALWAYS = "No food container. Keep from children, pets and ponds. Never mix with bleach."


@dataclass(frozen=True, slots=True)
class BottleLabel:
    """One label; `title` and `recipe` are empty and `volume` 0 while the key is sealed.

    `link` is what its code leads to, "" for no code; `region` whose units are told; `days` tells
    on which days it is used, where one letter has several bottles.
    """

    letter: str
    notches: int
    trial: str
    title: str
    recipe: str
    volume: float
    mixed_at: datetime
    use_by: datetime | None
    shake: str
    cautions: tuple[str, ...]
    some_of_the_bottles: bool
    link: str = ""
    days: str = ""
    region: Region = Region.METRIC


def label_pages(labels: Sequence[BottleLabel], paper: Paper) -> int:
    """Return how many pages the labels fill."""
    return len(_laid_out(labels, paper))


def labels_svg(labels: Sequence[BottleLabel], paper: Paper, page: int = 1) -> bytes:
    """Return a page of labels to cut out, in millimetres.

    A label is as high as its texts need, so that no caution is ever cut off; what does not fit
    on one page goes on the next.

    Raises
    ------
    InputError
        When there is no such page.
    """
    pages = _laid_out(labels, paper)
    if not 1 <= page <= len(pages):
        raise InputError(
            f"there is no page {page}",
            code="no_such_page",
            field="page",
            fix=f"The labels fill pages 1 to {len(pages)}.",
        )
    parts = [
        f'<g transform="translate({x:.1f} {y:.1f})">{_label(piece)}</g>'
        for x, y, piece in pages[page - 1]
    ]
    return svg_page(paper, "Bottle labels", parts)


@dataclass(frozen=True, slots=True)
class _Piece:
    """A label, or as much of it as a page holds, with the lines of text on it."""

    label: BottleLabel
    lines: tuple[str, ...]
    goes_on: bool

    @property
    def height(self) -> float:
        """How high it is, mm."""
        return HEAD + LINE * len(self.lines) + FOOT


Page = list[tuple[float, float, _Piece]]


def _laid_out(labels: Sequence[BottleLabel], paper: Paper) -> list[Page]:
    """Fill column after column, page after page, each label in one piece where it can be."""
    room = paper.height - 2 * MARGIN
    columns = int((paper.width - 2 * MARGIN + GAP) // (WIDTH + GAP))
    pages: list[Page] = [[]]
    column, y = 0, 0.0
    for piece in (piece for label in labels for piece in _pieces(label, room)):
        if y and y + piece.height > room:
            column, y = column + 1, 0.0
        if column == columns:
            pages.append([])
            column = 0
        pages[-1].append((MARGIN + column * (WIDTH + GAP), MARGIN + y, piece))
        y += piece.height + GAP
    return pages


def _pieces(label: BottleLabel, room: float) -> list[_Piece]:
    """Cut a label longer than a page into several, each with the bottle's tag."""
    most = int((room - HEAD - FOOT) // LINE)
    lines = _lines(label)
    parts = [tuple(lines[k : k + most]) for k in range(0, len(lines), most)]
    return [_Piece(label, part, k + 1 < len(parts)) for k, part in enumerate(parts)]


def _label(piece: _Piece) -> str:
    label = piece.label
    tag = tag_path(16.0, 28.0, label.notches)
    more = ", goes on" if piece.goes_on else ""
    mixed = f"mixed {day_words(label.mixed_at)}, {clock_words(label.mixed_at, label.region)}"
    if label.volume:
        mixed = f"{volume_words(label.volume, label.region)}, {mixed}"
    found = [
        f'<rect width="{WIDTH}" height="{piece.height:.1f}" fill="#fff" stroke="#000"'
        ' stroke-width="0.3" stroke-dasharray="2 1.5"/>',
        f'<g transform="translate(4 4)"><path d="{tag}" fill="#fff" stroke="#000"'
        ' stroke-width="0.4"/>',
        '<text x="6" y="15" font-size="11" text-anchor="middle" font-weight="700">'
        f"{escape(label.letter)}</text></g>",
        _text(
            24, 9, _fitted(label.title or f"Bottle {label.letter}", TITLE_LETTERS), 5.4, bold=True
        ),
        _text(24, 15, _fitted(label.trial + more, NAME_LETTERS), 3.4),
        _beside_code(label, 21, mixed, 3.2),
        _beside_code(label, 27, _life(label), 3.4, bold=True),
    ]
    if label.link:
        left = WIDTH - CODE - 2.5
        found.append(f'<g transform="translate({left} 18)">{code_path(label.link, CODE)}</g>')
    for k, line in enumerate(piece.lines):
        found.append(_text(4, HEAD + 2.0 + LINE * k, line, 2.7))
    return "".join(found)


def _beside_code(
    label: BottleLabel, y: float, text: str, size: float, *, bold: bool = False
) -> str:
    """A line of the head that ends where the code begins."""
    room = WIDTH - 24 - 2 - (CODE + 4 if label.link else 0)
    room *= 1.0 if bold else 1.12  # an ordinary letter is so much narrower than a bold one
    return _text(24, y, text, round(fitting(text, room, size), 2), bold=bold)


def _fitted(text: str, letters: int) -> str:
    """A name in the head that is too long for its line ends in dots; it stands whole below."""
    return text if len(text) <= letters else f"{text[: letters - 1].rstrip()}…"


def _life(label: BottleLabel) -> str:
    if label.use_by is None:
        return "Life: see the label"
    return f"Use by {weekday_and_day(label.use_by)}, {clock_words(label.use_by, label.region)}"


def _lines(label: BottleLabel) -> list[str]:
    said = [label.title] if label.title != _fitted(label.title, TITLE_LETTERS) else []
    said += [text for text in (label.days, label.shake, label.recipe) if text]
    head = "One or more of the bottles: " if label.some_of_the_bottles else ""
    said += [f"{head}{text}" for text in dict.fromkeys(label.cautions)]
    said.append(ALWAYS)
    return [line for text in said for line in textwrap.wrap(text, LETTERS)]


def _text(x: float, y: float, text: str, size: float, *, bold: bool = False) -> str:
    weight = ' font-weight="700"' if bold else ""
    return f'<text x="{x}" y="{y:.1f}" font-size="{size}"{weight}>{escape(text)}</text>'
