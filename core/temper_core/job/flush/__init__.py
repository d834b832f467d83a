"""Flush: rounds, rinses, cleaner, and when it is enough."""
