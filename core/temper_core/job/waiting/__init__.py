"""Clocks, pauses and cooling."""
