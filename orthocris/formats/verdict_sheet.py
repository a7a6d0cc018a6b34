"""The sheet of a verdict: each remedy one row of tag, name, band, leaves and price."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from reportlab.graphics.shapes import Circle, Drawing, Line, Path, Polygon, Rect
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer, Table

from orthocris.core.planning.tags import tag_outline
from orthocris.core.trial.measures import Measure, measure_named
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.core.verdict.words import change, likely_span
from orthocris.core.words import many
from orthocris.formats.pages import label, text

COLUMNS = [w * mm for w in (9, 43, 64, 24, 30)]
BAND, ROW = 64 * mm, 19 * mm  # the line's width and height
LEFT, RIGHT = 3 * mm, BAND - 6 * mm  # of the line from its left end to "all gone"
LOWEST, MOST_TIMES = 1.5, 1024.0  # times the control's at the line's left end, at least and at most
UNTREATED = 1 / 3  # where "as if untreated" lies on the line
WORST = 5.0  # steps of leaf damage
# The screens' own colours (web/src/styles/tokens.css).
INK, SOFT, TRAP, TRAP_WASH, LEAF, ILL, BAD = map(
    colors.HexColor,
    ("#1d1828", "#494356", "#f5c400", "#fbe99b", "#3f8577", "#cfb96a", "#9c1436"),
)
WASH = colors.HexColor("#c9bcd8")
LEGEND = (
    "The tag is the best guess, and its band holds the truth in 95 of 100 such trials. A dot is a "
    "plant, held against the untreated of its own block. Leaves: steps of damage (0 to 5) beyond "
    "the control's."
)


@dataclass(frozen=True, slots=True)
class Told:
    """All that a document tells.

    `tags` has letter and notches by remedy; `plants` rows of the table of every plant, its header
    first, empty while the key of the tags is sealed; `prices` what else a remedy costs, in words;
    `doubts` what the trial says when it is judged in other ways, `dots` what each plant lost
    against the control of its block, by remedy.
    """

    trial: str
    look: str
    final: bool
    verdict: Verdict
    tags: Mapping[str, tuple[str, int]]
    prices: Mapping[str, str]
    notes: Sequence[str]
    answers: Sequence[str]
    plants: Sequence[Sequence[str]]
    version: str
    doubts: Sequence[str] = ()
    dots: Mapping[str, Sequence[float]] = field(default_factory=dict)


def sheet(told: Told) -> list[Flowable]:
    """Return the rows with their legend; without any number there is no line to draw on."""
    remedies = told.verdict.remedies
    drawn = [r for r in remedies if r.efficacy is not None]
    most = _most_times(drawn)
    rows = [_row(told, r, most, drawn=bool(drawn)) for r in remedies]
    named = [k for k, r in enumerate(remedies, 1) if r.name == told.verdict.recommended]
    head = ["", text("Remedy", 8, bold=True), _axis(told, most) if drawn else ""]
    head += [text("Leaves", 8, bold=True), text("Price", 8, bold=True)]
    found = Table(
        [head, *rows],
        colWidths=COLUMNS,
        repeatRows=1,
        hAlign="LEFT",
        style=[
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.HexColor("#bcc5cc")),
            ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
            ("VALIGN", (0, 0), (-1, 0), "BOTTOM"),
            ("LEFTPADDING", (0, 0), (-1, -1), 3),
            ("RIGHTPADDING", (0, 0), (-1, -1), 2),
            ("TOPPADDING", (0, 0), (-1, -1), 3),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
            ("TOPPADDING", (2, 0), (2, -1), 0),
            ("BOTTOMPADDING", (2, 0), (2, -1), 0),
            *[("LINEBEFORE", (0, k), (0, k), 3, TRAP) for k in named],
        ],
    )
    return [found, Spacer(0, 2 * mm), *([text(LEGEND, 8, colour=SOFT)] if drawn else [])]


def _row(told: Told, result: RemedyResult, most: float, *, drawn: bool) -> list[object]:
    letter, notches = told.tags.get(result.name, ("", 0))
    measure = measure_named(told.verdict.measure)
    name = [text(result.name, 11, bold=True), text(removed(result, measure), 9)]
    if result.vetoed:
        name.append(text("harms the plant: out", 9, bold=True, colour=BAD))
    name.append(text(f"{many(result.plants, 'plant')}, lost: {losses(result)}", 8, colour=SOFT))
    return [
        _tag(letter, notches),
        name,
        _line(told, result, most) if drawn else "",
        _leaves(result),
        text(told.prices.get(result.name, "") or "–", 8),
    ]


def _tag(letter: str, notches: int) -> Drawing:
    drawing = Drawing(7 * mm, 13 * mm)
    _add_tag(drawing, letter, notches, (3.5 * mm, 6.5 * mm), 1.25)
    return drawing


def _add_tag(
    drawing: Drawing, letter: str, notches: int, at: tuple[float, float], times: float = 1.0
) -> None:
    width, tall = 5 * mm * times, 9 * mm * times
    left, top = at[0] - width / 2, at[1] + tall / 2
    corners = [c for px, py in tag_outline(notches) for c in (left + px * width, top - py * tall)]
    drawing.add(Polygon(corners, fillColor=colors.white, strokeColor=INK, strokeWidth=0.9))
    drawing.add(
        label(letter, left + 0.38 * width, top - 0.5 * tall, 7 * times, "middle", bold=True)
    )


def _axis(told: Told, most: float) -> Drawing:
    """What the places on the line stand for."""
    drawing = Drawing(BAND, 9 * mm)
    left = "half as many again" if most == LOWEST else f"{most:.0f} times"
    usual = any(w.code == "nobody_untreated" for w in told.verdict.warnings)
    worth = x_of(told.verdict.threshold, most)
    drawing.add(label(left, 0, 1 * mm, 6.5))
    nothing = "as the control" if usual else "as untreated"
    drawing.add(label(nothing, x_of(0.0, most) + 1 * mm, 1 * mm, 6.5))
    drawing.add(label("all gone", BAND - 1 * mm, 1 * mm, 6.5, "end"))
    drawing.add(
        label(
            f"worth it from {told.verdict.threshold:.0%}", worth, 5 * mm, 6.5, "middle", bold=True
        )
    )
    return drawing


def _line(told: Told, result: RemedyResult, most: float) -> Drawing:
    """One remedy's tag on the line to "all gone", with its interval and its plants."""
    drawing = Drawing(BAND, ROW)
    worth, end = x_of(told.verdict.threshold, most), x_of(1.0, most)
    drawing.add(Rect(worth, 0, end - worth, ROW, fillColor=TRAP_WASH, strokeColor=None))
    for share in (0.0, 1.0):
        x = x_of(share, most)
        drawing.add(Line(x, 0, x, ROW, strokeColor=colors.grey, strokeWidth=0.5))
    drawing.add(Line(worth, 0, worth, ROW, strokeColor=INK, strokeDashArray=[2, 2]))
    if result.efficacy is None:
        return drawing
    middle, y = result.efficacy, 0.58 * ROW
    low, high = (
        x_of(middle if bound is None else bound, most)
        for bound in (result.efficacy_low, result.efficacy_high)
    )
    drawing.add(
        Rect(
            low, y - 1.5 * mm, max(high - low, 0.5), 3 * mm, 4, 4, fillColor=WASH, strokeColor=None
        )
    )
    for one in told.dots.get(result.name, ()):
        drawing.add(
            Circle(x_of(one, most), 0.12 * ROW, 0.9 * mm, fillColor=LEAF, strokeColor=colors.white)
        )
    _add_tag(drawing, *told.tags.get(result.name, ("", 0)), (x_of(middle, most), y))
    return drawing


def _leaves(result: RemedyResult) -> list[object]:
    """A leaf as ill as its remedy made it, and the steps beyond the control's."""
    if result.role == "control":
        return [text("–", 8)]
    steps = result.damage_beyond_control
    if steps is None:
        return [text("not scored", 8)]
    drawing = Drawing(12 * mm, 6.5 * mm)
    drawing.add(_leaf())
    for k in range(min(round(max(steps, 0.0)), int(WORST))):
        drawing.add(
            Circle((2.6 + 1.7 * k) * mm, (3.6 - 0.8 * (k % 2)) * mm, 0.9 * mm, fillColor=ILL)
        )
    said = "as the control" if abs(steps) < 0.05 else f"{steps:+.1f} steps".replace("-", "−")
    return [drawing, text(said, 8, bold=result.vetoed)]


def _leaf() -> Path:
    path = Path(fillColor=LEAF, strokeColor=None)
    path.moveTo(0.5 * mm, 3 * mm)
    path.curveTo(3 * mm, 7 * mm, 8 * mm, 7 * mm, 11.5 * mm, 3 * mm)
    path.curveTo(8 * mm, -0.6 * mm, 3 * mm, -0.6 * mm, 0.5 * mm, 3 * mm)
    path.closePath()
    return path


def _most_times(shown: Sequence[RemedyResult]) -> float:
    """What the line's left end stands for: the next doubling beyond the worst remedy."""
    worst = max([LOWEST, *(1 - (r.efficacy or 0.0) for r in shown)])
    return (
        LOWEST
        if worst <= LOWEST
        else float(min(2 ** math.ceil(math.log2(1.2 * worst)), MOST_TIMES))
    )


def x_of(share: float, most: float) -> float:
    """Even between nothing and all gone, by doublings of the control's to the left of nothing."""
    part = UNTREATED + (1 - UNTREATED) * min(share, 1.0)
    if share < 0:
        part = UNTREATED * (1 - min(math.log(1 - share) / math.log(most), 1.0))
    return float(LEFT + (RIGHT - LEFT) * part)


def losses(result: RemedyResult) -> str:
    """Only what was recorded as lost is; of others it is said that nobody counted them."""
    uncounted = result.lost - result.died
    said = [str(result.died)] if result.died else []
    if uncounted:
        said.append(f"{uncounted} not counted")
    return ", ".join(said) or "none"


def removed(result: RemedyResult, measure: Measure) -> str:
    """What it removed, and between what the truth likely lies."""
    if result.role == "control":
        return "the control"
    if result.efficacy is None:
        return "no plant left" if result.kills else "cannot be told"
    said = change(result.efficacy, measure)
    if result.efficacy_low is None or result.efficacy_high is None:
        return said
    return f"{said}, likely {likely_span(result, measure)}"
