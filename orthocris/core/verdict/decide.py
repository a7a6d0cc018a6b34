"""From evidence to a decision: which outcome, and which remedy is recommended."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from orthocris.core.verdict.result import Outcome, RemedyResult

GENTLE_STEP = 0.25  # damage that differs by less than a quarter step counts as the same
EVEN_ODDS = 0.5
SHOWN = 0.95  # chance of being no worse than the best, but for the margin


@dataclass(frozen=True, slots=True)
class Decision:
    """The outcome and the remedy to take, if any.

    `so_far` is True before the look that the plan made the decisive one; `usual` names the control
    where it is what is done anyway.
    """

    outcome: Outcome
    recommended: str | None
    so_far: bool = False
    usual: str = ""


def decide(
    results: Sequence[RemedyResult],
    *,
    has_control: bool,
    threshold: float,
    informative: bool,
    within: Callable[[str, str], float] = lambda _one, _best: 0.0,
    so_far: bool = False,
) -> Decision:
    """Decide by fixed rules, in this order.

    1. Without a control, or without an error estimate, nothing is recommended; where every remedy
       harms the plant, none is, whatever can be estimated.
    2. Remedies that kill or burn the plant, and those shown to be worse than the control, are out.
    3. When some remedy beats the control: `winner` if it alone could be the best, else `tie`.
       Recommended is, of those that beat the control and reach the threshold with at least even
       odds, the best; or a gentler one that is shown to be no worse than it by more than a
       margin, and then it is a `tie`. If none has even odds, nothing is recommended.
    4. When none does: `none_beats_control` if every upper limit lies below the threshold,
       for then the trial was precise enough to say so; else `undecided`.
    5. Before the decisive look nothing is recommended.

    Parameters
    ----------
    results:
        All remedies, the control included.
    has_control:
        False: ranking only.
    threshold:
        Practical threshold, the fraction removed that makes a remedy worth it.
    informative:
        False when no comparison has an error estimate or nothing was left anywhere.
    within:
        The chance that a remedy removes no less than the best one but for the margin.
    so_far:
        True before the look that decides.
    """
    if not has_control:
        return Decision(Outcome.RANKED_WITHOUT_CONTROL, None, so_far)
    remedies = [r for r in results if r.role == "remedy"]
    sound = [r for r in remedies if not r.vetoed]
    if remedies and not sound:
        return Decision(Outcome.NONE_BEATS_CONTROL, None, so_far)
    if not informative:
        return Decision(Outcome.UNDECIDED, None, so_far)
    beating = [r for r in sound if r.beats_control]
    if beating:
        best = [r for r in sound if r.could_be_best]
        alone = len(best) == 1 and best[0].beats_control
        chosen = _to_take(beating, within)
        wins = alone and (chosen is None or chosen is best[0])
        taken = None if chosen is None or so_far else chosen.name
        return Decision(Outcome.WINNER if wins else Outcome.TIE, taken, so_far)
    known = [r for r in sound if r.efficacy is not None]
    if known and all(r.efficacy_high is not None and r.efficacy_high < threshold for r in known):
        return Decision(Outcome.NONE_BEATS_CONTROL, None, so_far)
    return Decision(Outcome.UNDECIDED, None, so_far)


def _to_take(
    beating: Sequence[RemedyResult], within: Callable[[str, str], float]
) -> RemedyResult | None:
    """The best of those worth it, or a gentler one shown to be as good but for the margin."""
    worth = [r for r in beating if (r.prob_worth_it or 0.0) >= EVEN_ODDS]
    if not worth:
        return None
    best = max(worth, key=lambda r: r.efficacy or 0.0)
    as_good = [r for r in worth if r is best or within(r.name, best.name) >= SHOWN]
    return min(as_good, key=_gentleness)


def _gentleness(result: RemedyResult) -> tuple[float, float]:
    damage = result.damage_beyond_control
    # Damage not scored is taken as none: it is warned of, and must not outrank by accident.
    steps = math.floor(max(damage or 0.0, 0.0) / GENTLE_STEP + 1e-9)
    return steps, -(result.efficacy or 0.0)
