"""What a refractometer's field of view looks like: the marks of its scale, even in refractive index.

Degrees crowd together towards the cold, because a freeze point falls ever faster with the index.
"""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.instruments.scales import FACTS, Scale, mark
from temper_core.science import COLDEST_TARGET_C

# fmt: off
# one step of the table, and the far end drawn; nearer steps would not show on a screen
_DRAWN: dict[Scale, tuple[float, float]] = {
    Scale.FREEZE_ETHYLENE: (-1.0, COLDEST_TARGET_C[Scale.FREEZE_ETHYLENE.glycol]),  # type: ignore[index]
    Scale.FREEZE_PROPYLENE: (-1.0, COLDEST_TARGET_C[Scale.FREEZE_PROPYLENE.glycol]),  # type: ignore[index]
    Scale.BRIX: (1.0, 60.0),
    Scale.REFRACTIVE_INDEX: (0.002, 1.443),
    Scale.STRENGTH_ETHYLENE: (2.0, 80.0),
    Scale.STRENGTH_PROPYLENE: (2.0, 80.0),
}
# fmt: on


@dataclass(frozen=True, slots=True)
class EyepieceMark:
    """A value on the scale and its refractive index."""

    value: float
    index: float


def eyepiece(scale: Scale) -> tuple[EyepieceMark, ...]:
    """Marks from water to the far end, both included; empty for a scale that nobody looks at through an eyepiece.

    >>> [round(m.index, 4) for m in eyepiece(Scale.BRIX)[::30]]
    [1.333, 1.3811, 1.4419]
    """
    if scale not in _DRAWN:
        return ()
    step, end = _DRAWN[scale]
    start, count = FACTS[scale].water, round((end - FACTS[scale].water) / step)
    values = [round(start + i * step, 6) for i in range(count)] + [end]
    return tuple(EyepieceMark(value, mark(scale, value)) for value in values)
