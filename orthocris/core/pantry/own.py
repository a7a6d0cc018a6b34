"""The gardener's own remedies: what they must say, and how they stand beside the shipped ones."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.pantry.remedies import CatalogueRemedy
from orthocris.core.ranges import check_length
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import check_programme, check_steps
from orthocris.core.trial.question import LONGEST_CAUTION, RemedyDraft
from orthocris.core.trial.ways import check_ways

MOST = 200  # own remedies on the list
PREFIX = "own:"  # of the keys by which the list is asked for them


@dataclass(frozen=True, slots=True)
class OwnRemedy:
    """A remedy that a gardener keeps; `id` 0 before it is kept."""

    id: int
    name: str
    recipe: str
    traits: Traits

    @property
    def key(self) -> str:
        """Its key in the list of remedies."""
        return f"{PREFIX}{self.id}"


def check_own(remedy: OwnRemedy, others: Sequence[OwnRemedy]) -> None:
    """Check a remedy to be kept, or raise for its first fault, naming the field.

    Raises
    ------
    InputError
        For a name, recipe or programme that is none.
    ConflictError
        Code ``same_name`` for a second one of that name, ``too_many`` above the most.
    """
    if not remedy.name.strip():
        raise InputError(
            "the remedy has no name", code="empty", field="name", fix="Give it a short name."
        )
    check_length(remedy.name.strip(), 80, "the name", "name")
    check_length(remedy.recipe, 2000, "the recipe", "recipe")
    check_programme(remedy.traits.programme, "traits.programme")
    check_steps(remedy.traits.steps, "traits")
    check_ways(remedy.traits.ways, "traits.way")
    check_length(remedy.traits.caution, LONGEST_CAUTION, "the caution", "traits.caution")
    rest = [other for other in others if other.id != remedy.id]
    if any(o.name.strip().casefold() == remedy.name.strip().casefold() for o in rest):
        raise ConflictError(
            f"you keep a remedy called {remedy.name.strip()!r} already",
            code="same_name",
            field="name",
            fix="Give this one another name, or change that one.",
        )
    if len(rest) >= MOST:
        raise ConflictError(
            f"you keep {len(rest)} remedies already",
            code="too_many",
            fix="Take some off your list first.",
        )


def listed(remedy: OwnRemedy) -> CatalogueRemedy:
    """Return an own remedy as the list shows it; nothing is claimed of what it works on."""
    traits = remedy.traits
    return CatalogueRemedy(
        key=remedy.key,
        name=remedy.name,
        role="remedy",
        way=traits.way,
        ingredients=(),
        recipe=remedy.recipe,
        acts="your own",
        first_look_days=traits.first_look_days,
        drift_cm=traits.drift_cm,
        works_on=(),
        unsuitable={},
        schools=(),
        wets=traits.wets,
        programme=traits.programme,
        dose=traits.dose,
        dose_unit=traits.dose_unit,
    )


def own_draft(remedy: OwnRemedy) -> RemedyDraft:
    """Return an own remedy as it goes into a question."""
    return RemedyDraft(remedy.name, Role.REMEDY, remedy.recipe, None, remedy.traits)
