"""Properties against published curves. Reference libraries are used here only, never by the core."""

import CoolProp.CoolProp as CP  # noqa: N817
import iapws
import numpy as np
import pytest
from chemicals import MW, RI
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError, OutOfRange
from temper_core.science import (
    Branch,
    Glycol,
    boil_c,
    curve_doubt_k,
    density_20c,
    freeze_point,
    mass_fraction_at_freeze,
    mass_fraction_at_index,
    mass_fraction_of,
    refractive_index_20c,
    strength_of,
    volume_l,
)
from temper_core.science.boiling import water_vapour_kpa
from temper_core.science.data import FREEZE, PURE
from temper_core.science.record import Range, Source, Table

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE
FLUID = {ETHYLENE: "MEG", PROPYLENE: "MPG"}
CAS = {ETHYLENE: "107-21-1", PROPYLENE: "57-55-6"}


def coolprop_freeze_c(fluid: str, share: float) -> float:
    """Freeze point by CoolProp's incompressible solutions (Melinder 2010 for MEG and MPG, by mass; AEG by volume)."""
    return CP.PropsSI("T_freeze", "T", 293.15, "P", 1e5, f"INCOMP::{fluid}[{share}]") - 273.15


def coolprop_density(fluid: str, share: float) -> float:
    """Density at 20 degC by the same."""
    return CP.PropsSI("D", "T", 293.15, "P", 1e5, f"INCOMP::{fluid}[{share}]")


# ---- freeze point -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("w", np.linspace(0.02, 0.585, 40))
def test_ethylene_curve_is_the_published_one(w):
    """Source: CoolProp INCOMP::MEG. 0.3 K above -40 degC, 0.6 K to -50 degC."""
    reference = coolprop_freeze_c("MEG", w)
    assert freeze_point(ETHYLENE, w).freeze_c == pytest.approx(reference, abs=0.3 if reference > -40 else 0.6)


@pytest.mark.parametrize("w", np.linspace(0.05, 0.58, 40))
def test_propylene_curve_is_the_published_one(w):
    """Source: CoolProp INCOMP::MPG. 0.4 K above -35 degC, 0.8 K to -48 degC."""
    reference = coolprop_freeze_c("MPG", w)
    assert freeze_point(PROPYLENE, w).freeze_c == pytest.approx(reference, abs=0.4 if reference > -35 else 0.8)


@pytest.mark.parametrize("glycol", Glycol)
def test_dilute_end_obeys_the_cryoscopic_law(glycol):
    """Source: cryoscopic constant of water, 1.86 K kg/mol (CRC Handbook); within 3 % at 2 % by mass."""
    w = 0.02
    molality = 1000 * w / (1 - w) / MW(CAS[glycol])
    assert -freeze_point(glycol, w).freeze_c == pytest.approx(1.86 * molality, rel=0.03)


@pytest.mark.parametrize(
    ("glycol", "strength", "freeze_c", "within"),
    [
        # ASTM D3306 asks for -36.4 and -31 degC at 50 % by volume (from memory); the default concentrate is a little weaker
        (ETHYLENE, 50, -36.4, 0.6),
        (PROPYLENE, 50, -31.0, 1.2),
        # common practice, no source: one third protects to about -18 degC (coarse testers flatter it)
        (ETHYLENE, 100 / 3, -18.0, 0.7),
        # common practice, no source: 50 % is -34 degF
        (ETHYLENE, 50, (-34 - 32) / 1.8, 0.8),
        (ETHYLENE, 0, 0.0, 1e-9),
        (PROPYLENE, 0, 0.0, 1e-9),
    ],
)
def test_fixed_points_of_the_trade(glycol, strength, freeze_c, within):
    assert freeze_point(glycol, mass_fraction_of(glycol, strength)).freeze_c == pytest.approx(freeze_c, abs=within)


@pytest.mark.parametrize(
    ("w", "freeze_c"),
    [(0.80, -47), (0.90, -30), (0.95, -19), (1.00, -13)],  # handbook values, from memory, within 2 K
)
def test_past_the_turn_more_concentrate_protects_less(w, freeze_c):
    point = freeze_point(ETHYLENE, w)
    assert point.freeze_c == pytest.approx(freeze_c, abs=2)
    assert point.branch is Branch.RICH


@pytest.mark.parametrize(
    ("glycol", "w"), [(ETHYLENE, 0.61), (ETHYLENE, 0.70), (ETHYLENE, 0.779), (PROPYLENE, 0.61), (PROPYLENE, 1)]
)
def test_what_nobody_tabulates_is_not_made_up(glycol, w):
    point = freeze_point(glycol, w)
    assert point.freeze_c is None
    assert point.freeze_below_c == -50


@pytest.mark.parametrize("w", [0.782, 0.79, 0.7999])
def test_just_before_the_turned_back_leg_not_even_a_bound_is_known(w):
    """The handbooks' leg from 80 % on has a slope by which 78.2 % freezes at -50 already."""
    point = freeze_point(ETHYLENE, w)
    assert (point.freeze_c, point.freeze_below_c) == (None, None)
    assert point.at_most_c == freeze_point(ETHYLENE, 0.80).freeze_c
    slope = (freeze_point(ETHYLENE, 0.90).freeze_c - freeze_point(ETHYLENE, 0.80).freeze_c) / 0.1
    assert freeze_point(ETHYLENE, 0.80).freeze_c + slope * (w - 0.80) > -50.1


@pytest.mark.parametrize("percent", [25, 30, 35, 40, 45, 50, 55])
def test_doubt_of_the_ethylene_curve_is_the_gap_between_two_handbooks(percent):
    """Source: CoolProp INCOMP::AEG (by volume of pure glycol) less INCOMP::MEG."""
    share = percent / 100
    glycol_kg = share * PURE[ETHYLENE].density
    w = glycol_kg / (glycol_kg + (1 - share) * 998.2)
    gap = coolprop_freeze_c("AEG", share) - coolprop_freeze_c("MEG", w)
    assert curve_doubt_k(ETHYLENE, w) == pytest.approx(gap, abs=0.05)


@pytest.mark.parametrize(("percent", "gap_k"), [(25, 0.3), (40, 1.9), (50, 2.7), (55, 3.0)])
def test_doubt_at_the_printed_strengths(percent, gap_k):
    """Rounded differences of the two published tables."""
    share = percent / 100
    w = share * 1113.2 / (share * 1113.2 + (1 - share) * 998.2)
    assert curve_doubt_k(ETHYLENE, w) == pytest.approx(gap_k, abs=0.06)


def test_propylene_tables_agree():
    """Source: CoolProp INCOMP::APG, by volume of pure glycol; within 0.7 K from 10 to 57 %."""
    for share in np.linspace(0.10, 0.57, 20):
        w = share * 1036.1 / (share * 1036.1 + (1 - share) * 998.2)
        assert freeze_point(PROPYLENE, w).freeze_c == pytest.approx(coolprop_freeze_c("APG", share), abs=0.7)
    assert curve_doubt_k(PROPYLENE, 0.5) == 0


@given(st.floats(0.0005, 0.599), st.floats(1e-4, 0.05), st.sampled_from(Glycol))
def test_more_glycol_freezes_colder_up_to_sixty_percent(w, more, glycol):
    if w + more <= 0.6:
        assert freeze_point(glycol, w + more).freeze_c < freeze_point(glycol, w).freeze_c


@given(st.floats(-45, -0.01), st.sampled_from(Glycol))
def test_strength_at_a_freeze_point_is_the_inverse(freeze_c, glycol):
    assert freeze_point(glycol, mass_fraction_at_freeze(glycol, freeze_c)).freeze_c == pytest.approx(freeze_c, abs=1e-9)


@given(st.floats(-46.9, -13.1))
def test_rich_branch_is_asked_for_by_name(freeze_c):
    rich = mass_fraction_at_freeze(ETHYLENE, freeze_c, Branch.RICH)
    assert rich > 0.8 > mass_fraction_at_freeze(ETHYLENE, freeze_c)
    assert freeze_point(ETHYLENE, rich).freeze_c == pytest.approx(freeze_c, abs=1e-6)


@pytest.mark.parametrize(
    ("glycol", "freeze_c"),
    [(ETHYLENE, -50.1), (PROPYLENE, -45.1), (ETHYLENE, 0.1), (ETHYLENE, float("nan")), (PROPYLENE, float("-inf"))],
)
def test_freeze_points_out_of_reach_are_refused_with_value_limit_and_advice(glycol, freeze_c):
    with pytest.raises(OutOfRange, match="is allowed") as refused:
        mass_fraction_at_freeze(glycol, freeze_c)
    assert refused.value.field == "freeze_c"


def test_propylene_has_no_rich_branch():
    with pytest.raises(CoreError, match="no rich branch"):
        mass_fraction_at_freeze(PROPYLENE, -20, Branch.RICH)


@pytest.mark.parametrize("w", [-0.01, 1.01, float("nan"), float("inf")])
@pytest.mark.parametrize("of", [freeze_point, density_20c, refractive_index_20c, boil_c, strength_of])
def test_mass_fractions_outside_zero_to_one_are_refused(of, w):
    with pytest.raises(OutOfRange):
        of(ETHYLENE, w)


# ---- density and strength -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("glycol", Glycol)
@pytest.mark.parametrize("w", np.linspace(0.02, 0.60, 15))
def test_density_is_the_published_one(glycol, w):
    """Source: CoolProp INCOMP::MEG and MPG at 20 degC; within 0.1 %."""
    assert density_20c(glycol, w) == pytest.approx(coolprop_density(FLUID[glycol], w), rel=1e-3)


def test_density_of_the_ends():
    """Sources: IAPWS-95 for water; CRC Handbook for the neat glycols at 20 degC (1.1132 and 1.0361 g/cm3)."""
    water = iapws.IAPWS95(T=293.15, P=0.101325).rho
    assert density_20c(ETHYLENE, 0) == pytest.approx(water, abs=0.05)
    assert density_20c(ETHYLENE, 1) == pytest.approx(1113.2, abs=0.01)
    assert density_20c(PROPYLENE, 1) == pytest.approx(1036.1, abs=0.01)


def test_half_and_half_weighs_about_1_07_kg_a_litre():
    """Common practice, no source: about 1.07 kg/l at 50 %."""
    assert density_20c(ETHYLENE, mass_fraction_of(ETHYLENE, 50)) == pytest.approx(1070, abs=8)


def test_five_litres_and_five_litres_give_less_than_ten():
    concentrate = density_20c(ETHYLENE, 0.95) * 5 / 1000
    mixed = volume_l(ETHYLENE, concentrate * 0.95, concentrate * 0.05 + 5 * 0.9982)
    assert 9.85 < mixed < 9.97  # contracts by about 1 %, common practice, no source


def test_nothing_weighs_nothing():
    assert volume_l(ETHYLENE, 0, 0) == 0


@given(st.floats(0, 100), st.sampled_from(Glycol), st.floats(0.3, 1))
def test_strength_and_mass_fraction_are_inverse(strength, glycol, concentrate):
    w = mass_fraction_of(glycol, strength, concentrate)
    assert strength_of(glycol, w, concentrate) == pytest.approx(strength, abs=1e-7)


def test_strength_counts_in_the_default_concentrate():
    assert mass_fraction_of(ETHYLENE, 100) == pytest.approx(0.95)
    assert strength_of(ETHYLENE, 1.0) > 100  # neat glycol is purer than any concentrate


@pytest.mark.parametrize("strength", [-1, 101, float("nan")])
def test_impossible_strengths_are_refused(strength):
    with pytest.raises(OutOfRange, match="strength_percent|% by volume"):
        mass_fraction_of(ETHYLENE, strength)


# ---- refractive index ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize("glycol", Glycol)
def test_index_of_the_neat_glycol(glycol):
    """Source: chemicals, from the CRC Handbook, 20 degC."""
    assert refractive_index_20c(glycol, 1) == pytest.approx(RI(CAS[glycol])[0], abs=1e-4)


def test_index_of_water():
    """Source: IAPWS R9-97 by iapws at 20 degC and 589.3 nm, relative to air (1.00027), as handbooks give it."""
    reference = iapws._iapws._Refractive(998.2, 293.15, 0.5893) / 1.00027
    assert refractive_index_20c(ETHYLENE, 0) == pytest.approx(reference, abs=5e-5)


@pytest.mark.parametrize(
    ("percent", "index"),
    [(10, 1.3425), (20, 1.3523), (30, 1.3626), (40, 1.3728), (50, 1.3831), (60, 1.3931)],
)
def test_ethylene_index_of_the_handbook(percent, index):
    """Source: CRC Handbook, concentrative properties, from memory; within 0.0015."""
    assert refractive_index_20c(ETHYLENE, percent / 100) == pytest.approx(index, abs=0.0015)


@given(st.floats(0, 1), st.sampled_from(Glycol))
def test_index_never_is_ambiguous(w, glycol):
    assert mass_fraction_at_index(glycol, refractive_index_20c(glycol, w)) == pytest.approx(w, abs=1e-9)


@pytest.mark.parametrize("index", [1.30, 1.50])
def test_index_beyond_neat_glycol_is_off_scale(index):
    with pytest.raises(CoreError, match="off scale"):
        mass_fraction_at_index(ETHYLENE, index)


# ---- boiling ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("t_c", [20, 60, 100, 130])
def test_water_vapour_pressure(t_c):
    """Source: IAPWS-IF97 by iapws; within 0.1 %."""
    assert water_vapour_kpa(t_c) == pytest.approx(iapws.IAPWS97(T=t_c + 273.15, x=0).P * 1000, rel=1e-3)


@pytest.mark.parametrize(
    ("glycol", "absolute_kpa", "boils_c"),
    [
        (ETHYLENE, 101.325, 107.5),  # handbook values, 107-108 degC at 50 % by volume, from memory
        (ETHYLENE, 101.325 + 103, 129.0),  # common practice, no source: about 129 degC with a 15 psi cap
        (PROPYLENE, 101.325, 105.5),  # handbook value, from memory; ASTM D3306 asks for 104 degC or above
    ],
)
def test_half_and_half_boils_where_handbooks_say(glycol, absolute_kpa, boils_c):
    assert boil_c(glycol, mass_fraction_of(glycol, 50), absolute_kpa) == pytest.approx(boils_c, abs=1.2)


@given(st.floats(0, 0.9), st.floats(60, 250), st.floats(5, 50))
def test_pressure_raises_the_boiling_point(w, kpa, more):
    assert boil_c(ETHYLENE, w, kpa + more) > boil_c(ETHYLENE, w, kpa)


@pytest.mark.parametrize("kpa", [0, 19, 501, float("nan")])
def test_absurd_pressures_are_refused(kpa):
    with pytest.raises(OutOfRange, match="kPa"):
        boil_c(ETHYLENE, 0.5, kpa)


# ---- records ------------------------------------------------------------------------------------------------------


def test_an_empty_range_is_refused_at_import():
    with pytest.raises(ValueError, match="empty range"):
        Range(1, 1)


@pytest.mark.parametrize("points", [((0, 1),), ((0, 1), (0, 2)), ((1, 1), (0, 2))])
def test_a_table_must_rise(points):
    with pytest.raises(ValueError, match="rising"):
        Table(Source("test"), points)


def test_a_table_is_not_read_beyond_its_ends():
    with pytest.raises(ValueError, match="outside"):
        Table(Source("test"), ((0, 0), (1, 1))).at(1.5)


def test_every_curve_names_its_source():
    assert all(curve.source.title and curve.source.note for curve in FREEZE.values())
