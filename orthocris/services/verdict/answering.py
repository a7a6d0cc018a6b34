"""What the kind of a trial's question is answered, beside or in place of what removes most."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core import Observation, Verdict
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.plan import Look, Role
from orthocris.core.trial.question import factors, ladder_ingredient
from orthocris.core.trial.setup import Kind
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.verdict.arrivals import prevention_answer
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.ladder import LadderAnswer, ladder_answer, weakest_first
from orthocris.core.verdict.reading import Reading, read_trial
from orthocris.core.verdict.square import square_answer


def answered(
    trial: CountedTrial,
    every: Sequence[Observation],
    look: Look,
    verdict: Verdict,
    terms: Terms,
) -> tuple[Verdict, tuple[str, ...]]:
    """Return the verdict as the kind of question has it, and the sentences that answer the kind.

    A ladder's verdict names the weakest strength that likely does it; the others stay as they are.
    `terms` are those it was judged by.
    """
    kind, seed, control = trial.setup.kind, trial.seed or 0, trial.control
    if kind not in (Kind.PREVENTION, Kind.LADDER, Kind.SQUARE):
        return verdict, ()
    seen = [o for o in every if o.day <= look.moment]
    if kind is Kind.PREVENTION:
        order = [r.name for r in trial.remedies]
        name = control.name if control else None
        return verdict, prevention_answer(seen, trial.measure, order, name, seed)
    if control is None:
        return verdict, ()
    reading = read_trial(
        seen,
        control=control.name,
        measure=trial.measure,
        look=str(look.moment),
        seed=seed,
        terms=terms,
    )
    holds = _holds(trial)
    if kind is Kind.SQUARE:
        one, other, both = sorted(holds, key=lambda name: len(holds[name]))
        return verdict, square_answer(reading, one=one, other=other, both=both)
    found = _ladder(trial, reading, verdict)
    if found is None:
        return verdict, ()
    return weakest_first(verdict, found, measure_named(trial.measure), terms.usual)


def _ladder(trial: CountedTrial, reading: Reading, verdict: Verdict) -> LadderAnswer | None:
    holds = _holds(trial)
    rung = ladder_ingredient(list(holds.values()))
    if rung is None:
        return None
    units = [i.unit for r in trial.remedies for i in r.traits.ingredients if i.key == rung]
    doses = {name: held[rung] for name, held in holds.items()}
    return ladder_answer(reading, verdict, doses, units[0])


def _holds(trial: CountedTrial) -> dict[str, dict[str, float]]:
    """What each remedy but the control holds of each ingredient."""
    return {r.name: factors(r.traits) for r in trial.remedies if r.role is Role.REMEDY}
