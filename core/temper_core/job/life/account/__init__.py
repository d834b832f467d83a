"""The litre account of a loop: what went in, where its level stood, what it loses, and how that goes."""
