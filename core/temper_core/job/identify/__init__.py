"""Identify: what is told of a filling."""
