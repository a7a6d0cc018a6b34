"""How long a keystroke in the recipe takes on the server: read, drawn and cautioned.

    python -m bench.keystroke

Every recipe of the tests is typed letter by letter, so that nothing was read before; each
prefix is read for the sentence and mixed for the bottle, as the screen asks for both.
"""

from __future__ import annotations

import contextlib
import gc
import time

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.weather.yard import Yard
from orthocris.services.pantry.mixing import Wanted, heard, mix
from tests.core.pantry.recipe.cases import CASES


def main() -> None:
    """Print the median, the 95th and 99.9th percentile and the worst, in ms."""
    yard, wanted = Yard(), Wanted(plants=18)
    mix("10 ml soap in 1 litre", yard, wanted)  # tables and files are read once
    heard("10 ml saop", yard)
    gc.collect()
    gc.freeze()  # as the server does when it has loaded
    took = []
    for text, _, _ in CASES:
        for end in range(1, len(text) + 1):
            start = time.perf_counter()
            heard(text[:end], yard)
            with contextlib.suppress(InputError):  # half-typed, it is refused as often as not
                mix(text[:end], yard, wanted)
            took.append((time.perf_counter() - start) * 1000)
    shares = (0.5, 0.95, 0.999, 1.0)
    median, late, rare, worst = np.quantile(took, shares)
    print(
        f"{len(took)} keystrokes: {median:.1f} ms, p95 {late:.1f} ms, one in a thousand "
        f"{rare:.1f} ms, worst {worst:.1f} ms"
    )


if __name__ == "__main__":
    main()
