"""The next figure of a machine from few jobs, its own and its sisters': against scipy and simulated machines."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import linalg, stats

from temper_core.basis.errors import CoreError
from temper_core.calculate import pooling
from temper_core.calculate.pooling import pooled

FIGURES = st.lists(st.floats(0.2, 0.9), max_size=6)


@given(st.lists(st.floats(0.2, 0.9), min_size=3, max_size=12))
def test_one_machine_with_no_usual_spread_is_students_prediction(own):
    """scipy.stats.t: mean and prediction interval of the next of n figures, where the usual spread weighs nothing."""
    if np.ptp(own) < 1e-3:
        return
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(pooling, "USUAL_COUNTS", 0)
        found = pooled(own, [], 0.03, 0.03)
    sd = np.std(own, ddof=1) * math.sqrt(1 + 1 / len(own))
    low, high = stats.t.interval(0.95, len(own) - 1, np.mean(own), sd)
    assert found.value == pytest.approx(np.mean(own))
    near = 2e-3 * (high - low)  # the quantile has four figures
    assert (found.likely.low, found.likely.high) == (pytest.approx(low, abs=near), pytest.approx(high, abs=near))


@pytest.mark.parametrize("jobs", [0, 1, 2, 4])
@pytest.mark.parametrize("sisters", [0, 1, 3])
@pytest.mark.parametrize("spread", [0.5, 1.0, 2.0])
@pytest.mark.parametrize("apart", [0.3, 1.0, 2.0])
def test_the_next_job_lies_within_its_interval(jobs, sisters, spread, apart):
    """2,000 fleets of simulated machines: spreads half to twice the usual ones, machines alike or apart."""
    if jobs + 2 * sisters < 2 or (jobs < 2 and sisters < 2 and apart > 1.0):
        pytest.skip("nothing, or one sister alone that nobody can know to be unlike")
    rng, usual = np.random.default_rng(7 + jobs + 10 * sisters), 0.03
    inside, count = 0, 2000
    for _ in range(count):
        means = rng.normal(0.7, apart * usual, 1 + sisters)
        own = rng.normal(means[0], spread * usual, jobs)
        others = [rng.normal(mean, spread * usual, 2) for mean in means[1:]]
        found = pooled(list(own), [list(rows) for rows in others], usual, usual)
        inside += found.likely.low <= rng.normal(means[0], spread * usual) <= found.likely.high
    assert inside / count >= (0.93 if spread <= 1.0 and apart <= 1.0 else 0.86)


@given(FIGURES, st.lists(FIGURES, max_size=3))
def test_more_jobs_never_make_it_lie_outside_what_was_seen(own, sisters):
    found = pooled(own, sisters, 0.03, 0.03)
    every = [value for rows in (own, *sisters) for value in rows]
    if len(every) < 2:
        assert found is None
        return
    assert min(every) - 1e-9 <= found.value <= max(every) + 1e-9
    assert found.likely.low < found.value < found.likely.high
    assert (found.figures, found.own, found.sisters) == (len(every), len(own), sum(1 for rows in sisters if rows))


def test_own_jobs_outweigh_sisters_as_they_grow():
    own, sisters = [0.6], [[0.8, 0.8, 0.8]]
    few = pooled(own, sisters, 0.03, 0.03).value
    many = pooled(own * 8, sisters, 0.03, 0.03).value
    assert 0.6 < many < few < 0.8


@pytest.mark.parametrize(("own", "usual", "apart"), [([0.7, math.nan], 0.03, 0.03), ([0.7], 0.0, 0.03), ([0.7], 0.03, -1)])
def test_what_cannot_be_is_refused(own, usual, apart):
    with pytest.raises(CoreError):
        pooled(own, [], usual, apart)


@given(
    st.lists(st.floats(0.3, 0.9), max_size=5),
    st.lists(st.lists(st.floats(0.3, 0.9), min_size=1, max_size=4), max_size=3),
    st.floats(0.005, 0.1),
    st.floats(0.005, 0.1),
)
def test_with_known_spreads_it_is_the_best_linear_prediction(own, sisters, within, between):
    """The hierarchical model solved whole by scipy.linalg: one unknown mean, machines about it, jobs about their machine."""
    every = [(0, value) for value in own] + [(n + 1, value) for n, rows in enumerate(sisters) for value in rows]
    if len(every) < 2:
        return
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(pooling, "USUAL_COUNTS", 10**12)
        found = pooled(own, sisters, within, between)
    machine, values = np.array([row[0] for row in every]), np.array([row[1] for row in every])
    cover = within**2 * np.eye(len(values)) + between**2 * (machine[:, None] == machine[None, :])
    mine = between**2 * (machine == 0)
    ones = np.ones(len(values))
    solved = linalg.solve(cover, np.column_stack([ones, values, mine]), assume_a="pos")
    mean = (ones @ solved[:, 1]) / (ones @ solved[:, 0])
    value = mean + mine @ (solved[:, 1] - mean * solved[:, 0])
    slack = (1 - ones @ solved[:, 2]) ** 2 / (ones @ solved[:, 0])
    variance = within**2 + between**2 - mine @ solved[:, 2] + slack
    assert found.value == pytest.approx(value, rel=1e-5)
    assert found.sd == pytest.approx(np.sqrt(variance), rel=1e-4)
