"""Between services: level checks, what comes due."""
