"""Whether a remedy suits a pest, a plant and a season: the shipped ones and the gardener's own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from orthocris.core.pantry.food import Food, food_rule, is_unknown
from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.recipe_cards import RecipeCard, own_card
from orthocris.core.pantry.remedies import CatalogueRemedy, models_of, reason_against
from orthocris.core.pantry.substances import words_of
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import Setup, Unit
from orthocris.core.trial.ways import AT_LEAVES, ONTO_LEAVES, POURED

NO_SPRAY_IN_BLOOM = "No spray on plants in bloom that bees visit."
IN_SOIL = "They live in the soil, where a spray on leaves never comes; a drench or a trap does."


@dataclass(frozen=True, slots=True)
class Target:
    """The pest as far as a remedy must know it.

    `kind` "pest" or "disease", None for one of the gardener's own: then only plant and season
    count. `cannot_work` has the pest's own reasons by remedy key; `in_soil` is true where what
    does the harm lives in the soil.
    """

    key: str
    kind: str | None = None
    cannot_work: Mapping[str, str] = field(default_factory=dict)
    in_soil: bool = False


def unsuitable(remedy: CatalogueRemedy, setup: Setup, target: Target) -> tuple[str, ...]:
    """Return every reason against a shipped remedy for this pest, plant and season."""
    return (*misses(remedy, target, remedy.way), *_harms(remedy, setup, remedy.way))


def reasons_against(
    draft: RemedyDraft, setup: Setup, target: Target, catalogue: Mapping[str, CatalogueRemedy]
) -> tuple[str, ...]:
    """Return every reason against a remedy of a question, each part of it, own ones too.

    An own remedy has the reasons of the shipped ones that hold the same things; it is said to
    miss a pest only where each of them does.
    """
    if is_plain(draft):
        return ()
    found: list[str] = []
    for part in parts_of(draft):
        known = catalogue.get(part.traits.catalogue or "")
        if known is not None:
            found += unsuitable(known, setup, target)
            continue
        way = part.traits.way
        models = [catalogue[k] for k in models_of(f"{part.name}. {part.recipe}") if k in catalogue]
        missed = [why for m in models if (why := misses(m, target, way))]
        if models and len(missed) == len(models):
            found += missed[0]
        if way in POURED | ONTO_LEAVES:
            found += [why for model in models for why in _harms(model, setup, way)]
    return tuple(dict.fromkeys(found))


def is_plain(draft: RemedyDraft) -> bool:
    """True for a control of water, or left alone: one that holds anything is a remedy as well."""
    if draft.role is not Role.CONTROL or substances_there(f"{draft.name}. {draft.recipe}"):
        return False
    return not understand(draft.recipe).parts and "label" not in words_of(draft.recipe)


def is_done_anyway(draft: RemedyDraft, catalogue: Mapping[str, CatalogueRemedy]) -> bool:
    """True for a control that is a remedy itself: then nothing is left untreated."""
    shipped = catalogue.get(draft.traits.catalogue or "")
    known = shipped is not None and shipped.role == Role.REMEDY
    return draft.role is Role.CONTROL and (known or not is_plain(draft))


def as_it_is(draft: RemedyDraft, catalogue: Mapping[str, CatalogueRemedy]) -> RemedyDraft:
    """Return a remedy, as the gardener's own where more is in it than in the shipped one.

    What is known of mild soap is not true of copper in a recipe that was once mild soap's.
    """
    shipped = catalogue.get(draft.traits.catalogue or "")
    if shipped is None:
        return draft
    more = not _holds(draft.name, draft.recipe) <= _holds(shipped.name, shipped.recipe)
    if not more and draft.recipe.strip() != shipped.recipe.strip():
        more = is_unknown(draft.name, draft.recipe) and bool(understand(draft.recipe).parts)
    return replace(draft, traits=replace(draft.traits, catalogue=None)) if more else draft


def _holds(*texts: str) -> set[str]:
    """The traits of what is there: another oil is an oil; of what has none, what it is."""
    there = substances_there(". ".join(texts))
    return {trait for one in there for trait in (one.traits or (one.key,))}


def parts_of(draft: RemedyDraft) -> tuple[RemedyDraft, ...]:
    """Return what is given of a remedy one after the other; itself where it has no steps."""
    steps = (
        RemedyDraft(f"{draft.name}: {s.name}", draft.role, s.recipe, traits=Traits(way=s.way))
        for s in draft.traits.steps
    )
    return (draft, *steps)


def card_for(key: str, draft: RemedyDraft, cards: Mapping[str, RecipeCard]) -> RecipeCard:
    """Return how the first part of a remedy is mixed and applied: its shipped card, or its own.

    An own remedy is as careful as the shipped ones that hold the same things.
    """
    known = cards.get(draft.traits.catalogue or "")
    if known is not None:
        return known
    parts = understand(draft.recipe).parts
    if is_plain(draft):
        return own_card(key, parts, "none", food=Food.FREE)
    models = models_of(f"{draft.name}. {draft.recipe}")
    food = food_rule(draft.name, draft.recipe, draft.traits.way)
    alike = [cards[model] for model in models if model in cards]
    return own_card(key, parts, draft.traits.way, food=food, alike=alike)


def is_nobodys(draft: RemedyDraft, catalogue: Mapping[str, CatalogueRemedy]) -> bool:
    """True for an own remedy of which nobody can say here what it is."""
    return any(
        not is_plain(part)
        and part.traits.catalogue not in catalogue
        and part.traits.way in POURED | {"dust", "granule"}
        and is_unknown(part.name, part.recipe)
        for part in parts_of(draft)
    )


def closest(days: Sequence[int]) -> int | None:
    """Return the least number of days between two of them; None for fewer than two."""
    return min((later - day for day, later in pairwise(sorted(days))), default=None)


def misses(remedy: CatalogueRemedy, target: Target, way: str) -> tuple[str, ...]:
    """Return why a remedy given in a way cannot act on the pest; the pest's own reason first."""
    if remedy.key in target.cannot_work and way == remedy.way:
        return (target.cannot_work[remedy.key],)
    if target.kind is None or remedy.role != "remedy" or not remedy.works_on:
        return ()
    if target.in_soil and way in AT_LEAVES | {"mist", "dab"}:
        return (IN_SOIL,)
    if target.key not in remedy.works_on:
        return (reason_against(remedy, target.kind),)
    return ()


def _harms(remedy: CatalogueRemedy, setup: Setup, way: str) -> tuple[str, ...]:
    """Why these plants should not get a remedy now."""
    conditions = {
        "stressed": setup.stressed,
        "hot": setup.hot,
        "delicate": setup.delicate,
        "bloom": setup.in_bloom,
        "edible": setup.eaten,
        "pot": setup.unit is Unit.POT,
        "on_plants": setup.unit is not Unit.JAR,
    }
    reasons = [
        remedy.unsuitable[k] for k, on in conditions.items() if on and k in remedy.unsuitable
    ]
    if setup.in_bloom and way in AT_LEAVES - {"jet"} and "bloom" not in remedy.unsuitable:
        reasons.append(NO_SPRAY_IN_BLOOM)
    return tuple(reasons)
