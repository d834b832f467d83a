"""What a label leaves unsaid, and how unsure Temper is of a product then."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.policy import Policy
from temper_core.products.chemistry import Base, Form, Product


@dataclass(frozen=True, slots=True)
class Usual:
    """Glycol of a product whose label does not state it [% by mass]: what is usual, and its standard deviation."""

    percent: float
    sd_percent: float
    source: str


# concentrates are sold from about 90 to 97 % by mass, ready-mixes from about 40 to 60 %: half the width over the square
# root of 3, as for a figure that may lie anywhere between
USUAL_GLYCOL: dict[Form, Usual] = {
    Form.CONCENTRATE: Usual(93.5, 2.0, "from memory: about 90 to 97 % by mass are sold"),
    Form.READY_MIX: Usual(51.0, 6.0, "from memory: about 40 to 60 % by mass are sold"),
}


def usual_glycol(base: Base, form: Form) -> Usual:
    """What a product holds whose label does not say; nothing without a glycol base.

    >>> usual_glycol(Base.ETHYLENE, Form.CONCENTRATE).percent
    93.5
    """
    return USUAL_GLYCOL[form] if base.glycol is not None else Usual(0.0, 0.0, "no glycol")


def product_sd_percent(product: Product | None, policy: Policy) -> float:
    """Standard deviation of the glycol in a product [% by mass]: a data sheet's, wider where its label does not state it.

    None: a product that is not known more closely.
    """
    stated = policy["product_sd"]
    if product is None or product.glycol_sd_percent is None:
        return stated
    return max(stated, product.glycol_sd_percent)
