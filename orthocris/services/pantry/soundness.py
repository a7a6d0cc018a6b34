"""What is refused of a recipe, and what must be acknowledged of it, by all that is known here."""

from __future__ import annotations

from collections.abc import Sequence

from orthocris.core.errors import InputError
from orthocris.core.pantry.cautions import Caution, strong_cautions_for
from orthocris.core.pantry.dangers import check_dangers
from orthocris.core.pantry.doses import check_doses, dose_cautions, doses
from orthocris.core.pantry.food import is_unknown
from orthocris.core.pantry.recipe.reading import understand
from orthocris.core.pantry.recipes import Part
from orthocris.core.pantry.suiting import as_it_is, is_plain
from orthocris.core.trial.question import RemedyDraft
from orthocris.core.trial.ways import ONTO_LEAVES, POURED
from orthocris.knowledge import cautions, remedies

UNKNOWN = Caution(
    "unknown_product",
    frozenset(),
    (
        "What this is nobody can say here: its label tells on which plants, how much, how long "
        "before eating, and what it does to bees, pets and water. Without a label, leave it.",
    ),
    strong=True,
)


def check_sound(
    parts: Sequence[Part], said: str, *, near_flame: bool = False, on_soil: bool = False
) -> None:
    """Refuse what is dangerous, no remedy, or so strong that no remedy is left of it."""
    check_dangers(parts, said=said, near_flame=near_flame, on_soil=on_soil)
    check_doses(doses(parts, remedies(), said=said))


def strong_for(said: str, parts: Sequence[Part]) -> tuple[Caution, ...]:
    """Return what must be acknowledged of a recipe before its batch is used."""
    unknown = (UNKNOWN,) if is_unknown("", said) and parts else ()
    by_dose = dose_cautions(doses(parts, remedies(), said=said))
    return (*unknown, *by_dose, *strong_cautions_for(said, cautions()))


def check_remedies(drafts: Sequence[RemedyDraft]) -> None:
    """Refuse a question whose own remedies are dangerous or no remedy, naming the field.

    What the program ships is checked with its own files; a shipped remedy with a recipe of the
    gardener's is the gardener's.
    """
    shipped = {(remedy.key, remedy.recipe) for remedy in remedies()}
    for place, draft in enumerate(drafts):
        if is_plain(draft) or (draft.traits.catalogue, draft.recipe) in shipped:
            continue
        steps = [(step.name, step.recipe, step.way) for step in draft.traits.steps]
        for name, recipe, way in ((draft.name, draft.recipe, draft.traits.way), *steps):
            _check_one(name, recipe, way, f"remedies.{place}.recipe")


def as_they_are(drafts: Sequence[RemedyDraft]) -> tuple[RemedyDraft, ...]:
    """Return remedies, those with another recipe than the shipped one as the gardener's own."""
    catalogue = {remedy.key: remedy for remedy in remedies()}
    return tuple(as_it_is(draft, catalogue) for draft in drafts)


def check_one_remedy(name: str, recipe: str, way: str) -> None:
    """Refuse a remedy for the gardener's own list that is dangerous or no remedy."""
    _check_one(name, recipe, way, "recipe")


def _check_one(name: str, recipe: str, way: str, field: str) -> None:
    """Only what comes onto a plant or its soil is asked; a trap may hold what it likes."""
    said = f"{name}. {recipe}" if way in POURED | ONTO_LEAVES | {"granule"} else name
    parts = understand(recipe).parts
    try:
        check_sound(parts, said, on_soil=way == "drench")
    except InputError as refused:
        raise InputError(
            f"{name.strip()}: {refused.message}", code=refused.code, field=field, fix=refused.fix
        ) from refused
