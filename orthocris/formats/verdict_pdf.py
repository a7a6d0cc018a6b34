"""A verdict as a document (PDF): one page for a neighbour, or the whole record for a sceptic."""

from __future__ import annotations

from collections.abc import Callable

from reportlab.lib.units import mm
from reportlab.platypus import (
    CondPageBreak,
    Flowable,
    KeepTogether,
    Spacer,
    Table,
)

from orthocris.core.verdict.result import Verdict
from orthocris.core.verdict.words import odds, percent
from orthocris.formats.pages import document, table, text
from orthocris.formats.verdict_sheet import Told, sheet

TOGETHER = 40 * mm  # that much of a table stands under its heading
FORMULAS = {  # broken where they may be, as heads of narrow columns
    "abbott": "Abbott",
    "henderson_tilton": "Henderson– Tilton",
    "schneider_orelli": "Schneider- Orelli",
    "sun_shepard": "Sun– Shepard",
}
NARROW = [w * mm for w in (27, 13, 12, 16, 14, 14, 15, 22, 20, 17)]  # columns of the arithmetic
MOST_IN_MIND = 5  # of what is to be read with it, on the one page
CAUTION = (
    "Homemade sprays are restricted in some places, and a bought product's label is law. Ask the "
    "local extension service when in doubt; nothing here says that a mix is safe or approved."
)


def verdict_pdf(told: Told, *, whole: bool, paper: str = "a4") -> bytes:
    """Return a verdict as PDF; the same verdict makes the same bytes.

    Parameters
    ----------
    whole:
        The whole record (steps, warnings, every plant, arithmetic), or one page of it.
    paper:
        ``a4`` or ``letter``.
    """
    rest = _record(told) if whole else _in_mind(told)
    return document(told.trial, [*_brief(told), *rest, Spacer(0, 4 * mm), text(CAUTION, 9)], paper)


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
    return [*story, *sheet(told), Spacer(0, 4 * mm)]


def _in_mind(told: Told) -> list[Flowable]:
    lines = [*(w.text for w in told.verdict.warnings), *told.notes][:MOST_IN_MIND]
    heading = [text("Read it with these in mind", 12, bold=True)] if lines else []
    return [*heading, *(text(f"• {line}", 9) for line in lines)]


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
