"""When a loop boils over: cap and altitude set the absolute pressure, pressure and strength the boiling point."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import check_between
from temper_core.basis.quantity import VolumePercent
from temper_core.science import Glycol, ambient_kpa, boil_c, mass_fraction_of

HIGHEST_CAP_KPA = 250.0


@dataclass(frozen=True, slots=True)
class BoilQuestion:
    """cap_gauge_kpa: what the cap holds above ambient (0: cap off); operating_c: the hottest it runs, for a margin."""

    glycol: Glycol
    strength_percent: VolumePercent
    altitude_m: float
    cap_gauge_kpa: float
    operating_c: float | None = None

    def __post_init__(self) -> None:
        check_between("strength_percent", self.strength_percent, 0, 100, "% by volume", "Percent is meant, not a fraction.")
        ambient_kpa(self.altitude_m)
        todo = "Gauge pressure printed on the cap: 15 psi are 103 kPa."
        check_between("cap_gauge_kpa", self.cap_gauge_kpa, 0, HIGHEST_CAP_KPA, "kPa", todo)
        if self.operating_c is not None:
            check_between("operating_c", self.operating_c, -60, 200, "°C")


@dataclass(frozen=True, slots=True)
class BoilAnswer:
    """Absolute pressure under the cap and the boiling point there; margin_c: how far above the operating temperature [K]."""

    absolute_kpa: float
    boil_c: float
    margin_c: float | None


def boil(q: BoilQuestion) -> BoilAnswer:
    """Boiling point with this cap at this altitude; see BoilAnswer.

    >>> round(boil(BoilQuestion(Glycol.ETHYLENE, VolumePercent(50), 0, 103)).boil_c)
    129
    """
    absolute = ambient_kpa(q.altitude_m) + q.cap_gauge_kpa
    boils = boil_c(q.glycol, mass_fraction_of(q.glycol, q.strength_percent), absolute)
    return BoilAnswer(absolute, boils, None if q.operating_c is None else boils - q.operating_c)
