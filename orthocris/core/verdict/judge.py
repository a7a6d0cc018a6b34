"""The judge: observations in, verdict out. This file only conducts the steps."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.verdict.beside import read_beside, shown_of
from orthocris.core.verdict.bet import bet_words, todays_bet
from orthocris.core.verdict.case import Case, Gone, Terms, check_terms, where_gone
from orthocris.core.verdict.cautions import warnings_for
from orthocris.core.verdict.dataset import Dataset, collect
from orthocris.core.verdict.decide import Decision, decide
from orthocris.core.verdict.evidence import Evidence, weigh
from orthocris.core.verdict.further import Further, what_would_settle
from orthocris.core.verdict.gathering import Gathered, gather
from orthocris.core.verdict.grown import read_grown
from orthocris.core.verdict.harm import harm_by_remedy
from orthocris.core.verdict.observation import (
    MOST_ADDITIONS,
    Observation,
    check_observations,
)
from orthocris.core.verdict.ranking import remedy_results
from orthocris.core.verdict.reasons import Within, reasons
from orthocris.core.verdict.result import BesideReading, Bet, Design, Outcome, RemedyResult, Verdict
from orthocris.core.verdict.table import Table, make_table
from orthocris.core.verdict.two_looks import taken_together
from orthocris.core.verdict.words import (
    FIRST_WAVE,
    NOT_WHOLE,
    ONE_PLANT,
    TO_DECIDE,
    WITHIN_HOURS,
    advice,
    sentence,
)

METHOD = "clumped_counts_rerandomised"
# Counted up when the same numbers may give another verdict, so that one on record can say why.
MODEL = 5


def judge(
    observations: Sequence[Observation],
    *,
    control: str | None = "control",
    measure: str | None = None,
    look: str = "last",
    threshold: float = 0.6,
    seed: int = 0,
    terms: Terms = Terms(),  # noqa: B008 - frozen
) -> Verdict:
    """Judge a trial.

    Parameters
    ----------
    observations:
        Every number counted, before and after. Several of one plant, day and measure are
        subsamples, never replicates.
    control:
        Name of the control among the remedies, or None when there is none.
    measure:
        The measure judged; by default the first present of live, dead, hatched, cover,
        rating, catch.
    look:
        ``last`` (the last look at which most plants were counted), ``auc`` (area under the curve
        of all looks after the spray) or a day.
    threshold:
        Fraction removed, 0 up to 1, from which a remedy is worth it.
    seed:
        Seed of the draws; the same input and seed give the same verdict.
    terms:
        What else was agreed before the trial.

    Returns
    -------
    Verdict
        The fraction removed by a model of clumped counts or shares with blocks and the count
        before (`model/`), claims against the control by the layouts that the lot could have drawn
        (`rerandomise.py`), the decision by fixed rules (`decide.py`).

    Raises
    ------
    InputError
        When the observations or the options cannot be used.

    Examples
    --------
    >>> counts = {"control": (30, 41, 35, 52, 44), "soap": (3, 6, 2, 5, 4)}
    >>> seen = [
    ...     Observation(f"{name}{i}", f"b{i}", name, 7, "live", value)
    ...     for name, values in counts.items()
    ...     for i, value in enumerate(values)
    ... ]
    >>> judge(seen).outcome.value
    'winner'
    """
    check_observations(observations)
    return judge_gathered(
        gather(observations),
        control=control,
        measure=measure,
        look=look,
        threshold=threshold,
        seed=seed,
        terms=terms,
    )


def judge_gathered(
    gathered: Gathered,
    *,
    control: str | None,
    measure: str | None,
    look: str,
    threshold: float,
    seed: int,
    terms: Terms,
) -> Verdict:
    """Judge what was gathered from observations that were checked; see `judge`."""
    check_terms(threshold, seed, terms)
    gathered = taken_together(gathered, terms)
    data = collect(gathered, control=control, measure=measure, look=str(look))
    if terms.two_waves and not data.additions:
        terms = replace(terms, decisive=math.inf)
    table = make_table(data)
    evidence = weigh(
        table,
        table.responses(data),
        control=control,
        seed=seed,
        early=_early(data, terms),
        layouts=terms.layouts,
    )
    harm = harm_by_remedy(gathered, control, data.lost)
    terms = replace(terms, whole=terms.whole and _every_remedy_seen(data, gathered))
    case = Case(gathered, data, table, evidence, harm, threshold, where_gone(data, table))
    results = remedy_results(case)
    within = _within(case, terms)
    decision = decide(
        results,
        has_control=control is not None,
        threshold=threshold,
        informative=case.gone is Gone.NOWHERE and bool(evidence.effects),
        within=within,
        so_far=terms.so_far(data.days[-1]),
    )
    decision = replace(decision, usual=terms.usual)
    unsettled = decision.outcome is Outcome.UNDECIDED
    further = _further(case, results, seed) if unsettled else None
    beside = _beside(case, terms, look=str(look), seed=seed, decisive=not decision.so_far)
    bet = _bet(case, results, decision, terms)
    return Verdict(
        outcome=decision.outcome,
        recommended=decision.recommended,
        sentence=sentence(decision, results, data.measure, threshold=threshold, gone=case.gone)
        + (ONE_PLANT if gathered.one_plant is not None else ""),
        advice=advice(
            decision,
            further=further,
            threshold=threshold,
            results=results,
            wait=_wait(terms, data.days[-1]),
            final=data.additions >= MOST_ADDITIONS,
            units=terms.units,
        ),
        measure=data.measure.key,
        look=data.look,
        so_far=decision.so_far,
        threshold=threshold,
        design=_design(data, table),
        remedies=results,
        warnings=warnings_for(case, results, terms.usual, beside),
        reasons=reasons(case, results, decision, terms, within, beside),
        method=_method(data, evidence, seed, terms),
        beside=beside,
        bet=bet,
        if_today=bet_words(bet) if bet else "",
        more_plants=further.plants if further else 0,
    )


def _beside(
    case: Case, terms: Terms, *, look: str, seed: int, decisive: bool
) -> tuple[BesideReading, ...]:
    data, gathered = case.data, case.gathered
    if data.control is None:
        return ()
    reads = (
        *read_beside(gathered, data.measure.key, control=data.control, look=look, seed=seed),
        *read_grown(
            gathered, control=data.control, until=data.days[-1], seed=seed, layouts=terms.layouts
        ),
    )
    return shown_of(reads, decisive=decisive)


def _every_remedy_seen(data: Dataset, gathered: Gathered) -> bool:
    """False where no plant of a remedy was counted at the look, and not all are marked as lost."""
    counted = {line.remedy for line in data.lines}
    open_ = {gathered.homes[plant].remedy for plant, day in data.lost.items() if day is None}
    return open_ <= counted


def _wait(terms: Terms, day: float) -> str:
    """What to wait for where a look settles nothing yet."""
    if not terms.whole:
        return NOT_WHOLE
    if terms.decisive == math.inf:
        return FIRST_WAVE
    return TO_DECIDE if terms.is_early(day) else WITHIN_HOURS


def _early(data: Dataset, terms: Terms) -> int:
    """How many looks come before the decisive one: by the plan, else before the one judged.

    Where the second of two waves decides, the first alone is one of them.
    """
    first = int(terms.two_waves and data.additions > 0)
    if not terms.planned and terms.decisive is None:
        return len(data.earlier) + first
    return sum(terms.is_early(day) for day in (*data.earlier_days, data.days[-1])) + first


def _within(case: Case, terms: Terms) -> Within:
    """The chance that a remedy removes no less than another but for the margin."""
    control = case.data.control or ""
    return lambda one, best: case.evidence.chance_within(one, best, control, terms.margin)


def _bet(
    case: Case, results: Sequence[RemedyResult], decision: Decision, terms: Terms
) -> Bet | None:
    """What to take today where the decisive look names nothing."""
    control = case.data.control
    silent = decision.recommended is None and not decision.so_far
    if control is None or terms.usual or not silent or case.gone is not Gone.NOWHERE:
        return None  # beside what is done anyway nobody needs to bet
    return todays_bet(case.evidence, results, control, terms.burdens)


def _further(case: Case, results: Sequence[RemedyResult], seed: int) -> Further | None:
    control = case.data.control
    if control is None or case.gone is not Gone.NOWHERE or not case.evidence.effects:
        return None
    return what_would_settle(
        case.table,
        case.evidence,
        control=control,
        sound=[r.name for r in results if r.name in case.evidence.effects and not r.vetoed],
        threshold=case.threshold,
        seed=seed,
    )


def _design(data: Dataset, table: Table) -> Design:
    remedies, blocks = len(data.remedies), dict[str | None, set[str]]()
    for line in data.lines:
        blocks.setdefault(line.block, set()).add(line.remedy)
    if not table.blocks:
        kind = "completely_randomised"
    elif all(line.column is not None for line in data.lines):
        kind = "latin_square"
    elif all(len(found) == remedies for found in blocks.values()):
        kind = "complete_blocks"
    else:
        kind = "incomplete_blocks"
    return Design(kind=kind, blocks=table.blocks, plants=len(data.lines), remedies=remedies)


def _method(data: Dataset, evidence: Evidence, seed: int, terms: Terms) -> dict[str, object]:
    posterior = evidence.posterior
    return {
        "name": METHOD,
        "seed": seed,
        "confidence": 0.95,
        "df": posterior.freedom(),
        "slope_before": None if posterior.slope is None else float(posterior.slope[0]),
        "dispersion": float(posterior.dispersion[0]),
        "days": list(data.days),
        "looks_before": len(data.earlier),
        "margin": terms.margin,
        "two_looks": terms.two_looks,
        "planned_looks": sum(day > 0 for day in terms.planned),
        "spent": evidence.spent,
        "additions": data.additions,
        "comparison_with_control": "rerandomised_maximum_stepdown"
        if evidence.exact
        else "model_alone_too_few_layouts",
        "comparison_with_best": "posterior_chance",
        "ratio_to": data.control or "first in rank",
    }
