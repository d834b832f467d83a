"""Verify: what the readings say, and what to do about it."""
