"""A plan played through: a tap for each count, spray and wait, then the verdict and the truth.

A play is its plan, its seed and the moves made so far: the same three give the same board.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.planning.power import layout_for
from orthocris.core.playing.garden import (
    LAST_DAY,
    LUCK,
    MOOD,
    WASHED,
    PlayPlan,
    Spray,
    Truth,
    check_plan,
    course,
    draw_truth,
    forecasts,
    luck,
    own_levels,
    places,
    read,
)
from orthocris.core.trial.setup import Setup
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.judge import judge
from orthocris.core.verdict.layouts import IntArray
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.observation import Observation
from orthocris.core.verdict.result import Verdict
from orthocris.core.words import many

LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
LONGEST_WAIT = 3  # days for which the first spray can wait for dry weather


class Move(StrEnum):
    """What the player does at a station."""

    COUNT = "count"
    SPRAY = "spray"
    WAIT = "wait"
    MISS = "miss"
    READ = "read"
    OPEN = "open"


class Due(StrEnum):
    """What a station is there for."""

    COUNT = "count"
    SPRAY = "spray"
    READ = "read"
    OPEN = "open"
    OVER = "over"


CHOICES = {
    Due.COUNT: (Move.COUNT,),
    Due.SPRAY: (Move.SPRAY, Move.WAIT, Move.MISS),
    Due.READ: (Move.READ,),
    Due.OPEN: (Move.OPEN,),
    Due.OVER: (),
}


@dataclass(frozen=True, slots=True)
class Station:
    """What is due, which look (0: before) or round it is, and on which day."""

    due: Due
    number: int
    day: int


@dataclass(frozen=True, slots=True)
class Bench:
    """The plants of a played trial.

    `remedy` and `block` are -1 for plants left over; `letter` is each remedy's place in the
    alphabet.
    """

    remedy: IntArray
    block: IntArray
    letter: IntArray
    own: FloatArray
    before: FloatArray
    lasting: FloatArray


@dataclass(frozen=True, slots=True)
class Board:
    """A play as it stands.

    Attributes
    ----------
    plan, truth, bench, sprays:
        What it is made of; the truth is for whoever opens it.
    station, choices:
        What is due, and the moves allowed.
    says:
        What is due, in words.
    told:
        What happened, a sentence each.
    looks:
        The looks counted so far with their counts on all plants, the count before first.
    verdict:
        What the judge says, once it was read.
    opened:
        True once the truth lies open.
    """

    plan: PlayPlan
    truth: Truth
    bench: Bench
    sprays: tuple[Spray, ...]
    station: Station
    choices: tuple[Move, ...]
    says: str
    told: tuple[str, ...]
    looks: tuple[tuple[int, FloatArray], ...]
    verdict: Verdict | None
    opened: bool


def play(plan: PlayPlan, seed: int, moves: Sequence[Move]) -> Board:
    """Play so far.

    Raises
    ------
    InputError
        When the plan cannot be played, or a move is not among those of its station.
    """
    check_plan(plan)
    truth = draw_truth(plan, _chance(seed, "truth"))
    bench = _bench(plan, seed)
    rain, rained = forecasts(_chance(seed, "weather"), LAST_DAY * 2)
    todo = _stations(plan)
    sprays: list[Spray] = []
    told: list[str] = []
    counted: list[int] = []
    waited = later = 0  # days by which all is later, and by which the round at hand is
    for move in moves:
        station = todo[0]
        if move not in _choices(todo, waited if not station.day else later):
            raise InputError(
                f"“{move}” is no move at this station",
                code="no_such_move",
                field="moves",
                fix="Begin the play anew.",
            )
        day = station.day + later
        if move is Move.WAIT:
            told.append(f"Day {day}: waited a day for dry weather.")
            if station.day:
                later += 1
            else:
                waited += 1
            continue
        if move is Move.COUNT:
            counted.append(station.day)
            told.append(_counted(plan, station))
        elif move is Move.SPRAY:
            wet = bool(rained[waited + day])
            sprays.append(Spray(day, WASHED if wet else 1.0))
            came = "rain came hours later and washed much of it off" if wet else "it stayed dry"
            told.append(f"Day {day}: all {plan.blocks} groups were sprayed; {came}.")
        elif move is Move.MISS:
            told.append(f"Day {day}: this round was left out.")
        later = 0
        todo = todo[1:]
    station = todo[0]
    now = Station(station.due, station.number, station.day + later)
    looks = tuple((d, _counts(plan, truth, bench, tuple(sprays), d, seed)) for d in counted)
    is_read = station.due in (Due.OPEN, Due.OVER)
    return Board(
        plan=plan,
        truth=truth,
        bench=bench,
        sprays=tuple(sprays),
        station=now,
        choices=_choices(todo, waited if not station.day else later),
        says=_says(plan, now, float(rain[waited + now.day])),
        told=tuple(told),
        looks=looks,
        verdict=judge_play(plan, bench, looks) if is_read else None,
        opened=station.due is Due.OVER,
    )


def again(board: Board, plan: PlayPlan, seed: int) -> Verdict:
    """Judge the same truth and sprays on another bench, of another size."""
    bench = _bench(plan, seed)
    looks = tuple(
        (day, _counts(plan, board.truth, bench, board.sprays, day, seed)) for day, _ in board.looks
    )
    return judge_play(plan, bench, looks)


def judge_play(plan: PlayPlan, bench: Bench, looks: Sequence[tuple[int, FloatArray]]) -> Verdict:
    """Judge what was counted, as any trial is judged."""
    seen = [
        Observation(
            plant=f"P{k + 1}",
            block=str(bench.block[k] + 1),
            remedy=plan.remedies[bench.remedy[k]].name,
            day=float(day),
            measure=plan.counted,
            value=float(values[k]),
        )
        for day, values in looks
        for k in np.flatnonzero(bench.remedy >= 0).tolist()
    ]
    return judge(
        seen,
        control=plan.remedies[0].name,
        threshold=plan.threshold,
        terms=Terms(planned=tuple(float(d) for d in plan.looks), two_looks=plan.two_looks),
    )


def _chance(seed: int, about: str, number: int = 0) -> np.random.Generator:
    """A source of chance of its own for each thing, so that no move changes what came before."""
    return np.random.default_rng([seed, number, *about.encode()])


def _bench(plan: PlayPlan, seed: int) -> Bench:
    """Draw the plants, and put them into groups that are alike before; the lot decides in each."""
    rng = _chance(seed, "bench")
    own = own_levels(plan, (plan.plants,), rng)
    before = read(plan, own, rng)
    size = len(plan.remedies)
    layout = layout_for(
        Setup(), size, plan.blocks, seed, doubled=min(plan.plants % size, plan.blocks)
    )
    remedy, block = np.full(plan.plants, -1), np.full(plan.plants, -1)
    order = np.lexsort((rng.random(plan.plants), -before))[: len(layout.remedy)]
    for group in range(plan.blocks):
        inside = np.flatnonzero(np.asarray(layout.block) == group)
        remedy[order[inside]] = rng.permutation(layout.remedy[inside])
        block[order[inside]] = group
    return Bench(remedy, block, rng.permutation(size), own, before, luck(LUCK, (plan.plants,), rng))


def _counts(
    plan: PlayPlan, truth: Truth, bench: Bench, sprays: tuple[Spray, ...], day: int, seed: int
) -> FloatArray:
    """What is counted on each plant on a day."""
    if not day:
        return bench.before
    rng = _chance(seed, "look", day)
    expected = course(plan, truth, sprays, places(plan.plants))[day]
    own = expected[bench.remedy, np.arange(plan.plants)]  # of those left over it is never used
    level = bench.own * bench.lasting * own * luck(MOOD, own.shape, rng)
    return read(plan, level, rng)


def _stations(plan: PlayPlan) -> tuple[Station, ...]:
    """Everything in its order: on the same day it is counted before it is sprayed."""
    looks = [Station(Due.COUNT, k, day) for k, day in enumerate((0, *plan.looks))]
    last = plan.looks[-1]
    rounds = [Station(Due.SPRAY, k, d) for k, d in enumerate(plan.rounds, 1) if d < last]
    days = sorted([*looks, *rounds], key=lambda s: (s.day, s.due is Due.SPRAY))
    return (*days, *(Station(due, 0, last) for due in (Due.READ, Due.OPEN, Due.OVER)))


def _choices(todo: Sequence[Station], late: int) -> tuple[Move, ...]:
    station, *rest = todo
    choices = CHOICES[station.due]
    if station.due is not Due.SPRAY:
        return choices
    room = LONGEST_WAIT if not station.day else rest[0].day - station.day - 1
    without = {Move.WAIT} if late >= room else set()
    if not station.day:
        without.add(Move.MISS)  # a trial begins with its first spray
    return tuple(m for m in choices if m not in without)


def _says(plan: PlayPlan, station: Station, rain: float) -> str:
    if station.due is Due.COUNT:
        when = "before the first spray" if not station.day else f"on day {station.day}"
        return f"Count {many(plan.plants, 'plant')} {when}."
    if station.due is Due.SPRAY:
        return f"Spray round {station.number}, day {station.day}. Chance of rain today: {rain:.0%}."
    return {
        Due.READ: "All is counted. The letters are opened, and the verdict is read.",
        Due.OPEN: "The truth is still sealed.",
        Due.OVER: "The truth lies open.",
    }[station.due]


def _counted(plan: PlayPlan, station: Station) -> str:
    if station.day:
        return f"Day {station.day}: counted."
    inside = many(plan.blocks, "group")
    return f"Counted; plants with like counts form {inside}, and the lot gives each its letter."
