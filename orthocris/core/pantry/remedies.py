"""The shipped remedies, and how a question's remedies are made from them."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from orthocris.core.errors import InputError
from orthocris.core.pantry.recipe.there import substances_there
from orthocris.core.pantry.substance_list import Trait
from orthocris.core.trial.plan import Amount, Role, Traits
from orthocris.core.trial.programme import ON_EACH_ROUND, Programme
from orthocris.core.trial.question import RemedyDraft

MOST = 10_000.0  # of an ingredient in a litre: ten litres, so never a real strength
OILS = frozenset({"oil", "mineral_oil", "neem", "essential_oil"})
EMULSIFYING = frozenset({"soap", "detergent", "emulsifier"})
EMULSIFIER = "emulsifier"  # key of a little soap that only holds an oil in the water


@dataclass(frozen=True, slots=True)
class Ingredient:
    """An ingredient with its usual amount and range, typical values."""

    key: str
    name: str
    amount: float
    unit: str
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class School:
    """A way of doing it that some swear by, and why."""

    name: str
    reason: str


@dataclass(frozen=True, slots=True)
class CatalogueRemedy:
    """A remedy of the shipped list.

    `acts` says how it acts; `first_look_days` when that can first be seen; `works_on` lists
    pests it is used on; `unsuitable` gives a reason for each condition (stressed, hot,
    delicate, edible, bloom, pot) in which it should not be used. `programme` is its usual rhythm
    and `dose` what a plant gets each time, in `dose_unit`.
    """

    key: str
    name: str
    role: str
    way: str
    ingredients: tuple[Ingredient, ...]
    recipe: str
    acts: str
    first_look_days: int
    drift_cm: float
    works_on: tuple[str, ...]
    unsuitable: dict[str, str]
    schools: tuple[School, ...]
    wets: bool
    programme: Programme = ON_EACH_ROUND
    dose: float | None = None
    dose_unit: str = ""


# The shipped remedy whose rules hold for what an own remedy has of a trait, the telling ones first.
_LIKE: tuple[tuple[Trait, str], ...] = (
    (Trait.PESTICIDE, "product"),
    (Trait.COPPER, "copper"),
    (Trait.SULPHUR, "sulphur"),
    (Trait.MINERAL, "mineral_oil"),
    (Trait.NEEM, "neem"),
    (Trait.SCENTED, "essential_oil"),
    (Trait.OIL, "oil_soap"),
    (Trait.DETERGENT, "detergent"),
    (Trait.SODIUM, "baking_soda"),
    (Trait.CARBONATE, "potassium_bicarbonate"),
    (Trait.FLAMMABLE, "alcohol_spray"),
    (Trait.ACID, "vinegar"),
    (Trait.PEPPER, "garlic_brew"),
    (Trait.BACTERIA, "bt_spray"),
    (Trait.SOAPY, "mild_soap"),
)


def models_of(said: str) -> tuple[str, ...]:
    """Return the keys of the shipped remedies whose rules hold for what a text speaks of.

    Each substance has one: neem is more than an oil, a detergent more than a soap.
    """
    found = (
        next((key for trait, key in _LIKE if one.has(trait)), None)
        for one in substances_there(said)
    )
    return tuple(dict.fromkeys(key for key in found if key is not None))


BY_ITS_LABEL = "It is not used on this; its label says on what."
# Why a way of acting does not reach what it was not made for: on pests, on diseases.
_REACHES: dict[str, tuple[str, str]] = {
    "contact": (
        "It kills only the soft bodies that it wets, and these are shielded, hidden or gone.",
        "It kills soft insects and mites that it wets; a fungus has no skin to dry out.",
    ),
    "smothering": (
        "It smothers what sits still under the film; these hide or move away.",
        "It smothers insects and eggs; on this disease it has shown little.",
    ),
    "growth regulator": (
        "It acts in what eats or sucks the treated leaf, and these hardly do.",
        "It stops insects from moulting; this fungus is little harmed.",
    ),
    "knocking off": (
        "They hold on, hide, or sit where a jet does not reach.",
        "A jet knocks off insects; spores it spreads.",
    ),
    "alkaline film": ("It makes the leaf unfit for fungi; insects do not mind it.",) * 2,
    "film": ("It makes the leaf unfit for fungi; insects do not mind it.",) * 2,
    "contact in soil": ("It acts in the soil only, and these live on the plant.",) * 2,
    "eaten": ("Only those that eat it with the leaf or the soil are killed.",) * 2,
    "repelling": (
        "A smell turns away what comes by air or foot; these are there already.",
        "A smell does nothing to spores.",
    ),
    "drying": (
        "It dries soft bodies that crawl through it while it is dry; these do not.",
        "It dries insects; a fungus does not mind it.",
    ),
    "removing": (
        "They are too small, too many or too quick to be picked off.",
        "A fungus is not picked off insect by insect: take off leaves instead.",
    ),
    "trapping": (
        "They do not come to it.",
        "A fungus is not trapped.",
    ),
    "barring": (
        "It stops what crawls in over the ground; these come otherwise.",
        "Spores come by air and water.",
    ),
    "drier air": ("It takes away the damp that fungi and gnats need; these do not need it.",) * 2,
    "drier soil": ("It dries out what lives in the top of the soil; these do not.",) * 2,
    "fresh soil": ("It takes away what lives in the soil; these live on the plant.",) * 2,
    "eating them": ("These helpers do not eat it.", "These helpers do not eat a fungus."),
    "taking eggs off": (
        "Their eggs are not found, or not in clusters that come off whole.",
        "A fungus has no eggs.",
    ),
    "taking leaves off": (
        "They sit all over, or fly off when the plant is touched.",
        "What is left infects again unless the cause is gone.",
    ),
    "keeping off splash": (
        "They do not come with splashing soil.",
        "Its spores come by air, not with splashing soil.",
    ),
    "copper film": (
        "Copper acts on fungi; insects do not mind it.",
        "Copper does little against this one.",
    ),
    "sulphur film": (
        "Sulphur acts on fungi and mites; these do not mind it.",
        "Sulphur does little against this one.",
    ),
    "acid film": ("It changes the leaf's surface for fungi; insects do not mind it.",) * 2,
    "rousing the plant": ("It may rouse the plant against fungi; insects do not mind it.",) * 2,
}


def reasons_known() -> frozenset[str]:
    """Return the ways of acting for which there is a reason why they miss a pest."""
    return frozenset(_REACHES)


def reason_against(remedy: CatalogueRemedy, kind: str) -> str:
    """Say why a remedy is not used on a pest or a disease that its way of acting misses."""
    pest, disease = _REACHES.get(remedy.acts, (BY_ITS_LABEL, BY_ITS_LABEL))
    return disease if kind == "disease" else pest


def draft_of(remedy: CatalogueRemedy) -> RemedyDraft:
    """Return a shipped remedy as it goes into a question, at its usual strength."""
    return RemedyDraft(
        name=remedy.name,
        role=Role(remedy.role),
        recipe=remedy.recipe,
        traits=Traits(
            catalogue=remedy.key,
            way=remedy.way,
            ingredients=tuple(Amount(i.key, i.amount, i.unit) for i in remedy.ingredients),
            drift_cm=remedy.drift_cm,
            first_look_days=remedy.first_look_days,
            wets=remedy.wets,
            programme=remedy.programme,
            dose=remedy.dose,
            dose_unit=remedy.dose_unit,
        ),
    )


def ladder(remedy: CatalogueRemedy, amounts: Sequence[float]) -> tuple[RemedyDraft, ...]:
    """Return the strengths of one remedy as remedies of a ladder question, weakest first.

    Raises
    ------
    InputError
        When it has no ingredient to vary, or fewer than two different amounts above 0.
    """
    if not remedy.ingredients:
        raise InputError(
            f"{remedy.name} has no strength to vary",
            code="no_strength",
            field="remedy",
            fix="Choose a remedy with an ingredient.",
        )
    fits = 2 <= len(amounts) <= 6 and min(amounts) > 0 and max(amounts) <= MOST
    if len(set(amounts)) != len(amounts) or not fits:
        raise InputError(
            f"the strengths {', '.join(f'{a:g}' for a in amounts)} make no ladder",
            code="bad_strengths",
            field="strengths",
            fix=f"Give two to six different amounts above 0, none above {MOST:g}.",
        )
    return tuple(_at_strength(remedy, amount) for amount in sorted(amounts))


def usual_ladder(remedy: CatalogueRemedy) -> tuple[float, ...]:
    """Return three strengths over the usual range: its ends, and the middle by ratio."""
    main = remedy.ingredients[0]
    if main.low <= 0 or main.low == main.high:
        return (main.high / 4, main.high / 2, main.high)
    return (main.low, round((main.low * main.high) ** 0.5, 1), main.high)


def square(one: CatalogueRemedy, other: CatalogueRemedy) -> tuple[RemedyDraft, ...]:
    """Return the first ingredient, the second, and both, for a two-by-two question.

    The first ingredient of each remedy is taken; they must differ.
    """
    if not one.ingredients or not other.ingredients:
        raise InputError(
            "a two-by-two needs two remedies with an ingredient each",
            code="no_ingredient",
            field="remedies",
            fix="Choose, for instance, soap and oil.",
        )
    a, b = one.ingredients[0], other.ingredients[0]
    if a.key == b.key:
        raise InputError(
            f"both have {a.name} as their ingredient",
            code="same_ingredient",
            field="remedies",
            fix="Choose two remedies with different ingredients.",
        )
    helper = {i.key: _emulsifier_of(remedy) for i, remedy in ((a, one), (b, other))}
    parts = ((a,), (b,), (a, b))
    traits = draft_of(one).traits
    widest = max(one.drift_cm, other.drift_cm)
    latest = max(one.first_look_days, other.first_look_days)
    return tuple(
        _cell(part, helper, replace(traits, drift_cm=widest, first_look_days=latest))
        for part in parts
    )


def _cell(
    part: Sequence[Ingredient], helper: Mapping[str, Ingredient | None], traits: Traits
) -> RemedyDraft:
    """One cell of a square; oil comes with its emulsifier unless soap is in the cell itself."""
    amounts = [Amount(i.key, i.amount, i.unit) for i in part]
    said = [f"{i.amount:g} {i.unit} {i.name}" for i in part]
    needed = [e for i in part if (e := helper[i.key]) is not None]
    if needed and not {i.key for i in part} & EMULSIFYING:
        amounts.append(Amount(EMULSIFIER, needed[0].amount, needed[0].unit))
        said.append(f"{needed[0].amount:g} {needed[0].unit} liquid soap as emulsifier")
    return RemedyDraft(
        name=" and ".join(_short(i) for i in part).capitalize(),
        role=Role.REMEDY,
        recipe=" and ".join(said) + ".",
        traits=replace(traits, catalogue=None, ingredients=tuple(amounts)),
    )


def _emulsifier_of(remedy: CatalogueRemedy) -> Ingredient | None:
    """Return what keeps a remedy's oil in the water; None where there is no oil."""
    if not is_oil(remedy.ingredients[0].key):
        return None
    return next((i for i in remedy.ingredients if i.key in EMULSIFYING), None)


def is_oil(key: str) -> bool:
    """Tell whether an ingredient, by its key, floats on water unless something holds it."""
    return key in OILS


def with_amounts(
    draft: RemedyDraft, amounts: Mapping[str, float], names: Mapping[str, str]
) -> RemedyDraft:
    """Return a remedy with other amounts of some ingredients, its recipe and name written anew.

    Parameters
    ----------
    amounts:
        New amounts by the ingredient's key, in the unit it has.
    names:
        How each ingredient is called in a recipe, by its key; else its key is used.
    """
    changed = tuple(
        replace(i, amount=amounts.get(i.key, i.amount)) for i in draft.traits.ingredients
    )
    said = [f"{i.amount:g} {i.unit} {names.get(i.key, i.key.replace('_', ' '))}" for i in changed]
    name = draft.name
    for old, new in zip(draft.traits.ingredients, changed, strict=True):
        if old.amount != new.amount:  # a name that tells the strength must not tell the old one
            name = re.sub(
                rf"(?<![\d.]){re.escape(f'{old.amount:g}')}(?![\d.])", f"{new.amount:g}", name
            )
    return replace(
        draft,
        name=name,
        recipe=", ".join(said) + ".",
        traits=replace(draft.traits, ingredients=changed),
    )


def _at_strength(remedy: CatalogueRemedy, amount: float) -> RemedyDraft:
    main, *rest = remedy.ingredients
    said = [
        f"{amount:g} {main.unit} {main.name}",
        *(f"{i.amount:g} {i.unit} {i.name}" for i in rest),
    ]
    usual = draft_of(remedy)
    return replace(
        usual,
        name=f"{remedy.name} {amount:g} {main.unit}",
        recipe=", ".join(said) + ".",
        traits=replace(
            usual.traits,
            ingredients=(
                Amount(main.key, amount, main.unit),
                *(Amount(i.key, i.amount, i.unit) for i in rest),
            ),
        ),
    )


def _short(ingredient: Ingredient) -> str:
    return ingredient.key.replace("_", " ")
