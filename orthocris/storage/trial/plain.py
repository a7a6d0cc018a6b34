"""Setups, traits, care and plans to JSON and back, by the shapes of the core's own records."""

from __future__ import annotations

import json
from collections.abc import Iterable
from functools import lru_cache
from typing import Any

from pydantic import TypeAdapter

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price
from orthocris.core.trial.care import Care
from orthocris.core.trial.plan import Traits
from orthocris.core.trial.setup import Setup
from orthocris.core.trial.stages import LifeCycle, Stage, check_cycle
from orthocris.core.trial.trial_plan import KeptPlan
from orthocris.core.weather.days import DayEntry
from orthocris.core.weather.yard import Yard

# Fields that a text lacks (it is older than they are) have their usual value.
SETUP, TRAITS, CARE = TypeAdapter(Setup), TypeAdapter(Traits), TypeAdapter(Care)
PLAN, YARD, DAY = TypeAdapter(KeptPlan), TypeAdapter(Yard), TypeAdapter(DayEntry)
STAGES = TypeAdapter(tuple[Stage, ...])


def setup_text(setup: Setup) -> str:
    """Return a setup as JSON."""
    return SETUP.dump_json(setup).decode()


@lru_cache(maxsize=1024)
def read_setup(text: str) -> Setup:
    """Return the setup in a JSON text; fields it lacks have their usual value."""
    return SETUP.validate_json(text)


def traits_text(traits: Traits) -> str:
    """Return a remedy's traits as JSON."""
    return TRAITS.dump_json(traits).decode()


@lru_cache(maxsize=1024)
def read_traits(text: str) -> Traits:
    """Return the traits in a JSON text."""
    return TRAITS.validate_json(text)


def care_text(care: Care) -> str:
    """Return a trial's care as JSON."""
    return CARE.dump_json(care).decode()


@lru_cache(maxsize=1024)
def read_care(text: str) -> Care:
    """Return the care in a JSON text; fields it lacks have their usual value.

    Stages that no pest has, kept before they were checked, are left out: the pest's own hold.
    """
    plain: dict[str, Any] = json.loads(text)
    plain["stages"] = _sound_stages(plain.get("stages"))
    return CARE.validate_python(plain)


def plain_care(care: Care) -> dict[str, Any]:
    """Return a trial's care as plain values, for the record of changes."""
    plain: dict[str, Any] = CARE.dump_python(care, mode="json")
    return plain


def plain_yard(yard: Yard) -> dict[str, Any]:
    """Return a yard as plain values, for the record of changes."""
    plain: dict[str, Any] = YARD.dump_python(yard, mode="json")
    return plain


def plain_prices(prices: Iterable[Price]) -> dict[str, Any]:
    """Return prices as plain values by name, for the record of changes."""
    return {p.name: [float(p.pack), float(p.price)] for p in prices}


def plain_day(entry: DayEntry) -> dict[str, Any]:
    """Return a day entered by hand as plain values, for the record of changes."""
    plain: dict[str, Any] = DAY.dump_python(entry, mode="json")
    return plain


def plan_text(plan: KeptPlan) -> str:
    """Return a plan as JSON."""
    return PLAN.dump_json(plan).decode()


def read_plan(text: str) -> KeptPlan:
    """Return the plan in a JSON text."""
    return PLAN.validate_json(text)


def _sound_stages(plain: list[dict[str, Any]] | None) -> tuple[Stage, ...] | None:
    if not plain:
        return None
    renamed = [{**stage, "phase": stage.get("phase") or stage.get("part")} for stage in plain]
    stages = STAGES.validate_python(renamed)
    try:
        check_cycle(LifeCycle(stages, 0.0, 0.0))
    except InputError:
        return None
    return stages
