"""Instruments that a depot may begin with, by kind and scale. instruments.toml has the rows."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from temper_core.instruments.kinds import InstrumentKind, InstrumentSpec
from temper_core.instruments.scales import Scale

SHIPPED = Path(__file__).with_name("instruments.toml")


@dataclass(frozen=True, slots=True)
class StarterInstrument:
    """A sort of instrument, and what is usually engraved on it; source: where that is from."""

    key: str
    name: str
    spec: InstrumentSpec
    source: str


@cache
def starter_instruments() -> tuple[StarterInstrument, ...]:
    """Sorts of instrument, in the order of the list.

    >>> starter_instruments()[0].spec.scale.value
    'freeze_ethylene'
    """
    return tuple(
        StarterInstrument(
            row["key"],
            row["name"],
            InstrumentSpec(
                InstrumentKind(row["kind"]),
                Scale(row["scale"]) if "scale" in row else None,
                row.get("resolution"),
                row.get("compensated", True),
            ),
            row["source"],
        )
        for row in tomllib.loads(SHIPPED.read_text(encoding="utf-8"))["instrument"]
    )
