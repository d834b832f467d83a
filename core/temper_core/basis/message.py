"""One sentence with its figures as data, so that screen, job sheet and API say the same in any unit.

A placeholder's name carries its unit: `_c` degrees Celsius, `_k` a difference of temperature, `_l` litres,
`_percent` percent, `_kpa` kilopascals, `_km` kilometres; anything else is a word. A format of one digit is
the number of decimals (1 if left out). A name that begins with `safe` is a claim of protection: rounded to the warm side.
"""

from __future__ import annotations

import math
import re
import string
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

MINUS = "\N{MINUS SIGN}"
_UNITS = {"_c": " °C", "_k": " °C", "_l": " L", "_percent": " %", "_kpa": " kPa", "_km": " km"}


WITHIN = 0.01  # of a degree: what is solved for lands so near its target, and nobody can measure it


def warm_side(degrees: float, decimals: int) -> float:
    """What something protects to, never rounded to the cold side.

    >>> warm_side(-19.6, 0), warm_side(-19.999, 0)
    (-19.0, -20.0)
    """
    steps: int = math.ceil((degrees - WITHIN) * 10**decimals)
    return steps / float(10**decimals)


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
    'Reads −44.6 °C, 0.4 °C from −45 °C.'
    """
    parts = []
    for literal, name, decimals, _ in string.Formatter().parse(template):
        parts.append(literal)
        if name is not None:
            parts.append(_shown(name, values[name], int(decimals) if decimals else 1))
    figures = {name: value if isinstance(value, str) else float(value) for name, value in values.items()}
    return Message(code, "".join(parts), template, figures)


def join(code: str, parts: Iterable[Message], between: str = ", ") -> Message:
    """Messages as one, in order; placeholders are renamed apart.

    >>> join("in", [say("a", "{in_l} new", in_l=2.0), say("b", "{in_l} water", in_l=1.0)], " + ").sentence
    '2.0 L new + 1.0 L water'
    """
    templates, values = [], {}
    for number, part in enumerate(parts):
        template = part.template
        for name, value in part.values.items():
            apart = _apart(name, number)
            template = re.sub(rf"{{{name}(?=[:}}])", f"{{{apart}", template)
            values[apart] = value
        templates.append(template)
    return say(code, between.join(templates), **values)


def _apart(name: str, number: int) -> str:
    """A placeholder's name for the n-th part; its unit stays at the end, and what begins it at the beginning."""
    suffix = next((suffix for suffix in _UNITS if name.endswith(suffix)), "")
    return f"{name.removesuffix(suffix)}{number}{suffix}"


def capitalised(words: str) -> str:
    """Words as they begin a sentence; the rest stays as it is."""
    return words[:1].upper() + words[1:]


def _shown(name: str, value: float | str, decimals: int) -> str:
    if isinstance(value, str):
        return value
    unit = next((u for suffix, u in _UNITS.items() if name.endswith(suffix)), "")
    if name.startswith("safe"):  # how far it protects is never rounded to the cold side
        value = warm_side(value, decimals)
    rounded = round(float(value), decimals) + 0.0  # no minus sign on a rounded zero
    return f"{rounded:.{decimals}f}{unit}".replace("-", MINUS)
