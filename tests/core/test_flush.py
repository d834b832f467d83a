"""Rounds of a flush, against a matrix power, SciPy and the dilution table of the trade."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from temper_core.basis.errors import CoreError
from temper_core.calculate.flush import FlushQuestion, FlushRound, FlushVessel, Rinse, flush

ONE = (FlushVessel("loop", 32.0),)


def one_vessel(drained_share, limit, rounds=1):
    """A loop of one vessel that always drains the same share."""
    out = {"loop": 32.0 * drained_share}
    return flush(FlushQuestion(ONE, out, (FlushRound(drained_l=out),) * rounds, limit))


@pytest.mark.parametrize(("drained_share", "drains"), [(0.375, 9), (0.5, 6), (0.6, 5), (0.7, 4), (0.8, 3), (0.9, 2)])
def test_drains_to_below_two_percent(drained_share, drains):
    """The dilution table of the trade, derived: g_n = g_0 r^n, each drain counted. 0.375: 0.625^9 = 1.5 %."""
    answer = one_vessel(drained_share, 2.0)
    assert 1 + answer.rounds_to_limit == drains
    assert (1 - drained_share) ** drains < 0.02 <= (1 - drained_share) ** (drains - 1)


def test_the_groomers_two_rinses():
    """32 l with 24.5 l draining each time: 23 % if filled after the first drain, 5.5 % after one rinse, 1.3 % after two."""
    answer = one_vessel(24.5 / 32, 5.0, rounds=2)
    left = [row.finished_old_percent for row in (answer.after_first_drain, *answer.rounds)]
    assert left == pytest.approx([23.44, 5.49, 1.29], abs=0.005)
    assert [row.vessels[0].old_percent for row in answer.rounds] == pytest.approx([23.44, 5.49], abs=0.005)
    assert answer.rounds_to_limit == 2
    assert (answer.water_l, answer.waste_l) == pytest.approx((49.0, 73.5))
    assert (answer.water_to_limit_l, answer.waste_to_limit_l) == pytest.approx((49.0, 73.5))


VESSELS = (
    FlushVessel("radiator", 11.0),
    FlushVessel("heater", 2.4, 60.0),
    FlushVessel("block", 12.2),
    FlushVessel("tank", 4.0),
)
GROUPS = [["radiator", "tank"], ["heater", "block"]]  # the thermostat shut: two loops that do not meet
OUT = {"radiator": 10.5, "heater": 0.4, "block": 6.0, "tank": 4.0}


def test_compartments_are_a_matrix_power():
    """Each round is linear in the old litres: mixing averages a group, draining keeps a share. NumPy's matrix power."""
    names = [vessel.name for vessel in VESSELS]
    volume = np.array([vessel.volume_l for vessel in VESSELS])
    keep = np.diag([1 - OUT[name] / v for name, v in zip(names, volume, strict=True)])
    average = np.zeros((4, 4))
    for group in GROUPS:
        at = [names.index(name) for name in group]
        for i in at:
            average[i, at] = volume[i] / volume[at].sum()
    old = keep @ (volume * [vessel.old_percent / 100 for vessel in VESSELS])
    rounds = 5
    expected = np.linalg.matrix_power(keep @ average, rounds) @ old
    answer = flush(FlushQuestion(VESSELS, OUT, (FlushRound(mixes=GROUPS, drained_l=OUT),) * rounds, 0.1))
    last = answer.rounds[-1]
    assert last.finished_old_percent == pytest.approx(100 * expected.sum() / volume.sum(), rel=1e-12)
    running = average @ np.linalg.matrix_power(keep @ average, rounds - 1) @ old
    assert [row.old_percent for row in last.vessels] == pytest.approx(100 * running / volume, rel=1e-12)
    assert last.drained_old_percent == pytest.approx(100 * (running.sum() - expected.sum()) / sum(OUT.values()), rel=1e-9)


def test_a_continuous_rinse_is_the_exponential():
    """dg/dt = -q g / V for a swept, well-mixed vessel; SciPy's integrator."""
    swept = solve_ivp(lambda _, g: -g / 11.0, (0, 25.0), [100.0], rtol=1e-10, atol=1e-12).y[0, -1]
    answer = flush(FlushQuestion((FlushVessel("radiator", 11.0),), {}, (FlushRound(rinse=Rinse("radiator", 25.0)),), 1.0))
    assert answer.rounds[0].finished_old_percent == pytest.approx(swept, rel=1e-6)
    assert answer.rounds[0].finished_old_percent == pytest.approx(100 * math.exp(-25 / 11), rel=1e-12)
    assert answer.rounds[0].drained_old_percent == pytest.approx((100 - swept) * 11.0 / 100 / 25.0 * 100, rel=1e-6)
    assert (answer.water_l, answer.waste_l) == (25.0, 25.0)


def test_a_run_that_never_opened_the_thermostat_leaves_the_block_as_it_was():
    """Common practice, no source: three minutes exchange the radiator's side only."""
    shut = FlushRound(mixes=[["radiator", "tank"]], drained_l={"radiator": 10.5, "tank": 4.0})
    answer = flush(FlushQuestion(VESSELS, {"radiator": 10.5, "tank": 4.0}, (shut,) * 6, 5.0))
    by_name = {row.name: row.old_percent for row in answer.rounds[-1].vessels}
    assert by_name["block"] == 100.0
    assert by_name["radiator"] < 0.01
    assert answer.rounds_to_limit is None
    assert answer.reason.code == "never"
    assert answer.water_to_limit_l is None


def test_a_part_fill_is_shared_by_the_empty_space_and_mixes_at_home_only():
    """A vessel in no group mixes with its own fill: by hand, 2 of 10 l empty of 40 %, half the room filled."""
    vessels = (FlushVessel("a", 10.0, 40.0), FlushVessel("b", 10.0, 0.0))
    answer = flush(FlushQuestion(vessels, {"a": 2.0, "b": 6.0}, (FlushRound(fill_l=4.0, mixes=[]),), 0.0))
    a, b = answer.rounds[0].vessels
    assert (a.inside_l, b.inside_l) == (9.0, 7.0)
    assert a.old_percent == pytest.approx(100 * 3.2 / 9.0)
    assert answer.water_l == 4.0


def test_a_rounding_of_water_into_a_full_loop_is_nothing():
    answer = flush(FlushQuestion(ONE, {}, (FlushRound(fill_l=1e-10),), 5.0))
    assert answer.rounds[0].finished_old_percent == 100.0


def test_enough_at_once_and_never():
    assert one_vessel(0.99, 5.0).rounds_to_limit == 0
    assert one_vessel(0.0, 5.0).reason.code == "never"
    nothing_planned = flush(FlushQuestion(ONE, {"loop": 10.0}, (), 5.0))
    assert (nothing_planned.rounds_to_limit, nothing_planned.reason.code) == (None, "no_round")
    part = FlushRound(fill_l=20.0, drained_l={"loop": 5.0})
    once = flush(FlushQuestion(ONE, {"loop": 24.5}, (part,), 1.0))
    assert once.reason.code == "cannot_repeat"
    assert "more than the 9.5 L of room" in once.reason.sentence


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"vessels": ()}, "vessels"),
        ({"vessels": (*ONE, *ONE)}, "vessels.1.name"),
        ({"first_drain_l": {"boot": 1.0}}, "first_drain_l.boot"),
        ({"first_drain_l": {"loop": 40.0}}, "first_drain_l.loop"),
        ({"first_drain_l": {"loop": -1.0}}, "first_drain_l.loop"),
        ({"limit_percent": 101}, "limit_percent"),
        ({"rounds": (FlushRound(fill_l=30.0),)}, "rounds.0.fill_l"),
        ({"rounds": (FlushRound(), FlushRound(drained_l={"loop": 33.0}))}, "rounds.1.drained_l.loop"),
        ({"rounds": (FlushRound(mixes=[["loop"], ["loop"]]),)}, "rounds.0.mixes.1.0"),
        ({"rounds": (FlushRound(mixes=[["boot"]]),)}, "rounds.0.mixes.0.0"),
        ({"rounds": (FlushRound(rinse=Rinse("boot", 3.0)),)}, "rounds.0.rinse.name"),
    ],
)
def test_what_cannot_be_is_refused_by_its_place(changes, field):
    question = {"vessels": ONE, "first_drain_l": {"loop": 24.5}, "rounds": (), "limit_percent": 5.0} | changes
    with pytest.raises(CoreError) as refused:
        flush(FlushQuestion(**question))
    assert refused.value.field == field


def test_a_rinse_stands_alone():
    with pytest.raises(CoreError, match="round of its own"):
        FlushRound(rinse=Rinse("loop", 3.0), drained_l={"loop": 1.0})


@given(
    volumes=st.lists(st.floats(0.5, 20.0), min_size=2, max_size=6),
    shares=st.lists(st.floats(0.0, 1.0), min_size=6, max_size=6),
    rounds=st.integers(1, 5),
)
def test_old_litres_are_conserved(volumes, shares, rounds):
    """What was in to begin with is either still inside or came out."""
    vessels = tuple(FlushVessel(f"v{i}", volume) for i, volume in enumerate(volumes))
    out = {f"v{i}": volume * shares[i] for i, volume in enumerate(volumes)}
    answer = flush(FlushQuestion(vessels, out, (FlushRound(drained_l=out),) * rounds, 5.0))
    steps = (answer.after_first_drain, *answer.rounds)
    came_out = sum(sum(out.values()) * (row.drained_old_percent or 0.0) / 100 for row in steps)
    inside = steps[-1].finished_old_percent / 100 * sum(volumes)
    assert came_out + inside == pytest.approx(sum(volumes), rel=1e-9)
    assert all(b.finished_old_percent <= a.finished_old_percent + 1e-9 for a, b in zip(steps, steps[1:], strict=False))
