"""Practice: how a person counts, told from leaves whose truth is known."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np

from orthocris.core.counting.leaf.looks import CREATURES
from orthocris.core.counting.leaf.scene import STAGES, LeafPlan, Truth, grow
from orthocris.core.errors import InputError

MOST_LEAVES = 40
MOST_COUNTED = 100_000
ENOUGH = 6  # leaves before a bias is told
GOOD = (0.9, 1.1)  # counted of what is there
LITTLE_SPREAD = 0.15  # on the log scale: one count in three is further off than this, about
SURE = 1.645  # standard errors: one-sided 95%
DEAD_TAKEN = 0.1  # of the dead taken for live: from here on it is said
YOUNG_MISSED = 0.75
# How full leaves are: few on some, many on others, as in a garden (negative binomial).
CLUMPING = 1.2
MEANS = {"few": 4.0, "some": 12.0, "many": 35.0}


@dataclass(frozen=True, slots=True)
class Counted:
    """What a person counted on a practice leaf; `live` are all that live, the young among them.

    None where that was not counted. `seconds` is how long it took.
    """

    live: int
    young: int | None = None
    eggs: int | None = None
    dead: int | None = None
    seconds: float = 0.0


@dataclass(frozen=True, slots=True)
class Session:
    """A spell of practice: `leaves` leaves of a pest, by a person (may be empty).

    `fill` says how full they are; `counted` is what was counted and what was there, by the number
    of the leaf.
    """

    id: int
    key: str
    pest: str
    fill: str
    person: str
    seed: int
    leaves: int
    begun_at: datetime
    counted: dict[int, tuple[Counted, Truth]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Advice:
    """What to do better, and by which number that is said."""

    code: str
    text: str


@dataclass(frozen=True, slots=True)
class CounterError:
    """How a person counts, from `leaves` leaves.

    `bias` is what is counted of the live ones that are there (1: all), with a 95% interval;
    `spread` the standard deviation of a single count on the log scale beside it; `found` what is
    counted of each other stage; `dead_taken` the share of the dead counted as live. None where the
    leaves cannot tell.
    """

    leaves: int
    bias: float | None
    bias_low: float | None
    bias_high: float | None
    spread: float | None
    found: dict[str, float]
    dead_taken: float | None
    seconds: float | None
    advice: tuple[Advice, ...]


def practice_leaf(pest: str, seed: int, number: int, fill: str) -> LeafPlan:
    """Return what practice leaf `number` of a session bears; seeded, and different each time.

    Raises
    ------
    InputError
        For a pest that is not drawn, or an unknown `fill` (few, some or many).
    """
    if pest not in CREATURES:
        raise InputError(
            f"there is no practice with {pest}",
            code="no_drawing",
            field="pest",
            fix=f"Choose one of {', '.join(CREATURES)}.",
        )
    if fill not in MEANS:
        raise InputError(
            f"{fill!r} is no fill", code="bad_fill", field="fill", fix=f"Use {', '.join(MEANS)}."
        )
    rng = np.random.default_rng([seed, number, 81])
    mean = MEANS[fill]
    share = rng.gamma(CLUMPING, 1 / CLUMPING)
    live, young, eggs, dead = rng.poisson(
        [0.6 * mean * share, 0.4 * mean * share, 0.5 * mean * share, rng.uniform(0, 0.8) * mean]
    )
    return LeafPlan(pest, int(live), int(young), int(eggs), int(dead))


def truth_of(pest: str, seed: int, number: int, fill: str) -> Truth:
    """Return the truth of a practice leaf."""
    return grow(leaf_seed(seed, number), practice_leaf(pest, seed, number, fill)).truth()


def leaf_seed(seed: int, number: int) -> int:
    """Return the seed by which a practice leaf is grown."""
    return seed * 100 + number


def check_counted(counted: Counted) -> None:
    """Refuse what nobody can have counted, or raise InputError."""
    for stage in STAGES:
        number = getattr(counted, stage)
        if number is not None and not 0 <= number <= MOST_COUNTED:
            raise InputError(
                f"{number} counted", code="bad_count", field=stage, fix="Count 0 or more."
            )
    if not 0 <= counted.seconds <= 86_400:
        raise InputError(
            f"{counted.seconds:g} seconds",
            code="bad_seconds",
            field="seconds",
            fix="Give the seconds it took, at most a day.",
        )
    if counted.young is not None and counted.young > counted.live:
        raise InputError(
            f"{counted.young} young among {counted.live} live",
            code="more_young_than_live",
            field="young",
            fix="The young are live ones, too: count them among the live.",
        )


def counter_error(leaves: Sequence[tuple[Counted, Truth]]) -> CounterError:
    """Work out how a person counts from leaves and their truth.

    Counts are compared by log((counted + 1/2) / (there + 1/2)), so that empty leaves count and a
    leaf with many does not outweigh the rest; the interval of the mean is Student's. What of the
    dead was counted as live is the slope b >= 0 of counted - there = a there + b dead over the
    leaves, by weighted least squares with the variance of a count (1 + there + dead).
    """
    logs = np.array([math.log((c.live + 0.5) / (t.live + 0.5)) for c, t in leaves])
    bias = low = high = spread = None
    if len(leaves) >= ENOUGH:
        middle, deviation = float(logs.mean()), float(logs.std(ddof=1))
        from scipy.special import stdtrit  # slow to load, and few ask for it

        half = float(stdtrit(len(leaves) - 1, 0.975)) * deviation / math.sqrt(len(leaves))
        bias, low, high = (math.exp(v) for v in (middle, middle - half, middle + half))
        spread = deviation
    found = {
        stage: share
        for stage in ("young", "eggs", "dead")
        if (share := _share_found(leaves, stage)) is not None
    }
    seconds = [c.seconds for c, _ in leaves if c.seconds > 0]
    dead = _dead_taken(leaves)
    taken, at_least = dead or (None, None)
    return CounterError(
        leaves=len(leaves),
        bias=bias,
        bias_low=low,
        bias_high=high,
        spread=spread,
        found=found,
        dead_taken=taken,
        seconds=float(np.median(seconds)) if seconds else None,
        advice=tuple(_advice((low, high), spread, found, taken if (at_least or 0) > 0 else None)),
    )


def _share_found(leaves: Sequence[tuple[Counted, Truth]], stage: str) -> float | None:
    told = [(getattr(c, stage), getattr(t, stage)) for c, t in leaves]
    pairs = [(counted, there) for counted, there in told if counted is not None]
    there = sum(t for _, t in pairs)
    return sum(c for c, _ in pairs) / there if there >= ENOUGH else None


def _dead_taken(leaves: Sequence[tuple[Counted, Truth]]) -> tuple[float, float] | None:
    """Return the share of the dead counted as live, and a bound it lies above (one-sided 95%)."""
    if len(leaves) < ENOUGH or sum(t.dead > 0 for _, t in leaves) < ENOUGH // 2:
        return None
    there = np.array([[t.live, t.dead] for _, t in leaves], np.float64)
    off = np.array([c.live - t.live for c, t in leaves], np.float64)
    weights = 1 / np.sqrt(1 + there.sum(axis=1))
    if np.linalg.matrix_rank(there) < 2:
        return None
    design, answer = there * weights[:, None], off * weights
    (per_live, slope), *_ = np.linalg.lstsq(design, answer, rcond=None)
    rest = answer - design @ np.array([per_live, slope])
    variance = float(rest @ rest) / (len(leaves) - 2)
    error = math.sqrt(max(variance * float(np.linalg.inv(design.T @ design)[1, 1]), 0.0))
    slope = float(min(max(slope, 0.0), 1.0))
    return slope, slope - SURE * error


def _advice(
    bounds: tuple[float | None, float | None],
    spread: float | None,
    found: dict[str, float],
    taken: float | None,
) -> list[Advice]:
    """Say what would help, the gravest first; only what the numbers are sure of."""
    low, high = bounds
    said: list[Advice] = []
    if taken is not None and taken >= DEAD_TAKEN:
        said.append(
            Advice(
                "dead_as_live",
                f"About {100 * taken:.0f} of 100 dead ones were counted as live. Look at each for "
                "legs, gloss and plumpness, or touch it with a hair; in a trial this makes every "
                "remedy that kills without washing off look weaker than it is.",
            )
        )
    if high is not None and high < GOOD[0]:
        said.append(
            Advice(
                "too_few",
                "Too few are found. Turn the leaf, follow the veins from the stalk to the tip, and "
                "use the lens: what sits close together is soon taken for one.",
            )
        )
    if low is not None and low > GOOD[1]:
        said.append(
            Advice(
                "too_many",
                "More are counted than there are. Leave out empty skins, wax and drops, and count "
                "each half of the leaf once.",
            )
        )
    if found.get("young", 1.0) < YOUNG_MISSED:
        said.append(
            Advice(
                "young_missed",
                f"Of the young, {100 * found['young']:.0f}% were found: they are half as long and "
                "paler. Count them first, with the lens.",
            )
        )
    if spread is not None and spread > LITTLE_SPREAD:
        said.append(
            Advice(
                "uneven",
                "Single counts go far up and down. Count the two halves of a leaf apart and add "
                "them; count again where they differ much.",
            )
        )
    return said
