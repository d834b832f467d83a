"""Properties of glycol-water solutions: freeze point, density, strength, refractive index, boiling point."""

from temper_core.glycol.boiling import boil_c
from temper_core.glycol.density import (
    DEFAULT_CONCENTRATE,
    density_20c,
    mass_fraction_of,
    strength_of,
    volume_l,
)
from temper_core.glycol.freezing import (
    COLDEST_TARGET_C,
    Branch,
    FreezePoint,
    curve_doubt_k,
    freeze_point,
    mass_fraction_at_freeze,
)
from temper_core.glycol.index import mass_fraction_at_index, refractive_index_20c
from temper_core.glycol.record import Glycol

__all__ = [
    "COLDEST_TARGET_C",
    "DEFAULT_CONCENTRATE",
    "Branch",
    "FreezePoint",
    "Glycol",
    "boil_c",
    "curve_doubt_k",
    "density_20c",
    "freeze_point",
    "mass_fraction_at_freeze",
    "mass_fraction_at_index",
    "mass_fraction_of",
    "refractive_index_20c",
    "strength_of",
    "volume_l",
]
