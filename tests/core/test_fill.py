"""Expansion against room; boiling refusals; the room of a layout, and a layout for another capacity."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.calculate.boil import BoilQuestion
from temper_core.calculate.expansion import ExpansionQuestion, expansion
from temper_core.machine.circuit import Layout, Node, NodeKind, check_sum, resized
from temper_core.science import Glycol

ETHYLENE = Glycol.ETHYLENE


def ask(**changes):
    """10 l of half and half from a cool bay to a hot engine."""
    given_ = {"glycol": ETHYLENE, "strength_percent": 50.0, "volume_l": 10.0, "cold_c": 10.0, "hot_c": 90.0}
    return ExpansionQuestion(**(given_ | changes))


def test_half_and_half_grows_by_about_a_twentieth():
    """Source: CoolProp's INCOMP::MEG, 4.8 to 5.2 % from 10 to 90 degC; checked closer in test_accuracy."""
    assert expansion(ask()).rise_l == pytest.approx(0.5, abs=0.03)


@pytest.mark.parametrize(("room", "fits"), [(0.4, False), (0.6, True), (None, None)])
def test_room_is_judged_only_where_it_is_known(room, fits):
    assert expansion(ask(room_l=room)).fits is fits


def test_beyond_the_tables_is_said():
    assert expansion(ask(hot_c=110.0)).extrapolated
    assert expansion(ask(strength_percent=80.0)).extrapolated
    assert not expansion(ask()).extrapolated


@given(st.floats(0.1, 500), st.floats(20, 60))
def test_twice_the_loop_rises_twice(volume, percent):
    one, two = (expansion(ask(volume_l=v, strength_percent=percent)).rise_l for v in (volume, 2 * volume))
    assert two == pytest.approx(2 * one)
    assert one > 0


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"cold_c": -45.0}, "cold_c"),
        ({"strength_percent": 20.0, "cold_c": -30.0}, "cold_c"),  # ice
        ({"hot_c": 150.0}, "hot_c"),
        ({"hot_c": 5.0}, "hot_c"),
        ({"volume_l": 0.0}, "volume_l"),
        ({"strength_percent": math.inf}, "strength_percent"),
        ({"room_l": -1.0}, "room_l"),
    ],
)
def test_expansions_that_cannot_be(changes, field):
    with pytest.raises(CoreError) as refused:
        ask(**changes)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("args", "field"),
    [
        ((101, 0, 103), "strength_percent"),
        ((50, 9000, 103), "altitude_m"),
        ((50, 0, -5), "cap_gauge_kpa"),
        ((50, 0, 1500), "cap_gauge_kpa"),  # 15 psi typed as if they were bar
        ((50, 0, 103, 900), "operating_c"),
        ((50, math.nan, 103), "altitude_m"),
    ],
)
def test_boiling_questions_that_cannot_be(args, field):
    with pytest.raises(CoreError) as refused:
        BoilQuestion(ETHYLENE, *args)
    assert refused.value.field == field


def layout(**changes):
    """Tank, block and hoses, 10 l in all."""
    nodes = (
        Node("tank", NodeKind.TANK, "Tank", 2.0, 900, 1000, 1),
        Node("block", NodeKind.BLOCK, "Block", 7.0, 100, 800, 0),
        Node("hoses", NodeKind.HOSES, "Hoses", 1.0, 100, 950, 1),
    )
    return Layout(nodes, tank_total_l=3.1, **changes)


def test_room_is_what_the_tank_holds_above_the_mark():
    assert layout().room_l == pytest.approx(1.1)
    assert Layout(layout().nodes).room_l is None


@pytest.mark.parametrize(("capacity", "hoses"), [(10.4, 1.4), (9.7, 0.7), (12.0, 3.0)])
def test_another_capacity_goes_into_the_hoses(capacity, hoses):
    fitted = resized(layout(), capacity)
    check_sum(fitted, capacity)
    assert fitted.nodes[2].volume_l == pytest.approx(hoses)
    assert fitted.nodes[1].volume_l == 7.0


def test_what_the_hoses_cannot_take_is_shared_by_all():
    fitted = resized(layout(), 8.0)
    check_sum(fitted, 8.0)
    assert fitted.nodes[1].volume_l == pytest.approx(5.6)
