"""The gardener's own pests: how each is counted, kept beside the shipped ones."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

from orthocris.core.errors import ConflictError, InputError
from orthocris.core.ranges import check_length
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.question import check_looks, check_round_days

MOST = 200  # own pests on the list
KINDS = ("pest", "disease")
LONGEST_GENERATION = 400  # days


@dataclass(frozen=True, slots=True)
class OwnPest:
    """A pest or disease that a gardener keeps; `id` 0 before it is kept.

    Trials know it by its name. `sample_unit` is what is looked at one by one (leaf, shoot, fruit);
    `count_what` what counts as one; `dead_or_alive` the sign that tells them apart; `look_days`
    and `round_days` the usual days; `generation_days` from egg to egg in warm weather, 0 where
    nobody knows.
    """

    id: int
    name: str
    kind: str = "pest"
    sample_unit: str = "leaf"
    count_what: str = ""
    dead_or_alive: str = ""
    where: str = ""
    measure: str = "live"
    look_days: tuple[int, ...] = (3, 7)
    round_days: tuple[int, ...] = (0,)
    generation_days: int = 0


def same(name: str) -> str:
    """Return a name as it is compared: capitals, blanks and the lines of a key do not matter."""
    return " ".join(name.casefold().replace("_", " ").split())


def own_named(name: str, kept: Iterable[OwnPest]) -> OwnPest | None:
    """Return the pest kept under a name, or None."""
    return next((pest for pest in kept if same(pest.name) == same(name)), None)


def check_own_pest(pest: OwnPest, shipped: Collection[str], kept: Sequence[OwnPest]) -> None:
    """Check a pest to be kept, or raise for its first fault, naming the field.

    Parameters
    ----------
    shipped:
        Keys, names and other words of the pests that the program knows.
    kept:
        The gardener's own so far; the one of its `id` is the one that is changed.

    Raises
    ------
    InputError
        For what is empty, too long, or no measure or row of days.
    ConflictError
        Code ``same_name`` for the name of another, ``too_many`` above the most.
    """
    _check_words(pest)
    if pest.kind not in KINDS:
        raise InputError(
            f"{pest.kind!r} is neither", code="bad_kind", field="kind", fix="Pest or disease."
        )
    if not measure_named(pest.measure).judged:
        raise InputError(
            "a price of a remedy is not what a pest is judged by",
            code="not_judged",
            field="measure",
            fix="Choose what is counted of the pest itself.",
        )
    check_looks(pest.look_days)
    check_round_days(pest.round_days)
    if not 0 <= pest.generation_days <= LONGEST_GENERATION:
        raise InputError(
            f"{pest.generation_days} days from egg to egg",
            code="out_of_range",
            field="generation_days",
            fix=f"Give 1 to {LONGEST_GENERATION}, or 0 where nobody knows.",
        )
    there = own_named(pest.name, kept)
    if same(pest.name) in {same(word) for word in shipped} or (there and there.id != pest.id):
        raise ConflictError(
            f"{pest.name.strip()!r} is on the list already",
            code="same_name",
            field="name",
            fix="Choose that one, or give yours a name of its own.",
        )
    if not pest.id and len(kept) >= MOST:
        raise ConflictError(
            f"you keep {len(kept)} pests already",
            code="too_many",
            fix="Take some off your list first.",
        )


def _check_words(pest: OwnPest) -> None:
    for field, text in (("name", pest.name), ("sample_unit", pest.sample_unit)):
        if not text.strip():
            raise InputError(
                f"no {field.replace('_', ' ')} is given",
                code="empty",
                field=field,
                fix="Name it in a word or two.",
            )
    for field, text, most in (
        ("name", pest.name, 80),
        ("sample_unit", pest.sample_unit, 20),
        ("count_what", pest.count_what, 300),
        ("dead_or_alive", pest.dead_or_alive, 300),
        ("where", pest.where, 300),
    ):
        check_length(text.strip(), most, f"the {field.replace('_', ' ')}", field)
