"""Played trials over HTTP."""
