"""Tests of played trials."""
