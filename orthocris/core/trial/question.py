"""The question of a trial: what it must say before plants are chosen."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import partial

from orthocris.core.errors import InputError, check_all
from orthocris.core.ranges import check_length
from orthocris.core.trial.measures import (
    EGG_MEASURE,
    JUDGED_IN_ORDER,
    MeasureKey,
    Scale,
    measure_named,
)
from orthocris.core.trial.plan import Role, Traits
from orthocris.core.trial.programme import (
    Given,
    all_said,
    by_day,
    check_programme,
    check_steps,
    meeting,
    timetable,
)
from orthocris.core.trial.setup import Kind, Setup, check_setup
from orthocris.core.trial.ways import check_ways

MAX_REMEDIES = 12  # letters and notches stay readable up to here
MAX_DAY = 365
MOST_DAYS = 30  # looks, and rounds
MOST_ML = 5000.0  # on one plant
LONGEST_CAUTION = 300  # letters of a gardener's own


@dataclass(frozen=True, slots=True)
class RemedyDraft:
    """A remedy as asked for; `id` is set when it stands for one already kept."""

    name: str
    role: Role
    recipe: str = ""
    id: int | None = None
    traits: Traits = Traits()

    @property
    def said(self) -> str:
        """All that is said of it and its steps, to look for substances in."""
        return all_said(self.name, self.recipe, self.traits.steps)


@dataclass(frozen=True, slots=True)
class Question:
    """Name, pest, measure, remedies, the practical threshold and the planned days.

    `round_days` are whole days after the first spray, `look_days` days in whole hours (0.125 is
    three hours); the count before (day 0) is always there and not among `look_days`. `threshold`
    is a fraction.
    """

    name: str
    pest: str
    measure: str
    threshold: float
    remedies: tuple[RemedyDraft, ...]
    look_days: tuple[float, ...]
    round_days: tuple[int, ...]
    setup: Setup = Setup()


def check_question(question: Question) -> None:
    """Check a question, or raise InputError for its first fault, with the others behind it."""
    check_all(
        lambda: _check_text(question.name, "name", "the trial"),
        lambda: _check_measure(question.measure),
        lambda: _check_threshold(question.threshold),
        lambda: _check_remedies(question.remedies),
        lambda: check_setup(question.setup, len(question.remedies)),
        lambda: check_looks(question.look_days),
        lambda: check_round_days(question.round_days),
    )
    check_all(
        lambda: check_kind(question),
        lambda: _check_also(question),
        lambda: _check_two_looks(question),
        *(partial(_check_traits, question, k) for k in range(len(question.remedies))),
    )
    table = timetable_of(question) or {}
    if len(table) > MOST_DAYS:
        raise InputError(
            f"{len(table)} days on which something is given",
            code="too_many_days",
            field="look_days",
            fix=f"Plan at most {MOST_DAYS}: end the looks sooner, or let a remedy rest longer.",
        )


def _check_measure(key: str) -> None:
    measure = measure_named(key)
    if not measure.judged or measure.key == MeasureKey.OTHER:
        raise InputError(
            f"{measure.label} is counted beside what a trial is about",
            code="not_judged",
            field="measure",
            fix=f"Use one of: {', '.join(JUDGED_IN_ORDER[:-1])}.",
        )


def _check_threshold(threshold: float) -> None:
    if not 0 < threshold < 1:
        raise InputError(
            f"{threshold * 100:g}% cannot be told from everything or nothing",
            code="bad_threshold",
            field="threshold",
            fix="Give a percentage from 1 to 99, such as 60.",
        )


def _check_two_looks(question: Question) -> None:
    if not question.setup.two_looks:
        return
    if len(question.look_days) < 2:
        raise InputError(
            "two looks are to be judged together, and one is planned",
            code="two_looks",
            field="look_days",
            fix="Plan another look, or judge the last by itself.",
        )
    if measure_named(question.measure).scale is Scale.SHARE:
        raise InputError(
            "of individuals under watch more die or hatch from day to day: two looks have no mean",
            code="two_looks",
            field="setup.two_looks",
            fix="Judge the last look by itself.",
        )


def _check_traits(question: Question, index: int) -> None:
    """Check what one remedy is made of, and when it is given."""
    remedy = question.remedies[index]
    check_programme(remedy.traits.programme, f"remedies.{index}.traits.programme")
    _check_dose(remedy.traits, f"remedies.{index}.traits.dose")
    check_steps(remedy.traits.steps, f"remedies.{index}.traits")
    check_ways(remedy.traits.ways, f"remedies.{index}.traits.way")
    _check_meeting(question, remedy, f"remedies.{index}.traits.steps")
    shares = measure_named(question.measure).scale is Scale.SHARE
    if shares and by_day(remedy.traits.steps) != remedy.traits.steps:
        raise InputError(
            "a rule needs a number that is counted on a plant",
            code="bad_rule",
            field=f"remedies.{index}.traits.steps",
            fix="Leave the rule out, or count live pests.",
        )
    if remedy.role is Role.CONTROL and remedy.traits.steps:
        raise InputError(
            "the control has steps",
            code="control_has_steps",
            field=f"remedies.{index}.traits.steps",
            fix="Leave them out: a control is handled like the others by itself.",
        )


def timetable_of(question: Question) -> dict[int, dict[int, int]] | None:
    """Return which remedies, by place, are given on which day, and which part of each.

    None when all share the rounds; see `programme.timetable`.
    """
    own = [_given(remedy) for remedy in question.remedies]
    return timetable(own, question.round_days, _last_day(question))


def _given(remedy: RemedyDraft) -> Given:
    traits = remedy.traits
    return Given(traits.programme, remedy.role is Role.CONTROL, traits.wets, by_day(traits.steps))


def _last_day(question: Question) -> int:
    return math.ceil(question.look_days[-1]) if question.look_days else question.round_days[-1] + 1


def _check_meeting(question: Question, remedy: RemedyDraft, field: str) -> None:
    """Refuse steps that fall on the day of another part: one plant gets one thing a day."""
    day = meeting(_given(remedy), question.round_days, _last_day(question))
    if day is not None:
        raise InputError(
            f"two parts of {remedy.name} fall on day {day}",
            code="steps_meet",
            field=field,
            fix="Give it more days between two times, or let the step follow sooner.",
        )


def factors(traits: Traits) -> dict[str, float]:
    """Return what is varied in a remedy, by ingredient; what only holds an oil is none of it."""
    return {i.key: i.amount for i in traits.ingredients if i.key != "emulsifier"}


def check_kind(question: Question) -> None:
    """Check that remedies and measure fit the kind of question."""
    others = [r for r in question.remedies if r.role is Role.REMEDY]
    holds = [factors(r.traits) for r in others]
    kind = question.setup.kind
    if kind is Kind.LADDER and ladder_ingredient(holds) is None:
        raise InputError(
            "the remedies are not strengths of one remedy",
            code="not_a_ladder",
            field="remedies",
            fix="Give at least two strengths of the same ingredient, all different.",
        )
    if kind is Kind.SQUARE and not _is_square(holds):
        raise InputError(
            "the remedies are not one ingredient, the other, and both at the same strengths",
            code="not_a_square",
            field="remedies",
            fix="Use the control for neither, and one remedy each for the first, the second "
            "and both.",
        )
    if kind is Kind.EGGS and question.measure != EGG_MEASURE:
        raise InputError(
            f"an egg trial counts eggs hatched out of all, not {question.measure}",
            code="wrong_measure",
            field="measure",
            fix="Count eggs hatched out of all in the cluster.",
        )


def ladder_ingredient(holds: Sequence[Mapping[str, float]]) -> str | None:
    """Return the ingredient whose strengths make a ladder; None when there is none.

    `holds` has the amounts of each remedy beside the control. Of several that would do, the
    first in the order of the first remedy's recipe.
    """
    if len(holds) < 2:
        return None
    for key in holds[0]:
        if all(key in h for h in holds) and len({h[key] for h in holds}) == len(holds):
            return key
    return None


def _is_square(holds: Sequence[dict[str, float]]) -> bool:
    one, other, both = sorted(holds, key=len) if len(holds) == 3 else ({}, {}, {})
    return len(one) == len(other) == 1 and set(one) != set(other) and {**one, **other} == both


def _check_text(text: str, field: str, what: str, limit: int = 80) -> None:
    if not text.strip():
        raise InputError(
            f"{what} has no name", code="empty", field=field, fix="Give it a short name."
        )
    check_length(text, limit, "the name", field)


def _check_remedies(remedies: Sequence[RemedyDraft]) -> None:
    controls = [r for r in remedies if r.role is Role.CONTROL]
    if len(controls) != 1:
        raise InputError(
            f"there are {len(controls)} controls",
            code="one_control",
            field="remedies",
            fix="Keep exactly one control: plants that are handled alike but not treated.",
        )
    if not 2 <= len(remedies) <= MAX_REMEDIES:
        raise InputError(
            f"there are {len(remedies) - 1} remedies beside the control",
            code="remedy_number",
            field="remedies",
            fix=f"Compare 1 to {MAX_REMEDIES - 1} remedies with the control.",
        )
    ids = [r.id for r in remedies if r.id is not None]
    for index, remedy in enumerate(remedies):
        if remedy.id is not None and ids.count(remedy.id) > 1:
            raise InputError(
                f"remedy {remedy.id} is there twice",
                code="same_remedy",
                field=f"remedies.{index}.id",
                fix="Name each kept remedy once, and leave the id out of a new one.",
            )
        _check_text(remedy.name, f"remedies.{index}.name", "a remedy")
        check_length(remedy.recipe, 2000, "the recipe", f"remedies.{index}.recipe")
        where = f"remedies.{index}.traits.caution"
        check_length(remedy.traits.caution, LONGEST_CAUTION, "the caution", where)
    folded = [r.name.strip().casefold() for r in remedies]
    for index, name in enumerate(folded):
        if Counter(folded)[name] > 1 and folded.index(name) < index:
            raise InputError(
                f"two remedies are called {remedies[index].name.strip()!r}",
                code="same_name",
                field=f"remedies.{index}.name",
                fix="Give each a name of its own, with its strength when that is the difference.",
            )


def _check_dose(traits: Traits, field: str) -> None:
    """Refuse an amount in ml that no plant holds; other units are the gardener's own."""
    if not 0.1 <= traits.ml_each(0.1) <= MOST_ML:
        raise InputError(
            f"{traits.dose:g} ml on one plant",
            code="out_of_range",
            field=field,
            fix=f"Give 0.1 to {MOST_ML:g} ml a plant, or leave it empty for the usual amount.",
        )


def check_round_days(days: Sequence[int]) -> None:
    """Refuse spray days that are none, too many, out of order, or not begun on day 0."""
    _check_days(days, "round_days", first=0)
    if days[0] != 0:
        raise InputError(
            "the first round is not on day 0",
            code="no_first_round",
            field="round_days",
            fix="Days are counted from the first spray, so the first round is day 0.",
        )


def _check_also(question: Question) -> None:
    """A second pest is another one, and counted: what arrives or hatches is asked of one alone."""
    setup = question.setup
    if setup.also and setup.also.lower() == question.pest.lower():
        raise InputError(
            f"{setup.also} twice",
            code="same_pest",
            field="setup.also",
            fix="Name another pest that is on the same plants, or none.",
        )
    if setup.also and setup.kind in (Kind.PREVENTION, Kind.EGGS):
        raise InputError(
            "a second pest in a question about what arrives or hatches",
            code="also_not_here",
            field="setup.also",
            fix="Ask this of one pest; compare remedies where there are two.",
        )


def check_looks(days: Sequence[float]) -> None:
    """Refuse looks that are not whole hours, none, too many, or out of order."""
    if any(abs(day * 24 - round(day * 24)) > 0.01 for day in days if math.isfinite(day)):
        raise InputError(
            f"the days {', '.join(f'{day:g}' for day in days)} are no whole hours",
            code="bad_days",
            field="look_days",
            fix="Write looks as days or whole hours after the first spray, such as 3 h, 1, 7.",
        )
    if days and days[0] <= 0:
        raise InputError(
            "a look at the moment of the first spray",
            code="bad_days",
            field="look_days",
            fix="The count before is always there; the first look after comes an hour "
            "later or more.",
        )
    _check_days(days, "look_days", first=0)


def _check_days(days: Sequence[float], field: str, *, first: int) -> None:
    if not days:
        raise InputError(
            "no day is planned",
            code="empty",
            field=field,
            fix="Give at least one day, counted from the first spray.",
        )
    if (
        list(days) != sorted(set(days))
        or days[0] < first
        or days[-1] > MAX_DAY
        or len(days) > MOST_DAYS
    ):
        raise InputError(
            f"the days {', '.join(f'{day:g}' for day in days)} are not a rising row from {first} "
            f"to {MAX_DAY}",
            code="bad_days",
            field=field,
            fix=f"Give up to {MOST_DAYS} different whole days, the smallest first, none below "
            f"{first}.",
        )
