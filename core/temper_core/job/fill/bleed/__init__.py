"""The guided bleed: how it runs, what it does to the fluid inside, how it shows."""
