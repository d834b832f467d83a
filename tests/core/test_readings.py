"""Readings as facts: what each kind of instrument can have shown, and what it comes to in this loop."""

from itertools import pairwise

import pytest
from CoolProp.CoolProp import PropsSI

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction
from temper_core.instruments import KINDS, InstrumentKind, InstrumentSpec, Scale, eyepiece
from temper_core.job.entries import JobOpened
from temper_core.job.identify.facts import ReportedContents, ToppedUp
from temper_core.job.job_types import JobType
from temper_core.job.read.facts import Instrument, Place, Read, answer_of, counted
from temper_core.products.chemistry import Base, Family
from temper_core.science import Branch, Glycol, freeze_point, mass_fraction_at_freeze, refractive_index_20c
from tests.core.test_ledger import Book

BALLS = (-7.0, -14.0, -21.0, -29.0, -37.0)
GLASS = Instrument("1", "Glass", Scale.FREEZE_ETHYLENE, 1.0)
BRIX = Instrument("2", "Brix glass", Scale.BRIX, 0.2)
COUNTER = Instrument("3", "Counter", Scale.REFRACTIVE_INDEX, 0.0001, InstrumentKind.DIGITAL)
SPINDLE = Instrument("4", "Spindle", Scale.SPECIFIC_GRAVITY, 0.002, InstrumentKind.HYDROMETER, compensated=False)
TESTER = Instrument("5", "Balls", Scale.FREEZE_ETHYLENE, 1.0, InstrumentKind.STEPS, freezes_c=BALLS)


def codes(answer):
    return [flag.code for flag in answer.flags]


def melinder(thousandths):
    """A solution of ethylene glycol as CoolProp names it."""
    return f"INCOMP::MEG2[{thousandths / 1000}]"


def read_on(instrument, value, **more):
    return Read(value, Place.FINISHED, instrument, **more)


@pytest.mark.parametrize(
    ("instrument", "value", "field"),
    [(GLASS, 50, "value"), (BRIX, -36, "value"), (COUNTER, 36, "value"), (SPINDLE, -20, "value"), (TESTER, 6, "value")],
)
def test_a_value_that_its_scale_cannot_show_is_refused(instrument, value, field):
    with pytest.raises(CoreError) as refused:
        read_on(instrument, value)
    assert refused.value.field == field


def test_half_a_step_is_no_step():
    with pytest.raises(CoreError, match="Count the visible steps"):
        read_on(TESTER, 2.5)


def test_the_same_coolant_reads_alike_on_every_scale():
    """50 % by volume freezes at -36.7 degC = -34 degF (common practice, -35 to -37); its density by CoolProp (Melinder)."""
    share = next(x / 1000 for x in range(400, 600) if PropsSI("T_freeze", "T", 293.15, "P", 101325, melinder(x)) < 236.45)
    gravity = PropsSI("D", "T", 293.15, "P", 101325, melinder(1000 * share)) / 998.2
    w = mass_fraction_at_freeze(Glycol.ETHYLENE, -36.7)
    index = refractive_index_20c(Glycol.ETHYLENE, w)
    marks = eyepiece(Scale.BRIX)
    brix = next(a.value + (index - a.index) / (b.index - a.index) for a, b in pairwise(marks) if b.index >= index)
    found = [
        answer_of(Base.ETHYLENE, read_on(GLASS, -36.7), Policy()).freeze_c,
        answer_of(Base.ETHYLENE, read_on(COUNTER, round(index, 4)), Policy()).freeze_c,
        answer_of(Base.ETHYLENE, read_on(SPINDLE, gravity), Policy()).freeze_c,
    ]
    assert found == pytest.approx([-36.7] * 3, abs=1.5)
    assert answer_of(Base.ETHYLENE, read_on(BRIX, brix), Policy()).freeze_c == pytest.approx(-36.7, abs=1.5)


def test_steps_give_no_number_and_do_not_count():
    """Common practice, no source: a step tester says "at least"."""
    facts = read_on(TESTER, 3)
    answer = answer_of(Base.ETHYLENE, facts, Policy())
    assert answer.freeze_c is None
    assert codes(answer)[0] == "at_least"
    assert not counted(facts)


def test_a_loop_without_glycol_is_told_so_whatever_the_scale_shows():
    water = answer_of(Base.NONE, read_on(GLASS, 0.0), Policy())
    assert (water.freeze_c, codes(water)[0]) == (None, "glycol_free")
    mix = answer_of(Base.NONE, read_on(GLASS, -20.0), Policy())
    assert (mix.freeze_c, codes(mix)[0]) == (None, "not_glycol_free")


def test_mixed_and_unknown_bases_are_named():
    assert codes(answer_of(Base.ETHYLENE, read_on(GLASS, -20.0), Policy(), other_on_top=True))[0] == "mixed_bases"
    assert codes(answer_of(None, read_on(GLASS, -20.0), Policy()))[0] == "base_unknown"


def test_the_instruments_own_range_of_compensation_outranks_the_depots():
    wide = Instrument("1", "Wide", Scale.FREEZE_ETHYLENE, 1.0, compensation_low_c=-5.0, compensation_high_c=50.0)
    assert "outside_compensation" in codes(answer_of(Base.ETHYLENE, read_on(GLASS, -30.0, sample_c=5.0), Policy()))
    assert "outside_compensation" not in codes(answer_of(Base.ETHYLENE, read_on(wide, -30.0, sample_c=5.0), Policy()))


def test_propylene_on_an_ethylene_scale_is_flagged_and_converted():
    """By the two freezing curves through the refractive index; common practice: about 7 K too cold at -30."""
    answer = answer_of(Base.PROPYLENE, read_on(GLASS, -30.0), Policy())
    assert "other_scale" in codes(answer)
    index = refractive_index_20c(Glycol.ETHYLENE, mass_fraction_at_freeze(Glycol.ETHYLENE, -30.0))
    w = next(x / 10_000 for x in range(10_000) if refractive_index_20c(Glycol.PROPYLENE, MassFraction(x / 10_000)) >= index)
    assert answer.freeze_c == pytest.approx(freeze_point(Glycol.PROPYLENE, MassFraction(w)).freeze_c, abs=0.05)


@pytest.mark.parametrize(("branch", "stronger"), [(Branch.LEAN, False), (Branch.RICH, True)])
def test_a_told_freeze_point_means_one_of_two_strengths(branch, stronger):
    """Neat ethylene glycol freezes near -13 degC: past the turn more of it protects less (handbook, memory)."""
    from temper_core.job.read.apply import found_strength

    strength = found_strength(Glycol.ETHYLENE, Read(-20.0, Place.AS_FOUND, branch=branch), Policy())
    assert (strength > 80) is stronger


@pytest.mark.parametrize(
    ("given", "code"),
    [
        ({"kind": InstrumentKind.STRIPS, "scale": Scale.BRIX}, "no_scale"),
        ({"kind": InstrumentKind.HYDROMETER, "scale": Scale.BRIX}, "wrong_scale"),
        ({"kind": InstrumentKind.OPTICAL}, "wrong_scale"),
        ({"kind": InstrumentKind.STEPS, "scale": Scale.FREEZE_ETHYLENE}, "out_of_range"),
        ({"kind": InstrumentKind.STEPS, "scale": Scale.FREEZE_ETHYLENE, "freezes_c": (-20, -10)}, "not_in_order"),
        ({"kind": InstrumentKind.OPTICAL, "scale": Scale.BRIX, "freezes_c": (-7,)}, "not_a_step_tester"),
        ({"kind": InstrumentKind.OPTICAL, "scale": Scale.BRIX, "resolution": 50}, "out_of_range"),
        ({"kind": InstrumentKind.OPTICAL, "scale": Scale.BRIX, "compensation_low_c": 30}, "out_of_range"),
    ],
)
def test_an_instrument_that_cannot_be_is_refused(given, code):
    with pytest.raises(CoreError) as refused:
        InstrumentSpec(**given)
    assert refused.value.code == code


def test_each_kind_says_how_it_is_used():
    assert set(KINDS) == set(InstrumentKind)
    assert all(row.how.endswith(".") or row.how.endswith("test.") for row in KINDS.values())


@pytest.mark.parametrize("scale", [Scale.FREEZE_ETHYLENE, Scale.FREEZE_PROPYLENE, Scale.BRIX, Scale.REFRACTIVE_INDEX])
def test_the_eyepiece_runs_from_water_upwards(scale):
    marks = eyepiece(scale)
    assert marks[0].index == pytest.approx(1.333, abs=0.0002)
    assert all(b.index > a.index for a, b in zip(marks, marks[1:], strict=False))
    assert eyepiece(Scale.SPECIFIC_GRAVITY) == ()


@pytest.mark.parametrize(
    ("told", "instrument", "value", "code"),
    [
        (ReportedContents(Base.ETHYLENE, Family.OAT, ToppedUp.OTHER), "glass", -20.0, "mixed_bases"),
        (ReportedContents(None, None, ToppedUp.UNKNOWN), "glass", -20.0, "base_unknown"),
        (ReportedContents(Base.PROPYLENE, Family.OAT, ToppedUp.NOTHING), "glass", -20.0, "other_scale"),
        (ReportedContents(Base.NONE, None, ToppedUp.NOTHING), "glass", -20.0, "not_glycol_free"),
        (ReportedContents(Base.ETHYLENE, Family.OAT, ToppedUp.NOTHING), "steps", 3, "at_least"),
    ],
)
def test_a_reading_as_found_says_what_it_cannot_say(told, instrument, value, code):
    read = Read(value, Place.AS_FOUND, GLASS if instrument == "glass" else TESTER)
    state = Book().add(JobOpened(JobType.REFILL), told, read)
    assert code in [flag.code for flag in state.flags]


@pytest.mark.parametrize("base", [Base.ETHYLENE, Base.NONE, None])
def test_what_an_instrument_cannot_tell_never_gets_into_a_ledger(base):
    """A spindle that does not compensate, in fluid near freezing: refused whatever is inside, known or not."""
    book = Book()
    book.add(JobOpened(JobType.REFILL), ReportedContents(base, None, ToppedUp.UNKNOWN))
    with pytest.raises(CoreError) as refused:
        book.add(Read(1.065, Place.AS_FOUND, SPINDLE, sample_c=-4.0))
    assert refused.value.field.endswith("sample_c")
    book.add(Read(1.065, Place.AS_FOUND, SPINDLE, sample_c=18.0))


def test_propylene_too_strong_for_a_spindle_is_refused_before_it_is_recorded():
    """Above about 50 % by mass the density of propylene glycol hardly rises (CoolProp, Melinder)."""
    book = Book()
    book.add(JobOpened(JobType.REFILL), ReportedContents(Base.PROPYLENE, Family.OAT, ToppedUp.NOTHING))
    with pytest.raises(CoreError) as refused:
        book.add(Read(1.08, Place.AS_FOUND, SPINDLE))
    assert refused.value.code == "density_flat"
    assert book.state.stage is not None
