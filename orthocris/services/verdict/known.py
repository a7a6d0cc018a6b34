"""What the gardener knows of a pest by now: remedy by remedy, from all own trials together."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from orthocris.core.trial.plan import Remedy, Role, TrialPlan
from orthocris.core.verdict.pooling import Pooled, effect_of, harm_words, known_words, pool, removed
from orthocris.knowledge import crops
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.trial.own_pests import pest_of
from orthocris.storage import verdicts
from orthocris.storage.database import Connection
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class KnownPest:
    """A pest, and in how many trials remedies against it were judged."""

    pest: str
    name: str
    trials: int


@dataclass(frozen=True, slots=True)
class KnownTrial:
    """What one trial says of a remedy: fractions removed with 95% limits; `out` where it harmed."""

    trial_id: int
    name: str
    on: date
    crop: str
    plants: int
    efficacy: float
    low: float
    high: float
    damage: float | None
    out: bool
    best: bool


@dataclass(frozen=True, slots=True)
class KnownRemedy:
    """A remedy at one strength over all trials, as fractions removed; `harmed` in how many."""

    name: str
    strength: str
    catalogue: str | None
    trials: tuple[KnownTrial, ...]
    efficacy: float
    low: float
    high: float
    next_low: float
    next_high: float
    harmed: int
    words: str


@dataclass(frozen=True, slots=True)
class KnownHarm:
    """A remedy that harmed the plants of every trial so that no number could be given."""

    name: str
    strength: str
    catalogue: str | None
    words: str


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a pest; the remedies by what a next trial would at least find of them."""

    pest: str
    name: str
    trials: int
    remedies: tuple[KnownRemedy, ...]
    harmful: tuple[KnownHarm, ...] = ()


def known_pests(context: Context) -> tuple[KnownPest, ...]:
    """Return the pests of which verdicts are on record, those of most trials first."""
    with context.database.reading() as connection:
        found = Counter(one.pest for one in verdicts.last_on_record(connection))
        named = [KnownPest(k, _name_of(connection, k), n) for k, n in found.items()]
    return tuple(sorted(named, key=lambda one: (-one.trials, one.name)))


def known_of(context: Context, pest: str) -> Known:
    """Return what is known of the remedies against a pest, nothing where nothing was judged."""
    with context.database.reading() as connection:
        title = _name_of(connection, pest)
        told = [
            (reading.load_plan(connection, one.trial_id), one.verdict)
            for one in verdicts.last_on_record(connection, pest)
        ]
    rows: dict[tuple[str, str], list[tuple[Remedy, KnownTrial]]] = {}
    harm: Counter[tuple[str, str]] = Counter()  # also of what killed its plants and has no number
    harmful: dict[tuple[str, str], Remedy] = {}
    for plan, verdict in told:
        for remedy, trial, out in _of_trial(plan, verdict):
            name = remedy.traits.catalogue or remedy.name.strip().lower()
            key = (name, strength_of(remedy))
            harm[key] += out
            if out:
                harmful[key] = remedy
            if trial is not None:
                rows.setdefault(key, []).append((remedy, trial))
    remedies = [_together(found, harm[key]) for key, found in rows.items()]
    bare = [_bare(r, harm[key]) for key, r in harmful.items() if key not in rows]
    # Harm that was seen anywhere outranks what was removed.
    remedies.sort(key=lambda one: (one.harmed > 0, -one.next_low, -one.efficacy))
    return Known(pest, title, len(told), tuple(remedies), tuple(bare))


def _bare(remedy: Remedy, harmed: int) -> KnownHarm:
    said = f"{harm_words(harmed)} No number could be given of what it removed."
    return KnownHarm(remedy.name, strength_of(remedy), remedy.traits.catalogue, said)


def strength_of(remedy: Remedy) -> str:
    """Return the amounts a remedy is made of: another strength is another remedy."""
    return ", ".join(f"{one.amount:g} {one.unit}" for one in remedy.traits.ingredients)


def _of_trial(
    plan: TrialPlan, verdict: Mapping[str, Any]
) -> Iterator[tuple[Remedy, KnownTrial | None, bool]]:
    """Each remedy of a trial, what was found of it (None: no number), and whether it harmed."""
    crop = next((c.name for c in crops() if c.key == plan.setup.crop), "")
    by_name = {remedy.name: remedy for remedy in plan.remedies}
    against_usual = bool(usual_of(plan))
    for found in verdict["remedies"]:
        remedy = by_name.get(found["name"])
        if remedy is None or remedy.role is not Role.REMEDY:
            continue
        out = bool(found["vetoed"] or found.get("kills"))
        limits = (found["efficacy"], found["efficacy_low"], found["efficacy_high"])
        # What was held against another remedy says nothing of what it removes by itself.
        if None in limits or against_usual:
            yield remedy, None, out
            continue
        trial = KnownTrial(
            trial_id=plan.id,
            name=plan.name,
            on=plan.sprayed_on or plan.start_on,
            crop=crop,
            plants=found["plants"],
            efficacy=limits[0],
            low=limits[1],
            high=limits[2],
            damage=found["damage_beyond_control"],
            out=out,
            best=verdict["recommended"] == remedy.name,
        )
        yield remedy, trial, out


def _together(found: list[tuple[Remedy, KnownTrial]], harmed: int) -> KnownRemedy:
    remedy, trials = found[-1][0], tuple(trial for _, trial in found)
    both = pool([effect_of(one.efficacy, one.low, one.high) for one in trials])
    alone = trials[0] if len(trials) == 1 else None
    efficacy = alone.efficacy if alone else removed(both.left)
    low = alone.low if alone else removed(both.high)
    high = alone.high if alone else removed(both.low)
    ahead = _ahead(both)
    return KnownRemedy(
        name=remedy.name,
        strength=strength_of(remedy),
        catalogue=remedy.traits.catalogue,
        trials=trials,
        efficacy=efficacy,
        low=low,
        high=high,
        next_low=ahead[0],
        next_high=ahead[1],
        harmed=harmed,
        words=known_words(len(trials), (efficacy, low, high), ahead, harmed),
    )


def _ahead(both: Pooled) -> tuple[float, float]:
    least = both.low if both.next_low is None else both.next_low
    most = both.high if both.next_high is None else both.next_high
    return removed(most), removed(least)


def _name_of(connection: Connection, pest: str) -> str:
    known = pest_of(connection, pest)
    return known.name if known else pest
