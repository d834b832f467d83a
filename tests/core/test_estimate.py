"""Prediction and reading of one share: when they are apart, and that a bound is never a measurement."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.calculate.flush.estimate import Share, Source, bounded, corrected


def test_below_detection_only_bounds_and_never_becomes_zero():
    stands = bounded(Share(1.3, 0.2), Share(1.29, 0.19), 2.0, 2.0)
    brought_down = bounded(Share(6.0, 0.5), Share(2.4, 0.3), 2.0, 2.0)
    assert (stands.share, stands.source, stands.apart) == (Share(1.3, 0.2), Source.BOUNDED, False)
    assert (brought_down.share, brought_down.apart) == (Share(2.0, 0.3), True)


@given(st.floats(0.1, 90), st.floats(0, 20), st.floats(0.1, 10))
def test_a_bound_only_ever_brings_it_down(p, sp, bound):
    found = bounded(Share(p, sp), Share(p, sp), bound, 2.0)
    assert 0 < found.share.percent == min(p, bound)
    assert found.source is Source.BOUNDED


def test_what_is_further_apart_than_chance_is_said():
    assert corrected(Share(5, 0), Share(7, 0), Share(6, 0), 2.0).apart
    assert not corrected(Share(5, 0.6), Share(7, 0.8), Share(6, 0.5), 2.0).apart  # hypot(0.6, 0.8) is 1: twice it
    assert corrected(Share(5, 0.6), Share(7.01, 0.8), Share(6, 0.5), 2.0).apart


@pytest.mark.parametrize("given_", [(-1, 1), (5, -1), (float("nan"), 1)])
def test_shares_that_cannot_be_are_refused(given_):
    with pytest.raises(CoreError):
        Share(*given_)
