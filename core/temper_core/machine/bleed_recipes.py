"""Generic bleed recipes, to start from where a loop has none of its own. Their times are Temper's own, no source."""

from __future__ import annotations

from temper_core.machine.bleeding import BleedRecipe, BleedStep, CapState, Setting
from temper_core.machine.circuit import BleederKind, Layout, NodeKind
from temper_core.machine.equipment import Equipment, TankKind

IDLE, FAST, FASTER = 800.0, 1500.0, 2500.0
_S, _C = BleedStep, CapState
_HOT = Setting.FULL
_UNTIL_HOT = "Until upper and lower hose are hot and the heater blows hot"
_UNTIL_FAN = "Until the fan has cycled; watch the gauge"

TANK = BleedRecipe(
    "Degas tank",
    (
        _S(
            "Idle with the tank open, top up",
            300,
            IDLE,
            heater=_HOT,
            blower=Setting.LOW,
            cap=_C.OPEN,
            top_up=True,
        ),
        _S("Squeeze the upper hose", 40, FASTER, heater=_HOT, cap=_C.OPEN, squeeze=True),
        _S("Top up", 60, IDLE, heater=_HOT, cap=_C.OPEN, top_up=True),
        _S("Once more", 30, FASTER, heater=_HOT, cap=_C.OPEN, squeeze=True),
        _S("Top up, then cap on", 30, IDLE, heater=_HOT, cap=_C.OPEN, top_up=True),
        _S(_UNTIL_HOT, None, FAST, heater=_HOT, blower=Setting.LOW),
        _S(_UNTIL_FAN, None, IDLE, heater=_HOT),
    ),
)
FUNNEL = BleedRecipe(
    "Funnel on the neck",
    (
        _S(
            "Funnel a third full, front up",
            300,
            IDLE,
            heater=_HOT,
            blower=Setting.LOW,
            cap=_C.FUNNEL,
            nose_up=True,
            top_up=True,
        ),
        _S("Squeeze both hoses", 40, FASTER, heater=_HOT, cap=_C.FUNNEL, squeeze=True, nose_up=True),
        _S("Let it settle", 60, IDLE, heater=_HOT, cap=_C.FUNNEL, nose_up=True, top_up=True),
        _S("Squeeze both hoses again", 30, FASTER, heater=_HOT, cap=_C.FUNNEL, squeeze=True, nose_up=True),
        _S("Until no bubbles rise, both hoses hot", None, FAST, heater=_HOT, cap=_C.FUNNEL, nose_up=True, top_up=True),
        _S("Engine off: plug the funnel, lift it, cap on", None, cap=_C.FUNNEL, nose_up=True),
    ),
)
AFTER_VACUUM = BleedRecipe(
    "After a vacuum fill",
    (
        _S("Cap tight, idle", 180, IDLE, heater=_HOT, blower=Setting.LOW),
        _S(_UNTIL_HOT, None, FAST, heater=_HOT, blower=Setting.LOW),
        _S(_UNTIL_FAN, None, IDLE, heater=_HOT),
    ),
)
ELECTRONICS = BleedRecipe(
    "Electric pump, service mode",
    (
        _S("Service mode on, tank a little over the mark", None, cap=_C.OPEN, top_up=True),
        _S("Pump on: top up at once, it must not run dry", 180, pump=True, cap=_C.OPEN, top_up=True),
        _S("Wait", 60, cap=_C.OPEN),
        _S("Pump on again", 180, pump=True, cap=_C.OPEN, top_up=True),
        _S("Until the tank swirls and no bubbles rise", None, pump=True, cap=_C.OPEN, top_up=True),
    ),
)


def screws(layout: Layout) -> BleedRecipe:
    """Bleeders opened cold in their order, until a solid stream comes; then warmed up with the cap tight."""
    opened = [row for row in sorted(layout.bleeders, key=lambda row: row.number) if row.kind is not BleederKind.PIPE]
    names = {node.id: node.name for node in layout.nodes}
    cold = [
        _S(f"Bleeder {row.number}, {names[row.node]}: until a solid stream comes, then shut it", None,
           cap=_C.OPEN, bleeder=row.number, top_up=True)
        for row in opened
    ]  # fmt: skip
    return BleedRecipe("Bleeders cold, then warm", (*cold, *TANK.steps))


def shipped_recipes(layout: Layout) -> tuple[BleedRecipe, ...]:
    """The generic recipes as they come out for this layout."""
    has_screws = any(row.kind is not BleederKind.PIPE for row in layout.bleeders)
    return (TANK, FUNNEL, *((screws(layout),) if has_screws else ()), AFTER_VACUUM, ELECTRONICS)


def recipe_for(layout: Layout, equipment: Equipment, *, vacuum: bool = False) -> BleedRecipe:
    """The loop's own recipe; without one the generic recipe that its build asks for."""
    if equipment.bleed is not None:
        return equipment.bleed
    if any(node.kind is NodeKind.ELECTRONICS for node in layout.nodes):
        return ELECTRONICS
    if vacuum:
        return AFTER_VACUUM
    if any(row.kind is not BleederKind.PIPE for row in layout.bleeders):
        return screws(layout)
    return FUNNEL if equipment.tank in (TankKind.OVERFLOW, TankKind.NONE, TankKind.CATCH) else TANK
