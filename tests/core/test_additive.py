"""Additive doses: the rule's arithmetic by mass balance, never past what is allowed; bands of strips."""

import bisect

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.products.additive import (
    DOSE_STEP_ML,
    Allowed,
    Band,
    Inhibitor,
    Strength,
    additive_dose,
    band_read,
    check_dose,
    strengths,
)
from temper_core.products.agents import Agent, AgentKind

NITRITE, MOLYBDATE = Inhibitor.NITRITE, Inhibitor.MOLYBDATE
LABEL = Strength(500, 20, 1200)
RANGE = {NITRITE: Allowed(800, 3200), MOLYBDATE: Allowed(200, 1000)}
LOOP_L, UPPER, LOW = st.floats(4, 400), st.floats(0, 4000), st.floats(100, 1000)
CARD = st.lists(st.integers(0, 4000), min_size=2, max_size=8, unique=True).map(sorted)


@given(LOOP_L, UPPER, LOW, st.floats(500, 4000))
def test_a_dose_ends_in_the_lower_third_and_never_past_the_range(loop_l, upper, low, width):
    """Mass balance: mg of inhibitor poured over litres of loop, beside what the strip may have read."""
    high = low + width
    ranges = {NITRITE: Allowed(low, high)}
    dose = additive_dose({NITRITE: LABEL}, loop_l, {NITRITE: Band(0, upper)}, ranges)
    poured_mg = dose.ml * LABEL.raises_mg_l * LABEL.treats_l / LABEL.dose_ml
    assert dose.at_most_mg_l[NITRITE] == pytest.approx(upper + poured_mg / loop_l)
    if dose.ml > 0:
        assert dose.at_most_mg_l[NITRITE] <= low + width / 3 + 1e-6
        step = LABEL.raised_by(DOSE_STEP_ML, loop_l)
        assert dose.at_most_mg_l[NITRITE] > low + width / 3 - step - 1e-6
        check_dose({NITRITE: LABEL}, dose.ml, loop_l, {NITRITE: Band(0, upper)}, ranges)
    else:
        assert upper >= low + width / 3 - LABEL.raised_by(DOSE_STEP_ML, loop_l)


@given(LOOP_L, st.floats(0, 2000), st.floats(0, 900), st.floats(1, 3000), st.floats(1, 1500))
def test_an_additive_with_two_inhibitors_overdoses_neither(loop_l, nitrite, molybdate, raises_n, raises_m):
    raises = {NITRITE: Strength(500, 20, raises_n), MOLYBDATE: Strength(500, 20, raises_m)}
    read = {NITRITE: Band(0, nitrite), MOLYBDATE: Band(0, molybdate)}
    dose = additive_dose(raises, loop_l, read, RANGE)
    assert all(dose.at_most_mg_l[one] <= RANGE[one].high_mg_l + 1e-6 or dose.ml == 0 for one in raises)
    if dose.ml:
        check_dose(raises, dose.ml, loop_l, read, RANGE)


def test_an_overdose_is_refused():
    with pytest.raises(CoreError) as caught:
        check_dose({NITRITE: LABEL}, 2000, 20, {NITRITE: Band(400, 800)}, RANGE)
    assert (caught.value.field, caught.value.code) == ("dose_ml", "overdose")


def test_what_may_be_enough_gets_none():
    dose = additive_dose({NITRITE: LABEL}, 20, {NITRITE: Band(800, 1700)}, RANGE)
    assert (dose.ml, dose.said.code) == (0.0, "no_dose")


@pytest.mark.parametrize(
    ("read", "code"),
    [({}, "strip_first"), ({NITRITE: Band(1600, None)}, "past_the_card"), ({NITRITE: Band(0, -1)}, "out_of_range")],
)
def test_nothing_is_dosed_on_what_is_not_known(read, code):
    with pytest.raises(CoreError) as caught:
        additive_dose({NITRITE: LABEL}, 20, read, RANGE)
    assert caught.value.code == code


def test_an_empty_range_is_refused():
    with pytest.raises(CoreError, match="range is empty"):
        Allowed(3200, 800)


@given(CARD, st.data())
def test_a_band_is_between_its_neighbours(card, data):
    """Against bisect of the standard library."""
    value = data.draw(st.sampled_from(card))
    band = band_read(value, card)
    below, above = bisect.bisect_left(card, value) - 1, bisect.bisect_right(card, value)
    assert band.low_mg_l == card[max(0, below)]
    assert band.high_mg_l == (card[above] if above < len(card) else None)
    assert band.meets(Band(value, value))


@pytest.mark.parametrize(
    ("other", "meets"), [(Band(1000, 2000), True), (Band(0, 999), False), (Band(0, None), True), (Band(2001, None), False)]
)
def test_two_bands_meet_where_both_can_be_true(other, meets):
    assert Band(1000, 2000).meets(other) is meets
    assert other.meets(Band(1000, 2000)) is meets


def test_a_cleaner_adds_no_inhibitor_and_a_silent_label_no_strength():
    with pytest.raises(CoreError) as caught:
        Agent("Rinse", AgentKind.CLEANER, 325, 11.4, nitrite_mg_l=100)
    assert caught.value.code == "not_an_additive"
    assert strengths(Agent("Liner", AgentKind.ADDITIVE, 325, 11.4)) == {}
    both = Agent("Liner", AgentKind.ADDITIVE, 500, 20, nitrite_mg_l=1200, molybdate_mg_l=300)
    assert strengths(both) == {NITRITE: LABEL, MOLYBDATE: Strength(500, 20, 300)}
