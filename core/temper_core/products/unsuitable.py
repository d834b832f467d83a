"""Is what is inside right for the loop? The rules of `judge.chemistry`, asked of the filling instead of a product."""

from __future__ import annotations

from dataclasses import replace

from temper_core.products.chemistry import BASE_NAMES, FAMILY_NAMES, Base, Family, Fluid, Form, Product, Requirement
from temper_core.products.compatibility import LOOP_RULES, Reason

AGAINST = 3


def wrong_inside(inside: Fluid, need: Requirement) -> Reason | None:
    """Why the filling does not belong in this loop; None where it does, or where not known what it is."""
    if inside.base is None or inside.family is None:
        return None
    if not need.families:  # whether a filling meets a standard cannot be seen
        need = replace(need, standards=())
    glycol = 0.0 if inside.base is Base.NONE else 95.0
    ready = inside.base is Base.NONE or inside.family is Family.LOW_CONDUCTIVITY
    form = Form.READY_MIX if ready else Form.CONCENTRATE
    filling = Product("inside", "inside", inside.base, inside.family, form, glycol)
    against = [reason for rule in LOOP_RULES for reason in rule(filling, need) if reason.weight == AGAINST]
    if not against:
        return None
    name = f"{FAMILY_NAMES[inside.family]}, {BASE_NAMES[inside.base]}"
    why = against[0]
    return Reason(f"wrong_inside_{why.code}", f"The wrong coolant is inside ({name}): {_lower(why.sentence)}", AGAINST)


def _lower(sentence: str) -> str:
    return sentence[0].lower() + sentence[1:]
