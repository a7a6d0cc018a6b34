"""How often the verdict keeps its promises: simulated gardens with a known truth."""
