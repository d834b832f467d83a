"""Generic layouts: they close, can be drawn, and carry a whole job."""

import pytest

from temper_core.basis.errors import CoreError
from temper_core.machine.circuit import NodeKind, check_sum
from temper_core.machine.contents import Contents
from temper_core.machine.layouts import GENERIC, generic_layout
from temper_core.science import Glycol


@pytest.mark.parametrize("capacity", [4.2, 32.0, 180.0])
@pytest.mark.parametrize("generic", GENERIC, ids=lambda row: row.key)
def test_a_generic_layout_closes_and_drains(generic, capacity):
    layout = generic_layout(generic.key, capacity)
    check_sum(layout, capacity)
    assert sum(row[3] for row in generic.nodes) == pytest.approx(1.0)
    assert 0.3 * capacity < sum(layout.reachable_l().values()) < capacity
    full = Contents.full(layout, Glycol.ETHYLENE, 50.0)
    assert full.drain(0.3 * capacity).total_l == pytest.approx(0.7 * capacity, rel=1e-6)


@pytest.mark.parametrize("generic", GENERIC, ids=lambda row: row.key)
def test_vessels_of_a_column_stand_apart(generic):
    """The drawing puts them at their heights: two in one column must not overlap."""
    layout = generic_layout(generic.key, 20.0)
    drawn = [node for node in layout.nodes if node.kind is not NodeKind.HOSES]
    for a in drawn:
        for b in drawn:
            if a is not b and a.column == b.column:
                assert a.bottom_mm >= b.top_mm or b.bottom_mm >= a.top_mm, (a.id, b.id)


def test_room_follows_the_tank():
    assert generic_layout("degas_tank", 30.0).room_l == pytest.approx(1.8)
    assert generic_layout("no_tank", 30.0).room_l is None


@pytest.mark.parametrize(("key", "capacity", "field"), [("spiral", 30.0, "layout"), ("no_tank", 0.0, "capacity_l")])
def test_what_cannot_be_is_refused(key, capacity, field):
    with pytest.raises(CoreError) as refused:
        generic_layout(key, capacity)
    assert refused.value.field == field
