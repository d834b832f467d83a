"""The demo's data: every loop closes, every product can be, nothing names the real world."""

import json
import re
from pathlib import Path

import pytest

from temper_core.machine.circuit import NodeKind
from temper_core.products.compatibility import Verdict, judge_product
from tests.server.conftest import loop_of

DATA = json.loads((Path(__file__).resolve().parents[2] / "demo" / "depot.json").read_text(encoding="utf-8"))
LOOPS = [(machine["fleet_number"], n + 1) for machine in DATA["machines"] for n in range(len(machine["loops"]))]


@pytest.mark.parametrize(("fleet_number", "position"), LOOPS)
def test_every_loop_adds_up_and_can_be_drawn(depot, fleet_number, position):
    core = loop_of(fleet_number, position).core
    assert core.layout.volume_l == pytest.approx(core.capacity_l, rel=0.005)
    assert any(node.kind is NodeKind.HOSES for node in core.layout.nodes)
    drawn = [node for node in core.layout.nodes if node.kind is not NodeKind.HOSES]
    for a in drawn:
        for b in drawn:
            apart = a.column != b.column or a.bottom_mm >= b.top_mm or b.bottom_mm >= a.top_mm
            assert a is b or apart, (a.id, b.id)
    assert sum(core.layout.reachable_l().values()) < core.capacity_l


@pytest.mark.parametrize(("fleet_number", "position"), LOOPS)
def test_every_loop_finds_something_that_may_go_in(depot, fleet_number, position):
    loop = loop_of(fleet_number, position)
    verdicts = {
        product.name: judge_product(product.core, loop.requirement, loop.core.believed).verdict
        for product in depot.products.all()
    }
    assert set(verdicts.values()) & {Verdict.FITS, Verdict.FITS_AFTER_CHANGE_OUT}
    assert Verdict.NO in verdicts.values()


def test_the_demo_shows_hazards_where_they_bite(depot):
    assert loop_of("S-12", 2).high_voltage
    assert loop_of("RS-1").requirement.glycol_forbidden
    assert loop_of("S-12", 2).requirement.low_conductivity


def test_invented_names_only():
    """Neither colours nor product codes identify a coolant here."""
    names = [product["name"] for product in DATA["products"]]
    assert not any(re.search(r"\d|green|red|blue|orange|pink|violet|yellow", name, re.I) for name in names)
    assert len(set(names)) == len(names)
