"""The job and its arithmetic: pure, no file, clock, network or global random state."""

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
