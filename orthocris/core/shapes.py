"""What a table of the garden is, wherever it is kept: its columns, its key, what it refers to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

Cell = str | int | float | None
Row = tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class Column:
    """A column: its name, SQLite's type, and whether it must hold something."""

    name: str
    type: str
    required: bool


@dataclass(frozen=True, slots=True)
class Shape:
    """A table: its columns, its key, and the table that each reference is to."""

    name: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]
    refers: Mapping[str, str] = field(hash=False)

    @property
    def names(self) -> tuple[str, ...]:
        """Names of the columns."""
        return tuple(column.name for column in self.columns)
