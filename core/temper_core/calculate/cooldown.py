"""When a loop has cooled: an estimate in words for planning the day, never a proof that it may be opened."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.calculate.mix import LARGEST_LOOP_L

HEAT_SOAK_MIN = 10.0  # the block heats the coolant on after stopping: common practice, no source
SMALL_BELOW_L, MEDIUM_TO_L = 10.0, 25.0
AMBIENT_SD_K = 2.0  # of the surroundings as they are entered; common practice, no source
POINT_SD_K = 1.0  # a thermometer held to a hose
LEAST_EXCESS_K = 0.1  # nearer to the surroundings than this nothing is left to cool
NORMAL_95 = 1.959964
MOST_POINTS = 200
HORIZON_MIN = 10_000.0  # about a week: what takes longer is not cooling, as far as a thermometer can tell


@dataclass(frozen=True, slots=True)
class CoolPoint:
    """A logged temperature, minutes after stopping."""

    minute: float
    c: float

    def __post_init__(self) -> None:
        check_between("minute", self.minute, 0, 10_000, "min", "Minutes after stopping.")
        check_between("c", self.c, -60, 150, "°C")


@dataclass(frozen=True, slots=True)
class CooldownQuestion:
    """From from_c at minute 0, in surroundings of ambient_c, until until_c; points sharpen the estimate.

    time_constant_min: what this loop cooled with before; None: the usual one of its volume.
    """

    from_c: float
    ambient_c: float
    until_c: float
    loop_volume_l: float | None = None
    points: tuple[CoolPoint, ...] = ()
    time_constant_min: float | None = None

    def __post_init__(self) -> None:
        if self.time_constant_min is not None:
            check_between("time_constant_min", self.time_constant_min, 1, 10_000, "min", "As it cooled before.")
        check_between("from_c", self.from_c, -60, 150, "°C")
        check_between("ambient_c", self.ambient_c, -60, 60, "°C")
        if not self.until_c > self.ambient_c:
            words = "{until_c} is not above the surroundings ({ambient_c}). Enter a higher temperature."
            raise CoreError("until_c", say("never_reached", words, until_c=self.until_c, ambient_c=self.ambient_c))
        check_between("until_c", self.until_c, -60, 150, "°C")
        if self.loop_volume_l is not None:
            check_between("loop_volume_l", self.loop_volume_l, 0.1, LARGEST_LOOP_L, "L")
        if len(self.points) > MOST_POINTS:
            raise CoreError("points", f"{len(self.points)} points: at most {MOST_POINTS} are allowed.", "out_of_range")
        for i, point in enumerate(self.points):
            if point.minute >= HEAT_SOAK_MIN and point.c <= self.ambient_c + LEAST_EXCESS_K:
                words = "{point_c} is not above the surroundings ({ambient_c}): measure these again."
                raise CoreError(f"points.{i}.c", say("at_ambient", words, point_c=point.c, ambient_c=self.ambient_c))

    @property
    def counted(self) -> tuple[CoolPoint, ...]:
        """Points that count: not those of the heat soak."""
        return tuple(point for point in self.points if point.minute >= HEAT_SOAK_MIN)


@dataclass(frozen=True, slots=True)
class CooldownAnswer:
    """Minutes from minute 0 with their 95 % range, by this time constant; points_counted: how many sharpened it."""

    minutes: float
    minutes_low: float
    minutes_high: float
    time_constant_min: float
    points_counted: int


def usual_constant_min(loop_volume_l: float | None, policy: Policy) -> float:
    """Time constant of a loop nobody has logged [min]; of a middling one where its volume is unknown."""
    if loop_volume_l is not None and loop_volume_l < SMALL_BELOW_L:
        return policy["cool_small_min"]
    if loop_volume_l is None or loop_volume_l <= MEDIUM_TO_L:
        return policy["cool_medium_min"]
    return policy["cool_large_min"]


def cooldown(q: CooldownQuestion, policy: Policy | None = None) -> CooldownAnswer:
    """Newton's law of cooling; see CooldownAnswer. Raises CoreError where the points do not fall.

    >>> a = cooldown(CooldownQuestion(90, 10, 45, 18))
    >>> [round(x) for x in (a.minutes, a.minutes_low, a.minutes_high)]
    [99, 62, 159]
    """
    policy = policy or Policy()
    tau, either_way = usual_constant_min(q.loop_volume_l, policy), policy["cool_factor"]
    if q.time_constant_min is not None:  # weather and wind stay, the size of the loop is no question any more
        tau, either_way = q.time_constant_min, math.sqrt(either_way)
    points = q.counted
    if len(points) >= 2:
        return _fitted(q, points)
    if q.from_c <= q.until_c:
        return CooldownAnswer(0.0, 0.0, 0.0, tau, 0)
    fall = math.log((q.from_c - q.ambient_c) / (q.until_c - q.ambient_c))
    if points:
        return _through(q, points[0], fall, math.sqrt(either_way))
    return CooldownAnswer(tau * fall, tau * fall / either_way, tau * fall * either_way, tau, 0)


def _through(q: CooldownQuestion, point: CoolPoint, fall: float, either_way: float) -> CooldownAnswer:
    """By the start and one point: the heat soak between them is in it, so half the usual doubt stays."""
    if q.from_c <= point.c:
        raise _not_falling()
    excess = math.log((q.from_c - q.ambient_c) / (point.c - q.ambient_c))
    if excess * HORIZON_MIN <= point.minute * max(1.0, fall * either_way):
        raise _not_measurably()
    tau = point.minute / excess
    return CooldownAnswer(tau * fall, tau * fall / either_way, tau * fall * either_way, tau, 1)


def _not_falling() -> CoreError:
    return CoreError("points", "Not cooling by these points: stop engine and preheater, measure again.", "not_falling")


def _not_measurably() -> CoreError:
    message = "Not cooling measurably by these points: stop engine and preheater, record another later."
    return CoreError("points", message, "not_measurable")


def _inverse(rise: float, slope: float, about: float, tilt: float) -> tuple[float, float] | None:
    """Both ends of where a line reaches a height, from where its points lie: Fieller's theorem; None where it may not fall.

    about, tilt: squared half widths of the line's height there and of its slope. Source: Fieller (1954), from memory.
    """
    a = slope**2 - tilt
    if a <= 0:
        return None
    root = math.sqrt(max(0.0, (rise * slope) ** 2 - a * (rise**2 - about)))
    low, high = (rise * slope - root) / a, (rise * slope + root) / a
    return min(low, high), max(low, high)


@dataclass(frozen=True, slots=True)
class _Line:
    """A weighted line through the logarithm of the excess temperature: its middle, its slope, the weights behind both."""

    mean_t: float
    mean_e: float
    slope: float
    whole: float
    spread: float

    def minutes(self, excess_k: float) -> float:
        """When this excess is left."""
        return self.mean_t + (math.log(excess_k) - self.mean_e) / self.slope


def _line(points: Sequence[CoolPoint], ambient_c: float) -> _Line:
    excess = [math.log(point.c - ambient_c) for point in points]
    weights = [((point.c - ambient_c) / POINT_SD_K) ** 2 for point in points]
    whole = sum(weights)
    mean_t = sum(w * p.minute for w, p in zip(weights, points, strict=True)) / whole
    mean_e = sum(w * e for w, e in zip(weights, excess, strict=True)) / whole
    spread = sum(w * (p.minute - mean_t) ** 2 for w, p in zip(weights, points, strict=True))
    if spread <= 0:
        raise CoreError("points", "Points within one minute give no trend: record another later.", "one_minute")
    slope = sum(w * (p.minute - mean_t) * (e - mean_e) for w, p, e in zip(weights, points, excess, strict=True)) / spread
    return _Line(mean_t, mean_e, slope, whole, spread)


def _fitted(q: CooldownQuestion, points: Sequence[CoolPoint]) -> CooldownAnswer:
    """By a line through the points; its doubt by the thermometer's, or the scatter's, and by the surroundings'."""
    line = _line(points, q.ambient_c)
    if line.slope >= 0:
        raise _not_falling()
    if -line.slope * HORIZON_MIN <= 1:  # a time constant beyond the horizon
        raise _not_measurably()
    aim = q.until_c - q.ambient_c
    minutes = line.minutes(aim)
    misses = [
        ((p.c - q.ambient_c) / POINT_SD_K) ** 2
        * (math.log(p.c - q.ambient_c) - line.mean_e - line.slope * (p.minute - line.mean_t)) ** 2
        for p in points
    ]
    scatter = max(1.0, sum(misses) / (len(points) - 2)) if len(points) > 2 else 1.0
    of_line = NORMAL_95**2 * scatter
    ends = _inverse(math.log(aim) - line.mean_e, line.slope, of_line / line.whole, of_line / line.spread)
    if ends is None:
        raise _not_measurably()
    colder = _line(points, q.ambient_c - 1.0).minutes(aim + 1.0)  # the same, were the surroundings a kelvin colder
    by_ambient = NORMAL_95 * AMBIENT_SD_K * (colder - minutes)
    low = minutes - math.hypot(minutes - line.mean_t - ends[0], by_ambient)
    high = minutes + math.hypot(line.mean_t + ends[1] - minutes, by_ambient)
    if high > HORIZON_MIN:  # the points allow that it does not cool at all
        raise _not_measurably()
    return CooldownAnswer(max(0.0, minutes), max(0.0, low), max(0.0, high), -1 / line.slope, len(points))
