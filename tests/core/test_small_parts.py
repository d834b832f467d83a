"""Errors, units, sayings, policy, spread, layout."""

import pickle

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError, OutOfRange, check_between, under
from temper_core.basis.message import say
from temper_core.basis.policy import SHIPPED, Policy
from temper_core.basis.quantity import MILE_KM, PSI_KPA, VOLUME_UNITS, to_celsius, to_litres
from temper_core.basis.uncertainty import chance_below, propagate
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind, Pipe, check_sum
from temper_core.machine.portions import spread_over


def test_a_refusal_says_which_value_what_is_allowed_and_what_to_do():
    with pytest.raises(OutOfRange) as refused:
        check_between("drained_l", 40, 0, 32, "L", "Wrong litres, or wrong capacity?")
    error = refused.value
    assert error.message == "40 L is not possible: 0 to 32 L is allowed. Wrong litres, or wrong capacity?"
    assert (error.field, error.code, error.value, error.low, error.high) == ("drained_l", "out_of_range", 40, 0, 32)


def test_a_refusal_carries_its_figures_for_other_units():
    error = pickle.loads(pickle.dumps(OutOfRange("drained_l", 40, 0, 32, "L", "Weigh it.")))
    assert error.said.template == "{value_l} is not possible: {low_l} to {high_l} is allowed. Weigh it."
    assert error.said.values == {"value_l": 40, "low_l": 0, "high_l": 32}
    assert error.said.sentence == error.message
    assert OutOfRange("held_min", 0, 1, 240, "min", "Hold it.").said is None  # minutes are minutes in every system
    own = CoreError("out_l", say("more_than_inside", "{out_l} out of {inside_l} inside cannot be.", out_l=12, inside_l=9))
    assert (own.code, own.message) == ("more_than_inside", "12.0 L out of 9.0 L inside cannot be.")


@pytest.mark.parametrize("value", [float("nan"), float("inf"), -float("inf")])
def test_what_is_no_number_is_outside_every_range(value):
    with pytest.raises(OutOfRange):
        check_between("x", value, -1e300, 1e300, "L")


def test_refusals_name_their_place_in_the_larger_question():
    with pytest.raises(CoreError) as refused, under("entries.0"), under("facts"):
        raise CoreError("drained_l", "no")
    assert refused.value.field == "entries.0.facts.drained_l"


def test_a_refusal_survives_a_process_boundary():
    error = pickle.loads(pickle.dumps(OutOfRange("x", 2, 0, 1, "L", "Do it again.")))
    assert (error.field, error.code) == ("x", "out_of_range")


@pytest.mark.parametrize(
    ("value", "unit", "litres"),
    [
        # NIST SP 811: US gallon 3.785 412 l, US liquid quart 0.946 352 9 l; UK Weights and Measures Act: 4.546 09 l
        (1, "us_gal", 3.785412),
        (1, "us_qt", 0.9463529),
        (1, "imp_gal", 4.54609),
        (4, "l", 4.0),
        (4, "us_gal", 15.141647),
        (250, "ml", 0.25),
    ],
)
def test_volumes(value, unit, litres):
    assert to_litres("v", value, unit) == pytest.approx(litres, rel=1e-6)


def test_factors_are_those_of_a_library_of_units():
    """Checked against pint: every factor that the core keeps, to the last digits of a float."""
    units = pint.UnitRegistry()
    named = {
        "l": "liter",
        "ml": "milliliter",
        "us_qt": "US_liquid_quart",
        "us_gal": "US_liquid_gallon",
        "imp_gal": "imperial_gallon",
    }
    assert named.keys() == VOLUME_UNITS.keys()
    for unit, name in named.items():
        assert VOLUME_UNITS[unit] == pytest.approx(units.Quantity(1, name).to("liter").magnitude, rel=1e-12)
    assert pytest.approx(units.Quantity(1, "psi").to("kilopascal").magnitude, rel=1e-12) == PSI_KPA
    assert pytest.approx(units.Quantity(1, "mile").to("kilometer").magnitude, rel=1e-12) == MILE_KM


def test_four_litres_are_no_gallon():
    """Common practice, no source: 4 l are 1.057 US gal, an error of 5.7 %."""
    assert 4 / to_litres("v", 1, "us_gal") == pytest.approx(1.057, abs=0.001)


@given(st.floats(-60, 200))
def test_fahrenheit(value):
    """Definition: degC = (degF - 32) / 1.8."""
    assert to_celsius("t", value, "degF") == pytest.approx((value - 32) / 1.8)


@pytest.mark.parametrize("unit", ["gal", "gallon", "bucket", "", "L"])
def test_an_unknown_unit_is_refused_with_the_known_ones(unit):
    with pytest.raises(CoreError, match="us_gal, imp_gal") as refused:
        to_litres("drained_l", 1, unit)
    assert refused.value.code == "unknown_unit"


def test_a_saying_carries_its_figures():
    said = say("reads", "Reads {freeze_c}, {gap_k} {side}; {in_l} in, {old_percent:0} old.", freeze_c=-44.62, gap_k=0.38,
               side="warmer", in_l=24.5, old_percent=5.5)  # fmt: skip
    assert said.sentence == "Reads −44.6 °C, 0.4 °C warmer; 24.5 L in, 6 % old."
    assert said.values["freeze_c"] == -44.62


def test_a_rounded_zero_has_no_sign():
    assert say("x", "{t_c}", t_c=-0.01).sentence == "0.0 °C"


def test_every_rule_of_policy_has_reason_and_origin():
    assert all(rule.reason and rule.origin and rule.unit for rule in SHIPPED)
    assert len({rule.key for rule in SHIPPED}) == len(SHIPPED)


def test_a_depot_may_override_a_rule_but_not_invent_one():
    assert Policy({"margin_k": 8})["margin_k"] == 8
    assert Policy()["margin_k"] == 5
    with pytest.raises(CoreError, match="marigin"):
        Policy({"marigin": 3})


def test_first_order_propagation_of_a_product():
    """Worked by hand: relative variances of a product add (JCGM 100:2008, 5.1.6)."""
    sd = propagate(lambda x: x[0] * x[1], (10, 5), (0.1, 0.1), ((0, 100), (0, 100)))
    assert sd == pytest.approx(((5 * 0.1) ** 2 + (10 * 0.1) ** 2) ** 0.5, rel=1e-9)


def test_a_value_at_its_bound_still_counts_one_sidedly():
    assert propagate(lambda x: 3 * x[0], (0,), (0.5,), ((0, 10),)) == pytest.approx(1.5)


def test_with_no_spread_a_chance_is_nought_or_one():
    assert (chance_below(1, 0, 2), chance_below(2, 0, 1)) == (1, 0)


# ---- layout -------------------------------------------------------------------------------------------------------


def node(id_, volume, kind=NodeKind.BLOCK, bottom=100, top=500, column=0):
    """A vessel."""
    return Node(id_, kind, id_.title(), volume, bottom, top, column)


def test_vessels_must_add_up_to_the_capacity():
    layout = Layout((node("block", 6), node("radiator", 3)))
    check_sum(layout, 9.0)
    with pytest.raises(CoreError, match="1.00 L are missing. Put the difference into the hoses"):
        check_sum(layout, 10.0)
    with pytest.raises(CoreError, match="are too many"):
        check_sum(layout, 8.0)


@pytest.mark.parametrize(
    ("build", "message"),
    [
        (lambda: Layout(()), "at least one"),
        (lambda: Layout((node("a", 1), node("a", 2))), "share one name"),
        (lambda: Layout((node("a", 1),), (Pipe("a", "b", 100),)), "No vessel is called 'b'"),
        (lambda: Layout((node("a", 1),), (), (Drain("A", "a", 50, {"c": 0.5}),)), "No vessel is called 'c'"),
        (lambda: Layout((node("a", 1),), (), (Drain("A", "a", 50, {"a": 1.5}),)), "1.5"),
        (lambda: node("a", 1, bottom=600), "must lie above"),
        (lambda: node("a", 0), "allowed"),
        (lambda: node("a", 1, column=3), "allowed"),
    ],
)
def test_a_layout_that_cannot_be_is_refused(build, message):
    with pytest.raises(CoreError, match=message):
        build()


def test_drains_together_never_empty_more_than_a_vessel_holds():
    layout = Layout((node("a", 4),), (), (Drain("A", "a", 50, {"a": 0.7}), Drain("B", "a", 60, {"a": 0.7})))
    assert layout.reachable_l() == {"a": 4}


@given(
    st.floats(0, 50),
    st.dictionaries(st.sampled_from("abcd"), st.floats(0, 10), min_size=1),
    st.dictionaries(st.sampled_from("abcd"), st.floats(0, 10), min_size=1),
)
def test_litres_are_spread_without_loss_or_overflow(wanted, weights, room):
    given_ = spread_over(wanted, weights, room)
    assert sum(given_.values()) == pytest.approx(min(wanted, sum(room.values())), abs=1e-6)
    assert all(given_[name] <= room[name] + 1e-9 for name in room)
