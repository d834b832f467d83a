"""One sentence with its figures as data, so that screen, job sheet and API say the same in any unit.

A placeholder's name carries its unit: `_c` degrees Celsius, `_k` a difference of temperature, `_l` litres,
`_percent` percent, `_kpa` kilopascals; anything else is a word. A format of one digit is the number of decimals
(1 if left out). A name that begins with `safe` is a claim of protection: rounded to the warm side.
"""

from __future__ import annotations

import math
import string
from collections.abc import Mapping
from dataclasses import dataclass

MINUS = "\N{MINUS SIGN}"
_UNITS = {"_c": " °C", "_k": " K", "_l": " L", "_percent": " %", "_kpa": " kPa"}


@dataclass(frozen=True, slots=True)
class Message:
    """code for machines, sentence for people (metric), template and values for showing it in other units."""

    code: str
    sentence: str
    template: str
    values: Mapping[str, float | str]


def say(code: str, template: str, **values: float | str) -> Message:
    """Build a Message; raises KeyError for a placeholder without a value.

    >>> say("x", "Reads {freeze_c}, {gap_k} from {target_c:0}.", freeze_c=-44.62, gap_k=0.38, target_c=-45).sentence
    'Reads −44.6 °C, 0.4 K from −45 °C.'
    """
    parts = []
    for literal, name, decimals, _ in string.Formatter().parse(template):
        parts.append(literal)
        if name is not None:
            parts.append(_shown(name, values[name], int(decimals) if decimals else 1))
    figures = {name: value if isinstance(value, str) else float(value) for name, value in values.items()}
    return Message(code, "".join(parts), template, figures)


def capitalised(words: str) -> str:
    """Words as they begin a sentence; the rest stays as it is."""
    return words[:1].upper() + words[1:]


def _shown(name: str, value: float | str, decimals: int) -> str:
    if isinstance(value, str):
        return value
    unit = next((u for suffix, u in _UNITS.items() if name.endswith(suffix)), "")
    if name.startswith("safe"):  # how far it protects is never rounded to the cold side
        value = float(math.ceil(value * 10**decimals - 1e-6)) / 10**decimals
    rounded = round(float(value), decimals) + 0.0  # no minus sign on a rounded zero
    return f"{rounded:.{decimals}f}{unit}".replace("-", MINUS)
