"""Errors, messages, quantities and units, uncertainty, policy: what every other layer is made of."""
