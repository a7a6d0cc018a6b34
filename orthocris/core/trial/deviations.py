"""What went otherwise than planned in the rounds, in sentences the verdict is read with."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from orthocris.core.trial.plan import Round
from orthocris.core.trial.record import limits_said
from orthocris.core.trial.sprays import SprayKind
from orthocris.core.trial.trial import Spray, Trial
from orthocris.core.words import day_words

OVERRULED = {
    "too_soon": "sooner after the last spray than the plants' rest",
    "patch_tests": "before every patch test had passed",
    "window_closed": "outside an open window",
    "expired": "with a batch past its life",
    "before_missing": "though plants were not counted before",
}


def round_notes(trial: Trial, round_: Round) -> Iterator[str]:
    """Yield the deviations of one round: skipped, twice, uneven, drifted, washed off, moved."""
    names = {p.id: p.name for p in trial.plants}
    marks = [s for s in trial.sprays if s.round_id == round_.id and s.plant_id in names]
    where = f"Round {round_.number}"
    for start in trial.starts:
        if start.round_id == round_.id:
            for code, reason in start.overruled.items():
                yield f"{where} was started {OVERRULED.get(code, code)}: {reason}"
            if start.limits:
                yield f"{where} was started under own limits: {limits_said(start.limits)}."
            if start.done_on is not None:
                yield (
                    f"{where} was done on {day_words(start.done_on)} and entered on "
                    f"{day_words(start.started_at)}."
                )
    for skipped in (s for s in marks if s.kind is SprayKind.SKIPPED):
        if skipped.plant_id not in trial.sprayed_in(round_):
            yield f"{where} skipped {names[skipped.plant_id]}: {skipped.note}"
    for mark in marks:
        if mark.deviation:
            what = "sprayed twice" if mark.kind is SprayKind.AGAIN else "sprayed"
            yield f"{where}: {names[mark.plant_id]} {what} against the plan: {mark.deviation}"
    yield from _uneven(where, trial, round_, marks, names)
    yield from _drift(where, marks, names)
    for event in trial.events:
        if event.round_id == round_.id:
            yield event.text


def _uneven(
    where: str, trial: Trial, round_: Round, marks: list[Spray], names: dict[int, str]
) -> Iterator[str]:
    for alike in _alike(trial, round_, marks):
        volumes = Counter(m.volume for m in alike if m.volume is not None)
        if len(volumes) > 1:
            usual = volumes.most_common(1)[0][0]
            others = [names[m.plant_id] for m in alike if m.volume not in (usual, None)]
            yield f"{where}: {', '.join(others)} got another volume than the usual {usual:g} ml."
    tops = [names[m.plant_id] for m in marks if not m.undersides]
    if tops:
        yield f"{where}: undersides were not reached on {', '.join(tops)}."


def _alike(trial: Trial, round_: Round, marks: list[Spray]) -> Iterator[list[Spray]]:
    """The sprays that were to be of the same volume: a drench may have one of its own."""
    own = {r.id: r.traits.ml_each(0.0) for r in trial.given_in(round_)}
    remedy_of = {p.id: p.remedy_id for p in trial.plants}
    found: dict[float, list[Spray]] = {}
    for mark in marks:
        found.setdefault(own.get(remedy_of.get(mark.plant_id) or 0, 0.0), []).append(mark)
    yield from found.values()


def _drift(where: str, marks: list[Spray], names: dict[int, str]) -> Iterator[str]:
    for mark in marks:
        if mark.neighbour_id is not None:
            hit = names.get(mark.neighbour_id, "a neighbour")
            yield f"{where}: spray for {names[mark.plant_id]} hit {hit}."
        elif mark.drifted:
            yield f"{where}: spray drifted at {names[mark.plant_id]}."
