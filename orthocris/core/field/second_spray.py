"""The rule that refuses a second spray, in one round or before the plant has had its rest."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date, datetime

from orthocris.core.errors import ConflictError
from orthocris.core.trial.plan import Round, TrialPlan
from orthocris.core.trial.programme import rest_of
from orthocris.core.trial.sprays import RoundStart, SprayEntry, SprayKind
from orthocris.core.trial.trial import Plant, Spray
from orthocris.core.words import weekday_and_day


def checked_spray(
    plan: TrialPlan,
    round_: Round,
    plant: Plant,
    marks: Sequence[Spray],
    entry: SprayEntry,
    start: RoundStart,
    at: datetime,
) -> SprayEntry:
    """Return what is to be kept of a plant in a round, with the kind and deviation it counts as.

    Parameters
    ----------
    marks:
        What is on record of this plant, in all rounds.
    start:
        The start of the round; a reason given there for "too soon" holds for every plant.
    at:
        When it was done.

    Raises
    ------
    ConflictError
        ``already_sprayed`` and ``too_soon`` unless the entry names its deviation.
    """
    if not round_.gives(plant.remedy_id) and not entry.deviation.strip():
        raise ConflictError(
            f"{plant.name} is not treated in this round",
            code="not_due",
            field="deviation",
            fix="Leave it: its remedy has other days. If it happened, record it as a deviation.",
        )
    sprayed = any(m.round_id == round_.id and m.kind is not SprayKind.SKIPPED for m in marks)
    if entry.kind is SprayKind.SKIPPED:
        if sprayed:
            raise ConflictError(
                "this plant was sprayed in this round",
                code="already_sprayed",
                fix="Take that back first if it was a mistake.",
            )
        return entry
    if sprayed:
        return _again(plant, entry)
    reason = entry.deviation.strip() or start.overruled.get("too_soon", "")
    last = last_sprayed(marks, round_).get(plant.id)
    # Days as one counts them: an evening and a morning three days on are three days apart.
    rest = rest_days(plan, plant.remedy_id)
    too_soon = last is not None and (at.date() - last).days < rest
    if last is not None and too_soon and not reason:
        raise ConflictError(
            f"{plant.name} was sprayed on {weekday_and_day(last)}, less than {rest} days ago",
            code="too_soon",
            field="deviation",
            fix="Wait, or record it as a deviation with its reason.",
        )
    said = reason if too_soon else entry.deviation
    return replace(entry, kind=SprayKind.SPRAYED, deviation=said)


def rest_days(plan: TrialPlan, remedy_id: int | None) -> int:
    """Return the least days between two sprays of a plant with a remedy."""
    remedy = next((r for r in plan.remedies if r.id == remedy_id), None)
    usual = plan.care.days_between
    if remedy is None or plan.rounds[:1] == () or plan.rounds[0].remedies is None:
        return usual
    return rest_of(plan.days_of(remedy), usual)


def _again(plant: Plant, entry: SprayEntry) -> SprayEntry:
    if not entry.deviation.strip():
        raise ConflictError(
            f"{plant.name} was sprayed in this round already",
            code="already_sprayed",
            field="deviation",
            fix="Leave it; a second spray burns leaves. If it happened, record it as a deviation.",
        )
    return replace(entry, kind=SprayKind.AGAIN)


def last_sprayed(marks: Iterable[Spray], round_: Round) -> dict[int, date]:
    """Return the day each plant was last sprayed in another round, by plant id."""
    found: dict[int, date] = {}
    for mark in marks:
        if mark.round_id != round_.id and mark.kind is not SprayKind.SKIPPED:
            day = mark.sprayed_at.date()
            found[mark.plant_id] = max(found.get(mark.plant_id, day), day)
    return found
