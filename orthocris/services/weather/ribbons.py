"""The day ribbon: windows hour by hour for a bench, and the best hours to come."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from orthocris.core.field.rounds import HourNow
from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.lookup import first_of
from orthocris.core.trial.plan import Remedy, Round, TrialPlan
from orthocris.core.weather.sunlight import SunTimes, sun_times
from orthocris.core.weather.window_words import UNKNOWN_SAID, explain, main_sign, remarks
from orthocris.core.weather.windows import WindowTable, bees_fly, local_hour
from orthocris.core.weather.yard import WeatherSource
from orthocris.services.context import Context
from orthocris.services.weather.outlook import (
    HISTORY_HOURS,
    DayView,
    Outlook,
    minds_weather,
    outlook_of,
    rules_by_remedy,
    rules_together,
)
from orthocris.services.weather.stations import clock_of
from orthocris.storage.database import Connection
from orthocris.storage.trial.standings import standings

TODAY = range(HISTORY_HOURS, HISTORY_HOURS + 24)


@dataclass(frozen=True, slots=True)
class HourView:
    """One hour of the ribbon; None where a value is not known.

    `closed_by` and `closed_word` are key and short name of what chiefly closes it for the
    whole round (empty when open), `against` says all that does, `notes` what only speaks
    against it.
    """

    at: datetime
    temperature: float | None
    humidity: float | None
    rain: float | None
    wind: float | None
    sun: float | None
    light: bool
    bees: bool
    forecast: bool
    open: bool
    drying: float
    closed_by: str
    closed_word: str
    against: tuple[str, ...]
    notes: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class RowView:
    """One remedy's windows today: `open` and `against` hour by hour.

    While the key is sealed there is none: by its limits one would know the remedy.
    """

    letter: str | None
    notches: int | None
    name: str
    open: tuple[bool, ...]
    against: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class Ribbon:
    """Today from midnight to midnight, and the next days' best hours.

    `by_hand`: the gardener says what each day is like.
    """

    station: str
    by_hand: bool
    outdoors: bool
    known: bool
    now: datetime
    sun: SunTimes
    hours: tuple[HourView, ...]
    rows: tuple[RowView, ...]
    days: tuple[DayView, ...]


def ribbon_of(context: Context, trial_id: int) -> Ribbon:
    """Return the day ribbon of one trial's bench."""
    with context.database.reading() as connection:
        standing = first_of(
            standings(connection, trial_id),
            lambda _: True,
            f"there is no trial {trial_id}",
            code="no_such_trial",
            fix="Choose one from Today.",
        )
        outlook = outlook_of(connection, context.now())
    plan = standing.plan
    own = [] if standing.sealed else rules_by_remedy(plan)
    return _ribbon(outlook, plan, own, rules_together(plan))


def yard_ribbon(context: Context) -> Ribbon:
    """Return the ribbon of the yard for an ordinary soap, without a trial."""
    with context.database.reading() as connection:
        outlook = outlook_of(connection, context.now())
    empty = TrialPlan(0, outlook.place.name, "", "", 0.5, context.now().date(), None, None)
    return _ribbon(outlook, empty, [], SprayRules())


def hour_now(connection: Connection, plan: TrialPlan, round_: Round, now: datetime) -> HourNow:
    """Return this hour's window for a round; picking, traps and such are never closed.

    That nothing is known of the weather does not close it: then somebody can look.
    """
    if not minds_weather(plan, round_):
        return HourNow()
    outlook = outlook_of(connection, now, days=2)
    table = outlook.table(plan, [rules_together(plan, round_)])
    said = explain(table, 0, table.weather.index_of(local_hour(now)))
    return HourNow(tuple(t for t in said if t != UNKNOWN_SAID), UNKNOWN_SAID not in said)


def _ribbon(
    outlook: Outlook,
    plan: TrialPlan,
    own: Sequence[tuple[Remedy, SprayRules]],
    all_: SprayRules,
) -> Ribbon:
    """The last row of the table is that of the whole round."""
    table = outlook.table(plan, [*(rules for _, rules in own), all_])
    row = len(own)
    bees = bees_fly(table.weather)
    return Ribbon(
        station=outlook.station,
        by_hand=outlook.place.weather_source is WeatherSource.ENTERED,
        outdoors=plan.care.spot.outdoors,
        known=bool(table.weather.known()[TODAY.start : TODAY.stop].any()),
        now=outlook.now,
        sun=sun_times(clock_of(outlook.place, outlook.now), outlook.now.date()),
        hours=tuple(_hour(outlook, table, k, bees) for k in TODAY),
        rows=tuple(
            _row(remedy, table, k)
            for k, (remedy, _) in sorted(enumerate(own), key=lambda r: r[1][0].letter or "")
        ),
        days=tuple(outlook.day(table, row, ahead) for ahead in range(outlook.days)),
    )


def _row(remedy: Remedy, table: WindowTable, row: int) -> RowView:
    return RowView(
        remedy.letter,
        remedy.notches,
        remedy.name,
        tuple(bool(o) for o in table.open()[row, TODAY.start : TODAY.stop]),
        tuple(explain(table, row, hour) for hour in TODAY),
    )


def _hour(outlook: Outlook, table: WindowTable, k: int, bees: NDArray[np.bool_]) -> HourView:
    weather = table.weather
    row = len(table.rules) - 1
    main = main_sign(table, row, k)
    return HourView(
        at=outlook.time_of(k),
        temperature=_value(weather.temperature, k),
        humidity=_value(weather.humidity, k),
        rain=_value(weather.rain, k),
        wind=_value(weather.wind, k),
        sun=_value(weather.sun, k),
        light=bool(outlook.light[k]),
        bees=bool(bees[k]),
        forecast=k >= weather.forecast_from,
        open=bool(table.open()[row, k]),
        closed_by=main[0] if main else "",
        closed_word=main[1] if main else "",
        drying=round(float(table.drying[row, k]), 2),
        against=explain(table, row, k),
        notes=remarks(table, row, k),
    )


def _value(series: NDArray[np.float64], k: int) -> float | None:
    return None if np.isnan(series[k]) else round(float(series[k]), 2)
