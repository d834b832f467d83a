"""Families, bases, products, agents, water: what they are and what goes with what."""
