"""Is it as sure as it says? Drawn many times: how often the interval holds what was drawn."""

import math
import random

import pytest

from temper_core.entries import JobOpened, Route
from temper_core.glycol import Glycol, freeze_point
from temper_core.glycol.interval import freeze_interval
from temper_core.quantity import MassFraction
from temper_core.readings import Place, Read
from tests.core.test_ledger import HOT, RINSE, Book, planned, weighed

DRAWS = 400


def fair(hits, draws=DRAWS, chance=0.95):
    """Within three standard deviations of a binomial count, on the unsafe side only."""
    return hits >= draws * chance - 3 * math.sqrt(draws * chance * (1 - chance))


@pytest.mark.parametrize(("glycol", "w", "sd"), [(Glycol.ETHYLENE, 0.5, 0.02), (Glycol.PROPYLENE, 0.42, 0.03)])
def test_a_freeze_interval_holds_the_strength_that_was_drawn(glycol, w, sd):
    rng, held = random.Random(11), 0
    interval = freeze_interval(glycol, w, sd, with_curve=False)
    for _ in range(DRAWS):
        point = freeze_point(glycol, MassFraction(min(1.0, max(0.0, rng.gauss(w, sd)))))
        held += interval.low - 1e-9 <= point.at_most_c <= interval.high + 1e-9
    assert fair(held)


def test_the_safe_end_holds_when_either_handbook_is_right():
    """The truth drawn anywhere between the two curves, warmer than the one the figures are from."""
    from temper_core.glycol import curve_doubt_k

    rng, held = random.Random(12), 0
    interval = freeze_interval(Glycol.ETHYLENE, 0.52, 0.015, with_curve=True)
    for _ in range(DRAWS):
        w = rng.gauss(0.52, 0.015)
        truth = freeze_point(Glycol.ETHYLENE, MassFraction(w)).at_most_c + rng.uniform(0, curve_doubt_k(Glycol.ETHYLENE, w))
        held += truth <= interval.high
    assert fair(held, chance=0.975)


@pytest.mark.parametrize("w", [0.78, 0.79, 0.6])
def test_the_cold_end_is_open_where_nobody_tabulates(w):
    interval = freeze_interval(Glycol.ETHYLENE, w, 0.05, with_curve=True)
    assert interval.low <= -50.0


def test_the_doubt_of_several_drains_is_not_smaller_than_one():
    """Litres weighed in several goes err together or apart, never less than the largest of them."""
    once = Book()
    once.add(JobOpened(Route.CHANGE_OUT), Read(-19.0, Place.AS_FOUND), planned(), weighed(24.5))
    first = once.state.inside.sd_l
    twice = Book()
    twice.add(JobOpened(Route.CHANGE_OUT), Read(-19.0, Place.AS_FOUND), planned(), weighed(12.0), weighed(12.5))
    assert twice.state.inside.sd_l > 0.5 * first
    again = once.add(RINSE, HOT, weighed(24.5)).inside
    assert again.sd_l > 0
    assert again.old_percent == pytest.approx(100 * (7.5 / 32) ** 2 * 32 / 7.5, rel=0.2)
