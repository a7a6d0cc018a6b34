"""Years of the garden: its journal, what is expected when, and what is next."""
