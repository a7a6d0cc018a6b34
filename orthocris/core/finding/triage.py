"""Look and decide: which pest the signs point to, and whether to act at all."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.errors import InputError

EATEN_UP = 0.5  # share affected up to which enough helpers are left to it
MAX_LOOKED = 10_000
ENOUGH = 8  # weight of signs seen that makes a pest as good as certain


@dataclass(frozen=True, slots=True)
class Candidate:
    """A pest that fits some of the signs seen.

    `fit` goes up with the weight of the pest's signs that were seen (8 is enough) and with the
    strongest of them, times the share of the signs seen that it explains: 1 when all and only
    its signs are there.
    """

    key: str
    fit: float
    seen: tuple[str, ...]
    unexplained: tuple[str, ...]


def candidates(
    signs_seen: Iterable[str], weights: Mapping[str, Mapping[str, int]]
) -> tuple[Candidate, ...]:
    """Rank the pests by how well the signs fit, the best first.

    Parameters
    ----------
    signs_seen:
        Keys of the signs seen.
    weights:
        For each pest, how telling each of its signs is (1 weak to 5 certain).

    Returns
    -------
    Those with at least one sign seen. Whoever looks confirms by the pest's tell-tale.
    """
    seen = set(signs_seen)
    found = []
    for key, own in weights.items():
        matched = [sign for sign in own if sign in seen]
        if not matched:
            continue
        # Who knows many signs of a pest is not to miss it for seeing one of them.
        covered = min(sum(own[sign] for sign in matched) / min(sum(own.values()), ENOUGH), 1.0)
        explained = len(matched) / len(seen)
        strongest = max(own[sign] for sign in matched) / 5
        fit = (covered + strongest) / 2 * explained
        found.append(Candidate(key, fit, tuple(matched), tuple(sorted(seen - set(matched)))))
    return tuple(sorted(found, key=lambda c: (-c.fit, c.key)))


class Action(StrEnum):
    """What to do after a look."""

    WATCH = "watch"
    CLEAN_FIRST = "clean_first"
    TRIAL = "trial"
    TOO_FAR = "too_far"


@dataclass(frozen=True, slots=True)
class Sighting:
    """What was seen in a look round.

    `looked` leaves or plants were looked at, `affected` of them had it, `helpers` helpers
    were seen on all of them. `earlier_share` is the affected share at the look before, if
    any. `wilting` says that most of the plant is dying back, `vigorous` that it grows well, and
    `indoors` that no helpers find it.
    """

    looked: int
    affected: int
    helpers: int = 0
    earlier_share: float | None = None
    vigorous: bool = True
    wilting: bool = False
    indoors: bool = False


@dataclass(frozen=True, slots=True)
class Advice:
    """An action with its reason and the numbers that led to it."""

    action: Action
    reason: str
    share: float
    trend: str


def advise(look: Sighting, tolerance: float, *, disease: bool = False) -> Advice:
    """Decide what a look calls for.

    Parameters
    ----------
    look:
        What was seen.
    tolerance:
        Share of leaves or plants affected up to which this pest is left alone, 0 to 1.
    disease:
        It spreads by spores and no helper eats it: a single affected leaf is cut off.

    Raises
    ------
    InputError
        When more were affected than looked at, or nothing was looked at.

    Notes
    -----
    Rules, in order: where nothing is affected there is nothing to do; nearly all lost (over 80%
    and dying back) is beyond saving; one leaf with a disease is cut off; up to the tolerance on a
    plant that grows is watched, and so is up to twice that with helpers at work or a falling
    trend; indoors, where no helpers come, half of it; up to half is left to helpers that are at
    least as many as what is affected, unless it rises; a clump (up to a quarter affected) is cut
    or washed off first; the rest is worth a trial.
    """
    _check(look)
    share = look.affected / look.looked
    trend = _trend(share, look.earlier_share)
    action, words = _action(look, share, trend, tolerance, disease=disease)
    return Advice(action, f"{_seen(look, share, trend)}: {words}", share, trend)


def _seen(look: Sighting, share: float, trend: str) -> str:
    said = f"{look.affected} of {look.looked} affected ({share:.0%})"
    if trend != "unknown":
        said += f", {trend} since the look before"
    if look.helpers:
        said += f", {look.helpers} helpers seen"
    return said


def _action(
    look: Sighting, share: float, trend: str, tolerance: float, *, disease: bool
) -> tuple[Action, str]:
    if look.affected == 0:
        other = "" if look.vigorous and not look.wilting else " What weakens it is something else."
        return Action.WATCH, f"nothing to act against.{other} Look again in a week."
    if share > 0.8 and look.wilting:
        lost = "most of it is lost. Bin it, wipe the place, and watch the neighbours."
        return Action.TOO_FAR, lost
    if disease and look.affected == 1:
        one = "a single one. Cut it off and bin it, dry, and look again in a week."
        return Action.CLEAN_FIRST, one
    at_work = 0 if disease else look.helpers
    eased = at_work >= max(1, look.affected / 5) or trend == "falling"
    limit = tolerance * (2 if eased else 1) * (0.5 if look.indoors else 1)
    if share <= limit and look.vigorous and trend != "rising":
        borne = f"below the {limit:.0%} that a growing plant bears."
        return Action.WATCH, f"{borne} Leave it and look again in three to five days."
    if share <= EATEN_UP and at_work >= look.affected and look.vigorous and trend != "rising":
        return Action.WATCH, (
            "there are as many helpers as that, and a spray would kill them first. Wait, and look "
            "again in three to five days."
        )
    if share <= max(0.25, limit):
        first = "Wash off, pick or prune that part first, on every plant alike, then look again."
        return Action.CLEAN_FIRST, f"still in one part. {first}"
    return Action.TRIAL, "enough to count, and not lost. Worth a trial."


def _trend(share: float, earlier: float | None) -> str:
    if earlier is None:
        return "unknown"
    if share > earlier * 1.25 + 0.01:
        return "rising"
    return "falling" if share < earlier * 0.8 - 0.01 else "steady"


def _check(look: Sighting) -> None:
    if not 1 <= look.looked <= MAX_LOOKED:
        raise InputError(
            f"{look.looked} were looked at",
            code="nothing_looked_at",
            field="looked",
            fix="Look at ten leaves or plants, taken as they come, and count those affected.",
        )
    if not 0 <= look.affected <= look.looked:
        raise InputError(
            f"{look.affected} affected out of {look.looked}",
            code="more_than_total",
            field="affected",
            fix="Count how many of those looked at had it.",
        )
    if not 0 <= look.helpers <= MAX_LOOKED:
        raise InputError(
            f"{look.helpers} helpers",
            code="bad_number",
            field="helpers",
            fix="Count the helpers seen; none is 0.",
        )
