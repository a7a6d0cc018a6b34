"""Setups, traits and care to JSON and back."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from orthocris.core.care import Care
from orthocris.core.lifecycle import Part, RoundSchool, Stage
from orthocris.core.patchtest import PatchSchool
from orthocris.core.setup import DesignKind, Gradient, Kind, Setup, Unit
from orthocris.core.trial import Amount, Traits
from orthocris.core.windows import Spot


def setup_text(setup: Setup) -> str:
    """Return a setup as JSON."""
    return json.dumps(asdict(setup))


def read_setup(text: str) -> Setup:
    """Return the setup in a JSON text; fields it lacks have their usual value."""
    plain: dict[str, Any] = json.loads(text)
    enums = {"kind": Kind, "unit": Unit, "design": DesignKind, "gradient": Gradient}
    values: dict[str, Any] = {k: enums[k](v) if k in enums else v for k, v in plain.items()}
    return Setup(**values)


def traits_text(traits: Traits) -> str:
    """Return a remedy's traits as JSON."""
    return json.dumps(asdict(traits))


def read_traits(text: str) -> Traits:
    """Return the traits in a JSON text."""
    plain: dict[str, Any] = json.loads(text)
    ingredients = tuple(Amount(**amount) for amount in plain.pop("ingredients", ()))
    return Traits(**plain, ingredients=ingredients)


def care_text(care: Care) -> str:
    """Return a trial's care as JSON."""
    return json.dumps(asdict(care))


def read_care(text: str) -> Care:
    """Return the care in a JSON text; fields it lacks have their usual value."""
    plain: dict[str, Any] = json.loads(text)
    stages = plain.get("stages")
    shaped: dict[str, Any] = {
        "leaf_kinds": tuple,
        "patch_school": PatchSchool,
        "round_school": RoundSchool,
        "spot": lambda spot: Spot(**spot),
        "stages": lambda _: _stages(stages) if stages else None,
    }
    return Care(**{k: shaped[k](v) if k in shaped else v for k, v in plain.items()})


def _stages(plain: list[dict[str, Any]]) -> tuple[Stage, ...]:
    return tuple(Stage(s["name"], Part(s["part"]), s["k"], s["t0"]) for s in plain)
