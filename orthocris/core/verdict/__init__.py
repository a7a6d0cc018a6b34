"""Observations to estimates to decision to words; `judge` conducts them."""
