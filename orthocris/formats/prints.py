"""What is printed: the bench as a sheet, and tags at real size, as SVG pages in millimetres."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

import segno

from orthocris.core.errors import InputError
from orthocris.core.pantry.units import Region, length_words
from orthocris.core.planning.tags import tag_outline
from orthocris.core.trial.setup import KNOTTED
from orthocris.core.trial.trial import Plant, Trial

MARGIN = 12.0  # mm; home printers leave that much white
CODE = 20.0  # mm, of a code that a phone reads from a hand's breadth
TAG_WIDTH, TAG_HEIGHT, TAG_GAP = 24.0, 88.0, 2.5  # mm


@dataclass(frozen=True, slots=True)
class Paper:
    """A sheet of paper, in mm."""

    width: float
    height: float


PAPERS = {"a4": Paper(210.0, 297.0), "letter": Paper(215.9, 279.4)}


def paper_named(name: str) -> Paper:
    """Return a paper by its name, or raise InputError."""
    if name not in PAPERS:
        raise InputError(
            f"there is no paper {name!r}",
            code="unknown_paper",
            field="paper",
            fix=f"Use one of: {', '.join(PAPERS)}.",
        )
    return PAPERS[name]


def tag_path(width: float, height: float, notches: int) -> str:
    """Return the SVG path of a tag at a size in millimetres."""
    corners = ((x * width, y * height) for x, y in tag_outline(notches))
    return "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in corners) + "Z"


def tag_pages(trial: Trial, paper: Paper) -> int:
    """Return how many pages the tags of a trial fill."""
    return -(-len(trial.trial_plants) // _per_page(paper)) or 1


def tags_svg(trial: Trial, paper: Paper, page: int, address: str) -> bytes:
    """Return one page of tags at real size.

    Parameters
    ----------
    trial:
        A trial whose layout is drawn.
    paper:
        The sheet it is printed on, without scaling.
    page:
        From 1 to `tag_pages`.
    address:
        Where the application is reached; each QR code opens that plant's count there.

    Raises
    ------
    InputError
        When there is no such page.
    """
    pages = tag_pages(trial, paper)
    if not 1 <= page <= pages:
        raise InputError(
            f"there is no page {page}",
            code="no_such_page",
            field="page",
            fix=f"The tags fill pages 1 to {pages}.",
        )
    per_page = _per_page(paper)
    columns = _columns(paper)
    codes = {r.id: (r.letter or "", r.notches or 0) for r in trial.remedies}
    parts = []
    for k, plant in enumerate(trial.trial_plants[(page - 1) * per_page : page * per_page]):
        x = MARGIN + (k % columns) * (TAG_WIDTH + TAG_GAP)
        y = MARGIN + (k // columns) * (TAG_HEIGHT + TAG_GAP)
        letter, notches = codes[plant.remedy_id or 0]
        link = f"{address}/p/{trial.id}/{plant.id}"
        parts.append(
            f'<g transform="translate({x:.2f} {y:.2f})">{_tag(plant, letter, notches, link)}</g>'
        )
    return svg_page(paper, f"Tags of {trial.name}", parts)


def sheet_svg(
    trial: Trial,
    paper: Paper,
    shields: Sequence[tuple[int, int]],
    region: Region = Region.METRIC,
    address: str | None = None,
) -> bytes:
    """Return the bench as one sheet: tags where plants stand, walking order, shields.

    With an `address` a code in its corner leads to the trial there.
    """
    plants = trial.plants
    columns = max((p.place for p in plants), default=1)
    rows = max((p.row for p in plants), default=1)
    step_x = min((paper.width - 2 * MARGIN) / columns, 34.0)
    ratio = max(0.8, min(trial.setup.row_cm / trial.setup.place_cm, 1.8))
    step_y = min((paper.height - 2 * MARGIN - 26) / rows, step_x * ratio, 44.0)
    scale = min(step_x / 26, step_y / 34)
    codes = {r.id: (r.letter or "", r.notches or 0) for r in trial.remedies}
    order = {p.id: k for k, p in enumerate(trial.trial_plants, start=1)}
    where = {
        p.id: (MARGIN + (p.place - 0.5) * step_x, MARGIN + 22 + (p.row - 0.5) * step_y)
        for p in plants
    }
    code = CODE if address else 0.0
    room = paper.width - 2 * MARGIN - code
    mark = trial.setup.mark
    apart = (
        f"{length_words(trial.setup.place_cm, region)} between plants, "
        f"{length_words(trial.setup.row_cm, region)} between rows. "
    )
    said = (
        f"{'' if trial.setup.shares_plants else apart}"
        "The small number is the order to walk. A double line is a shield."
    )
    parts = [
        f'<text x="{MARGIN}" y="{MARGIN + 6}" font-size="{fitting(trial.name, room, 6.0):.2f}"'
        f' font-weight="700">{escape(trial.name)}</text>',
        f'<text x="{MARGIN}" y="{MARGIN + 12}" font-size="{fitting(said, room, 3.6):.2f}">'
        f"{said}</text>",
        f'<text x="{MARGIN}" y="{MARGIN + 16}" font-size="{fitting(mark, room, 3.6):.2f}">'
        f"{escape(mark)}</text>",
    ]
    if address:
        link = f"{address}/trial/{trial.id}/rounds"
        parts.append(
            f'<g transform="translate({paper.width - MARGIN - CODE + 1:.1f} {MARGIN - 4})">'
            f"{code_path(link, CODE - 1)}</g>"
        )
    sizes = {p.id: fitting(p.name, step_x - 1, 4.4 * scale) for p in plants}
    parts += [_spot(p, where[p.id], codes, order, scale, sizes[p.id]) for p in plants]
    if trial.setup.unit in KNOTTED:
        parts += [
            _knots(where[p.id], codes[p.remedy_id][1], scale)
            for p in plants
            if p.remedy_id is not None and not p.set_aside
        ]
    for a, b in shields:
        (ax, ay), (bx, by) = where[a], where[b]
        parts.append(_shield((ax + bx) / 2, (ay + by) / 2, upright=ay == by, long=12 * scale))
    return svg_page(paper, f"Layout of {trial.name}", parts)


def _spot(
    plant: Plant,
    at: tuple[float, float],
    codes: dict[int, tuple[str, int]],
    order: dict[int, int],
    scale: float,
    size: float,
) -> str:
    x, y = at
    name = f'<text x="{x:.2f}" y="{y + 14 * scale:.2f}" font-size="{size:.2f}"'
    name += f' text-anchor="middle" font-weight="700">{escape(plant.name)}</text>'
    if plant.set_aside or plant.remedy_id is None:
        ring = f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{7 * scale:.2f}" fill="none" stroke="#555"'
        return f'{ring} stroke-width="0.3" stroke-dasharray="1 1"/>{name}'
    letter, notches = codes[plant.remedy_id]
    width, height = 10 * scale, 18 * scale
    return (
        f'<g transform="translate({x - width / 2:.2f} {y - 9 * scale:.2f})">'
        f'<path d="{tag_path(width, height, notches)}" fill="#fff" stroke="#000"'
        f' stroke-width="0.35"/><text x="{width * 0.38:.2f}" y="{height * 0.55:.2f}"'
        f' font-size="{7 * scale:.2f}" text-anchor="middle" font-weight="700">{letter}</text></g>'
        f'<text x="{x + 7 * scale:.2f}" y="{y - 5 * scale:.2f}" font-size="{3 * scale:.2f}">'
        f"{order.get(plant.id, '')}</text>{name}"
    )


def _knots(at: tuple[float, float], notches: int, scale: float) -> str:
    """A thread beside the tag, with as many knots as it has notches."""
    x, y = at[0] + 7.5 * scale, at[1] - 3 * scale
    long = 12 * scale
    step = min(2.4 * scale, long / max(notches, 1))
    knots = "".join(
        f'<circle cx="{x:.2f}" cy="{y + (k + 0.5) * step:.2f}" r="{0.36 * step:.2f}"/>'
        for k in range(notches)
    )
    line = f'<path d="M{x:.2f} {y:.2f}v{long:.2f}" stroke="#000" stroke-width="0.35"/>'
    return f'<g class="knots">{line}{knots}</g>'


def _shield(x: float, y: float, *, upright: bool, long: float) -> str:
    lines = ""
    for shift in (-0.5, 0.5):
        if upright:
            ends = (x + shift, y - long / 2, x + shift, y + long / 2)
        else:
            ends = (x - long / 2, y + shift, x + long / 2, y + shift)
        lines += '<line x1="{:.2f}" y1="{:.2f}" x2="{:.2f}" y2="{:.2f}"'.format(*ends)
        lines += ' stroke="#000" stroke-width="0.35"/>'
    return lines


def _tag(plant: Plant, letter: str, notches: int, link: str) -> str:
    size = 14.5
    name_size = fitting(plant.name, 16.0, 6.0)
    left = 1.2  # mm; the notches on the other side leave the code its white rim
    return (
        f'<path d="{tag_path(TAG_WIDTH, TAG_HEIGHT, notches)}" fill="#fff" stroke="#000"'
        ' stroke-width="0.3"/>'
        f'<text x="8.6" y="14" font-size="14" text-anchor="middle" font-weight="700">{letter}'
        "</text>"
        f'<text x="8.6" y="22" font-size="{name_size:.2f}" text-anchor="middle"'
        f' font-weight="700">{escape(plant.name)}</text>'
        f'<text x="8.6" y="27" font-size="2.2" text-anchor="middle">row {plant.row}, place'
        f" {plant.place}</text>"
        f'<g transform="translate({left} 30)">{code_path(link, size)}</g>'
    )


def fitting(text: str, width: float, size: float) -> float:
    """Return a font size, at most `size`, at which a text fits a width (all in mm).

    A bold letter of an ordinary face is about 0.63 of its size wide, as measured.
    """
    return min(size, width / (0.63 * max(len(text), 1)))


def code_svg(link: str) -> bytes:
    """Return a link alone as a code that a phone reads, with the white that it needs around it."""
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="-4 -4 48 48">'
        f'<rect x="-4" y="-4" width="48" height="48" fill="#fff"/>{code_path(link, 40.0)}</svg>'
    ).encode()


def code_path(link: str, size: float) -> str:
    """Return a link as the path of a code that a phone reads, `size` mm wide without its rim."""
    matrix = [bytes(row) for row in segno.make(link, error="m").matrix]
    unit = size / len(matrix)
    runs = []
    for y, row in enumerate(matrix):
        for x, dark in enumerate(row):
            if dark:
                runs.append(f"M{x * unit:.3f} {y * unit:.3f}h{unit:.3f}v{unit:.3f}h-{unit:.3f}z")
    return f'<path d="{"".join(runs)}" fill="#000"/>'


def _columns(paper: Paper) -> int:
    return int((paper.width - 2 * MARGIN + TAG_GAP) // (TAG_WIDTH + TAG_GAP))


def _per_page(paper: Paper) -> int:
    rows = int((paper.height - 2 * MARGIN + TAG_GAP) // (TAG_HEIGHT + TAG_GAP))
    return _columns(paper) * rows


def svg_page(paper: Paper, title: str, parts: Sequence[str]) -> bytes:
    """Return a page with a title and its drawn parts, in millimetres."""
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{paper.width}mm" height="{paper.height}mm"'
        f' viewBox="0 0 {paper.width} {paper.height}" font-family="sans-serif">'
        f"<title>{escape(title)}</title>"
        f'<rect width="{paper.width}" height="{paper.height}" fill="#fff"/>{"".join(parts)}</svg>'
    ).encode()
