"""How well the spotter finds and the cover is measured, on leaves whose truth is known.

    python -m bench.leaf_camera [LEAVES] [hard]

With `hard` the same leaves are shown in warm light, out of focus and grainy, which neither the
spotter nor the measure was made with.

Precision is the share of proposed marks that sit on something of their stage, recall the share of
what is there that a mark sits on; a mark sits on something when it is nearer to its middle than
0.6 of its length. Live and young count as one stage, for the young are live ones, too.
"""

from __future__ import annotations

import io
import sys
import time
from collections import Counter

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from scipy import ndimage
from scipy.optimize import linear_sum_assignment

from orthocris.core.counting.leaf.cover import measure_cover
from orthocris.core.counting.leaf.looks import CREATURES, PATCHES
from orthocris.core.counting.leaf.scene import Figure, LeafPlan, grow
from orthocris.core.counting.leaf.spotting import Spot, spot
from orthocris.devices.simulated_leaf_camera import SimulatedLeafCamera

NEAR = 0.6
WARM = np.array([1.12, 1.0, 0.8])  # light of a lamp or a late sun
STAGES = ("live", "eggs", "dead")
GROUP = {"live": "live", "young": "live", "eggs": "eggs", "dead": "dead"}


def main() -> None:
    """Run it and print what came of it."""
    leaves = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    hard = "hard" in sys.argv
    rng = np.random.default_rng(20261127)
    print(f"{leaves} leaves of pests, {leaves} of diseases")
    found: Counter[tuple[str, str]] = Counter()
    took = 0.0
    for k in range(leaves):
        pest = tuple(CREATURES)[k % len(CREATURES)]
        few = rng.poisson(rng.gamma(1.2, 10), 4)
        plan = LeafPlan(pest, *(int(min(n, 100)) for n in few))
        shown = picture(50_000 + k, plan, hard=hard)
        start = time.perf_counter()
        spots = spot(shown, pest)
        took += time.perf_counter() - start
        figures = [f for f in grow(50_000 + k, plan).figures if f.thing in GROUP]
        tell(found, pest, figures, spots)
    for pest in (*CREATURES, "all"):
        print(f"  {pest}: " + ", ".join(scores(found, pest, stage) for stage in STAGES))
    print(f"  {1000 * took / leaves:.0f} ms a picture")
    errors: dict[str, list[float]] = {}
    for k in range(leaves):
        pest = tuple(PATCHES)[k % len(PATCHES)]
        cover = float(rng.uniform(0, 60) if k % 8 else 0)
        shown = picture(70_000 + k, LeafPlan(pest, cover=cover), hard=hard)
        errors.setdefault(pest, []).append(measure_cover(shown).percent - cover)
    for pest, off in errors.items():
        size = np.abs(off)
        print(
            f"  {pest}: off by {np.mean(off):+.1f} points on average, {size.mean():.1f} either "
            f"way, at most {size.max():.1f}"
        )


def picture(seed: int, plan: LeafPlan, *, hard: bool = False) -> NDArray[np.float64]:
    """Return what the simulated lens shows, as it would be kept (JPEG, 1200 pixels)."""
    with Image.open(io.BytesIO(SimulatedLeafCamera(seed, plan).take())) as image:
        shown = np.asarray(image, np.float64) / 255
    if not hard:
        return shown
    rng = np.random.default_rng(seed)
    warm = ndimage.gaussian_filter(shown * WARM, (1.6, 1.6, 0))
    return np.clip(warm + rng.normal(0, 0.03, warm.shape), 0, 1)


def tell(
    found: Counter[tuple[str, str]], pest: str, figures: list[Figure], spots: tuple[Spot, ...]
) -> None:
    """Count what was found, missed and invented."""
    for stage in STAGES:
        there = [f for f in figures if GROUP[f.thing] == stage]
        marked = [s for s in spots if GROUP[s.stage] == stage]
        hits = matched(there, marked)
        for name in (pest, "all"):
            found[name, f"{stage} hit"] += hits
            found[name, f"{stage} there"] += len(there)
            found[name, f"{stage} marked"] += len(marked)


def matched(there: list[Figure], marked: list[Spot]) -> int:
    """Return how many marks sit on something of their own."""
    if not there or not marked:
        return 0
    far = np.array([[np.hypot(f.x - s.x, f.y - s.y) / f.length for s in marked] for f in there])
    rows, columns = linear_sum_assignment(np.minimum(far, 10))
    return int((far[rows, columns] <= NEAR).sum())


def scores(found: Counter[tuple[str, str]], pest: str, stage: str) -> str:
    """Return precision and recall of a stage in words."""
    hit, there, marked = (found[pest, f"{stage} {what}"] for what in ("hit", "there", "marked"))
    return (
        f"{stage} precision {hit / max(marked, 1):.2f} recall {hit / max(there, 1):.2f} ({there})"
    )


if __name__ == "__main__":
    main()
