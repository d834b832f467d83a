"""Filling: what is shut before, what a slip comes to, the doubt of a half-filled loop, air, top-ups, ways to fill."""

import random
import statistics
from dataclasses import replace

import pytest
from CoolProp.CoolProp import PropsSI

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate.mix import MixQuestion, mix
from temper_core.calculate.vacuum import Held
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import JobOpened
from temper_core.job.fill.facts import Closed, FillMethod, LookedUnder, VacuumPulled
from temper_core.job.fill.rules import Convergence, judge_top_ups
from temper_core.job.fill.state import FillStep, SlipKind
from temper_core.job.flush.facts import FlushEnded, Method, VesselRinsed
from temper_core.job.inspect.facts import Check
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JobType, Stage
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.machine.air import where_air_sits
from temper_core.machine.circuit import Bleeder, BleederKind, FillPoint
from temper_core.products.chemistry import Base, Family, Fluid, Form, Product
from temper_core.science import Glycol, density_20c, mass_fraction_of
from tests.core.test_ledger import FELT, HOT, LAYOUT, NEW, PG, Book, a_loop, at_mix, filled, planned, pour, weighed

PLAN = {"concentrate_l": 18.1, "water_l": 6.7}
DRY = LookedUnder(True)


def shut(book=None):
    """The groomer at 7.5 l inside, its mix accepted, everything shut."""
    book = book or at_mix()
    book.add(planned(-45.0, **PLAN))
    book.shut()
    return book


# ---- before fluid -------------------------------------------------------------------------------------------------


def test_the_closing_check_is_built_from_what_this_job_opened():
    """Common practice, no source: drains, hoses in their imprint, new seals, the right cap; nothing that stayed shut."""
    book = Book(a_loop(cap_gauge_kpa=103.0))
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned(), Checked(Check.HOSES, "soft"))
    book.add(Drained(caught=(Caught("A", gross_kg=14.0), Caught("heater", marks_l=1.5))))
    book.add(
        VesselRinsed(Method.HOSE_FLOW, {"block": 30.0}),
        FlushEnded("for the test"),
        planned(-40.0, concentrate_l=9, water_l=4),
    )
    rows = {row.key: row for row in book.state.fill.closing}
    assert list(rows) == ["drain:A", "hose:heater", "hose:block", "seals", "hose_set", "cap"]
    assert "103 kPa" in rows["cap"].detail
    assert rows["seals"].act.endswith("at A")


def test_nothing_is_poured_until_every_point_is_confirmed_and_each_counts_by_itself():
    book = at_mix()
    book.add(planned(-45.0, **PLAN))
    with pytest.raises(Conflict, match="Shut A; Shut B"):
        book.bare(pour(NEW, 5, 0))
    book.bare(Closed(("drain:A", "seals", "cap")))
    with pytest.raises(Conflict, match="Not yet confirmed: Shut B"):
        book.bare(pour(NEW, 5, 0))
    assert book.state.next_action.act.sentence == "Shut B"
    assert book.bare(Closed(("drain:B",))).fill.step is FillStep.POUR
    with pytest.raises(CoreError, match="was not opened"):
        book.bare(Closed(("drain:C",)))


def test_another_drain_opens_it_again():
    book = shut()
    book.bare(pour(NEW, 5, 0))
    state = book.add(weighed(4.0), planned(-45.0, **PLAN))
    assert not any(row.done for row in state.fill.closing)


def test_half_in_asks_for_a_look_underneath_and_a_drip_stops_the_filling():
    book = shut()
    assert book.bare(pour(NEW, 12.0, 0)).fill.step is FillStep.POUR
    assert book.bare(pour(NEW, 1.0, 0)).fill.step is FillStep.UNDER
    assert "Leak at B" in book.bare(LookedUnder(False, "B")).next_action.act.sentence
    assert book.bare(DRY).fill.step is FillStep.POUR
    with pytest.raises(CoreError, match="Where does it drip"):
        LookedUnder(False)


# ---- slips --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("pours", "kind"),
    [
        ((pour(NEW, 18.1, 6.7),), None),
        ((pour(NEW, 9.0, 3.3), pour(NEW, 9.1, 3.4)), None),
        ((pour(NEW, 18.2, 0),), None),
        ((pour(None, 0, 6.7),), SlipKind.WATER_FIRST),
        ((pour(None, 0, 12.0),), SlipKind.TOO_MUCH_WATER),
        ((pour(replace(NEW, id="9", name="Old Guard S"), 18.1, 6.7),), SlipKind.WRONG_CAN),
        ((pour(NEW, 14.0, 10.8),), SlipKind.LOOP_STRENGTH),
        ((pour(NEW, 10.5, 10.5),), SlipKind.OFF_BLEND),
        ((pour(NEW, 20.0, 0),), SlipKind.TOO_MUCH_PRODUCT),
    ],
)
def test_a_pour_against_the_plan_is_named(pours, kind):
    state = shut().add(*pours)
    assert (state.fill.slip and state.fill.slip.kind) == kind


def test_the_new_plan_after_a_slip_is_what_the_mix_calculator_says_of_what_is_inside():
    """Against the mix calculator, asked again."""
    book = shut()
    state = book.add(pour(NEW, 5.6, 4.4))  # the loop's strength in the first bucket
    again = state.fill.slip.replan
    assert state.fill.slip.unless_c == pytest.approx(-28, abs=3)  # blended at 57 % the 32 l loop ends at -28: practice
    told = mix(MixQuestion(Glycol.ETHYLENE, 32.0, state.mix_inside, -45.0))
    assert (again.product_l, again.water_l) == (pytest.approx(told.concentrate_l), pytest.approx(told.water_l))
    poured = book.add(planned(-45.0, concentrate_l=again.product_l, water_l=again.water_l))
    assert poured.fill.slip is None
    done = book.add(pour(NEW, again.product_l, again.water_l, at_mark=True))
    assert done.predicted_freeze_c == pytest.approx(-45.05, abs=0.02)  # the little air that is usual at the mark


def test_a_slip_at_the_mark_plans_nothing():
    """13 + 9 at the loop's strength, then 2 + 0.2 to the mark: 2.5 too much water in all, and no litre left to plan."""
    slip = shut().add(pour(NEW, 13.0, 9.0), LookedUnder(True), pour(NEW, 2.0, 0.2, at_mark=True)).fill.slip
    assert slip.kind is SlipKind.TOO_MUCH_WATER
    assert slip.said.values["over_l"] == pytest.approx(2.5)
    assert (slip.replan, slip.unless_c) == (None, None)


def test_product_alone_and_then_the_rest_blended_is_the_plan():
    """9.5 of product, then 8.6 + 6.7: the second bucket is weaker than the plan's, and the loop is on its target."""
    book = shut()
    assert book.add(pour(NEW, 9.5, 0)).fill.slip is None
    assert book.add(pour(NEW, 8.6, 6.7, at_mark=True)).fill.slip is None
    assert book.state.predicted_freeze_c == pytest.approx(-45, abs=0.4)


def test_a_slip_past_repair_says_the_best_and_what_helps():
    state = shut().add(pour(NEW, 8.0, 12.0))
    again = state.fill.slip.replan
    assert not again.feasible
    assert again.freeze_c > -45
    assert "drain" in again.said.sentence
    assert state.next_action.act.code == "look_under"


def test_water_first_that_still_fits_changes_no_litre_and_water_that_leaves_no_space_does():
    assert shut().add(pour(None, 0, 6.7)).fill.slip.replan is None
    book = shut(at_mix())
    book.add(planned(-45.0, concentrate_l=20.0, water_l=9.0))
    slip = book.add(pour(None, 0, 9.0)).fill.slip
    assert "no longer fits" in slip.said.sentence
    assert slip.replan is not None


# ---- how sure while it is being filled ----------------------------------------------------------------------------


def test_the_doubt_after_each_pour_is_that_of_a_monte_carlo():
    """Against 40,000 seeded loops: capacity, litres out, strength inside and product drawn, masses added by hand."""
    book = at_mix(1)
    book.add(planned(-45.0, **PLAN))
    state = book.add(pour(NEW, 9.0, 0), pour(NEW, 5.0, 10.4, at_mark=True))
    policy, rng = Policy(), random.Random(5)
    before = at_mix(1).state
    inside_percent, spread = before.inside.strength_percent, before.spread
    inside_w = mass_fraction_of(Glycol.ETHYLENE, VolumePercent(inside_percent))
    rho = density_20c(Glycol.ETHYLENE, inside_w) / 1000
    kg = density_20c(Glycol.ETHYLENE, 0.95) / 1000
    product_sd = (policy["poured_sd"] ** 2 + policy["product_sd"] ** 2) ** 0.5 / 100
    for line, product_l, water_l in zip(state.fill.pours, (9.0, 14.0), (0.0, 10.4), strict=True):
        drawn = []
        for _ in range(40_000):
            more, less = rng.gauss(0, spread.loop_volume_l), rng.gauss(0, spread.drained_l)
            left = 7.5 + spread.inside_per_capacity * more - less
            off = rng.gauss(0, spread.inside_strength_percent)
            off += spread.strength_per_capacity * more - spread.strength_per_inside * less
            glycol = left * rho * inside_w + off / 100 * left
            glycol += product_l * kg * 0.95 * rng.gauss(1, product_sd)
            drawn.append(100 * glycol / (left * rho + product_l * kg + water_l * 0.9982))
        core = _predicted(book, line)
        assert core.glycol_mass_percent == pytest.approx(statistics.fmean(drawn), abs=0.1)
        assert core.sd_mass_percent <= 1.05 * statistics.stdev(drawn)  # the level at its mark says what fits, as well
        assert line.likely.low <= line.freeze_c <= line.likely.high


def _predicted(book, line):
    from temper_core.job.inside.balance import predicted_after
    from temper_core.job.ledger import walk

    return predicted_after(walk(book.loop, book.entries, Policy()), line.entry_id)


def test_the_running_total_and_where_the_rest_of_the_plan_ends():
    state = shut().add(pour(NEW, 10.0, 0))
    assert [row.total_l for row in state.fill.pours] == [10.0]
    assert state.fill.expected_l == pytest.approx(24.5, abs=0.01)
    assert state.fill.accepted_l == pytest.approx(10.0, abs=0.2)
    assert state.fill.ends_freeze_c == pytest.approx(-44.7, abs=0.4)


# ---- air ----------------------------------------------------------------------------------------------------------


def test_less_in_than_out_is_air_in_the_highest_vessel_that_does_not_bleed_by_itself():
    state = filled(16.6, 6.0).state.fill
    assert state.air.trapped
    assert state.air.air_l == pytest.approx(24.5 - (16.6 + 6.0), abs=0.5)  # a mix is a little smaller than its parts
    assert state.air.where == "heater"
    piped = replace(LAYOUT, bleeders=(Bleeder(1, "heater", 1760, BleederKind.PIPE),))
    assert where_air_sits(piped) == "radiator"


def test_what_the_litres_cannot_tell_apart_is_not_called_air():
    air = filled(18.2, 6.6).state.fill.air
    assert not air.trapped
    assert "no air to speak of" in air.said.sentence
    out, back = 24.5 * 0.007, 24.4 * 0.01
    assert air.half_l == pytest.approx(1.96 * (out**2 + back**2) ** 0.5, rel=0.02)  # [derived] errors add as squares


@pytest.mark.parametrize(
    ("litres", "verdict"),
    [
        ((1.2,), Convergence.NOT_YET),
        ((1.2, 0.4), Convergence.CONVERGING),
        ((1.2, 0.4, 0.1), Convergence.SETTLED),
        ((0.8, 0.9), Convergence.WRONG),
        ((0.8, 0.6), Convergence.NOT_YET),
        ((0.05,), Convergence.SETTLED),
        ((0.05, 0.08), Convergence.SETTLED),
    ],
)
def test_top_ups_must_shrink(litres, verdict):
    """1.2, 0.4, 0.1 L converges; 0.8, 0.9 does not: common practice, no source."""
    assert judge_top_ups(litres, 32.0, Policy()).verdict is verdict


def test_top_ups_are_those_after_the_mark():
    book = filled()
    book.bare(pour(NEW, 0.5, 0.3, at_mark=True, bleeding=True), pour(NEW, 0.6, 0.3, at_mark=True, bleeding=True))
    assert book.state.fill.top_ups.litres == pytest.approx((0.8, 0.9))
    assert book.state.fill.top_ups.verdict is Convergence.WRONG
    assert judge_top_ups([], 32.0, Policy()) is None


# ---- ways to fill -------------------------------------------------------------------------------------------------


def test_several_fill_points_are_filled_in_their_order():
    points = (FillPoint(2, "radiator", "plug"), FillPoint(1, "tank", "cap"), FillPoint(3, "block", "housing plug"))
    book = Book(a_loop(layout=replace(LAYOUT, fill_points=points)))
    book.add(
        JobOpened(JobType.CHANGE_TYPE),
        planned(),
        weighed(24.5),
        FlushEnded("for the test"),
        planned(-40.0, **PLAN),
    )
    first = book.state.fill.methods[0]
    assert first.method is FillMethod.POINTS
    assert [said.sentence[:2] for said in first.steps] == ["1:", "2:", "3:"]
    state = book.add(pour(NEW, 5, 0, method=FillMethod.POINTS, point=1))
    assert state.fill.pours[0].point == 1


def test_a_vacuum_that_leaks_draws_nothing_and_one_that_holds_says_what_air_stays():
    """Within 2 kPa in 10 minutes holds: policy, common practice, no source."""
    book = shut()
    with pytest.raises(Conflict, match="No vacuum is recorded"):
        book.bare(pour(NEW, 18.1, 6.7, method=FillMethod.VACUUM))
    leaks = book.bare(VacuumPulled(84.0, 15.0, Held(10, 6.0)))
    assert leaks.fill.vacuum.answer.tight is False
    with pytest.raises(Conflict, match="did not hold"):
        book.bare(pour(NEW, 18.1, 6.7, method=FillMethod.VACUUM))
    holds = book.bare(VacuumPulled(84.0, 15.0, Held(10, 1.0)))
    assert holds.fill.vacuum.answer.air_left_l == pytest.approx(24.5 * (101.325 - 84) / 101.325, rel=0.01)
    assert book.bare(pour(NEW, 18.1, 6.7, method=FillMethod.VACUUM)).fill.pours


@pytest.mark.parametrize(
    ("facts", "words"),
    [
        (VacuumPulled(84.0, 47.0), "too warm"),
        (VacuumPulled(101.0, 15.0), "not possible"),
    ],
)
def test_a_vacuum_that_cannot_be_is_refused(facts, words):
    loop = a_loop(altitude_m=900.0)
    book = Book(loop)
    book.add(
        JobOpened(JobType.CHANGE_TYPE),
        planned(),
        weighed(24.5),
        FlushEnded("for the test"),
        planned(-40.0, **PLAN),
    )
    with pytest.raises(Conflict, match="Refit and tighten"):
        book.bare(facts)
    book.shut()
    with pytest.raises(CoreError, match=words):
        book.bare(facts)


def test_old_or_soft_hoses_are_warned_about_under_vacuum():
    book = Book(a_loop(built=2009))
    book.add(
        JobOpened(JobType.CHANGE_TYPE),
        planned(),
        Checked(Check.HOSES, "soft"),
        weighed(24.5),
        FlushEnded("x"),
    )
    book.add(planned(-40.0, **PLAN))
    vacuum = next(row for row in book.state.fill.methods if row.method is FillMethod.VACUUM)
    assert [said.code for said in vacuum.warnings] == ["cold_only", "hoses_found", "hoses_old"]


def test_a_top_up_route_fills_without_a_closing_check_and_without_a_bleed():
    book = Book(a_loop(believed=Fluid(Base.ETHYLENE, Family.OAT)))
    book.add(JobOpened(JobType.TOP_UP), Read(-30.0, Place.AS_FOUND), planned())
    state = book.bare(pour(None, 0, 0.5, at_mark=True))
    assert state.fill.step is FillStep.DONE
    assert state.fill.closing == ()
    assert state.fill.air is None


def test_a_top_up_route_says_which_mix_keeps_the_strength():
    """The share against handbook masses by CoolProp: the blend freezes where the loop does."""
    book = Book(a_loop(believed=Fluid(Base.ETHYLENE, Family.OAT)))
    book.add(JobOpened(JobType.TOP_UP), Read(-30.0, Place.AS_FOUND), planned())
    share = book.state.top_up_share
    kg = {"product": share * density_20c(Glycol.ETHYLENE, MassFraction(0.95)), "water": (1 - share) * 998.2}
    glycol_w = 0.95 * kg["product"] / sum(kg.values())
    assert PropsSI("T_freeze", "T", 273.15, "P", 1e5, f"INCOMP::MEG[{glycol_w:.4f}]") - 273.15 == pytest.approx(-30, abs=1.0)
    other = Book(a_loop(believed=Fluid(Base.PROPYLENE, Family.OAT)))
    other.add(JobOpened(JobType.TOP_UP), planned(product=PG))
    assert other.state.top_up_share is None  # nobody read its strength


def test_another_base_by_mistake_is_the_wrong_can():
    state = shut().add(pour(PG, 18.1, 6.7))
    assert state.fill.slip.kind is SlipKind.WRONG_CAN


def test_a_ready_mix_is_counted_down_without_water():
    half = Product("7", "Winterline ready", Base.ETHYLENE, Family.OAT, Form.READY_MIX, 52.0)
    book = at_mix()
    book.add(planned(-27.0, product=half, concentrate_l=24.5, water_l=0.0))
    state = book.add(pour(half, 14.0, 0))
    assert state.poured.left_product_l == pytest.approx(10.5)
    assert state.fill.slip is None


def test_what_was_run_hot_with_the_neck_shut_is_not_topped_up_unfelt():
    book = filled()
    assert book.state.stage is Stage.VERIFY
    felt = filled()
    felt.bare(FELT, HOT)
    with pytest.raises(Conflict, match="ran since the check"):
        check_entry(felt.loop, felt.entries, pour(NEW, 0.3, 0, bleeding=True))
