"""The entries that the jobs API takes, made from the core's kinds of entry: one schema per kind that a person records.

A schema has the fields of the kind's facts. What stands in the depot's lists is named by its number there: `product` is
`product_id`, and so on; `jobs.entry_facts` writes it in as it is then.
"""

from __future__ import annotations

import types
from collections.abc import Iterable, Mapping
from dataclasses import MISSING, Field, fields, is_dataclass
from datetime import datetime
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints
from uuid import UUID

from pydantic import Field as Limits
from pydantic import create_model

from config.shapes import Body, Litres, Number
from temper_core.job.drain.facts import Caught
from temper_core.job.entries import Acknowledged, Voided
from temper_core.job.entry_kind import EntryKind
from temper_core.job.fill.facts import Poured
from temper_core.job.flush.facts import RoundFilled, VesselRinsed
from temper_core.job.kinds import REGISTRY
from temper_core.job.open.facts import GateObserved
from temper_core.job.read.facts import Instrument, Read
from temper_core.machine.bleeding import BleedRecipe
from temper_core.products.agents import Agent
from temper_core.products.chemistry import Product
from temper_core.products.shelf import Can
from temper_core.products.water import WaterKind

Text = Annotated[str, Limits(max_length=500)]
Key = Annotated[str, Limits(max_length=80)]
Figures = Annotated[str, Limits(max_length=4000)]
MOST_ROWS = 40
NUMBERED = {Product: "product_id", Agent: "agent_id", Instrument: "instrument_id", Can: "can_id"}
_AS_THEY_ARE = (BleedRecipe,)
_TEXTS = ("note", "reason", "text", "no_leak_proof", "said")  # what a person writes; any other is a name or a key
_LITRES = ("litres", "by_vessel")  # maps of litres, by vessel
# asked for where the core has a default, or named by a source of the depot's list
_INSTEAD: dict[type[Any], dict[str, tuple[Any, Any] | None]] = {
    Caught: {"at_c": (Number | None, None)},
    Read: {"sample_c": (Number | None, None)},
    RoundFilled: {"water": (WaterKind | None, None), "water_id": (int | None, None), "solids_mg_l": None},
    VesselRinsed: {"water": (WaterKind | None, None), "water_id": (int | None, None), "solids_mg_l": None},
    Poured: {
        "product_l": (Litres | None, None),
        "water_l": (Litres | None, None),
        "mixture_l": (Litres | None, None),
        "product_share": (Number | None, None),
        "water_id": (int | None, None),
        "solids_mg_l": None,
        "source": None,
    },
    GateObserved: {"isolated_by": None},  # the name is joined when it is read
    Acknowledged: {"entry_id": (UUID, ...)},
    Voided: {"entry_id": (UUID, ...)},
}


class EntryBase(Body):
    """What every entry has: the client's id, and when it happened (now if left out)."""

    id: UUID
    happened_at: datetime | None = None
    if TYPE_CHECKING:
        kind: str
        facts: Any


def _shown(name: str, hint: Any) -> Any:
    """A field's type in a schema: numbers strict, litres with their unit, texts and lists of bounded length."""
    origin, args = get_origin(hint), get_args(hint)
    if origin in (Union, types.UnionType):
        return Union[tuple(_shown(name, part) for part in args)]  # noqa: UP007 (made at run time)
    if origin is tuple:
        rows = types.GenericAlias(list, (_shown(name, args[0]),))
        return Annotated[rows, Limits(max_length=MOST_ROWS)]
    if origin is not None and issubclass(origin, Mapping):
        if get_origin(args[1]) is tuple:
            return types.GenericAlias(dict, (Key, _shown(name, args[1])))
        return types.GenericAlias(dict, (Key, Litres if name in _LITRES else Number))
    if hint is float:
        return Litres if name.endswith("_l") else Number
    if hint is str:
        return Text if name in _TEXTS else Figures if name == "figures" else Key
    if isinstance(hint, type) and is_dataclass(hint) and hint not in _AS_THEY_ARE:
        return schema_of(f"{hint.__name__}In", hint)
    return hint


def _numbered(hint: Any) -> tuple[str, Any] | None:
    """The name and type of a field that stands for a row of the depot's lists."""
    parts = get_args(hint) or (hint,)
    kind = next((part for part in parts if part in NUMBERED), None)
    if kind is None:
        return None
    return NUMBERED[kind], (int | None if type(None) in parts else int)


def _default(row: Field[Any]) -> Any:
    if row.default is not MISSING:
        return row.default
    return ... if row.default_factory is MISSING else row.default_factory()


@lru_cache(maxsize=256)
def schema_of(name: str, facts: Any) -> type[Body]:
    """A request's schema with the fields of a dataclass."""
    hints, instead = get_type_hints(facts), _INSTEAD.get(facts, {})
    shown: dict[str, Any] = {}
    for row in fields(facts):
        if row.name in instead:
            continue
        numbered = _numbered(hints[row.name])
        field, hint = numbered or (row.name, _shown(row.name, hints[row.name]))
        default = _default(row)
        shown[field] = (hint, list(default) if isinstance(default, tuple) else default)
    shown |= {key: value for key, value in instead.items() if value is not None}
    doc = " ".join((facts.__doc__ or "").split())
    return create_model(name, __base__=Body, __doc__=doc, **shown)


def _camel(name: str) -> str:
    return "".join(part.capitalize() for part in name.split("_"))


def entry_schema(kind: EntryKind) -> type[EntryBase]:
    """The schema of one kind of entry."""
    dataclass: Any = kind.facts
    facts = schema_of(f"{_camel(kind.name)}Facts", dataclass)
    doc = kind.name.replace("_", " ")
    named: Any = Literal[kind.name]
    return create_model(f"{_camel(kind.name)}In", __base__=EntryBase, __doc__=doc, kind=(named, ...), facts=(facts, ...))


def any_entry(kinds: Iterable[EntryKind]) -> Any:
    """The union of the kinds that a client records, told apart by their name."""
    return Annotated[
        Union[tuple(entry_schema(kind) for kind in kinds if kind.by_client)],  # noqa: UP007 (made at run time)
        Limits(discriminator="kind"),
    ]


if TYPE_CHECKING:
    AnyEntry = EntryBase
else:
    AnyEntry = any_entry(REGISTRY)


class EntriesIn(Body):
    """Entries that are recorded together or not at all. seen: the last entry the screen had seen.

    between: without a job, between services: a level, a top-up, a reading, a correction to what was signed.
    apart: recorded without a network; each is asked at its own time, among what others recorded until then.
    """

    entries: Annotated[list[AnyEntry], Limits(min_length=1, max_length=12)]
    seen: UUID | None = None
    between: bool = False
    apart: bool = False
