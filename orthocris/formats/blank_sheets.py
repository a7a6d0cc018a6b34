"""Sheets to be filled in by hand (PDF), in walking order: one to count on, one to spray by."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, PageBreak, Spacer, Table

from orthocris.core.trial.measures import MeasureKey, Scale, measure_named
from orthocris.core.trial.trial import Trial
from orthocris.formats.pages import WIDTH, document, text

LINE = 7.3 * mm  # of a plant: room for a pencil
MOST_BOXES = 6  # of leaves on a line; more are added up by whoever counts
NAMED = (8 * mm, 26 * mm, 12 * mm, 20 * mm)  # number, plant, tag, row and place
WIDE = ("skipped, why", "note")
CHECKS = (
    "bottles shaken",
    "leaves dry, calm, no full sun",
    "no bees about",
    "what is ripe is picked first",
    "cautions of each bottle read",
)
DAMAGE = "Damage: 0 none, 1 under 5% of the leaf, 2 to 15%, 3 to 30%, 4 to 60%, 5 more."
COUNTED = (
    "Nothing found is 0; what was not counted stays empty. Afterwards it is entered as a table, "
    "from the trial's plants."
)


def blank_sheets(trial: Trial, helps: Sequence[str], *, paper: str = "a4") -> bytes:
    """Return a sheet to count on and one to spray by, their plants in walking order.

    Parameters
    ----------
    trial:
        A trial whose layout is drawn. Remedies are told by the letters of their tags alone.
    helps:
        What helps to count it: where to look, what counts, what tells a live one from a dead one.
    """
    return document(trial.name, [*_to_count(trial, helps), PageBreak(), *_to_spray(trial)], paper)


def _to_count(trial: Trial, helps: Sequence[str]) -> list[Flowable]:
    measure, setup = measure_named(trial.measure), trial.setup
    boxes = ["found", "out of"] if measure.scale is Scale.SHARE else [measure.noun]
    if 1 < setup.samples <= MOST_BOXES:
        boxes = [str(k + 1) for k in range(setup.samples)]
    others = [measure_named(key) for key in setup.beside if key != trial.measure]
    named = {MeasureKey.DAMAGE: "damage", MeasureKey.OTHER: setup.also.replace("_", " ")}
    beside = [named.get(MeasureKey(one.key)) or one.label.lower() for one in others]
    scale = [DAMAGE] if MeasureKey.DAMAGE in setup.beside else []
    head = f"{trial.name}: count {measure.noun}"
    where = [setup.which] if setup.which else helps[:1]
    said = [*where, *helps[1:], *scale, COUNTED]
    blanks = "Look ____   day ____   on ______________   counted by ______________"
    return _sheet(trial, head, blanks, said, [*boxes, *beside, "note"])


def _to_spray(trial: Trial) -> list[Flowable]:
    blanks = "Round ____   on ______________   from ______ to ______   by ______________"
    said = [
        " ".join(f"[\N{NO-BREAK SPACE}\N{NO-BREAK SPACE}]\N{NO-BREAK SPACE}{c};" for c in CHECKS)
    ]
    said.append("Each plant gets what has the letter of its tag; where no bottle has it, nothing.")
    return _sheet(trial, f"{trial.name}: spray", blanks, said, ["done", *WIDE])


def _sheet(
    trial: Trial, title: str, blanks: str, said: Sequence[str], columns: Sequence[str]
) -> list[Flowable]:
    letters = {remedy.id: remedy.letter or "" for remedy in trial.remedies}
    rest = WIDTH - sum(NAMED)
    parts = [1 if name.isdigit() else 3 if name in WIDE else 1.8 for name in columns]
    widths = [*NAMED, *(rest * part / sum(parts) for part in parts)]
    lines = [
        (str(k), plant.name, letters.get(plant.remedy_id or 0, ""), f"{plant.row}, {plant.place}")
        for k, plant in enumerate(trial.trial_plants, 1)
    ]
    header = ["", "Plant", "Tag", "Row, place", *columns]
    cells = [[text(cell, 8, bold=True) for cell in header]]
    cells += [[*(text(cell, 9) for cell in line), *("" for _ in columns)] for line in lines]
    grid = Table(
        cells,
        colWidths=widths,
        rowHeights=[None, *(LINE for _ in lines)],
        repeatRows=1,
        hAlign="LEFT",
        style=[
            ("GRID", (4, 0), (-1, -1), 0.5, colors.grey),
            ("LINEBELOW", (0, 0), (3, -1), 0.5, colors.grey),
            ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
            ("LEFTPADDING", (0, 0), (-1, -1), 2),
            ("RIGHTPADDING", (0, 0), (-1, -1), 2),
        ],
    )
    head: list[Flowable] = [text(title, 14, bold=True), text(blanks, 10), Spacer(0, 2 * mm)]
    return [*head, *(text(line, 9) for line in said), Spacer(0, 3 * mm), grid]
