"""The year of the garden over HTTP."""
