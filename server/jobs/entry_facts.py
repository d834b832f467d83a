"""From the API's schemas to the core's facts: products, instruments, waters are written in as they are now.

No Django in here: whoever keeps the depot's lists (a database, a browser) gives them as DepotRows.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass
from typing import Any, Protocol, get_args, get_type_hints
from uuid import UUID

from pydantic import BaseModel

from jobs.entry_schemas import NUMBERED, EntryBase
from temper_core.basis.errors import CoreError, under
from temper_core.calculate.mix import split_mixture
from temper_core.instruments import InstrumentKind
from temper_core.job.fact import Fact
from temper_core.job.fill.facts import Water
from temper_core.job.flush.facts import Method
from temper_core.job.kinds import REGISTRY
from temper_core.job.read.facts import Instrument
from temper_core.products.agents import Agent
from temper_core.products.chemistry import Product
from temper_core.products.shelf import Can, CanKind
from temper_core.products.water import WaterJudged, WaterKind, WaterVerdict


@dataclass(frozen=True, slots=True)
class ListedInstrument:
    """An instrument as it is now. core None: it reads no strength; zero: what demineralised water last read on it."""

    name: str
    kind: InstrumentKind
    core: Instrument | None
    zero: float


@dataclass(frozen=True, slots=True)
class ListedWater:
    """A water source as it is now, and whether it may go into a mix."""

    name: str
    kind: WaterKind
    solids_mg_l: float | None
    judged: WaterJudged


class DepotRows(Protocol):
    """Rows of a depot's lists by their number, as they are now; each raises NotFound where there is none."""

    def product(self, pk: int) -> Product:
        """A coolant."""

    def agent(self, pk: int) -> Agent:
        """A cleaner or an additive."""

    def can(self, pk: int) -> Can:
        """A container on the shelf."""

    def instrument(self, pk: int) -> ListedInstrument:
        """An instrument."""

    def water(self, pk: int) -> ListedWater:
        """A water source."""


def facts_of(given: EntryBase, rows: DepotRows) -> Fact:
    """The facts of an entry as the core keeps them; raises CoreError for what cannot be, NotFound for an unknown number."""
    facts, complete = REGISTRY.named(given.kind).facts, _COMPLETED.get(given.kind)
    asked = complete(given.facts, rows) if complete is not None else {}
    return facts(**_values(facts, given.facts, rows) | asked)


def _values(facts: type[Any], given: BaseModel, depot: DepotRows) -> dict[str, Any]:
    """Values of a dataclass's fields out of a request; what was not given and has a default is left out."""
    values: dict[str, Any] = {}
    hints = get_type_hints(facts)
    for row in fields(facts):
        parts = get_args(hints[row.name]) or (hints[row.name],)
        number = next((NUMBERED[part] for part in parts if part in NUMBERED), None)
        if number is not None:
            values[row.name] = _row(number, getattr(given, number), depot)
        elif row.name in type(given).model_fields:
            with under(row.name):
                values[row.name] = _plain(getattr(given, row.name), parts, depot)
    return values


def _plain(value: Any, hints: tuple[Any, ...], depot: DepotRows) -> Any:
    """Lists as tuples, nested bodies as the dataclasses they stand for, ids as text."""
    if isinstance(value, list):
        rows = []
        for at, row in enumerate(value):
            with under(str(at)):
                rows.append(_plain(row, hints, depot))
        return tuple(rows)
    if isinstance(value, BaseModel):
        kind = next(hint for hint in hints if is_dataclass(hint))
        values = _values(kind, value, depot)  # type: ignore[arg-type]
        if values.get("at_c", 0.0) is None:
            if values.get("marks_l") is not None:
                raise CoreError("at_c", "The fluid temperature is missing. Litres by marks need it.", "required")
            values.pop("at_c")
        return kind(**values)  # type: ignore[operator]
    if isinstance(value, dict):
        return {key: tuple(row) if isinstance(row, list) else row for key, row in value.items()}
    return str(value) if isinstance(value, UUID) else value


def _row(number: str, pk: int | None, depot: DepotRows) -> Any:
    """A row of the depot's lists as it is now."""
    if pk is None:
        return None
    if number == "instrument_id":
        return depot.instrument(pk).core
    if number == "can_id":
        return depot.can(pk)
    return depot.product(pk) if number == "product_id" else depot.agent(pk)


def _water(given: Any, depot: DepotRows) -> dict[str, Any]:
    """Kind and residue of the water: of the source, where one is named."""
    if given.water_id is None:
        if given.water is None and given.method is not Method.BLOW_OUT:
            raise CoreError("water", "The water is missing. Choose demineralised, tap or softened.", "required")
        return {"water": given.water or WaterKind.DEMINERALISED, "solids_mg_l": None}
    water = depot.water(given.water_id)
    return {"water": water.kind, "solids_mg_l": water.solids_mg_l}


def _mixing_water(given: Any, depot: DepotRows) -> dict[str, Any]:
    """A water of the depot that goes into a mix: its analysis passes, or it is refused with the reason."""
    if given.water_id is None:
        return {}
    water = depot.water(given.water_id)
    if water.judged.verdict is not WaterVerdict.FIT:
        why = " ".join(said.sentence for said in water.judged.reasons)
        message = f"{water.name} does not go into a mix. {why} Use demineralised water; if it went in already, choose tap."
        if water.kind is WaterKind.SOFTENED:
            message = f"{water.name} does not go into a loop. {why} Use demineralised water."
        raise CoreError("water_id", message, "unfit_water")
    kind = Water.DEMINERALISED if water.kind is WaterKind.DEMINERALISED else Water.TAP
    return {"water": kind, "solids_mg_l": water.solids_mg_l, "source": water.name}


def _reading(given: Any, depot: DepotRows) -> dict[str, Any]:
    """Only an instrument that reads strength, with its sample's temperature, and with its own zero where none is sent."""
    sample_c, zero = given.sample_c, given.zero
    if given.instrument_id is not None:
        instrument = depot.instrument(given.instrument_id)
        if instrument.core is None:
            message = f"{instrument.name} reads no strength. Record it at Inspect, or choose a refractometer."
            raise CoreError("instrument_id", message, "no_scale")
        if sample_c is None:
            message = "The sample temperature is missing. Measure it: a reading counts only with it."
            raise CoreError("sample_c", message, "required")
        if zero is None and instrument.kind is not InstrumentKind.STEPS:
            zero = instrument.zero
    return {"sample_c": 20.0 if sample_c is None else sample_c, "zero": zero}


def _recovered(given: Any, depot: DepotRows) -> dict[str, Any]:
    """Recovered coolant goes in as a ready-mix of its own strength: the container says what it is."""
    cans = [depot.can(row.can_id) for row in given.taken]
    can = next((row for row in cans if row.kind is CanKind.RECOVERED), None)
    return {"product": can.product} if can is not None and can.product is not None else {}


def _poured(given: Any, depot: DepotRows) -> dict[str, Any]:
    """Litres of each: as poured, or out of the litres of a mixture and the product's share of it."""
    more = _recovered(given, depot) | _mixing_water(given, depot)
    if given.mixture_l is None:
        return more | {"product_l": given.product_l or 0.0, "water_l": given.water_l or 0.0}
    if given.product_l is not None or given.water_l is not None:
        raise CoreError("mixture_l", "Litres of a mixture and litres of each are given. Send one of the two.", "not_both")
    if given.product_share is None:
        raise CoreError("product_share", "The product share of the mixture is missing. Send 0 for water alone.", "required")
    product_l, water_l = split_mixture(given.mixture_l, given.product_share)
    return {"water": given.water if water_l > 0 else None} | more | {"product_l": product_l, "water_l": water_l}


_COMPLETED: dict[str, Callable[[Any, DepotRows], dict[str, Any]]] = {
    "round_filled": _water,
    "vessels_rinsed": _water,
    "read": _reading,
    "poured": _poured,
}
