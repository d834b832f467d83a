"""Litres out of a loop: by weight against CoolProp, by marks, from one vessel, and more than there is."""

import math

import pytest
from CoolProp.CoolProp import PropsSI

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import JobOpened
from temper_core.job.job_types import JobType
from temper_core.job.read.facts import Place, Read
from tests.core.test_ledger import Book, a_loop, planned, weighed
from tests.core.test_rounds import PIPED


def test_litres_by_weight_at_two_drains_are_kilograms_over_density():
    """Against CoolProp's density of the coolant as found, measured mixtures (INCOMP::MEG)."""
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-36.0, Place.AS_FOUND), planned())
    state = book.add(Drained(caught=(Caught("A", gross_kg=17.3, tare_kg=1.3), Caught("B", gross_kg=10.0, tare_kg=1.3))))
    density = PropsSI("D", "T", 293.15, "P", 101325, "INCOMP::MEG-50%") / 1000
    assert state.drained_l == pytest.approx((16.0 + 8.7) / density, rel=0.01)
    held = {row.id: row.litres for row in state.vessels}
    assert held["tank"] == pytest.approx(0, abs=0.3)  # drain A reaches it
    assert held["heater"] > 1.5
    # the scale, and what a strength known to 1.5 % by volume leaves open of the density
    light, heavy = (PropsSI("D", "T", 293.15, "P", 101325, f"INCOMP::MEG-{percent}%") / 1000 for percent in (45, 55))
    told = Policy()["inside_sd_unread"] * (heavy - light) / 10 / density * (16 + 8.7)  # it was told, not read
    shared, own = (share * 0.007 for share in (0.8, 0.6))  # of one scale in both, and of each
    scale = math.hypot(shared * (16 + 8.7), own * math.hypot(16, 8.7))
    level = Policy()["level_sd_unseen"] / 100 * 32 * density
    assert state.spread.drained_l == pytest.approx(math.hypot(scale, told, level) / density, rel=0.05)


def test_marks_on_a_warm_jug_are_fewer_litres_at_20_degrees():
    """Common practice, no source: 24.5 l at 45 degC are 24.2 l at 20 degC."""
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-36.0, Place.AS_FOUND), planned())
    assert book.add(Drained(caught=(Caught(marks_l=24.5, at_c=45),))).drained_l == pytest.approx(24.2, abs=0.06)


def test_what_one_vessel_gave_comes_out_of_that_vessel_and_a_spill_counts():
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), planned())
    state = book.add(Drained(caught=(Caught("heater", marks_l=2.0, spilled_l=0.2), Caught(marks_l=10.0))))
    assert {row.id: row.litres for row in state.vessels}["heater"] == pytest.approx(0.2, abs=0.02)
    assert state.drained_l == pytest.approx(12.2, abs=0.02)


def test_it_ran_freely_with_the_cap_on_asks_for_a_leak():
    book = Book()
    state = book.add(JobOpened(JobType.REFILL), planned(), weighed(20, ran_with_cap_on=True))
    assert "ran_with_cap_on" in {flag.code for flag in state.flags}


@pytest.mark.parametrize("where", ["", "B"])
def test_weights_beyond_what_is_inside_are_questioned_never_clamped(where):
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), planned())
    with pytest.raises(CoreError, match="Check the litres, or ask a lead"):
        book.add(Drained(caught=(Caught("A", gross_kg=17), Caught(where, gross_kg=180))))
