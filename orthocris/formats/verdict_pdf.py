"""A verdict as a document (PDF): one page for a neighbour, or the whole record for a sceptic."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from reportlab.graphics.shapes import Drawing, Line, Polygon, Rect
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import (
    CondPageBreak,
    Flowable,
    KeepTogether,
    Spacer,
    Table,
)

from orthocris.core.planning.tags import tag_outline
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.core.verdict.words import odds, percent
from orthocris.formats.pages import WIDTH, document, label, table, text

LEFT, RIGHT = 58 * mm, 164 * mm  # of the line from "as if untreated" to "all gone"
ROW = 11 * mm
LOWEST, MOST_TIMES = 1.5, 1024.0  # times the control's at the line's left end, at least and at most
UNTREATED = 1 / 3  # where "as if untreated" lies on the line
TOGETHER = 40 * mm  # that much of a table stands under its heading
FORMULAS = {  # broken where they may be, as heads of narrow columns
    "abbott": "Abbott",
    "henderson_tilton": "Henderson– Tilton",
    "schneider_orelli": "Schneider- Orelli",
    "sun_shepard": "Sun– Shepard",
}
NARROW = [w * mm for w in (27, 13, 12, 16, 14, 14, 15, 22, 20, 17)]  # columns of the arithmetic
CAUTION = (
    "Homemade sprays are restricted in some places, and a bought product's label is law. Ask the "
    "local extension service when in doubt; nothing here says that a mix is safe or approved."
)


@dataclass(frozen=True, slots=True)
class Told:
    """All that a document tells.

    `tags` has letter and notches by remedy; `plants` rows of the table of every plant, its header
    first, empty while the key of the tags is sealed; `prices` what else a remedy costs, in words;
    `doubts` what the trial says when it is judged in other ways.
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


def verdict_pdf(told: Told, *, whole: bool, paper: str = "a4") -> bytes:
    """Return a verdict as PDF; the same verdict makes the same bytes.

    Parameters
    ----------
    whole:
        The whole record (steps, warnings, every plant, arithmetic), or one page of it.
    paper:
        ``a4`` or ``letter``.
    """
    return document(told.trial, [*_brief(told), *(_record(told) if whole else [])], paper)


def _brief(told: Told) -> list[Flowable]:
    verdict = told.verdict
    state = "" if told.final else "So far; looks are still to come. "
    story: list[Flowable] = [
        text(told.trial, 16, bold=True),
        text(f"{state}Judged {told.look}.", 9),
        Spacer(0, 4 * mm),
        text(verdict.sentence, 13, bold=True),
        *[text(line, 10) for line in (*told.answers, verdict.advice, verdict.if_today) if line],
        Spacer(0, 4 * mm),
    ]
    if any(r.efficacy is not None for r in verdict.remedies):
        story.append(_picture(told))
    return [*story, Spacer(0, 3 * mm), _price_table(told), Spacer(0, 4 * mm), text(CAUTION, 8)]


def _record(told: Told) -> list[Flowable]:
    verdict = told.verdict
    story: list[Flowable] = [Spacer(0, 6 * mm)]
    for title, lines in (
        ("Step by step", verdict.reasons),
        ("To be read with it", [*(w.text for w in verdict.warnings), *told.notes]),
        ("Would the answer change?", told.doubts),
    ):
        if lines:
            numbered = [text(f"{k}. {line}", 9) for k, line in enumerate(lines, 1)]
            story += [KeepTogether([text(title, 12, bold=True), numbered[0]]), *numbered[1:]]
            story.append(Spacer(0, 4 * mm))
    if told.plants:
        story += _titled("Every plant", table(told.plants))
    story += _titled("The arithmetic", table(_arithmetic_rows(verdict), NARROW))
    method = sorted(verdict.to_dict()["method"].items())
    said = ", ".join(f"{key.replace('_', ' ')} {_plain(value)}" for key, value in method)
    design = verdict.design
    laid = (
        f"{_plain(design.kind)}: {design.plants} plants in {design.blocks} blocks, "
        f"{design.remedies} remedies. Orthocris {told.version}."
    )
    heading = text("How it was computed", 12, bold=True)
    story.append(KeepTogether([heading, text(f"{said}.", 8), text(laid, 8)]))
    return story


def _titled(title: str, table: Table) -> list[Flowable]:
    heading = text(title, 12, bold=True)
    return [CondPageBreak(TOGETHER), heading, table, Spacer(0, 4 * mm)]


def _arithmetic_rows(verdict: Verdict) -> list[list[str]]:
    """Every number of a verdict, with the classical formulas on plain means beside it."""
    header = ["Remedy", "Before", "After", "p, all together", "Best", "Worth it"]
    rows = [
        [
            r.name,
            _told(r.mean_before, "{:.1f}".format),
            _told(r.mean_after, "{:.1f}".format),
            _told(r.p_adjusted, "{:.3f}".format),
            _told(r.prob_best, odds),
            _told(r.prob_worth_it, odds),
            *(_told(r.classic.get(key), percent) for key in FORMULAS),
        ]
        for r in verdict.remedies
    ]
    return [[*header, *FORMULAS.values()], *rows]


def _told(value: float | None, words: Callable[[float], str]) -> str:
    return "–" if value is None else words(value)


def _plain(value: object) -> str:
    if isinstance(value, float):
        return f"{value:.4g}"
    if isinstance(value, list):
        return " and ".join(_plain(item) for item in value)
    return str(value).replace("_", " ")


def _picture(told: Told) -> Drawing:
    """Every remedy's tag on a line from "as if untreated" to "all gone", with its interval."""
    shown = [r for r in told.verdict.remedies if r.efficacy is not None]
    height = ROW * len(shown) + 14 * mm
    drawing = Drawing(WIDTH, height)
    most = _most_times(shown)
    left = "half as many again" if most == LOWEST else f"{most:.0f} times the control"
    usual = any(w.code == "nobody_untreated" for w in told.verdict.warnings)
    nothing = "as on the control" if usual else "as if untreated"
    for share, words in ((1 - most, left), (0.0, nothing), (1.0, "all gone")):
        x = _x(share, most)
        drawing.add(Line(x, 9 * mm, x, height, strokeColor=colors.grey, strokeWidth=0.5))
        drawing.add(label(words, x, 4 * mm, 7, anchor="middle"))
    worth = _x(told.verdict.threshold, most)
    drawing.add(Line(worth, 9 * mm, worth, height, strokeWidth=1, strokeDashArray=[3, 2]))
    drawing.add(label(f"worth it from {told.verdict.threshold:.0%}", worth, 0.5 * mm, 7, "middle"))
    for k, result in enumerate(shown):
        _add_remedy(drawing, told, result, (height - ROW * (k + 0.7), most))
    return drawing


def _add_remedy(
    drawing: Drawing, told: Told, result: RemedyResult, at: tuple[float, float]
) -> None:
    y, most = at
    letter, notches = told.tags.get(result.name, ("", 0))
    middle = result.efficacy or 0.0
    low, high = (
        _x(middle if bound is None else bound, most)
        for bound in (result.efficacy_low, result.efficacy_high)
    )
    band = Rect(low, y - 1.6 * mm, max(high - low, 0.5), 3.2 * mm)
    band.fillColor, band.strokeColor = colors.Color(0.75, 0.72, 0.82), None
    drawing.add(band)
    out = " (out: it harms)" if result.vetoed else ""
    drawing.add(label(f"{result.name}{out}", 0, y - 1 * mm, 8))
    width, tall = 5 * mm, 9 * mm
    left, top = _x(middle, most) - width / 2, y + tall / 2
    corners = [c for px, py in tag_outline(notches) for c in (left + px * width, top - py * tall)]
    drawing.add(Polygon(corners, fillColor=colors.white, strokeColor=colors.black, strokeWidth=0.8))
    drawing.add(label(letter, left + 0.38 * width, top - 0.5 * tall, 7, "middle", bold=True))


def _most_times(shown: Sequence[RemedyResult]) -> float:
    """What the line's left end stands for: the next doubling beyond the worst remedy."""
    worst = max([LOWEST, *(1 - (r.efficacy or 0.0) for r in shown)])
    return (
        LOWEST
        if worst <= LOWEST
        else float(min(2 ** math.ceil(math.log2(1.2 * worst)), MOST_TIMES))
    )


def _x(share: float, most: float) -> float:
    """Even between nothing and all gone, by doublings of the control's to the left of nothing."""
    part = UNTREATED + (1 - UNTREATED) * min(share, 1.0)
    if share < 0:
        part = UNTREATED * (1 - min(math.log(1 - share) / math.log(most), 1.0))
    return float(LEFT + (RIGHT - LEFT) * part)


def _price_table(told: Told) -> Table:
    header = ["Remedy", "Plants", "Removed (95%)", "Leaf damage beyond control", "Lost", "Else"]
    rows = [
        [
            result.name,
            str(result.plants),
            _removed(result),
            "not scored"
            if result.damage_beyond_control is None
            else f"{result.damage_beyond_control:+.1f}{' (harm)' if result.vetoed else ''}",
            _losses(result),
            told.prices.get(result.name, ""),
        ]
        for result in told.verdict.remedies
    ]
    return table([header, *rows], [34 * mm, 14 * mm, 38 * mm, 28 * mm, 20 * mm, 36 * mm])


def _losses(result: RemedyResult) -> str:
    """Only what was recorded as lost is; of others it is said that nobody counted them."""
    uncounted = result.lost - result.died
    said = [str(result.died)] if result.died else []
    if uncounted:
        said.append(f"{uncounted} not counted")
    return ", ".join(said) or "none"


def _removed(result: RemedyResult) -> str:
    if result.role == "control":
        return "the control"
    if result.efficacy is None:
        return "no plant left" if result.kills else "cannot be told"
    said = percent(result.efficacy)
    if result.efficacy_low is None or result.efficacy_high is None:
        return said
    return f"{said} ({percent(result.efficacy_low)} to {percent(result.efficacy_high)})"
