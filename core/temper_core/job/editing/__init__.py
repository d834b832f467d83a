"""An entry of the open job is edited: its form, what may be changed, and what follows from it."""
