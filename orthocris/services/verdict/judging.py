"""The verdict of a trial in the data, and its tidy table."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace

from orthocris import __version__
from orthocris.core import Observation, Verdict
from orthocris.core.counting.agreement import agreement_note
from orthocris.core.counting.classes import class_note
from orthocris.core.counting.notebook import Note, SeenCount, seen_by_remedy
from orthocris.core.errors import ConflictError
from orthocris.core.field.edibles import eat_trial, eating
from orthocris.core.trial.lookup import find_look
from orthocris.core.trial.mess import mess_words
from orthocris.core.trial.plan import Look, on_moment
from orthocris.core.trial.record import limit_notes, name_notes
from orthocris.core.trial.standing import counted_early, standing_of
from orthocris.core.trial.trial import CountedTrial
from orthocris.core.verdict.frozen import FrozenVerdict, why_different
from orthocris.core.verdict.gathering import Gathered, gather
from orthocris.core.verdict.judge import MODEL
from orthocris.core.verdict.observation import check_observations
from orthocris.core.verdict.own_plants import against_own_block
from orthocris.core.verdict.result import Design, Outcome
from orthocris.core.verdict.sensitivity import Check, sensitivity
from orthocris.core.verdict.two_looks import judged_on, taken_together
from orthocris.core.words import listing, many
from orthocris.formats.tidy_table import write_table
from orthocris.knowledge import Pest
from orthocris.services.context import Context
from orthocris.services.counting.sheets import compared
from orthocris.services.pantry.remedy_cards import card_of, unsuited
from orthocris.services.trial.own_pests import pest_of
from orthocris.services.verdict.answering import answered
from orthocris.services.verdict.notes import bench_notes, counter_notes, rule_notes
from orthocris.services.verdict.pests import judged, second_verdict, with_second
from orthocris.services.verdict.table import together
from orthocris.services.verdict.terms import terms_of
from orthocris.storage import finding as records
from orthocris.storage import record as kept
from orthocris.storage import verdicts
from orthocris.storage.counting import counts, notebook, practice
from orthocris.storage.field import mess
from orthocris.storage.trial import reading

RECKONED_BY = f"{__version__}, model {MODEL}"


@dataclass(frozen=True, slots=True)
class TrialVerdict:
    """A verdict with what happened on the bench that it must be read with.

    `final` is False while later looks are planned or this one was counted before its day;
    `notes` name deviations and what the gardener overruled; `answers` those of the kind of
    question asked; `early` tells that plants were counted before the look's day. `record` is the
    verdict of this look that was put on record once final, and `differs` says why this one is
    another; `seen` is on how many plants what else was noted at this look; `mess` what each remedy
    was like to use, by its name, where somebody said; `counted` all numbers it was made of;
    `dots` what was removed from each plant against the control of its block, by remedy; `judged_on`
    the day or days, in words.
    """

    verdict: Verdict
    final: bool
    look_number: int
    notes: tuple[str, ...]
    answers: tuple[str, ...]
    early: bool
    record: FrozenVerdict | None = None
    differs: tuple[str, ...] = ()
    seen: tuple[SeenCount, ...] = ()
    mess: dict[str, str] = field(default_factory=dict)
    counted: Sequence[Observation] = ()
    dots: dict[str, tuple[float, ...]] = field(default_factory=dict)
    judged_on: str = ""


def verdict_of(context: Context, trial_id: int, look_number: int | None = None) -> TrialVerdict:
    """Judge a trial at a look (by default the last one with counts).

    Raises
    ------
    ConflictError
        When there is nothing to judge yet, saying what comes first.

    Notes
    -----
    While the key is sealed it says how far the counting is and nothing of the remedies: their
    numbers beside those of the letters would tell which is which.
    """
    asked = (context.state(), trial_id, look_number)
    return context.newest_verdict.of(asked, lambda: _judged(context, trial_id, look_number))


def _judged(context: Context, trial_id: int, look_number: int | None) -> TrialVerdict:
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        trial = parts[-1]
        overruled = records.overruled(connection, trial_id)
        changes = kept.changes(connection, trial_id)
        look = _look_to_judge(trial, look_number)
        standing = standing_of(trial)
        if standing.sealed:
            return _while_sealed(trial, look)
        pest = pest_of(connection, trial.pest)
        also = pest_of(connection, trial.setup.also) if trial.setup.also else None
        eaten = eat_trial(eating(standing, card_of, context.now().date()), sealed=standing.sealed)
        record = verdicts.kept_verdict(connection, trial_id, look.number)
        terms = terms_of(connection, parts)
        noted = notebook.notes_of(connection, trial_id, look.number)
        practised = practice.sessions(connection, trial.pest)
        messy = mess.mess_of(connection, trial_id)
        classed = counts.classed_at(connection, look.id)
        seconds = compared(connection, look.id, trial.measure)
    plants = {p.id for p in trial.trial_plants}
    terms = replace(terms, whole=plants <= trial.counted_at(look))
    seen = together(parts, look)
    gathered = _gathered(seen)
    verdict, answers = answered(trial, seen, look, judged(trial, gathered, look, terms), terms)
    if trial.setup.also:
        names = tuple(
            one.name if one else key for one, key in ((pest, trial.pest), (also, trial.setup.also))
        )
        second = second_verdict(trial, gathered, look, terms)
        verdict, lines = with_second(verdict, second, (names[0], names[1]))
        answers = (*answers, *lines)
    verdict = _with_care(verdict, trial, pest)
    last = trial.looks[-1]
    early = counted_early(trial, look)
    counted = plants <= trial.counted_at(last) and not early
    final = look.id == last.id and counted and not verdict.so_far
    first = trial.first_sprayed_at(trial.rounds[0]) if trial.rounds else None
    notes = [
        *([eaten] if eaten else []),
        *_parts_note(parts),
        *bench_notes(trial, look),
        *rule_notes(trial),
        *counter_notes(practised),
        *([class_note(classed)] if classed else []),
        *filter(None, map(agreement_note, seconds)),
        *limit_notes(changes, first),
        *name_notes(changes),
        *(f"Overruled before the start: {o.finding} Reason given: {o.reason}" for o in overruled),
    ]
    differs: tuple[str, ...] = ()
    if record is not None:
        inputs = write_table(seen).decode()
        differs = why_different(record, verdict, inputs=inputs, version=RECKONED_BY)
    return TrialVerdict(
        verdict,
        final,
        look.number,
        tuple(notes),
        answers,
        bool(early),
        record,
        differs,
        _seen(trial, noted),
        {r.name: words for r in trial.remedies if (words := mess_words(messy, r.id))},
        seen,
        _dots(trial, taken_together(gathered, terms), look),
        judged_on(terms, look.moment),
    )


def _dots(trial: CountedTrial, gathered: Gathered, look: Look) -> dict[str, tuple[float, ...]]:
    if trial.control is None:
        return {}
    return against_own_block(
        gathered,
        control=trial.control.name,
        measure=trial.measure,
        look=str(look.moment),
    )


def _while_sealed(trial: CountedTrial, look: Look) -> TrialVerdict:
    """What may be told before the key is open: that it is so far, and how much is counted."""
    plants = {p.id for p in trial.trial_plants}
    counted = len(plants & trial.counted_at(look))
    last = look.id == trial.looks[-1].id
    still = "" if last else "; looks are still to come"
    blocks = {p.block for p in trial.trial_plants}
    design = Design(trial.setup.design.value, len(blocks), counted, len(trial.remedies))
    verdict = Verdict(
        outcome=Outcome.UNDECIDED,
        recommended=None,
        sentence=f"So far: {counted} of {len(plants)} plants are counted {on_moment(look.moment)}"
        f"{still}. What each remedy did is told when the key is open.",
        advice="It opens by itself once every plant is counted at the last look. Who opens it "
        "before, with the layout, counts with open eyes from then on; it is put on the record.",
        measure=trial.measure,
        look=str(look.moment),
        so_far=True,
        threshold=trial.threshold,
        design=design,
        remedies=(),
        warnings=(),
        reasons=(),
        method={},
    )
    notes = tuple(bench_notes(trial, look))
    early = bool(counted_early(trial, look))
    when = on_moment(look.moment)
    return TrialVerdict(verdict, False, look.number, notes, (), early, judged_on=when)


def _check_open(trial: CountedTrial) -> None:
    """Numbers by remedy beside those by letter would tell which is which."""
    if standing_of(trial).sealed:
        raise ConflictError(
            "the numbers of each remedy would tell which letter it has, and the key is sealed",
            code="key_sealed",
            fix="It opens by itself once every plant is counted at the last look; or open it now, "
            "which is put on the record.",
        )


def _with_care(verdict: Verdict, trial: CountedTrial, pest: Pest | None) -> Verdict:
    """Add to the advice what speaks against its remedy on these plants, and the rest they want."""
    remedy = next((r for r in trial.remedies if r.name == verdict.recommended), None)
    if remedy is None or not verdict.advice:
        return verdict
    reasons = unsuited(trial, pest)[remedy.id]
    said = [f"Mind of {remedy.name} on such plants: {' '.join(reasons)}"] if reasons else []
    rest = card_of(remedy).interval_days
    if rest > 1:
        said.append(f"Leave about {rest} days from one time to the next.")
    return replace(verdict, advice=" ".join([verdict.advice, *said]))


def _seen(trial: CountedTrial, noted: tuple[Note, ...]) -> tuple[SeenCount, ...]:
    names = {remedy.id: remedy.name for remedy in trial.remedies}
    got = {p.id: names[p.remedy_id] for p in trial.plants if p.remedy_id is not None}
    return seen_by_remedy(noted, got, [remedy.name for remedy in trial.remedies])


def record_verdict(context: Context, trial_id: int, look_number: int | None = None) -> TrialVerdict:
    """Put a final verdict on record, unless its look has one, and return it.

    Raises
    ------
    ConflictError
        When the verdict is not final, or there is nothing to judge.
    """
    found = verdict_of(context, trial_id, look_number)
    if found.record is not None:
        return found
    if not found.final:
        raise ConflictError(
            "looks are still to come, so this verdict is not final",
            code="not_final",
            fix="Count the planned looks first.",
        )
    inputs = write_table(found.counted).decode()  # those of this very verdict
    seed = int(str(found.verdict.method["seed"]))
    record = FrozenVerdict(context.now(), RECKONED_BY, seed, inputs, found.verdict.to_dict())
    with context.database.atomic() as connection:
        verdicts.keep_verdict(connection, trial_id, found.look_number, record)
    return replace(found, record=record)


def checks_of(context: Context, trial_id: int, look_number: int | None = None) -> tuple[Check, ...]:
    """Judge a trial again without what may be doubted; nothing without a control.

    Raises
    ------
    ConflictError
        When there is nothing to judge yet, saying what comes first.
    """
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
        trial = parts[-1]
        _check_open(trial)
        terms = terms_of(connection, parts)
    look = _look_to_judge(trial, look_number)
    if trial.control is None:
        return ()
    whole = {p.id for p in trial.trial_plants} <= trial.counted_at(look)
    terms = replace(terms, whole=whole)
    seen = together(parts, look)

    def told(own: Sequence[Observation], verdict: Verdict) -> Verdict:
        return answered(trial, own, look, verdict, terms)[0]

    return sensitivity(
        seen,
        told(seen, judged(trial, _gathered(seen), look, terms)),
        control=trial.control.name,
        terms=terms,
        told=told,
    )


def _parts_note(parts: Sequence[CountedTrial]) -> Iterator[str]:
    """Say with what a trial that goes on is judged together."""
    if len(parts) > 1:
        told = [f"{p.name} ({many(len(p.trial_plants), 'plant')})" for p in parts[:-1]]
        yield f"Judged together with {listing(told)}, from which it goes on."


def _gathered(seen: Sequence[Observation]) -> Gathered:
    check_observations(seen)
    return gather(seen)


@dataclass(frozen=True, slots=True)
class TrialCourse:
    """Numbers of the looks, and each plant's finished values at them, by plant id."""

    looks: tuple[int, ...]
    values: dict[int, tuple[float | None, ...]]
    damage: dict[int, tuple[float | None, ...]]


def course_of(context: Context, trial_id: int) -> TrialCourse:
    """Return what was counted on every plant at every look, per unit of effort or as a share."""
    with context.database.reading() as connection:
        plan = reading.load_plan(connection, trial_id)
        found = counts.values(connection, trial_id, plan.measure)
        harm = counts.values(connection, trial_id, "damage")
    place = {look.number: k for k, look in enumerate(plan.looks)}
    return TrialCourse(tuple(place), _by_look(found, place), _by_look(harm, place))


def _by_look(
    found: list[tuple[int, int, float]], place: dict[int, int]
) -> dict[int, tuple[float | None, ...]]:
    rows: dict[int, list[float | None]] = {}
    for plant, number, value in found:
        rows.setdefault(plant, [None] * len(place))[place[number]] = value
    return {plant: tuple(row) for plant, row in rows.items()}


def table_of(context: Context, trial_id: int) -> bytes:
    """Return a trial's finished counts as a tidy table (CSV).

    Raises
    ------
    ConflictError
        Code ``key_sealed`` while the key is sealed: the table tells which plant got what.
    """
    with context.database.reading() as connection:
        parts = reading.load_parts(connection, trial_id)
    _check_open(parts[-1])
    return write_table(together(parts))


def _look_to_judge(trial: CountedTrial, number: int | None) -> Look:
    if number is not None:
        look = find_look(trial, number)
        if look.number and trial.counted_at(look):
            return look
        raise ConflictError(
            f"nothing was counted at look {number} after the spray",
            code="nothing_counted",
            fix="Count it first, or choose another look.",
        )
    last = last_look(trial)
    if last is None:
        raise ConflictError(
            "nothing was counted after the first spray yet",
            code="nothing_counted",
            fix="The verdict needs the count before, the spray and at least one look after it.",
        )
    return last


def last_look(trial: CountedTrial) -> Look | None:
    """Return the last look after the spray at which something was counted."""
    counted = [look for look in trial.looks if look.number and trial.counted_at(look)]
    return counted[-1] if counted else None
