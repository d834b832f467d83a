"""The scald gate: two observations, what lapses them, nobody for another. Source: common practice, no source."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta, timezone

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import Entry, JobOpened, Voided
from temper_core.job.fill.facts import Closed
from temper_core.job.fold import fold
from temper_core.job.inspect import facts as inspection
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.inspect.facts import CHECK_ROWS, Check, Look, Sampled, Spot
from temper_core.job.job_types import JobType, Stage
from temper_core.job.open.facts import EngineRun, GateObserved, Pressure, Ran, Ready, ReadyConfirmed, Warmth
from temper_core.job.open.rules import asked_ready, judge_gate
from temper_core.job.open.state import Observation
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import Conflict, check_entry
from temper_core.job.verify.facts import SignedOff
from temper_core.job.waiting.facts import Clock, ClockStarted
from temper_core.machine.equipment import Equipment, TankKind
from temper_core.products.chemistry import Base, Family, Fluid
from tests.core.test_ledger import GLASS, NEW, a_loop, planned, pour

AT = datetime(2026, 11, 26, 9, 0, tzinfo=UTC)
ALL = tuple(Ready)
HELD = {"warmth": Warmth.HAND, "held": True}
SOFT = {"pressure": Pressure.HOSE, "soft": True}
OAT = Fluid(Base.ETHYLENE, Family.OAT)
OUT = Drained(24.5, Measured.WEIGHED)


def felt(**changes):
    """Held in the hand, hose soft, everything ready; with changes."""
    return GateObserved(**({"ready": ALL, "isolated_by": "Nils Aune"} | HELD | SOFT | changes))


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
    assert "Elapsed time is not enough" in gate.reasons[0].sentence


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
        ({"ready": (Ready.GLASSES,)}, True, "signs"),  # stands and tray are asked before a drain
        ({"ready": (Ready.TRAY, Ready.SUPPORTED)}, False, "not_ready"),
    ],
)
def test_both_signs_and_everything_ready(changes, opens, code):
    gate = gate_of(felt(**changes))
    assert (gate.open, codes(gate)) == (opens, [code])


def test_one_sign_is_not_two():
    gate = gate_of(felt(held=False, soft=False, ready=()))
    assert codes(gate) == ["too_hot_to_hold", "hose_hard", "not_ready"]


def test_the_preheater_is_asked_only_where_there_is_one():
    without = (Ready.GLASSES,)
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

    def __init__(self, job_type=JobType.REFILL, **changes):
        self.loop, self.entries, self.now = a_loop(believed=OAT, **changes), [], AT
        self.add(JobOpened(job_type), planned(), JobTypeChosen(job_type, job_type))

    def add(self, *facts, by="Ines", by_id=None, later_min=1.0):
        """Validate and add, some minutes later; by_id: the name, if left out."""
        for one in facts:
            self.now += timedelta(minutes=later_min)
            check_entry(self.loop, self.entries, one, None, self.now, by_id or by)
            self.entries.append(Entry(f"e{len(self.entries)}", "j1", self.now, self.now, by, one, by_id or by))
        return fold(self.loop, self.entries, None, self.now)


def test_nothing_is_drained_before_the_gate_is_passed():
    bay = Bay()
    with pytest.raises(Conflict, match="This opens the loop") as refused:
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
    with pytest.raises(Conflict, match="Ines made the safe-to-open check") as refused:
        bay.add(OUT, by="Tomo")
    assert refused.value.code == "gate_of_another"
    bay.add(felt(), by="Tomo")
    assert bay.add(OUT, by="Tomo").stage is Stage.MIX


def test_two_people_of_one_name_are_two_people():
    bay = Bay()
    bay.add(felt(), by="Ines", by_id="7")
    with pytest.raises(Conflict, match="Whoever opens the loop"):
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
    with pytest.raises(Conflict, match="engine ran since the check"):
        bay.add(OUT)
    bay.add(felt(held=False))
    with pytest.raises(Conflict, match="Too hot to hold"):
        bay.add(OUT, later_min=24 * 60)


def test_high_voltage_is_made_dead_by_somebody_named():
    assert [row.ready for row in asked_ready(Equipment(), high_voltage=True)] == [Ready.GLASSES, Ready.ISOLATED]
    with pytest.raises(CoreError, match="Choose the person") as refused:
        felt(isolated_by=" ")
    assert refused.value.field == "isolated_by_id"
    seen = Observation("e1", AT, "Ines", "1", felt(ready=(Ready.GLASSES,)))
    assert codes(judge_gate(seen, Equipment(), Policy(), AT, high_voltage=True)) == ["not_ready"]


def test_stands_and_tray_are_asked_before_a_drain_and_lapse_with_the_day():
    bay = Bay()
    state = bay.add(felt(ready=(Ready.GLASSES,)))
    assert (state.gate.open, state.stage) == (True, Stage.OPEN)
    assert [row.ready for row in state.gate.asked_drain] == [Ready.SUPPORTED, Ready.TRAY]
    assert state.next_action.act.code == "ready_drain"
    with pytest.raises(Conflict, match="Before a drain: on supports") as refused:
        bay.add(OUT)
    assert refused.value.code == "not_ready"
    assert bay.add(ReadyConfirmed((Ready.SUPPORTED, Ready.TRAY))).stage is Stage.DRAIN
    later = fold(bay.loop, bay.entries, None, bay.now + timedelta(days=1))
    assert len(later.gate.asked_drain) == 2


def test_an_engine_starts_only_where_its_exhaust_is_led_off():
    bay = Bay()
    bay.add(felt(ready=(Ready.GLASSES,)))
    with pytest.raises(Conflict, match="Before the engine runs: exhaust ventilated"):
        bay.add(ClockStarted(Clock.WARM_UP, 25))
    bay.add(ReadyConfirmed((Ready.VENTILATED,)), ClockStarted(Clock.WARM_UP, 25))
    with pytest.raises(CoreError, match="Nothing is ticked"):
        ReadyConfirmed(())


COLD_TESTS = [Check.LEVEL, Check.LEAKS, Check.HOSES, Check.BUBBLES, Check.RADIATOR]
ANSWERS = {
    Check.RADIATOR: {"figures": {"in_c": 88.0, "out_c": 70.0}},
    Check.PRESSURE: {"figures": {"start_kpa": 100.0, "end_kpa": 100.0, "minutes": 10.0}},
    Check.INHIBITOR: {"figures": {"ph": 8.5}},
    Check.CONDUCTIVITY: {"figures": {"us_cm": 40.0, "sample_c": 20.0}},
}


def answered(check):
    """A check with an answer that it takes."""
    outcomes = CHECK_ROWS[check].outcomes
    return inspection.Tested(check, outcomes[0].key if outcomes else None, **ANSWERS.get(check, {}))


@pytest.mark.parametrize("check", Check)
def test_what_opens_the_loop_stands_behind_the_check_whatever_ran_before(check):
    """After a hot run nothing that opens is taken; from outside it may be looked at hot."""
    bay = Bay(JobType.CHECK)
    bay.add(EngineRun(minutes=20))
    if check in (*COLD_TESTS, Check.CATCH_TANK):
        bay.add(answered(check))
        return
    with pytest.raises(Conflict, match="This opens the loop"):
        bay.add(answered(check))
    bay.add(felt(ready=(Ready.GLASSES,)), answered(check))


@pytest.mark.parametrize(
    ("facts", "tank", "opens"),
    [
        (Sampled(Spot.NECK, (Look.FADED,)), TankKind.OVERFLOW, True),
        (Sampled(Spot.BOTTLE, (Look.FADED,)), TankKind.DEGAS, True),
        (Sampled(Spot.BOTTLE, (Look.FADED,)), TankKind.DEGAS_AND_CATCH, True),
        (Sampled(Spot.BOTTLE, (Look.FADED,)), TankKind.OVERFLOW, False),
        (Sampled(Spot.RADIATOR, (Look.FADED,)), TankKind.OVERFLOW, True),
        (Sampled(Spot.DRAIN, (Look.FADED,)), TankKind.OVERFLOW, True),
        (inspection.Tested(Check.LEVEL, "low"), TankKind.NONE, True),
        (inspection.Tested(Check.LEVEL, "low"), TankKind.DEGAS, False),
        (Read(-30.0, Place.AS_FOUND, GLASS, 0.0), TankKind.DEGAS, True),
        (Read(-30.0, Place.AS_FOUND), TankKind.DEGAS, False),  # told, nothing opened
    ],
)
def test_what_opens_is_data_of_the_finding_and_the_tank(facts, tank, opens):
    bay = Bay(JobType.CHECK, equipment=Equipment(tank=tank))
    if opens:
        with pytest.raises(Conflict) as refused:
            bay.add(facts)
        assert refused.value.code == "gate_shut"
        bay.add(felt())
    bay.add(facts)


def test_a_top_up_is_poured_only_behind_the_check():
    bay = Bay(JobType.TOP_UP)
    with pytest.raises(Conflict, match="Check it is safe to open"):
        bay.add(pour(NEW, 0.5, 0, at_mark=True))
    assert fold(bay.loop, bay.entries, None, bay.now).stage is Stage.OPEN
    bay.add(felt(held=False))
    with pytest.raises(Conflict, match="Too hot to hold"):
        bay.add(pour(NEW, 0.5, 0, at_mark=True))
    assert bay.add(felt()).stage is Stage.FILL
    bay.add(pour(NEW, 0.5, 0, at_mark=True))
    with pytest.raises(Conflict, match="The machine ran hot since"):  # the reading itself says so
        bay.add(Read(-30.0, Place.FINISHED, GLASS, 0.0, after_hot_run=True))
    bay.add(felt(), Read(-30.0, Place.FINISHED, GLASS, 0.0, after_hot_run=True))


def test_a_check_that_failed_after_a_run_lets_nothing_be_topped_up():
    """Too hot is too hot, whether the run was recorded before the check or not."""
    bay = Bay()
    bay.add(felt(), OUT, planned(-30.0, concentrate_l=10.0, water_l=10.0))
    points = tuple(row.key for row in fold(bay.loop, bay.entries, None, bay.now).fill.closing)
    bay.add(Closed(points), pour(NEW, 5.0, 5.0), EngineRun(minutes=10), felt(held=False))
    with pytest.raises(Conflict, match="Too hot to hold"):
        bay.add(pour(NEW, 1.0, 1.0))


def test_a_check_recorded_before_a_run_is_older_whatever_its_clock_says():
    bay = Bay()
    bay.entries.append(Entry("early", "j1", bay.now + timedelta(minutes=4), bay.now, "Ines", felt(), "Ines", 7))
    bay.entries.append(Entry("ran", "j1", bay.now + timedelta(minutes=2), bay.now, "Ines", EngineRun(), "Ines", 8))
    assert codes(fold(bay.loop, bay.entries, None, bay.now + timedelta(minutes=5)).gate) == ["ran_since"]


def test_the_gas_test_warms_the_loop_and_asks_for_the_check_again():
    bay = Bay(JobType.CHECK)
    state = bay.add(felt(), answered(Check.COMBUSTION_GAS))
    assert codes(state.gate) == ["ran_since"]
    assert any("vents through it" in step for step in CHECK_ROWS[Check.COMBUSTION_GAS].steps)
    assert any("again before the tester comes off" in step for step in CHECK_ROWS[Check.PRESSURE].steps)


def test_between_services_the_check_stands_for_an_hour_and_not_after_it_left():
    loop = a_loop()
    look = [Entry("g", None, AT, AT, "Ines", felt(), "7", 1)]
    top_up, minutes = pour(NEW, 0.3, 0), timedelta(minutes=1)
    with pytest.raises(Conflict, match="safe to open"):
        check_entry(loop, [], top_up, None, AT, "7", between=True)
    check_entry(loop, look, top_up, None, AT + 59 * minutes, "7", between=True)
    with pytest.raises(Conflict, match="runs are not recorded"):
        check_entry(loop, look, top_up, None, AT + 61 * minutes, "7", between=True)
    with pytest.raises(Conflict, match="made the safe-to-open check"):
        check_entry(loop, look, top_up, None, AT + minutes, "8", between=True)
    bay = Bay(JobType.CHECK)
    bay.add(felt(), SignedOff("checked"))
    assert codes(fold(bay.loop, bay.entries, None, bay.now).gate) == ["left"]


def test_what_was_made_dead_works_again_before_sign_off():
    bay = Bay(JobType.CHECK, high_voltage=True)
    bay.add(felt())
    with pytest.raises(Conflict, match="End service mode") as refused:
        bay.add(SignedOff("checked"))
    assert refused.value.code == "service_mode"
    assert bay.add(SignedOff("checked", service_mode_ended=True)).signed_at


def test_a_loop_that_nobody_felt_asks_for_everything_and_claims_nothing():
    gate = judge_gate(None, Equipment(preheater=True), Policy(), None, high_voltage=True)
    assert (gate.open, gate.observed, gate.observed_at, gate.by, gate.by_id) == (False, False, None, "", "")
    assert [row.ready for row in gate.asked] == [Ready.GLASSES, Ready.PREHEATER_OFF, Ready.ISOLATED]
    assert [row.ready for row in gate.asked_drain] == [Ready.SUPPORTED, Ready.TRAY]
    assert [row.ready for row in gate.asked_run] == [Ready.VENTILATED]
    assert gate.reasons[0].sentence == (
        "Check it is safe to open first: cold in the hand, and no pressure. Elapsed time is not enough."
    )


@pytest.mark.parametrize(
    ("facts", "told"),
    [
        (
            GateObserved(Warmth.HAND, Pressure.HOSE, held=True, soft=True, ready=(Ready.GLASSES,)),
            "Can be held, hose soft.",
        ),
        (
            GateObserved(Warmth.PROBE, Pressure.GAUGE, temperature_c=31, gauge_kpa=0, ready=(Ready.GLASSES,)),
            "31 °C, gauge at zero.",
        ),
    ],
)
def test_an_open_gate_says_which_two_signs_opened_it(facts, told):
    at = datetime(2026, 11, 27, 9, 0, tzinfo=UTC)
    gate = judge_gate(Observation("e", at, "IH", "7", facts), Equipment(), Policy(), at)
    assert gate.open
    assert [said.sentence for said in gate.reasons] == [told]
    assert [row.ready for row in gate.asked] == [Ready.GLASSES]


def test_the_day_of_a_check_is_the_depots_and_an_hour_between_services_is_an_hour():
    """23:30 in a depot two hours east is the same day there, though already another one in the west; and the other way."""
    facts = GateObserved(Warmth.HAND, Pressure.HOSE, held=True, soft=True, ready=(Ready.GLASSES,))
    east = timezone(timedelta(hours=2))
    felt = datetime(2026, 11, 27, 21, 30, tzinfo=UTC)  # 23:30 there
    seen = Observation("e", felt, "IH", "7", facts)
    before, after = (felt + timedelta(minutes=n) for n in (29, 31))
    assert judge_gate(seen, Equipment(), Policy(), before.astimezone(east)).open
    late = judge_gate(seen, Equipment(), Policy(), after.astimezone(east))
    assert [said.sentence for said in late.reasons] == ["The check was made on another day. Check again."]
    between = replace(seen, between=True)
    minutes = Policy()["gate_between_min"]
    noon = datetime(2026, 11, 27, 9, 0, tzinfo=UTC)
    at_noon = replace(between, at=noon)
    assert judge_gate(at_noon, Equipment(), Policy(), noon + timedelta(minutes=minutes)).open
    assert not judge_gate(at_noon, Equipment(), Policy(), noon + timedelta(minutes=minutes, seconds=1)).open
