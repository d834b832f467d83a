"""The first days of a fill: air comes out as much as was inside; more than that is a leak, by the account's own doubt."""

from datetime import datetime, timedelta

import numpy as np
import pytest

from temper_core.basis.policy import Policy
from temper_core.job.between.facts import LevelSeen
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.life.account.losing import suspected
from temper_core.job.life.account.movement import Movement
from temper_core.job.life.account.settling import settling_of
from temper_core.job.verify.facts import FinishChecked, FinishPoint, Level, SignedOff
from tests.core.test_ledger import HOT, NEW, Book, planned, pour, read, weighed

DAY, START, POLICY = timedelta(days=1), datetime(2026, 11, 1), Policy()


def fill(trapped_l=0.4, sd=0.2):
    return Movement(START, missing_l=0.0, sd_l=0.1, trapped_l=trapped_l, trapped_sd_l=sd)


def top_up(days, litres):
    return Movement(START + days * DAY, in_l=litres, missing_l=0.0, sd_l=0.1)


def test_what_the_air_explains_is_settling():
    found = settling_of([fill(), top_up(1, 0.3), top_up(3, 0.1)], POLICY)
    assert (found.gone_l, found.over_l) == (pytest.approx(0.4), pytest.approx(0.0))
    assert not found.more_than_air
    assert "Settling: 0.4 L went in" in found.said.sentence


def test_more_than_the_air_is_a_leak_before_three_looks_are_there():
    """1.6 - 0.4 = 1.2 l over; sd = sqrt(0.2^2 + 2 x 0.1^2 + (0.03 x 1.6)^2) = 0.25, a half-width of 0.49."""
    found = settling_of([fill(), top_up(2, 1.6)], POLICY)
    assert found.over_l == pytest.approx(1.2)
    assert found.half_l == pytest.approx(1.96 * (0.2**2 + 2 * 0.1**2 + (0.03 * 1.6) ** 2) ** 0.5, rel=1e-3)
    assert found.more_than_air
    assert "more than air explains" in found.said.sentence


def test_what_is_missing_and_not_made_good_counts_too_and_a_spill_does_not():
    low = Movement(START + 2 * DAY, missing_l=1.6, sd_l=0.15)
    assert settling_of([fill(), low], POLICY).more_than_air
    spilled = Movement(START + DAY, out_l=1.2)
    assert not settling_of([fill(), spilled, top_up(2, 1.6)], POLICY).more_than_air


def test_what_goes_in_on_the_evening_of_the_fill_counts():
    evening = Movement(START + timedelta(hours=5), in_l=1.6, missing_l=0.0, sd_l=0.1)
    assert settling_of([fill(), evening], POLICY).more_than_air
    assert settling_of([fill(), evening, top_up(2, 0.1)], POLICY).gone_l == pytest.approx(1.7)


def test_later_looks_do_not_count_as_settling():
    found = settling_of([fill(), top_up(1, 0.3), top_up(20, 0.0), top_up(60, 2.0)], POLICY)
    assert found.gone_l == pytest.approx(0.3)


@pytest.mark.parametrize(
    "movements", [[], [fill()], [Movement(START, missing_l=0.0), top_up(1, 2.0)], [fill(), Movement(START + DAY, 1.0)]]
)
def test_nothing_is_said_before_a_look_or_where_the_air_is_unknown(movements):
    assert settling_of(movements, POLICY) is None


def test_sound_fills_are_left_alone_and_a_litre_lost_is_found():
    """2,000 simulated fills: the air by its doubt, each look and each jug by its own."""
    rng, false, found = np.random.default_rng(3), 0, 0
    for _ in range(2000):
        sd, told = rng.uniform(0.1, 0.3), rng.uniform(0, 0.8)
        truth = max(0.0, rng.normal(told, sd))
        parts = rng.dirichlet((1, 1)) * truth
        for lost in (0.0, 1.5):
            rows, start = [fill(told, sd)], rng.normal(0, 0.1)
            after_one = start + parts[0] + lost / 2
            rows.append(Movement(START + DAY, missing_l=max(0.0, after_one + rng.normal(0, 0.1)), sd_l=0.1))
            rows.append(Movement(START + 3 * DAY, missing_l=max(0.0, start + truth + lost + rng.normal(0, 0.1)), sd_l=0.1))
            more = settling_of(rows, POLICY).more_than_air
            false, found = (false + more, found) if lost == 0.0 else (false, found + more)
    assert false / 2000 <= 0.01
    assert found / 2000 >= 0.95


def test_a_signed_fill_hands_its_air_to_the_account():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), weighed(24.0), planned(-45.0, concentrate_l=17.6, water_l=6.4))
    book.add(pour(NEW, 17.0, 6.0, at_mark=True), HOT, read(-46.0), read(-46.0), read(-46.0))
    book.add(FinishChecked(Level.AT_MARK, 20.0, None, "no tool", tuple(FinishPoint)))
    book.add(SignedOff(book.state.proof.verdict.value, "as read"))
    t = walk(book.loop, book.entries, POLICY)
    assert 1.0 < t.life.movements[0].trapped_l < 1.4  # 24 out, 17 + 6 in, which shrink by some 0.3 as they mix
    at = book.entries[-1].happened_at + 2 * DAY
    low = [*book.entries, Entry("low", None, at, at, "IH", LevelSeen(Level.LOW, missing_l=6.0))]
    said = suspected(walk(book.loop, low, POLICY))
    assert said is not None
    assert "more than air explains" in said.sentence
    assert fold(book.loop, low, now=at + DAY).after.rechecks[-1].said.sentence == said.sentence
