"""Simulated instruments that ship with the demo."""
