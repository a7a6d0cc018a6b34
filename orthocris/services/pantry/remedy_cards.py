"""Cards of a trial's remedies: the shipped ones, or careful guesses for the gardener's own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache

from orthocris.core.field.rounds import BottleNeed
from orthocris.core.pantry.cautions import Caution, cautions_for, own_caution
from orthocris.core.pantry.costs import Price, price_of
from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.pantry.suiting import as_it_is, card_for, is_done_anyway, reasons_against
from orthocris.core.trial.care import Care
from orthocris.core.trial.plan import Remedy, Round, TrialPlan
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.standing import BottleKey
from orthocris.core.trial.trial import Trial
from orthocris.core.trial.ways import POURED, Reach, way_named
from orthocris.knowledge import Pest, cautions, recipe_cards, remedies
from orthocris.services.pantry.soundness import strong_for
from orthocris.services.trial.own_pests import target_of

NOT_BOUGHT = frozenset({"", "ml", "s", "min", "h"})  # units of doses that are work, or poured


@lru_cache(maxsize=2048)
def card_of(remedy: Remedy) -> RecipeCard:
    """Return how a remedy is mixed and applied."""
    return card_for(str(remedy.id), draft_like(remedy), recipe_cards())


@lru_cache(maxsize=2048)
def draft_like(remedy: Remedy) -> RemedyDraft:
    """Return a kept remedy as what it is: a shipped one only while it holds the same."""
    kept = RemedyDraft(remedy.name, remedy.role, remedy.recipe, remedy.id, remedy.traits)
    return as_it_is(kept, {one.key: one for one in remedies()})


def recipe_parts(text: str) -> tuple[Part, ...]:
    """Return the parts of a recipe, empty when it cannot be read."""
    return understand(text).parts


def usual_of(trial: TrialPlan) -> str:
    """Return the control's name where it is what is done anyway; empty where some get nothing."""
    control = trial.control
    if control is None:
        return ""
    catalogue = {one.key: one for one in remedies()}
    return control.name if is_done_anyway(draft_like(control), catalogue) else ""


def unsuited(trial: TrialPlan, pest: Pest | None) -> dict[int, tuple[str, ...]]:
    """Return what speaks against each remedy for these plants and this pest, by its id."""
    return {r.id: unsuited_on(r, trial.setup, trial.pest, pest) for r in trial.remedies}


def unsuited_on(remedy: Remedy, setup: Setup, key: str, pest: Pest | None) -> tuple[str, ...]:
    """Return what speaks against a remedy on plants of a setup; `key` names the pest."""
    catalogue = {one.key: one for one in remedies()}
    return reasons_against(draft_like(remedy), setup, target_of(key, pest), catalogue)


def is_poured(remedy: Remedy) -> bool:
    """True when what a plant gets is told in ml; the control counts when it is wetted alike."""
    return remedy.traits.way in POURED and remedy.traits.wets


def ml_of(remedy: Remedy, care: Care) -> float | None:
    """Return the ml a plant gets each time; None where nothing is told in ml."""
    return remedy.traits.ml_each(care.ml_per_plant) if is_poured(remedy) else None


def reach_of(remedy: Remedy) -> Reach:
    """Return what a plant's treatment has to reach: leaves on both sides, soil, or neither."""
    return way_named(remedy.traits.way).reach


def dose_of(remedy: Remedy) -> str:
    """Return how much a plant gets where it is not told in ml, such as "3 s"; else empty."""
    traits = remedy.traits
    return "" if traits.dose is None else f"{traits.dose:g} {traits.dose_unit}".strip()


def bottle_keys(trial: TrialPlan) -> frozenset[BottleKey]:
    """Return which remedies, and which part of each that is given, come out of a bottle."""
    later = {pair for each in trial.rounds for pair in each.steps}
    return frozenset(
        (r.id, number)
        for r in trial.remedies
        for number, part in enumerate(r.parts)
        if card_of(part).mixed and (not number or (r.id, number) in later)
    )


def is_oil(remedy: Remedy) -> bool:
    """True for an oil, and where one part of a remedy is one."""
    return any(card_of(part).oil for part in remedy.parts)


def oil_ids(trial: TrialPlan) -> frozenset[int]:
    """Return the ids of the remedies that are oils, or one part of which is."""
    return frozenset(r.id for r in trial.remedies if is_oil(r))


def tag_of(remedy: Remedy, *, sealed: bool) -> str:
    """Return how a bottle may be called; empty while the key is sealed, when the control's letter
    would be the one that is never named."""
    if remedy.letter is None:
        return remedy.name
    if sealed:
        return ""
    return f"{remedy.letter} ({remedy.name})"


def cautions_of(remedy: Remedy, eating: str = "") -> tuple[str, ...]:
    """Return the cautions that stand where a remedy is given; `eating` what is said of food."""
    own = [text for caution in own_caution(remedy.traits.caution) for text in caution.texts]
    ways = filter(None, (way_named(way).mind for way in remedy.traits.ways))
    found = (*own, *ways, *cautions_for(remedy.said, cautions()))
    return (*found, eating) if eating else found


def strong_keys(remedy: Remedy) -> tuple[str, ...]:
    """Return the keys of the strong cautions of a remedy."""
    return tuple(c.key for c in strong_of(remedy))


def strong_of(remedy: Remedy) -> tuple[Caution, ...]:
    """Return what must be acknowledged before a remedy is used, the gardener's own first."""
    own = own_caution(remedy.traits.caution)
    parts = [part for one in remedy.parts for part in recipe_parts(one.recipe)]
    found = strong_for(remedy.said, parts)
    return (*own, *found)


def bottle_needs(trial: Trial, round_: Round, *, sealed: bool) -> tuple[BottleNeed, ...]:
    """Return the bottles a round needs."""
    used = {p.remedy_id for p in trial.due_in(round_)}
    return tuple(
        BottleNeed(r.id, tag_of(r, sealed=sealed), strong_keys(r), round_.step_of(r.id))
        for r in trial.given_in(round_)
        if r.id in used and card_of(r).mixed
    )


def laid_cost(trial: Trial, remedy: Remedy, prices: Sequence[Price]) -> Fraction | None:
    """Return what cards, granules and the like of a remedy cost in all; None where no price is.

    What comes out of a bottle is paid with its batches; seconds and minutes cost nothing.
    """
    plants = sum(p.remedy_id == remedy.id for p in trial.trial_plants)
    given = [remedy.part(r.step_of(remedy.id)) for r in trial.rounds if r.gives(remedy.id)]
    found = [_laid(part, prices) for part in given if _is_laid(part)]
    priced = [each for each in found if each is not None]
    return plants * sum(priced, Fraction(0)) if priced else None


def _is_laid(part: Remedy) -> bool:
    return _laid_unit(part) not in NOT_BOUGHT and not card_of(part).mixed


def _laid_unit(part: Remedy) -> str:
    return part.traits.dose_unit or way_named(part.traits.way).unit


def _laid(part: Remedy, prices: Sequence[Price]) -> Fraction | None:
    price = price_of(f"{part.name} {part.recipe}", prices)
    dose = part.traits.dose or (None if _laid_unit(part) == "g" else 1)
    return None if price is None or dose is None else price.each * Fraction(repr(dose))


def needs_prices(trial: Trial) -> bool:
    """True when something of a trial is laid, hung or strewn, and so has a price of its own."""
    return any(_is_laid(part) for remedy in trial.remedies for part in remedy.parts)


def rules_of(remedy: Remedy, care: Care) -> SprayRules | None:
    """Return when a remedy may be sprayed, with the gardener's own limits; None: any time."""
    rules = card_of(remedy).rules
    if rules is None:
        return None
    return replace(
        rules,
        low=rules.low if care.low is None else care.low,
        high=rules.high if care.high is None else care.high,
        wind=rules.wind if care.wind is None else care.wind,
    )
