"""The job and its arithmetic: pure, no file, clock, network or global random state.

The names below are imported when they are first used, for the judge needs much of scipy.
"""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from orthocris.core.errors import InputError, ObservationError, OrthocrisError
    from orthocris.core.verdict.judge import judge
    from orthocris.core.verdict.observation import Observation
    from orthocris.core.verdict.result import Outcome, Verdict

__all__ = [
    "InputError",
    "Observation",
    "ObservationError",
    "OrthocrisError",
    "Outcome",
    "Verdict",
    "judge",
]
_HOMES = {
    "InputError": "errors",
    "Observation": "verdict.observation",
    "ObservationError": "errors",
    "OrthocrisError": "errors",
    "Outcome": "verdict.result",
    "Verdict": "verdict.result",
    "judge": "verdict.judge",
}


def __getattr__(name: str) -> Any:
    """Import a name of this package at its first use (PEP 562)."""
    if name not in _HOMES:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"orthocris.core.{_HOMES[name]}"), name)
