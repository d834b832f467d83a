"""Fill: refit and tighten, pour, bleed."""
