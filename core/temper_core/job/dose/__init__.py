"""Dose: an additive by what the strips said, circulated, and strips again."""
