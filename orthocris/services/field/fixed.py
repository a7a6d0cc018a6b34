"""What the first spray fixes."""

from __future__ import annotations

from orthocris.core.errors import ConflictError
from orthocris.core.trial.trial import Trial


def check_not_sprayed(trial: Trial, message: str, *, code: str, fix: str) -> None:
    """Refuse, in the words given, what must not change once the first plant was sprayed."""
    if trial.sprayed_on is not None:
        raise ConflictError(message, code=code, fix=fix)
