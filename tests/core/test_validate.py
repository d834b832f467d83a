"""What may be added to a ledger, and what is refused: by name, with what is allowed and what to do."""

import pytest

from temper_core.basis.errors import CoreError
from temper_core.job.drain.facts import Caught, Drained, Measured
from temper_core.job.entries import JobOpened, Voided
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType, Stage
from temper_core.job.mix.facts import Planned
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import Conflict
from temper_core.job.verify.facts import SignedOff
from temper_core.products.chemistry import Base, Family, Fluid
from tests.core.test_ledger import NEW, PG, WATERY, Book, a_loop, at_mix, filled, planned, pour, read

# ---- what may be added --------------------------------------------------------------------------------------------


def test_voiding_undoes_and_keeps_the_entry():
    book = at_mix(0)
    book.add(Voided("e4"))
    state = book.add(Voided("e3"))
    assert state.stage is Stage.INSPECT
    assert state.inside.litres == pytest.approx(32)
    assert len(book.entries) == 7


def test_order_is_by_when_it_happened_not_by_when_it_was_typed():
    book = at_mix()
    shuffled = book.entries[::-1]
    assert fold(book.loop, shuffled).inside == book.state.inside


@pytest.mark.parametrize("out", [32.2, 40, 500])
def test_more_out_than_in_is_asked_about(out):
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned())
    with pytest.raises(CoreError, match="Check the litres, or ask a lead") as refused:
        book.add(Drained(out, Measured.WEIGHED))
    assert refused.value.field == "drained_l"


@pytest.mark.parametrize(
    ("build", "field"),
    [
        (lambda: Drained(-1, Measured.MARKS), "drained_l"),
        (lambda: Drained(float("nan"), Measured.MARKS), "drained_l"),
        (lambda: Drained(5, Measured.MARKS, {"block": 4.0}), "drained_l"),
        (lambda: Drained(5, Measured.MARKS, {"block": -4.0, "tank": 9.0}), "by_vessel.block"),
        (lambda: Drained(), "drained_l"),
        (lambda: Drained(5, caught=(Caught(gross_kg=9),)), "drained_l"),
        (lambda: Drained(by_vessel={"block": 4.0}, caught=(Caught(gross_kg=9),)), "by_vessel"),
        (lambda: pour(NEW, -1, 5), "product_l"),
        (lambda: pour(NEW, 0, 0), "product_l"),
        (lambda: pour(None, 3, 0), "product"),
        (lambda: Planned(NEW, -90, 5), "coldest_c"),
        (lambda: Planned(NEW, -30, 99), "margin_k"),
        (lambda: Read(-30, Place.FINISHED), "instrument"),
        (lambda: Read(4, Place.AS_FOUND), "value"),
        (lambda: SignedOff("too_weak"), "reason"),
        (lambda: Fluid(Base.ETHYLENE, Family.OAT, 140), "strength_percent"),
    ],
)
def test_facts_that_cannot_be_are_refused_by_name(build, field):
    with pytest.raises(CoreError) as refused:
        build()
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("facts", "code"),
    [
        (JobOpened(JobType.REFILL), "job_open"),
        (read(-30), "not_filled"),
        (SignedOff("proven"), "not_proven"),
        (Voided("e99"), "not_standing"),
        (Voided("e0"), "not_last"),
    ],
)
def test_what_cannot_follow_is_a_conflict(facts, code):
    with pytest.raises(Conflict) as refused:
        at_mix().add(facts)
    assert refused.value.code == code


@pytest.mark.parametrize("facts", [planned(), Drained(1, Measured.MARKS), pour(NEW, 1, 1), read(-40), Voided("e2")])
def test_a_signed_job_stays_as_it_was(facts):
    book = filled()
    book.add(read(-46.6), SignedOff("proven"))
    with pytest.raises(Conflict, match="signed"):
        book.add(facts)


def test_without_a_job_nothing_is_recorded():
    with pytest.raises(Conflict, match="No job is open"):
        Book().add(planned())


def test_pouring_before_draining_is_refused():
    with pytest.raises(Conflict, match="Nothing is drained"):
        Book().add(JobOpened(JobType.REFILL), planned(), pour(NEW, 1, 1))


def test_a_pour_far_beyond_the_room_was_mistyped():
    with pytest.raises(CoreError, match="Check the litres and the unit"):
        at_mix().add(pour(NEW, 180, 6.6))


def test_a_verdict_that_moved_is_not_signed():
    book = filled()
    book.add(read(-46.6))
    with pytest.raises(Conflict, match="Reload the page"):
        book.add(SignedOff("too_weak", "in a hurry"))


def test_a_target_is_checked_against_the_products_glycol():
    with pytest.raises(CoreError, match="-47 °C is not possible"):
        at_mix().add(planned(-47.0, PG, concentrate_l=1.0, water_l=1.0))
    with pytest.raises(CoreError, match="Enter the freeze point with its minus sign"):
        at_mix().add(planned(12.0, PG, concentrate_l=1.0, water_l=1.0))
    with pytest.raises(CoreError, match="no frost protection"):
        at_mix().add(planned(-10.0, WATERY, concentrate_l=1.0, water_l=0.0))


def test_an_unknown_vessel_and_an_overdrawn_one_are_named():
    book = Book()
    book.add(JobOpened(JobType.REFILL))
    with pytest.raises(CoreError, match="block, heater, hoses") as refused:
        book.add(Drained(1.0, Measured.MARKS, {"sump": 1.0}))
    assert refused.value.field == "by_vessel.sump"
    with pytest.raises(CoreError, match="Check the litres and the vessel") as refused:
        book.add(Drained(9.0, Measured.MARKS, {"tank": 9.0}))
    assert refused.value.field == "by_vessel.tank"


def test_a_loop_whose_vessels_do_not_add_up_is_no_loop():
    with pytest.raises(CoreError, match="are missing"):
        a_loop(capacity_l=40.0)
