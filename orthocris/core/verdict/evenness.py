"""How even a remedy is: on how many of its plants it failed."""

from __future__ import annotations

import math
from collections.abc import Mapping

from orthocris.core.verdict.evidence import Evidence
from orthocris.core.verdict.table import Table

HALF = 0.5
PATCHY_PLANTS, PATCHY_SHARE = 2, 0.2


def failures(
    table: Table, evidence: Evidence, efficacy: Mapping[str, float], control: str | None
) -> dict[str, int | None]:
    """Count for each remedy the plants on which it removed less than half of what it does overall.

    Parameters
    ----------
    table, evidence:
        The plants, and what was found of them.
    efficacy:
        The fraction removed by each remedy.
    control:
        The control's name, or None.

    Returns
    -------
    None for the control, without a count before, and for a remedy that removes nothing. What a
    plant would have had untreated is the control's expected level, moved to the plant's own start
    (and its block's mean over all remedies): 1 less what it has over that is removed on it.
    """
    found: dict[str, int | None] = dict.fromkeys(table.remedies)
    counted = any(line.start is not None for line in table.lines)
    if control is None or control not in table.remedies or not counted:
        return found
    expected = _untreated(table, evidence, control)
    for name, removed in efficacy.items():
        if name == control or removed <= 0:
            continue
        found[name] = sum(
            1 - _share(line.left.harm, line.left.of, line.left.effort) / expected[k]
            < HALF * removed
            for k, line in enumerate(table.lines)
            if line.remedy == name
        )
    return found


def _share(harm: float, of: float | None, effort: float) -> float:
    return harm / (of if of is not None else effort)


def _untreated(table: Table, evidence: Evidence, control: str) -> list[float]:
    slope = float(evidence.posterior.slope[0]) if evidence.posterior.slope is not None else 0.0
    blocks = evidence.posterior.blocks
    level = evidence.posterior.middle_of(table.remedies.index(control))
    found = []
    shares = table.lines[0].left.of is not None
    for k in range(len(table.lines)):
        eta = level + (slope * float(table.x[k]) if table.x is not None else 0.0)
        if table.layout.block is not None and blocks is not None:
            eta += float(blocks[0, table.layout.block[k]])
        found.append(1 / (1 + math.exp(-eta)) if shares else math.exp(min(eta, 50.0)))
    return found


def is_patchy(failed: int | None, plants: int) -> bool:
    """Tell whether a remedy failed on enough of its plants to be called patchy."""
    return failed is not None and failed >= PATCHY_PLANTS and failed >= PATCHY_SHARE * plants
