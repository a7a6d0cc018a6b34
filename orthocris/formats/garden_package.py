"""Tables of the garden as a data package: CSV files that JSON describes, written and read back."""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Any

from orthocris.core.errors import bad_package
from orthocris.core.shapes import Cell, Column, Row, Shape
from orthocris.formats.tidy_table import FORMULA_SIGNS

TYPES = {"INTEGER": "integer", "REAL": "number", "TEXT": "string"}
LONGEST_TABLE = 250_000_000
LARGEST_NUMBER, LARGEST_ID = 2**53, 10**12
LONGEST_CELL = 20_000_000
WHOLE = re.compile(r"-?[0-9]{1,16}")
NUMBER = re.compile(r"-?[0-9]+(\.[0-9]+)?(e[+-]?[0-9]{1,3})?")
csv.field_size_limit(LONGEST_CELL)  # a verdict on record holds its whole table


def path_of(table: str) -> str:
    """Return where a table lies in the package."""
    return f"tables/{table}.csv"


def written(shape: Shape, rows: Sequence[Row]) -> bytes:
    """Return a table as CSV in UTF-8.

    An empty cell is nothing. A quote goes before a text that a spreadsheet would take for a
    formula, before one that begins with a quote, and for an empty one where nothing could stand.
    """
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(shape.names)
    columns = shape.columns
    for row in rows:
        table.writerow([_told(column, cell) for column, cell in zip(columns, row, strict=True)])
    return out.getvalue().encode()


def _told(column: Column, cell: Cell) -> str:
    if cell is None:
        return ""
    if not isinstance(cell, str):
        return repr(cell)
    guarded = cell[:1] in FORMULA_SIGNS or cell[:1] == "'" if cell else not column.required
    return f"'{cell}" if guarded else cell


def described(shape: Shape) -> dict[str, Any]:
    """Return a table as a resource of a Data Package: its fields, key and references."""
    return {
        "name": shape.name,
        "path": path_of(shape.name),
        "format": "csv",
        "encoding": "utf-8",
        "schema": {
            "fields": [
                {"name": c.name, "type": TYPES[c.type]}
                | ({"constraints": {"required": True}} if c.required else {})
                for c in shape.columns
            ],
            "primaryKey": list(shape.key),
            "foreignKeys": [
                {"fields": [column], "reference": {"resource": parent, "fields": ["id"]}}
                for column, parent in shape.refers.items()
            ],
        },
    }


def lines_of(shape: Shape, content: bytes) -> Iterator[tuple[int, Row]]:
    """Yield each row of a table with the line it stands on.

    Raises
    ------
    InputError
        For the first cell that is not of its type, naming table, line and column.
    """
    place = path_of(shape.name)
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise bad_package(f"{place} is no text in UTF-8") from None
    reader = csv.reader(io.StringIO(text, newline=""), strict=True)
    try:
        header = next(reader, [])
        if sorted(header) != sorted(shape.names):
            raise bad_package(f"{place} has other columns than {', '.join(shape.names)}")
        columns: Mapping[str, Column] = {column.name: column for column in shape.columns}
        order = [header.index(name) for name in shape.names]
        readers = [_reader(shape, columns[name]) for name in header]
        line = reader.line_num
        for cells in reader:
            at, line = line + 1, reader.line_num
            if not cells:
                continue
            if len(cells) != len(header):
                raise bad_package(f"in {place}, line {at}: {len(cells)} cells, not {len(header)}")
            row = []
            for read, cell, name in zip(readers, cells, header, strict=True):
                try:
                    row.append(read(cell))
                except ValueError as error:
                    raise bad_package(f"in {place}, line {at}, {name}: {error}") from None
            yield at, tuple(row[k] for k in order)
    except csv.Error as error:
        raise bad_package(f"in {place}, line {reader.line_num}: {error}") from None


def _reader(shape: Shape, column: Column) -> Callable[[str], Cell]:
    """Return what reads a cell of a column; it raises ValueError with the reason."""
    lowest = 1 if column.name == "id" or column.name in shape.refers else -LARGEST_NUMBER
    largest = LARGEST_ID if lowest == 1 else LARGEST_NUMBER

    def whole(text: str) -> int:
        if WHOLE.fullmatch(text) is None or not lowest <= int(text) <= largest:
            raise ValueError(f"{text[:40]!r} is no whole number that can stand here")
        return int(text)

    def number(text: str) -> float:
        if NUMBER.fullmatch(text) is None or not math.isfinite(found := float(text)):
            raise ValueError(f"{text[:40]!r} is no number")
        return found

    def words(text: str) -> str:
        return text[1:] if text[:1] == "'" else text

    read = {"INTEGER": whole, "REAL": number}.get(column.type, words)

    def cell(text: str) -> Cell:
        if text or (column.required and read is words):
            return read(text)
        if column.required:
            raise ValueError("it is empty")
        return None

    return cell
