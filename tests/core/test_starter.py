"""What a depot may begin with: every kind of machine closes, drains, flushes and mixes; no coolant fits unread."""

import math
from dataclasses import replace

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.machine.circuit import Layout, Pipe, Via, check_sum, circulating, resized
from temper_core.machine.contents import Contents
from temper_core.machine.joined import check_joined
from temper_core.machine.layouts import GENERIC, generic_layout, is_usual
from temper_core.products.agents import AgentKind
from temper_core.products.chemistry import Base, Family, Fluid, Form, Product, Requirement
from temper_core.products.compatibility import Verdict, judge_product, unfit
from temper_core.products.label import USUAL_GLYCOL, product_sd_percent, usual_glycol
from temper_core.science import Glycol
from temper_core.starter.instruments import starter_instruments
from temper_core.starter.machine_kinds import machine_kind, machine_kinds
from temper_core.starter.products import starter_agents, starter_coolants, starter_waters

LOOPS = [(kind.key, loop) for kind in machine_kinds() for loop in kind.loops]

# litres of a whole loop with its heater, common practice from memory, no source: (kind, low, high)
REMEMBERED = [("small_car", 4.5, 6.5), ("heavy_truck", 30, 55), ("bus", 35, 80), ("forklift", 6, 14), ("railcar", 50, 150)]


@pytest.mark.parametrize(("key", "loop"), LOOPS, ids=[f"{key}-{loop.name}" for key, loop in LOOPS])
@pytest.mark.parametrize("end", ["low_l", "capacity_l", "high_l"])
def test_a_loop_of_every_kind_closes_drains_and_mixes(key, loop, end):
    capacity = getattr(loop, end)
    layout = generic_layout(loop.layout, capacity)
    check_sum(layout, capacity)
    check_joined(layout)
    full = Contents.full(layout, Glycol.ETHYLENE, 50.0)
    out = sum(layout.reachable_l().values())
    assert 0 < out < capacity
    assert full.drain(0.4 * capacity).total_l == pytest.approx(0.6 * capacity, rel=1e-6)
    groups = circulating(layout, thermostat_open=True, heater_open=True)
    mixed = {name for group in groups for name in group}
    assert mixed == {node.id for node in layout.nodes}, "a run with everything open reaches every vessel"


@pytest.mark.parametrize(("key", "low", "high"), REMEMBERED)
def test_ranges_are_the_usual_ones(key, low, high):
    loop = machine_kind(key).loops[0]
    assert (loop.low_l, loop.high_l) == (low, high)


def test_not_known_is_as_wide_as_its_range():
    """A rectangular distribution: half the width over the square root of 3 (GUM, 4.3.7)."""
    for _, loop in LOOPS:
        half = (loop.high_l - loop.low_l) / 2
        assert loop.sd_l == pytest.approx(half / math.sqrt(3))
        assert loop.capacity_l - 1.96 * loop.sd_l <= loop.low_l


def test_an_unknown_kind_is_refused_by_name():
    with pytest.raises(CoreError, match="No kind of machine is called 'boot'"):
        machine_kind("boot")


@pytest.mark.parametrize("generic", GENERIC, ids=lambda row: row.key)
def test_a_vessel_that_nothing_joins_is_refused_by_its_name(generic):
    layout = generic_layout(generic.key, 20.0)
    check_joined(layout)
    name = layout.nodes[1].id
    rest = tuple(pipe for pipe in layout.pipes if name not in (pipe.start, pipe.end))
    cut = Layout(layout.nodes, rest or (Pipe(layout.nodes[0].id, layout.nodes[0].id, 500, Via.NONE),), layout.drains)
    with pytest.raises(CoreError) as refused:
        check_joined(cut)
    assert "Nothing joins" in str(refused.value)
    assert refused.value.code == "not_joined"


@pytest.mark.parametrize("coolant", starter_coolants(), ids=lambda row: row.key)
def test_a_coolant_of_the_list_fits_nowhere_until_its_label_is_entered(coolant):
    usual = usual_glycol(coolant.base, coolant.form)
    sold = (coolant.base, coolant.family, coolant.form, usual.percent, coolant.standards)
    unread = Product("1", coolant.name, *sold, 2.0, False)
    need = Requirement(families=(coolant.family,), low_conductivity=coolant.family is Family.LOW_CONDUCTIVITY)
    inside = Fluid(coolant.base, coolant.family, 50.0)
    judged = judge_product(unread, need, inside)
    assert judged.verdict is Verdict.NO
    assert judged.short == "enter its label first"
    assert unfit(unread, need) is not None
    read = Product("1", coolant.name, *sold)
    if coolant.base is not Base.NONE:
        assert judge_product(read, need, inside).verdict is Verdict.FITS


def test_what_the_label_leaves_unsaid_is_unsure():
    policy = Policy()
    stated = Product("1", "a", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 95.0)
    silent = Product("1", "a", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 93.5, (), 2.0)
    assert product_sd_percent(stated, policy) == policy["product_sd"]
    assert product_sd_percent(silent, policy) == 2.0
    assert product_sd_percent(None, policy) == policy["product_sd"]
    for row in USUAL_GLYCOL.values():
        assert row.source


def test_no_name_of_a_maker_and_every_row_with_its_source():
    rows = [*starter_coolants(), *starter_waters(), *starter_instruments(), *machine_kinds()]
    assert len({row.key for row in rows}) == len(rows)
    for row in rows:
        assert "memory" in row.source or "common practice" in row.source, row.key


def test_every_scale_that_is_known_is_in_the_list():
    from temper_core.instruments import Scale

    assert {row.spec.scale for row in starter_instruments()} >= set(Scale)


@pytest.mark.parametrize("kind", machine_kinds(), ids=lambda kind: kind.key)
def test_what_comes_from_a_kind_is_usual_until_somebody_enters_something(kind):
    for usual in kind.loops:
        layout = generic_layout(usual.layout, usual.capacity_l)
        assert is_usual(layout)
        assert is_usual(resized(layout, 1.07 * usual.capacity_l))  # a capacity that a job taught enters nothing else
        first, *rest = layout.nodes
        assert not is_usual(replace(layout, nodes=(replace(first, top_mm=first.top_mm + 10), *rest)))
        if layout.tank_total_l is not None:
            assert not is_usual(replace(layout, tank_total_l=layout.tank_total_l * 1.2))


def test_cleaners_and_additives_are_sorts_and_every_figure_is_the_labels():
    rows = starter_agents()
    assert {row.kind for row in rows} == set(AgentKind)
    assert len({row.key for row in rows}) == len({row.name for row in rows}) == len(rows)
    assert all("read the label" in row.source for row in rows)
