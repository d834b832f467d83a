"""What stands against a verdict, however well it reads; what may not be planned. Source: common practice, no source."""

from dataclasses import replace

import pytest

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.job.entries import JobOpened
from temper_core.job.inside.verdict import Proof
from temper_core.job.inspect.facts import Check
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JobType
from temper_core.job.mix.facts import Planned
from temper_core.job.read.facts import Place, Read
from temper_core.machine.equipment import Equipment
from temper_core.products.chemistry import Base, Family, Form, LoopUse, Product, Requirement
from temper_core.products.conductivity import at_reference, limit_for
from tests.core.test_ledger import HOT, NEW, PG, Book, a_loop, planned, pour, read, weighed

LOW = Product("9", "Stillwater E", Base.ETHYLENE, Family.LOW_CONDUCTIVITY, Form.READY_MIX, 50.0)


def filled_with_propylene():
    """Ten litres of ethylene stay inside, propylene goes on top: 31 % of another base in the finished loop."""
    book = Book()
    book.add(JobOpened(JobType.REFILL), Read(-19.0, Place.AS_FOUND), planned(product=PG), weighed(22.0))
    book.add(planned(-30.0, product=PG, concentrate_l=20.0, water_l=2.0), pour(PG, 20.0, 2.0, at_mark=True), HOT)
    return book


def test_two_bases_in_one_loop_are_never_verified_whatever_they_read():
    book = filled_with_propylene()
    assert book.state.proof.verdict is Proof.MIXED_BASES
    assert book.state.proof.freeze_c is None
    for value in (-45.0, -45.5, -45.0):
        book.add(read(value))
    proof = book.state.proof
    assert proof.verdict is Proof.MIXED_BASES
    assert float(str(proof.said.values["other_percent"]).split()[0]) == pytest.approx(100 * 10 / 32, abs=1.5)


def test_one_base_alone_is_verified_as_before():
    book = Book()
    book.add(JobOpened(JobType.REFILL), Read(-19.0, Place.AS_FOUND), planned(), weighed(22.0))
    book.add(planned(-40.0, concentrate_l=17.0, water_l=5.0), pour(NEW, 17.0, 5.0, at_mark=True), HOT)
    for _ in range(3):
        book.add(read(-46.0))
    assert book.state.proof.verdict is not Proof.MIXED_BASES


def electronics(use=LoopUse.BATTERY, limit=None):
    """A low-conductivity loop, drained and filled with its own ready-mix."""
    need = Requirement(low_conductivity=True, use=use)
    book = Book(a_loop(need=need, equipment=Equipment(conductivity_limit_us_cm=limit)))
    book.add(JobOpened(JobType.REFILL), Read(-35.0, Place.AS_FOUND), planned(product=LOW), weighed(24.0))
    book.add(Planned(LOW, -25.0, 5.0, -35.0, 24.0, 0.0), pour(LOW, 24.0, 0.0, at_mark=True), HOT)
    return book


def measured(us_cm, sample_c=25.0, compensated=True):
    """The conductivity after the run."""
    figures = {"us_cm": us_cm, "sample_c": sample_c}
    return Checked(Check.CONDUCTIVITY, None, figures, compensated=compensated)


def test_an_electronics_loop_is_not_verified_by_its_freeze_point_alone():
    book = electronics()
    for _ in range(3):
        book.add(read(-37.0))
    assert book.state.proof.verdict is Proof.NOT_MEASURED
    book.add(measured(99.0))
    assert book.state.proof.verdict not in (Proof.NOT_MEASURED, Proof.CONDUCTS)
    book.add(measured(101.0))  # the limit is the depot's rule for a battery: 100 uS/cm
    assert book.state.proof.verdict is Proof.CONDUCTS


def test_a_use_that_is_not_entered_has_no_limit_and_so_no_verdict():
    book = electronics(use=None)
    for _ in range(3):
        book.add(read(-37.0))
    book.add(measured(5.0))
    assert book.state.proof.verdict is Proof.USE_UNKNOWN


def test_water_in_it_by_mistake_is_recorded_and_never_verified():
    book = electronics()
    with pytest.raises(CoreError):
        book.bare(pour(None, 0, 0.5))
    need = Requirement(low_conductivity=True, use=LoopUse.BATTERY)
    wet = Book(a_loop(need=need))
    wet.add(JobOpened(JobType.REFILL), Read(-35.0, Place.AS_FOUND), planned(product=LOW), weighed(24.0))
    wet.add(planned(product=LOW, concentrate_l=24.0, water_l=0.0), pour(LOW, 23.5, 0.0))
    wet.add(pour(None, 0.0, 0.5, mistake=True, at_mark=True), HOT)
    assert wet.state.proof.verdict is Proof.WATER_IN


@pytest.mark.parametrize(
    ("us_cm", "sample_c", "compensated", "at_25"),
    [(90.0, 20.0, False, 100.0), (90.0, 20.0, True, 90.0), (100.0, 25.0, False, 100.0), (110.0, 30.0, False, 100.0)],
)
def test_conductivity_is_reckoned_to_25_degrees(us_cm, sample_c, compensated, at_25):
    """2 % a kelvin from 25 degC: common practice for ionic solutions, from memory."""
    assert at_reference(us_cm, sample_c, compensated, Policy()) == pytest.approx(at_25)


def test_the_makers_limit_goes_before_the_depots():
    assert limit_for(LoopUse.FUEL_CELL, 2.0, Policy()).us_cm == 2.0
    assert limit_for(LoopUse.FUEL_CELL, None, Policy()).us_cm < limit_for(LoopUse.BATTERY, None, Policy()).us_cm
    assert limit_for(None, None, Policy()) is None


def test_a_product_that_does_not_belong_in_cannot_be_planned():
    strict = Book(a_loop(need=Requirement(families=(Family.IAT,), materials=())))
    strict.add(JobOpened(JobType.REFILL))
    with pytest.raises((CoreError, Conflict)):
        strict.bare(Planned(replace(LOW, id="8"), -25.0, 5.0))
    assert strict.state.plan is None
