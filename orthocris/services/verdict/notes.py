"""What happened on the bench that a verdict must be read with."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from datetime import datetime, timedelta

from orthocris.core.counting.leaf.scene import Truth
from orthocris.core.counting.practice import Counted, Session, counter_error
from orthocris.core.trial.deviations import round_notes
from orthocris.core.trial.plan import Look
from orthocris.core.trial.programme import step_said
from orthocris.core.trial.setup import Kind
from orthocris.core.trial.standing import DAYS_OFF, counted_early
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.words import day_words, listing, many


def bench_notes(trial: CountedTrial, look: Look) -> Iterator[str]:
    """Name rounds left out, looks not whole, keys opened early, and counts out of their time."""
    plants = {p.id: p.name for p in trial.trial_plants}
    if trial.seed is None:
        yield (
            "Who got what was decided on paper: the program did not draw the lot, and cannot vouch "
            "that it was one. Where plants were chosen, the odds below do not hold."
        )
    for round_ in trial.rounds:
        if round_.day >= look.moment:
            continue
        sprayed = trial.sprayed_in(round_)
        due = trial.due_in(round_)  # a remedy with days of its own is not left out on the others
        missed = [plant.name for plant in due if plant.id not in sprayed]
        if trial.left_out(round_):
            pass  # its event says so, with the reason
        elif due and len(missed) == len(due):
            yield f"Round {round_.number} (day {round_.day}) was not sprayed."
        elif missed:
            yield f"Round {round_.number} (day {round_.day}) left out {', '.join(missed)}."
        yield from round_notes(trial, round_)
    for other in trial.looks:
        counted = trial.counted_at(other)
        if 0 < other.moment < look.moment and not set(plants) <= counted:
            which = " on every plant" if counted else ""
            yield f"Look {other.number} ({other.when}) was not counted{which}."
    yield from _key_notes(trial, look)
    yield from _day_notes(trial, look)
    if trial.setup.kind is Kind.PREVENTION:
        yield from _not_clean(trial)


def counter_notes(sessions: Iterable[Session]) -> Iterator[str]:
    """Say how whoever counts erred in practice with this pest, where practice is sure of it."""
    by_person: dict[str, list[tuple[Counted, Truth]]] = {}
    for session in sessions:
        by_person.setdefault(session.person, []).extend(session.counted.values())
    for person, pairs in by_person.items():
        error = counter_error(pairs)
        who = f"{person or 'whoever counts'} (practice on {len(pairs)} drawn leaves)"
        codes = {advice.code for advice in error.advice}
        if "dead_as_live" in codes and error.dead_taken is not None:
            yield (
                f"About {100 * error.dead_taken:.0f} of 100 dead ones were taken for live by "
                f"{who}: what kills without washing off may work better than it looks here."
            )
        if codes & {"too_few", "too_many"} and error.bias is not None:
            yield (
                f"{100 * error.bias:.0f}% of the live ones were counted by {who}. That goes for "
                "every plant alike, so the comparison stands; the numbers themselves do not."
            )


def _key_notes(trial: CountedTrial, look: Look) -> Iterator[str]:
    opened = trial.key_opened_at
    if not look.number:
        return
    tallies = trial.tallies_at(look, trial.measure).values()
    if opened and any(opened < (t.first_counted_at or t.counted_at) for t in tallies):
        yield "The key of the tags was opened before this look was over: it was not blind."
        return
    if opened and (corrected := sum(opened < t.counted_at for t in tallies)):
        yield f"{_plants(corrected)} corrected after the key of the tags was opened."
    if names := [remedy.name for remedy in trial.told_apart]:
        yield (
            "Told apart by days, way or amount while the key was sealed: "
            f"{listing(names)}. Whoever treated and counted did not count these blind."
        )


def rule_notes(trial: CountedTrial) -> Iterator[str]:
    """What a rule that was fixed beforehand came to; it is judged as part of its remedy."""
    for remedy in trial.remedies:
        rule = next((s for s in remedy.traits.steps if s.above is not None), None)
        if rule is None:
            continue
        part = remedy.traits.steps.index(rule) + 1
        given = [r for r in trial.rounds if r.gives(remedy.id) and trial.sprayed_in(r)]
        held = [r for r in given if r.step_of(remedy.id) == part]
        came = (
            f"It held from round {held[0].number} on: {len(held)} of {many(len(given), 'round')} "
            f"gave {rule.name}."
            if held
            else f"It never held: {rule.name} was not given."
        )
        yield f"{remedy.name} is judged with its rule ({step_said(rule)}). {came}"


def _day_notes(trial: CountedTrial, look: Look) -> Iterator[str]:
    """Numbers of another day than the plan's, and counts before that were entered afterwards."""
    due = trial.date_of(look.day)
    early = counted_early(trial, look)
    if early:
        yield (
            f"{_plants(len(early))} counted on {day_words(max(early.values()))} for the look of "
            f"{day_words(due)}: a look before its day settles nothing. Count again on its day."
        )
    late = sum(
        (t.counted_on - due).days > DAYS_OFF for t in trial.tallies_at(look, trial.measure).values()
    )
    if late:
        yield f"{_plants(late)} counted more than a day after the planned day {look.day}."
    first = trial.first_sprayed_at(trial.rounds[0]) if trial.rounds else None
    if look.hours and first is not None:
        yield from _hour_notes(trial, look, first)
    before = trial.tallies_at(trial.looks[0], trial.measure).values()
    afterwards = sum(
        first is not None and first < (t.first_counted_at or t.counted_at) for t in before
    )
    if afterwards:
        yield f"{_plants(afterwards)} counted before, but entered only after the first spray."


def _hour_notes(trial: CountedTrial, look: Look, first: datetime) -> Iterator[str]:
    """Numbers of another hour than the plan's, where they were counted as they were entered."""
    due = first + timedelta(days=look.moment)
    slack = max(timedelta(days=look.moment) / 2, timedelta(hours=1))
    counted = [
        t.first_counted_at or t.counted_at
        for t in trial.tallies_at(look, trial.measure).values()
        if t.counted_at.date() == t.counted_on
    ]
    off = sum(abs(at - due) > slack for at in counted)
    if off:
        yield (
            f"{_plants(off)} counted at another hour than {look.when} after the first spray; the "
            "next look tells more."
        )


def _not_clean(trial: CountedTrial) -> Iterator[str]:
    start = trial.tallies_at(trial.looks[0], trial.measure)
    names = [p.name for p in trial.trial_plants if p.id in start and start[p.id].value]
    if names:
        yield (
            f"{', '.join(names)} had pests before the first spray: what was found there later need "
            "not have arrived."
        )


def _plants(number: int) -> str:
    return "1 plant was" if number == 1 else f"{number} plants were"
