"""What stands on the practice depot's shelf, and the instruments that lie there."""

from __future__ import annotations

from temper_core.basis.errors import CoreError
from temper_core.instruments import Scale
from temper_core.job.read.facts import Instrument
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.chemistry import Base, Family, Form, Product

PRODUCTS = (
    Product("1", "Winterline O", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 95.0, ("ASTM D3306",)),
    Product("2", "Winterline O ready-mixed", Base.ETHYLENE, Family.OAT, Form.READY_MIX, 50.0, ("ASTM D3306",)),
    Product("3", "Winterline P", Base.PROPYLENE, Family.OAT, Form.CONCENTRATE, 95.0, ("ASTM D3306",)),
    Product("4", "Old Guard S", Base.ETHYLENE, Family.IAT, Form.CONCENTRATE, 93.0, ("BS 6580",)),
    Product("5", "Stillwater E", Base.ETHYLENE, Family.LOW_CONDUCTIVITY, Form.READY_MIX, 50.0),
)
CLEANER = Agent(
    "Rinseflow", AgentKind.CLEANER, 325, 11.4, light_min=10, heavy_min=180, limit_min=240, rinse_below_percent=1.0
)
GLASSES = (
    Instrument("1", "Bench glass", Scale.FREEZE_ETHYLENE, 1.0),
    Instrument("2", "Bench glass P", Scale.FREEZE_PROPYLENE, 1.0),
)
STRIPS: dict[str, tuple[float, ...]] = {  # the bands of the card
    "ph": (7.0, 7.5, 8.0, 8.5, 9.0, 10.0),
    "nitrite_mg_l": (0.0, 300.0, 800.0, 1200.0, 2400.0),
}
DEMINERALISED, TAP = "demineralised water", "tap water"
WATERS = (DEMINERALISED, TAP)


def product_named(name: str) -> Product | None:
    """A coolant of the shelf; None: it is none. Raises CoreError for what does not stand there."""
    found = next((one for one in PRODUCTS if one.name == name), None)
    if found is None and name not in (*WATERS, CLEANER.name):
        there = ", ".join((*(one.name for one in PRODUCTS), *WATERS, CLEANER.name))
        raise CoreError("what", f"'{name}' is not on the shelf: {there} are.", "not_there")
    return found
