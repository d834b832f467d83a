"""Drain: litres out, by weight, marks or as reported."""
