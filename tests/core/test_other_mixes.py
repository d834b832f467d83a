"""Ready-mix, boost, correction, top-up and learning: worked points, hand arithmetic and conservation."""

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.calculate.mix import (
    Believed,
    CorrectionQuestion,
    Inside,
    MixQuestion,
    Now,
    Pour,
    ReadyMixQuestion,
    TopUpQuestion,
    correct,
    learn_capacity,
    mix,
    ready_mix,
    suggested_target_c,
    target_note,
    top_up,
)
from temper_core.calculate.mix.question import MOST_POURS
from temper_core.science import Branch, Glycol, density_20c, freeze_point, mass_fraction_of, strength_of

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE
shares = st.floats(0, 0.9)
strengths = st.floats(0, 60)


def kg(litres, w, glycol=ETHYLENE):
    """Glycol and water [kg] in litres of a solution, by hand."""
    mass = litres * density_20c(glycol, w) / 1000
    return mass * w, mass * (1 - w)


def litres(glycol_kg, water_kg, glycol=ETHYLENE):
    """Volume [l] at 20 degC of so much glycol and water."""
    total = glycol_kg + water_kg
    return 1000 * total / density_20c(glycol, glycol_kg / total)


def loop(strength=50.0, **changes):
    """32 l with 7.5 l of water inside, filled with ready-mix."""
    given_ = {"glycol": ETHYLENE, "loop_volume_l": 32.0, "inside": Inside(7.5), "ready_mix_percent": strength}
    return ReadyMixQuestion(**(given_ | {"target_freeze_c": -45.0} | changes))


# ---- ready-mix and boost ------------------------------------------------------------------------------------------


def test_ready_mix_alone_on_flush_water_ends_far_short():
    """Worked point: 50 % on 7.5 l of water in 32 l ends at -22.6; so it misses -45 by 22.4 K."""
    answer = ready_mix(loop())
    assert answer.final.freeze_c == pytest.approx(-22.6, abs=0.1)
    assert answer.misses_by_c == pytest.approx(22.4, abs=0.1)


def test_a_blend_made_at_the_loops_strength_ends_at_minus_28():
    """Worked point: the bucket blended at 57 % (56.5) instead of 74 %."""
    plan = mix(MixQuestion(ETHYLENE, 32.0, Inside(7.5), -45.0))
    slip = ready_mix(loop(plan.final.strength_percent))
    assert slip.final.freeze_c == pytest.approx(-28.0, abs=0.1)


@pytest.mark.parametrize(
    ("residual_share", "ends_percent"),
    # derived, by simple volumes: 50 % x (1 - R/V)
    [(0.10, 45.0), (1 / 6, 41.7), (0.20, 40.0), (0.25, 37.5), (2 / 7, 35.7), (0.40, 30.0), (0.50, 25.0)],
)
def test_ready_mix_50_alone_by_the_table_of_the_trade(residual_share, ends_percent):
    """Derived in simple volumes; contraction is worth under a percentage point."""
    answer = ready_mix(loop(inside=Inside(32 * residual_share), target_freeze_c=None))
    assert answer.final.strength_percent == pytest.approx(ends_percent, abs=0.7)
    assert answer.misses_by_c is None


@given(shares, strengths, st.floats(10, 80), st.sampled_from(Glycol))
def test_ready_mix_conserves_mass_and_fills_the_loop(share, inside_percent, strength, glycol):
    inside_l = 20 * share
    answer = ready_mix(ReadyMixQuestion(glycol, 20, Inside(inside_l, inside_percent), strength))
    have = kg(inside_l, mass_fraction_of(glycol, inside_percent), glycol)
    added = kg(answer.ready_mix_l, mass_fraction_of(glycol, strength), glycol)
    together = [a + b for a, b in zip(have, added, strict=True)]
    assert litres(*together, glycol) == pytest.approx(20, rel=1e-6)
    assert 100 * together[0] / sum(together) == pytest.approx(answer.final.glycol_mass_percent, abs=1e-6)


@given(st.floats(0, 0.3), st.floats(-44, -25))
def test_a_boost_hits_the_target_that_ready_mix_misses(share, target):
    answer = ready_mix(loop(inside=Inside(32 * share), target_freeze_c=target))
    assume(answer.boost is not None)
    w50, parts = mass_fraction_of(ETHYLENE, 50), answer.boost
    sums = [kg(32 * share, 0.0), kg(parts.ready_mix_l, w50), kg(parts.concentrate_l, 0.95)]
    glycol, water = (sum(row[i] for row in sums) for i in (0, 1))
    assert parts.ready_mix_l >= 0
    assert parts.concentrate_l > 0
    assert freeze_point(ETHYLENE, glycol / (glycol + water)).freeze_c == pytest.approx(target, abs=1e-4)
    assert litres(glycol, water) == pytest.approx(32, rel=1e-6)


def test_where_no_boost_helps_the_reason_is_said():
    too_much = ready_mix(loop(inside=Inside(20.0)))
    assert too_much.boost is None
    assert too_much.boost_reason.code == "too_much_inside"
    assert too_much.boost_reason.best_freeze_c > -45
    too_weak = ready_mix(loop(60.0, concentrate=0.5))
    assert too_weak.boost_reason.code == "concentrate_too_weak"


def test_a_ready_mix_that_reaches_it_needs_no_shot():
    answer = ready_mix(loop(target_freeze_c=-20))
    assert answer.misses_by_c is None
    assert answer.boost is None
    assert answer.boost_reason is None


def test_a_full_loop_takes_none():
    answer = ready_mix(loop(inside=Inside(32.0, 30.0), target_freeze_c=None))
    assert answer.ready_mix_l == 0
    assert answer.final.strength_percent == pytest.approx(30, abs=1e-4)


# ---- correction ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("now_percent", "to_percent", "swap_share"),
    # derived, by simple volumes: x = V (g_t - g) / (f - g)
    [(30, 50, 0.286), (38.3, 50, 0.19), (50, 40, 0.20), (45, 30, 1 / 3)],
)
def test_swaps_of_the_trade(now_percent, to_percent, swap_share):
    """Derived in simple volumes; within a percentage point of the real one."""
    target = freeze_point(ETHYLENE, mass_fraction_of(ETHYLENE, to_percent)).freeze_c
    answer = correct(CorrectionQuestion(ETHYLENE, 10.0, Now(strength_percent=now_percent), target))
    assert answer.swap_out_l / 10 == pytest.approx(swap_share, abs=0.012)
    assert answer.add == ("concentrate" if to_percent > now_percent else "water")


@given(st.floats(1, 59), st.floats(-44, -2), st.sampled_from(Glycol), st.floats(0.7, 1))
def test_a_correction_conserves_mass(now_percent, target, glycol, concentrate):
    q = CorrectionQuestion(glycol, 14.0, Now(strength_percent=now_percent), target, concentrate)
    answer = correct(q)
    assume(answer.feasible)
    left = kg(14.0 - answer.swap_out_l, mass_fraction_of(glycol, now_percent), glycol)
    added = kg(answer.add_l, concentrate if answer.add == "concentrate" else 0.0, glycol)
    together = [a + b for a, b in zip(left, added, strict=True)]
    assert litres(*together, glycol) == pytest.approx(14.0, rel=1e-6)
    assert freeze_point(glycol, together[0] / sum(together)).freeze_c == pytest.approx(target, abs=1e-5)
    assert answer.swap_out_l >= 0
    assert answer.add_l >= -1e-9


def test_a_freeze_point_can_be_lean_or_rich():
    lean = correct(CorrectionQuestion(ETHYLENE, 10.0, Now(freeze_c=-30), -40))
    rich = correct(CorrectionQuestion(ETHYLENE, 10.0, Now(freeze_c=-30, branch=Branch.RICH), -40))
    assert (lean.add, rich.add) == ("concentrate", "water")
    assert rich.swap_out_l > lean.swap_out_l


def test_a_loop_on_target_is_left_alone():
    w = mass_fraction_of(ETHYLENE, 50)
    answer = correct(CorrectionQuestion(ETHYLENE, 10.0, Now(strength_percent=50), freeze_point(ETHYLENE, w).freeze_c))
    assert answer.swap_out_l == pytest.approx(0, abs=1e-6)
    assert answer.add_l == pytest.approx(0, abs=1e-6)


def test_a_weak_concentrate_cannot_lift_it():
    answer = correct(CorrectionQuestion(ETHYLENE, 10.0, Now(strength_percent=20), -45, 0.4))
    assert not answer.feasible
    assert answer.reason.code == "concentrate_too_weak"
    assert answer.swap_out_l == 10
    assert answer.reason.best_freeze_c == pytest.approx(freeze_point(ETHYLENE, 0.4).freeze_c)


# ---- top-up -------------------------------------------------------------------------------------------------------


@given(st.floats(1, 100), strengths, st.floats(0, 50), st.floats(0, 100), st.sampled_from(Glycol))
def test_a_top_up_conserves_mass(volume, strength, added, added_percent, glycol):
    answer = top_up(TopUpQuestion(glycol, volume, strength, added, added_percent))
    before = kg(volume, mass_fraction_of(glycol, strength), glycol)
    poured = kg(added, mass_fraction_of(glycol, added_percent), glycol)
    together = [a + b for a, b in zip(before, poured, strict=True)]
    assert answer.final.volume_l == pytest.approx(litres(*together, glycol))
    assert answer.final.glycol_mass_percent == pytest.approx(100 * together[0] / sum(together), abs=1e-9)


def test_water_for_a_leak_is_a_dilution_event():
    """Derived, by simple volumes: g' = g V0 / (V0 + w); 50 % with a fifth of water is 40 %."""
    answer = top_up(TopUpQuestion(ETHYLENE, 8.0, 50.0, 2.0, sd_volume_l=0.2, sd_strength_percent=1.5))
    assert answer.final.strength_percent == pytest.approx(40.0, abs=0.3)
    assert answer.lost_k == pytest.approx(11.5, abs=0.3)
    assert answer.likely.low < answer.final.freeze_c < answer.likely.high < answer.likely_with_curve.high


def test_a_stronger_top_up_protects_further():
    assert top_up(TopUpQuestion(ETHYLENE, 8.0, 40.0, 1.0, 100.0)).lost_k < 0


# ---- learning -----------------------------------------------------------------------------------------------------


def test_what_readings_say_alone_is_what_brings_belief_to_both():
    """Inverse variance, worked out the other way round."""
    alone, belief = Believed(30.2, 0.9), Believed(32.0, 3.2)
    weight = (1 / alone.sd**2, 1 / belief.sd**2)
    both = Believed((alone.value * weight[0] + belief.value * weight[1]) / sum(weight), sum(weight) ** -0.5)
    learned = learn_capacity(belief, belief, both, 24.5)
    assert learned.by_reading.value == pytest.approx(alone.value)
    assert learned.by_reading.sd == pytest.approx(alone.sd)
    assert (learned.combined, learned.believed) == (both, belief)


def test_what_would_hardly_sharpen_is_not_offered():
    assert learn_capacity(Believed(32, 1.0), Believed(32, 1.0), Believed(31.9, 0.81), 24.5) is None
    assert learn_capacity(Believed(32, 1.0), Believed(32, 1.0), Believed(31.9, 0.79), 24.5) is not None


@pytest.mark.parametrize("alone", [24.0, 39.0])
def test_less_than_came_out_or_more_than_could_be_is_not_believed(alone):
    after = Believed((alone / 0.64 + 32 / 10.24) / (1 / 0.64 + 1 / 10.24), (1 / 0.64 + 1 / 10.24) ** -0.5)
    assert learn_capacity(Believed(32, 3.2), Believed(32, 3.2), after, 24.5) is None


# ---- target -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("glycol", "coldest", "target", "code"),
    [
        (ETHYLENE, -38.0, -43.0, None),
        (ETHYLENE, -48.0, -50.0, "past_the_tables"),
        (PROPYLENE, -43.0, -45.0, "past_the_tables"),
        (ETHYLENE, 5.0, -25.0, "corrosion_minimum"),
        (ETHYLENE, -45.0, -50.0, None),
    ],
)
def test_a_target_that_climate_did_not_set_says_what_did(glycol, coldest, target, code):
    note = target_note(glycol, coldest, Policy())
    assert suggested_target_c(glycol, coldest, Policy()) == target
    assert (note.code if note else None) == code


def test_every_miss_says_by_how_much():
    weak = mix(MixQuestion(ETHYLENE, 32.0, Inside(20.0), -45.0)).reason
    assert weak.misses_by_c == pytest.approx(weak.best_freeze_c + 45.0)
    assert f"{weak.misses_by_c:.1f} °C short" in weak.message
    strong = mix(MixQuestion(ETHYLENE, 32.0, Inside(20.0, 70.0), -20.0)).reason
    assert strong.misses_by_c < 0
    assert "past it" in strong.message
    assert ready_mix(loop(inside=Inside(20.0))).boost_reason.misses_by_c > 0


# ---- refusals -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("make", "field"),
    [
        (lambda: loop(2.0), "ready_mix.strength_percent"),
        (lambda: loop(0.5), "ready_mix.strength_percent"),  # a fraction for a percent
        (lambda: loop(math.nan), "ready_mix.strength_percent"),
        (lambda: loop(target_freeze_c=-60), "target_freeze_c"),
        (lambda: loop(inside=Inside(33)), "inside.volume_l"),
        (lambda: loop(inside=Inside(10, 0, (Pour(30, 50),))), "inside.poured"),
        (lambda: Inside(10, 0, (Pour(0.1),) * (MOST_POURS + 1)), "poured"),
        (lambda: Inside(10, 0, (), 11), "other_base_l"),
        (lambda: Pour(-1), "volume_l"),
        (lambda: CorrectionQuestion(ETHYLENE, 0, Now(freeze_c=-20), -30), "loop_volume_l"),
        (lambda: CorrectionQuestion(ETHYLENE, 9, Now(freeze_c=-60), -30), "now.freeze_c"),
        (lambda: CorrectionQuestion(PROPYLENE, 9, Now(freeze_c=-20, branch=Branch.RICH), -30), "now.branch"),
        (lambda: CorrectionQuestion(ETHYLENE, 9, Now(freeze_c=-20), 5), "target_freeze_c"),
        (lambda: Now(), "freeze_c"),
        (lambda: Now(-20, 40), "freeze_c"),
        (lambda: Now(strength_percent=101), "strength_percent"),
        (lambda: TopUpQuestion(ETHYLENE, 0, 50, 1), "volume_l"),
        (lambda: TopUpQuestion(ETHYLENE, 8, 50, math.inf), "added_l"),
        (lambda: TopUpQuestion(ETHYLENE, 8, 50, 1, 120), "added_percent"),
        (lambda: TopUpQuestion(ETHYLENE, 8, 50, 1, sd_volume_l=9), "sd_volume_l"),
    ],
)
def test_what_cannot_be_is_refused_by_name(make, field):
    with pytest.raises(CoreError) as refused:
        make()
    assert refused.value.field == field
    assert len(refused.value.message) > 20


def test_strengths_are_of_the_default_concentrate_in_and_out():
    """poured_percent counts in the concentrate in use; the two are one for the default."""
    answer = mix(MixQuestion(ETHYLENE, 32.0, Inside(7.5), -40.0, concentrate=0.90))
    assert answer.final.poured_percent > answer.final.strength_percent
    w = answer.final.glycol_mass_percent / 100
    assert answer.final.strength_percent == pytest.approx(strength_of(ETHYLENE, w))
    assert answer.final.poured_percent == pytest.approx(strength_of(ETHYLENE, w, 0.90))
