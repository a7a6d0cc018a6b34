"""Every shipped pest, remedy, recipe and caution is checked before the program serves.

Each entry is checked against the type it becomes: every field is there, none is unknown, each
value is of its kind; then what one file names in another, and what numbers must hold.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import fields
from importlib.resources import files
from typing import Any

from pydantic import TypeAdapter, ValidationError

from orthocris import knowledge
from orthocris.core.pantry.cautions import HOT, STRONG_ALCOHOL, Caution
from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.pantry.remedies import CatalogueRemedy, is_oil, reasons_known
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.trial.crops import Crop
from orthocris.core.trial.ways import WAYS

SHAPES: dict[str, type] = {
    "pests.json": knowledge.Pest,
    "signs.json": knowledge.Sign,
    "disorders.json": knowledge.Disorder,
    "crops.json": Crop,
    "remedies.json": CatalogueRemedy,
    "recipes.json": RecipeCard,
    "cautions.json": Caution,
}


class KnowledgeError(Exception):
    """A file of the shipped knowledge does not hold what it must; tells file, entry and field."""


def check_knowledge() -> None:
    """Check all files.

    Raises
    ------
    KnowledgeError
        With the first fault: the file, the entry's key, the field and what is wrong.
    """
    for name, shape in SHAPES.items():
        text = files("orthocris.knowledge").joinpath(name).read_text("utf-8")
        check_entries(name, shape, json.loads(text))
    try:
        knowledge.pests(), knowledge.recipe_cards(), knowledge.life_cycles()
    except (ValueError, TypeError, KeyError) as error:
        raise KnowledgeError(str(error)) from error
    for fault in (*_faults(), *_cautions()):
        raise KnowledgeError(fault)


def check_entries(name: str, shape: type, entries: list[dict[str, Any]]) -> None:
    """Check the entries of one file against the type they become."""
    adapter: TypeAdapter[object] = TypeAdapter(shape)
    known = {field.name for field in fields(shape)}
    keys = set()
    for entry in entries:
        key = entry.get("key", "?")
        unknown = set(entry) - known
        if unknown:
            raise KnowledgeError(f"{name}: {key} has an unknown field {min(unknown)!r}")
        if key in keys:
            raise KnowledgeError(f"{name}: {key} stands there twice")
        keys.add(key)
        try:
            adapter.validate_python(entry)
        except ValidationError as error:
            first = error.errors()[0]
            place = ".".join(str(part) for part in first["loc"])
            raise KnowledgeError(f"{name}: {key}, {place}: {first['msg']}") from error


def _faults() -> Iterator[str]:
    pests = {pest.key for pest in knowledge.pests()}
    signs = {sign.key for sign in knowledge.signs()}
    for disorder in knowledge.disorders():
        if disorder.key in pests or not disorder.signs or set(disorder.signs) - signs:
            yield f"disorders.json: {disorder.key} is a pest, or has no sign or one that is none"
    for remedy in knowledge.remedies():
        where = f"remedies.json: {remedy.key}"
        if remedy.way not in WAYS:
            yield f"{where}, way: {remedy.way!r} is none of {', '.join(sorted(WAYS))}"
        if set(remedy.works_on) - pests:
            yield f"{where}, works_on: {min(set(remedy.works_on) - pests)!r} is no pest"
        if remedy.works_on and remedy.acts not in reasons_known():
            yield f"{where}, acts: no reason is known against {remedy.acts!r}"
        yield from _unguarded(remedy, where)
        for ingredient in remedy.ingredients:
            if not ingredient.low <= ingredient.amount <= ingredient.high:
                yield f"{where}, {ingredient.key}: its amount lies outside its range"


def _unguarded(remedy: CatalogueRemedy, where: str) -> Iterator[str]:
    """A card that spares leaves, or holds oil, without what speaks against it or guards it."""
    card = knowledge.recipe_cards()[remedy.key]
    spared = " ".join(card.spares)
    for condition, words in (("delicate", ("hairy", "waxy")), ("stressed", ("thirsty", "wilting"))):
        if any(word in spared for word in words) and condition not in remedy.unsuitable:
            yield f"{where}, unsuitable: its card spares such plants, but nothing says {condition}"
    oily = any(is_oil(i.key) for i in remedy.ingredients)
    if oily and not (card.oil and card.rules is not None and card.rules.heat_hours >= 24):
        yield f"{where}: it holds oil, but its card does not obey oil's rules"


def _cautions() -> Iterator[str]:
    traits = {str(trait) for trait in Trait} | {HOT, STRONG_ALCOHOL}
    for caution in knowledge.cautions():
        unknown = (caution.traits | caution.beside) - traits
        if unknown:
            yield f"cautions.json: {caution.key}: no trait is {min(unknown)!r}"
        if not caution.texts:
            yield f"cautions.json: {caution.key} says nothing"
