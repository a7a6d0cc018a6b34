"""Which leaves bear which mix: every patch test ever made here, kind by kind."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from orthocris.core.field.patchtest import PatchOutcome, judge_patch
from orthocris.core.field.rest import Act
from orthocris.core.trial.care import Care
from orthocris.core.trial.plan import Remedy, TrialPlan
from orthocris.services.context import Context
from orthocris.services.verdict.known import strength_of
from orthocris.storage.database import Connection
from orthocris.storage.field import patches, rest
from orthocris.storage.trial import reading

ANY_KIND = Care().leaf_kinds[0]  # what is said where nobody named the kind


@dataclass(frozen=True, slots=True)
class Borne:
    """How often a kind of leaf bore a mix; `marked` counts tests that failed or want it weaker."""

    kind: str
    remedy: str
    strength: str
    passed: int
    marked: int


def borne(context: Context) -> tuple[Borne, ...]:
    """Return what patch tests found, of trials on the list and of what was treated outside them.

    Kinds in the order of the alphabet, the mixes of each by name. A kind that nobody named is the
    trial's crop; tests that still run say nothing yet.
    """
    found: dict[tuple[str, str, str], Counter[bool]] = {}
    with context.database.reading() as connection:
        for kind, remedy, strength, marked in _tests(connection):
            found.setdefault((kind, remedy, strength), Counter())[marked] += 1
    return tuple(
        Borne(kind, remedy, strength, told[False], told[True])
        for (kind, remedy, strength), told in sorted(found.items())
    )


def _tests(connection: Connection) -> Iterator[tuple[str, str, str, bool]]:
    """Each test that is over: kind, remedy, strength, and whether leaves were marked."""
    tests, treated = patches.of_trials(connection, None), rest.of_trials(connection, None)
    if not tests and not treated:
        return
    for plan in reading.plans(connection, None):
        remedies = {r.id: r for r in (*plan.remedies, *plan.left_out_remedies)}
        for test in tests.get(plan.id, ()):
            outcome = judge_patch(test).outcome
            if outcome is not PatchOutcome.RUNNING and test.remedy_id in remedies:
                share = "" if test.strength == 1 else f"at {test.strength:.0%}"
                mix = _mix(remedies[test.remedy_id], share)
                yield _kind(plan, test.leaf_kind), *mix, outcome is not PatchOutcome.PASSED
        for treatment, _ in treated.get(plan.id, ()):
            looks = [one for one in treatment.done if one.act is Act.PATCH_LOOK]
            for kind in treatment.draft.kinds if looks else ():
                mix = _mix(remedies[treatment.draft.remedy_id], "")
                yield kind.strip().lower(), *mix, looks[-1].harmed


def _mix(remedy: Remedy, share: str) -> tuple[str, str]:
    return remedy.name, ", ".join(filter(None, (strength_of(remedy), share)))


def _kind(plan: TrialPlan, said: str) -> str:
    named = plan.setup.crop if said == ANY_KIND and plan.setup.crop else said
    return named.strip().lower()
