"""The garden of a played trial: a truth drawn by lot, weather, and plants that differ."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.planning.benches import USUAL_SPREAD, USUAL_START
from orthocris.core.trial.measures import MEASURES, MeasureKey, Scale
from orthocris.core.trial.plants import LEAST_BLOCKS
from orthocris.core.verdict.layouts import IntArray
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.words import listing, many

LAST_DAY = 60  # no look of a played trial is later
LUCK, MOOD = 8.0, 20.0  # gamma shapes: how plants differ for good, and from look to look
WASHED = 0.4  # what rain within hours leaves of a spray's effect
RAIN = (0.05, 0.1, 0.2, 0.6)  # chances of rain that a day can have
USELESS = 0.35  # chance that a remedy does nothing
BY_EYE = 60.0  # how closely a cover or a grade is read: the size of a beta law


@dataclass(frozen=True, slots=True)
class PlayedRemedy:
    """A remedy by its name, and in how many days its effect comes."""

    name: str
    days_to_show: int = 1


@dataclass(frozen=True, slots=True)
class PlayPlan:
    """What is played.

    Attributes
    ----------
    remedies:
        The control first.
    plants:
        How many there are; in groups of as many as there are remedies.
    looks, rounds:
        Days after the first spray; the first round is on day 0.
    measure, threshold:
        What is counted, and the share removed from which a remedy is worth it.
    two_looks:
        Whether the last two looks are judged together.
    """

    remedies: tuple[PlayedRemedy, ...]
    plants: int
    looks: tuple[int, ...]
    rounds: tuple[int, ...]
    measure: str = MeasureKey.LIVE
    threshold: float = 0.6
    two_looks: bool = False

    @property
    def judged_days(self) -> tuple[int, ...]:
        """The day of the look that decides, or the two that do."""
        return self.looks[-2:] if self.two_looks else self.looks[-1:]

    @property
    def judged_words(self) -> str:
        """Those days in words."""
        return f"by {listing([f'day {day}' for day in self.judged_days])}"

    @property
    def blocks(self) -> int:
        """How many plants each remedy gets."""
        return self.plants // len(self.remedies)

    @property
    def counted(self) -> str:
        """The measure played: shares have no count before, and are played as live pests."""
        return MeasureKey.LIVE if MEASURES[self.measure].scale is Scale.SHARE else self.measure


@dataclass(frozen=True, slots=True)
class Truth:
    """What no gardener sees.

    Attributes
    ----------
    kills:
        The share of what sits on a plant that one spray in dry weather takes away, by remedy.
    rise:
        What a week makes of untreated pests, as a factor.
    hatch:
        What hatches each day, as a share of what there was before.
    sunny:
        By how much faster pests grow at the far end of the bench than at its middle, in logs a
        week.
    """

    kills: FloatArray
    rise: float
    hatch: float
    sunny: float


@dataclass(frozen=True, slots=True)
class Spray:
    """A round as it was sprayed: its day, and what the weather left of its effect."""

    day: int
    strength: float


def check_plan(plan: PlayPlan) -> None:
    """Refuse what cannot be played, with the field at fault."""
    if plan.blocks < LEAST_BLOCKS:
        least = LEAST_BLOCKS * len(plan.remedies)
        raise InputError(
            f"{many(plan.plants, 'plant')} are too few to play with",
            code="too_few_plants",
            field="plants",
            fix=f"Take at least {least}, or fewer remedies.",
        )
    names = [r.name.strip().lower() for r in plan.remedies]
    if len(set(names)) < len(names) or not all(names):
        raise InputError(
            "two remedies have one name, or one has none",
            code="same_name",
            field="remedies",
            fix="Give each a name of its own.",
        )
    rising = all(a < b for days in (plan.looks, plan.rounds) for a, b in pairwise(days))
    if not (plan.looks and plan.rounds and rising and plan.rounds[0] == 0 and plan.looks[0] > 0):
        raise InputError(
            "the days do not follow one another",
            code="bad_days",
            field="looks",
            fix="Give sprays from day 0 on and looks after it, each later than the one before.",
        )
    if max(*plan.looks, *plan.rounds) > LAST_DAY:
        raise InputError(
            f"a day is later than day {LAST_DAY}",
            code="too_late",
            field="looks",
            fix=f"Play a plan of at most {LAST_DAY} days.",
        )


def draw_truth(plan: PlayPlan, rng: np.random.Generator) -> Truth:
    """Draw what the remedies do: one works well, of the others a third does nothing."""
    others = len(plan.remedies) - 2
    some = np.where(rng.random(others) < USELESS, 0.0, rng.uniform(0.1, 0.9, others))
    kills = rng.permutation([rng.uniform(0.65, 0.97), *some])
    return Truth(
        kills=np.array([0.0, *kills]),
        rise=float(np.exp(rng.normal(0, 0.35))),
        hatch=float(rng.uniform(0.01, 0.05)),
        sunny=float(rng.uniform(0.05, 0.25)),
    )


def forecasts(rng: np.random.Generator, days: int) -> tuple[FloatArray, IntArray]:
    """Return each day's chance of rain, and whether it rained."""
    chance = rng.choice(RAIN, days)
    return chance, (rng.random(days) < chance).astype(int)


def course(
    plan: PlayPlan, truth: Truth, sprays: tuple[Spray, ...], along: FloatArray
) -> FloatArray:
    """Follow plants that begin with 1 pest, day by day.

    Parameters
    ----------
    plan, truth, sprays:
        What happens to them.
    along:
        Where they stand on the bench, from -1 to 1.

    Returns
    -------
    FloatArray
        What is expected on each in the morning, (days, remedies, places). A spray works from then
        on, spread over the days that its remedy takes; what hatches later it does not meet.
    """
    takes = np.array([r.days_to_show for r in plan.remedies])
    grows = (truth.rise * np.exp(truth.sunny * along)) ** (1 / 7) - truth.hatch
    now = np.ones((len(plan.remedies), len(along)))
    found = [now]
    for day in range(max(plan.looks)):
        stays = np.ones(len(plan.remedies))
        for spray in sprays:
            works = (day >= spray.day) & (day < spray.day + takes)
            stays *= np.where(works, (1 - truth.kills * spray.strength) ** (1 / takes), 1.0)
        now = now * grows * stays[:, None] + truth.hatch
        found.append(now)
    return np.array(found)


def removed(plan: PlayPlan, truth: Truth, sprays: tuple[Spray, ...], *days: int) -> FloatArray:
    """Return what each remedy has truly removed by a day, or of several taken together."""
    levels = course(plan, truth, sprays, np.zeros(1))[list(days), :, 0].mean(axis=0)
    return np.asarray(1 - levels / levels[0])


def own_levels(plan: PlayPlan, size: tuple[int, ...], rng: np.random.Generator) -> FloatArray:
    """Draw what sits on the plants before."""
    usual = USUAL_START[MEASURES[plan.counted].scale]
    return np.asarray(usual * np.exp(USUAL_SPREAD * rng.standard_normal(size)))


def read(plan: PlayPlan, level: FloatArray, rng: np.random.Generator) -> FloatArray:
    """Count what is there: pests one by one, covers and grades by eye, as whole numbers."""
    measure = MEASURES[plan.counted]
    if measure.scale is Scale.COUNT:
        return rng.poisson(level).astype(float)
    share = np.clip(level / measure.upper, 0.002, 0.998)
    seen = rng.beta(BY_EYE * share, BY_EYE * (1 - share))
    return np.asarray(np.round(measure.upper * seen))


def luck(shape: float, size: tuple[int, ...], rng: np.random.Generator) -> FloatArray:
    """Draw factors about 1 by which plants differ."""
    return rng.gamma(shape, 1 / shape, size)


def places(plants: int) -> FloatArray:
    """Return where plants stand in walking order, from -1 at one end to 1 at the other."""
    return np.linspace(-1, 1, plants) if plants > 1 else np.zeros(1)


def last_look(plan: PlayPlan) -> int:
    """The day of the look that decides."""
    return max(plan.looks)
