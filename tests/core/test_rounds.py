"""Rounds as run: dilution, readings that correct, cleaner, tap residue, the two-part stop rule, the gate of every round."""

import math

import numpy as np
import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.calculate.flush.estimate import Source
from temper_core.instruments import Scale
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import JobOpened
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed
from temper_core.job.identify.facts import ReportedContents
from temper_core.job.inspect.facts import Look, Sampled, Spot
from temper_core.job.job_types import JobType, Stage
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Instrument, Place, Read
from temper_core.job.verify.facts import SignedOff
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind, Pipe, Via, circulating
from temper_core.machine.equipment import Equipment, TankKind
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.water import WaterKind
from tests.core.test_ledger import HOT, LAYOUT, NEW, RINSE, Book, a_loop, planned, pour, weighed

CLEANER = Agent("Rinseflow", AgentKind.CLEANER, 325, 11.4, 10, 180, 240, 1.0)
DOSED = RoundFilled(Method.CLEANER, WaterKind.TAP, agent=CLEANER, agent_ml=912.28, run_min=180)
TAP = RoundFilled(Method.FILL_RUN_DRAIN, WaterKind.TAP)
BRIX = Instrument("9", "Brix glass", Scale.BRIX, 0.1)
CLEAR = Sampled(Spot.DRAIN, (Look.CRYSTAL_CLEAR,))
COLD_RUN = EngineRun(minutes=3, opened=False, heater_full=True)
PIPED = Layout(
    LAYOUT.nodes,
    (
        Pipe("block", "radiator", 1380, Via.THERMOSTAT),
        Pipe("radiator", "block", 640, Via.PUMP),
        Pipe("block", "heater", 1240, Via.HEATER_VALVE),
        Pipe("tank", "block", 900),
    ),
    LAYOUT.drains,
)


def drained(job_type=JobType.CHANGE_TYPE, found=-19.0, **changes):
    """The groomer after its first drain, as found read with an instrument."""
    book = Book(a_loop(layout=PIPED, **changes))
    book.add(JobOpened(job_type), Read(found, Place.AS_FOUND, BRIX_AS_FREEZE), planned(), weighed(24.5))
    return book


BRIX_AS_FREEZE = Instrument("1", "Glass 3", Scale.FREEZE_ETHYLENE, 1.0)


def round_of(book, filled=RINSE, run=HOT, litres=24.5, *more):
    """One round; returns the flush."""
    return book.add(filled, *([run] if run else []), weighed(litres), *more).flush


# ---- dilution -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("rounds", "leaves"), [(0, 23.4), (1, 5.5), (2, 1.3)])
def test_what_each_round_leaves_is_the_power_of_what_stays(rounds, leaves):
    """Derived: g_n = g_0 r^n with r = 7.5 / 32."""
    book = drained()
    for _ in range(rounds):
        round_of(book)
    flush = book.state.flush
    assert flush.finished_old_percent == pytest.approx(leaves, abs=0.05)
    assert flush.finished_old_percent == pytest.approx(100 * (7.5 / 32) ** (rounds + 1), rel=0.003)
    assert [row.number for row in flush.rounds] == list(range(rounds + 1))


def test_a_run_that_never_opened_the_thermostat_does_not_exchange_the_block():
    """Common practice, no source: a run of 3 minutes never opens it."""
    hot, cold = drained(), drained()
    round_of(hot)
    flush = round_of(cold, run=COLD_RUN)
    assert flush.finished_old_percent > 1.25 * hot.state.flush.finished_old_percent
    assert any("3-minute run did not open the thermostat" in said.sentence for said in flush.rounds[-1].thin)
    shares = {row.id: row.old_percent for row in flush.rounds[-1].vessels}
    assert shares["block"] > 2 * shares["radiator"]


def test_a_round_that_was_not_run_mixes_nothing_and_says_so():
    flush = round_of(drained(), run=None)
    assert flush.rounds[-1].thin[0].code == "not_run"
    assert flush.finished_old_percent > 10


@pytest.mark.parametrize(
    ("opened", "heater", "still", "groups"),
    [
        (True, True, (), [["tank", "heater", "radiator", "block", "hoses"]]),
        (False, True, (), [["tank", "heater", "block", "hoses"]]),
        (False, False, (), [["tank", "block", "hoses"]]),
        (True, True, ("tank",), [["heater", "radiator", "block", "hoses"]]),
    ],
)
def test_only_what_circulates_mixes(opened, heater, still, groups):
    """A shut thermostat cuts the radiator off, a shut valve the heater, an overflow bottle never mixes; practice."""
    assert circulating(PIPED, opened, heater, still) == groups


def test_a_swept_vessel_follows_the_exponential_and_the_rest_keeps_what_it_had():
    """Textbook: a continuous rinse of a mixed vessel is exp(-Q/V)."""
    book = drained()
    before = {row.id: row.old_percent for row in book.state.vessels}
    flush = book.add(VesselRinsed(Method.HOSE_FLOW, {"block": 24.4, "heater": 2.4})).flush
    after = {row.id: row.old_percent for row in book.state.vessels}
    assert after["block"] == pytest.approx(before["block"] * math.exp(-24.4 / 12.2), rel=1e-3)
    assert after["heater"] == pytest.approx(before["heater"] * math.exp(-1), rel=1e-3)
    assert after["radiator"] == before["radiator"]
    assert flush.rounds[-1].thin[0].code == "swept_only"


def test_a_blow_out_takes_litres_out_of_the_vessels_it_names():
    book = drained()
    state = book.add(VesselRinsed(Method.BLOW_OUT, {"block": 2.0}))
    assert state.inside.litres == pytest.approx(5.5, abs=0.01)
    assert state.drained_l == pytest.approx(26.5, abs=0.01)
    assert state.flush.waste[1].out_l == pytest.approx(2.0)
    assert [row.more for row in state.flush.waste] == [2, 1]  # containers of 20 l


def test_a_mix_of_water_and_coolant_is_kept_at_the_mark():
    """Mixing contracts by about 1 %; nobody leaves the level low, so the sums on the screen close."""
    state = drained().add(RINSE, HOT)
    assert state.inside.litres == pytest.approx(32.0, abs=0.02)
    assert state.standing.code == "rinse_water"


# ---- readings of the rinse ----------------------------------------------------------------------------------------


FINE = Instrument("2", "Digital 1", Scale.FREEZE_ETHYLENE, 0.1)


def read_rinse(value, instrument=BRIX_AS_FREEZE, zero=None):
    """A reading of the rinse."""
    return Read(value, Place.RINSE, instrument, zero)


def test_a_reading_corrects_the_plan_ahead():
    """-3.4 degC is about 8 % by volume of coolant; at 35 % as found that is 24 % old, 23.4 were predicted."""
    high, low = drained(), drained()
    predicted = round_of(drained()).finished_old_percent
    after_high = round_of(high, RINSE, HOT, 24.5, read_rinse(-3.0, FINE, 0.0))
    after_low = round_of(low, RINSE, HOT, 24.5, read_rinse(-2.6, FINE, 0.0))
    assert after_low.finished_old_percent < predicted < after_high.finished_old_percent
    assert after_high.rounds[-1].source is Source.CORRECTED
    assert after_high.finished_sd_percent < 100
    strengths = [book.state.inside.strength_percent for book in (low, high)]
    assert strengths[0] < strengths[1]  # and the mix on top of it
    assert high.state.inside.litres > low.state.inside.litres  # more old coolant in the round: more had stayed


def test_an_instrument_that_nobody_zeroed_says_little_of_a_share():
    """Its zero is off in the coolant as found as well: a glass that reads strong read that strong, too."""
    vague, sharp = drained(), drained()
    for book, zero in ((vague, None), (sharp, 0.0)):
        round_of(book, RINSE, HOT, 24.5, read_rinse(-4.5, FINE, zero))
    predicted = round_of(drained()).finished_old_percent
    moved = [book.state.flush.finished_old_percent - predicted for book in (vague, sharp)]
    assert 0 < moved[0] < moved[1]


def test_a_reading_below_detection_leaves_the_prediction():
    book = drained()
    round_of(book)
    before = round_of(book).finished_old_percent
    flush = book.add(read_rinse(0.0)).flush
    assert flush.finished_old_percent == pytest.approx(before, rel=1e-3)
    assert "instrument limit" in flush.rounds[-1].jar.says.sentence


def test_with_cleaner_inside_no_glycol_reading_counts():
    book = drained()
    before = round_of(book, DOSED).finished_old_percent
    flush = book.add(read_rinse(-9.0)).flush
    assert flush.finished_old_percent == before
    assert "glycol readings do not count" in flush.rounds[-1].jar.says.sentence


def test_a_strength_nobody_read_says_nothing_of_a_share():
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), planned(), weighed(24.5))
    flush = round_of(book, RINSE, HOT, 24.5, read_rinse(-3.0))
    assert flush.rounds[-1].source is Source.PREDICTED
    assert "not read as found" in flush.rounds[-1].jar.says.sentence


def test_the_doubt_of_the_share_grows_with_every_drain_and_shrinks_with_a_reading():
    book = drained()
    first = book.state.flush
    second = round_of(book)
    relative = [flush.finished_sd_percent / flush.finished_old_percent for flush in (first, second)]
    assert relative[1] > relative[0] > 0
    read = book.add(read_rinse(-2.8)).flush
    assert read.finished_sd_percent < second.finished_sd_percent


# ---- cleaner, water, the stop rule --------------------------------------------------------------------------------


def test_cleaner_is_carried_until_it_is_rinsed_below_its_limit():
    book = drained()
    state = book.add(DOSED, HOT)
    assert state.flush.cleaner.running
    assert state.flush.cleaner.percent == pytest.approx(100, rel=0.01)
    assert state.standing.code == "cleaner_in"
    assert "must not stay overnight" in state.standing.sentence
    assert state.frost_risk
    state = book.add(weighed(24.5))
    assert state.flush.cleaner.percent == pytest.approx(23.4, abs=0.3)
    assert not state.flush.cleaner.running
    assert "cleaner_left" in {said.code for said in state.flush.enough.short}
    with pytest.raises(CoreError, match="a flush cannot finish with cleaner inside"):
        book.add(FlushEnded("no time"))
    for _ in range(3):
        round_of(book)
    assert book.state.flush.cleaner is None


def test_the_last_round_is_demineralised_or_its_residue_counts():
    book = drained()
    round_of(book, TAP)
    flush = round_of(book, TAP, HOT, 24.5, CLEAR)
    assert "tap_residue" in {said.code for said in flush.enough.short}
    assert flush.solids_mg_l == pytest.approx(500 * (7.5 / 32) * (24.5 / 32 + 24.5 / 32 * 7.5 / 32), rel=0.02)
    flush = round_of(book, RINSE, HOT, 24.5, CLEAR)
    assert flush.enough.enough
    assert flush.water_l == {
        WaterKind.TAP: pytest.approx(49, abs=0.2),
        WaterKind.DEMINERALISED: pytest.approx(24.5, abs=0.1),
    }


@pytest.mark.parametrize(
    ("rounds", "jar", "missing"),
    [
        (0, CLEAR, {"over_limit"}),
        (2, None, {"no_jar"}),
        (2, Sampled(Spot.DRAIN, (Look.RESIDUAL_TINT,)), {"not_clear"}),
        (2, Sampled(Spot.DRAIN, (Look.CRYSTAL_CLEAR,), 5.0), {"sediment"}),
        (1, Sampled(Spot.DRAIN, (Look.ORANGE_RUST,)), {"not_clear", "over_limit"}),
        (2, CLEAR, set()),
    ],
)
def test_enough_asks_for_both_a_clear_jar_and_a_small_share(rounds, jar, missing):
    """Common practice, no source: 5 % for a change of chemistry, and clear is half of the rule."""
    book = drained()
    for _ in range(rounds):
        round_of(book)
    state = book.add(jar) if jar else book.state
    assert {said.code for said in state.flush.enough.short} == missing
    assert state.flush.limit_percent == 5


def test_only_just_under_the_limit_is_said():
    book = drained()
    flush = round_of(book, RINSE, HOT, 25.5, CLEAR)
    assert flush.finished_old_percent < 5
    assert flush.enough.enough
    assert {said.code for said in flush.enough.notes} == {"only_just"}


def test_stopping_early_asks_why_and_shortens_the_life():
    book = Book(a_loop(layout=PIPED))
    book.add(JobOpened(JobType.CHANGE_TYPE), ReportedContents())
    book.add(planned(), weighed(24.5))
    with pytest.raises(CoreError, match="Say why you finish here"):
        book.add(FlushEnded())
    state = book.add(FlushEnded("race tonight"))
    assert state.flush.early == "race tonight"
    assert state.stage is Stage.MIX
    assert "early" not in state.stages[4].result.sentence
    assert state.mix_inside.volume_l == pytest.approx(7.5)


def test_an_overflow_bottle_keeps_what_it_holds_unless_somebody_empties_it():
    equipment = Equipment(tank=TankKind.OVERFLOW)
    book = drained(equipment=equipment)
    book.add(Drained(caught=(Caught("tank", marks_l=0.01),)))
    round_of(book, RINSE, HOT, 20.0)
    assert "Tank" in book.state.flush.rounds[-1].thin[-1].sentence


def test_a_signed_job_keeps_its_rounds_and_the_next_begins_without():
    book = drained()
    for _ in range(2):
        round_of(book)
    book.add(CLEAR, FlushEnded(), planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, 18.2, 6.6, at_mark=True))
    state = book.add(Read(-45.0, Place.FINISHED, BRIX_AS_FREEZE, after_hot_run=True))
    state = book.add(SignedOff(state.proof.verdict.value, "for the test"))
    assert len(state.flush.rounds) == 3
    book.job = "job 2"
    assert book.add(JobOpened(JobType.CHECK)).flush is None


def test_a_hundred_thousand_drawn_loops_spread_as_the_doubt_says():
    """Seeded Monte Carlo of capacity, level and litres out over three drains, against the doubt of the walk."""
    book = drained()
    flush = [round_of(book) for _ in range(2)][-1]
    draw = np.random.default_rng(5)
    sd_capacity, sd_out = 0.01 * 32, 0.007 * 24.5
    capacity = draw.normal(32, sd_capacity, 100_000)
    scale = draw.normal(0, 0.8 * sd_out, 100_000)  # one scale in all three
    share = np.ones(100_000)
    for n in range(3):
        low = draw.normal(0, Policy()["level_sd_unseen"] / 100 * 32, 100_000) if n == 0 else 0.0
        share = share * (capacity - low - 24.5 - scale - draw.normal(0, 0.6 * sd_out, 100_000)) / capacity
    assert flush.finished_sd_percent == pytest.approx(100 * float(share.std()), rel=0.15)
    assert Policy()["drained_sd_weighed"] == 0.7


def test_one_vessel_and_a_drain_that_takes_half():
    """Derived from the table: half out each time reaches 2 % after 6 drains."""
    layout = Layout((Node("b", NodeKind.BLOCK, "Block", 10.0, 1, 9, 0),), (), (Drain("A", "b", 1, {"b": 1.0}),))
    book = Book(a_loop(layout=layout, capacity_l=10.0))
    book.add(JobOpened(JobType.CHANGE_TYPE), planned())
    left = [book.add(weighed(5.0)).flush.finished_old_percent]
    left += [round_of(book, RINSE, HOT, 5.0).finished_old_percent for _ in range(5)]
    assert left == pytest.approx([50, 25, 12.5, 6.25, 3.125, 1.5625], rel=0.01)


def test_vessels_share_the_doubt_of_what_is_inside_and_the_residue_of_tap_water():
    book = drained()
    state = book.state
    assert state.inside.sd_l <= sum(vessel.litres_sd for vessel in state.vessels)  # which vessel it came from is open
    assert all(vessel.litres_sd > 0 for vessel in state.vessels if vessel.litres > 0.1)
    state = book.add(TAP, HOT)
    assert {vessel.litres_sd for vessel in state.vessels} == {0.0}  # full to the mark
    solids = [vessel.solids_mg_l for vessel in state.flush.rounds[-1].vessels]
    assert solids == pytest.approx([500 * 24.5 / 32] * 5, rel=0.02)


def test_more_out_of_the_same_drain_is_one_drain_with_one_doubt():
    """24.5 l at once or in two goes: the same share, and hardly another doubt."""
    once, twice = drained(), Book(a_loop(layout=PIPED))
    twice.add(
        JobOpened(JobType.CHANGE_TYPE),
        Read(-19.0, Place.AS_FOUND, BRIX_AS_FREEZE),
        planned(),
        weighed(20.0),
        weighed(4.5),
    )
    a, b = once.state.flush, twice.state.flush
    assert b.finished_old_percent == pytest.approx(a.finished_old_percent, rel=0.02)
    assert b.finished_sd_percent == pytest.approx(a.finished_sd_percent, rel=0.1)
    assert [row.number for row in b.rounds] == [0]


@pytest.mark.parametrize("facts", [VesselRinsed(Method.HOSE_FLOW, {"block": 5.0}), RINSE])
def test_a_reading_of_what_never_mixed_corrects_nothing(facts):
    book = drained()
    before = book.add(facts).flush.finished_old_percent
    flush = book.add(read_rinse(-9.0)).flush
    assert flush.finished_old_percent == pytest.approx(before)
    assert "Not run" in flush.rounds[-1].jar.says.sentence


def test_a_hot_run_after_the_pour_makes_one_fluid_and_the_claim_says_by_what():
    book = drained()
    book.add(FlushEnded("for the test"), planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, 18.2, 6.6, at_mark=True))
    assert book.state.claim.why == "weakest_vessel"
    assert book.add(COLD_RUN).claim.why == "weakest_vessel"
    assert book.add(HOT).claim.why == "by_litres"


def test_a_jar_of_a_round_that_did_not_circulate_is_not_enough():
    book = drained()
    for _ in range(3):
        round_of(book)
    flush = round_of(book, RINSE, COLD_RUN, 24.5, CLEAR)
    assert flush.finished_old_percent < 5
    assert {said.code for said in flush.enough.short} == {"not_circulated"}


def test_every_round_keeps_the_doubt_it_had_and_what_was_found_has_none():
    book = drained()
    round_of(book)
    flush = round_of(book)
    doubts = [max(vessel.old_sd_percent / vessel.old_percent for vessel in row.vessels) for row in flush.rounds]
    assert doubts[0] == 0
    assert 0 < doubts[1] < doubts[2]


def test_a_reading_says_the_same_before_and_after_its_drain():
    """The share as it ran has the doubt it ran with; its own drain adds to what stays, whenever the jar is read."""
    early, late = drained(), drained()
    early.add(RINSE, HOT, read_rinse(-4.5), weighed(24.5))
    late.add(RINSE, HOT, weighed(24.5), read_rinse(-4.5))
    a, b = early.state.flush, late.state.flush
    assert b.finished_old_percent == pytest.approx(a.finished_old_percent, rel=1e-6)
    assert b.finished_sd_percent == pytest.approx(a.finished_sd_percent, rel=1e-6)
    ran = [max(vessel.old_sd_percent / vessel.old_percent for vessel in flush.rounds[-1].vessels) for flush in (a, b)]
    assert b.finished_sd_percent / b.finished_old_percent > ran[1]
    assert ran[0] == pytest.approx(ran[1])
