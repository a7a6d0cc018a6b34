"""The routes of the mixing bench."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from fastapi import APIRouter

from orthocris.api.pantry.schemas import (
    AxisOut,
    BrewStepOut,
    CautionOut,
    ConvertedOut,
    ConvertIn,
    CostOut,
    DiluteIn,
    DilutionOut,
    MeasuredOut,
    MixIn,
    MixOut,
    PartOut,
    PourOut,
    ReadIn,
    ReadingOut,
    RecipeOut,
    RefusedOut,
    StepOut,
    TokenOut,
    ToolOut,
    UnitOut,
    exact,
)
from orthocris.api.requests import Ctx
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.strengths import per_litre
from orthocris.core.pantry.units import TOOLS, UNITS, Dimension, Measured, conversions
from orthocris.core.trial.batches import MixKind
from orthocris.knowledge import recipe_cards, remedies
from orthocris.services.pantry.mixing import (
    Dilution,
    Mix,
    MixPour,
    dilute_parts,
    dilute_stock,
    heard,
    mix,
)
from orthocris.services.pantry.own_remedies import own_remedies
from orthocris.services.weather.yards import prices_of, yard_of

router = APIRouter(prefix="/api")


@router.get("/recipes")
def recipes(context: Ctx) -> list[RecipeOut]:
    """Return the gardener's own recipes, and the shipped ones that are mixed from parts."""
    own = [r for r in own_remedies(context) if r.recipe.strip()]
    return [RecipeOut(key=r.key, name=r.name, recipe=r.recipe) for r in own] + [
        RecipeOut(key=remedy.key, name=remedy.name, recipe=remedy.recipe)
        for remedy in remedies()
        if recipe_cards()[remedy.key].kind in (MixKind.MIX, MixKind.BREW)
    ]


@router.get("/units")
def units() -> list[UnitOut]:
    """Return the units amounts can be given in."""
    return [UnitOut(key=u.key, name=u.name, dimension=u.dimension) for u in UNITS.values()]


@router.post("/queries/conversion")
def convert_amount(body: ConvertIn) -> list[ConvertedOut]:
    """Convert an amount into every other unit, exactly; powders by their density."""
    density = None if body.grams_per_ml is None else exact(body.grams_per_ml)
    found = conversions(exact(body.amount), body.unit, density)
    return [ConvertedOut(key=u.key, name=u.name, amount=float(a)) for u, a in found]


@router.get("/tools")
def tools() -> list[ToolOut]:
    """Return the tools a recipe can be measured with."""
    return [ToolOut(key=tool.key, name=tool.name) for tool in TOOLS.values()]


@router.post("/queries/reading")
def reading(context: Ctx, body: ReadIn) -> ReadingOut:
    """Read a recipe as far as it is typed; never refused, so that it can be shown live."""
    yard = yard_of(context)
    found = heard(
        body.text, replace(yard, region=body.region or yard.region), near_flame=body.near_flame
    )
    return ReadingOut(
        tokens=[TokenOut.model_validate(token) for token in found.reading.tokens],
        parts=_parts(found.reading.parts),
        guesses=list(found.reading.guesses),
        settled=not found.reading.open and found.refused is None,
        refused=None
        if found.refused is None
        else RefusedOut(
            code=found.refused.code, message=found.refused.message, fix=found.refused.fix
        ),
    )


@router.post("/queries/mix")
def make(context: Ctx, body: MixIn) -> MixOut:
    """Read a recipe, scale it and say with which tool each part is measured."""
    return mix_view(
        mix(
            body.text,
            body.yard(yard_of(context)),
            body.wanted(),
            prices=prices_of(context),
            compare_with=body.compare_with,
            near_flame=body.near_flame,
        )
    )


@router.post("/queries/dilution")
def dilute(context: Ctx, body: DiluteIn) -> DilutionOut:
    """Dilute a stock to a strength, or by parts in one or more steps."""
    yard = body.yard(yard_of(context))
    if body.stock is not None and body.strength is not None:
        stock, strength = exact(body.stock) / 100, exact(body.strength) / 100
        return _dilution(dilute_stock(stock, strength, yard, body.wanted()))
    parts = [exact(n) for n in body.parts]
    return _dilution(dilute_parts(parts, yard, body.wanted(), altogether=body.altogether))


def mix_view(found: Mix) -> MixOut:
    """Lay out a mix for the screens."""
    card = found.card
    return MixOut(
        open=[TokenOut.model_validate(token) for token in found.reading.open],
        brew=[
            BrewStepOut(text=b.text, measured=_measured(b.measured) if b.measured else None)
            for b in found.brew
        ],
        parts=_parts(found.reading.parts),
        guesses=list(found.reading.guesses),
        needed=float(found.needed),
        volume=float(found.volume),
        bottle=float(found.bottle),
        pours=[_pour(m) for m in found.pours],
        axes=[
            AxisOut(
                name=a.name,
                unit=a.unit,
                yours=_float(a.yours),
                theirs=_float(a.theirs),
                low=_float(a.low),
                high=_float(a.high),
                text=a.text,
            )
            for a in found.axes
        ],
        schools=list(found.schools),
        like=found.like.name if found.like else None,
        order_note=card.order_note if card else "",
        life_hours=card.life_hours if card else None,
        agitation=card.agitation if card else "",
        coverage=card.coverage if card else "",
        suits=list(card.suits) if card else [],
        spares=list(card.spares) if card else [],
        dose_sign=card.dose_sign if card else "",
        aftercare=card.aftercare if card else "",
        ml_per_plant=card.ml_per_plant if card else None,
        interval_days=card.interval_days if card else None,
        cost=CostOut(
            per_litre=float(found.cost.per_litre),
            per_plant=_float(found.cost.per_plant),
            per_round=float(found.cost.per_round),
            missing=found.cost.missing,
        ),
        warnings=list(found.warnings),
        cautions=list(found.cautions),
        strong=[CautionOut.model_validate(c) for c in found.strong],
        general_cautions=list(found.general_cautions),
    )


def _parts(parts: Sequence[Part]) -> list[PartOut]:
    return [PartOut(name=p.name, per_litre=float(p.per_litre), unit=per_litre(p)) for p in parts]


def _float(value: Fraction | None) -> float | None:
    return None if value is None else float(value)


def _pour(m: MixPour) -> PourOut:
    return PourOut(
        name=m.pour.name,
        role=m.role,
        amount=float(m.pour.amount),
        unit="g" if m.pour.dimension is Dimension.MASS else "ml",
        level=float(m.pour.level),
        reason=m.reason,
        measured=_measured(m.measured) if m.measured else None,
    )


def _measured(found: Measured) -> MeasuredOut:
    return MeasuredOut(
        tool=found.tool.name,
        fills=found.fills,
        rest=float(found.rest),
        amount=float(found.amount),
        error=float(found.error),
        warns=found.warns,
    )


def _dilution(found: Dilution) -> DilutionOut:
    return DilutionOut(
        steps=[
            StepOut(
                take=float(step.take),
                water=float(step.water),
                makes=float(step.makes),
                measured=_measured(measured),
            )
            for step, measured in zip(found.steps, found.measured, strict=True)
        ],
        share=float(found.share),
        bottle=float(found.bottle),
    )
