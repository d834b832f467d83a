"""Parking: where a machine is left while nobody works on it, and whether it can freeze there tonight."""
