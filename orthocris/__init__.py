"""Orthocris: side-by-side trials of home remedies, judged properly."""

__version__ = "0.3.0"
