"""Parking: where a machine stands while nobody works on it, and whether it can freeze there tonight."""
