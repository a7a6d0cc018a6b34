"""Which of a trial's remedies suits the gardener, by what they mind."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from orthocris.core.trial.mess import RoundMess
from orthocris.core.trial.minds import Mind, Minds, minds_from
from orthocris.core.trial.plan import Remedy, Role
from orthocris.core.trial.record import Change
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.trial.ways import POURED
from orthocris.core.verdict.bet import Burden
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.minded import Choice, Suitor, choose
from orthocris.core.verdict.result import RemedyResult, Verdict
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import card_of, strong_of, usual_of
from orthocris.services.verdict.judging import verdict_of
from orthocris.services.verdict.terms import terms_of
from orthocris.storage import minds as kept
from orthocris.storage import record
from orthocris.storage.field import mess
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class Suited:
    """What is minded, and how the remedies that work come out by it; `costs` in their own units.

    `asked` are the things that can be minded here: food only where something is eaten.
    """

    minds: Minds
    asked: tuple[Mind, ...]
    choice: Choice
    costs: Mapping[str, Mapping[Mind, float | None]]


def suited_to(context: Context, trial_id: int, look_number: int | None = None) -> Suited:
    """Weigh the remedies that are shown to work and harm nothing, by what is minded.

    Raises
    ------
    ConflictError
        When there is nothing to judge yet, saying what comes first.
    """
    verdict = verdict_of(context, trial_id, look_number).verdict
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        minds = kept.load(connection)
        terms = terms_of(connection, parts)
        messy = mess.mess_of(connection, trial_id)
    trial = parts[-1]
    suitors = _suitors(trial, verdict, terms, messy)
    asked = tuple(m for m in Mind if m is not Mind.FOOD or trial.setup.eaten)
    minded = {m: minds[m] for m in asked if m in minds}
    return Suited(minded, asked, choose(suitors, minded), {s.name: s.costs for s in suitors})


def change_minds(context: Context, said: Mapping[str, int]) -> None:
    """Keep what is minded; what it was stays on record.

    Raises
    ------
    InputError
        For a thing that nobody can mind, or a weight that is none.
    """
    minds = minds_from(said)
    with context.database.atomic() as connection:
        before = kept.load(connection)
        after = {**before, **minds}
        kept.save(connection, after)
        told = [{f"minds_{m}": int(w) for m, w in state.items()} for state in (before, after)]
        record.record_change(connection, None, Change(context.now(), "yard", told[0], told[1]))


def _suitors(
    trial: CountedTrial, verdict: Verdict, terms: Terms, messy: Sequence[RoundMess]
) -> list[Suitor]:
    if verdict.so_far or usual_of(trial):
        return []
    remedies = {r.name: r for r in trial.remedies if r.role is Role.REMEDY}
    sound = [
        r
        for r in verdict.remedies
        if r.name in remedies and r.beats_control and not r.vetoed and not r.kills
    ]
    most = max((r.helpers for r in sound if r.helpers is not None), default=None)
    found = []
    for one in sound:
        remedy = remedies[one.name]
        burden = (terms.burdens or {}).get(one.name)
        costs: dict[Mind, float | None] = {
            Mind.LEAVES: one.damage_beyond_control,
            Mind.HELPERS: _fewer(one, most),
            Mind.PETS: float(bool(strong_of(remedy))),
            Mind.SMELL: _smell(remedy, messy),
            Mind.MONEY: _money(trial, remedy, burden),
            Mind.MINUTES: burden.minutes if burden else None,
            Mind.FOOD: _days(remedy),
        }
        if one.efficacy is not None:
            found.append(Suitor(one.name, one.efficacy, costs))
    return found


def _money(trial: CountedTrial, remedy: Remedy, burden: Burden | None) -> float | None:
    """What its bottles cost a plant; of mixes whose cost nobody told nothing is known."""
    told = any(b.cost is not None for b in trial.batches if b.remedy_id == remedy.id)
    return burden.money if burden and (told or not POURED & set(remedy.traits.ways)) else None


def _fewer(one: RemedyResult, most: float | None) -> float | None:
    return None if most is None or one.helpers is None else most - one.helpers


def _smell(remedy: Remedy, messy: Sequence[RoundMess]) -> float | None:
    """In which share of the rounds of which something was said it smelt."""
    said = [m.kinds for m in messy if m.remedy_id == remedy.id]
    return sum("smells" in kinds for kinds in said) / len(said) if said else None


def _days(remedy: Remedy) -> float | None:
    days = card_of(remedy).eat_after_days
    return None if days is None else float(days)
