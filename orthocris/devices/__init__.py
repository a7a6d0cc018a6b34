"""Outside devices: one small interface each, and stand-ins that implement it."""
