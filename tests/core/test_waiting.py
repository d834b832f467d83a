"""Clocks and estimates from the ledger: what runs, what rang, which limit is passed, and whose turn it is."""

import math
from datetime import timedelta

import pytest
from scipy.integrate import solve_ivp

from temper_core.job.entries import Entry, JobOpened, Voided
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.open.facts import EngineRun, GateObserved, Pressure, Ready, Warmth
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged
from temper_core.job.waiting.state import TimerKind, WaitKind
from temper_core.job.waiting.view import wait_of
from temper_core.views.board.bands import band_of, turn
from tests.core.test_ledger import HOT, RINSE, START, a_loop, planned, weighed
from tests.core.test_rounds import DOSED, PIPED

WARM = ClockStarted(Clock.WARM_UP, 25)


class Bay:
    """A ledger by minutes; nothing is checked, only walked."""

    def __init__(self, *rows, loop=None):
        self.loop = loop or a_loop(layout=PIPED)
        self.entries = []
        for minute, facts in rows:
            self.add(minute, facts)

    def add(self, minute, facts, job="job"):
        """A fact at a minute."""
        at = START + timedelta(minutes=minute)
        self.entries.append(Entry(f"e{len(self.entries)}", job, at, at, "IH", facts, "7"))
        return self

    def at(self, minute):
        """State and wait at a minute."""
        now = START + timedelta(minutes=minute)
        state = fold(self.loop, self.entries, None, now)
        return state, wait_of(state, now)


OPEN = [(0, JobOpened(JobType.CHANGE_TYPE)), (1, planned()), (2, weighed(24.5))]


def test_a_clock_counts_and_then_rings_until_it_is_done_with():
    bay = Bay(*OPEN, (10, RINSE), (11, WARM))
    state, wait = bay.at(20)
    assert [(timer.kind, timer.ends_at) for timer in state.timers] == [(TimerKind.WARM_UP, START + timedelta(minutes=36))]
    assert (wait.kind, wait.until) == (WaitKind.COUNTING, START + timedelta(minutes=36))
    state, wait = bay.at(40)
    assert (wait.kind, wait.timer, wait.since) == (WaitKind.HANDS, TimerKind.WARM_UP, START + timedelta(minutes=36))
    state, wait = bay.add(41, HOT).at(41)
    assert TimerKind.WARM_UP not in {timer.kind for timer in state.timers}


def test_a_stopped_clock_is_gone_and_another_runs_on():
    bay = Bay(*OPEN, (10, RINSE), (11, WARM), (12, ClockStarted(Clock.HOSE_FLOW, 15)))
    bay.add(13, ClockStopped("e4"))
    assert [timer.kind for timer in bay.at(14)[0].timers] == [TimerKind.HOSE_FLOW]


@pytest.mark.parametrize(("minute", "kind"), [(100, WaitKind.COUNTING), (189, WaitKind.COUNTING), (191, WaitKind.HANDS)])
def test_a_cleaner_runs_by_its_label(minute, kind):
    """Run 180 minutes, limit 240, from when it went in."""
    assert Bay(*OPEN, (10, DOSED)).at(minute)[1].kind is kind


def test_a_cleaner_past_its_limit_outranks_a_pause_and_cannot_be_put_away():
    bay = Bay(*OPEN, (10, DOSED), (60, Paused("lunch")))
    assert bay.at(100)[1].kind is WaitKind.PAUSED
    state, wait = bay.at(255)
    assert (wait.kind, wait.timer, wait.since) == (WaitKind.LIMIT, TimerKind.CLEANER, START + timedelta(minutes=250))
    assert state.timers[0].limit_at == START + timedelta(minutes=250)
    bay.add(256, Resumed()).add(257, HOT)
    assert bay.at(258)[1].kind is WaitKind.LIMIT  # still in
    bay.add(300, weighed(24.5))
    assert bay.at(301)[1].kind is not WaitKind.LIMIT


def test_cooling_is_newtons_law_from_the_moment_the_engine_went_off():
    """Against SciPy's integrator: 95 to 45 degC in 10 degC, time constant 180 min for a large loop (contract)."""
    state, wait = Bay(*OPEN, (10, RINSE), (36, HOT)).at(40)
    timer = next(timer for timer in state.timers if timer.kind is TimerKind.COOLING)
    solved = solve_ivp(
        lambda _t, y: -(y - 10) / 180, (0, 400), [95.0], events=lambda _t, y: y[0] - 45, rtol=1e-10, atol=1e-10
    )
    minutes = float(solved.t_events[0][0])
    assert (timer.likely_at - START).total_seconds() / 60 == pytest.approx(36 + minutes, abs=0.01)
    assert (timer.low_at - START).total_seconds() / 60 == pytest.approx(36 + minutes / 1.6, abs=0.01)
    assert wait.kind is WaitKind.COOLING


def test_logged_temperatures_sharpen_it_and_teach_the_loop():
    """A loop that cools with 120 minutes, read three times; its next round is estimated by what it taught."""
    bay = Bay(*OPEN, (10, RINSE), (36, HOT))
    for after in (20, 40, 70):
        bay.add(36 + after, TemperatureLogged(10 + 85 * math.exp(-after / 120)))
    timer = bay.at(110)[0].timers[0]
    assert timer.points == 3
    expected = 120 * math.log(85 / 35)
    assert (timer.likely_at - START).total_seconds() / 60 == pytest.approx(36 + expected, abs=0.5)
    width = (timer.high_at - timer.low_at).total_seconds() / 60
    assert width < 20
    bay.add(150, weighed(24.5)).add(160, RINSE).add(190, HOT)
    taught = bay.at(191)[0].timers[0]
    assert taught.learned
    assert (taught.likely_at - START).total_seconds() / 60 == pytest.approx(190 + expected, abs=1)


def test_nonsense_temperatures_leave_the_usual_estimate():
    bay = Bay(*OPEN, (10, RINSE), (36, HOT), (56, TemperatureLogged(60)), (76, TemperatureLogged(80)))
    timer = bay.at(80)[0].timers[0]
    assert (timer.kind, timer.points) == (TimerKind.COOLING, 0)


def test_a_loop_felt_too_warm_cools_from_what_was_measured():
    warm = GateObserved(Warmth.PROBE, Pressure.HOSE, temperature_c=58.0, soft=True, ready=(Ready.GLASSES,))
    state, wait = Bay((0, JobOpened(JobType.REFILL)), (1, planned()), (5, warm)).at(6)
    assert wait.kind is WaitKind.COOLING
    assert (wait.until - START).total_seconds() / 60 == pytest.approx(5 + 180 * math.log(48 / 35), abs=0.01)
    cold = GateObserved(Warmth.HAND, Pressure.HOSE, held=True, soft=True, ready=tuple(Ready), isolated_by="NA")
    state, wait = Bay((0, JobOpened(JobType.REFILL)), (5, warm), (60, cold)).at(61)
    assert state.timers == ()


def test_time_is_never_proof():
    """However long ago the engine went off, the estimate opens nothing."""
    state, wait = Bay(*OPEN, (10, RINSE), (36, HOT)).at(36 + 24 * 60)
    assert not state.gate.open
    assert (wait.kind, wait.timer) == (WaitKind.HANDS, TimerKind.COOLING)


def test_an_engine_run_taken_back_takes_its_cooling_with_it():
    bay = Bay(*OPEN, (10, RINSE), (36, EngineRun(opened=True)))
    bay.add(37, Voided("e4"))
    assert bay.at(40)[0].timers == ()


def test_whoever_takes_it_up_has_it_in_hand():
    bay = Bay(*OPEN, (10, Paused("fuse is on order")))
    state, wait = bay.at(20)
    assert (state.paused.note, state.next_action.act.code) == ("fuse is on order", "resume")
    assert "still inside" in state.standing.sentence
    state, _ = bay.add(30, Resumed()).at(31)
    assert (state.paused, state.hands_id) == (None, "7")


def test_a_board_is_sorted_limit_hands_clock_cooling_pause():
    bays = {
        "limit": Bay(*OPEN, (10, DOSED)),
        "hands": Bay(*OPEN),
        "counting": Bay(*OPEN, (10, RINSE), (250, WARM)),
        "cooling": Bay(*OPEN, (10, RINSE), (240, HOT)),
        "paused": Bay(*OPEN, (10, Paused())),
    }
    states = {name: bay.at(260) for name, bay in bays.items()}
    assert {name: wait.kind.value for name, (_, wait) in states.items()} == {name: name for name in bays}
    order = {name: turn(band_of(wait, can_freeze=False), wait) for name, (_, wait) in states.items()}
    assert sorted(states, key=order.__getitem__) == list(bays)
