"""How sure, said: where the doubt comes from, what measuring would gain, and the level that a loop came in with."""

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.instruments import ReadingQuestion, Scale, read, repeats
from temper_core.instruments.errors import errors_of
from temper_core.job.doubt.inputs import SOURCE_NAMES, Source
from temper_core.job.doubt.state import SureOf
from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import JobOpened
from temper_core.job.inspect.facts import Check
from temper_core.job.inspect.facts import Tested as Made
from temper_core.job.job_types import JobType
from temper_core.job.loop import CapacitySource
from temper_core.job.read.facts import Place, Read
from temper_core.science import Glycol, refractive_index_20c
from temper_core.science.index import index_by_mixing, index_doubt
from tests.core.test_ledger import GLASS, HOT, RINSE, Book, a_loop, filled, planned, weighed
from tests.core.test_ledger import read as finished

ZEROED = {"instrument": GLASS, "zero": 0.0}


def opened(*facts, **changes):
    """A job with these facts."""
    book = Book(a_loop(**changes))
    book.add(JobOpened(JobType.CHANGE_TYPE), *facts)
    return book


def told(state, of):
    """What is told of one figure."""
    return next(row for row in state.how_sure if row.of is of)


def test_every_source_has_a_name():
    assert set(SOURCE_NAMES) == set(Source)


def test_the_figures_of_each_stage_are_told_and_no_others():
    book = opened(Read(-19.0, Place.AS_FOUND, **ZEROED), planned())
    assert [row.of for row in book.state.how_sure] == [SureOf.INSIDE]
    assert [row.of for row in book.add(weighed(24.5)).how_sure] == [SureOf.INSIDE, SureOf.OLD]
    book = filled(18.2, 6.6)
    assert [row.of for row in book.state.how_sure] == [SureOf.PREDICTED]
    assert [row.of for row in book.add(finished(-45.0)).how_sure] == [SureOf.READ]


def test_parts_come_largest_first_and_a_gain_is_narrower():
    book = opened(planned(), Drained(24.5, Measured.GUESSED), capacity_source=CapacitySource.REMEMBERED)
    for row in book.state.how_sure:
        shares = [part.share_percent for part in row.parts]
        assert shares == sorted(shares, reverse=True)
        assert 90 <= sum(shares) <= 100 + 1e-6
        assert row.likely.low <= row.value <= row.likely.high
        for gain in row.gains:
            assert gain.likely.high - gain.likely.low < row.likely.high - row.likely.low
    weigh = next(gain for gain in told(book.state, SureOf.INSIDE).gains if gain.source is Source.DRAINED)
    assert weigh.said.sentence == "Weigh what came out"


def test_what_weighing_promises_is_what_weighing_brings():
    guessed = opened(Made(Check.LEVEL, "at_mark"), planned(), Drained(24.5, Measured.GUESSED))
    weighed_ = opened(Made(Check.LEVEL, "at_mark"), planned(), Drained(24.5, Measured.WEIGHED))
    promised = next(g for g in told(guessed.state, SureOf.INSIDE).gains if g.source is Source.DRAINED).likely
    kept = told(weighed_.state, SureOf.INSIDE).likely
    assert promised.high - promised.low == pytest.approx(kept.high - kept.low, rel=0.05)


def test_reading_before_draining_is_advised_only_while_it_can_be_done():
    loop = {"believed": a_loop().believed.__class__(a_loop().believed.base, a_loop().believed.family, 40.0)}
    book = opened(planned(), **loop)
    assert all(gain.source is not Source.FOUND for gain in told(book.add(weighed(24.5)), SureOf.INSIDE).gains)


def test_nothing_is_told_between_jobs_or_of_water():
    assert Book(a_loop()).state.how_sure == ()


# ---- the level at arrival ---------------------------------------------------------------------------------------------


def test_a_level_that_nobody_looked_at_widens_and_one_at_the_mark_does_not():
    unseen, seen, low = (
        opened(*([Made(Check.LEVEL, answer)] if answer else []), planned(), weighed(24.5)).state.inside
        for answer in (None, "at_mark", "low")
    )
    assert seen.sd_l < unseen.sd_l < low.sd_l
    assert seen.litres == pytest.approx(unseen.litres) == pytest.approx(low.litres)


def test_litres_missing_are_neither_drained_nor_inside():
    missing = Made(Check.LEVEL, "low", {"missing_l": 2.0})
    state = opened(missing, planned(), weighed(20.0)).state
    assert state.inside.litres == pytest.approx(32.0 - 2.0 - 20.0, abs=0.01)
    assert state.drained_l == pytest.approx(22.0, abs=0.01)  # what then fits up to the mark


def test_millimetres_below_the_mark_are_litres_of_the_tank():
    """The tank of this loop holds 4 l over 270 mm."""
    state = opened(Made(Check.LEVEL, "low", {"missing_mm": 54.0}), planned()).state
    assert state.inside.litres == pytest.approx(32.0 - 4.0 * 54 / 270, abs=0.01)


def test_something_is_missing_from_a_low_level_only():
    with pytest.raises(CoreError, match="low level only"):
        Made(Check.LEVEL, "at_mark", {"missing_l": 1.0})


# ---- a reading's own doubt ---------------------------------------------------------------------------------------------


def question(value=-36.0, zero=0.0, scale=Scale.FREEZE_ETHYLENE, glycol=Glycol.ETHYLENE, **more):
    """A reading."""
    return ReadingQuestion(glycol, scale, value, zero=zero, **more)


def test_a_zero_that_nobody_checked_is_its_largest_doubt():
    unchecked, checked = (errors_of(question(zero=zero), Policy(), 0.5) for zero in (None, 0.0))
    assert unchecked.zero > 1.5 * checked.zero
    assert unchecked.zero == max(unchecked.line, unchecked.zero, unchecked.accuracy)


def test_an_instrument_right_at_water_is_not_as_right_along_its_scale():
    near, far = (errors_of(question(value), Policy(), w) for value, w in ((-1.0, 0.02), (-36.0, 0.5)))
    assert near.accuracy / near.division < far.accuracy / far.division
    assert errors_of(question(), Policy({"accuracy_divisions": 0.0}), 0.5).accuracy == 0


@pytest.mark.parametrize("times", [3, 30])
def test_looks_at_one_line_leave_its_rounding_its_zero_and_its_scale(times):
    once, many = repeats([question()]), repeats([question()] * times)
    assert 0.95 * once.sd_mass_percent < many.sd_mass_percent <= once.sd_mass_percent


# ---- the index -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("glycol", list(Glycol))
def test_both_roads_to_the_index_meet_at_water_and_at_neat_glycol(glycol):
    for w in (0.0, 1.0):
        assert index_by_mixing(glycol, w) == pytest.approx(refractive_index_20c(glycol, w), abs=1e-9)


def test_molar_refraction_is_the_chemicals_librarys():
    """Against chemicals' molar refractivity from index and molar volume (Lorentz-Lorenz), ethylene glycol at 20 degC."""
    from chemicals.refractivity import RI_from_molar_refractivity, molar_refractivity_from_RI

    from temper_core.science import density_20c

    molar = 62.068e-3 / density_20c(Glycol.ETHYLENE, 1.0)
    refraction = molar_refractivity_from_RI(refractive_index_20c(Glycol.ETHYLENE, 1.0), molar)
    assert RI_from_molar_refractivity(refraction, molar) == pytest.approx(index_by_mixing(Glycol.ETHYLENE, 1.0), abs=1e-6)


@pytest.mark.parametrize(("glycol", "low", "high"), [(Glycol.ETHYLENE, 7e-4, 13e-4), (Glycol.PROPYLENE, 16e-4, 20e-4)])
def test_they_differ_where_nobody_has_a_table_and_the_difference_is_doubt(glycol, low, high):
    for w in (0.5, 0.6):
        apart = index_by_mixing(glycol, w) - refractive_index_20c(glycol, w)
        assert low <= apart <= high
        assert index_doubt(glycol, w) == pytest.approx(apart / 3**0.5)


def test_only_a_reading_that_crosses_scales_carries_it():
    own = errors_of(question(), Policy(), 0.5)
    brix = errors_of(question(32.0, 0.0, Scale.BRIX), Policy(), 0.5)
    other = errors_of(question(-30.0, 0.0, Scale.FREEZE_ETHYLENE, Glycol.PROPYLENE), Policy(), 0.45)
    assert own.tables == 0 < brix.tables < other.tables
    assert read(question(32.0, 0.0, Scale.BRIX)).spread.freeze_c > 0.5  # K: it used to be a tenth of that


# ---- reading and litres together -----------------------------------------------------------------------------------------


def test_readings_pull_the_capacity_and_the_litres_pull_the_reading():
    book = filled(18.2, 6.6)
    before = told(book.state, SureOf.PREDICTED).likely
    state = book.add(finished(-45.0), finished(-45.5), finished(-45.0))
    after = told(state, SureOf.READ).likely
    assert after.high - after.low < min(before.high - before.low, state.repeats.likely.high - state.repeats.likely.low)


def test_a_rinse_that_was_read_moves_the_rounds_that_follow():
    """Less old coolant read than predicted means that less stays each time, so the plan counts with less inside."""
    fine = {"instrument": GLASS.__class__("2", "Digital 1", Scale.FREEZE_ETHYLENE, 0.1), "zero": 0.0}
    found = Read(-19.0, Place.AS_FOUND, **fine)
    book = opened(found, planned(), weighed(24.5), RINSE, HOT, capacity_source=CapacitySource.REMEMBERED)
    before = book.state
    state = book.add(Read(-1.5, Place.RINSE, **fine), weighed(24.5))
    assert state.mix_capacity_l < before.mix_capacity_l
    assert state.inside.litres < 7.5
    assert state.mix_inside.volume_l == pytest.approx(state.inside.litres)
    assert state.inside.sd_l < 3.2


# ---- a bias that was learned ---------------------------------------------------------------------------------------------


def test_a_learned_bias_is_taken_off_where_the_instrument_is_off_and_its_doubt_stays():
    plain, known_ = read(question()), read(question(bias_percent=1.5, bias_sd=0.1))
    assert known_.glycol_mass_percent == pytest.approx(plain.glycol_mass_percent - 1.5)
    assert known_.freeze_c > plain.freeze_c
    assert known_.spread.strength_percent < plain.spread.strength_percent  # its accuracy is known now
    vague = read(question(bias_percent=1.5, bias_sd=9.0))
    assert vague.spread.strength_percent == pytest.approx(known_.spread.strength_percent, rel=0.35)


def test_at_water_it_was_zeroed_so_nothing_is_taken_off():
    weak = read(question(-1.5, bias_percent=1.0, bias_sd=0.1))
    assert weak.glycol_mass_percent == pytest.approx(read(question(-1.5)).glycol_mass_percent - 0.46, abs=0.1)


def test_a_bias_of_a_broken_instrument_is_refused():
    with pytest.raises(CoreError, match="Repair"):
        question(bias_percent=12.0)


def test_a_rinse_that_contradicts_the_litres_never_makes_it_cleaner():
    """-3 degC again after a second rinse: no zero, capacity or scale explains both, so the worse of the two counts."""
    glass = {"instrument": GLASS, "zero": None}
    book = opened(Read(-21.0, Place.AS_FOUND, **glass), planned(), weighed(24.5), RINSE, HOT, weighed(24.5))
    book.add(Read(-3.0, Place.RINSE, **glass), RINSE, HOT)
    before = book.add(weighed(24.5)).flush
    state = book.add(Read(-3.0, Place.RINSE, **glass))
    assert state.flush.finished_old_percent > 2 * before.finished_old_percent
    assert "the worse counts" in state.flush.rounds[-1].jar.says.sentence
    assert state.flush.finished_likely_percent.high > state.flush.finished_old_percent
    low = opened(Read(-21.0, Place.AS_FOUND, **ZEROED), planned(), weighed(20.0), RINSE, HOT)
    share = low.add(weighed(20.0)).flush.finished_old_percent
    after = low.add(Read(-2.0, Place.RINSE, **ZEROED)).flush  # a sixth of what the litres say
    assert after.finished_old_percent == pytest.approx(share, rel=0.05)
