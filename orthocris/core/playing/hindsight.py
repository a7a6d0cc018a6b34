"""A played trial with its truth beside it: was it right, and what would other ways have said?"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from orthocris.core.errors import InputError
from orthocris.core.playing.garden import (
    PlayPlan,
    course,
    last_look,
    places,
    removed,
)
from orthocris.core.playing.play import Board, again
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.result import Outcome, Verdict
from orthocris.core.words import listing, verb

NOTHING = 0.05  # what removes less is said to do nothing
ALIKE = 0.05  # a winner that is worse than the best by less is as good
DAY_AFTER = 1
LITTLE = 0.1  # by which another way may be off without misleading


@dataclass(frozen=True, slots=True)
class Told:
    """What the verdict said of a remedy, and what it truly removed by the last look."""

    name: str
    low: float | None
    high: float | None
    truth: float


@dataclass(frozen=True, slots=True)
class WhatIf:
    """Another way to do the same trial, and what it would have said."""

    code: str
    title: str
    says: str


@dataclass(frozen=True, slots=True)
class Hindsight:
    """The truth beside the verdict: remedy by remedy, a judgment in words, and other ways."""

    remedies: tuple[Told, ...]
    right: bool
    says: str
    what_if: tuple[WhatIf, ...]


def hindsight(board: Board, seed: int) -> Hindsight:
    """Open the truth of a play whose verdict was read."""
    plan, verdict = board.plan, board.verdict
    if verdict is None:
        raise InputError(
            "the verdict was not read yet",
            code="not_read",
            field="moves",
            fix="Play to the last look and read the verdict first.",
        )
    truth = removed(plan, board.truth, board.sprays, *plan.judged_days)
    true = {r.name: float(t) for r, t in zip(plan.remedies, truth, strict=True)}
    found = {r.name: r for r in verdict.remedies}
    told = tuple(
        Told(r.name, found[r.name].efficacy_low, found[r.name].efficacy_high, true[r.name])
        for r in plan.remedies[1:]
    )
    right, says = _judgment(verdict, told)
    return Hindsight(told, right, says, tuple(_others(board, true, seed)))


def _judgment(verdict: Verdict, told: tuple[Told, ...]) -> tuple[bool, str]:
    best = max(told, key=lambda t: t.truth)
    works = {r.name for r in verdict.remedies if r.beats_control}
    idle = [t.name for t in told if t.name in works and t.truth < NOTHING]
    if idle:
        return False, (
            f"It was wrong: {listing(idle)} {verb(idle, 'does', 'do')} nothing. This is the error "
            "that a trial keeps to 5 in 100; whoever repeats it finds out."
        )
    named = next((t for t in told if t.name == verdict.recommended), None)
    if named is not None:
        if named.truth >= best.truth - ALIKE:
            return True, f"It was right: {named.name} truly took away {named.truth:.0%}."
        alone = verdict.outcome is Outcome.WINNER
        also = f"{best.name} took away {best.truth:.0%}, {named.name} {named.truth:.0%}"
        if not alone:
            return True, f"It was right to leave open which is best: {also}."
        return False, f"It was wrong: {also}."
    if best.truth >= verdict.threshold:
        return True, (
            f"It said that nothing is settled, and that was honest: {best.name} truly took away "
            f"{best.truth:.0%}, but so few plants could not show it."
        )
    return True, f"It was right to recommend nothing: the best took away {best.truth:.0%}."


def _others(board: Board, true: dict[str, float], seed: int) -> list[WhatIf]:
    plan = board.plan
    larger = replace(plan, plants=2 * plan.plants)
    more = again(board, larger, seed + 1)
    return [
        WhatIf("more", f"With {larger.plants} plants", more.sentence),
        _no_control(board, true),
        _no_lot(plan, board, true),
        _no_wait(plan, board, true),
    ]


def _no_control(board: Board, true: dict[str, float]) -> WhatIf:
    """What each remedy's own plants lost from before to after."""
    fell = _fell(board)
    left = 1 - fell[0]
    itself = "about as much was left as before"
    if left < 1 - LITTLE:
        itself = f"{1 - left:.0%} of what sat there went by itself"
    elif left > 1 + LITTLE:
        itself = f"there was {left:.1f} times as much in the end"
    seems = _seems(board.plan, fell, true, f"{board.plan.judged_words} it truly was")
    return WhatIf(
        "control",
        "Without untreated plants",
        f"On the untreated plants {itself}. Judged by its own plants alone, {seems}",
    )


def _fell(board: Board) -> FloatArray:
    """The share by which what was counted fell, by remedy."""
    (_, before), *_, (_, after) = board.looks
    of = [board.bench.remedy == r for r in range(len(board.plan.remedies))]
    return np.array([1 - after[k].sum() / max(before[k].sum(), 0.5) for k in of])


def _no_lot(plan: PlayPlan, board: Board, true: dict[str, float]) -> WhatIf:
    """Each remedy at its own end of the bench, the untreated first."""
    expected = course(plan, board.truth, board.sprays, places(plan.plants))
    seems = seems_in_groups(plan, expected)
    return WhatIf(
        "lot",
        "Without the lot",
        "Pests grow faster at one end of this bench. Had each remedy its own part of it, from the "
        f"untreated on, {_seems(plan, seems, true, 'it truly was')}",
    )


def seems_in_groups(plan: PlayPlan, expected: FloatArray) -> FloatArray:
    """Return what each remedy seems to remove where remedies stand one after the other."""
    part = np.arange(plan.plants) * len(plan.remedies) // plan.plants
    last = expected[last_look(plan)]
    means = np.array([last[r, part == r].mean() for r in range(len(plan.remedies))])
    return np.asarray(1 - means / means[0])


def _no_wait(plan: PlayPlan, board: Board, true: dict[str, float]) -> WhatIf:
    seems = removed(plan, board.truth, board.sprays, DAY_AFTER)
    told = _seems(plan, seems, true, f"{plan.judged_words} it truly was")
    return WhatIf("wait", "Without waiting", f"Counted a day after the first spray, {told}")


def _seems(plan: PlayPlan, seems: FloatArray, true: dict[str, float], but: str) -> str:
    """What the remedy of which it would mislead most seems to do, and what it does."""
    by_name = {r.name: max(float(s), 0) for r, s in zip(plan.remedies[1:], seems[1:], strict=True)}
    name, value = max(by_name.items(), key=lambda item: abs(item[1] - true[item[0]]))
    told = f"{name} would seem to take away {_share(value)}; {but} {_share(true[name])}."
    return f"{told} That is close, here." if abs(value - true[name]) < LITTLE else told


def _share(value: float) -> str:
    return f"{value:.0%}" if value > 0.005 else "nothing"
