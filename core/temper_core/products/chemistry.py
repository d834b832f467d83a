"""Words of the chemistry: bases, inhibitor families, forms, what a loop asks for. No judgement here."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.science import Glycol


class Base(StrEnum):
    """What lowers the freeze point."""

    ETHYLENE = "ethylene"
    PROPYLENE = "propylene"
    NONE = "none"

    @property
    def glycol(self) -> Glycol | None:
        """The glycol whose curves apply, None for glycol-free fills."""
        return None if self is Base.NONE else Glycol(self.value)


class Family(StrEnum):
    """Inhibitor families; industry terms, never brands, never colours."""

    IAT = "iat"
    OAT = "oat"
    SI_HOAT = "si_hoat"
    P_HOAT = "p_hoat"
    NOAT = "noat"
    GLYCOL_FREE = "glycol_free"
    LOW_CONDUCTIVITY = "low_conductivity"


class Form(StrEnum):
    """How a product is sold."""

    CONCENTRATE = "concentrate"
    READY_MIX = "ready_mix"


FORM_NAMES = {Form.CONCENTRATE: "concentrate", Form.READY_MIX: "ready-mixed"}


class Material(StrEnum):
    """What the coolant touches and some chemistries attack or must protect."""

    ALUMINIUM = "aluminium"
    CAST_IRON = "cast_iron"
    COPPER_BRASS_SOLDER = "copper_brass_solder"
    WET_LINERS = "wet_liners"
    OLD_SEALS = "old_seals"


MATERIAL_NAMES = {
    Material.ALUMINIUM: "aluminium",
    Material.CAST_IRON: "cast iron",
    Material.COPPER_BRASS_SOLDER: "copper-brass and solder",
    Material.WET_LINERS: "wet liners",
    Material.OLD_SEALS: "old seals",
}


class LoopUse(StrEnum):
    """What a low-conductivity loop cools; it decides how much its fluid may conduct."""

    POWER_ELECTRONICS = "power_electronics"
    BATTERY = "battery"
    FUEL_CELL = "fuel_cell"


LOOP_USE_NAMES = {
    LoopUse.POWER_ELECTRONICS: "power electronics",
    LoopUse.BATTERY: "battery",
    LoopUse.FUEL_CELL: "fuel cell",
}
FAMILY_NAMES = {
    Family.IAT: "silicate type",
    Family.OAT: "organic acid",
    Family.SI_HOAT: "organic with silicate",
    Family.P_HOAT: "organic with phosphate",
    Family.NOAT: "fully formulated heavy duty",
    Family.GLYCOL_FREE: "glycol-free",
    Family.LOW_CONDUCTIVITY: "low-conductivity",
}
BASE_NAMES = {Base.ETHYLENE: "ethylene glycol", Base.PROPYLENE: "propylene glycol", Base.NONE: "no glycol"}
GROUPS = {
    Family.IAT: "inorganic",
    Family.OAT: "organic",
    Family.SI_HOAT: "organic",
    Family.P_HOAT: "organic",
    Family.NOAT: "heavy duty",
    Family.GLYCOL_FREE: "glycol-free",
    Family.LOW_CONDUCTIVITY: "low-conductivity",
}


@dataclass(frozen=True, slots=True)
class Product:
    """A coolant as poured: composition only, no price. glycol_mass_percent is of the product as sold.

    glycol_sd_percent: its standard deviation [% by mass] where the label does not state it; None: stated. label_entered:
    False for a line of the starter list that nobody has compared with its label yet; it fits nowhere until then.
    """

    id: str
    name: str
    base: Base
    family: Family
    form: Form
    glycol_mass_percent: float
    standards: tuple[str, ...] = ()
    glycol_sd_percent: float | None = None
    label_entered: bool = True

    def __post_init__(self) -> None:
        if self.glycol_sd_percent is not None:
            check_between("glycol_sd_percent", self.glycol_sd_percent, 0, 30, "% by mass")
        if self.base is Base.NONE:
            if self.glycol_mass_percent != 0:
                raise CoreError("glycol_mass_percent", f"{self.glycol_mass_percent:g} % by mass with no glycol base: set 0.")
            return
        low = 30.0 if self.form is Form.CONCENTRATE else 5.0
        todo = "Read the glycol content in percent by mass (not a fraction) from the data sheet."
        check_between("glycol_mass_percent", self.glycol_mass_percent, low, 100, "% by mass", todo)


@dataclass(frozen=True, slots=True)
class Fluid:
    """What is in a loop as far as is known: None means unknown. strength in % by volume of the default concentrate."""

    base: Base | None = None
    family: Family | None = None
    strength_percent: float | None = None

    def __post_init__(self) -> None:
        if self.strength_percent is not None:
            check_between("strength_percent", self.strength_percent, 0, 100, "% by volume")


@dataclass(frozen=True, slots=True)
class Requirement:
    """What a loop asks of its coolant. `families` and `standards` are the maker's, read in `stated_in`.

    use: of a low-conductivity loop; None: not said.
    """

    families: tuple[Family, ...] = ()
    standards: tuple[str, ...] = ()
    stated_in: str = ""
    materials: tuple[Material, ...] = ()
    glycol_forbidden: bool = False
    low_conductivity: bool = False
    use: LoopUse | None = None
