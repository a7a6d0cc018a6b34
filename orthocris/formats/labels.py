"""Bottle labels to print: tag with notches, dates, life and cautions, at real size."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from xml.sax.saxutils import escape

from orthocris.formats.prints import MARGIN, Paper, svg_page, tag_outline

WIDTH, HEIGHT, GAP = 90.0, 62.0, 6.0  # mm


@dataclass(frozen=True, slots=True)
class BottleLabel:
    """One label; `title` and `recipe` are empty while the key is sealed."""

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


def labels_svg(labels: Sequence[BottleLabel], paper: Paper) -> bytes:
    """Return a page of labels to cut out, in millimetres."""
    columns = int((paper.width - 2 * MARGIN + GAP) // (WIDTH + GAP))
    parts = []
    for k, label in enumerate(labels[: columns * _rows(paper)]):
        x = MARGIN + (k % columns) * (WIDTH + GAP)
        y = MARGIN + (k // columns) * (HEIGHT + GAP)
        parts.append(f'<g transform="translate({x:.1f} {y:.1f})">{_label(label)}</g>')
    return svg_page(paper, "Bottle labels", parts)


def _rows(paper: Paper) -> int:
    return int((paper.height - 2 * MARGIN + GAP) // (HEIGHT + GAP))


def _label(label: BottleLabel) -> str:
    tag = tag_outline(16.0, 28.0, label.notches)
    found = [
        f'<rect width="{WIDTH}" height="{HEIGHT}" fill="#fff" stroke="#000" stroke-width="0.3"'
        ' stroke-dasharray="2 1.5"/>',
        f'<g transform="translate(4 4)"><path d="{tag}" fill="#fff" stroke="#000"'
        ' stroke-width="0.4"/>',
        '<text x="6" y="15" font-size="11" text-anchor="middle" font-weight="700">'
        f"{escape(label.letter)}</text></g>",
        _text(24, 9, label.title or f"Bottle {label.letter}", 6.0, bold=True),
        _text(24, 15, label.trial, 3.4),
        _text(24, 21, f"{label.volume:.0f} ml, mixed {label.mixed_at:%d %b %Y, %H:%M}", 3.6),
        _text(24, 27, _life(label), 3.9, bold=True),
        _text(24, 32, label.shake, 3.2),
    ]
    y = 38.0
    for line in _lines(label):
        found.append(_text(4, y, line, 2.7))
        y += 3.5
    return "".join(found)


def _life(label: BottleLabel) -> str:
    if label.use_by is None:
        return "Life: see the label"
    return f"Use by {label.use_by:%a %d %b, %H:%M}"


def _lines(label: BottleLabel) -> list[str]:
    said = [label.recipe] if label.recipe else []
    head = "One or more of the bottles: " if label.some_of_the_bottles else ""
    said += [f"{head}{text}" for text in label.cautions]
    said.append("No food container. Keep from children, pets and ponds. Never mix with bleach.")
    lines = [line for text in said for line in textwrap.wrap(text, 56)]
    return lines[:6] + lines[-1:] if len(lines) > 7 else lines


def _text(x: float, y: float, text: str, size: float, *, bold: bool = False) -> str:
    weight = ' font-weight="700"' if bold else ""
    return f'<text x="{x}" y="{y:.1f}" font-size="{size}"{weight}>{escape(text)}</text>'
