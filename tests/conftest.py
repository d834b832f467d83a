"""Shared by all tests."""

from hypothesis import settings

# The machine is shared and noisy: how long one example takes is no finding. Failures repeat from the printed seed.
settings.register_profile("temper", deadline=None, max_examples=100, derandomize=True)
settings.load_profile("temper")
