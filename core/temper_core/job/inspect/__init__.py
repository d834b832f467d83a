"""Inspect: what was found, and which type of job it speaks for."""
