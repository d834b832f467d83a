"""How sure a mix is: what its freeze point may be when capacity, drained litres, strength and product are a little off.

The plan's concentrate is kept, and the loop filled with water to the cold mark. With h(w) = w * density(w), the glycol in
one litre, the full loop holds x = G / L grams a litre, and the freeze point follows from x alone. That makes one case cheap
enough to work out some hundred of them, evenly spread and always the same ones, instead of trusting a straight line where
the dependence on capacity bends, or where part of the cases cannot be (more out than in, a strength below 0).
"""

from __future__ import annotations

import math
from functools import lru_cache
from statistics import NormalDist

from temper_core.basis.quantity import WATER_DENSITY_20C, MassFraction, VolumePercent
from temper_core.basis.uncertainty import Z95, evenly_spread, quantile
from temper_core.calculate.mix.curve import LAST_TABULATED_W, Bent, bent, between, cubic, freeze_at, rows_of
from temper_core.calculate.mix.likely import InputShare, Likely, LitresSpread
from temper_core.calculate.mix.question import MixQuestion, poured_masses
from temper_core.calculate.mix.spread import Spread
from temper_core.science import density_20c, mass_fraction_of

TAIL = 0.025  # a 95 % interval leaves this much on each side
FEW, MANY = 256, 2048  # cases; many where part of them cannot be, or is tabulated by nobody


@lru_cache(maxsize=2)
def cases(count: int) -> tuple[tuple[float, float, float, float, float], ...]:
    """Cases to work out: normal deviates of capacity, drained litres, strength and product; 0-1 for the curve."""
    z = NormalDist().inv_cdf
    return tuple((z(a), z(b), z(c), z(d), e) for a, b, c, d, e in evenly_spread(count))


@lru_cache(maxsize=2)
def _curve(count: int) -> tuple[float, ...]:
    """The fifth column of the cases."""
    return tuple(case[4] for case in cases(count))


@lru_cache
def _reach() -> float:
    """The largest deviate among the few cases."""
    return max(max(map(abs, case[:4])) for case in cases(FEW))


class Mixed:
    """The mix as a function of its four uncertain inputs, calculated once around where they stand."""

    def __init__(self, q: MixQuestion, concentrate_l: float, water_l: float, plan_w: MassFraction) -> None:
        self.q, self.concentrate_l, self.water_l = q, concentrate_l, water_l
        self.spread = q.spread or Spread()
        self.poured = poured_masses(q.glycol, q.inside)
        self.percent = q.concentrate * 100

        def by_strength(strength: float) -> float:
            return density_20c(q.glycol, mass_fraction_of(q.glycol, VolumePercent(strength)))

        def by_product(percent: float) -> float:
            return density_20c(q.glycol, percent / 100)

        def glycol_by_strength(strength: float) -> float:
            w = mass_fraction_of(q.glycol, VolumePercent(strength))
            return w * density_20c(q.glycol, w)

        step_s, step_p = 1.0 + self.spread.inside_strength_percent, 0.1 + self.spread.glycol_mass_percent
        self.rho_inside = bent(by_strength, q.inside.strength_percent, min(step_s, 45.0), 0, 100)
        self.h_inside = bent(glycol_by_strength, q.inside.strength_percent, min(step_s, 45.0), 0, 100)
        if q.inside.other_base_l > 0:  # that part is counted as water
            known = 1 - q.inside.other_base_l / q.inside.volume_l
            self.rho_inside = Bent(*(known * c for c in self.rho_inside))
            self.rho_inside = self.rho_inside._replace(value=self.rho_inside.value + (1 - known) * WATER_DENSITY_20C)
            self.h_inside = Bent(*(known * c for c in self.h_inside))
        self.rho_product = bent(by_product, self.percent, min(step_p, 30.0), 0, 100)
        self.rows = rows_of(q.glycol)
        self.plan_x = plan_w * density_20c(q.glycol, plan_w)
        self.plan_rho = density_20c(q.glycol, plan_w)

    def likely(self) -> tuple[Likely, Likely]:
        """95 % intervals without and with the curve's own doubt."""
        if self._all_can_be():
            plain, doubted = self._freeze_points_of_all()
            return _likely(plain, 0.0, self), _likely(doubted, 0.0, self)
        plain, doubted = self.freeze_points(MANY)
        refused = 100 * (1 - len(plain) / MANY)
        return _likely(plain, refused, self), _likely(doubted, refused, self)

    def freeze_points(self, count: int) -> tuple[list[float], list[float]]:
        """Sorted freeze points [degC] of the cases that can be, without and with the curve's own doubt."""
        q, s, rows = self.q, self.spread, self.rows
        capacity, strength, percent, last = q.loop_volume_l, q.inside.strength_percent, self.percent, len(self.rows) - 2
        per_volume, s_volume, s_left = s.inside_per_capacity, s.strength_per_capacity, s.strength_per_inside
        (rho_0, rho_1, rho_2), (h_0, h_1, h_2), (p_0, p_1, p_2) = self.rho_inside, self.h_inside, self.rho_product
        poured_glycol_g, poured_g = 1000 * self.poured.glycol, 1000 * self.poured.total
        slack = -1e-6 * capacity * self.plan_rho
        plain, doubted = [], []
        for z_volume, z_drained, z_strength, z_product, u in cases(count):
            more, less = z_volume * s.loop_volume_l, z_drained * s.drained_l
            volume, left = capacity + more, q.inside.volume_l + per_volume * more - less
            off = z_strength * s.inside_strength_percent + s_volume * more - s_left * less
            off_p = z_product * s.glycol_mass_percent
            if not (0 <= left <= volume and 0 <= strength + off <= 100 and 0 <= percent + off_p <= 100 and volume > 0):
                continue
            product_g = self.concentrate_l * (p_0 + off_p * (p_1 + off_p * p_2))
            glycol_g = left * (h_0 + off * (h_1 + off * h_2)) + product_g * (percent + off_p) / 100 + poured_glycol_g
            grams = glycol_g / volume
            i = min(int(grams), last)
            rho_a, freeze_a, doubt_a = rows[i]
            rho_b, freeze_b, doubt_b = rows[i + 1]
            part = grams - i
            other_g = left * (rho_0 + off * (rho_1 + off * rho_2)) + product_g + poured_g
            if volume * (rho_a + part * (rho_b - rho_a)) - other_g < slack:
                continue  # the concentrate would not have fitted
            freeze_c = freeze_a + part * (freeze_b - freeze_a)
            plain.append(freeze_c)
            doubted.append(freeze_c + u * (doubt_a + part * (doubt_b - doubt_a)))
        return sorted(plain), sorted(doubted)

    def _all_can_be(self) -> bool:
        """Whether even the outermost case can be and is tabulated, so that none has to be looked at for it."""
        q, s, reach = self.q, self.spread, _reach()
        with_litres = abs(s.strength_per_capacity) * s.loop_volume_l + abs(s.strength_per_inside) * s.drained_l
        off, off_p = reach * (s.inside_strength_percent + with_litres), reach * s.glycol_mass_percent
        off_left = reach * (abs(s.inside_per_capacity) * s.loop_volume_l + s.drained_l)
        _, water = self.litre_slopes()
        room_l = self.water_l - 1.2 * reach * sum(abs(slope) * getattr(s, name) for name, slope in water.items())
        strongest = self.plan_x + 1.2 * reach * sum(abs(slope) * getattr(s, name) for name, slope in self.slopes().items())
        return (
            off <= q.inside.strength_percent <= 100 - off
            and off_p <= self.percent <= 100 - off_p
            and off_left <= q.inside.volume_l
            and reach * s.drained_l <= q.loop_volume_l - q.inside.volume_l
            and room_l >= 0
            and strongest <= LAST_TABULATED_W * density_20c(q.glycol, LAST_TABULATED_W)
        )

    def _freeze_points_of_all(self) -> tuple[list[float], list[float]]:
        """As freeze_points, where all cases can be. It runs for every key pressed on the worksheet, so it is flat:

        the freeze point and its doubt over the range of the cases are cubics through four points.
        """
        q, s, count = self.q, self.spread, FEW
        capacity, left, sd_volume, sd_drained = q.loop_volume_l, q.inside.volume_l, s.loop_volume_l, s.drained_l
        h_0, h_1, h_2 = self.h_inside
        per_volume, s_volume, s_left = s.inside_per_capacity * sd_volume, s.strength_per_capacity, s.strength_per_inside
        own, by_volume, by_left = s.inside_strength_percent, s_volume * sd_volume, s_left * sd_drained
        offs = [own * c for _, _, c, _, _ in cases(count)]
        if s.together:
            offs = [off + by_volume * a - by_left * b for off, (a, b, _, _, _) in zip(offs, cases(count))]  # noqa: B905
        k_0, k_1, k_2 = bent(self._product_glycol_g, self.percent, max(0.01, s.glycol_mass_percent), 0, 100).scaled(
            s.glycol_mass_percent
        )
        k_0 += 1000 * self.poured.glycol
        grams = [
            ((left + a * per_volume - b * sd_drained) * (h_0 + c * (h_1 + c * h_2)) + k_0 + d * (k_1 + d * k_2))
            / (capacity + a * sd_volume)
            for c, (a, b, _, d, _) in zip(offs, cases(count))  # noqa: B905
        ]
        low, high = min(grams), max(grams)
        middle, half = (low + high) / 2, (high - low) / 2 or 1.0
        f_0, f_1, f_2, f_3 = cubic(lambda t: between(self.rows, middle + half * t, 1))
        d_0, d_1, d_2, d_3 = cubic(lambda t: between(self.rows, middle + half * t, 2))
        steps = [(g - middle) / half for g in grams]
        plain = [f_0 + t * (f_1 + t * (f_2 + t * f_3)) for t in steps]
        if d_0 == d_1 == d_2 == d_3 == 0:
            return sorted(plain), sorted(plain)
        doubted = [f + u * (d_0 + t * (d_1 + t * (d_2 + t * d_3))) for f, t, u in zip(plain, steps, _curve(count))]  # noqa: B905
        return sorted(plain), sorted(doubted)

    def _product_glycol_g(self, percent: float) -> float:
        """Grams of glycol in the concentrate, were the product of this content [% by mass]."""
        return self.concentrate_l * percent / 100 * density_20c(self.q.glycol, percent / 100)

    def slopes(self) -> dict[str, float]:
        """Change of x [grams of glycol a litre] per unit of each input, at the plan, with what goes together with it."""
        q, s = self.q, self.spread
        h_in = self.h_inside.value
        product = self.percent / 100 * self.rho_product.slope + self.rho_product.value / 100
        strength = self.h_inside.slope * q.inside.volume_l / q.loop_volume_l
        by_volume = (s.inside_per_capacity * h_in - self.plan_x) / q.loop_volume_l
        return {
            "loop_volume_l": by_volume + s.strength_per_capacity * strength,
            "drained_l": -h_in / q.loop_volume_l - s.strength_per_inside * strength,
            "inside_strength_percent": strength,
            "glycol_mass_percent": self.concentrate_l * product / q.loop_volume_l,
        }

    def inputs(self, measured: Spread | None) -> tuple[InputShare, ...]:
        """Each uncertain input with its share, largest first; measured: what good measuring reaches."""
        slopes = self.slopes()
        sds = {name: getattr(self.spread, name) for name in slopes}
        parts = {name: (slopes[name] * sd) ** 2 for name, sd in sds.items()}
        whole = sum(parts.values())
        shares = []
        for name, part in parts.items():
            if part <= 0:
                continue
            better = getattr(measured, name) if measured else 0.0
            gain: tuple[float, float] | None = None
            if 0 < better < 0.8 * sds[name]:
                sd_x = math.sqrt(whole - part + (slopes[name] * better) ** 2)
                ends = [freeze_at(self.rows, self.plan_x + side * Z95 * sd_x) for side in (1, -1)]
                gain = (min(ends), max(ends))
            low, high = gain or (None, None)
            shares.append(InputShare(name, sds[name], 100 * part / whole, better if gain else None, low, high))
        return tuple(sorted(shares, key=lambda share: -share.share_percent))

    def litre_slopes(self) -> tuple[dict[str, float], dict[str, float]]:
        """How the right litres of concentrate and of water would move per unit of each input."""
        q, s = self.q, self.spread
        per_volume, s_volume, s_left = s.inside_per_capacity, s.strength_per_capacity, s.strength_per_inside
        rho_in, h_in = self.rho_inside.value, self.h_inside.value
        h_p = self.percent / 100 * self.rho_product.value
        slope_p = self.percent / 100 * self.rho_product.slope + self.rho_product.value / 100
        left = q.inside.volume_l
        strength = -left * self.h_inside.slope / h_p
        concentrate = {
            "loop_volume_l": (self.plan_x - per_volume * h_in) / h_p + s_volume * strength,
            "drained_l": h_in / h_p - s_left * strength,
            "inside_strength_percent": strength,
            "glycol_mass_percent": -self.concentrate_l * slope_p / h_p,
        }
        other_mass = {  # g that come in or stay besides the concentrate, per unit
            "loop_volume_l": self.plan_rho - per_volume * rho_in - s_volume * left * self.rho_inside.slope,
            "drained_l": rho_in + s_left * left * self.rho_inside.slope,
            "inside_strength_percent": -left * self.rho_inside.slope,
            "glycol_mass_percent": -self.concentrate_l * self.rho_product.slope,
        }
        water = {n: (other_mass[n] - self.rho_product.value * concentrate[n]) / WATER_DENSITY_20C for n in concentrate}
        return concentrate, water

    def litres_spread(self) -> LitresSpread:
        """95 % half-widths of the right litres, to first order. Source: JCGM 100:2008 (GUM), 5.1.2."""
        halves = (
            Z95 * math.sqrt(sum((slope * getattr(self.spread, name)) ** 2 for name, slope in slopes.items()))
            for slopes in self.litre_slopes()
        )
        return LitresSpread(*halves)


def _likely(ordered: list[float], refused_percent: float, mixed: Mixed) -> Likely:
    if len(ordered) < 2:  # nothing that was said can be: the plan's own point is all there is
        alone = freeze_at(mixed.rows, mixed.plan_x)
        return Likely(alone, alone, refused_percent)
    return Likely(quantile(ordered, TAIL), quantile(ordered, 1 - TAIL), refused_percent)
