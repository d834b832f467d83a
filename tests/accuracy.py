"""How far Temper's properties stand from published ones: one list for the tests and for docs/sources.md.

Each measure gives its largest deviation from a reference outside the project, and how large it may be.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import CoolProp.CoolProp as CP  # noqa: N817
import fluids
import iapws
import numpy as np
from chemicals import MW, RI, RI_IAPWS
from chemicals.refractivity import ICUMSA_1974_brix, ICUMSA_1974_RIs

from temper_core.calculate.boil import BoilQuestion, boil
from temper_core.calculate.expansion import ExpansionQuestion, expansion
from temper_core.science import (
    DEFAULT_CONCENTRATE,
    Glycol,
    ambient_kpa,
    boil_c,
    brix_index_20c,
    curve_doubt_k,
    density,
    density_20c,
    freeze_point,
    index_shift,
    mass_fraction_of,
    refractive_index_20c,
    strength_of,
)
from temper_core.science.boiling import water_vapour_kpa
from temper_core.science.data import PURE, WATER_INDEX_20C

ETHYLENE, PROPYLENE = Glycol.ETHYLENE, Glycol.PROPYLENE
BY_MASS = {ETHYLENE: "MEG", PROPYLENE: "MPG"}
BY_VOLUME = {ETHYLENE: "AEG", PROPYLENE: "APG"}
CAS = {ETHYLENE: "107-21-1", PROPYLENE: "57-55-6"}
AIR_INDEX = 1.00027  # handbooks give indices relative to air


def reference_freeze_c(fluid: str, share: float) -> float:
    """First ice by CoolProp's incompressible solutions; share by mass (MEG, MPG) or by volume (AEG, APG)."""
    return CP.PropsSI("T_freeze", "T", 293.15, "P", 1e5, f"INCOMP::{fluid}[{share}]") - 273.15


def reference_density(fluid: str, share: float, t_c: float = 20.0) -> float:
    """Density by the same; under pressure, so that water stays liquid at 95 degC and above."""
    return CP.PropsSI("D", "T", t_c + 273.15, "P", 1e6, f"INCOMP::{fluid}[{share}]")


def mass_from_volume(glycol: Glycol, share: float) -> float:
    """Mass fraction of a solution with this share of neat glycol by volume."""
    kg = share * PURE[glycol].density
    return kg / (kg + (1 - share) * 998.2)


@dataclass(frozen=True)
class Measure:
    """A property against a reference: where, how far it may stand off, and how far it does."""

    quantity: str
    range: str
    reference: str
    within: float
    unit: str
    largest: Callable[[], float]


def _largest(pairs: Iterable[tuple[float, float]], relative: bool = False) -> float:
    return max(abs(ours - theirs) / (abs(theirs) / 100 if relative else 1) for ours, theirs in pairs)


def _freeze(glycol: Glycol, low: float, high: float, warm: float, cold: float) -> Callable[[], float]:
    """Largest deviation by mass fraction where the reference lies between warm and cold [degC]."""

    def largest() -> float:
        pairs = []
        for w in np.linspace(low, high, 120):
            reference = reference_freeze_c(BY_MASS[glycol], w)
            if cold <= reference <= warm:
                pairs.append((freeze_point(glycol, w).freeze_c, reference))
        return _largest(pairs)

    return largest


def _second_propylene() -> float:
    shares = np.linspace(0.10, 0.57, 48)
    return _largest(
        (freeze_point(PROPYLENE, mass_from_volume(PROPYLENE, s)).freeze_c, reference_freeze_c("APG", s)) for s in shares
    )


PRINTED_GAPS = ((0.25, 0.3), (0.40, 1.9), (0.50, 2.7), (0.55, 3.0))  # of the two ethylene tables, printed to 0.1 K


def _doubt() -> float:
    pairs = [(curve_doubt_k(ETHYLENE, mass_from_volume(ETHYLENE, s)), gap) for s, gap in PRINTED_GAPS]
    for s in np.linspace(0.25, 0.55, 7):
        w = mass_from_volume(ETHYLENE, s)
        gap = reference_freeze_c("AEG", s) - reference_freeze_c("MEG", w)
        pairs.append((curve_doubt_k(ETHYLENE, w), gap))
    return _largest(pairs)


def _dilute(glycol: Glycol) -> Callable[[], float]:
    molality = 1000 * 0.02 / 0.98 / MW(CAS[glycol])
    return lambda: _largest([(-freeze_point(glycol, 0.02).freeze_c, 1.86 * molality)], relative=True)


TURNED = ((0.80, -47.0), (0.90, -30.0), (0.95, -19.0), (1.00, -13.0))  # handbook values, from memory


def _density(glycol: Glycol) -> Callable[[], float]:
    def pairs() -> Iterable[tuple[float, float]]:
        for w in np.linspace(0.0, 0.60, 25):
            for t_c in np.linspace(0.0, 95.0, 20):
                if w > 0 or t_c > 0:
                    yield density(glycol, w, t_c), reference_density(BY_MASS[glycol], w, t_c)

    return lambda: _largest(pairs(), relative=True)


def _expansion(glycol: Glycol) -> Callable[[], float]:
    def pairs() -> Iterable[tuple[float, float]]:
        for w in np.linspace(0.10, 0.60, 11):
            for cold, hot in ((0, 90), (10, 95), (20, 80), (0, 60)):
                strength = strength_of(glycol, w)
                rho = [reference_density(BY_MASS[glycol], w, t) for t in (20, cold, hot)]
                ours = expansion(ExpansionQuestion(glycol, strength, 10.0, cold, hot)).rise_l
                yield ours, 10 * rho[0] * (1 / rho[2] - 1 / rho[1])

    return lambda: _largest(pairs(), relative=True)


HANDBOOK_INDEX = (  # ethylene glycol solutions at 20 degC, CRC Handbook, from memory
    (0.10, 1.3425),
    (0.20, 1.3523),
    (0.30, 1.3626),
    (0.40, 1.3728),
    (0.50, 1.3831),
    (0.60, 1.3931),
)


def _index() -> float:
    pairs = [(refractive_index_20c(ETHYLENE, w), n) for w, n in HANDBOOK_INDEX]
    pairs += [(refractive_index_20c(g, 1.0), RI(CAS[g])[0]) for g in Glycol]
    return _largest(pairs)


def _water_index() -> float:
    def reference(t_c: float) -> float:
        rho = iapws.IAPWS97(T=t_c + 273.15, P=0.101325).rho
        return RI_IAPWS(t_c + 273.15, rho, 589.3e-9) / AIR_INDEX

    return _largest((WATER_INDEX_20C + index_shift(ETHYLENE, 0.0, t), reference(t)) for t in np.linspace(0, 60, 25))


def _brix() -> float:
    rows = zip(ICUMSA_1974_brix, ICUMSA_1974_RIs, strict=True)
    return _largest((brix_index_20c(b), n) for b, n in rows if b <= 85)


def _boil() -> float:
    half = {g: mass_fraction_of(g, 50) for g in Glycol}
    with_cap = boil(BoilQuestion(ETHYLENE, 50, 0, 103)).boil_c
    return _largest(
        [(boil_c(ETHYLENE, half[ETHYLENE]), 107.5), (with_cap, 129.0), (boil_c(PROPYLENE, half[PROPYLENE]), 105.5)]
    )


def _water_boils() -> float:
    """Water's share of Raoult's law, at the pressures of caps and mountains."""
    pressures = np.linspace(50, 300, 26)
    return _largest((boil_c(ETHYLENE, 0.0, p), iapws.IAPWS97(P=p / 1000, x=0).T - 273.15) for p in pressures)


def _vapour() -> float:
    ts = np.linspace(20, 130, 23)
    return _largest(((water_vapour_kpa(t), iapws.IAPWS97(T=t + 273.15, x=0).P * 1000) for t in ts), relative=True)


def _ambient() -> float:
    heights = np.linspace(-400, 5500, 60)
    return _largest(((ambient_kpa(h), fluids.ATMOSPHERE_1976(h).P / 1000) for h in heights), relative=True)


def _standard(glycol: Glycol, asked_c: float) -> Callable[[], float]:
    return lambda: freeze_point(glycol, mass_fraction_of(glycol, 50)).freeze_c - asked_c


def _concentrate() -> float:
    """What leaving the excess volume of the default concentrate out would do to its density."""
    ideal = 1 / ((1 - DEFAULT_CONCENTRATE) / 998.2 + DEFAULT_CONCENTRATE / PURE[ETHYLENE].density)
    return 100 * (density_20c(ETHYLENE, DEFAULT_CONCENTRATE) / ideal - 1)


MEASURES = (
    Measure("freeze point, ethylene", "2-60 % mass, above -40 °C", "CoolProp `INCOMP::MEG`", 0.3, "K",
            _freeze(ETHYLENE, 0.02, 0.60, 0, -40)),
    Measure("freeze point, ethylene", "2-60 % mass, -40 to -50 °C", "CoolProp `INCOMP::MEG`", 0.6, "K",
            _freeze(ETHYLENE, 0.02, 0.60, -40, -50)),
    Measure("freeze point, propylene", "5-58 % mass, above -35 °C", "CoolProp `INCOMP::MPG`", 0.4, "K",
            _freeze(PROPYLENE, 0.05, 0.58, 0, -35)),
    Measure("freeze point, propylene", "5-58 % mass, -35 to -48 °C", "CoolProp `INCOMP::MPG`", 0.8, "K",
            _freeze(PROPYLENE, 0.05, 0.58, -35, -48)),
    Measure("second table, propylene", "10-57 % volume", "CoolProp `INCOMP::APG`", 0.7, "K", _second_propylene),
    Measure("the curve's own doubt, ethylene", "25-55 % volume", "CoolProp `INCOMP::AEG` less `MEG`", 0.1, "K", _doubt),
    Measure("dilute limit, ethylene", "2 % mass", "1.86 K kg/mol (CRC Handbook)", 3, "%", _dilute(ETHYLENE)),
    Measure("dilute limit, propylene", "2 % mass", "1.86 K kg/mol (CRC Handbook)", 3, "%", _dilute(PROPYLENE)),
    Measure("turned-back branch, ethylene", "80-100 % mass", "handbook values, from memory", 2, "K",
            lambda: _largest((freeze_point(ETHYLENE, w).freeze_c, t) for w, t in TURNED)),
    Measure("boiling point, 50 % volume", "101.3 kPa; 103 kPa cap", "handbook values, from memory", 1.2, "K", _boil),
    Measure("boiling point, water part", "50-300 kPa", "iapws, IAPWS-IF97", 0.1, "K", _water_boils),
    Measure("vapour pressure of water", "20-130 °C", "iapws, IAPWS-IF97", 0.1, "%", _vapour),
    Measure("density, ethylene", "0-60 % mass, 0-95 °C", "CoolProp `INCOMP::MEG`", 0.3, "%", _density(ETHYLENE)),
    Measure("density, propylene", "0-60 % mass, 0-95 °C", "CoolProp `INCOMP::MPG`", 0.3, "%", _density(PROPYLENE)),
    Measure("expansion, ethylene", "10-60 % mass, 0-95 °C", "CoolProp densities", 4, "% of the rise", _expansion(ETHYLENE)),
    Measure("expansion, propylene", "10-60 % mass, 0-95 °C", "CoolProp densities", 4, "% of the rise",
            _expansion(PROPYLENE)),
    Measure("refractive index 20 °C", "neat; 10-60 % mass ethylene", "chemicals; CRC, from memory", 0.0015, "", _index),
    Measure("refractive index, Brix", "0-85 Brix", "chemicals, ICUMSA 1974", 0.0015, "", _brix),
    Measure("refractive index, water", "0-60 °C", "chemicals, IAPWS R9-97", 0.0001, "", _water_index),
    Measure("ambient pressure", "-400 to 5500 m", "fluids `ATMOSPHERE_1976`", 0.5, "%", _ambient),
    Measure("50 % volume, ethylene: warmer than the standard", "", "ASTM D3306, -36.4 °C, from memory", 0.6, "K",
            _standard(ETHYLENE, -36.4)),
    Measure("50 % volume, propylene: warmer than the standard", "", "ASTM D3306, -31 °C, from memory", 1.2, "K",
            _standard(PROPYLENE, -31.0)),
)  # fmt: skip
