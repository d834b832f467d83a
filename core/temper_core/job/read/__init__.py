"""Readings of strength: as found, of a rinse, of the finished loop, between services, from a list."""
