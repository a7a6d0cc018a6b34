"""What the gardener knows of a pest by now: remedy by remedy, from all own trials together."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np

from orthocris.core.trial.plan import Remedy, Role, TrialPlan
from orthocris.core.verdict.pooling import Pooled, effect_of, harm_words, known_words, pool, removed
from orthocris.core.weather.yard import Yard
from orthocris.knowledge import crops
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.trial.own_pests import pest_of
from orthocris.services.weather.stations import past_days
from orthocris.storage import neighbours, verdicts
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.neighbours import Neighbour
from orthocris.storage.trial import reading

KNOWN_HOURS = 0.9  # of a trial, for its weather to be told


@dataclass(frozen=True, slots=True)
class KnownPest:
    """A pest, and in how many trials remedies against it were judged."""

    pest: str
    name: str
    trials: int


@dataclass(frozen=True, slots=True)
class KnownTrial:
    """What one trial says of a remedy: fractions removed with 95% limits; `out` where it harmed.

    `trial_id` is that of an own trial, `garden` names whose it is else, empty for an own one.
    `warmth` (°C, mean) and `rain` (mm) are those from the first spray to the look that was judged,
    None where less than nine hours of ten are known. `notches` are those of its tag there.
    """

    trial_id: int | None
    garden: str
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
    warmth: float | None = None
    rain: float | None = None
    notches: int | None = None


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
class Told:
    """A trial with its verdict, of this garden or of another."""

    trial_id: int | None
    garden: str
    name: str
    on: date
    crop: str
    remedies: tuple[Remedy, ...]
    usual: bool
    verdict: Mapping[str, Any]
    warmth: float | None = None
    rain: float | None = None

    def remedies_told(self) -> Iterator[tuple[Remedy, KnownTrial | None, bool]]:
        """Each remedy of a trial, what was found of it (None: no number), and whether it harmed."""
        by_name = {remedy.name: remedy for remedy in self.remedies}
        for found in self.verdict["remedies"]:
            remedy = by_name.get(found["name"])
            if remedy is None or remedy.role is not Role.REMEDY:
                continue
            out = bool(found["vetoed"] or found.get("kills"))
            limits = (found["efficacy"], found["efficacy_low"], found["efficacy_high"])
            # What was held against another remedy says nothing of what it removes by itself.
            if None in limits or self.usual:
                yield remedy, None, out
                continue
            trial = KnownTrial(
                trial_id=self.trial_id,
                garden=self.garden,
                name=self.name,
                on=self.on,
                crop=self.crop,
                plants=found["plants"],
                efficacy=limits[0],
                low=limits[1],
                high=limits[2],
                damage=found["damage_beyond_control"],
                out=out,
                best=self.verdict["recommended"] == remedy.name,
                warmth=self.warmth,
                rain=self.rain,
                notches=remedy.notches,
            )
            yield remedy, trial, out


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a pest; the remedies by what a next trial would at least find of them."""

    pest: str
    name: str
    trials: int
    remedies: tuple[KnownRemedy, ...]
    harmful: tuple[KnownHarm, ...] = ()


def known_pests(context: Context) -> tuple[KnownPest, ...]:
    """Return the pests of which there are verdicts, other gardens' too, those of most first."""
    with context.database.reading() as connection:
        found = Counter(one.pest for one in verdicts.last_on_record(connection))
        found.update(one.trial.pest for one in neighbours.kept(connection))
        named = [KnownPest(k, _name_of(connection, k), n) for k, n in found.items()]
    return tuple(sorted(named, key=lambda one: (-one.trials, one.name)))


def known_of(context: Context, pest: str) -> Known:
    """Return what is known of the remedies against a pest, nothing where nothing was judged."""
    with context.database.reading() as connection:
        title = _name_of(connection, pest)
        place, now = yard.load(connection), context.now()
        told = [_in_weather(connection, place, one, now) for one in trials_told(connection, pest)]
    rows: dict[tuple[str, str], list[tuple[Remedy, KnownTrial]]] = {}
    harm: Counter[tuple[str, str]] = Counter()  # also of what killed its plants and has no number
    harmful: dict[tuple[str, str], Remedy] = {}
    for one in sorted(told, key=lambda one: one.on):
        for remedy, trial, out in one.remedies_told():
            key = key_of(remedy)
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


def trials_told(connection: Connection, pest: str) -> list[Told]:
    """Return the trials of a pest with a verdict, own ones and those of other gardens."""
    return [
        *(
            _own(reading.load_plan(connection, one.trial_id), one.verdict)
            for one in verdicts.last_on_record(connection, pest)
        ),
        *map(_of_neighbour, neighbours.kept(connection, pest)),
    ]


def _in_weather(connection: Connection, place: Yard, told: Told, now: datetime) -> Told:
    """A trial of this garden with the weather it had; of another garden nothing is known."""
    try:
        days = math.ceil(float(told.verdict.get("look", "")))
    except ValueError:
        return told
    end = told.on + timedelta(days=days + 1)
    if told.trial_id is None or days < 1 or end > now.date() + timedelta(days=1):
        return told
    weather = past_days(connection, place, told.on, end, now)
    warm, rain = (s[~np.isnan(s)] for s in (weather.temperature, weather.rain))
    enough = KNOWN_HOURS * weather.hours
    return replace(
        told,
        warmth=float(warm.mean()) if len(warm) >= enough else None,
        rain=float(rain.sum()) if len(rain) >= enough else None,
    )


def key_of(remedy: Remedy) -> tuple[str, str]:
    """Return what makes two remedies the same: the shipped one, else the name, and its strength."""
    return remedy.traits.catalogue or remedy.name.strip().lower(), strength_of(remedy)


def _own(plan: TrialPlan, verdict: Mapping[str, Any]) -> Told:
    crop = next((c.name for c in crops() if c.key == plan.setup.crop), "")
    on = plan.sprayed_on or plan.start_on
    usual = bool(usual_of(plan))
    return Told(plan.id, "", plan.name, on, crop, plan.remedies, usual, verdict)


def _of_neighbour(one: Neighbour) -> Told:
    trial = one.trial
    usual = bool(trial.usual)
    return Told(
        None, one.garden, trial.name, trial.on, trial.crop, trial.remedies, usual, one.verdict
    )


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
        words=known_words(
            len(trials),
            (efficacy, low, high),
            ahead,
            harmed,
            elsewhere=sum(bool(one.garden) for one in trials),
        ),
    )


def _ahead(both: Pooled) -> tuple[float, float]:
    least = both.low if both.next_low is None else both.next_low
    most = both.high if both.next_high is None else both.next_high
    return removed(most), removed(least)


def _name_of(connection: Connection, pest: str) -> str:
    known = pest_of(connection, pest)
    return known.name if known else pest
