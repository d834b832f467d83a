"""How hot and how tight a loop really is while it runs and stands: two bodies, a thermostat, gas and vapour under the cap.

The hot side is block, heater and upper hose, the cold side radiator and lower hose. Sizes are those of an engine of iron or
aluminium: common practice, no source. Nothing here uses the code that estimates a cool-down.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from temper_core.basis.errors import check_between

KELVIN = 273.15
COOLANT_J_PER_LK = 3600.0  # of a mix with half glycol
METAL_L = 0.9  # of the block's metal, as litres of coolant for each litre of the loop
EXPANSION_PER_K = 4.6e-4  # of a mix with half glycol
STEP_S = 2.0
STEAM_J_PER_L = 2.2e6  # to boil a litre off
STUCK_LEAK = 0.02  # of the full flow, past a shut thermostat
OPENS_OVER_K = 8.0  # from its first crack to fully open
SOFT_KPA = 4.0  # a hose gives under the hand below this
WATER_IN_MIX = 0.75  # mole fraction of water in a mix with half glycol


class Thermostat(StrEnum):
    """How its thermostat behaves."""

    WORKS = "works"
    SHUT = "shut"
    OPEN = "open"


@dataclass(frozen=True, slots=True)
class Body:
    """What a loop is made of, as far as heat goes. volume_l: of all of it; radiator_l: of its cold side; gas_l: over the
    level, cold. cap_kpa: what the cap holds above the surroundings. idle_w: heat into the coolant while it idles.
    """

    volume_l: float
    radiator_l: float
    gas_l: float
    cap_kpa: float
    ambient_c: float
    opens_c: float = 82.0
    idle_w: float = 9000.0
    ambient_kpa: float = 101.3
    thermostat: Thermostat = Thermostat.WORKS

    def __post_init__(self) -> None:
        check_between("volume_l", self.volume_l, 0.5, 1000, "L")
        check_between("radiator_l", self.radiator_l, 0.1, self.volume_l - 0.1, "L")
        check_between("gas_l", self.gas_l, 0.05, 200, "L")
        check_between("cap_kpa", self.cap_kpa, 0, 250, "kPa")
        check_between("ambient_c", self.ambient_c, -50, 60, "°C")
        check_between("opens_c", self.opens_c, 60, 110, "°C")
        check_between("idle_w", self.idle_w, 100, 500_000, "W")

    @property
    def hot_j_k(self) -> float:
        """Heat that warms the hot side by a kelvin."""
        return COOLANT_J_PER_LK * ((self.volume_l - self.radiator_l) + METAL_L * self.volume_l)

    @property
    def cold_j_k(self) -> float:
        """Heat that warms the cold side by a kelvin."""
        return COOLANT_J_PER_LK * 1.2 * self.radiator_l

    @property
    def flow_w_k(self) -> float:
        """Heat carried from the hot to the cold side a kelvin, thermostat open: the pump turns the loop in half a minute."""
        return COOLANT_J_PER_LK * self.volume_l / 30.0

    def still_w_k(self, fan: bool) -> float:
        """Heat that the cold side gives to the air a kelvin; the fan runs with the engine."""
        return (34.0 if fan else 2.4) * math.pow(self.radiator_l, 0.8)

    @property
    def block_w_k(self) -> float:
        """Heat that the hot side gives to the air a kelvin: by its skin, which grows slower than its volume."""
        return 3.1 * math.pow(self.volume_l, 2 / 3)


@dataclass(frozen=True, slots=True)
class Warmth:
    """How it is now: both sides [degC]; gas: sealed in over the level (kPa l / K, as moles are); boiled_l: gone as steam."""

    hot_c: float
    cold_c: float
    gas: float
    boiled_l: float = 0.0

    @property
    def surface_c(self) -> float:
        """What a hand or a probe finds at the upper hose and the cap."""
        return self.hot_c


def cold(body: Body) -> Warmth:
    """As it stood overnight, cap on."""
    dry_kpa = body.ambient_kpa - vapour_kpa(body.ambient_c)
    return Warmth(body.ambient_c, body.ambient_c, dry_kpa * body.gas_l / (body.ambient_c + KELVIN))


def vapour_kpa(c: float) -> float:
    """Pressure of water vapour over a mix [kPa]: Buck's formula (1996) times the water in it (Raoult)."""
    return WATER_IN_MIX * 0.61121 * math.exp((18.678 - c / 234.5) * c / (c + 257.14))


@lru_cache(maxsize=64)
def boils_c(body: Body) -> float:
    """Where it boils under its cap [degC]: by bisection of the vapour's pressure."""
    low, high = 60.0, 180.0
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (low, middle) if vapour_kpa(middle) > body.ambient_kpa + body.cap_kpa else (middle, high)
    return (low + high) / 2


def opened(body: Body, hot_c: float) -> float:
    """How far the thermostat stands open, 0 to 1."""
    if body.thermostat is Thermostat.OPEN:
        return 1.0
    if body.thermostat is Thermostat.SHUT:
        return STUCK_LEAK
    return min(1.0, max(STUCK_LEAK, (hot_c - body.opens_c) / OPENS_OVER_K))


def rates(body: Body, hot_c: float, cold_c: float, running: bool) -> tuple[float, float]:
    """Kelvin a second of the hot and the cold side."""
    carried = body.flow_w_k * opened(body, hot_c) * (hot_c - cold_c) if running else 0.02 * body.flow_w_k * (hot_c - cold_c)
    into = body.idle_w if running else 0.0
    hot = (into - carried - body.block_w_k * (hot_c - body.ambient_c)) / body.hot_j_k
    return hot, (carried - body.still_w_k(running) * (cold_c - body.ambient_c)) / body.cold_j_k


def gauge_kpa(body: Body, now: Warmth) -> float:
    """Pressure above the surroundings, before the cap acts [kPa]."""
    kelvin = now.hot_c + KELVIN
    grown = EXPANSION_PER_K * body.volume_l * (_mean_c(body, now) - body.ambient_c)
    gas_l = max(0.02 * body.gas_l, body.gas_l - grown)
    return now.gas * kelvin / gas_l + vapour_kpa(now.hot_c) - body.ambient_kpa


def pressure_kpa(body: Body, now: Warmth) -> float:
    """What a gauge shows: never more than the cap holds, never far below the surroundings."""
    return min(body.cap_kpa, max(-3.0, gauge_kpa(body, now)))


def soft(body: Body, now: Warmth) -> bool:
    """Whether the upper hose gives under the hand."""
    return pressure_kpa(body, now) < SOFT_KPA


def hose_hot(now: Warmth) -> tuple[bool, bool]:
    """Upper and lower hose, as a hand judges them: too hot to hold."""
    return now.hot_c > 55, now.cold_c > 55


def after(body: Body, now: Warmth, seconds: float, running: bool) -> Warmth:
    """So much later. Raises CoreError for a time that cannot be."""
    check_between("seconds", seconds, 0, 7 * 86400, "s")
    left = seconds
    while left > 1e-9:
        step = min(STEP_S, left)
        now = _vented(body, _step(body, now, step, running))
        left -= step
    return now


def _step(body: Body, now: Warmth, h: float, running: bool) -> Warmth:
    """Fourth-order Runge-Kutta."""
    a = rates(body, now.hot_c, now.cold_c, running)
    b = rates(body, now.hot_c + h / 2 * a[0], now.cold_c + h / 2 * a[1], running)
    c = rates(body, now.hot_c + h / 2 * b[0], now.cold_c + h / 2 * b[1], running)
    d = rates(body, now.hot_c + h * c[0], now.cold_c + h * c[1], running)
    hot, cold_ = (now.hot_c, now.cold_c)
    hot += h / 6 * (a[0] + 2 * b[0] + 2 * c[0] + d[0])
    cold_ += h / 6 * (a[1] + 2 * b[1] + 2 * c[1] + d[1])
    return replace(now, hot_c=hot, cold_c=cold_)


def _vented(body: Body, now: Warmth) -> Warmth:
    """The cap lets out what is over its pressure, and in what is under the surroundings; where it boils, steam goes."""
    most_c = boils_c(body)
    if now.hot_c > most_c:
        heat_j = (now.hot_c - most_c) * body.hot_j_k
        return replace(now, hot_c=most_c, gas=0.0, boiled_l=now.boiled_l + heat_j / STEAM_J_PER_L)
    over = gauge_kpa(body, now)
    wanted = body.cap_kpa if over > body.cap_kpa else -3.0 if over < -3.0 else None
    if wanted is None:
        return now
    dry = body.ambient_kpa + wanted - vapour_kpa(now.hot_c)
    grown = EXPANSION_PER_K * body.volume_l * (_mean_c(body, now) - body.ambient_c)
    gas_l = max(0.02 * body.gas_l, body.gas_l - grown)
    return replace(now, gas=max(0.0, dry * gas_l / (now.hot_c + KELVIN)))


def _mean_c(body: Body, now: Warmth) -> float:
    share = body.radiator_l / body.volume_l
    return share * now.cold_c + (1 - share) * now.hot_c
