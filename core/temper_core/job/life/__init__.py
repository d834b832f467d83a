"""How long a filling lasts, and how old it is."""
