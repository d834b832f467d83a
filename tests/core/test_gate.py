"""The scald gate: two observations, what lapses them, nobody for another. Source: common practice, no source."""

from datetime import UTC, datetime, timedelta, timezone

import pytest

from temper_core.admit import Conflict, check_entry
from temper_core.entries import Drained, Entry, JobOpened, Measured, Route, Routed, Voided
from temper_core.equipment import Equipment
from temper_core.errors import CoreError
from temper_core.judge.gate import Observation, asked_ready, judge_gate
from temper_core.loop import fold
from temper_core.opening import EngineRun, GateObserved, Pressure, Ran, Ready, Warmth
from temper_core.policy import Policy
from temper_core.state import Stage
from tests.core.test_ledger import a_loop, planned

AT = datetime(2026, 11, 26, 9, 0, tzinfo=UTC)
ALL = tuple(Ready)
HELD = {"warmth": Warmth.HAND, "held": True}
SOFT = {"pressure": Pressure.HOSE, "soft": True}
OUT = Drained(24.5, Measured.WEIGHED)


def felt(**changes):
    """Held in the hand, hose soft, everything ready; with changes."""
    return GateObserved(**({"ready": ALL} | HELD | SOFT | changes))


def gate_of(facts, ran=None, now=AT, equipment=None, **policy):
    """The gate a while after it was felt."""
    seen = Observation("e1", AT - timedelta(minutes=5), "Ines", "1", facts, ran)
    return judge_gate(seen, equipment or Equipment(), Policy(policy), now)


def codes(gate):
    """What shuts it."""
    return [said.code for said in gate.reasons]


def test_time_alone_never_opens_it():
    gate = judge_gate(None, Equipment(), Policy(), AT)
    assert not gate.open
    assert codes(gate) == ["not_observed"]
    assert "Time is no proof" in gate.reasons[0].sentence


@pytest.mark.parametrize(
    ("changes", "opens", "code"),
    [
        ({}, True, "signs"),
        ({"held": False}, False, "too_hot_to_hold"),
        ({"warmth": Warmth.PROBE, "temperature_c": 44.9}, True, "signs"),
        ({"warmth": Warmth.PROBE, "temperature_c": 45.0}, False, "too_warm"),
        ({"warmth": Warmth.INFRARED, "temperature_c": 62.0}, False, "too_warm"),
        ({"soft": False}, False, "hose_hard"),  # cold, and pressure all the same
        ({"pressure": Pressure.GAUGE, "gauge_kpa": 0.0}, True, "signs"),
        ({"pressure": Pressure.GAUGE, "gauge_kpa": 20.0}, False, "gauge_up"),
        ({"ready": (Ready.TRAY, Ready.GLASSES)}, False, "not_ready"),
    ],
)
def test_both_signs_and_everything_ready(changes, opens, code):
    gate = gate_of(felt(**changes))
    assert (gate.open, codes(gate)) == (opens, [code])


def test_one_sign_is_not_two():
    gate = gate_of(felt(held=False, soft=False, ready=()))
    assert codes(gate) == ["too_hot_to_hold", "hose_hard", "not_ready"]


def test_the_preheater_is_asked_only_where_there_is_one():
    without = tuple(row for row in ALL if row is not Ready.PREHEATER_OFF)
    assert tuple(row.ready for row in asked_ready(Equipment())) == without
    assert gate_of(felt(ready=without)).open
    gate = gate_of(felt(ready=without), equipment=Equipment(preheater=True))
    assert gate.reasons[0].sentence == "Not yet: preheater off and locked."


def test_the_limit_is_the_depots():
    assert not gate_of(felt(warmth=Warmth.PROBE, temperature_c=42.0), gate_probe_c=40.0).open


@pytest.mark.parametrize("by", Ran)
def test_it_lapses_when_anything_warms_the_loop(by):
    gate = gate_of(felt(), ran=EngineRun(by, 3.0))
    assert codes(gate) == ["ran_since"]
    assert by.value in gate.reasons[0].sentence


def test_it_lapses_at_the_depots_midnight():
    """09:00 UTC is 23:30 far in the east: what counts is the depot's calendar."""
    east = timezone(timedelta(hours=14, minutes=30))
    late = gate_of(felt(), now=AT.astimezone(east))
    assert late.open  # 23:25 and 23:30
    assert codes(gate_of(felt(), now=(AT + timedelta(minutes=31)).astimezone(east))) == ["other_day"]
    assert gate_of(felt(), now=AT + timedelta(minutes=31)).open


@pytest.mark.parametrize(
    ("facts", "field"),
    [
        ({"held": None}, "held"),
        ({"warmth": Warmth.PROBE}, "temperature_c"),
        ({"warmth": Warmth.INFRARED, "temperature_c": 400.0}, "temperature_c"),
        ({"soft": None}, "soft"),
        ({"pressure": Pressure.GAUGE}, "gauge_kpa"),
        ({"pressure": Pressure.GAUGE, "gauge_kpa": -4.0}, "gauge_kpa"),
    ],
)
def test_an_observation_says_what_was_observed(facts, field):
    with pytest.raises(CoreError) as refused:
        felt(**facts)
    assert refused.value.field == field


class Bay:
    """A ledger at its own pace, by one person or another."""

    def __init__(self, route=Route.RENEW):
        self.loop, self.entries, self.now = a_loop(), [], AT
        advised = Route.TOP_UP if route is Route.TOP_UP else Route.CHANGE_OUT
        self.add(JobOpened(route), planned(), Routed(route, advised, "by the plan"))

    def add(self, *facts, by="Ines", by_id=None, later_min=1.0):
        """Admit and add, some minutes later; by_id: the name, if left out."""
        for one in facts:
            self.now += timedelta(minutes=later_min)
            check_entry(self.loop, self.entries, one, None, self.now, by_id or by)
            self.entries.append(Entry(f"e{len(self.entries)}", "j1", self.now, self.now, by, one, by_id or by))
        return fold(self.loop, self.entries, None, self.now)


def test_nothing_is_drained_before_the_gate_is_passed():
    bay = Bay()
    with pytest.raises(Conflict, match="gate is shut") as refused:
        bay.add(OUT)
    assert refused.value.code == "gate_shut"
    assert bay.add(felt(held=False)).stage is Stage.OPEN
    with pytest.raises(Conflict, match="Too hot to hold"):
        bay.add(OUT)
    state = bay.add(felt())
    assert (state.stage, state.gate.open) == (Stage.DRAIN, True)
    assert bay.add(OUT).stage is Stage.MIX


def test_nobody_passes_it_for_another():
    bay = Bay()
    bay.add(felt(), by="Ines")
    with pytest.raises(Conflict, match="Ines felt hose and cap") as refused:
        bay.add(OUT, by="Tomo")
    assert refused.value.code == "gate_of_another"
    bay.add(felt(), by="Tomo")
    assert bay.add(OUT, by="Tomo").stage is Stage.MIX


def test_two_people_of_one_name_are_two_people():
    bay = Bay()
    bay.add(felt(), by="Ines", by_id="7")
    with pytest.raises(Conflict, match="Whoever opens it"):
        bay.add(OUT, by="Ines", by_id="8")


def test_it_lapses_at_a_run_and_overnight_and_the_stage_comes_back():
    bay = Bay()
    bay.add(felt())
    assert bay.add(EngineRun()).stage is Stage.OPEN
    bay.add(felt())
    with pytest.raises(Conflict, match="another day"):
        bay.add(OUT, later_min=24 * 60)


def test_the_litres_of_a_loop_that_is_open_are_corrected_without_a_new_gate():
    bay = Bay()
    bay.add(felt(), OUT)
    drained = bay.entries[-1].id
    bay.add(Voided(drained), later_min=24 * 60)
    assert bay.add(Drained(23.0, Measured.WEIGHED), by="Tomo").drained_l == 23.0


def test_a_drain_that_was_taken_back_is_no_pass_for_a_hot_loop():
    bay = Bay()
    bay.add(felt(), OUT)
    bay.add(Voided(bay.entries[-1].id), EngineRun(Ran.ENGINE, 20.0))
    with pytest.raises(Conflict, match="engine ran since"):
        bay.add(OUT)
    bay.add(felt(held=False))
    with pytest.raises(Conflict, match="Too hot to hold"):
        bay.add(OUT, later_min=24 * 60)


def test_there_is_no_gate_where_nothing_is_opened_nor_before_the_decision():
    bay = Bay(Route.TOP_UP)
    with pytest.raises(Conflict, match="opens nothing"):
        bay.add(felt())
    early = Bay()
    early.entries.pop()  # the decision
    with pytest.raises(Conflict, match="Decide the route first"):
        early.add(felt())
