"""What a change costs: rinses against the dilution arithmetic of handbooks, litres against the mix, time against Newton."""

import math

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.loop import CapacitySource, Loop
from temper_core.job.mix.cost import Prices, change_cost, cooling_min
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Family, Fluid, Form, Product, Requirement
from temper_core.products.compatibility import judge_product
from temper_core.science import Glycol

NEW = Product("1", "New", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 95.0)
READY = Product("2", "Ready", Base.ETHYLENE, Family.OAT, Form.READY_MIX, 50.0)


def loop(share, capacity=10.0, coldest=-25.0):
    """One vessel, one drain that empties a share of it."""
    node = Node("block", NodeKind.BLOCK, "Block", capacity, 100, 900, 0)
    layout = Layout((node,), (), (Drain("A", "block", 100, {"block": share}),))
    return Loop("1", "Loop", capacity, CapacitySource.MEASURED, layout, Requirement(), coldest)


def cost(share, product=NEW, inside=Family.IAT, strength=40.0, policy=None, prices=None, **more):
    """Cost of a product in it."""
    policy, at = policy or Policy(), loop(share, **more)
    contents = Contents.full(at.layout, Glycol.ETHYLENE, strength)
    judged = judge_product(product, at.need, Fluid(Base.ETHYLENE, inside), policy)
    return change_cost(at, contents, product, judged, policy, prices or Prices(), at.coldest_c)


@pytest.mark.parametrize(("share", "drains"), [(0.5, 6), (0.6, 5), (0.7, 4), (0.8, 3), (0.9, 2)])
def test_rinses_to_two_percent_are_those_of_the_dilution_table(share, drains):
    """Drains to below 2 %, each counted; the first is no rinse. Source: derived, g_n = g_0 r^n."""
    strict = Policy({"old_limit_change_percent": 2.0})
    assert cost(share, policy=strict).rinses == drains - 1


@pytest.mark.parametrize("share", [0.45, 0.62, 0.77, 0.93])
def test_rinses_follow_the_power_law_in_volume(share):
    """Derived: the old share after n drains is (1 - share)^n; contraction moves it by less than a tenth of a percent."""
    found = cost(share, strength=0.0).rinses
    assert found == math.ceil(math.log(0.05) / math.log(1 - share)) - 1


def test_litres_add_up():
    answer = cost(0.7)
    assert answer.rinses == 2
    assert answer.rinse_water_l == pytest.approx(14.0)
    assert answer.waste_l == pytest.approx(21.0)
    assert answer.product_l + answer.mix_water_l == pytest.approx(7.0, abs=0.1)


def test_the_same_chemistry_needs_no_rinse_and_a_limit_within_the_family_fewer():
    assert cost(0.7, inside=Family.OAT).rinses == 0
    assert cost(0.7, inside=Family.OAT).rinse_water_l == 0
    assert cost(0.7, inside=Family.SI_HOAT).rinses == 1  # 10 % instead of 5


def test_drains_that_hardly_empty_it_say_so():
    answer = cost(0.15)
    assert answer.rinses is None
    assert "More than 12 rinses" in answer.reason.sentence


def test_a_target_out_of_reach_is_said_with_the_best_there_is():
    answer = cost(0.4, inside=Family.OAT, strength=0.0, coldest=-38.0)
    assert answer.reason.code == "out_of_reach"
    assert "Best" in answer.reason.sentence


def test_ready_mix_takes_no_water():
    answer = cost(0.7, product=READY)
    assert answer.mix_water_l == 0
    assert answer.product_l == pytest.approx(7.0, abs=0.1)


def test_money_counts_product_and_the_demineralised_water_only():
    answer = cost(0.7, prices=Prices(6.0, 0.5))
    assert answer.price == pytest.approx(6 * answer.product_l + 0.5 * (answer.mix_water_l + 7.0))
    assert cost(0.7, prices=Prices(6.0, None)).price is None
    assert cost(0.7, prices=Prices(None, 0.5)).price is None
    assert cost(0.7, READY, Family.OAT, prices=Prices(4.0, None)).price == pytest.approx(28, abs=0.5)


@pytest.mark.parametrize(("capacity", "tau"), [(9.9, 60), (10, 120), (25, 120), (25.1, 180)])
def test_cooling_is_newtons_with_a_factor_either_way(capacity, tau):
    """Time constants by loop size: common practice, no source; the law against its own solution, tau ln(dT0/dT)."""
    found = cooling_min(capacity, Policy())
    middle = tau * math.log((95 - 10) / (45 - 10))
    assert found.low == pytest.approx(middle / 1.6)
    assert found.high == pytest.approx(middle * 1.6)


def test_waiting_is_one_run_more_than_rinses():
    answer, cool = cost(0.7), cooling_min(10.0, Policy())
    assert answer.wait_min.low == pytest.approx(3 * (25 + cool.low))
    assert answer.hands_min == 20 + 2 * 15 + 40
