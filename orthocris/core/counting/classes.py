"""Counting by classes: very many are told as 31 to 100, and read as a number by a stated rule."""

from __future__ import annotations

from dataclasses import dataclass

from orthocris.core.errors import InputError


@dataclass(frozen=True, slots=True)
class CountClass:
    """A class from `low` to `high` (None: and more), and the number it is read as."""

    low: int
    high: int | None
    reads: int

    @property
    def words(self) -> str:
        """The class as it is named."""
        if self.high is None:
            return f"over {self.low - 1}"
        return str(self.low) if self.low == self.high else f"{self.low}–{self.high}"


# Each is read as its middle on the log scale, sqrt(low * high), rounded; the last as if it went on
# as far again (100 to 316).
CLASSES = (
    CountClass(0, 0, 0),
    CountClass(1, 3, 2),
    CountClass(4, 10, 6),
    CountClass(11, 30, 18),
    CountClass(31, 100, 56),
    CountClass(101, None, 178),
)


def check_class(value: float | None) -> None:
    """Refuse a number that no class is read as, or raise InputError."""
    known = [kind.reads for kind in CLASSES]
    if value is not None and value not in known:
        raise InputError(
            f"{value:g} is the number of no class",
            code="no_class",
            field="value",
            fix=f"Classes are read as {', '.join(map(str, known))}; else send it as a count.",
        )


def class_note(classed: int) -> str:
    """Say how numbers told as classes were read."""
    names = ", ".join(kind.words for kind in CLASSES)
    read = ", ".join(str(kind.reads) for kind in CLASSES)
    number = "1 number was" if classed == 1 else f"{classed} numbers were"
    return (
        f"{number} told as classes ({names}) and read as {read}: each may be off by a factor of up "
        "to 1.8, which all remedies share."
    )
