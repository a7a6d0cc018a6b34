"""Bottles of a trial: what each needs, and the batches that were really mixed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from fractions import Fraction

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.field.batches import missing_acknowledgements, use_by
from orthocris.core.pantry.cautions import Caution
from orthocris.core.pantry.recipe_cards import RecipeCard
from orthocris.core.pantry.suiting import is_plain
from orthocris.core.trial.batches import Batch, MixKind, PouredPart
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.trial import Trial
from orthocris.core.weather.yard import Yard
from orthocris.core.words import day_words
from orthocris.services.context import Context
from orthocris.services.field.schedule import standing_of
from orthocris.services.pantry.mixing import Mix, MixPour, Wanted, mix
from orthocris.services.pantry.remedy_cards import card_of, draft_like, is_poured, strong_of
from orthocris.services.receipts import once
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.field import batches
from orthocris.storage.trial import reading


@dataclass(frozen=True, slots=True)
class Bottle:
    """A remedy's bottle: plants it serves, the volume for them, and how to mix it.

    `mix` is None when its recipe cannot be read into amounts or nothing is measured (a
    product by its label, alcohol as it is); `unread` then says why. `step` is the part of its
    remedy that it holds, and `remedy` that part; `on` are the days on which it is used.
    """

    remedy: Remedy
    card: RecipeCard
    plants: int
    volume: Fraction
    mix: Mix | None
    unread: str
    strong: tuple[Caution, ...]
    step: int = 0
    on: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class WaterBottle:
    """The control's bottle: its remedy, the plants it serves, and the ml for them."""

    remedy: Remedy
    plants: int
    volume: float


OLDEST = timedelta(days=365)  # that a bottle is entered late
DEVICE_AHEAD = timedelta(minutes=10)  # that another device's clock may be


@dataclass(frozen=True, slots=True)
class BatchDraft:
    """What the gardener says of a bottle just mixed.

    `volume` in ml, None for what the plants need; `life_hours` replaces the usual life;
    `acknowledged` are the strong cautions read; `mixed_by` a helper's name, so that whoever
    counts stays blind; `recipe` replaces the trial's recipe where it was mixed otherwise; `step`
    is the part of its remedy that it holds; `mixed_at` is when, None for now.
    """

    volume: float | None = None
    recipe: str | None = None
    life_hours: float | None = None
    acknowledged: tuple[str, ...] = ()
    mixed_by: str = ""
    note: str = ""
    step: int = 0
    mixed_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class BottleList:
    """The bottles a trial needs, with the trial whose batches fill them.

    `water` is the control's where it is wetted: plain water, in a bottle like the others.
    """

    trial: Trial
    bottles: tuple[Bottle, ...]
    water: WaterBottle | None


def bottles_of(context: Context, trial_id: int, *, helper: bool = False) -> BottleList:
    """Return the bottles a trial needs, with letter and remedy of each.

    Raises
    ------
    ConflictError
        Code ``key_sealed`` while the key is sealed, unless a helper mixes.
    """
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        if standing_of(connection, trial_id).sealed and not helper:
            raise ConflictError(
                "the bottles tell which letter is which remedy, and the key is sealed",
                code="key_sealed",
                fix="Let a helper mix, or open the key; that is put on the record.",
            )
        bottles = tuple(
            replace(
                listed_bottle(connection, part, _wanted(trial, part, None)),
                step=step,
                on=used_on(trial, remedy.id, step),
            )
            for remedy in trial.remedies
            for step, part in enumerate(remedy.parts)
            if card_of(part).mixed
        )
    water = next((water_bottle(trial, r) for r in trial.remedies if is_water(r)), None)
    return BottleList(trial, bottles, water)


def used_on(trial: Trial, remedy_id: int, step: int) -> tuple[int, ...]:
    """Return the days on which a part of a remedy is given."""
    return tuple(r.day for r in trial.rounds if r.gives(remedy_id) and r.step_of(remedy_id) == step)


def batch_of(context: Context, trial_id: int, batch_id: int) -> tuple[Trial, Batch]:
    """Return a batch with its trial, or raise NotFoundError."""
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
    return trial, _batch(trial, batch_id)


def record_batch(
    context: Context, trial_id: int, remedy_id: int, draft: BatchDraft, key: str | None = None
) -> int:
    """Record a bottle that was mixed for a trial; return the batch's id.

    Raises
    ------
    ConflictError
        When a strong caution was not acknowledged.
    InputError
        When the recipe is impossible or dangerous, or it is mixed at a time that cannot be.
    """
    with context.database.atomic() as connection:
        trial = reading.load(connection, trial_id)
        remedy = _part_of(trial, remedy_id, draft.step)
        recipe = remedy.recipe if draft.recipe is None else draft.recipe.strip()
        volume = None if draft.volume is None else Fraction(repr(draft.volume))
        bottle = _bottle(connection, replace(remedy, recipe=recipe), _wanted(trial, remedy, volume))
        now = _mixed_at(draft.mixed_at, context.now())
        batch = Batch(
            id=0,
            trial_id=trial_id,
            remedy_id=remedy_id,
            title=remedy.name,
            kind=bottle.card.kind,
            recipe=recipe,
            volume=float(bottle.volume),
            parts=_parts(bottle.mix),
            mixed_at=now,
            use_by=use_by(bottle.card, now, draft.life_hours),
            acknowledged=draft.acknowledged,
            mixed_by=draft.mixed_by.strip(),
            cost=_cost(bottle.mix),
            note=draft.note.strip(),
            step=draft.step,
        )
        missing = missing_acknowledgements([c.key for c in bottle.strong], batch)
        if bottle.mix is not None and bottle.mix.reading.open:
            _refuse_open(bottle.mix)
        if missing:
            said = next(c.texts[0] for c in bottle.strong if c.key == missing[0])
            raise ConflictError(
                f"a strong caution was not acknowledged: {said}",
                code="not_acknowledged",
                field="acknowledged",
                fix="Read it and tick it; it is asked once for each batch.",
            )
        return once(
            connection,
            key,
            f"batch of remedy {remedy_id} of trial {trial_id}",
            draft,
            context.now(),
            lambda: batches.keep(connection, batch),
        )


def _mixed_at(said: datetime | None, now: datetime) -> datetime:
    """When a bottle was mixed; one that is entered late says so."""
    if said is None:
        return now
    if not now - OLDEST <= said <= now + DEVICE_AHEAD:
        raise InputError(
            f"{day_words(said)} is no day on which it can have been mixed",
            code="bad_time",
            field="mixed_at",
            fix=f"Give a time that is past, at most {OLDEST.days} days ago.",
        )
    return min(said.astimezone(now.tzinfo), now)


def _refuse_open(found: Mix) -> None:
    """A bottle of which a word is not understood is not put on the record."""
    words = ", ".join(f"“{token.words}”" for token in found.reading.open)
    raise InputError(
        f"not understood in the recipe: {words}",
        code="unsettled",
        field="recipe",
        fix="Settle these words at the mixing bench: an amount, a note in [brackets], or away.",
    )


def discard_batch(context: Context, trial_id: int, batch_id: int) -> None:
    """Record that a batch was poured away; its record stays."""
    with context.database.atomic() as connection:
        _batch(reading.load(connection, trial_id), batch_id)
        batches.discard(connection, batch_id, context.now())


def is_water(remedy: Remedy) -> bool:
    return is_plain(draft_like(remedy)) and is_poured(remedy)


def water_bottle(trial: Trial, control: Remedy) -> WaterBottle:
    plants = sum(p.remedy_id == control.id for p in trial.trial_plants)
    each = control.traits.ml_each(trial.care.ml_per_plant)
    return WaterBottle(control, plants, plants * each * (1 + trial.care.margin))


def listed_bottle(connection: Connection, remedy: Remedy, wanted: Wanted) -> Bottle:
    """A bottle as the list shows it: what must not be mixed is said there, not refused."""
    try:
        return _bottle(connection, remedy, wanted)
    except InputError as error:
        plain = _bottle(connection, replace(remedy, recipe=""), wanted)
        said = f"It must not be mixed so: {error.message}. {error.fix}"
        return replace(plain, remedy=remedy, unread=said)


def _wanted(trial: Trial, remedy: Remedy, volume: Fraction | None) -> Wanted:
    given = [p for p in trial.trial_plants if p.remedy_id == remedy.id]
    plants = len(given) or max(1, len(trial.active_plants) // max(len(trial.remedies), 1))
    each = Fraction(repr(remedy.traits.ml_each(trial.care.ml_per_plant)))
    margin = Fraction(repr(trial.care.margin))
    return Wanted(volume, plants, each, margin)


def _bottle(connection: Connection, remedy: Remedy, wanted: Wanted) -> Bottle:
    card = card_of(remedy)
    found, unread = _mixed(connection, remedy, card, yard.load(connection), wanted)
    volume = found.volume if found else wanted.ml()
    return Bottle(remedy, card, wanted.plants or 0, volume, found, unread, strong_of(remedy))


def _mixed(
    connection: Connection, remedy: Remedy, card: RecipeCard, place: Yard, wanted: Wanted
) -> tuple[Mix | None, str]:
    if card.kind is MixKind.PRODUCT:
        return None, "A bought product: dose, life and cautions are on its label, which is law."
    if remedy.traits.way == "dab":
        return None, "Used as it is in its bottle; nothing is mixed."
    try:
        return mix(remedy.recipe, place, wanted, prices=yard.prices(connection)), ""
    except InputError as error:
        if error.code in ("no_amount", "no_volume", "no_tool"):
            return None, f"The recipe cannot be measured: {error.message}. {error.fix}"
        raise


def _parts(found: Mix | None) -> tuple[PouredPart, ...]:
    if found is None:
        return ()
    return tuple(_part(pour) for pour in found.pours)


def _part(pour: MixPour) -> PouredPart:
    unit = "g" if pour.pour.dimension.value == "mass" else "ml"
    if pour.measured is None:
        return PouredPart(pour.pour.name, float(pour.pour.amount), unit, "to the fill line")
    return PouredPart(pour.pour.name, float(pour.measured.amount), unit, pour.measured.tool.name)


def _cost(found: Mix | None) -> float | None:
    if found is None or found.cost.missing or not found.cost.per_round:
        return None
    return float(found.cost.per_round)


def _part_of(trial: Trial, remedy_id: int, step: int) -> Remedy:
    """Return the part of a remedy that comes out of a bottle, or raise NotFoundError."""
    parts = [p for r in trial.remedies if r.id == remedy_id for p in r.parts[step : step + 1]]
    return first_of(
        parts,
        lambda part: card_of(part).mixed,
        f"remedy {remedy_id} of {trial.name} comes out of no bottle",
        code="no_such_remedy",
        fix="Choose one of the bottles listed.",
    )


def _batch(trial: Trial, batch_id: int) -> Batch:
    return first_of(
        trial.batches,
        lambda batch: batch.id == batch_id,
        f"{trial.name} has no batch {batch_id}",
        code="no_such_batch",
        fix="Choose one listed.",
    )
