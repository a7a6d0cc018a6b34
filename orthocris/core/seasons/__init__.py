"""Years of a garden: what was seen when, when it is expected again, and when to begin."""
