"""From estimates to a decision: which outcome, and which remedy is recommended."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from orthocris.core.verdict.result import Outcome, RemedyResult

GENTLE_STEP = 0.25  # damage that differs by less than a quarter step counts as the same


@dataclass(frozen=True, slots=True)
class Decision:
    """The outcome and the remedy to take, if any."""

    outcome: Outcome
    recommended: str | None


def decide(
    results: Sequence[RemedyResult], *, has_control: bool, threshold: float, informative: bool
) -> Decision:
    """Decide by fixed rules, in this order.

    1. Without a control, or without an error estimate, nothing is recommended.
    2. Remedies that harm the plant are out.
    3. When some remedy beats the control: `winner` if it alone could be the best, else
       `tie`. Recommended is the gentlest (then the strongest) of those that beat the control
       and could be best, unless even its upper limit lies below the threshold.
    4. When none does: `none_beats_control` if every upper limit lies below the threshold,
       for then the trial was precise enough to say so; else `undecided`.

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
    """
    if not has_control:
        return Decision(Outcome.RANKED_WITHOUT_CONTROL, None)
    if not informative:
        return Decision(Outcome.UNDECIDED, None)
    sound = [r for r in results if r.role == "remedy" and not r.vetoed]
    beating = [r for r in sound if r.beats_control]
    if beating:
        best = [r for r in sound if r.could_be_best]
        outcome = Outcome.WINNER if len(best) == 1 and best[0].beats_control else Outcome.TIE
        chosen = min([r for r in best if r.beats_control] or beating, key=_gentleness)
        worth = chosen.efficacy_high is not None and chosen.efficacy_high >= threshold
        return Decision(outcome, chosen.name if worth else None)
    if all(r.efficacy_high is not None and r.efficacy_high < threshold for r in sound):
        return Decision(Outcome.NONE_BEATS_CONTROL, None)
    return Decision(Outcome.UNDECIDED, None)


def _gentleness(result: RemedyResult) -> tuple[float, float]:
    damage = result.damage_beyond_control
    # Damage not scored is taken as none: it is warned of, and must not outrank by accident.
    steps = math.floor(max(damage or 0.0, 0.0) / GENTLE_STEP + 1e-9)
    return steps, -(result.efficacy or 0.0)
