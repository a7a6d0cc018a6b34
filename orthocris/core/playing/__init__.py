"""A plan played through on simulated plants, with a truth that is drawn and sealed."""
