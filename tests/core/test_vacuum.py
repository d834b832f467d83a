"""Vacuum filling against reference libraries: altitude, vapour pressure, the air that stays, the hold."""

import pytest
from fluids.atmosphere import ATMOSPHERE_1976
from hypothesis import given
from hypothesis import strategies as st
from iapws._iapws import _Sublimation_Pressure
from iapws.iapws97 import _PSat_T

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.calculate.vacuum import Held, VacuumQuestion, vacuum


def ask(**changes):
    """The groomer, drained, at the sea, 25 inHg, in a cool bay."""
    given_ = {"empty_volume_l": 24.5, "altitude_m": 0.0, "vacuum_kpa": 85.0, "loop_c": 15.0}
    return VacuumQuestion(**(given_ | changes))


@pytest.mark.parametrize("altitude", [0, 500, 1120, 2500, 5000])
def test_ambient_is_the_standard_atmosphere(altitude):
    """Against fluids' US Standard Atmosphere 1976."""
    answer = vacuum(ask(altitude_m=altitude, vacuum_kpa=40))
    assert answer.ambient_kpa == pytest.approx(ATMOSPHERE_1976(altitude).P / 1000, rel=1e-3)


@pytest.mark.parametrize("loop_c", [5, 20, 40, 55])
def test_what_a_pump_reaches_ends_at_its_floor_or_where_the_fluid_boils(loop_c):
    """Against the saturation line of IAPWS-IF97."""
    floor = max(15.0, 1000 * _PSat_T(loop_c + 273.15))
    assert vacuum(ask(loop_c=loop_c)).reachable_kpa == pytest.approx(101.325 - floor, rel=1e-3)


def test_a_warm_loop_reaches_less():
    """At 60 degC water boils at 19.9 kPa (IAPWS-IF97), above the pump's floor."""
    assert vacuum(ask(loop_c=60)).reachable_kpa == pytest.approx(101.325 - 1000 * _PSat_T(333.15), rel=1e-3)
    assert vacuum(ask(loop_c=60)).reachable_kpa < vacuum(ask(loop_c=20)).reachable_kpa


def test_a_frozen_bay_counts_as_the_triple_point_and_the_pumps_floor_rules():
    assert 1000 * _Sublimation_Pressure(263.15) < 1.0  # nowhere near the floor
    assert vacuum(ask(loop_c=-10)).reachable_kpa == pytest.approx(86.325, abs=0.001)


@pytest.mark.parametrize(("inches", "kpa"), [(24, 81), (26, 88)])
def test_inches_of_mercury_of_the_trade_are_these_kilopascals(inches, kpa):
    """Common practice quotes 24 to 26 inHg; 1 inHg is 3.386 kPa (NIST SP 811)."""
    assert inches * 3.386389 == pytest.approx(kpa, abs=0.3)
    assert {Policy()["vacuum_low_kpa"], Policy()["vacuum_high_kpa"]} == {81, 88}


@given(st.floats(0.1, 500), st.floats(0, 4000), st.floats(0, 55))
def test_the_air_that_stays_obeys_boyle_and_the_rest_is_drawn(empty, altitude, vacuum_kpa):
    """Boyle: p V is kept, so what was thinned to the remaining pressure fills that part at ambient."""
    answer = vacuum(ask(empty_volume_l=empty, altitude_m=altitude, vacuum_kpa=vacuum_kpa))
    remaining = answer.ambient_kpa - vacuum_kpa
    assert answer.air_left_l * answer.ambient_kpa == pytest.approx(empty * remaining, rel=1e-9)
    assert answer.air_left_l + answer.drawn_l == pytest.approx(empty)


@pytest.mark.parametrize(
    ("minutes", "drop", "tight"),
    [(10, 1.9, True), (10, 2.1, False), (5, 0.9, True), (5, 1.5, False), (20, 3.5, True), (2, 0.0, None), (2, 2.5, False)],
)
def test_a_hold_within_two_kilopascals_in_ten_minutes_is_tight(minutes, drop, tight):
    """Policy; a short hold can show a leak, never that there is none."""
    assert vacuum(ask(held=Held(minutes, drop))).tight is tight


def test_nothing_held_says_nothing():
    assert vacuum(ask()).tight is None


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"vacuum_kpa": 95}, "too_deep"),
        ({"vacuum_kpa": 60}, "too_shallow"),
        ({"altitude_m": 2500, "vacuum_kpa": 59.5}, None),
        ({"held": Held(3, 0.1)}, "held_too_short"),
        ({}, None),
    ],
)
def test_what_is_odd_is_said(changes, code):
    assert [said.code for said in vacuum(ask(**changes)).warnings] == ([code] if code else [])


@pytest.mark.parametrize(
    ("changes", "field", "words"),
    [
        ({"vacuum_kpa": 102}, "vacuum_kpa", "25 inHg are 85 kPa"),
        ({"vacuum_kpa": -1}, "vacuum_kpa", "Read the gauge again"),
        ({"altitude_m": 1120, "vacuum_kpa": 89}, "vacuum_kpa", "at 1120 m"),
        ({"loop_c": 85}, "loop_c", "boils under vacuum"),
        ({"empty_volume_l": 0}, "empty_volume_l", "Litres of air"),
        ({"altitude_m": 9000}, "altitude_m", "Altitude"),
        ({"empty_volume_l": float("nan")}, "empty_volume_l", "allowed"),
    ],
)
def test_questions_that_cannot_be_are_refused_by_name(changes, field, words):
    with pytest.raises(CoreError, match=words) as refused:
        ask(**changes)
    assert refused.value.field == field


@pytest.mark.parametrize(("minutes", "drop", "field"), [(0, 1, "minutes"), (10, -1, "drop_kpa")])
def test_holds_that_cannot_be_are_refused(minutes, drop, field):
    with pytest.raises(CoreError) as refused:
        Held(minutes, drop)
    assert refused.value.field == field
