"""Judging a trial whose key is open: of its pest, and of a second one on the same plants."""

from __future__ import annotations

from dataclasses import replace

from orthocris.core import Verdict
from orthocris.core.errors import InputError
from orthocris.core.trial.measures import MeasureKey
from orthocris.core.trial.plan import Look
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.verdict.both import both_words
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.gathering import Gathered
from orthocris.core.verdict.judge import judge_gathered


def judged(
    trial: CountedTrial, gathered: Gathered, look: Look, terms: Terms, measure: str | None = None
) -> Verdict:
    """Judge what was counted of the trial's pest, or of another measure."""
    return judge_gathered(
        gathered,
        control=trial.control.name if trial.control else None,
        measure=measure or trial.measure,
        look=str(look.moment),
        threshold=trial.threshold,
        seed=trial.seed or 0,
        terms=terms,
    )


def second_verdict(
    trial: CountedTrial, gathered: Gathered, look: Look, terms: Terms
) -> Verdict | None:
    """Judge what was counted of the second pest; None where it was not counted at this look."""
    counted = {p for p, t in trial.tallies_at(look, MeasureKey.OTHER).items() if t.finished}
    whole = {p.id for p in trial.trial_plants} <= counted
    try:
        return judged(trial, gathered, look, replace(terms, whole=whole), MeasureKey.OTHER)
    except InputError:
        return None


def with_second(
    first: Verdict, second: Verdict | None, pests: tuple[str, str]
) -> tuple[Verdict, tuple[str, ...]]:
    """Return the first pest's verdict, the second called by its name in it, and what is said."""
    one, other = pests[0].lower(), pests[1].lower()
    if second is None:
        return first, (f"All this is of {one}; {other} were not counted at this look.",)
    beside = tuple(
        replace(b, label=pests[1]) if b.measure == MeasureKey.OTHER else b for b in first.beside
    )
    both = both_words(first, second, (one, other))
    said = f"All this is of {one}. Of {other}: {second.sentence}"
    advice = f"For {one} alone: {first.advice}" if both and first.advice else first.advice
    return replace(first, beside=beside, advice=advice), (*([both] if both else []), said)
