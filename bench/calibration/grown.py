"""Growth and harvest, judged many times: intervals that hold, and what is said by luck.

Run: .venv/bin/python -m bench.calibration.grown [trials]. Prints the rows of the table in
docs/method.md ("Grown"); see `__main__.py` for the cores.
"""

from __future__ import annotations

import sys
import zlib
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from orthocris.core import Observation
from orthocris.core.verdict.beside import shown_of
from orthocris.core.verdict.gathering import gather
from orthocris.core.verdict.grown import read_grown

BETWEEN = 0.3  # by how much neighbourhoods differ, in logs


@dataclass(frozen=True)
class Cell:
    """A world: soap leaves `soap` of what grows, oil all of it; plants vary by `spread` (logs)."""

    blocks: int
    spread: float
    soap: float
    before: bool = True
    bears: float = 1.0  # the share of plants that bear at all

    @property
    def name(self) -> str:
        """The row's name in the table."""
        told = "" if self.before else ", nothing measured before"
        bare = f", one plant in {round(1 / (1 - self.bears))} bears none" if self.bears < 1 else ""
        return f"{self.blocks} of each, plants vary by {self.spread:.0%}{told}{bare}"


CELLS = (
    Cell(4, 0.15, 0.7),
    Cell(6, 0.15, 0.7),
    Cell(6, 0.3, 0.7),
    Cell(8, 0.3, 0.7),
    Cell(6, 0.3, 0.7, before=False),
    Cell(8, 0.5, 0.7, before=False, bears=0.8),
)


def drawn(cell: Cell, soap: float, rng: np.random.Generator) -> Iterator[Observation]:
    """One trial: height by least luck, and a harvest of two days beside it."""
    for block in range(cell.blocks):
        level = rng.normal(0, BETWEEN)
        for name, more in (("control", 1.0), ("soap", soap), ("oil", 1.0)):
            own = level + rng.normal(0, cell.spread)
            plant = Observation(f"{name}{block}", f"b{block}", name, 7.0, "height", 0.0)
            if cell.before:
                yield plant._replace(day=0.0, value=40 * np.exp(own))
            grown = own if cell.before else 0.0
            left = np.exp(grown + rng.normal(0, cell.spread)) * more
            yield plant._replace(value=40 * left)
            bears = rng.random() < cell.bears
            for day in (3.0, 7.0):
                luck = np.exp(rng.normal(0, cell.spread))
                yield plant._replace(
                    measure="picked", day=day, value=60 * np.exp(level) * luck * more * bears
                )


def row(cell: Cell, trials: int) -> str:
    """Judge one cell: a line of the table."""
    rng = np.random.default_rng(zlib.crc32(cell.name.encode()))
    held = said = shown = told = 0
    for trial in range(trials):
        for soap in (cell.soap, 1.0):
            gathered = gather(drawn(cell, soap, rng))
            reads = read_grown(gathered, control="control", until=7.0, seed=trial, layouts=None)
            found = {
                b.measure: {e.name: e for e in b.remedies} for b in shown_of(reads, decisive=True)
            }
            effects = [e for own in found.values() for e in own.values()]
            if soap < 1:
                height = found["height"]["soap"]
                told += 1
                held += height.efficacy_low <= 1 - soap <= height.efficacy_high
                shown += height.shown == "less"
            else:
                said += any(e.shown for e in effects)
    return f"| {cell.name} | {held / told:.1%} | {said / trials:.1%} | {shown / trials:.0%} |"


def main() -> None:
    """Judge every cell."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    print("| plants | holds | anything said by luck | 30% less height shown |\n|---|---|---|---|")
    with ProcessPoolExecutor() as pool:
        for line in pool.map(partial(row, trials=trials), CELLS):
            print(line, flush=True)


if __name__ == "__main__":
    main()
