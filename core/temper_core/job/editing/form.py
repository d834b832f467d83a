"""An entry as a form: every figure, choice and word that somebody may have mistyped, with its name and its unit."""

from __future__ import annotations

import types
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, is_dataclass
from datetime import date
from enum import StrEnum
from typing import Any, Union, get_args, get_origin, get_type_hints

from temper_core.instruments.scales import Scale
from temper_core.job.editing.field_names import FIELD_NAMES
from temper_core.job.editing.outcome import FIXED
from temper_core.job.fact import Fact
from temper_core.job.identify.facts import TOPPED_UP_NAMES, ToppedUp
from temper_core.job.inspect.facts import CHECKS, LOOK_ROWS, SPOT_NAMES, Look, Spot, Tested
from temper_core.job.loop import Loop
from temper_core.job.mix.facts import Planned
from temper_core.job.read.facts import PLACE_NAMES, Listed, Place, Read
from temper_core.products.chemistry import BASE_NAMES, FAMILY_NAMES, Base, Family
from temper_core.products.water import WATER_NAMES, WaterKind


class FieldKind(StrEnum):
    """How a field is typed: quantities in their units, numbers, words, yes or no, one of a few, some of a few, a date."""

    VOLUME = "volume"
    TEMPERATURE = "temperature"
    PRESSURE = "pressure"
    WEIGHT = "weight"
    DISTANCE = "distance"
    NUMBER = "number"
    TEXT = "text"
    FLAG = "flag"
    CHOICE = "choice"
    CHOICES = "choices"
    DATE = "date"


@dataclass(frozen=True, slots=True)
class FieldOption:
    """One of a few: its code, and its name."""

    key: str
    name: str


@dataclass(frozen=True, slots=True)
class EditField:
    """One field of an entry. path: where its value stands in the facts, as `caught.0.gross_kg`.

    value: as stored: litres at 20 degC, degC, kPa, kg, km; None where left empty. unit: of a plain number. optional: may be
    left empty.
    """

    path: str
    name: str
    kind: FieldKind
    value: float | str | bool | tuple[str, ...] | None
    optional: bool
    unit: str = ""
    options: tuple[FieldOption, ...] = ()


_UNITS = {"minutes": "min", "run_min": "min", "hours": "h", "changed_hours": "h", "sediment_mm": "mm", "agent_ml": "ml"}
_UNITS |= {"solids_mg_l": "mg/L"}
_SUFFIXES = {
    "_l": FieldKind.VOLUME,
    "_c": FieldKind.TEMPERATURE,
    "_kpa": FieldKind.PRESSURE,
    "_kg": FieldKind.WEIGHT,
    "_km": FieldKind.DISTANCE,
}
_OF_FIGURES = {"temperature": FieldKind.TEMPERATURE, "pressure": FieldKind.PRESSURE}
_PLAIN = ("solids_mg_l",)  # ends like a volume, is none
_BY_VESSEL = ("by_vessel", "litres")
_OPTIONS: Mapping[type[StrEnum], Mapping[Any, str]] = {
    Base: BASE_NAMES,
    Family: FAMILY_NAMES,
    ToppedUp: TOPPED_UP_NAMES,
    Spot: SPOT_NAMES,
    Look: {look: row.name for look, row in LOOK_ROWS.items()},
    Place: PLACE_NAMES,
    WaterKind: WATER_NAMES,
}
# what decides what the entry is about: not mistyped, but another entry
_NOT_EDITED: Mapping[str, tuple[str, ...]] = {
    "Tested": ("check",),
    "Skipped": ("checks",),
    "JobTypeChosen": ("job_type", "advised"),
    "EngineRun": ("by", "neck_open"),  # what decides whether the safe-to-open check lapsed
    "BleedEnded": ("neck_open",),
    "ClockStarted": ("clock",),
    "ClockStopped": ("entry_id",),
    "Closed": ("points",),
    "BleedStepped": ("step",),
    "Read": ("branch",),
    "Amended": ("entry_id",),
    "Caught": ("where",),
    "GateObserved": ("ready", "isolated_by", "isolated_by_id"),  # who may isolate is asked again: undo it instead
    "ReadyConfirmed": ("ready",),
}

_NESTED = ("Caught", "LeakProof", "Held")
_FORMLESS = frozenset(kind.__name__ for kind in (*FIXED, Planned, Listed))


def edit_form(facts: Fact, loop: Loop) -> tuple[EditField, ...]:
    """The fields of an entry; empty where there is nothing to mistype (undo it instead)."""
    if type(facts).__name__ in _FORMLESS:  # an accepted plan is a reckoning, not an observation
        return ()
    names = {node.id: node.name for node in loop.layout.nodes}
    return tuple(_fields(facts, "", names))


def _fields(facts: Any, path: str, vessels: Mapping[str, str]) -> Iterator[EditField]:
    hints = get_type_hints(type(facts))
    for row in fields(facts):
        if row.name in _NOT_EDITED.get(type(facts).__name__, ()):
            continue
        hint, optional = _without_none(hints[row.name])
        yield from _field(facts, row.name, hint, optional, f"{path}{row.name}", vessels)


def _field(facts: Any, name: str, hint: Any, optional: bool, path: str, vessels: Mapping[str, str]) -> Iterator[EditField]:
    value = getattr(facts, name)
    if get_origin(hint) is tuple and is_dataclass(get_args(hint)[0]):
        for at, row in enumerate(value):
            yield from _within(_fields(row, f"{path}.{at}.", vessels), f"{at + 1}. ")
    elif is_dataclass(hint):
        if value is not None and type(value).__name__ in _NESTED:
            yield from _fields(value, f"{path}.", vessels)
    elif isinstance(facts, Tested) and name == "figures":
        for row in next(row.figures for row in CHECKS if row.check is facts.check):
            if row.key in value:
                kind = _OF_FIGURES.get(row.kind, FieldKind.NUMBER)
                yield EditField(f"{path}.{row.key}", row.name, kind, value[row.key], False, row.unit)
    elif isinstance(value, Mapping):
        for key, figure in value.items():
            kind = FieldKind.VOLUME if name in _BY_VESSEL else FieldKind.NUMBER
            yield EditField(f"{path}.{key}", vessels.get(key, key.replace("_", " ").capitalize()), kind, figure, False)
    elif get_origin(hint) is tuple:
        if issubclass(get_args(hint)[0], StrEnum):
            chosen, options = tuple(str(one) for one in value), _options(get_args(hint)[0])
            yield EditField(path, FIELD_NAMES[name], FieldKind.CHOICES, chosen, True, options=options)
    elif isinstance(hint, type) and issubclass(hint, StrEnum):
        code = None if value is None else str(value)
        yield EditField(path, FIELD_NAMES[name], FieldKind.CHOICE, code, optional, options=_options(hint))
    elif isinstance(facts, Tested) and name == "outcome":
        outcomes = next(row.outcomes for row in CHECKS if row.check is facts.check)
        if outcomes:
            options = tuple(FieldOption(one.key, one.name) for one in outcomes)
            yield EditField(path, FIELD_NAMES[name], FieldKind.CHOICE, value, optional, options=options)
    elif hint in (float, int, str, bool, date):
        kind, unit = _kind(facts, name, hint)
        shown = value.isoformat() if isinstance(value, date) else value
        yield EditField(path, FIELD_NAMES[name], kind, shown, optional or hint is str, unit)


def _within(rows: Iterator[EditField], before: str) -> Iterator[EditField]:
    """Fields of the first, second ... row of a list."""
    for row in rows:
        yield EditField(row.path, before + row.name, row.kind, row.value, row.optional, row.unit, row.options)


def _without_none(hint: Any) -> tuple[Any, bool]:
    if get_origin(hint) in (Union, types.UnionType):
        parts = [part for part in get_args(hint) if part is not type(None)]
        return parts[0], len(parts) < len(get_args(hint))
    return hint, False


def _kind(facts: Any, name: str, hint: Any) -> tuple[FieldKind, str]:
    """How a plain value is typed; a reading is typed on the scale that it was read on."""
    if hint is bool:
        return FieldKind.FLAG, ""
    if hint is str:
        return FieldKind.TEXT, ""
    if hint is date:
        return FieldKind.DATE, ""
    if isinstance(facts, Read) and name in ("value", "zero"):
        degrees = facts.instrument is None or facts.instrument.scale in (Scale.FREEZE_ETHYLENE, Scale.FREEZE_PROPYLENE)
        return (FieldKind.TEMPERATURE if degrees else FieldKind.NUMBER), ""
    if name == "c":
        return FieldKind.TEMPERATURE, ""
    if name == "litres":
        return FieldKind.VOLUME, ""
    if name not in _PLAIN:
        for suffix, kind in _SUFFIXES.items():
            if name.endswith(suffix):
                return kind, ""
    return FieldKind.NUMBER, _UNITS.get(name, "")


def _options(kind: type[StrEnum]) -> tuple[FieldOption, ...]:
    names = _OPTIONS.get(kind, {})
    return tuple(FieldOption(one.value, names.get(one) or one.value.replace("_", " ")) for one in kind)


def unnamed(facts: type[Any]) -> tuple[str, ...]:
    """The fields of a kind's facts that a form would show without a name; for the check of this table."""
    found = []
    for name, given in get_type_hints(facts).items():
        hint, _ = _without_none(given)
        row: Any = get_args(hint)[0] if get_origin(hint) is tuple else hint
        if isinstance(row, type) and is_dataclass(row):
            if row.__name__ in _NESTED:
                found += [f"{name}.{part}" for part in unnamed(row)]
        elif get_origin(hint) not in (tuple, None) or name in _NOT_EDITED.get(facts.__name__, ()):
            continue
        elif name not in FIELD_NAMES and facts.__name__ not in _FORMLESS:
            found.append(name)
    return tuple(found)
