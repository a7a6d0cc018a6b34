"""What was agreed before a trial, as the judge takes it: days, burdens, and the lot."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from orthocris.core.trial.plan import Remedy
from orthocris.core.trial.setup import UNIT_WORDS, DesignKind
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.trial.ways import minutes_of
from orthocris.core.verdict.bet import Burden
from orthocris.core.verdict.case import Terms
from orthocris.core.verdict.layouts import LayoutSet, reference_set
from orthocris.core.verdict.model.frame import Layout
from orthocris.services.pantry.remedy_cards import usual_of
from orthocris.services.planning.layouts import layouts_of
from orthocris.services.verdict.table import in_part
from orthocris.storage import verdicts
from orthocris.storage.database import Connection


def terms_of(connection: Connection, parts: Sequence[CountedTrial]) -> Terms:
    """Return what was agreed before a trial, the last of its parts.

    A look added after a final verdict was read decides no more than the error kept for it.
    """
    trial = parts[-1]
    first = verdicts.first_look_on_record(connection, trial.id)
    decisive = next((float(k.moment) for k in trial.looks if k.number == first), None)
    return Terms(
        margin=trial.setup.margin,
        planned=tuple(float(look.moment) for look in trial.looks),
        decisive=decisive,
        two_waves=parts[0].setup.two_waves,
        two_looks=trial.setup.two_looks,
        burdens={remedy.name: _burden(trial, remedy) for remedy in trial.remedies},
        layouts=_layouts(connection, parts),
        usual=usual_of(trial),
        units=UNIT_WORDS[trial.setup.unit],
    )


def _layouts(connection: Connection, parts: Sequence[CountedTrial]) -> LayoutSet | None:
    """The layouts that the lots of all parts could have drawn; None where no rule held."""
    found: list[LayoutSet | None] = []
    for k, part in enumerate(parts):
        drawn = layouts_of(connection, part)
        names = {plant.id: in_part(plant.name, k, len(parts)) for plant in part.plants}
        remedies = tuple(remedy.name for remedy in part.remedies)
        if drawn is None or not set(drawn.plants) <= names.keys():
            found.append(None)
            continue
        found.append(
            LayoutSet.unpacked(tuple(names[p] for p in drawn.plants), remedies, drawn.packed)
        )
    if not any(found):
        return None
    free = (_free_layouts(part, k, len(parts)) for k, part in enumerate(parts))
    return LayoutSet.beside([one or other for one, other in zip(found, free, strict=True)])


def _free_layouts(part: CountedTrial, k: int, parts: int) -> LayoutSet:
    """Layouts of a part that no rule restricted, as the lot could have drawn them."""
    place = {remedy.id: n for n, remedy in enumerate(part.remedies)}
    laid = part.trial_plants
    blocks = {block: n for n, block in enumerate(dict.fromkeys(p.block for p in laid))}
    blocked = part.setup.design is not DesignKind.RANDOMISED
    layout = Layout(
        np.array([place[p.remedy_id or 0] for p in laid]),
        np.array([blocks[p.block] for p in laid]) if blocked else None,
    )
    return LayoutSet(
        tuple(in_part(p.name, k, parts) for p in laid),
        tuple(remedy.name for remedy in part.remedies),
        reference_set(layout, part.seed or 0),
    )


def _burden(trial: CountedTrial, remedy: Remedy) -> Burden:
    """What a remedy cost on each of its plants: minutes, and money for its bottles."""
    parts = [remedy.part(r.step_of(remedy.id)).traits for r in trial.rounds if r.gives(remedy.id)]
    plants = sum(p.remedy_id == remedy.id for p in trial.trial_plants) or 1
    money = sum(b.cost or 0.0 for b in trial.batches if b.remedy_id == remedy.id)
    return Burden(sum(minutes_of(t.way, t.dose, t.dose_unit) for t in parts), money / plants)
