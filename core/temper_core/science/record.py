"""Source, valid range and coefficients of a published property travel as one frozen record."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Glycol(StrEnum):
    """The two bases that lower a freeze point."""

    ETHYLENE = "ethylene"
    PROPYLENE = "propylene"


@dataclass(frozen=True, slots=True)
class Range:
    """Closed range of validity; an empty one is refused at import."""

    low: float
    high: float

    def __post_init__(self) -> None:
        if not self.low < self.high:
            raise ValueError(f"empty range {self.low} to {self.high}")

    def __contains__(self, value: float) -> bool:
        return self.low <= value <= self.high


@dataclass(frozen=True, slots=True)
class Source:
    """Where a figure comes from, in words a reader can follow, and what was done to it."""

    title: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class FreezeCurve:
    """Freeze-point depression as a series in molality, K: kf*b*(1 + c1*b + c2*b**2 + ...).

    The dilute end is the cryoscopic law by construction.
    """

    source: Source
    glycol_w: Range
    molar_mass_g: float
    kf: float  # K kg/mol
    coefficients: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Table:
    """Points (x, y) with x rising, read by straight lines between them."""

    source: Source
    points: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        xs = [x for x, _ in self.points]
        if len(xs) < 2 or any(b <= a for a, b in zip(xs, xs[1:], strict=False)):
            raise ValueError("a table needs at least two points with x rising")

    def at(self, x: float) -> float:
        """Value at x; ValueError outside the table."""
        for (x0, y0), (x1, y1) in zip(self.points, self.points[1:], strict=False):
            if x0 <= x <= x1:
                return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
        raise ValueError(f"{x} lies outside {self.points[0][0]} to {self.points[-1][0]}")

    def flipped(self) -> Table:
        """The same points read the other way; ValueError where y does not rise or fall throughout."""
        return Table(self.source, tuple(sorted((y, x) for x, y in self.points)))


@dataclass(frozen=True, slots=True)
class IndexRise:
    """Rise of the refractive index over water's: a*w + b*w**2 + c*w**3, w the mass fraction of glycol, 0 to 1."""

    source: Source
    coefficients: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Polynomial:
    """a1*d + a2*d**2 + ... with d the distance from `origin`; no constant term; valid over `range`."""

    source: Source
    range: Range
    origin: float
    coefficients: tuple[float, ...]

    def at(self, x: float) -> float:
        """Value at x; not checked against the range, which the caller knows how to name."""
        d = x - self.origin
        value = 0.0
        for a in reversed(self.coefficients):
            value = (value + a) * d
        return value


@dataclass(frozen=True, slots=True)
class Expansion:
    """ln(density / density at 20 degC) = sum of c[i][j] * w**i * s**(j+1), s = (t_c - 20) / 100, w the mass fraction.

    Outside `glycol_w` (up to 1) or above `temperature_c` the figure is extrapolated, as far as `extrapolated_to_c`.
    """

    source: Source
    glycol_w: Range
    temperature_c: Range
    extrapolated_to_c: float
    coefficients: tuple[tuple[float, ...], ...]


@dataclass(frozen=True, slots=True)
class PureLiquid:
    """What the mixing rules need of the neat glycol at 20 degC."""

    source: Source
    molar_mass_g: float
    density: float  # kg/m3
    excess_volume: tuple[float, ...]  # m3/kg, Redlich-Kister in mass fractions
    excess_source: Source
    vapour: tuple[float, float, float, float, float]  # ln(Pa) = A + B/T + C ln T + D T**E, T in K
    vapour_source: Source
