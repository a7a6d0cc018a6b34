"""What each finding of the critic is about, so that it can hang on the word it concerns."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from orthocris.core.planning.findings import Finding, Plan


class RemarkOn(StrEnum):
    """A part of a plan that a remark hangs on."""

    PLANTS = "plants"
    BENCH = "bench"
    PEST = "pest"
    MEASURE = "measure"
    REMEDIES = "remedies"
    CONTROL = "control"
    START = "start"
    DAYS = "days"


ABOUT: dict[str, RemarkOn] = {
    "stressed": RemarkOn.PLANTS,
    "in_bloom": RemarkOn.PLANTS,
    "units_share_plant": RemarkOn.PLANTS,
    "too_few_blocks": RemarkOn.PLANTS,
    "too_few_layouts": RemarkOn.PLANTS,
    "unmatched": RemarkOn.BENCH,
    "gradient": RemarkOn.BENCH,
    "two_way_gradient": RemarkOn.BENCH,
    "neighbours_close": RemarkOn.BENCH,
    "not_clean": RemarkOn.BENCH,
    "low_start": RemarkOn.BENCH,
    "roaming": RemarkOn.PEST,
    "measure_blind": RemarkOn.MEASURE,
    "trap_is_ruler": RemarkOn.MEASURE,
    "unsuited": RemarkOn.REMEDIES,
    "unsuited_also": RemarkOn.REMEDIES,
    "unknown": RemarkOn.REMEDIES,
    "picked": RemarkOn.REMEDIES,
    "too_often": RemarkOn.REMEDIES,
    "two_things_differ": RemarkOn.REMEDIES,
    "oil_alone": RemarkOn.REMEDIES,
    "too_many_remedies": RemarkOn.REMEDIES,
    "release_beside_spray": RemarkOn.REMEDIES,
    "sulphur_beside_oil": RemarkOn.REMEDIES,
    "no_control": RemarkOn.CONTROL,
    "no_water_control": RemarkOn.CONTROL,
    "unequal_handling": RemarkOn.CONTROL,
    "control_way": RemarkOn.CONTROL,
    "on_a_part": RemarkOn.REMEDIES,
    "near_harvest": RemarkOn.START,
    "away": RemarkOn.START,
    "looks_too_early": RemarkOn.DAYS,
    "looks_too_late": RemarkOn.DAYS,
    "visits_differ": RemarkOn.DAYS,
}


@dataclass(frozen=True, slots=True)
class Remark:
    """A finding, what it is about, and the one remedy that it is about, by name, if it is one."""

    finding: Finding
    about: RemarkOn
    remedy: str | None = None


def remark(plan: Plan, finding: Finding) -> Remark:
    """Say what a finding is about: its code tells, which ends in the remedy's place or id."""
    stem, _, place = finding.code.rpartition("_")
    if not place.isdigit():
        return Remark(finding, ABOUT[finding.code])
    remedies = plan.question.remedies
    by_id = {str(r.id): r.name for r in remedies if r.id is not None}
    name = by_id.get(place) or remedies[int(place)].name
    return Remark(finding, ABOUT[stem], name)
