"""Ready-mix as it is, corrected litres, labels before sign-off: worked by hand and by mass balance."""

import pytest
from CoolProp.CoolProp import PropsSI
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.quantity import MassFraction
from temper_core.calculate.mix import Inside, MixQuestion, mix
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import JobOpened
from temper_core.job.job_types import JobType
from temper_core.job.read.facts import Place, Read
from temper_core.science import Glycol, density_20c, freeze_point
from temper_core.views.label import label_missing
from tests.core.test_ledger import HOT, NEW, Book, a_loop, at_mix, planned, pour, weighed

READY = MassFraction(0.525)


@given(inside_l=st.floats(0.5, 20.0), target=st.floats(-30.0, -5.0))
def test_ready_mix_as_it_is_takes_no_water_and_conserves_glycol(inside_l, target):
    """Glycol in = glycol out, by the published densities; nothing but the product goes in."""
    a = mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(inside_l), target, READY, as_it_is=True))
    assert a.water_l == 0
    glycol_kg = a.concentrate_l * density_20c(Glycol.ETHYLENE, READY) * READY
    whole_kg = a.concentrate_l * density_20c(Glycol.ETHYLENE, READY) + inside_l * density_20c(
        Glycol.ETHYLENE, MassFraction(0.0)
    )
    ends = freeze_point(Glycol.ETHYLENE, MassFraction(glycol_kg / whole_kg)).freeze_c
    assert a.final.freeze_c == pytest.approx(ends, abs=0.05)
    assert a.feasible == (ends <= target + 0.05) or abs(ends - target) < 0.1


def test_it_says_what_the_leftover_water_takes():
    """The product's own freeze point against CoolProp's INCOMP::MEG (Melinder), within that handbook's difference."""
    a = mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), -30.0, READY, as_it_is=True))
    assert a.own_freeze_c == pytest.approx(
        PropsSI("T_FREEZE", "T", 300, "P", 1e5, f"INCOMP::MEG[{READY}]") - 273.15, abs=2.5
    )
    assert a.final.freeze_c - a.own_freeze_c == pytest.approx(a.inside_takes_k)
    assert a.inside_takes_k > 5
    assert not a.feasible
    assert a.reason.drain_more_l > 0


def test_as_it_is_and_to_be_sure_are_two_questions():
    with pytest.raises(CoreError):
        mix(MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), -30.0, READY, be_sure=True, as_it_is=True))


def test_a_corrected_sum_keeps_the_containers_and_their_places():
    caught = (Caught("A", marks_l=16.0, at_c=20.0), Caught("B", marks_l=8.0, at_c=20.0))
    states = []
    for corrected in (None, 24.0, 20.0):
        book = Book()
        book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
        states.append(book.add(Drained(caught=caught, corrected_l=corrected)))
    as_read, same, less = states
    assert same.inside.litres == pytest.approx(32 - 24.0, abs=1e-6)
    assert same.inside.litres == pytest.approx(as_read.inside.litres, abs=0.2)
    assert less.inside.litres == pytest.approx(32 - 20.0, abs=1e-6)
    with pytest.raises(CoreError):
        Drained(24.0, None, corrected_l=20.0)


def test_no_label_on_a_loop_that_holds_water_and_a_list_of_what_is_missing_after():
    book = at_mix()
    assert [row.code for row in label_missing(book.state)] == ["holds"]
    book.add(planned(-40.0, concentrate_l=17.0, water_l=7.5), pour(NEW, 17.0, 7.0))
    assert "not_filled" in [row.code for row in label_missing(book.state)]
    book.add(pour(None, 0.0, 0.5, at_mark=True), HOT)
    assert "not_filled" not in [row.code for row in label_missing(book.state)]
    assert label_missing(book.state) != []
    assert label_missing(Book(a_loop()).state) == []


def test_several_drains_add_up_in_litres():
    book = Book()
    book.add(JobOpened(JobType.CHANGE_TYPE), Read(-19.0, Place.AS_FOUND), planned())
    assert book.add(weighed(10.0), weighed(14.5)).inside.litres == pytest.approx(7.5)
