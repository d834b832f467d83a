"""The figures themselves, one frozen record each. docs/sources.md lists where each is checked."""

from __future__ import annotations

from temper_core.science.record import (
    Expansion,
    FreezeCurve,
    Glycol,
    IndexRise,
    Polynomial,
    PureLiquid,
    Range,
    Source,
    Table,
)

_MELINDER = "A. Melinder, Properties of Secondary Working Fluids for Indirect Systems, IIR 2010"
_PERRY = Source("Perry's Chemical Engineers' Handbook, 8th ed., table 2-8", "taken from the chemicals package 1.5")
_LIQUID = Source("CRC Handbook of Chemistry and Physics, physical constants of organic compounds, 20 degC")
_EXCESS_ETHYLENE = Source(
    _MELINDER, "own fit at 20 degC, 15-60 % by mass, within 0.1 %; dilute end held to a partial molar volume of 54.6 cm3/mol"
)
_EXCESS_PROPYLENE = Source(_MELINDER, "own three-term fit to the densities at 20 degC, 2-60 % by mass, within 0.1 %")

CRYOSCOPIC_WATER = 1.86  # K kg/mol; source: CRC Handbook, cryoscopic constants

# The colder of the two published ethylene curves is the default: it is the one the handbook of
# secondary fluids tabulates by mass. How much warmer the other one is, is the curve's own doubt below.
FREEZE = {
    Glycol.ETHYLENE: FreezeCurve(
        Source(_MELINDER, "own fit in molality, 2-60 % by mass, within 0.04 K of CoolProp's INCOMP::MEG"),
        Range(0.0, 0.60),
        62.068,
        CRYOSCOPIC_WATER,
        (0.00013151676, 0.006067196, -0.00062946439, 2.3835154e-05, -3.2197202e-07),
    ),
    Glycol.PROPYLENE: FreezeCurve(
        Source(_MELINDER, "own fit in molality, 5-60 % by mass, within 0.14 K of INCOMP::MPG; dilute end by law"),
        Range(0.0, 0.60),
        76.094,
        CRYOSCOPIC_WATER,
        (0.061726117, -0.0052956472, 0.00023729453, -4.0356124e-06),
    ),
}

# Past 80 % by mass the ethylene curve has turned back. Between 60 and 80 % nothing is tabulated.
TURNED_BACK = Table(
    Source("handbook values, from memory", "within 2 K"),
    ((0.80, -47.0), (0.90, -30.0), (0.95, -19.0), (1.00, -13.0)),
)

# How much warmer the second published ethylene curve is (mass fraction, K). Propylene's two agree within
# 0.5 K, which is inside the fit, so no doubt is carried for it.
SECOND_ETHYLENE_WARMER = Table(
    Source(
        "ASHRAE Handbook Fundamentals, secondary coolants",
        "CoolProp's INCOMP::AEG less INCOMP::MEG at 20, 25, 30 ... 55 % by volume of pure glycol; last point carried on",
    ),
    (
        (0.0, 0.0),
        (0.2180, 0.0),
        (0.2710, 0.287),
        (0.3234, 0.785),
        (0.3752, 1.379),
        (0.4264, 1.943),
        (0.4771, 2.393),
        (0.5272, 2.724),
        (0.5768, 3.043),
        (0.6000, 3.190),
    ),
)

PURE = {
    Glycol.ETHYLENE: PureLiquid(
        _LIQUID,
        62.068,
        1113.2,
        (-4.3919e-05, 2.2201e-05, 7.178e-07),
        _EXCESS_ETHYLENE,
        (84.09, -10411.0, -8.1976, 1.6536e-18, 6.0),
        _PERRY,
    ),
    Glycol.PROPYLENE: PureLiquid(
        _LIQUID,
        76.094,
        1036.1,
        (-8.35967657e-05, 3.30007389e-05, 1.78508072e-05),
        _EXCESS_PROPYLENE,
        (212.8, -15420.0, -28.109, 2.1564e-05, 2.0),
        _PERRY,
    ),
}

WATER_INDEX_20C = 1.33299  # sodium D line, relative to air; source: IAPWS R9-97 at 20 degC over air's 1.00027

# Both end at the neat liquid's index in the CRC Handbook: 1.4318 and 1.4324 at 20 degC.
INDEX_RISE = {
    Glycol.ETHYLENE: IndexRise(
        Source("CRC Handbook, concentrative properties of aqueous solutions, from memory", "own cubic, within 0.0007"),
        (0.0985, 0.006535, -0.006225),
    ),
    Glycol.PROPYLENE: IndexRise(
        Source("maker's handbook of propylene glycol solutions, from memory", "own cubic, within 0.0007"),
        (0.10852195, 0.01926660, -0.02837855),
    ),
}

# How the index of each liquid falls with temperature. Between water and neat glycol the slopes are shared by mass.
WATER_INDEX_SHIFT = Polynomial(
    Source("IAPWS R9-97, sodium D line", "own cubic through 0-60 degC at 101.325 kPa, within 0.00002"),
    Range(0.0, 60.0),
    20.0,
    (-8.87024676e-05, -1.74638231e-06, 8.92633092e-09),
)
_SLOPE_SOURCE = Source("handbook values of the neat liquids, from memory", "per kelvin near 20 degC, within a tenth")
GLYCOL_INDEX_SLOPE = {
    Glycol.ETHYLENE: Polynomial(_SLOPE_SOURCE, Range(0.0, 60.0), 20.0, (-2.6e-4,)),
    Glycol.PROPYLENE: Polynomial(_SLOPE_SOURCE, Range(0.0, 60.0), 20.0, (-2.9e-4,)),
}

BRIX = Polynomial(
    Source("ICUMSA 1974, sucrose solutions at 20 degC", "own quartic for the rise over water, 0-85 Brix, within 0.00002"),
    Range(0.0, 85.0),
    0.0,
    (0.143081e-2, 0.05090036e-4, 0.0258005e-6, -0.006189276e-8),
)

_EXPANSION_NOTE = "own fit with water from IAPWS-IF97 and the neat glycol from Perry's, within 0.2 %"
EXPANSION = {
    Glycol.ETHYLENE: Expansion(
        Source(_MELINDER, _EXPANSION_NOTE),
        Range(0.0, 0.60),
        Range(-40.0, 100.0),
        130.0,
        (
            (-0.016998744, -0.052622203, 0.027459083, -0.014563889),
            (-0.068961955, 0.14161957, -0.23321803, 0.14025436),
            (-0.013841507, -0.2371144, 0.55095465, -0.30771364),
            (0.037195442, 0.14239023, -0.34761616, 0.18327612),
        ),
    ),
    Glycol.PROPYLENE: Expansion(
        Source(_MELINDER, _EXPANSION_NOTE),
        Range(0.0, 0.60),
        Range(-40.0, 100.0),
        130.0,
        (
            (-0.018771344, -0.059110717, 0.041972328, -0.020675434),
            (-0.067784049, 0.14616395, -0.2705257, 0.2044254),
            (-0.084664262, -0.20928688, 0.58790985, -0.44525412),
            (0.098868542, 0.11312293, -0.35827494, 0.25870018),
        ),
    ),
}
