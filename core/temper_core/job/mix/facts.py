"""The coolant that was chosen, its target, and the litres that were accepted."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import check_between
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fact import Fact
from temper_core.products.chemistry import Product


@dataclass(frozen=True, slots=True)
class Planned(Fact):
    """The chosen product; later the accepted mix: target, and the litres the plan asked for.

    dilute: a ready-mix is diluted with water by somebody's choice. reason: why a product for emergencies only goes in.
    """

    product: Product
    coldest_c: float
    margin_k: float
    target_freeze_c: float | None = None
    concentrate_l: float | None = None
    water_l: float | None = None
    dilute: bool = False
    reason: str = ""

    def __post_init__(self) -> None:
        check_between("coldest_c", self.coldest_c, -60, 40, "°C", "The coldest temperature where the machine is parked.")
        check_between("margin_k", self.margin_k, 0, 30, "K")
        for name in ("concentrate_l", "water_l"):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 0, LARGEST_LOOP_L, "L")
