"""Tests of played trials over HTTP."""
