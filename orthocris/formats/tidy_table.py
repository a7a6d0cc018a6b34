"""The tidy table: a trial as CSV, one line per number counted (columns in README.md)."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterable, Sequence

from orthocris.core.errors import InputError
from orthocris.core.verdict.observation import Observation

COLUMNS = ("plant", "block", "remedy", "day", "measure", "value", "of", "effort", "column", "group")
ADDED = "added"  # written only where plants were added
FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")
REQUIRED = ("plant", "remedy", "day", "value")


class TableError(InputError):
    """A cell or line of the table cannot be read; says where.

    `line` counts from 1, the header included; `column` is a column's name or None.
    """

    default_code = "bad_table"

    def __init__(self, message: str, *, line: int, column: str | None, fix: str) -> None:
        super().__init__(message, field=column, fix=fix)
        self.line = line
        self.column = column


def read_table(content: bytes) -> tuple[list[Observation], list[int]]:
    """Read a tidy table.

    Parameters
    ----------
    content:
        The file's bytes: CSV, UTF-8 (a byte order mark is allowed), with a header line.

    Returns
    -------
    The observations, and for each the line it stands on.

    Raises
    ------
    TableError
        For the first cell that cannot be read. Values are checked later, by the judge.
    """
    rows = _rows(content)
    header = _header(rows)
    observations: list[Observation] = []
    lines: list[int] = []
    for line, cells in rows[1:]:
        if not any(cell.strip() for cell in cells):
            continue
        if len(cells) != len(header):
            raise TableError(
                f"{len(cells)} cells where the header has {len(header)}",
                line=line,
                column=None,
                fix="Give every line one cell for each column; quote text that has a comma.",
            )
        cell = dict(zip(header, (c.strip() for c in cells), strict=True))
        observations.append(_observation(cell, line))
        lines.append(line)
    if not observations:
        raise TableError(
            "there is only a header", line=1, column=None, fix="Add one line per number counted."
        )
    return observations, lines


def write_table(observations: Iterable[Observation]) -> bytes:
    """Write a tidy table that `read_table` reads back to the same observations."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    seen = list(observations)
    more = any(o.added for o in seen)
    writer.writerow([*COLUMNS, *([ADDED] if more else [])])
    for o in seen:
        of = "" if o.of is None else _number(o.of)
        said = (o.plant, o.block or "", o.remedy, o.column or "", o.group or "")
        names = [guarded(name) for name in said]
        numbers = [_number(o.day), o.measure, _number(o.value), of, _number(o.effort)]
        writer.writerow([*names[:3], *numbers, *names[3:], *([o.added] if more else [])])
    return out.getvalue().encode()


def guarded(name: str) -> str:
    """Keep a spreadsheet from reading a name such as =1+1 as a formula: a quote goes before it."""
    return f"'{name}" if name[:1] in FORMULA_SIGNS or _is_guarded(name) else name


def guarded_table(header: Sequence[str], rows: Sequence[Sequence[object]]) -> bytes:
    """Return any table as CSV in UTF-8, its texts guarded."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(header)
    for row in rows:
        writer.writerow([guarded(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue().encode()


def _is_guarded(name: str) -> bool:
    return name[:1] == "'" and (name[1:2] == "'" or name[1:2] in FORMULA_SIGNS)


def _plain(name: str) -> str:
    """Undo `guarded`."""
    return name[1:] if len(name) > 1 and _is_guarded(name) else name


def _number(value: float) -> str:
    return repr(int(value)) if value == int(value) else repr(value)


def _rows(content: bytes) -> list[tuple[int, list[str]]]:
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = content[: error.start].count(b"\n") + 1
        raise TableError(
            f"byte {content[error.start]:#04x} is not UTF-8",
            line=line,
            column=None,
            fix="Save the table as CSV in UTF-8.",
        ) from None
    if "\0" in text:
        raise TableError(
            "there is a zero byte in it",
            line=text[: text.index("\0")].count("\n") + 1,
            column=None,
            fix="Save the table as CSV in UTF-8.",
        )
    reader = csv.reader(io.StringIO(text, newline=""), strict=True)
    rows: list[tuple[int, list[str]]] = []
    try:
        while (cells := next(reader, None)) is not None:
            rows.append((reader.line_num, cells))
    except csv.Error as error:
        raise TableError(
            f"the quotes do not match ({error})",
            line=reader.line_num,
            column=None,
            fix="Close every quoted cell, and double a quote inside one.",
        ) from None
    if not rows:
        raise TableError("it is empty", line=1, column=None, fix="Start with the header line.")
    return rows


def _header(rows: Sequence[tuple[int, list[str]]]) -> list[str]:
    names = [name.strip().lower() for name in rows[0][1]]
    for name in REQUIRED:
        if name not in names:
            raise TableError(
                f"there is no column {name!r}, only {', '.join(filter(None, names)) or 'none'}",
                line=rows[0][0],
                column=name,
                fix=f"Columns needed: {', '.join(REQUIRED)}; allowed too: block, measure, of, "
                "effort, column, group, added. Separate them by commas.",
            )
    twice = [name for name in (*COLUMNS, ADDED) if names.count(name) > 1]
    if twice:
        raise TableError(
            f"the column {twice[0]!r} is there twice",
            line=rows[0][0],
            column=twice[0],
            fix="Keep one of the two.",
        )
    return names


def _observation(cell: dict[str, str], line: int) -> Observation:
    def number(column: str, default: float | None) -> float | None:
        text = cell.get(column, "")
        if not text:
            return default
        try:
            return float(text.replace("_", "x"))  # Python's 1_000 is not a number in a table
        except ValueError:
            raise TableError(
                f"{text!r} is not a number",
                line=line,
                column=column,
                fix="Give a plain number such as 12 or 0.5.",
            ) from None

    def needed(column: str) -> float:
        value = number(column, None)
        if value is None:
            raise TableError(
                "the cell is empty", line=line, column=column, fix=f"Give the {column}."
            )
        return value

    for column in ("plant", "remedy"):
        if not cell[column]:
            raise TableError(
                "the cell is empty", line=line, column=column, fix=f"Name the {column}."
            )
    effort, added = number("effort", 1.0), number(ADDED, 0) or 0.0
    if not math.isfinite(added) or added != int(added):
        raise TableError(
            f"{cell[ADDED]!r} is no addition",
            line=line,
            column=ADDED,
            fix="Give 0 for the plants of the beginning, 1 and 2 for those added later.",
        )
    return Observation(
        plant=_plain(cell["plant"]),
        block=_plain(cell.get("block") or "") or None,
        remedy=_plain(cell["remedy"]),
        day=needed("day"),
        measure=cell.get("measure") or "live",
        value=needed("value"),
        of=number("of", None),
        effort=1.0 if effort is None else effort,
        column=_plain(cell.get("column") or "") or None,
        group=_plain(cell.get("group") or "") or None,
        added=int(added),
    )
