"""What rain and heat did to the rounds of the last days, logged beside them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from orthocris.core.field.rounds import heat_after, rain_after
from orthocris.core.trial.plan import TrialPlan
from orthocris.core.trial.sprays import EventKind, RoundEvent
from orthocris.core.trial.standing import RoundStanding
from orthocris.core.weather.hours import Weather
from orthocris.core.weather.windows import local_hour, together, where_it_stands
from orthocris.core.weather.yard import WeatherSource
from orthocris.services.context import Context
from orthocris.services.pantry.remedy_cards import card_of, rules_of
from orthocris.services.weather.stations import weather_at
from orthocris.storage import weather as yard
from orthocris.storage.database import Connection
from orthocris.storage.field import rounds
from orthocris.storage.trial.standings import standings

NEWS = 0.5  # mm or °C by which an event must grow to be logged again
LOOKED_AT = timedelta(days=3)
Known = dict[EventKind, float]


def log_weather(context: Context) -> int:
    """Log rain and heat that fell on sprayed rounds; return how many events are new.

    A round is looked at for three days after it; what was logged only grows. The weather is
    read before anything is written, so that nobody waits for a station.
    """
    now = context.now()
    with context.database.reading() as connection:
        found = list(_news(connection, now))
    if found:
        with context.database.atomic() as connection:
            for event in found:
                rounds.keep_event(connection, event)
    return len(found)


def _news(connection: Connection, now: datetime) -> Iterator[RoundEvent]:
    place = yard.load(connection)
    if place.weather_source is WeatherSource.NONE:
        return
    for standing in standings(connection, None):
        plan = standing.plan
        fresh = [r for r in standing.rounds if r.begun_at and now - r.begun_at <= LOOKED_AT]
        if not fresh or not plan.care.spot.outdoors:
            continue
        known = rounds.weather_events(connection, plan.id)
        for round_ in fresh:
            start = local_hour(round_.begun_at or now)
            outside, _ = weather_at(connection, place, start, 72, now)
            weather = where_it_stands(outside, plan.care.spot)
            logged = known.get(round_.round.id, {})
            yield from _rain(weather, round_, start, now, logged)
            yield from _heat(weather, plan, round_, start, now, logged)


def _rain(
    weather: Weather, round_: RoundStanding, start: datetime, now: datetime, known: Known
) -> Iterator[RoundEvent]:
    rain, washed = rain_after(weather, start)
    if washed and rain > known.get(EventKind.WASHED_OFF, 0.0) + NEWS:
        text = (
            f"Round {round_.round.number}: {rain:.0f} mm of rain within 24 hours, logged as "
            "wash-off; the remedies look weaker than they are, and the next round is proposed "
            "sooner."
        )
        yield RoundEvent(round_.round.id, now, EventKind.WASHED_OFF, rain, text)


def _heat(
    weather: Weather,
    plan: TrialPlan,
    round_: RoundStanding,
    start: datetime,
    now: datetime,
    known: Known,
) -> Iterator[RoundEvent]:
    oils = [
        rules
        for r in plan.given_in(round_.round)
        if card_of(r).oil and (rules := rules_of(r, plan.care)) is not None
    ]
    if not oils:
        return
    strictest = together(oils)
    top = heat_after(weather, start, strictest.heat_hours, strictest.high)
    if top is None or top <= known.get(EventKind.HEAT_AFTER_OIL, -100.0) + NEWS:
        return
    text = (
        f"Round {round_.round.number}: {top:.0f} °C within {strictest.heat_hours} hours after an "
        "oil; look for burn at the next look."
    )
    yield RoundEvent(round_.round.id, now, EventKind.HEAT_AFTER_OIL, top, text)
