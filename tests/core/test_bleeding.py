"""Bleeding: where the runner is by start and pauses alone, when it stops for the gate, two signs, what a run does."""

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fill.facts import BleedEnded, BleedGoesOn, BleedHeld, BleedStarted, BleedStepped, Closed, LookedUnder
from temper_core.job.fill.state import FillStep
from temper_core.job.flush.facts import FlushEnded
from temper_core.job.fold import fold
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.job_types import JobType, Stage
from temper_core.job.validate import check_entry
from temper_core.machine.bleed_recipes import ELECTRONICS, FUNNEL, TANK, recipe_for, shipped_recipes
from temper_core.machine.bleed_run import BleedRun, Mark, segments
from temper_core.machine.bleeding import BleedOutcome, BleedRecipe, BleedStep, CapState, FinishSign, Setting, step_words
from temper_core.machine.circuit import Bleeder, BleederKind
from temper_core.machine.equipment import Equipment, TankKind
from temper_core.machine.layouts import GENERIC, generic_layout
from tests.core.test_ledger import FELT, LAYOUT, NEW, START, a_loop, planned, pour, weighed
from tests.core.test_rounds import PIPED

OPEN, SHUT = CapState.FUNNEL, CapState.TIGHT
TIMED = BleedRecipe(
    "Three times",
    (
        BleedStep("idle", 300, 800, cap=OPEN),
        BleedStep("rev", 40, 2500, cap=OPEN),
        BleedStep("until hot", None, 1500, cap=SHUT),
        BleedStep("lift the funnel", None, cap=OPEN),
    ),
)


def at(seconds):
    """A moment after the start."""
    return START + timedelta(seconds=seconds)


def run_of(recipe=TIMED, marks=(), may_open=True):
    """A bleed under way."""
    return BleedRun("run", recipe, START, "IH", may_open, [(at(s), mark, step) for s, mark, step in marks])


def now_at(seconds, **more):
    """The step as it stands."""
    return list(segments(run_of(**more), at(seconds)))[-1]


# ---- the clock ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("seconds", "step"), [(0, 0), (299, 0), (300, 1), (339, 1), (340, 2), (4000, 2)])
def test_timed_steps_follow_each_other_by_the_clock_alone(seconds, step):
    """Idle 5 min, then 2,500 rpm for 40 s: check values of practice, no source."""
    assert now_at(seconds).step == step


def test_a_step_without_a_time_waits_for_a_hand():
    assert now_at(4000).ends_at is None
    assert now_at(4000, marks=((900, Mark.STEPPED, 1),)).step == 2
    moved = now_at(910, marks=((900, Mark.STEPPED, 1),))
    assert (moved.step, moved.left_s) == (1, 30.0)


def test_a_held_step_keeps_what_is_left_of_it():
    held = now_at(1000, marks=((100, Mark.HELD, 0),))
    assert (held.step, held.left_s, held.ends_at) == (0, 200.0, None)
    on = now_at(1050, marks=((100, Mark.HELD, 0), (1000, Mark.GOES_ON, 0)))
    assert (on.step, on.left_s) == (0, 150.0)
    assert now_at(1201, marks=((100, Mark.HELD, 0), (1000, Mark.GOES_ON, 0))).step == 1


@given(st.lists(st.integers(1, 900), min_size=1, max_size=12, unique=True), st.integers(1, 2000))
def test_pauses_only_ever_add_to_the_time(presses, seconds):
    """However often it is held, a step has run as long as the clock less its pauses."""
    presses = sorted(presses)
    marks = [(s, Mark.HELD if i % 2 == 0 else Mark.GOES_ON, 0) for i, s in enumerate(presses)]
    before = [s for s in presses if s <= seconds]
    paused = sum(b - a for a, b in zip(before[::2], [*before[1::2], *([seconds] * (len(before) % 2))], strict=False))
    ran = seconds - paused
    assert now_at(seconds, marks=marks).step == (0 if ran < 300 else 1 if ran < 340 else 2)


def test_the_last_timed_step_is_over_and_stays():
    short = BleedRecipe("short", (BleedStep("idle", 60, 800),))
    assert not now_at(59, recipe=short).over
    assert now_at(61, recipe=short).over


# ---- the gate -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("steps", "may_open", "gate"),
    [
        ((BleedStep("a", 10, 800, cap=OPEN), BleedStep("b", 10, 800, cap=OPEN, bleeder=1)), True, False),
        ((BleedStep("a", 10, 800, cap=SHUT), BleedStep("b", 10, 800, cap=OPEN)), True, True),
        ((BleedStep("a", 10, 800, cap=SHUT), BleedStep("b", 10, 800, cap=SHUT, bleeder=1)), True, True),
        ((BleedStep("a", 10, None, cap=SHUT), BleedStep("b", 10, 800, cap=OPEN)), True, False),
        ((BleedStep("a", 10, 800, cap=OPEN), BleedStep("b", 10, 800, cap=OPEN, bleeder=1)), False, True),
    ],
)
def test_the_runner_stops_before_it_opens_a_loop_that_ran_shut(steps, may_open, gate):
    """A loop that has stayed open since it was cold was never under pressure: common practice, no source."""
    state = now_at(15, recipe=BleedRecipe("x", steps), may_open=may_open)
    assert (state.gate, state.step) == (gate, 0 if gate else 1)


class Hands:
    """A groomer filled to its mark, with a clock; the gate is really passed."""

    def __init__(self, loop=None):
        self.loop, self.entries, self.at = loop or a_loop(layout=PIPED), [], START
        for facts in (JobOpened(JobType.CHANGE_TYPE), planned()):
            self.add(facts)
        self.add(JobTypeChosen(JobType.CHANGE_TYPE, self.state.advice.job_type, "for the test"))
        for facts in (
            FELT,
            weighed(24.5),
            FlushEnded("no time"),
            planned(-40.0, concentrate_l=16.0, water_l=8.6),
        ):
            self.add(facts)
        self.add(Closed(tuple(row.key for row in self.state.fill.closing)))
        self.add(pour(NEW, 16.0, 8.6, at_mark=True), LookedUnder(True))

    def add(self, *facts, seconds=60):
        """Validate each, so many seconds later."""
        for one in facts:
            self.at += timedelta(seconds=seconds)
            check_entry(self.loop, self.entries, one, None, self.at, "7")
            self.entries.append(Entry(f"e{len(self.entries)}", "job", self.at, self.at, "IH", one, "7"))
        return self.state

    def later(self, seconds):
        """The state so many seconds on."""
        return fold(self.loop, self.entries, None, self.at + timedelta(seconds=seconds))

    @property
    def state(self):
        """Now."""
        return self.later(0)


def test_while_the_neck_stays_open_it_may_be_topped_up_and_once_it_ran_shut_it_may_not():
    hands = Hands()
    hands.add(BleedStarted(TIMED))
    warm = hands.later(200)
    assert not warm.gate.open
    assert warm.gate.never_under_pressure
    assert not warm.gate.ran_shut
    hands.add(pour(NEW, 0.5, 0.3, at_mark=True, bleeding=True), seconds=200)
    shut = hands.later(200)
    assert shut.fill.bleed.run.step == 2
    assert shut.fill.bleed.run.gate
    assert not shut.gate.never_under_pressure
    assert shut.gate.ran_shut
    hands.at += timedelta(seconds=200)
    for facts in (pour(NEW, 0.2, 0, bleeding=True), BleedStepped(3)):
        with pytest.raises(Conflict, match="safe to open|check again"):
            hands.add(facts)
    hands.add(FELT, BleedStepped(3))
    assert hands.state.fill.bleed.run.step == 3


def test_what_was_felt_during_a_bleed_lapses_with_the_next_hot_step():
    steps = (
        BleedStep("warm", 60, 1500),
        BleedStep("open it, top up", None, cap=OPEN, top_up=True),
        BleedStep("warm again", 60, 1500),
        BleedStep("cool", None),
    )
    hands = Hands()
    hands.add(BleedStarted(BleedRecipe("twice", steps)))
    assert hands.later(90).fill.bleed.run.gate
    hands.at += timedelta(seconds=90)
    hands.add(FELT, BleedStepped(1))
    assert hands.state.gate.open
    hands.add(BleedStepped(2))
    assert not hands.later(30).gate.open
    with pytest.raises(Conflict, match="ran since the check"):
        hands.add(pour(NEW, 0.2, 0.1, bleeding=True))


def test_a_running_bleed_is_not_put_aside():
    from temper_core.job.waiting.facts import Paused

    hands = Hands()
    hands.add(BleedStarted(TANK))
    with pytest.raises(Conflict, match="Stop it before"):
        hands.add(Paused())


def test_two_signs_finish_it_and_one_does_not():
    with pytest.raises(CoreError, match="it takes two"):
        BleedEnded(BleedOutcome.FINISHED, (FinishSign.NO_BUBBLES, FinishSign.NO_BUBBLES))
    hands = Hands()
    assert hands.state.fill.step is FillStep.BLEED
    hands.add(BleedStarted(TANK))
    state = hands.add(BleedEnded(BleedOutcome.FINISHED, (FinishSign.HEATER_HOT, FinishSign.BOTTOM_HOT)), seconds=1500)
    assert state.stage is Stage.VERIFY
    assert state.ran_hot
    assert state.claim.why == "by_litres"
    assert not state.gate.open


@pytest.mark.parametrize("outcome", [BleedOutcome.OVERHEATING, BleedOutcome.NO_HEAT, BleedOutcome.STOPPED])
def test_a_bleed_that_went_wrong_says_what_to_do_and_proves_no_mixing(outcome):
    hands = Hands()
    hands.add(BleedStarted(TANK))
    state = hands.add(BleedEnded(outcome), seconds=700)
    assert state.stage is Stage.FILL
    assert state.fill.bleed.outcome is outcome
    assert state.fill.bleed.said.code == {"stopped": "bleed_stopped"}.get(outcome.value, outcome.value)
    assert not state.ran_hot
    assert state.claim.why == "weakest_vessel"
    assert state.fill.bleed.level_first is (outcome is not BleedOutcome.STOPPED)
    if outcome is not BleedOutcome.STOPPED:
        assert "check it is safe to open" in state.fill.bleed.said.sentence


@pytest.mark.parametrize(
    "ended",
    [
        BleedEnded(BleedOutcome.FINISHED, (FinishSign.HEATER_HOT, FinishSign.LEVEL_STEADY)),
        BleedEnded(BleedOutcome.FINISHED, (FinishSign.BOTTOM_HOT, FinishSign.FAN_CYCLED)),
        BleedEnded(BleedOutcome.OVERHEATING),
        BleedEnded(BleedOutcome.NO_HEAT),
    ],
)
def test_what_was_felt_hot_ran_whatever_step_the_runner_stood_at(ended):
    """The runner still stood at a cold step that a hand ends: the gate shuts all the same."""
    cold = BleedRecipe(
        "cold first", (BleedStep("until a solid stream comes", cap=OPEN, bleeder=1), BleedStep("idle", 60, 800))
    )
    hands = Hands()
    hands.add(BleedStarted(cold))
    state = hands.add(ended, seconds=900)
    assert not state.gate.open
    assert not state.gate.never_under_pressure


def test_a_cold_bleed_leaves_the_gate_as_it_was():
    hands = Hands()
    state = hands.add(BleedEnded(BleedOutcome.FINISHED, (FinishSign.SOLID_STREAM, FinishSign.LEVEL_STEADY)))
    assert state.gate.open
    assert not state.ran_hot


def test_one_bleed_at_a_time_and_none_that_does_not_run_is_moved():
    hands = Hands()
    for facts in (BleedStepped(1), BleedHeld(), BleedGoesOn()):
        with pytest.raises(Conflict, match="No bleed is running"):
            hands.add(facts)
    hands.add(BleedStarted(TANK))
    with pytest.raises(Conflict, match="has started a bleed already"):
        hands.add(BleedStarted(TANK))
    hands.add(BleedHeld())
    with pytest.raises(Conflict, match="paused already"):
        hands.add(BleedHeld())
    with pytest.raises(CoreError, match="steps"):
        hands.add(BleedStepped(20))


# ---- recipes ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("generic", GENERIC, ids=lambda row: row.key)
def test_every_generic_layout_has_a_recipe_and_its_bleeders_exist(generic):
    layout = generic_layout(generic.key, 20.0)
    numbers = {row.number for row in layout.bleeders}
    for recipe in shipped_recipes(layout):
        assert {step.bleeder for step in recipe.steps if step.bleeder} <= numbers
    assert recipe_for(layout, Equipment()).steps


def test_the_build_asks_for_its_recipe_and_the_loops_own_goes_first():
    electronics = generic_layout("power_electronics", 8.0)
    assert recipe_for(electronics, Equipment()) is ELECTRONICS
    assert all(not step.heats for step in ELECTRONICS.steps)
    assert recipe_for(LAYOUT, Equipment(tank=TankKind.NONE)) is FUNNEL
    assert recipe_for(LAYOUT, Equipment()) is TANK
    assert recipe_for(LAYOUT, Equipment(bleed=TIMED)) is TIMED
    screwed = replace(LAYOUT, bleeders=(Bleeder(2, "heater", 1700), Bleeder(1, "block", 1100, BleederKind.NIPPLE)))
    assert [step.bleeder for step in recipe_for(screwed, Equipment()).steps][:3] == [1, 2, None]


def test_an_electric_pump_that_swirled_has_mixed_its_loop():
    """Electronics: service mode, overfill, the pump never dry, swirl seen: common practice, no source."""
    hands = Hands(a_loop(layout=generic_layout("power_electronics", 32.0)))
    asked = {row.sign for row in hands.state.fill.bleed.asked}
    assert FinishSign.SWIRL in asked
    assert FinishSign.BOTTOM_HOT not in asked
    hands.add(BleedStarted(hands.state.fill.bleed.recipe))
    state = hands.add(BleedEnded(BleedOutcome.FINISHED, (FinishSign.SWIRL, FinishSign.LEVEL_STEADY)))
    assert state.ran_hot
    assert state.gate.open  # nothing warmed it


def test_a_step_is_said_in_short_words():
    step = BleedStep(
        "x", 30, 2500, heater=Setting.OFF, blower=Setting.LOW, ac=Setting.OFF, cap=CapState.ENGAGED, nose_up=True
    )
    assert step_words(step) == ("2500 rpm", "heater off", "blower low", "AC off", "cap just engaged", "front up")
    assert step_words(BleedStep("x", 3, pump=True, bleeder=2, top_up=True)) == (
        "pump on", "cap tight", "bleeder 2 open", "keep it topped up",
    )  # fmt: skip


@pytest.mark.parametrize(
    ("given_", "field"),
    [
        ({"seconds": 0}, "seconds"),
        ({"seconds": 10, "rpm": 20}, "rpm"),
        ({}, "act"),
        ({"act": "x" * 141}, "act"),
        ({"act": "x", "bleeder": 0}, "bleeder"),
    ],
)
def test_a_step_that_cannot_be_is_refused(given_, field):
    with pytest.raises(CoreError) as refused:
        BleedStep(**given_)
    assert refused.value.field == field


@pytest.mark.parametrize(("name", "steps"), [("", TIMED.steps), ("x", ()), ("x", (BleedStep("a", 5, 800, pump=True),))])
def test_a_recipe_that_cannot_be_is_refused(name, steps):
    with pytest.raises(CoreError):
        BleedRecipe(name, steps)
