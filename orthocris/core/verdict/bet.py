"""If you must treat today: what to take where the trial names nothing, and how often it is wrong.

Silence is a choice too, and the dearest: whoever waits for proof leaves the pests. So beside a
verdict that names nothing stands the remedy with the least expected loss, over what it removes and
what it does to the leaves; of those about as good the one with less work, then the cheaper one. It
is no verdict: no error is kept, and how often it is wrong is said with it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from orthocris.core.verdict.evidence import MOST_LOG, Evidence
from orthocris.core.verdict.model.likelihood import FloatArray
from orthocris.core.verdict.result import Bet, RemedyResult

LEAST = 0.2  # a remedy that removes less is useless to a gardener
PRICE_OF_STEP = 0.15  # a step of leaf damage outweighs so much removed
ABOUT_AS_GOOD = 0.03  # of the fraction removed: then work and money decide
WRONG_BY = 0.1  # so much more removed by another makes the bet a wrong one
EVEN = 0.5


@dataclass(frozen=True, slots=True)
class Burden:
    """What a remedy costs whoever gives it: minutes and money over the whole trial."""

    minutes: float = 0.0
    money: float = 0.0


def todays_bet(
    evidence: Evidence,
    results: Sequence[RemedyResult],
    control: str,
    burdens: Mapping[str, Burden],
) -> Bet | None:
    """Return what to take if something must be taken today, or None.

    Never a remedy that harms plants or made it worse, never one likelier useless than not.
    """
    sound = [
        r
        for r in results
        if r.name in evidence.effects and not r.vetoed and not r.worse_than_control
    ]
    if not sound:
        return None
    removed = np.column_stack([_removed(evidence, r.name, control) for r in sound])
    useful = np.mean(removed >= LEAST, axis=0) >= EVEN
    damage = np.array([max(r.damage_beyond_control or 0.0, 0.0) for r in sound])
    score = np.where(useful, removed.mean(axis=0) - PRICE_OF_STEP * damage, -np.inf)
    if not useful.any():
        return None
    close = [k for k in range(len(sound)) if score[k] >= score.max() - ABOUT_AS_GOOD]
    taken = min(close, key=lambda k: _order(burdens.get(sound[k].name, Burden()), float(score[k])))
    return Bet(sound[taken].name, wrong_bet(removed, taken))


def wrong_bet(removed: FloatArray, taken: int) -> float:
    """Return the chance that a bet is useless, or clearly behind another, (draws, remedies)."""
    own = removed[:, taken]
    return float(np.mean((own < LEAST) | (removed.max(axis=1) > own + WRONG_BY)))


def _order(burden: Burden, score: float) -> tuple[float, float, float]:
    return burden.minutes, burden.money, -score


def _removed(evidence: Evidence, remedy: str, control: str) -> FloatArray:
    at = evidence.remedies.index
    ratio = evidence.log_harm[:, at(remedy)] - evidence.log_harm[:, at(control)]
    return np.asarray(np.maximum(1 - np.exp(np.minimum(ratio, MOST_LOG)), -1.0))


def bet_words(bet: Bet) -> str:
    """Say it in a sentence, never without how often it is wrong."""
    tenths = round(10 * bet.wrong)
    often = f"about {tenths} of 10" if tenths else "fewer than 1 of 10"
    return f"If you must treat today: {bet.remedy}. That is wrong in {often} such gardens."
