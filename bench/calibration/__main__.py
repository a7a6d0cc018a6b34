"""Judge every garden many times.

Run: .venv/bin/python -m bench.calibration [trials] [words in the name]. Prints a line a garden, as
docs/method.md has them. Runs on all cores; set OPENBLAS_NUM_THREADS=1.
"""

from __future__ import annotations

import sys
import zlib
from concurrent.futures import ProcessPoolExecutor
from functools import partial

from bench.calibration.gardens import Garden, grid
from bench.calibration.promises import Kept, check, tenths, title


def main() -> None:
    """Run the gardens whose names hold all words given."""
    trials = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    wanted = [g for g in grid() if all(word in g.name for word in sys.argv[2:])]
    print(title(), flush=True)
    every: list[Kept] = []
    with ProcessPoolExecutor() as pool:
        for kept in pool.map(partial(_one, trials=trials), wanted):
            print(kept.row(), flush=True)
            every.append(kept)
    print("\n".join(tenths(every)))


def _one(garden: Garden, trials: int) -> Kept:
    return check(garden, trials, seed=zlib.crc32(garden.name.encode()))


if __name__ == "__main__":
    main()
