"""Prediction and reading of one share together, against Bayes on a grid; a bound is never a measurement."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from temper_core.basis.errors import CoreError
from temper_core.calculate.flush.estimate import Share, Source, bounded, corrected


@pytest.mark.parametrize(("p", "sp", "r", "sr"), [(5.5, 0.6, 7.0, 0.8), (20, 3, 12, 1), (2, 0.5, 2.1, 0.1)])
def test_prediction_and_reading_combine_as_bayes_says(p, sp, r, sr):
    """Against the product of the two normal densities on a grid (SciPy)."""
    grid = np.linspace(-20, 60, 400_001)
    weight = stats.norm.pdf(grid, p, sp) * stats.norm.pdf(grid, r, sr)
    weight /= weight.sum()
    mean = float((grid * weight).sum())
    sd = float(math.sqrt(((grid - mean) ** 2 * weight).sum()))
    found = corrected(Share(p, sp), Share(r, sr), 2.0).share
    assert (found.percent, found.sd_percent) == (pytest.approx(mean, rel=1e-6), pytest.approx(sd, rel=1e-5))


def test_below_detection_only_bounds_and_never_becomes_zero():
    stands, brought_down = bounded(Share(1.3, 0.2), 2.0, 2.0), bounded(Share(6.0, 0.5), 2.0, 2.0)
    assert (stands.share, stands.source, stands.apart) == (Share(1.3, 0.2), Source.BOUNDED, False)
    assert (brought_down.share.percent, brought_down.apart) == (2.0, True)


@given(st.floats(0.1, 90), st.floats(0.05, 20), st.floats(0.1, 90), st.floats(0.05, 20))
def test_together_they_lie_between_and_are_surer_than_either(p, sp, r, sr):
    found = corrected(Share(p, sp), Share(r, sr), 2.0).share
    assert min(p, r) - 1e-9 <= found.percent <= max(p, r) + 1e-9
    assert found.sd_percent <= min(sp, sr) + 1e-12


@given(st.floats(0.1, 90), st.floats(0, 20), st.floats(0.1, 10))
def test_a_bound_only_ever_brings_it_down(p, sp, bound):
    found = bounded(Share(p, sp), bound, 2.0)
    assert 0 < found.share.percent == min(p, bound)
    assert found.source is Source.BOUNDED


def test_two_certain_figures_take_the_reading_and_say_that_they_are_apart():
    assert corrected(Share(5, 0), Share(7, 0), 2.0).share == Share(7, 0)
    assert corrected(Share(5, 0), Share(7, 0), 2.0).apart


@pytest.mark.parametrize("given_", [(-1, 1), (5, -1), (float("nan"), 1)])
def test_shares_that_cannot_be_are_refused(given_):
    with pytest.raises(CoreError):
        Share(*given_)
