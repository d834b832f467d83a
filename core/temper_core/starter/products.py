"""What a depot may begin its list of products with: coolants by what a label states, cleaners, waters. products.toml."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from temper_core.products.agents import AgentKind
from temper_core.products.chemistry import Base, Family, Form
from temper_core.products.water import WaterKind

SHIPPED = Path(__file__).with_name("products.toml")


@dataclass(frozen=True, slots=True)
class StarterCoolant:
    """A sort of coolant. sizes_l: usual containers [l]; source: where this is from."""

    key: str
    name: str
    base: Base
    family: Family
    form: Form
    standards: tuple[str, ...]
    sizes_l: tuple[float, ...]
    source: str


@dataclass(frozen=True, slots=True)
class StarterWater:
    """A sort of water; its analysis is nobody's yet."""

    key: str
    name: str
    kind: WaterKind
    source: str


@dataclass(frozen=True, slots=True)
class StarterAgent:
    """A sort of cleaner or additive, without a figure: those are on the label."""

    key: str
    name: str
    kind: AgentKind
    source: str


@cache
def _rows() -> dict[str, list[dict[str, object]]]:
    return tomllib.loads(SHIPPED.read_text(encoding="utf-8"))


@cache
def starter_coolants() -> tuple[StarterCoolant, ...]:
    """Sorts of coolant, in the order of the list.

    >>> starter_coolants()[0].form.value
    'concentrate'
    """
    return tuple(
        StarterCoolant(
            str(row["key"]),
            str(row["name"]),
            Base(str(row["base"])),
            Family(str(row["family"])),
            Form(str(row["form"])),
            tuple(row["standards"]),  # type: ignore[arg-type]
            tuple(row["sizes_l"]),  # type: ignore[arg-type]
            str(row["source"]),
        )
        for row in _rows()["coolant"]
    )


@cache
def starter_waters() -> tuple[StarterWater, ...]:
    """Sorts of water.

    >>> starter_waters()[0].kind.value
    'demineralised'
    """
    return tuple(
        StarterWater(str(row["key"]), str(row["name"]), WaterKind(str(row["kind"])), str(row["source"]))
        for row in _rows()["water"]
    )


@cache
def starter_agents() -> tuple[StarterAgent, ...]:
    """Sorts of cleaners and additives.

    >>> starter_agents()[0].kind.value
    'cleaner'
    """
    return tuple(
        StarterAgent(str(row["key"]), str(row["name"]), AgentKind(str(row["kind"])), str(row["source"]))
        for row in _rows()["agent"]
    )
