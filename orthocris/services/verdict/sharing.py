"""A trial as it is shared: what a judge must know of it, and its numbers, with names or not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from orthocris.core import Observation
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.verdict.shared import Shared
from orthocris.services.trial.own_pests import pest_of
from orthocris.services.verdict.judging import last_look
from orthocris.services.verdict.table import together
from orthocris.services.verdict.terms import terms_of
from orthocris.storage.database import Connection


def shared_of(connection: Connection, parts: Sequence[CountedTrial]) -> Shared | None:
    """Return what is told of a trial whose key is open; None before its first look is counted."""
    trial = parts[-1]
    look = last_look(trial)
    if look is None:
        return None
    terms = terms_of(connection, parts)
    known = pest_of(connection, trial.pest)
    return Shared(
        name=trial.name,
        pest=trial.pest,
        pest_name=known.name if known else trial.pest,
        crop=trial.setup.crop,
        on=trial.sprayed_on or trial.start_on,
        measure=trial.measure,
        look=float(look.moment),
        threshold=trial.threshold,
        remedies=tuple(replace(r, id=0, letter=None, notches=None) for r in trial.remedies),
        usual=terms.usual,
        planned=terms.planned,
        decisive=terms.decisive,
        two_waves=terms.two_waves,
        two_looks=terms.two_looks,
    )


def bare(shared: Shared) -> Shared:
    """Return it without the name that the gardener gave it."""
    return replace(shared, name=f"{shared.pest_name} on {shared.crop or 'plants'}")


def numbers_of(parts: Sequence[CountedTrial], *, names: bool) -> list[Observation]:
    """Return the numbers of a trial, its plants by their names or as P1, P2 and so on."""
    seen = together(parts)
    if names:
        return seen
    plants: dict[str, str] = {}
    return [
        one._replace(
            plant=plants.setdefault(one.plant, f"P{len(plants) + 1}"),
            group=one.group and plants.setdefault(f"on {one.group}", f"Q{len(plants) + 1}"),
        )
        for one in seen
    ]
