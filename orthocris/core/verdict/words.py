"""The verdict in words a neighbour understands."""

from __future__ import annotations

import math
from collections.abc import Sequence

from orthocris.core.trial.measures import Measure
from orthocris.core.trial.setup import UNIT_WORDS, Unit
from orthocris.core.verdict.case import Gone
from orthocris.core.verdict.decide import Decision
from orthocris.core.verdict.evenness import is_patchy
from orthocris.core.verdict.further import LIKELY, Further
from orthocris.core.verdict.rerandomise import FAMILY_ERROR
from orthocris.core.verdict.result import Outcome, RemedyResult
from orthocris.core.words import listing

MOST_SAID = 10.0
NOTHING = 0.1  # so much more is hardly anything
ONE_EACH = (
    "One plant of each remedy cannot tell a remedy from the luck of its plant, however often it is "
    "counted. Repeat it with three or more of each, or with halves or leaves of the plants there "
    "are."
)
ONE_PLANT = " It speaks of this one plant alone."
FINAL = (
    "This answer is final: the error that was kept for plants added is spent. Who must know begins "
    "a new trial, with more plants from the start."
)
WITHIN_HOURS = "Knock-down within hours is not control: count again after three days or later."
NOT_WHOLE = "Count the plants that are left first; until then this is no result."
FIRST_WAVE = (
    "This was the first of two waves: what may still be best or worth it goes on, on the plants "
    "that wait, and both are judged together. The first alone is no result."
)
TO_DECIDE = "What counts is the look that was planned to decide; an earlier one is no result."
SURE = 0.99


def percent(fraction: float) -> str:
    """Write a fraction as a whole percentage that never claims more than was seen.

    Above 98% the digit that matters is kept: 0.997 is 99.7%, not 100%, and 0.986 not 99%. Beyond a
    tenfold there is no number any more that anybody could use.
    """
    if abs(fraction) > MOST_SAID:
        return "over 1000%" if fraction > 0 else "under −1000%"
    if 0.98 < fraction < 1:
        return f"{min(math.floor(fraction * 1000) / 10, 99.9):g}%"
    return f"{round(fraction * 100):d}%".replace("-", "−")


def surplus(fraction: float) -> str:
    """Write how much more than untreated: there is no whole that it could come near to."""
    return percent(fraction) if fraction > MOST_SAID else f"{round(fraction * 100):d}%"


def odds(chance: float) -> str:
    """Write a chance: none is told as all or nothing."""
    if chance > SURE:
        return f"over {percent(SURE)}"
    return f"under {percent(1 - SURE)}" if chance < 1 - SURE else percent(chance)


def change(efficacy: float, measure: Measure) -> str:
    """Write a fraction removed: 61% fewer live pests, 38% more live pests, just as many."""
    if round(abs(efficacy) * 100) == 0:
        return f"as {measure.many} {measure.noun}"
    if efficacy < 0:
        return f"{surplus(-efficacy)} more {measure.noun}"
    return f"{percent(efficacy)} {measure.fewer}"


def sentence(
    decision: Decision,
    results: Sequence[RemedyResult],
    measure: Measure,
    *,
    threshold: float,
    gone: Gone,
) -> str:
    """Return the verdict in one sentence, after what killed plants and before what made it worse.

    `gone` tells where nothing was left.
    """
    usual = decision.usual
    main = _main(decision, results, measure, threshold, gone)
    if decision.so_far:
        main = f"So far: {main[:1].lower() if _is_plain(main) else main[:1]}{main[1:]}"
    return with_harm(main, results, measure, usual)


def with_harm(main: str, results: Sequence[RemedyResult], measure: Measure, usual: str) -> str:
    """Return what is said, after what killed plants and before what burnt or worsened."""
    after = [*_burnt(results, measure, usual), *_worse(results, measure, usual)]
    return " ".join([*_deaths(results), main, *after])


def after_deaths(lead: str, said: str, results: Sequence[RemedyResult]) -> str:
    """Put a sentence before what is said, but after what killed plants."""
    deaths = " ".join(_deaths(results))
    return " ".join(filter(None, (deaths, lead, said.removeprefix(deaths).strip())))


def _is_plain(said: str) -> bool:
    return said.startswith(("Not settled", "None of", "Nothing"))


def _main(
    decision: Decision,
    results: Sequence[RemedyResult],
    measure: Measure,
    threshold: float,
    gone: Gone,
) -> str:
    usual = decision.usual
    if decision.outcome is Outcome.RANKED_WITHOUT_CONTROL:
        return _ranking(results, measure)
    if _all_harm(results):
        return "Every remedy here harms the plant, so none can be recommended."
    if decision.outcome is Outcome.UNDECIDED:
        return _unsettled(results, measure, gone, usual)
    if decision.outcome is Outcome.NONE_BEATS_CONTROL:
        return _nothing_works(results, measure, threshold, usual)
    if decision.recommended is None and not decision.so_far:
        return _not_worth_it(results, measure, threshold, usual)
    return _works(decision, results, measure)


def _than(usual: str) -> str:
    return f"than with {usual}" if usual else "than on the control"


def _works(decision: Decision, results: Sequence[RemedyResult], measure: Measure) -> str:
    usual = decision.usual
    sound = [r for r in results if r.role == "remedy" and not r.vetoed]
    beating = [r for r in sound if r.beats_control]
    best = next(
        (r for r in sound if r.name == decision.recommended),
        max(beating, key=lambda r: r.efficacy or 0.0),
    )
    effect = f"about {change(best.efficacy or 0, measure)} {_than(usual)}"
    span = f"(likely {likely_span(best, measure)})"
    patchy = _patchy(best)
    rivals = [r.name for r in sound if r.could_be_best and r.name != best.name]
    if decision.outcome is Outcome.WINNER or not rivals:
        others = sum(r.efficacy is not None for r in sound) > 1
        best_of_all = others and decision.outcome is Outcome.WINNER
        does = f"does better than {usual}" if usual else "works"
        seems = f"seems to do better than {usual}" if usual else "seems to work"
        word = (
            ("looks best" if best_of_all else seems)
            if decision.so_far
            else ("works best" if best_of_all else does)
        )
        return f"{best.name} {word}: {effect} {span}{patchy}."
    lead = "looks best" if decision.so_far else "is the one to take"
    beaten = [r for r in sound if r.could_be_best and (r.efficacy or 0) > (best.efficacy or 0)]
    gentler = (
        f"; {beaten[0].name} removes hardly more and is harder on the leaves"
        if beaten and not best.could_be_best
        else f"; {listing(rivals)} may be as good, and this trial cannot tell them apart"
    )
    return f"{best.name} {lead}: {effect} {span}{patchy}{gentler}."


def _all_harm(results: Sequence[RemedyResult]) -> bool:
    remedies = [r for r in results if r.role == "remedy"]
    return bool(remedies) and all(r.vetoed for r in remedies)


def advice(
    decision: Decision,
    *,
    further: Further | None,
    threshold: float,
    results: Sequence[RemedyResult],
    wait: str,
    final: bool,
    units: tuple[str, str] = UNIT_WORDS[Unit.PLANT],
) -> str:
    """Return what to do now, or what would settle it.

    `wait` says what to wait for where a look settles nothing yet, `final` that all error that was
    kept for additions is spent.
    """
    if decision.outcome is Outcome.RANKED_WITHOUT_CONTROL:
        return "Repeat it with untreated plants beside the others to learn what truly works."
    if decision.so_far:
        return wait
    if decision.outcome is Outcome.NONE_BEATS_CONTROL:
        return _instead(results, threshold, decision.usual)
    if decision.outcome is Outcome.UNDECIDED:
        if max((r.plants for r in results), default=0) < 2:
            return ONE_EACH
        return FINAL if final else _to_settle(further, threshold, units)
    if decision.recommended is None:
        keep = f"keep to {decision.usual}, or look" if decision.usual else "look"
        return f"Whether it is worth it is doubtful; {keep} for something stronger."
    return treat_rest(decision.recommended)


def treat_rest(name: str) -> str:
    """Return what to do after a verdict that recommends a remedy."""
    return f"Treat the rest with {name}, what goes on leaves on a few first, and keep looking."


def _instead(results: Sequence[RemedyResult], threshold: float, usual: str) -> str:
    """What to do where none reaches what was asked."""
    if usual:
        return f"Keep to {usual}: none of these does so much better that changing is worth it."
    sound = [r for r in results if r.role == "remedy" and not r.vetoed]
    if any((r.efficacy or 0.0) > threshold / 2 for r in sound):
        return f"Take something stronger, or be content with less than {percent(threshold)}."
    return "Do not spend more on these; wash off by hand, or try a different remedy."


def _to_settle(further: Further | None, threshold: float, units: tuple[str, str]) -> str:
    if further is None:
        return "Count once more, or repeat it when there are more pests on the plants."
    tenths = round(further.chance * 10)
    if further.chance < LIKELY:
        tenths = min(tenths, 7)  # of what is not likely enough no more is claimed
    odds = f"{tenths} of 10"
    if further.look:
        return (
            f"One more look at the same plants would settle it in about {odds} such trials, judged "
            "with this one as the decisive look, so that no error is spent twice."
        )
    if further.chance < LIKELY:
        return (
            f"Even {further.plants} more {units[1]} of each remedy would settle it in only about "
            f"{odds} such trials, for the truth may lie near nothing or near {percent(threshold)}. "
            "Repeat it when there are more pests on the plants, or try something else."
        )
    more = f"{further.plants} more {units[further.plants > 1]}"
    return (
        f"{more} of each remedy, control included, would settle it in about {odds} such trials. "
        "They are an addition to this one, judged together with it: for two of these a part of the "
        "5 in 100 is kept, then the answer is final."
    )


def _patchy(result: RemedyResult) -> str:
    if result.missed:
        return f"; it seems to have missed {len(result.missed)} of its {result.plants} plants"
    if is_patchy(result.failed_on, result.plants):
        return f"; it failed on {result.failed_on} of its {result.plants} plants"
    return ""


def likely_span(result: RemedyResult, measure: Measure) -> str:
    """Write between what the truth likely lies: between 64% and 91%."""
    low, high = result.efficacy_low or 0.0, result.efficacy_high or 0.0
    less = measure.fewer.split()[0]
    if high < 0:
        return f"from {surplus(-high)} to {surplus(-low)} more"
    if low < -NOTHING:
        return f"anything from {surplus(-low)} more to {percent(high)} {less}"
    if low < 0:
        return f"from hardly anything to {percent(high)}"
    if percent(low) == percent(high):
        return f"close to {percent(low)}"
    return f"between {percent(low)} and {percent(high)}"


def _deaths(results: Sequence[RemedyResult]) -> list[str]:
    """What killed plants; and of what none was counted, for nothing can be said of it."""
    killers = sorted((r for r in results if r.kills), key=lambda r: -r.died / (r.plants + r.lost))
    unseen = [r.name for r in results if not r.plants and r.died < r.lost]
    none = f"No plant of {listing(unseen)} was counted at this look, so nothing is said of it."
    return [
        *(f"{r.name} lost {_of_its(r.died, r)}." for r in killers),
        *([none] if unseen else []),
    ]


def _of_its(died: int, result: RemedyResult) -> str:
    plants = result.plants + result.lost
    if plants == 1:
        return "its only plant"
    return f"{'all' if died >= plants else died} of its {plants} plants"


def _worse(results: Sequence[RemedyResult], measure: Measure, usual: str) -> list[str]:
    found = [r for r in results if r.worse_than_control and r.rate_ratio is not None]
    return [
        f"{r.name} may be worse than {usual or 'nothing'}: {_times(r.rate_ratio or 0)} the "
        f"{measure.noun} of {usual or 'the control'}."
        for r in found
    ]


def _burnt(results: Sequence[RemedyResult], measure: Measure, usual: str) -> list[str]:
    """The remedies that removed most and are out for what they did to the leaves."""
    sound = [r.efficacy or 0.0 for r in results if r.role == "remedy" and not r.vetoed]
    found = [r for r in results if r.vetoed and not r.kills and r.efficacy is not None]
    return [
        f"{r.name} burns the leaves, so it is out, though it left about "
        f"{change(r.efficacy or 0.0, measure)} than {usual or 'the control'}."
        for r in found
        if (r.efficacy or 0.0) > max(sound, default=0.0)
    ]


def _times(ratio: float) -> str:
    return f"about {f'{ratio:.1f}' if ratio < MOST_SAID else min(round(ratio), 1000)} times"


def _ranking(results: Sequence[RemedyResult], measure: Measure) -> str:
    ranked = [r for r in results if r.rate_ratio is not None]
    if not ranked:
        return "Nothing can be ranked from these counts, and there is no control."
    first = ranked[0].name
    rivals = [r.name for r in ranked[1:] if r.could_be_best]
    beside = f"; {listing(rivals)} may be as good" if rivals else ""
    return (
        f"{first} was left with the {measure.fewest}{beside}, but without untreated plants "
        "nobody can say that anything worked."
    )


def _unsettled(results: Sequence[RemedyResult], measure: Measure, gone: Gone, usual: str) -> str:
    if usual and gone is not Gone.NOWHERE:
        where = "on any plant" if gone is Gone.EVERYWHERE else f"on the plants with {usual}"
        return (
            f"Not settled: {measure.none_left} {where}, so nothing can do better than {usual} did."
        )
    if gone is Gone.EVERYWHERE:
        return (
            f"Not settled: {measure.none_left} on any plant, untreated ones included, "
            "so they went by themselves and nothing can be told apart."
        )
    if gone is Gone.ON_CONTROL:
        return (
            f"Not settled: {measure.none_left} on the untreated plants, so no remedy "
            "could do better."
        )
    leading = [r for r in results if r.role == "remedy" and r.efficacy is not None and not r.vetoed]
    if not leading:
        return "Not settled: these plants cannot show a difference between remedies."
    best = max(leading, key=lambda r: r.efficacy or 0.0)
    ahead = (best.efficacy or 0.0) > 0
    least = f"no remedy had {measure.fewer} than {usual or 'the control'}"
    lead = f"{best.name} looks best" if ahead else least
    whose = "" if ahead else f"of {best.name} "
    if best.efficacy_high is None:
        return f"Not settled: {lead}, but with so few plants that may be chance."
    if (best.efficacy_low or 0.0) <= 0 or best.p_adjusted is None:
        return (
            f"Not settled: {lead}, but {whose}the truth is likely {likely_span(best, measure)}, "
            f"so this trial cannot say that it beats {usual or 'leaving the plants alone'}."
        )
    looks = (
        f"Not settled: {best.name} looks best, about {change(best.efficacy or 0, measure)} "
        f"(likely {likely_span(best, measure)})"
    )
    if best.p_adjusted < FAMILY_ERROR:
        return f"{looks}, but the plants vary too much to be sure of it."
    return (
        f"{looks}, but the luck of the draw gives some remedy as much in "
        f"{max(round(best.p_adjusted * 100), 5)} of 100 trials in which "
        f"{f'none does better than {usual}' if usual else 'nothing works'}."
    )


def _nothing_works(
    results: Sequence[RemedyResult], measure: Measure, threshold: float, usual: str
) -> str:
    sound = [r for r in results if r.role == "remedy" and not r.vetoed and r.efficacy is not None]
    most = max(sound, key=lambda r: r.efficacy or 0.0)
    who = f"{most.name} does not reach" if len(sound) == 1 else "None of these reaches"
    lead = "" if len(sound) == 1 else f"{most.name} looks best with "
    return (
        f"{who} the {percent(threshold)} you asked for: {lead}about "
        f"{change(most.efficacy or 0.0, measure)} {_than(usual)} "
        f"(likely {likely_span(most, measure)})."
    )


def _not_worth_it(
    results: Sequence[RemedyResult], measure: Measure, threshold: float, usual: str
) -> str:
    beating = [r for r in results if r.beats_control and not r.vetoed]
    best = max(beating, key=lambda r: r.efficacy or 0.0)
    short = "probably below what" if (best.efficacy or 0) < threshold else "perhaps by less than"
    return (
        f"{best.name} {f'does better than {usual}' if usual else 'works'}, but {short} "
        f"you asked: about {change(best.efficacy or 0, measure)} {_than(usual)} "
        f"(likely {likely_span(best, measure)}), and you asked for {percent(threshold)}."
    )
