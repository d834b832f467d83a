"""Two years of one machine: two measured jobs, looks in between, and since eight weeks a leak made good with mix."""

from __future__ import annotations

import random
from datetime import timedelta

from django.utils import timezone

from catalogue.models import Product
from demo.scene import Scene
from depots.models import Depot
from instruments.models import Instrument

MACHINE = "W-05"
KM_A_DAY = 11.0
LOSS_L_A_WEEK = 0.32
LITRES_PER_MM = 0.04
FIRST, SECOND = ((12, 71.0), (38, 52.0), (74, 38.0)), ((15, 69.0), (45, 49.0), (80, 36.5))  # minutes off, then so warm


def two_years(depot: Depot, rng: random.Random) -> None:
    """W-05: renewed two years ago, again when its pump was replaced, quiet until eight weeks ago."""
    product, glass = depot.products.get(name="Winterline O"), depot.instruments.get(name="Glass 3")
    _renewed(depot, rng, product, glass, days=731, out_l=(7.1, 4.6), warm=FIRST, told_years=2.9)
    for days in (729, 701, 560):
        _look(depot, rng, days, 0.0, product)
    _renewed(depot, rng, product, glass, days=372, out_l=(7.3, 4.4), warm=SECOND)
    for days in (370, 341, 230, 118, 64):
        _look(depot, rng, days, 0.0, product)
    for week in range(8):
        _look(depot, rng, 57 - 7 * week, LOSS_L_A_WEEK + rng.gauss(0, 0.04), product)


def _renewed(
    depot: Depot,
    rng: random.Random,
    product: Product,
    glass: Instrument,
    *,
    days: int,
    out_l: tuple[float, float],
    warm: tuple[tuple[int, float], ...],
    told_years: float | None = None,
) -> None:
    """A refill, its drains caught apart and its cooling logged."""
    scene = Scene(depot, MACHINE, 1, "tomo", timezone.now() - timedelta(days=days), rng)
    scene.open("refill").record(2, "metered", distance_km=round(KM_A_DAY * (1500 - days)))
    if told_years is not None:
        scene.told(1, "oat", years=told_years)
    scene.choose(4, product)
    scene.record(3, "read", value=-42.0, place="as_found", instrument_id=glass.id, sample_c=17.0)
    scene.look(2, "neck", "clean_bright").decide(3)
    scene.record(4, "engine_run", minutes=20, opened=True, heater_full=True)
    passed = 0
    for minute, temperature_c in warm:
        scene.record(minute - passed, "temperature_logged", c=temperature_c)
        passed = minute
    caught = [{"where": place, "marks_l": litres, "at_c": 22.0} for place, litres in zip("AB", out_l, strict=True)]
    scene.feel(25).record(0, "drained", caught=caught).accept_mix(4, product, -46.0)
    scene.pour_the_plan(12, product).read_and_sign(((70, -47.0), (2, -47.0), (2, -47.5)), glass, 19.0)


def _look(depot: Depot, rng: random.Random, days: int, missing_l: float, product: Product) -> None:
    """A look at the level, cold, with the meter; what is missing is made good with the same mix."""
    scene = Scene(depot, MACHINE, 1, "ines", timezone.now() - timedelta(days=days, hours=2), rng)
    metered = ("metered", {"distance_km": round(KM_A_DAY * (1500 - days))})
    if missing_l <= 0:
        scene.between(0, metered, ("level_seen", {"level": "at_mark"}))
        return
    mm = round(missing_l / LITRES_PER_MM)
    signs = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": ["glasses"]}
    scene.between(0, metered, ("gate_observed", signs), ("level_seen", {"level": "low", "missing_mm": mm}))
    litres = round(mm * LITRES_PER_MM, 2)
    product_l = round(0.61 * litres, 2)
    water_l = round(litres - product_l, 2)
    poured = {"product_id": product.pk, "product_l": product_l, "water_l": water_l, "water": "demineralised"}
    scene.between(5 / 1440, ("poured", poured | {"at_mark": True}))
