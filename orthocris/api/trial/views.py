"""From the services' overview to what the screens receive."""

from __future__ import annotations

from datetime import datetime
from fractions import Fraction

from orthocris.api.field.round_schemas import EventOut
from orthocris.api.field.schemas import BatchOut, CareIO
from orthocris.api.knowledge.schemas import MeasureOut, PestOut
from orthocris.api.trial.schemas import (
    ChangeOut,
    ChangePartOut,
    GardenJobOut,
    JobOut,
    LayoutEventOut,
    LookOut,
    PlantOut,
    PutAwayOut,
    RemedyOut,
    RoundOut,
    ShieldOut,
    StationOut,
    TagOut,
    TodayOut,
    TodayTrialOut,
    TrialOut,
    WorkOut,
)
from orthocris.api.trial.setup_schemas import SetupIO, TraitsIO
from orthocris.core.planning.layout_event import LayoutEvent
from orthocris.core.trial.batches import Batch
from orthocris.core.trial.care import Care
from orthocris.core.trial.deviations import round_notes
from orthocris.core.trial.measures import measure_named
from orthocris.core.trial.plan import Remedy, Round, TrialPlan
from orthocris.core.trial.programme import step_said
from orthocris.core.trial.record import Change
from orthocris.core.trial.sprays import RoundStart
from orthocris.core.trial.trial import Plant, Trial
from orthocris.core.trial.ways import minutes_of, way_named
from orthocris.services.pantry.remedy_cards import (
    card_of,
    dose_of,
    is_oil,
    is_poured,
    ml_of,
    reach_of,
    usual_of,
)
from orthocris.services.trial.benches import plant_revision
from orthocris.services.trial.overviews import Overview, Today, TodayTrial


def trial_view(overview: Overview) -> TrialOut:
    """Lay out a whole trial for the screens."""
    trial = overview.trial
    sealed = overview.standing.sealed
    letters = {r.id: r.letter for r in trial.remedies}
    return TrialOut(
        id=trial.id,
        name=trial.name,
        pest=trial.pest,
        pest_card=PestOut.model_validate(overview.pest) if overview.pest else None,
        measure=MeasureOut.model_validate(measure_named(trial.measure)),
        threshold=trial.threshold,
        start_on=trial.start_on,
        sprayed_on=trial.sprayed_on,
        today=overview.now.date(),
        seed=None if sealed else trial.seed,
        remedies=tuple(_remedy(r, overview, sealed) for r in trial.remedies),
        sealed=sealed,
        told_apart=tuple(r.name for r in trial.told_apart),
        tags=_tags(trial, sealed),
        plants=tuple(_plant(p, letters) for p in trial.plants),
        walk=tuple(p.id for p in trial.active_plants),
        rounds=tuple(round_view(trial, r, overview.now, sealed=sealed) for r in trial.rounds),
        round_days=trial.own_rounds,
        work=tuple(
            _work(trial, remedy, overview.laid[remedy.id], sealed=sealed)
            for remedy in trial.remedies
        ),
        looks=tuple(
            LookOut(
                id=found.look.id,
                number=found.look.number,
                day=found.look.day,
                hours=found.look.hours,
                when=found.look.when,
                on=trial.date_of(found.look.day),
                counted=found.in_time,
            )
            for found in overview.standing.looks
        ),
        stations=tuple(StationOut.model_validate(x) for x in overview.stations),
        jobs=tuple(JobOut.model_validate(j) for j in overview.jobs),
        layout_events=tuple(_layout_event(e, sealed=sealed) for e in overview.layout_events),
        general_cautions=overview.general_cautions,
        eating=overview.eating,
        usual=usual_of(trial),
        holds=overview.holds,
        put_away_at=trial.put_away_at,
        question_revision=overview.question_revision,
        care_revision=overview.care_revision,
        changes=tuple(change_view(c) for c in overview.changes),
        setup=setup_view(trial),
        mark=trial.setup.mark,
        habit=None if overview.crop is None else overview.crop.habit,
        key_opened_at=trial.key_opened_at,
        goes_on=trial.goes_on,
        shields=tuple(ShieldOut(one=a, other=b) for a, b in overview.shields),
        care=CareIO.model_validate(trial.care),
        batches=()
        if sealed  # how many, how large and when mixed: each would tell whose they are
        else tuple(batch_view(trial, b, overview.now) for b in trial.batches),
        odd_plants={o.plant_id: o.reason for o in overview.odd},
    )


def setup_view(plan: TrialPlan) -> SetupIO:
    """Lay out a setup; the days to the harvest are told beside its date."""
    on = plan.setup.harvest_on
    days = None if on is None or on < plan.start_on else (on - plan.start_on).days
    return SetupIO.model_validate(plan.setup).model_copy(update={"harvest_days": days})


def _layout_event(event: LayoutEvent, *, sealed: bool) -> LayoutEventOut:
    """While sealed without the seed: whoever draws with it again has the key."""
    shown = LayoutEventOut.model_validate(event)
    return shown.model_copy(update={"seed": None}) if sealed else shown


def _work(trial: Trial, remedy: Remedy, laid: Fraction | None, *, sealed: bool) -> WorkOut:
    """Typical minutes: those of its way, or its dose where that is in minutes itself.

    While sealed for as many plants as each remedy has on the average, and without a cost: by its
    number of plants one with a plant more could be told.
    """
    given = [remedy.part(r.step_of(remedy.id)) for r in trial.rounds if r.gives(remedy.id)]
    traits = [part.traits for part in given if way_named(part.traits.way).minutes]
    work = [minutes_of(t.way, t.dose, t.dose_unit) for t in traits]
    own = sum(p.remedy_id == remedy.id for p in trial.trial_plants)
    plants = len(trial.trial_plants) / len(trial.remedies) if sealed else own
    return WorkOut(
        remedy_id=remedy.id,
        times=len(work),
        minutes=plants * sum(work),
        cost=None if laid is None or sealed else float(laid),
    )


def plant_view(plant: Plant, letter: str | None = None) -> PlantOut:
    """Lay out a plant for the screens."""
    shown = PlantOut.model_validate(plant)
    return shown.model_copy(update={"revision": plant_revision(plant), "letter": letter})


def _plant(plant: Plant, letters: dict[int, str | None]) -> PlantOut:
    return plant_view(plant, letters.get(plant.remedy_id or 0))


def _tags(trial: Trial, sealed: bool) -> tuple[TagOut, ...]:
    """The letters in their order; while sealed, what is said of one is said of all."""
    coded = sorted((r for r in trial.remedies if r.letter), key=lambda r: r.letter or "")
    return tuple(_tag(r, coded if sealed else [r], trial.care, sealed=sealed) for r in coded)


def _tag(
    remedy: Remedy, said_of: list[Remedy], care: Care, *, sealed: bool, step: int = 0
) -> TagOut:
    cards = [card_of(r) for r in said_of]
    return TagOut(
        letter=remedy.letter or "",
        notches=remedy.notches or 0,
        remedy_id=None if sealed else remedy.id,
        poured=is_poured(remedy),
        ml=ml_of(remedy, care),
        bottled=any(card.mixed for card in cards) if sealed else card_of(remedy).mixed,
        reach=reach_of(remedy),
        dose="" if sealed else dose_of(remedy),
        oil=any(card.oil for card in cards),
        agitation="Shake before every plant." if sealed else cards[0].agitation,
        coverage="Undersides too." if sealed else cards[0].coverage,
        aftercare="" if sealed else cards[0].aftercare,
        step=step,
    )


def change_view(change: Change) -> ChangeOut:
    """Lay out a change for the screens."""
    return ChangeOut(
        made_at=change.made_at,
        what=change.what,
        parts=tuple(
            ChangePartOut(name=name.replace("_", " "), before=_value(old), after=_value(new))
            for name, old, new in change.parts()
        ),
    )


def _value(value: object) -> str:
    if value is None:
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g}"
    if isinstance(value, list):
        return ", ".join(_value(item) for item in value)
    if isinstance(value, dict):
        return ", ".join(f"{k.replace('_', ' ')} {_value(v)}" for k, v in value.items())
    return str(value)


def _remedy(remedy: Remedy, overview: Overview, sealed: bool) -> RemedyOut:
    card = card_of(remedy)
    return RemedyOut(
        id=remedy.id,
        name=remedy.name,
        role=remedy.role,
        recipe=remedy.recipe,
        letter=None if sealed else remedy.letter,
        notches=None if sealed else remedy.notches,
        cautions=overview.cautions[remedy.id],
        unsuited=overview.unsuited[remedy.id],
        traits=TraitsIO.model_validate(remedy.traits),
        rule=next((step_said(s) for s in remedy.traits.steps if s.above is not None), ""),
        oil=is_oil(remedy),
        poured=is_poured(remedy),
        agitation=card.agitation,
        coverage=card.coverage,
        aftercare=card.aftercare,
    )


def round_view(trial: Trial, round_: Round, now: datetime, *, sealed: bool) -> RoundOut:
    starts = [x for x in trial.starts if x.round_id == round_.id]
    return RoundOut(
        due=tuple(p.id for p in trial.due_in(round_)),
        remedies=None if round_.remedies is None else tuple(sorted(round_.remedies)),
        id=round_.id,
        number=round_.number,
        day=round_.day,
        on=trial.date_of(round_.day),
        sprayed=tuple(sorted(trial.sprayed_in(round_))),
        skipped=tuple(sorted(trial.skipped_in(round_))),
        left_out=trial.left_out(round_),
        events=tuple(EventOut.model_validate(e) for e in trial.events if e.round_id == round_.id),
        started_at=starts[-1].started_at if starts else None,
        running=bool(starts) and starts[-1].holds(now),
        batches={} if sealed else _bottles_used(trial, starts),
        notes=tuple(round_notes(trial, round_)),
        parts=_later_parts(trial, round_, sealed=sealed),
        steps=dict(round_.steps),
    )


def _later_parts(trial: Trial, round_: Round, *, sealed: bool) -> tuple[TagOut, ...]:
    """The tags under which a later step is given in a round, as it is given then."""
    coded = [part for r in trial.remedies if r.letter for part in r.parts]
    given = [r for r in trial.given_in(round_) if r.letter and round_.step_of(r.id)]
    given.sort(key=lambda r: r.letter or "")
    return tuple(
        _tag(r, coded if sealed else [r], trial.care, sealed=sealed, step=round_.step_of(r.id))
        for r in given
    )


def _bottles_used(trial: Trial, starts: list[RoundStart]) -> dict[str, int]:
    letters = {r.id: r.letter for r in trial.remedies}
    chosen = starts[-1].batches if starts else {}
    found = {letter: b for r, b in chosen.items() if (letter := letters.get(r)) is not None}
    return dict(sorted(found.items()))


def batch_view(trial: Trial, batch: Batch, now: datetime) -> BatchOut:
    """Lay out a batch for whoever mixes; while the key is sealed nobody else is shown one."""
    used = {m.round_id for m in trial.sprays if m.batch_id == batch.id}
    plain = {
        field: getattr(batch, field) for field in BatchOut.model_fields if hasattr(batch, field)
    }
    letters = {r.id: r.letter for r in trial.remedies}
    return BatchOut.model_validate(
        {
            **plain,
            "letter": letters.get(batch.remedy_id),
            "usable": batch.usable(now),
            "rounds": tuple(r.number for r in trial.rounds if r.id in used),
        }
    )


def today_view(found: Today) -> TodayOut:
    """Lay out what is due today."""
    return TodayOut(
        today=found.today,
        trials=tuple(_today_trial(row) for row in found.trials),
        put_away=tuple(
            PutAwayOut(id=i, name=name, put_away_at=at) for i, name, at in found.put_away
        ),
        garden=tuple(GardenJobOut.model_validate(job) for job in found.garden),
    )


def _today_trial(row: TodayTrial) -> TodayTrialOut:
    return TodayTrialOut(
        id=row.plan.id,
        name=row.plan.name,
        pest=row.pest_name,
        crop=row.crop,
        plants=row.plants,
        stations=tuple(StationOut.model_validate(x) for x in row.stations),
        jobs=tuple(JobOut.model_validate(j) for j in row.jobs),
        eating=row.eating,
    )
