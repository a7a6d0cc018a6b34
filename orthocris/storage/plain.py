"""Setups and traits to JSON and back."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from orthocris.core.setup import DesignKind, Gradient, Kind, Setup, Unit
from orthocris.core.trial import Amount, Traits


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
