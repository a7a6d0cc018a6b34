"""Layouts that the lot could have drawn, as they are kept with a trial."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DrawnLayouts:
    """Ids of the plants, and layout by layout the index of each plant's remedy, one byte each."""

    plants: tuple[int, ...]
    packed: bytes
