"""What all schemas are made of."""

from __future__ import annotations

import unicodedata
from datetime import date
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    StringConstraints,
    ValidationInfo,
    field_validator,
)
from pydantic_core import PydanticCustomError

Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
# The rules that a person can break are checked in the core, with words for a person; the
# limits here only keep nonsense out.
Text = Annotated[str, StringConstraints(max_length=4000)]
Real = Annotated[float, Field(allow_inf_nan=False)]
Day = Annotated[int, Field(ge=-10_000, le=10_000)]
Moment = Annotated[Real, Field(ge=-10_000, le=10_000)]  # days, in whole hours


def _of_our_times(day: date) -> date:
    """Days near the ends of the calendar cannot be counted on from."""
    if not 1900 <= day.year <= 2999:
        raise PydanticCustomError("far_date", "the year is not one of 1900 to 2999")
    return day


Date = Annotated[date, AfterValidator(_of_our_times)]
Instant = Annotated[AwareDatetime, AfterValidator(_of_our_times)]

# Texts that may have several lines; every other text is one line.
SEVERAL_LINES = frozenset({"recipe", "text", "compare_with", "note", "said"})


class In(BaseModel):
    """A request body: unknown fields are refused, so that a misspelt one is not lost.

    Signs that cannot be seen (a zero byte, an escape) are refused in every text, and line ends
    in a text of one line: files, calendars and prints made of it would break.
    """

    model_config = ConfigDict(extra="forbid")

    @field_validator("*", mode="before")
    @classmethod
    def _only_signs_that_can_be_seen(cls, value: Any, info: ValidationInfo) -> Any:
        return _seen(value, several_lines=info.field_name in SEVERAL_LINES)


def _seen(value: Any, *, several_lines: bool) -> Any:
    """Check a text or a list of texts; parts that are models of their own check themselves."""
    if isinstance(value, list):
        return [_seen(item, several_lines=several_lines) for item in value]
    if not isinstance(value, str):
        return value
    text = value.replace("\r\n", "\n").replace("\t", " ") if several_lines else value
    allowed = "\n" if several_lines else ""
    if any(unicodedata.category(sign) == "Cc" and sign not in allowed for sign in text):
        what = "signs that cannot be seen" if several_lines else "line ends or unseen signs"
        raise PydanticCustomError("control_character", f"the text holds {what}")
    return text


class Out(BaseModel):
    """A response body, read from the core's dataclasses."""

    model_config = ConfigDict(from_attributes=True)


Line = Annotated[str, BeforeValidator(lambda value: _seen(value, several_lines=False))]
