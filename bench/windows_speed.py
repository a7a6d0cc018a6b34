"""Windows of a season of hourly weather for ten remedies: python -m bench.windows_speed.

Compares the whole-season arithmetic with asking every hour by itself, on the same weather in
the same run, and checks that both open the same hours.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime

import numpy as np

from orthocris.core.pantry.spray_rules import SprayRules
from orthocris.core.trial.care import Spot
from orthocris.core.weather.hours import Weather, drying_hours, evaporation, wet_leaves
from orthocris.core.weather.sunlight import Place, light_enough
from orthocris.core.weather.windows import (
    DIRECT_SUN,
    RAIN_FALLS,
    WindowTable,
    bees_fly,
    windows,
)
from orthocris.devices.simulated_weather import SimulatedStation
from orthocris.knowledge import recipe_cards

START, DAYS = datetime(2026, 4, 1), 183
HERE = Place(48.0, 0.0, 1)
TARGET_MS = 50.0


def best_of(work: Callable[[], object], times: int) -> float:
    """Shortest of several runs, in ms."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        taken.append(1000 * (time.perf_counter() - start))
    return min(taken)


def season(weather: Weather, rules: list[SprayRules]) -> WindowTable:
    """What the program does."""
    return windows(weather, light_enough(HERE, weather.start, weather.hours), Spot(), rules)


def hour_by_hour(weather: Weather, rules: list[SprayRules]) -> list[list[bool]]:
    """The same question asked for each hour and remedy by itself."""
    light = light_enough(HERE, weather.start, weather.hours)
    lost = evaporation(weather)
    wet, bees = wet_leaves(weather, lost), bees_fly(weather)
    found = []
    for rule in rules:
        dry = drying_hours(lost, rule.film) if rule.wets else np.zeros(weather.hours)
        row = []
        for k in range(weather.hours):
            end = k + max(int(np.ceil(dry[k])), 1)
            ok = light[k] and not bees[k] and weather.wind[k] <= rule.wind
            ok = ok and weather.rain[k] <= RAIN_FALLS
            for j in range(k, min(end, weather.hours)):
                ok = ok and rule.low <= weather.temperature[j] <= rule.high
                if rule.wets:
                    ok = ok and weather.sun[j] <= DIRECT_SUN and weather.rain[j] <= RAIN_FALLS
            row.append(bool(ok and not (rule.wets and wet[k])))
        found.append(row)
    return found


def main() -> None:
    """Measure and print."""
    weather = SimulatedStation(HERE, 7).read(START, DAYS * 24, datetime(2027, 1, 1))
    rules = [card.rules for card in recipe_cards().values() if card.rules is not None][:10]
    fast = best_of(lambda: season(weather, rules), 10)
    slow = best_of(lambda: hour_by_hour(weather, rules), 1)
    same = np.array_equal(season(weather, rules).open(), np.array(hour_by_hour(weather, rules)))
    share = season(weather, rules).open().mean(axis=1)
    print(f"{weather.hours} hours, {len(rules)} remedies")
    print(f"season at once      {fast:8.1f} ms (wanted below {TARGET_MS:.0f})")
    print(f"hour by hour        {slow:8.1f} ms, {slow / fast:.0f} times as long")
    print(f"same hours open     {same}")
    print(f"share of hours open {share.min():.1%} to {share.max():.1%}")


if __name__ == "__main__":
    main()
