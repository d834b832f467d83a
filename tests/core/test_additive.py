"""Additive doses: the rule's arithmetic by mass balance, never past what is allowed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.products.additive import DOSE_STEP_ML, Strength, additive_dose, check_dose

LABEL = Strength(500, 20, 1200)
LOOP_L, UPPER, LOW = st.floats(4, 400), st.floats(0, 4000), st.floats(100, 1000)


@given(LOOP_L, UPPER, LOW, st.floats(500, 4000))
def test_a_dose_ends_in_the_lower_third_and_never_past_the_range(loop_l, upper, low, width):
    """Mass balance: mg of inhibitor poured over litres of loop, beside what the strip may have read."""
    high = low + width
    dose = additive_dose(LABEL, loop_l, upper, low, high)
    poured_mg = dose.ml * LABEL.raises_mg_l * LABEL.treats_l / LABEL.dose_ml
    assert dose.at_most_mg_l == pytest.approx(upper + poured_mg / loop_l)
    if dose.ml > 0:
        assert dose.at_most_mg_l <= low + width / 3 + 1e-6
        step = LABEL.raised_by(DOSE_STEP_ML, loop_l)
        assert dose.at_most_mg_l > low + width / 3 - step - 1e-6
        check_dose(LABEL, dose.ml, loop_l, upper, high)
    else:
        assert upper >= low + width / 3 - LABEL.raised_by(DOSE_STEP_ML, loop_l)


def test_an_overdose_is_refused():
    with pytest.raises(CoreError) as caught:
        check_dose(LABEL, 2000, 20, 800, 3200)
    assert (caught.value.field, caught.value.code) == ("dose_ml", "overdose")


def test_what_may_be_enough_gets_none():
    dose = additive_dose(LABEL, 20, 1700, 800, 3200)
    assert (dose.ml, dose.said.code) == (0.0, "no_dose")


@pytest.mark.parametrize("given", [(20, -1, 800, 3200), (0, 100, 800, 3200), (20, 100, 3200, 800)])
def test_what_cannot_be_is_refused(given):
    with pytest.raises(CoreError):
        additive_dose(LABEL, *given)
