"""Every step from the counts to the verdict, in words."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence

from orthocris.core.verdict.beside import shown_words
from orthocris.core.verdict.case import Case, Gone, Terms
from orthocris.core.verdict.decide import EVEN_ODDS, SHOWN, Decision
from orthocris.core.verdict.evidence import BEST_ERROR, Effect
from orthocris.core.verdict.rerandomise import FAMILY_ERROR
from orthocris.core.verdict.result import BesideReading, Outcome, RemedyResult
from orthocris.core.verdict.words import odds, percent
from orthocris.core.words import listing, many

Within = Callable[[str, str], float]


def reasons(
    case: Case,
    results: Sequence[RemedyResult],
    decision: Decision,
    terms: Terms,
    within: Within,
    beside: tuple[BesideReading, ...] = (),
) -> tuple[str, ...]:
    """Return the steps of the reasoning in the order in which they were taken.

    Parameters
    ----------
    case, results, decision, terms:
        The verdict's own.
    within:
        The chance that a remedy removes no less than another but for the margin.
    beside:
        What was read of other measures.
    """
    remedies = [r for r in results if r.role == "remedy"]
    steps = [_harm(remedies)]
    if case.data.control is None:
        steps.append("There is no control: remedies are ranked, and nothing is recommended.")
    elif case.gone is not Gone.NOWHERE or not case.evidence.effects:
        steps.append("There is nothing to compare with the control, so nothing can be shown.")
    else:
        sound = [r for r in remedies if not r.vetoed and r.efficacy is not None]
        steps += _against_control(case, sound)
        steps += _best(sound, case.evidence.chance_of_best([r.name for r in sound]))
        steps += _worth(sound, case.threshold)
        steps += _gentler(sound, terms, within)
    if shown := [f"{name} {said}" for _, name, said in shown_words(beside)]:
        steps.append(
            f"Counted beside, against the control: {listing(shown)}. Of twenty trials at most one "
            "says any such thing by luck."
        )
    steps.append(_end(case, decision, remedies, terms))
    return tuple(steps)


def _harm(remedies: Sequence[RemedyResult]) -> str:
    out = [r for r in remedies if r.vetoed]
    if out:
        why = [
            f"{r.name} lost {r.died} of {many(r.plants + r.lost, 'plant')}"
            if r.kills
            else f"{r.name} raised leaf damage by {r.damage_beyond_control or 0:.1f} steps"
            for r in out
        ]
        return f"Harm comes first: {listing(why)}. Out, whatever it removes."
    if all(r.damage_beyond_control is None for r in remedies):
        return "Harm comes first: no remedy killed plants; leaf damage was not scored."
    return "Harm comes first: no remedy killed plants or raised leaf damage by a whole step."


def _against_control(case: Case, sound: Sequence[RemedyResult]) -> Iterator[str]:
    for r in sound:
        effect = case.evidence.effects[r.name]
        if r.worse_than_control:
            yield f"{r.name} left more than the control, beyond the luck of the draw: out."
            continue
        how = (
            f"luck alone would do as much for some remedy in {_of_hundred(effect.better)} of "
            "100 draws (5 is the limit, over all remedies and looks)"
            if case.evidence.exact
            else f"by the model alone, its p over all remedies is {effect.better:.3f} (5% is the "
            "limit)"
        )
        if r.plants == 1:
            yield f"{r.name} stood on one plant: nothing is shown by one."
            continue
        yield f"{r.name} against the control: {how}{_hence(r, effect)}."


def _hence(r: RemedyResult, effect: Effect) -> str:
    """What follows for one remedy from the lot's word and the model's."""
    if r.beats_control:
        low = r.efficacy_low or 0.0
        open_ = "; its interval, read alone, reaches below nothing, so how much is open"
        return f": it does something{open_ if low < 0 else ''}"
    if effect.better < FAMILY_ERROR:
        return (
            f", but as such counts usually vary it helps with a chance of {percent(effect.helps)} "
            f"only ({percent(effect.asked)} is asked): not shown"
        )
    return ": not shown"


def _of_hundred(p: float) -> str:
    return "less than 1" if p < 0.01 else f"about {min(round(100 * p), 100)}"


def _best(sound: Sequence[RemedyResult], chance: Mapping[str, float]) -> Iterator[str]:
    if len(sound) < 2:
        return
    chances = [f"{r.name} {odds(chance[r.name])}" for r in sound]
    left = [r.name for r in sound if r.could_be_best]
    yield (
        f"Chance of removing the most: {listing(chances)}. Below {100 * BEST_ERROR:g}% a remedy is "
        f"struck off; left {'is' if len(left) == 1 else 'are'} {listing(left) or 'none'}."
    )


def _worth(sound: Sequence[RemedyResult], threshold: float) -> Iterator[str]:
    beating = [r for r in sound if r.beats_control]
    if beating:
        chances = [f"{r.name} {odds(r.prob_worth_it or 0.0)}" for r in beating]
        yield (
            f"Chance of removing {percent(threshold)} or more, which you said is worth it: "
            f"{listing(chances)}. At least {percent(EVEN_ODDS)} is asked."
        )


def _gentler(sound: Sequence[RemedyResult], terms: Terms, within: Within) -> Iterator[str]:
    worth = [r for r in sound if r.beats_control and (r.prob_worth_it or 0.0) >= EVEN_ODDS]
    if len(worth) < 2:
        return
    best = max(worth, key=lambda r: r.efficacy or 0.0)
    chances = [f"{r.name} {odds(within(r.name, best.name))}" for r in worth if r is not best]
    yield (
        f"Chance of removing no less than {best.name}, but for {100 * terms.margin:g} points: "
        f"{listing(chances)}. From {percent(SHOWN)} on the gentler one is taken."
    )


def _end(case: Case, decision: Decision, remedies: Sequence[RemedyResult], terms: Terms) -> str:
    if remedies and all(r.vetoed for r in remedies):
        return "So: every remedy here harms the plant."
    if not terms.whole:
        return "Not every plant is counted at this look yet: nothing is recommended."
    if decision.so_far and terms.is_early(case.data.days[-1]):
        return "The look that was planned to decide is still to come: nothing is recommended."
    if decision.so_far:
        return "It is too early after the spray: nothing is recommended."
    if decision.recommended is not None:
        return f"So: {decision.recommended}."
    ends = {
        Outcome.WINNER: "So: it works, but none is likely enough to be worth it.",
        Outcome.TIE: "So: some work, but none is likely enough to be worth it.",
        Outcome.NONE_BEATS_CONTROL: "So: none is shown to work, and each upper limit lies below "
        f"{percent(case.threshold)}.",
        Outcome.UNDECIDED: "So: not settled.",
        Outcome.RANKED_WITHOUT_CONTROL: "So: an order, and no recommendation.",
    }
    return ends[decision.outcome]
