"""Is it as sure as it says? Drawn many times: how often the interval holds what was drawn."""

import math
import random

import pytest

from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.basis.uncertainty import Z95
from temper_core.calculate.weighing import MeasureQuestion, measure
from temper_core.instruments import ReadingQuestion, Scale, repeats
from temper_core.instruments.scales import mark
from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import JobOpened
from temper_core.job.job_types import JobType
from temper_core.job.read.facts import Place, Read
from temper_core.science import Glycol, density_20c, freeze_point, mass_fraction_of
from temper_core.science.interval import freeze_interval
from tests.core.test_ledger import HOT, RINSE, Book, a_loop, planned, weighed

DRAWS = 400
GLASS_SCALE = Scale.FREEZE_ETHYLENE


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
    from temper_core.science import curve_doubt_k

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


@pytest.mark.parametrize(("first", "then"), [(Measured.GUESSED, Measured.WEIGHED), (Measured.WEIGHED, Measured.GUESSED)])
def test_the_doubt_of_a_guess_stays_when_a_little_is_weighed_after_it(first, then):
    """Drawn: each drain off by the standard deviation of its own way, one after the other, and the capacity by its own."""
    book = Book(a_loop(capacity_sd_l=0.3))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
    told = ((10.0, first), (0.5, then))
    state = book.add(*(Drained(litres, way) for litres, way in told))
    rng, held, policy = random.Random(13), 0, Policy()
    for _ in range(DRAWS):
        out = sum(litres * rng.gauss(1.0, policy[f"drained_sd_{way.value}"] / 100) for litres, way in told)
        inside = rng.gauss(32.0, 0.3) - out
        held += abs(inside - state.inside.litres) <= Z95 * state.inside.sd_l
    assert fair(held)


@pytest.mark.parametrize("glycol", list(Glycol))
def test_weighing_what_nobody_read_the_strength_of_holds_whatever_it_is(glycol):
    """Drawn: any strength from water to 60 %, weighed; the density is that of the mixture."""
    rng, held = random.Random(14), 0
    for _ in range(DRAWS):
        litres, percent = rng.uniform(2, 30), VolumePercent(rng.uniform(0, 60))
        kg = litres * density_20c(glycol, mass_fraction_of(glycol, percent)) / 1000
        shown = kg * rng.gauss(1.0, Policy()["drained_sd_weighed"] / 100)
        found = measure(MeasureQuestion(glycol, None, gross_kg=shown))
        held += abs(litres - found.litres) <= Z95 * found.sd_l
    assert fair(held)


@pytest.mark.parametrize("times", [1, 3, 6])
def test_repeats_at_one_line_hold_the_strength_however_often_it_is_read(times):
    """Drawn: a glass off by less than its division, its zero and its line read to whole kelvins."""
    rng, held = random.Random(15), 0
    for _ in range(DRAWS):
        w, off = MassFraction(rng.uniform(0.25, 0.55)), rng.uniform(-0.5, 0.5)
        truth = freeze_point(Glycol.ETHYLENE, w).at_most_c
        seen = mark(GLASS_SCALE, truth) + mark(GLASS_SCALE, off) - mark(GLASS_SCALE, 0.0)
        line = min(range(-50, 1), key=lambda c: abs(mark(GLASS_SCALE, c) - seen))
        question = ReadingQuestion(Glycol.ETHYLENE, GLASS_SCALE, line, zero=0.0, resolution=1.0)
        likely = repeats([question] * times).likely
        held += likely.low - 1e-9 <= truth <= likely.high + 1e-9
    assert fair(held)


@pytest.mark.parametrize(("low", "high"), [(0.01, 0.06), (0.54, 0.585)])
def test_at_the_end_of_a_scale_the_interval_is_neither_nothing_nor_half(low, high):
    """Drawn: strengths close to water, and close to the last line that is engraved."""
    rng, held, read_at_all = random.Random(16), 0, 0
    for _ in range(DRAWS):
        w = MassFraction(rng.uniform(low, high))
        truth = freeze_point(Glycol.ETHYLENE, w).at_most_c
        question = ReadingQuestion(Glycol.ETHYLENE, GLASS_SCALE, max(-50.0, round(truth)), zero=0.0)
        answer = repeats([question])
        if answer is None or answer.likely is None:
            continue
        read_at_all += 1
        assert answer.likely.high - answer.likely.low >= 0.5
        held += answer.likely.low - 1e-9 <= truth <= answer.likely.high + 1e-9
    assert read_at_all >= DRAWS / 4
    assert fair(held, read_at_all)


def test_where_nobody_tabulates_neither_end_is_claimed():
    """Ethylene from 78.2 to 80 % by mass freezes above -50 again by some tables: cold end open, warm end holds."""
    rng, held = random.Random(17), 0
    for _ in range(DRAWS):
        w = rng.uniform(0.782, 0.80)
        interval = freeze_interval(Glycol.ETHYLENE, rng.gauss(w, 0.01), 0.01, with_curve=False)
        point = freeze_point(Glycol.ETHYLENE, MassFraction(w))
        assert point.freeze_c is None or interval.low <= point.freeze_c
        held += interval.low - 1e-9 <= point.at_most_c <= interval.high + 1e-9
    assert fair(held)


def test_the_doubt_of_several_drains_is_not_smaller_than_one():
    """Litres weighed in several goes err together or apart, never less than the largest of them."""
    once = Book()
    once.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), weighed(24.5))
    first = once.state.inside.sd_l
    twice = Book()
    twice.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), weighed(12.0), weighed(12.5))
    assert twice.state.inside.sd_l > 0.5 * first
    again = once.add(RINSE, HOT, weighed(24.5)).inside
    assert again.sd_l > 0
    assert again.old_percent == pytest.approx(100 * (7.5 / 32) ** 2 * 32 / 7.5, rel=0.2)
