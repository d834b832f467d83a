"""Folding a ledger: litres, shares, stages, claims; what may be added and what is refused."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.policy import Policy
from temper_core.calculate.mix import MixQuestion, mix, suggested_target_c
from temper_core.instruments import Scale
from temper_core.job.dose.facts import Dosed
from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fill.facts import BleedEnded, BleedStarted, Closed, LookedUnder, Poured, StrengthAdjusted, Water
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed
from temper_core.job.fold import fold
from temper_core.job.inspect import facts as inspection
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.inspect.facts import Sampled
from temper_core.job.job_types import JobType, Stage, Status
from temper_core.job.loop import CapacitySource, Loop
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import EngineRun, GateObserved, Pressure, Ready, ReadyConfirmed, Warmth
from temper_core.job.read.facts import Instrument, Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import FinishChecked, SignedOff
from temper_core.job.waiting.facts import ClockStarted
from temper_core.machine.bleeding import BleedOutcome, FinishSign
from temper_core.machine.circuit import Drain, Layout, Node, NodeKind
from temper_core.machine.contents import Contents
from temper_core.products.chemistry import Base, Family, Fluid, Form, Product, Requirement
from temper_core.products.water import WaterKind
from temper_core.science import Glycol

START = datetime(2026, 11, 24, 8, tzinfo=UTC)
LAYOUT = Layout(
    (
        Node("tank", NodeKind.TANK, "Tank", 4.0, 1790, 2060, 1),
        Node("heater", NodeKind.HEATER, "Heater", 2.4, 1440, 1770, 0),
        Node("radiator", NodeKind.RADIATOR, "Radiator", 11.0, 720, 1560, 2),
        Node("block", NodeKind.BLOCK, "Engine block", 12.2, 560, 1170, 0),
        Node("hoses", NodeKind.HOSES, "Hoses", 2.4, 520, 1800, 1),
    ),
    (),
    (
        Drain("A", "radiator", 700, {"radiator": 0.945, "tank": 1.0, "hoses": 0.5}),
        Drain("B", "block", 540, {"block": 0.625, "heater": 0.2, "hoses": 0.33}),
    ),
)
NEW = Product("1", "Winterline O", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 95.0)
PG = Product("2", "Winterline P", Base.PROPYLENE, Family.OAT, Form.CONCENTRATE, 95.0)
WATERY = Product("3", "Race Clear", Base.NONE, Family.GLYCOL_FREE, Form.READY_MIX, 0.0)
GLASS = Instrument("1", "Glass 3", Scale.FREEZE_ETHYLENE, 1.0)


def a_loop(**changes):
    """A groomer's engine loop, 32 l."""
    given_ = {
        "id": "1",
        "name": "Engine loop",
        "capacity_l": 32.0,
        "capacity_source": CapacitySource.MEASURED,
        "layout": LAYOUT,
        "need": Requirement(),
        "coldest_c": -38.0,
        "believed": Fluid(Base.ETHYLENE, Family.IAT),
    }
    return Loop(**(given_ | changes))


RINSE = RoundFilled(Method.FILL_RUN_DRAIN, WaterKind.DEMINERALISED)
BLED = BleedEnded(BleedOutcome.FINISHED, (FinishSign.NO_BUBBLES, FinishSign.LEVEL_STEADY))
HOT = EngineRun(minutes=25, opened=True, heater_full=True)
FELT = GateObserved(Warmth.HAND, Pressure.HOSE, held=True, soft=True, ready=tuple(Ready), isolated_by="IH")


def pour(product, product_l, water_l, water=Water.DEMINERALISED, **more):
    """What went in, with demineralised water unless it is said."""
    return Poured(product, product_l, water_l, water, **more)


def weighed(litres, **more):
    """Litres out, found by weight."""
    return Drained(litres, Measured.WEIGHED, **more)


OPENING = (
    Dosed,
    Drained,
    StrengthAdjusted,
    Sampled,
    inspection.Tested,
    Read,
    Poured,
    RoundFilled,
    VesselRinsed,
    FinishChecked,
)


def with_gate(entries, facts, job, at):
    """The entries, and before anything is opened the safe-to-open check; tests of the gate itself are in test_gate."""
    opens = isinstance(facts, OPENING)
    runs = isinstance(facts, ClockStarted | BleedStarted)
    if runs:
        return [*entries, Entry("ready", job, at, at, "IH", ReadyConfirmed((Ready.VENTILATED,)))]
    return [*entries, Entry("felt", job, at, at, "IH", FELT)] if opens else entries


class Book:
    """A ledger under way: adds what is accepted, gives the state.

    Every loop was felt before it was drained, shut before it was filled, and bled once it was full (closes False: not).
    """

    closes = True

    def __init__(self, loop=None):
        self.loop = loop or a_loop()
        self.entries = []
        self.job = "job 1"

    def add(self, *facts):
        """Validate and add; returns the state."""
        for one in facts:
            if isinstance(one, Poured) and self.closes:
                self.shut()
            self.bare(one)
            if isinstance(one, Poured) and one.at_mark and self.closes and self.state.stage is Stage.FILL:
                self.bare(LookedUnder(True), BLED)
        return self.state

    def bare(self, *facts):
        """Validate and add these alone: nothing is shut, looked at or bled for them."""
        for one in facts:
            n = len(self.entries)
            at = START + timedelta(minutes=n)
            check_entry(self.loop, with_gate(self.entries, one, self.job, at), one)
            self.entries.append(Entry(f"e{n}", self.job, at, at, "IH", one))
        return self.state

    def shut(self):
        """What the job opened is shut and seated, where something still is not."""
        fill = self.state.fill
        points = tuple(row.key for row in fill.closing if not row.done) if fill else ()
        if points:
            self.bare(Closed(points))

    def drain_and_rinse(self, litres, rinses, end=True):
        """Drain, then so many rounds with the same litres out, run hot; ended where the route asks for it."""
        self.add(weighed(litres))
        for _ in range(rinses):
            self.add(RINSE, HOT, weighed(litres))
        if end and self.state.stage is Stage.FLUSH:
            self.add(FlushEnded("for the test"))
        return self

    @property
    def state(self):
        """Now."""
        return fold(self.loop, self.entries)


def planned(target=None, product=NEW, **litres):
    """A choice, or with a target an accepted mix."""
    return Planned(product, -38.0, 5.0, target, **litres)


def read(value, **more):
    """A reading of the finished loop."""
    given_ = {"place": Place.FINISHED, "instrument": GLASS, "zero": -0.4, "sample_c": 19.0, "after_hot_run": True}
    return Read(value, **(given_ | more))


def at_mix(rinses=2):
    """The groomer, drained and rinsed."""
    book = Book()
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
    return book.drain_and_rinse(24.5, rinses)


def filled(product_l=18.2, water_l=6.6):
    """The groomer, filled to the mark."""
    book = at_mix()
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, product_l, water_l, at_mark=True))
    return book


# ---- litres and shares --------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("rinses", "runs_at", "leaves"), [(0, 100.0, 23.4), (1, 23.4, 5.5), (2, 5.5, 1.3)])
def test_rinses_thin_the_old_coolant(rinses, runs_at, leaves):
    """Derived: g_n = g_0 (inside/volume)^n; 32 l with 24.5 l out each time leaves 23, 5.5, 1.3 % in the finished loop."""
    state = at_mix(rinses).state
    assert state.inside.litres == pytest.approx(7.5, abs=0.02)
    assert state.inside.old_percent == pytest.approx(runs_at, abs=0.1)
    assert state.inside.finished_old_percent == pytest.approx(leaves, abs=0.05)


@pytest.mark.parametrize(("share", "rounds"), [(0.375, 9), (0.5, 6), (0.6, 5), (0.7, 4), (0.8, 3), (0.9, 2)])
def test_rounds_to_below_two_percent(share, rounds):
    """Derived, each drain counted: (1 - share)^n < 2 %."""

    def left(n):
        book = Book()
        book.add(JobOpened(JobType.CHANGE_TYPE))
        return book.drain_and_rinse(32 * share, n - 1).state.inside.finished_old_percent

    assert left(rounds) < 2 <= left(rounds - 1)


def test_vessels_add_up_to_the_loop_and_empty_where_the_drains_reach():
    vessels = {vessel.id: vessel.litres for vessel in at_mix(0).state.vessels}
    assert sum(vessels.values()) == pytest.approx(7.5)
    assert vessels["tank"] == pytest.approx(0, abs=0.05)
    assert vessels["heater"] > 1.5  # no drain reaches it
    assert vessels["block"] == pytest.approx(4.6, abs=0.2)


def test_litres_per_vessel_are_taken_as_measured():
    book = Book()
    out = {"tank": 4.0, "radiator": 10.0}
    state = book.add(JobOpened(JobType.REFILL), Drained(14.0, Measured.MARKS, out))
    vessels = {vessel.id: vessel.litres for vessel in state.vessels}
    assert vessels["radiator"] == pytest.approx(1.0)
    assert vessels["block"] == pytest.approx(12.2)


@given(st.lists(st.floats(0.5, 12), min_size=1, max_size=6), st.floats(0, 60))
def test_kilograms_are_conserved_through_drains_pours_and_mixing(drains, strength):
    contents = Contents.full(LAYOUT, Glycol.ETHYLENE, strength)
    before = contents.total.kg
    taken = poured = 0.0
    for out in drains:
        held = contents.total.kg
        contents = contents.drain(out)
        taken += held - contents.total.kg
        contents = contents.pour(1.0, 2.0).circulate()
        poured += 3.0
    assert contents.total.kg == pytest.approx(before - taken + poured, rel=1e-9)


def test_circulating_makes_every_vessel_alike():
    contents = Contents.full(LAYOUT, Glycol.ETHYLENE, 40).drain(20).pour(5, 3)
    shares = {round(content.glycol_w, 9) for content in contents.circulate().by_vessel.values()}
    assert len(shares) == 1


# ---- stages, plan, claim ------------------------------------------------------------------------------------------


def test_the_main_job_walks_its_stages():
    book = Book()
    seen = []
    for facts in (
        JobOpened(JobType.CHANGE_TYPE),
        planned(),
        JobTypeChosen(JobType.CHANGE_TYPE, JobType.CHANGE_TYPE),
        FELT,
        weighed(24.5),
        *(RINSE, HOT, FELT, weighed(24.5)) * 2,
        FlushEnded("for the test"),
        planned(-45.0, concentrate_l=18.2, water_l=6.6),
        pour(NEW, 18.2, 6.6, at_mark=True),
        read(-46.6),
        SignedOff("proven"),
    ):
        state = book.add(facts)
        seen.append(state.stage)
    assert seen == [
        *(
            Stage.IDENTIFY,
            Stage.INSPECT,
            Stage.OPEN,
            Stage.DRAIN,
            *[Stage.FLUSH] * 9,
            Stage.MIX,
            Stage.FILL,
            Stage.VERIFY,
            Stage.VERIFY,
            None,
        ),
    ]
    assert book.state.signed_at is not None
    assert book.state.next_action is None


def test_the_line_of_stages_says_what_is_done_and_what_is_ahead():
    line = {row.stage: row.status for row in at_mix().state.stages}
    assert line[Stage.FLUSH] is Status.DONE
    assert line[Stage.OPEN] is Status.DONE
    assert line[Stage.MIX] is Status.NOW
    assert line[Stage.VERIFY] is Status.AHEAD


def test_a_flush_is_a_choice_in_a_renewal_and_blocks_nothing_until_it_is_begun():
    book = Book()
    state = book.add(JobOpened(JobType.REFILL), planned(), weighed(24.5))
    assert {row.stage: row.status for row in state.stages}[Stage.FLUSH] is Status.CHOICE
    assert state.stage is Stage.MIX
    assert book.add(RINSE).stage is Stage.FLUSH
    assert book.add(HOT, weighed(24.5), FlushEnded("for the test")).stage is Stage.MIX


def test_draining_again_reopens_the_mix():
    book = at_mix()
    book.add(planned(-45.0, concentrate_l=18.2, water_l=6.6))
    state = book.add(Drained(1.0, Measured.MARKS))
    assert state.stage is Stage.MIX
    assert state.plan.target_freeze_c is None
    assert state.inside.litres == pytest.approx(6.5, abs=0.02)


def test_what_is_poured_may_differ_and_is_what_counts():
    as_planned, weaker = filled().state, filled(16.0, 8.8).state
    assert weaker.predicted_freeze_c > as_planned.predicted_freeze_c + 3
    assert weaker.poured.left_product_l == pytest.approx(2.1)


def test_until_it_ran_hot_the_claim_is_the_weakest_vessel():
    state = filled().state
    assert state.claim.why == "weakest_vessel"
    assert state.claim.vessel == "heater"
    assert state.claim.freeze_c > -10 > state.predicted_freeze_c
    proven = filled().add(read(-46.6))
    assert proven.claim.why == "read"
    assert proven.claim.freeze_c == pytest.approx(-44.6, abs=0.2)


def test_a_reading_before_the_hot_run_proves_nothing():
    state = filled().add(read(-46.6, after_hot_run=False))
    assert state.proof is None
    assert state.claim.why == "weakest_vessel"


def test_prediction_and_reading_of_the_worked_example_agree():
    state = filled().add(read(-46.6), read(-46.6))
    assert state.proof.verdict == "proven", state.proof.said.sentence
    assert state.predicted_likely_c.low < state.repeats.freeze_c < state.predicted_likely_c.high


@pytest.mark.parametrize(
    ("facts", "why"),
    [
        ([], "unknown"),
        ([Read(-19.0, Place.AS_FOUND)], "as_found"),
        ([weighed(24.5), RINSE, HOT, weighed(24.5)], "rinse_water"),
    ],
)
def test_what_is_claimed_says_why(facts, why):
    book = Book()
    book.add(JobOpened(JobType.CHANGE_TYPE), *facts)
    assert book.state.claim.why == why


def test_a_believed_strength_is_never_called_read():
    loop = a_loop(believed=Fluid(Base.ETHYLENE, Family.OAT, 50.0))
    book = Book(loop)
    assert book.add(JobOpened(JobType.REFILL)).claim.why == "believed"
    assert book.state.spread.inside_strength_percent == pytest.approx(Policy()["inside_sd_unread"], rel=0.03)


def test_unknown_strength_counts_as_water_in_the_mix():
    book = Book()
    state = book.add(JobOpened(JobType.REFILL), planned(), Drained(24.5, Measured.WEIGHED))
    assert state.inside.strength_percent is None
    assert state.mix_inside.volume_l == pytest.approx(7.5)
    assert state.mix_inside.strength_percent == 0


def test_a_remainder_of_the_other_base_counts_as_water_and_is_flagged():
    book = Book()
    state = book.add(
        JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(product=PG), Drained(30, Measured.WEIGHED)
    )
    assert state.mix_inside.strength_percent == 0
    state = book.add(
        FlushEnded("for the test"),
        planned(-30.0, PG, concentrate_l=15.0, water_l=15.0),
        pour(PG, 15.0, 15.0, at_mark=True),
    )
    assert "other_base_left" in {flag.code for flag in state.flags}
    assert state.inside.base is Base.PROPYLENE


def test_too_much_or_too_little_for_the_room_is_a_flag():
    assert "more_than_room" in {flag.code for flag in filled(20.0, 7.0).state.flags}
    assert "less_than_room" in {flag.code for flag in filled(16.0, 5.0).state.flags}
    assert filled().state.flags == ()


def test_the_next_job_starts_from_what_was_read():
    book = filled()
    book.add(read(-46.6), SignedOff("proven"))
    book.job = "job 2"
    state = book.add(JobOpened(JobType.REFILL))
    assert state.found.family is Family.OAT
    assert state.claim.freeze_c == pytest.approx(-44.6, abs=0.2)
    assert state.plan is None


def test_a_glycol_free_loop_is_signed_without_a_reading():
    loop = a_loop(believed=Fluid(Base.NONE, Family.GLYCOL_FREE), need=Requirement(glycol_forbidden=True))
    book = Book(loop)
    book.add(JobOpened(JobType.REFILL), planned(product=WATERY), Drained(30, Measured.WEIGHED))
    book.add(planned(product=WATERY, concentrate_l=30.0, water_l=0.0), pour(WATERY, 30.0, 0.0, at_mark=True))
    assert book.state.claim.why == "glycol_free"
    assert book.add(SignedOff("glycol_free")).signed_at is not None


@pytest.mark.parametrize(
    ("coldest", "glycol", "target"),
    [
        (-38, Glycol.ETHYLENE, -43),  # coldest less 5 K
        (-5, Glycol.ETHYLENE, -25),  # 40 % by volume at least, for corrosion
        (-48, Glycol.ETHYLENE, -50),  # colder than that nobody tabulates
        (-44, Glycol.PROPYLENE, -45),
    ],
)
def test_suggested_target(coldest, glycol, target):
    assert suggested_target_c(glycol, coldest, Policy()) == target


def test_the_plan_uses_the_state_it_is_given():
    state = at_mix().state
    plan = mix(MixQuestion(Glycol.ETHYLENE, 32.0, state.mix_inside, -45.0, spread=state.spread))
    assert plan.concentrate_l == pytest.approx(18.1, abs=0.1)
    assert plan.likely.freeze_c_high - plan.likely.freeze_c_low == pytest.approx(4, abs=1)


def test_frost_risk_is_opened_up_and_not_protected():
    assert not Book().add(JobOpened(JobType.REFILL), Read(-19.0, Place.AS_FOUND)).frost_risk
    assert at_mix().state.frost_risk
    assert filled().state.frost_risk  # until it has run hot
    assert not filled().add(read(-46.6)).frost_risk
    assert not filled().add(read(-46.6), SignedOff("proven")).frost_risk
