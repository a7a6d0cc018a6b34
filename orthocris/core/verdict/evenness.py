"""How even a remedy is: on how many of its plants it failed."""

from __future__ import annotations

import math
from collections.abc import Mapping

from orthocris.core.verdict.amounts import Amount
from orthocris.core.verdict.evidence import MOST_LOG, Evidence
from orthocris.core.verdict.table import Table

HALF = 0.5
LEAST = 0.2  # what removes less fails everywhere, and half of it is chance
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
    None for the control, without a count before, and where less than a fifth is removed. What a
    plant would have had untreated is the control's expected level, moved to the plant's own start
    (and its block's mean over all remedies): 1 less what it has over that is removed on it.
    """
    found: dict[str, int | None] = dict.fromkeys(table.remedies)
    counted = any(line.start is not None for line in table.lines)
    if control is None or control not in table.remedies or not counted:
        return found
    untreated = _untreated(table, evidence, control)
    of = [_out_of(line.left, table, evidence) for line in table.lines]
    for name, removed in efficacy.items():
        if name == control or removed < LEAST:
            continue
        found[name] = sum(
            1 - line.left.harm / of[k] / untreated[k] < HALF * removed
            for k, line in enumerate(table.lines)
            if line.remedy == name
        )
    return found


def _out_of(left: Amount, table: Table, evidence: Evidence) -> float:
    """What a plant's number is held against, as the model read it: all its parts, or its effort."""
    if left.of is not None:
        return left.of
    return left.effort * (table.parts or 1.0) if evidence.as_shares else left.effort


def _untreated(table: Table, evidence: Evidence, control: str) -> list[float]:
    """What each plant would be left with under the control, per unit of effort or as a share."""
    posterior = evidence.posterior
    slope = 0.0 if posterior.slope is None else float(posterior.slope[0])
    found = []
    level = posterior.middle_of(table.remedies.index(control))
    for k in range(len(table.lines)):
        eta = level
        eta += slope * float(table.x[k]) if table.x is not None else 0.0
        if table.layout.block is not None and posterior.blocks is not None:
            eta += float(posterior.blocks[0, table.layout.block[k]])
        found.append(
            1 / (1 + math.exp(-eta)) if evidence.as_shares else math.exp(min(eta, MOST_LOG))
        )
    return found


def is_patchy(failed: int | None, plants: int) -> bool:
    """Tell whether a remedy failed on enough of its plants to be called patchy."""
    return failed is not None and failed >= PATCHY_PLANTS and failed >= PATCHY_SHARE * plants
