"""How the record tells the chosen product and the accepted mix."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.job.mix.facts import Planned


def planned(facts: Planned) -> Message:
    if facts.concentrate_l is None:
        return say("chosen", "Coolant: {product}", product=facts.product.name)
    words = "Mix accepted: {product_l} {product} + {water_l} water"
    values = {"product_l": facts.concentrate_l, "water_l": facts.water_l or 0.0}
    mix = say("mix", words, product=facts.product.name, **values)
    if facts.target_freeze_c is None:
        return mix
    return join("planned", [mix, say("target", "to {target_c:0}", target_c=facts.target_freeze_c)])
