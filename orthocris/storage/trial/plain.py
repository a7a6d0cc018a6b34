"""Setups, traits and care to JSON and back."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict
from datetime import date
from functools import lru_cache
from typing import Any

from orthocris.core.errors import InputError
from orthocris.core.pantry.costs import Price
from orthocris.core.trial.care import Care, Spot
from orthocris.core.trial.patches import PatchWait
from orthocris.core.trial.plan import Amount, Role, Traits
from orthocris.core.trial.question import Question, RemedyDraft
from orthocris.core.trial.setup import DesignKind, Gradient, Kind, Setup, Unit
from orthocris.core.trial.stages import LifeCycle, Phase, RoundRhythm, Stage, check_cycle
from orthocris.core.trial.trial_plan import KeptPlan
from orthocris.core.weather.days import DayEntry
from orthocris.core.weather.yard import Yard


def setup_text(setup: Setup) -> str:
    """Return a setup as JSON."""
    return json.dumps(asdict(setup))


@lru_cache(maxsize=1024)
def read_setup(text: str) -> Setup:
    """Return the setup in a JSON text; fields it lacks have their usual value."""
    return _setup(json.loads(text))


def _setup(plain: dict[str, Any]) -> Setup:
    enums = {"kind": Kind, "unit": Unit, "design": DesignKind, "gradient": Gradient}
    values: dict[str, Any] = {k: enums[k](v) if k in enums else v for k, v in plain.items()}
    return Setup(**values)


def traits_text(traits: Traits) -> str:
    """Return a remedy's traits as JSON."""
    return json.dumps(asdict(traits))


@lru_cache(maxsize=1024)
def read_traits(text: str) -> Traits:
    """Return the traits in a JSON text."""
    return _traits(json.loads(text))


def _traits(plain: dict[str, Any]) -> Traits:
    ingredients = tuple(Amount(**amount) for amount in plain.pop("ingredients", ()))
    return Traits(**plain, ingredients=ingredients)


def care_text(care: Care) -> str:
    """Return a trial's care as JSON."""
    return json.dumps(asdict(care))


def plain_care(care: Care) -> dict[str, Any]:
    """Return a trial's care as plain values, for the record of changes."""
    plain: dict[str, Any] = json.loads(care_text(care))
    return plain


@lru_cache(maxsize=1024)
def read_care(text: str) -> Care:
    """Return the care in a JSON text; fields it lacks have their usual value."""
    plain: dict[str, Any] = json.loads(text)
    stages = plain.get("stages")
    shaped: dict[str, Any] = {
        "leaf_kinds": tuple,
        "patch_wait": PatchWait,
        "round_rhythm": RoundRhythm,
        "spot": lambda spot: Spot(**spot),
        "stages": lambda _: _stages(stages) if stages else None,
    }
    return Care(**{k: shaped[k](v) if k in shaped else v for k, v in plain.items()})


def plain_yard(yard: Yard) -> dict[str, Any]:
    """Return a yard as plain values, for the record of changes."""
    plain: dict[str, Any] = json.loads(json.dumps(asdict(yard)))
    return plain


def plain_prices(prices: Iterable[Price]) -> dict[str, Any]:
    """Return prices as plain values by name, for the record of changes."""
    return {p.name: [float(p.pack), float(p.price)] for p in prices}


def plain_day(entry: DayEntry) -> dict[str, Any]:
    """Return a day entered by hand as plain values, for the record of changes."""
    return {**asdict(entry), "day": entry.day.isoformat(), "sky": entry.sky.value}


def _stages(plain: list[dict[str, Any]]) -> tuple[Stage, ...] | None:
    """Stages no pest has, kept before they were checked, are left out: the pest's own hold."""
    stages = tuple(
        Stage(s["name"], Phase(s.get("phase") or s["part"]), s["k"], s["t0"]) for s in plain
    )
    try:
        check_cycle(LifeCycle(stages, 0.0, 0.0))
    except InputError:
        return None
    return stages


def plan_text(plan: KeptPlan) -> str:
    """Return a plan as JSON."""
    return json.dumps({**asdict(plan), "start_on": plan.start_on.isoformat()})


def read_plan(text: str) -> KeptPlan:
    """Return the plan in a JSON text."""
    plain: dict[str, Any] = json.loads(text)
    asked: dict[str, Any] = plain["question"]
    question = Question(
        **{
            **asked,
            "setup": _setup(asked["setup"]),
            "look_days": tuple(asked["look_days"]),
            "round_days": tuple(asked["round_days"]),
            "remedies": tuple(
                RemedyDraft(**{**r, "role": Role(r["role"]), "traits": _traits(r["traits"])})
                for r in asked["remedies"]
            ),
        }
    )
    start = date.fromisoformat(plain["start_on"])
    return KeptPlan(question, start, tuple(plain["plant_ids"]), plain["seed"])
