"""Identify: what is reported of a filling."""
