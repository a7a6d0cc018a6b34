"""What all schemas are made of."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
# The rules that a person can break are checked in the core, with words for a person; the
# limits here only keep nonsense out.
Text = Annotated[str, StringConstraints(max_length=4000)]
Number = Annotated[float, Field(allow_inf_nan=False)]
Day = Annotated[int, Field(ge=-10_000, le=10_000)]


class In(BaseModel):
    """A request body: unknown fields are refused, so that a misspelt one is not lost."""

    model_config = ConfigDict(extra="forbid")


class Out(BaseModel):
    """A response body, read from the core's dataclasses."""

    model_config = ConfigDict(from_attributes=True)
