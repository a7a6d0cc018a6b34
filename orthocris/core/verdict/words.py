"""The verdict in words a neighbour understands."""

from __future__ import annotations

import math
from collections.abc import Sequence
from enum import Enum

from orthocris.core.trial.measures import Measure
from orthocris.core.verdict.decide import Decision
from orthocris.core.verdict.result import Outcome, RemedyResult

MOST_SAID = 10.0


class Gone(Enum):
    """Where nothing was left at the look, so that no ratio to the control exists."""

    NOWHERE = "nowhere"
    ON_CONTROL = "on the control"
    EVERYWHERE = "everywhere"


def percent(fraction: float) -> str:
    """Write a fraction as a whole percentage that never claims more than was seen.

    Above 99% the digit that matters is kept: 0.997 is 99.7%, not 100%. Beyond a tenfold there
    is no number any more that anybody could use.
    """
    if abs(fraction) > MOST_SAID:
        return "over 1000%" if fraction > 0 else "under −1000%"
    if 0.99 < fraction < 1:
        return f"{min(math.floor(fraction * 1000) / 10, 99.9):g}%"
    return f"{round(fraction * 100):d}%".replace("-", "−")


def listing(names: Sequence[str]) -> str:
    """Join names as people do: a, b and c."""
    return " and ".join(filter(None, (", ".join(names[:-1]), *names[-1:])))


def sentence(
    decision: Decision,
    results: Sequence[RemedyResult],
    measure: Measure,
    *,
    threshold: float,
    gone: Gone,
) -> str:
    """Return the one sentence of the verdict; `gone` tells where nothing was left."""
    by_name = {result.name: result for result in results}
    if decision.outcome is Outcome.RANKED_WITHOUT_CONTROL:
        return _ranking(results, measure)
    if decision.outcome is Outcome.UNDECIDED:
        return _unsettled(results, measure, gone)
    if decision.outcome is Outcome.NONE_BEATS_CONTROL:
        return _nothing_works(results, threshold)
    if decision.recommended is None:
        return _not_worth_it(results, measure, threshold)
    best = by_name[decision.recommended]
    effect = f"about {percent(best.efficacy or 0)} fewer {measure.noun} than on the control"
    span = f"(likely {_span(best)})"
    if decision.outcome is Outcome.WINNER:
        return f"{best.name} works best: {effect} {span}."
    rivals = [r.name for r in results if r.could_be_best and not r.vetoed and r.name != best.name]
    if not rivals:
        return f"{best.name} works: {effect} {span}."
    return (
        f"{best.name} is the one to take: {effect} {span}; {listing(rivals)} may be as good, "
        "and this trial cannot tell them apart."
    )


def advice(
    decision: Decision,
    results: Sequence[RemedyResult],
    *,
    more_blocks: int | None,
    threshold: float,
) -> str:
    """Return what to do now, or what would settle it."""
    if decision.outcome is Outcome.RANKED_WITHOUT_CONTROL:
        return "Repeat it with untreated plants beside the others to learn what truly works."
    if decision.outcome is Outcome.NONE_BEATS_CONTROL:
        return "Do not spend more on these; wash off by hand, or try a different remedy."
    if decision.outcome is Outcome.UNDECIDED:
        if more_blocks is None:
            return "Count once more, or repeat it when there are more pests on the plants."
        if more_blocks == 0:
            return (
                "One more look, or the same trial repeated, would settle it: the plants are many "
                f"enough to see {percent(threshold)}."
            )
        plants = "1 more plant" if more_blocks == 1 else f"{more_blocks} more plants"
        return (
            f"{plants} of each remedy, control included, would be enough to tell "
            f"{percent(threshold)} fewer from nothing."
        )
    if decision.recommended is None:
        return "It is below what you said is worth it; look for something stronger."
    return (
        f"Treat the rest with {decision.recommended} after a patch test on a few leaves, "
        "and keep looking."
    )


def _span(result: RemedyResult) -> str:
    low, high = result.efficacy_low or 0.0, result.efficacy_high or 0.0
    if low < 0:
        return f"from no help at all to {percent(high)}"
    return f"between {percent(low)} and {percent(high)}"


def _ranking(results: Sequence[RemedyResult], measure: Measure) -> str:
    ranked = [r for r in results if r.rate_ratio is not None]
    if not ranked:
        return "Nothing can be ranked from these counts, and there is no control."
    first = ranked[0].name
    rivals = [r.name for r in ranked[1:] if r.could_be_best]
    beside = f"; {listing(rivals)} may be as good" if rivals else ""
    return (
        f"{first} was left with the fewest {measure.noun}{beside}, but without untreated plants "
        "nobody can say that anything worked."
    )


def _unsettled(results: Sequence[RemedyResult], measure: Measure, gone: Gone) -> str:
    if gone is Gone.EVERYWHERE:
        return (
            f"Not settled: no {measure.noun} were left on any plant, untreated ones included, "
            "so they went by themselves and nothing can be told apart."
        )
    if gone is Gone.ON_CONTROL:
        return (
            f"Not settled: no {measure.noun} were left on the untreated plants, so no remedy "
            "could do better."
        )
    leading = [r for r in results if r.role == "remedy" and r.efficacy is not None and not r.vetoed]
    if not leading:
        return "Not settled: these plants cannot show a difference between remedies."
    best = max(leading, key=lambda r: r.efficacy or 0.0)
    if best.efficacy_high is None:
        return f"Not settled: {best.name} looks best, but with so few plants that may be chance."
    return (
        f"Not settled: {best.name} looks best, but it could be anything {_span(best)}, so this "
        "trial cannot say that it beats leaving the plants alone."
    )


def _nothing_works(results: Sequence[RemedyResult], threshold: float) -> str:
    sound = [r for r in results if r.role == "remedy" and not r.vetoed]
    if not sound:
        return "Every remedy here harms the plant, so none can be recommended."
    most = max(r.efficacy_high or 0.0 for r in sound)
    at_most = "nothing" if most <= 0 else f"at most {percent(most)}"
    return (
        f"None of these works well enough: they remove {at_most} beyond the control, and you "
        f"asked for {percent(threshold)}."
    )


def _not_worth_it(results: Sequence[RemedyResult], measure: Measure, threshold: float) -> str:
    best = max((r for r in results if r.beats_control), key=lambda r: r.efficacy or 0.0)
    return (
        f"{best.name} does something, about {percent(best.efficacy or 0)} fewer {measure.noun} "
        f"than on the control (likely {_span(best)}), but less than the {percent(threshold)} "
        "that you said is worth it."
    )
