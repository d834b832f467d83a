"""What may follow what in a flush: admission, the gate of every round, pauses, the exception of a bleed."""

from datetime import timedelta

import pytest

from temper_core.basis.errors import CoreError
from temper_core.job.entries import Entry, JobOpened, Voided
from temper_core.job.fill.facts import Closed
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept, WasteKind
from temper_core.job.flush.state import Step
from temper_core.job.fold import fold
from temper_core.job.inspect.facts import Look, Sampled, Spot
from temper_core.job.job_types import JobType
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.waiting.facts import Clock, ClockStarted, Paused, Resumed
from temper_core.products.water import WaterKind
from tests.core.test_ledger import FELT, HOT, NEW, RINSE, START, Book, a_loop, planned, pour, weighed
from tests.core.test_rounds import BRIX_AS_FREEZE, PIPED, drained

# ---- what may follow what -----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("before", "facts", "code"),
    [
        ([], RINSE, None),
        ([RINSE], RINSE, "round_open"),
        ([RINSE], FlushEnded("x"), "round_open"),
        ([RINSE], pour(NEW, 5, 5), "round_open"),
        ([], pour(NEW, 5, 5), "flush_open"),
        ([FlushEnded("x")], RINSE, "flush_ended"),
        ([], RoundFilled(Method.FILL_RUN_DRAIN, WaterKind.TAP, 30.0), "more_than_room"),
        ([], VesselRinsed(Method.OPEN_RINSE, {"sump": 3}), "unknown_vessel"),
        ([], VesselRinsed(Method.BLOW_OUT, {"radiator": 9}), "more_than_inside"),
        ([], ClockStarted(Clock.WARM_UP, 25), "drained"),
        ([RINSE], ClockStarted(Clock.WARM_UP, 25), None),
        ([RINSE, ClockStarted(Clock.WARM_UP, 25)], ClockStarted(Clock.WARM_UP, 25), "runs_already"),
        ([], WasteKept(WasteKind.OLD_COOLANT, 24.5, 2), None),
        ([], WasteKept(WasteKind.OLD_COOLANT, 60, 2), "more_than_out"),
        ([], WasteKept(WasteKind.RINSE_WATER, 3, 1), "more_than_out"),
        ([], WasteKept(WasteKind.OLD_COOLANT, 20, 1, reuse=True), "no_reuse"),
        ([Paused()], RINSE, "paused"),
        ([Paused()], Paused(), "paused"),
        ([Paused()], WasteKept(WasteKind.OLD_COOLANT, 20, 1), None),
        ([Paused(), Resumed()], RINSE, None),
    ],
)
def test_what_may_follow_in_a_flush(before, facts, code):
    book = drained()
    book.add(*before)
    if code is None:
        book.add(facts)
        return
    with pytest.raises(CoreError) as refused:
        book.add(facts)
    assert refused.value.code == code


def test_good_coolant_with_a_reading_and_a_clean_sample_may_be_kept_for_reuse():
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), Sampled(Spot.NECK, (Look.CLEAN_BRIGHT,)))
    book.add(Read(-36.0, Place.AS_FOUND, BRIX_AS_FREEZE), planned(), weighed(24.5))
    state = book.add(WasteKept(WasteKind.OLD_COOLANT, 20, 1, reuse=True))
    assert state.flush.waste[0].reuse_l == 20


@pytest.mark.parametrize("kind", [WasteKind.RINSE_WATER])
def test_rinse_water_is_never_kept_for_reuse_however_good_the_old_was(kind):
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), Sampled(Spot.NECK, (Look.CLEAN_BRIGHT,)))
    book.add(Read(-36.0, Place.AS_FOUND, BRIX_AS_FREEZE), planned(), weighed(24.5), RINSE, HOT, weighed(24.5))
    with pytest.raises(CoreError) as refused:
        book.add(WasteKept(kind, 10, 1, reuse=True))
    assert refused.value.code == "never_reused"
    assert book.add(WasteKept(kind, 10, 1)).flush is not None


class Hands:
    """A ledger with ids and a clock, gate included."""

    def __init__(self):
        self.loop, self.entries, self.at = a_loop(layout=PIPED), [], START

    def add(self, facts, who="7", hours=0.5):
        """Validate as one person, half an hour later."""
        self.at += timedelta(hours=hours)
        check_entry(self.loop, self.entries, facts, None, self.at, who)
        self.entries.append(Entry(f"e{len(self.entries)}", "job", self.at, self.at, f"P{who}", facts, who))
        return self.state

    @property
    def state(self):
        """Now."""
        return fold(self.loop, self.entries, None, self.at)


def in_round():
    """Drained through its gate, a round run hot."""
    hands = Hands()
    for facts in (JobOpened(JobType.CHANGE_TYPE), planned()):
        hands.add(facts)
    from temper_core.job.inspect.decision import JobTypeChosen

    hands.add(JobTypeChosen(JobType.CHANGE_TYPE, fold(hands.loop, hands.entries).advice.job_type, "for the test"))
    for facts in (FELT, weighed(24.5), RINSE, HOT):
        state = hands.add(facts)
    assert state.flush.step is Step.GATE
    return hands


def test_every_hot_round_needs_a_gate_of_its_own_and_of_whoever_drains_it():
    hands = in_round()
    with pytest.raises(CoreError, match="This opens the loop. The engine ran since"):
        hands.add(weighed(24.5))
    assert hands.add(FELT).flush.step is Step.DRAIN
    with pytest.raises(CoreError, match="Whoever opens the loop must make it"):
        hands.add(weighed(24.5), who="8")
    assert hands.add(weighed(24.5)).flush.step is Step.PLAN


def test_the_gate_of_a_round_lapses_by_a_pause_a_night_and_a_warm_up():
    hands = in_round()
    hands.add(FELT)
    hands.add(Paused("lunch"))
    assert hands.add(Resumed()).flush.step is Step.GATE
    assert hands.add(FELT).flush.step is Step.DRAIN
    with pytest.raises(CoreError, match="made on another day"):
        hands.add(weighed(24.5), hours=20)
    hands.add(FELT, hours=20)
    assert hands.add(ClockStarted(Clock.WARM_UP, 25)).gate.open is False


def test_a_round_that_never_ran_is_drained_without_a_new_gate_and_its_litres_corrected():
    hands = in_round()
    hands.add(FELT)
    hands.add(weighed(24.5))
    hands.add(RINSE)
    hands.add(weighed(24.0), who="8", hours=20)
    hands.add(Voided(hands.entries[-1].id))
    assert hands.add(weighed(24.4)).flush.rounds[-1].out_l == 24.4


def test_a_neck_that_stayed_open_since_cold_was_never_under_pressure_and_still_opens_no_drain():
    """Common practice, no source: the one exception, inside a bleed."""
    hands = in_round()
    hands.add(FELT)
    hands.add(weighed(24.5))
    hands.add(FlushEnded("for the test"))
    hands.add(planned(-45.0, concentrate_l=18.2, water_l=6.6))
    hands.add(Closed(tuple(row.key for row in hands.state.fill.closing)))
    hands.add(pour(NEW, 18.2, 6.4))
    state = hands.add(EngineRun(opened=True, heater_full=True, neck_open=True))
    assert state.gate.never_under_pressure
    assert not state.gate.open
    assert not hands.add(EngineRun(opened=True, heater_full=True)).gate.never_under_pressure
