"""Use cases: load, ask the core, save. They own transactions, the clock and seeds."""
