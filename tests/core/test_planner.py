"""The methods side by side: rounds against the dilution table, sweeps against the exponential, time, what never ends."""

import math

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.entries import JobOpened
from temper_core.job.flush.ahead import rounds_ahead
from temper_core.job.flush.facts import Method
from temper_core.job.flush.methods import plan_methods
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.read.facts import Place, Read
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind, Pipe, Via
from temper_core.machine.drain_points import drain_plan
from temper_core.machine.equipment import Equipment, TankKind
from tests.core.test_ledger import HOT, LAYOUT, RINSE, Book, a_loop, planned, weighed
from tests.core.test_rounds import DOSED, PIPED, drained

POLICY = Policy()


def one_vessel(share):
    """Ten litres, of which a drain takes a share."""
    return Layout((Node("b", NodeKind.BLOCK, "Block", 10.0, 1, 9, 0),), (), (Drain("A", "b", 1, {"b": share}),))


def methods(book, policy=POLICY):
    """Plans by method."""
    return {plan.method: plan for plan in plan_methods(walk(book.loop, book.entries, policy))}


def opened(layout, litres, capacity=10.0, **changes):
    """A loop after its first drain, at a change of chemistry."""
    book = Book(a_loop(layout=layout, capacity_l=capacity, **changes))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), weighed(litres))
    return book


@pytest.mark.parametrize(("share", "drains"), [(0.375, 9), (0.5, 6), (0.6, 5), (0.7, 4), (0.8, 3), (0.9, 2)])
def test_rounds_to_two_percent_are_those_of_the_dilution_table(share, drains):
    """Derived, each drain counted: (1 - share)^n < 2 %."""
    strict = Policy({"old_limit_change_percent": 2.0})
    book = opened(one_vessel(share), 10 * share)
    plan = methods(book, strict)[Method.FILL_RUN_DRAIN]
    assert plan.rounds == drains - 1
    assert plan.finished_percent == pytest.approx(100 * (1 - share) ** drains, rel=1e-3)
    assert plan.water_l == pytest.approx((drains - 1) * 10 * share, rel=1e-6)
    assert plan.demineralised_l == pytest.approx(10 * share)


def test_the_rounds_ahead_are_those_of_the_plan_and_shrink_as_they_are_run():
    book = drained()
    t = walk(book.loop, book.entries, POLICY)
    ahead = rounds_ahead(t)
    assert [row.number for row in ahead] == [1, 2]
    assert ahead[0].ran_percent == pytest.approx(23.4, abs=0.1)
    assert [row.last for row in ahead] == [False, True]
    assert all(row.finished_high_percent > row.finished_percent for row in ahead)
    assert [row.finished_percent for row in ahead] == pytest.approx([5.49, 1.29], abs=0.02)
    book.add(RINSE, HOT, weighed(24.5))
    assert [row.number for row in rounds_ahead(walk(book.loop, book.entries, POLICY))] == [2]


def test_a_rinse_through_swept_vessels_takes_the_water_the_exponential_asks_for():
    """Textbook: exp(-Q/V). One vessel, half drained: 50 % to 5 % is ln 10 times its volume."""
    plan = methods(opened(one_vessel(0.5), 5.0))[Method.OPEN_RINSE]
    assert plan.water_l == pytest.approx(10 * math.log(10), rel=1e-3)
    assert plan.finished_percent == pytest.approx(5.0, abs=0.01)
    assert plan.wait_min.high == 0


def test_what_a_sweep_never_reaches_is_said():
    plan = methods(drained())[Method.OPEN_RINSE]
    assert not plan.reaches or plan.finished_percent <= 5
    heater = methods(opened(PIPED, 24.5, 32.0))[Method.HOSE_FLOW]
    assert "Heater, Engine block" in heater.note.sentence
    beyond = Layout(PIPED.nodes, PIPED.pipes, (Drain("A", "radiator", 700, {"radiator": 0.9}),))
    never = methods(opened(beyond, 9.9, 32.0))[Method.OPEN_RINSE]
    assert (never.reaches, never.rounds) == (False, None)
    assert "does not reach keep" in never.reason.sentence


def test_cheapest_that_reaches_the_limit_comes_first_and_what_does_not_comes_last():
    plans = plan_methods(walk(drained().loop, drained().entries, POLICY))
    reach = [plan.reaches for plan in plans]
    assert reach == sorted(reach, reverse=True)
    costs = [plan.hands_min + 0.1 * plan.wait_middle_min for plan in plans if plan.reaches]
    assert costs == sorted(costs)
    assert plans[-1].method in (None, Method.BLOW_OUT)


def test_within_a_family_draining_and_refilling_may_be_enough():
    book = Book(a_loop(layout=one_vessel(0.95), capacity_l=10.0))
    book.add(JobOpened(JobType.REFILL), Read(-19.0, Place.AS_FOUND), planned(), weighed(9.6))
    first = plan_methods(walk(book.loop, book.entries, POLICY))[0]
    assert (first.method, first.rounds, first.reaches) == (None, 0, True)
    assert first.hands_min == 0


def test_waiting_is_the_run_and_the_cooling_of_every_round():
    """Newton's law between 95 and 45 degC in a bay of 10 degC, large loop, factor 1.6 either way (contract)."""
    plan = methods(drained())[Method.FILL_RUN_DRAIN]
    cool = 180 * math.log((95 - 10) / (45 - 10))
    assert plan.wait_min.low == pytest.approx(2 * (25 + cool / 1.6), rel=1e-6)
    assert plan.wait_min.high == pytest.approx(2 * (25 + cool * 1.6), rel=1e-6)


def test_less_out_than_believed_may_take_a_round_more():
    measured = methods(drained())[Method.FILL_RUN_DRAIN]
    book = Book(a_loop(layout=PIPED, capacity_sd_l=3.2))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), weighed(24.5))
    unsure = methods(book)[Method.FILL_RUN_DRAIN]
    assert (measured.rounds, measured.rounds_high) == (2, 2)
    assert unsure.rounds_high > unsure.rounds


def test_a_loop_that_hardly_drains_is_told_so():
    plan = methods(opened(one_vessel(0.05), 0.5))[Method.FILL_RUN_DRAIN]
    assert (plan.rounds, plan.reaches) == (None, False)
    assert "More than 12 rounds" in plan.reason.sentence
    assert rounds_ahead(walk(opened(one_vessel(0.05), 0.5).loop, opened(one_vessel(0.05), 0.5).entries, POLICY)) == ()


def test_with_cleaner_left_inside_the_rounds_count_it_too():
    book = drained()
    book.add(DOSED, HOT, weighed(24.5))
    plans = methods(book)
    assert plans[Method.FILL_RUN_DRAIN].rounds == 3  # 23.4 % of it left, to 1 %
    assert not plans[None].reaches


def test_an_overflow_bottle_is_emptied_by_hand_each_time():
    equipment = Equipment(tank=TankKind.OVERFLOW)
    book = Book(a_loop(layout=PIPED, equipment=equipment))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
    assert methods(book)[Method.FILL_RUN_DRAIN].reaches


# ---- drain points -------------------------------------------------------------------------------------------------


def hints(plan):
    """Codes by place."""
    return {point.where: [said.code for said in point.hints] for point in plan.points}


def test_radiator_before_block_with_the_hint_that_the_block_stays_full():
    """Common practice, no source: a cold thermostat is shut."""
    plan = drain_plan(PIPED, Equipment(), POLICY)
    assert [point.where for point in plan.points] == ["A", "B", "heater"]
    assert hints(plan) == {"A": ["leaves_block"], "B": ["tail_up"], "heater": ["heater_hoses"]}
    assert plan.points[0].expected_l == pytest.approx(11 * 0.945 + 4 + 1.2)
    assert plan.points[2].by_hand


def test_without_a_block_drain_it_says_what_helps():
    plan = drain_plan(Layout(LAYOUT.nodes, PIPED.pipes, (LAYOUT.drains[0],)), Equipment(), POLICY)
    assert hints(plan)["A"] == ["leaves_block", "no_block_drain"]
    assert "0.5 bar at most" in plan.points[0].hints[1].sentence


def test_a_bottle_no_drain_reaches_is_lifted_out_and_electronics_stand_level():
    nodes = (
        Node("tank", NodeKind.TANK, "Bottle", 1.0, 10, 20, 1),
        Node("inverter", NodeKind.ELECTRONICS, "Inverter", 2.0, 1, 9, 0),
    )
    layout = Layout(nodes, (Pipe("inverter", "tank", 5, Via.PUMP),), (Drain("C", "inverter", 1, {"inverter": 0.9}),))
    plan = drain_plan(layout, Equipment(tank=TankKind.OVERFLOW), POLICY)
    assert hints(plan) == {"C": [], "tank": ["lift_bottle"]}
    assert [said.code for said in plan.hints] == ["air", "level"]
