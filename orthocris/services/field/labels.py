"""Labels for the bottles of a trial."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core.errors import ConflictError
from orthocris.core.pantry.cautions import own_caution
from orthocris.core.trial.batches import Batch
from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.trial import Trial
from orthocris.formats.labels import BottleLabel, label_pages, labels_svg
from orthocris.formats.prints import paper_named
from orthocris.services.context import Context
from orthocris.services.field.batches import is_water, used_on, water_bottle
from orthocris.services.field.schedule import is_sealed
from orthocris.services.pantry.remedy_cards import card_of, recipe_parts
from orthocris.services.pantry.soundness import strong_for
from orthocris.storage import weather as yard
from orthocris.storage.trial import reading


def labels_of(
    context: Context, trial_id: int, paper: str, page: int = 1, address: str = ""
) -> bytes:
    """Return a page of bottle labels (SVG) for the batches that can still be used.

    While the key is sealed they tell code and notches, not the remedy. Their codes lead to the
    trial's bottles at an address; without one they bear none.
    """
    link = f"{address}/trial/{trial_id}/mix" if address else ""
    with context.database.reading() as connection:
        region = yard.load(connection).region
    labels = [replace(label, link=link, region=region) for label in _labels(context, trial_id)]
    return labels_svg(labels, paper_named(paper), page)


def label_pages_of(context: Context, trial_id: int, paper: str) -> int:
    """Return how many pages the labels fill; 0 while there is no bottle to be labelled."""
    try:
        return label_pages(_labels(context, trial_id), paper_named(paper))
    except ConflictError:
        return 0


def _labels(context: Context, trial_id: int) -> list[BottleLabel]:
    with context.database.reading() as connection:
        trial = reading.load(connection, trial_id)
        sealed = is_sealed(connection, trial)
    now = context.now()
    remedies = {r.id: r for r in trial.remedies}
    usable = [b for b in trial.batches if b.usable(now) and b.remedy_id in remedies]
    if not usable:
        raise ConflictError(
            "no batch is there to be labelled",
            code="no_batch",
            fix="Record a bottle at the mixing bench first.",
        )
    labels = [_label(trial, remedies[b.remedy_id], b, sealed=sealed) for b in usable]
    labels += [
        _water_label(trial, r, labels[-1], sealed=sealed) for r in trial.remedies if is_water(r)
    ]
    return _alike(labels) if sealed else labels


def _alike(labels: Sequence[BottleLabel]) -> list[BottleLabel]:
    """One label a bottle, and nothing on it that would tell which bottle it is.

    A shorter life, a size, a caution, how many there are or their order would.
    """
    lives = [label.use_by for label in labels if label.use_by is not None]
    mixed = min(label.mixed_at for label in labels)
    found = {
        (label.letter, label.days): replace(
            label, use_by=min(lives, default=None), volume=0.0, mixed_at=mixed
        )
        for label in labels
    }
    return [found[key] for key in sorted(found)]


def _water_label(trial: Trial, control: Remedy, like: BottleLabel, *, sealed: bool) -> BottleLabel:
    """The control's bottle holds plain water and is labelled like the others."""
    return replace(
        like,
        letter=control.letter or "",
        notches=control.notches or 0,
        title="" if sealed else control.name,
        days="",
        recipe="" if sealed else control.recipe,
        volume=water_bottle(trial, control).volume,
        cautions=like.cautions if sealed else (),
    )


def _label(trial: Trial, remedy: Remedy, batch: Batch, *, sealed: bool) -> BottleLabel:
    part = remedy.part(batch.step)
    said = f"{part.name} {batch.recipe}"
    if sealed:
        parts = [part for r in trial.remedies for part in r.parts]
        said = " ".join(f"{p.name} {p.recipe}" for p in parts if card_of(p).mixed)
    own = [r.traits.caution for r in (trial.remedies if sealed else [remedy])]
    found = (
        *(c for text in own for c in own_caution(text)),
        *strong_for(said, recipe_parts(said)),
    )
    texts = [text for caution in found for text in caution.texts]
    return BottleLabel(
        letter=remedy.letter or "",
        notches=remedy.notches or 0,
        trial=trial.name,
        title="" if sealed else part.name,
        recipe="" if sealed else batch.recipe,
        days=_days_said(trial, remedy, batch.step),
        volume=batch.volume,
        mixed_at=batch.mixed_at,
        use_by=batch.use_by,
        shake="Shake before every plant." if sealed else card_of(part).agitation,
        cautions=tuple(texts),
        some_of_the_bottles=sealed,
    )


def _days_said(trial: Trial, remedy: Remedy, step: int) -> str:
    """One letter has several bottles where its remedy has steps: their days tell them apart."""
    if not remedy.traits.steps:
        return ""
    days = ", ".join(str(day) for day in used_on(trial, remedy.id, step))
    return f"For day {days}." if days else "Only if its rule calls for it."
