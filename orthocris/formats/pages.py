"""Pages of a document (PDF): faces, texts and tables; the same content makes the same bytes."""

from __future__ import annotations

import io
import unicodedata
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import String
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Table

PLAIN, BOLD = "plain", "bold"  # the screens' own face, in two weights of its latin letters
FACES = Path(__file__).parent / "faces"
MISSING = "\N{WHITE SQUARE}"  # where the face has no such letter
PAPERS = {"a4": A4, "letter": LETTER}
WIDTH = 170 * mm


def document(title: str, story: Sequence[Flowable], paper: str = "a4") -> bytes:
    """Return pages as PDF; `paper` is ``a4`` or ``letter``."""
    _fonts()
    out = io.BytesIO()
    pages = SimpleDocTemplate(
        out,
        pagesize=PAPERS[paper],
        leftMargin=20 * mm,
        rightMargin=20 * mm,
        topMargin=16 * mm,
        bottomMargin=16 * mm,
        title=shown(title),
        author="Orthocris",
        invariant=1,
    )
    pages.build(list(story))
    return out.getvalue()


def table(rows: Sequence[Sequence[str]], widths: Sequence[float] | None = None) -> Table:
    """Return rows as a table with its header first; `widths` in points, even where not given."""
    cells = [[text(cell, 8, bold=k == 0) for cell in row] for k, row in enumerate(rows)]
    each = widths or [WIDTH / max(len(rows[0]), 1)] * len(rows[0])
    return Table(
        cells,
        colWidths=list(each),
        repeatRows=1,
        hAlign="LEFT",
        style=[
            ("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.grey),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("RIGHTPADDING", (0, 0), (-1, -1), 4),
        ],
    )


def text(
    said: str, size: float, *, bold: bool = False, colour: colors.Color = colors.black
) -> Paragraph:
    """Return a paragraph; `size` in points."""
    style = ParagraphStyle(
        "text",
        fontName=BOLD if bold else PLAIN,
        fontSize=size,
        leading=size * 1.3,
        spaceAfter=2,
        textColor=colour,
    )
    return Paragraph(escape(shown(said)), style)


def label(
    said: str, x: float, y: float, size: float, anchor: str = "start", *, bold: bool = False
) -> String:
    """Return a line of text in a drawing, at a place in points."""
    face = BOLD if bold else PLAIN
    return String(x, y, shown(said), fontName=face, fontSize=size, textAnchor=anchor)


def shown(said: str) -> str:
    """Return a text in letters that the face has: an accent may go, a letter is not lost unseen."""
    known = _letters()
    found = []
    for sign in unicodedata.normalize("NFC", said):
        plain = unicodedata.normalize("NFKD", sign)
        if ord(sign) in known or sign.isspace():
            found.append(sign)
        elif plain and ord(plain[0]) in known:
            found.append(plain[0])
        else:
            found.append(MISSING if ord(MISSING) in known else "?")
    return "".join(found)


@cache
def _letters() -> frozenset[int]:
    _fonts()
    return frozenset(pdfmetrics.getFont(PLAIN).face.charToGlyph)


@cache
def _fonts() -> None:
    for face in (PLAIN, BOLD):
        pdfmetrics.registerFont(TTFont(face, FACES / f"{face}.ttf"))
