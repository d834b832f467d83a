"""The practice bench: a machine whose truth is known answers each act of a hand; at the end both stand side by side."""
