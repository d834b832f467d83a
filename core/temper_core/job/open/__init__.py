"""Open: the safe-to-open check."""
