"""Properties of glycol-water solutions: freeze point, density, strength, refractive index, boiling point."""

from temper_core.science.atmosphere import ambient_kpa
from temper_core.science.boiling import boil_c
from temper_core.science.density import (
    DEFAULT_CONCENTRATE,
    density_20c,
    mass_fraction_of,
    specific_volume,
    strength_of,
    volume_l,
)
from temper_core.science.freezing import (
    COLDEST_TARGET_C,
    UNTABULATED_BELOW_C,
    Branch,
    FreezePoint,
    curve_doubt_k,
    freeze_point,
    mass_fraction_at_freeze,
)
from temper_core.science.index import (
    brix_index_20c,
    index_doubt,
    index_shift,
    mass_fraction_at_index,
    refractive_index_20c,
)
from temper_core.science.interval import freeze_interval
from temper_core.science.record import Glycol
from temper_core.science.thermal import density, is_extrapolated, litres_at_20c

__all__ = [
    "UNTABULATED_BELOW_C",
    "COLDEST_TARGET_C",
    "DEFAULT_CONCENTRATE",
    "Branch",
    "FreezePoint",
    "Glycol",
    "ambient_kpa",
    "boil_c",
    "brix_index_20c",
    "curve_doubt_k",
    "density",
    "density_20c",
    "freeze_interval",
    "freeze_point",
    "index_doubt",
    "index_shift",
    "is_extrapolated",
    "litres_at_20c",
    "mass_fraction_at_freeze",
    "mass_fraction_at_index",
    "mass_fraction_of",
    "refractive_index_20c",
    "specific_volume",
    "strength_of",
    "volume_l",
]
