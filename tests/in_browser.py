"""A plugin for the core's tests in the browser's own Python, where nothing compiled for another machine can be imported.

A module that compares with a reference library is skipped whole, and so is a test of made-up examples (hypothesis is
compiled too); both run in the server's Python. What is left asks the very files that a tablet computes with.
"""

import sys
import types

import pytest

COMPILED = frozenset({"numpy", "scipy", "CoolProp", "chemicals", "fluids", "iapws", "pint", "SecondaryCoolantProps"})


class NotHere:
    """A finder that skips whoever asks for a compiled library, or for the true worlds, which no tablet plays."""

    def find_spec(self, name, path=None, target=None):
        """Skip by the name of the package."""
        if name.partition(".")[0] in COMPILED or name in ("temper_core.simulate", "temper_core.practice"):
            pytest.skip(f"{name} is not in a tablet's Python", allow_module_level=True)


class Anything:
    """Whatever a module asks of hypothesis while it is imported."""

    def __getattr__(self, name):
        return self

    def __call__(self, *args, **kwargs):
        return self

    def __or__(self, other):
        return self

    __ror__ = __or__


def given(*args, **kwargs):
    """A test of made-up examples is skipped."""

    def skipped():
        pytest.skip("made-up examples run in the server's Python")

    return lambda test: skipped


def as_it_is(*args, **kwargs):
    """Settings and examples of a test that is skipped."""
    return lambda test: test


sys.meta_path.insert(0, NotHere())
hypothesis = types.ModuleType("hypothesis")
for name, stands in {"given": given, "settings": as_it_is, "example": as_it_is}.items():
    setattr(hypothesis, name, stands)
hypothesis.__getattr__ = lambda name: Anything()
sys.modules |= {"hypothesis": hypothesis, "hypothesis.strategies": Anything()}
