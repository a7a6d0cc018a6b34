"""What the program knows of pests and dangers: data files, and the loader that checks them."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from orthocris.core.pantry.cautions import Caution
from orthocris.core.pantry.recipe_cards import PartRole, RecipeCard, SchoolRange
from orthocris.core.pantry.remedies import CatalogueRemedy, Ingredient, School
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.batches import MixKind
from orthocris.core.trial.crops import Crop, Habit, Leaf
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.own_pests import same
from orthocris.core.trial.programme import Programme, Rhythm
from orthocris.core.trial.stages import LifeCycle, Phase, Stage, check_cycle


@dataclass(frozen=True, slots=True)
class Pest:
    """A pest or disease: how it shows, how it is counted, what helps and what cannot.

    `signs` gives how telling each sign is (1 to 5); `tolerance_share` the share of leaves or
    plants affected that a growing plant bears; `cannot_work` a reason for each remedy (by
    key) that cannot act on it; `generation_days` a typical time from egg to egg in warm
    weather; `roams` says what of it moves about the whole bench, empty for none, and `settled`
    what stays on its plant; `synonyms` are other words by which people look for it; `in_soil`
    tells that what does the harm lives in the soil. All numbers are typical values, for the
    gardener to change.
    """

    key: str
    name: str
    kind: str
    signs: dict[str, int]
    tell_tale: str
    look_alikes: tuple[str, ...]
    where: str
    sample_unit: str
    count_what: str
    stages: tuple[str, ...]
    dead_or_alive: str
    measure: str
    measures: tuple[str, ...]
    tolerance_share: float
    tolerance: str
    helpers: tuple[str, ...]
    cannot_work: dict[str, str]
    generation_days: int
    look_days: tuple[int, ...]
    round_days: tuple[int, ...]
    first_aid: str
    note: str
    synonyms: tuple[str, ...]
    in_soil: bool = False
    roams: str = ""
    settled: str = ""

    @property
    def words(self) -> tuple[str, ...]:
        """Its key, its name and the other words for it."""
        return (self.key, self.name, *self.synonyms)


@dataclass(frozen=True, slots=True)
class Sign:
    """Something that can be seen; `drawing` names a drawing of it, or is None."""

    key: str
    text: str
    part: str
    drawing: str | None


@dataclass(frozen=True, slots=True)
class Disorder:
    """What no remedy helps: it is no pest, or none that one reaches. `signs` are as of pests."""

    key: str
    name: str
    signs: dict[str, int]
    tell: str
    do: str


@cache
def disorders() -> tuple[Disorder, ...]:
    """Return what no remedy helps, with how to tell and what to do instead."""
    return tuple(Disorder(**entry) for entry in _read("disorders.json"))


@cache
def pests() -> tuple[Pest, ...]:
    """Return the pests and diseases shipped, checked against signs, measures and remedies."""
    found = tuple(Pest(**_tuples(entry)) for entry in _read("pests.json"))
    signs_known = {sign.key for sign in signs()}
    remedies_known = {remedy.key for remedy in remedies()}
    for pest in found:
        for key in (pest.measure, *pest.measures):
            measure_named(key)
        unknown = (set(pest.signs) - signs_known) | (set(pest.cannot_work) - remedies_known)
        if unknown:
            raise ValueError(f"pests.json: {pest.key} names {', '.join(sorted(unknown))}")
    return found


@cache
def crops() -> tuple[Crop, ...]:
    """Return the garden and house plants that are known by name."""
    return tuple(
        Crop(**{**_tuples(entry), "leaf": Leaf(entry["leaf"]), "habit": Habit(entry["habit"])})
        for entry in _read("crops.json")
    )


@cache
def signs() -> tuple[Sign, ...]:
    """Return the signs by which a pest is found out."""
    return tuple(Sign(**entry) for entry in _read("signs.json"))


@cache
def remedies() -> tuple[CatalogueRemedy, ...]:
    """Return the remedies shipped."""
    return tuple(
        CatalogueRemedy(
            **{
                **_tuples(entry),
                "ingredients": tuple(Ingredient(**i) for i in entry["ingredients"]),
                "schools": tuple(School(**school) for school in entry["schools"]),
                "programme": _programme(entry["programme"]),
            }
        )
        for entry in _read("remedies.json")
    )


def _programme(entry: dict[str, Any]) -> Programme:
    return Programme(Rhythm(entry["rhythm"]), entry["every"], tuple(entry["days"]))


def remedy_named(key: str) -> CatalogueRemedy:
    """Return a shipped remedy by its key, or raise NotFoundError."""
    return first_of(
        remedies(),
        lambda remedy: remedy.key == key,
        f"there is no remedy {key!r} in the list",
        code="no_such_remedy",
        fix="Choose one from the list, or write your own.",
    )


@cache
def recipe_cards() -> dict[str, RecipeCard]:
    """Return how each shipped remedy is mixed and applied, checked against the remedies."""
    found = {entry["key"]: _card(entry) for entry in _read("recipes.json")}
    if set(found) != {remedy.key for remedy in remedies()}:
        raise ValueError("recipes.json and remedies.json do not name the same remedies")
    for remedy in remedies():
        unknown = set(found[remedy.key].roles) - {i.key for i in remedy.ingredients}
        if unknown:
            raise ValueError(f"recipes.json: {remedy.key} names {', '.join(sorted(unknown))}")
    return found


def _card(entry: dict[str, Any]) -> RecipeCard:
    rules = entry["rules"]
    return RecipeCard(
        **{
            **_tuples(entry),
            "kind": MixKind(entry["kind"]),
            "roles": {key: PartRole(role) for key, role in entry["roles"].items()},
            "ranges": tuple(SchoolRange(**given) for given in entry["ranges"]),
            "rules": SprayRules(**rules) if rules else None,
        }
    )


@cache
def life_cycles() -> dict[str, LifeCycle]:
    """Return the typical development of each pest, by its key."""
    found = {
        entry["pest"]: LifeCycle(
            tuple(Stage(s["name"], Phase(s["phase"]), s["k"], s["t0"]) for s in entry["stages"]),
            entry["egg_days"],
            entry["young_days"],
        )
        for entry in _read("lifecycles.json")
    }
    for cycle in found.values():
        check_cycle(cycle)
    if set(found) != {pest.key for pest in pests()}:
        raise ValueError("lifecycles.json and pests.json do not name the same pests")
    return found


def _tuples(entry: dict[str, Any]) -> dict[str, Any]:
    return {k: tuple(v) if isinstance(v, list) else v for k, v in entry.items()}


def pest_named(key: str) -> Pest | None:
    """Return a pest by its key or any word for it ("Greenfly"); None for the gardener's own."""
    return next((pest for pest in pests() if same(key) in map(same, pest.words)), None)


def pest_key(said: str) -> str:
    """Return the key of a shipped pest, by any word for it; any other as it was said."""
    pest = pest_named(said)
    return said if pest is None else pest.key


@cache
def cautions() -> tuple[Caution, ...]:
    """Return the cautions shipped."""
    return tuple(
        Caution(
            entry["key"],
            frozenset(entry["traits"]),
            tuple(entry["texts"]),
            entry["strong"],
            frozenset(entry["beside"]),
        )
        for entry in _read("cautions.json")
    )


def _read(name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = json.loads(
        files("orthocris.knowledge").joinpath(name).read_text("utf-8")
    )
    return found
