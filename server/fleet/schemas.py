"""What the fleet API gives."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from config.shapes import Answer, Body, Litres, Number
from temper_core.basis.message import Message
from temper_core.job.loop import CapacitySource
from temper_core.machine.bleeding import BleedRecipe
from temper_core.machine.circuit import Layout
from temper_core.machine.equipment import Equipment
from temper_core.products.chemistry import Base, Family, LoopUse, Material


class OwnerOut(Answer):
    """Whom a machine belongs to."""

    uuid: UUID
    name: str
    telephone: str
    email: str


class OwnerIn(Body):
    """Whom a machine belongs to, as they said it; what they did not say stays empty."""

    name: str = Field(max_length=120)
    telephone: str = Field(default="", max_length=40)
    email: str = Field(default="", max_length=254)


class MachineOut(Answer):
    """A machine, as every row shows it."""

    id: int
    fleet_number: str
    kind: str
    description: str
    year: int | None


class MachineListed(MachineOut):
    """A machine, as lists and its own page have it. uuid: what it is known by outside this database.

    unchecked: a technician (taken_in_by_id) took it in, no lead has looked it over. owner_name: whom it belongs to, "" for
    the depot's own.
    """

    uuid: UUID
    unchecked: bool = False
    taken_in_by_id: int | None = None
    owner_name: str = ""


class LoopCard(Answer):
    """A loop in the list of machines. open: it has a job in work; due_on: as the last signed job left it.

    overdue: that day is over by the depot's calendar.
    """

    id: int
    name: str
    capacity_l: float
    open: bool
    last_freeze_c: float | None
    last_signed_at: datetime | None
    due_on: date | None
    overdue: bool


class MachineCard(Answer):
    """A machine in the list."""

    machine: MachineListed
    loops: list[LoopCard]


class Machines(Answer):
    """The depot's machines."""

    machines: list[MachineCard]


class GenericOut(Answer):
    """A layout to start from, drawn for the capacity that was asked for."""

    key: str
    name: str
    says: str
    layout: Layout
    room_l: float | None


class Generics(Answer):
    """Generic layouts."""

    layouts: list[GenericOut]


Name = Annotated[str, Field(max_length=60)]


class _LoopAsks(Body):
    """What a loop asks of its coolant, and what is believed inside. high_voltage null: not known, which counts as yes."""

    capacity_l: Litres
    capacity_source: CapacitySource
    cap_gauge_kpa: Number | None = None
    coldest_c: Number | None = None
    maker_families: list[Family] = []
    maker_standards: list[Name] = []
    maker_stated_in: str = Field(default="", max_length=120)
    materials: list[Material] = []
    glycol_forbidden: bool = False
    low_conductivity: bool = False
    use: LoopUse | None = None
    high_voltage: bool | None = False
    believed_base: Base | None = None
    believed_family: Family | None = None
    believed_strength_percent: Number | None = None


class LoopIn(_LoopAsks):
    """A new loop: a generic layout for its capacity, and what it asks of its coolant.

    equipment: left out, what goes with the layout.
    """

    name: Name = "Engine loop"
    layout: str
    equipment: Equipment | None = None


class LoopSpec(_LoopAsks):
    """All that a lead enters of a loop: capacity, layout, equipment, what the maker asks for, what is believed inside."""

    name: Name
    layout: Layout
    equipment: Equipment


class LoopEdit(Body):
    """A loop as it shall be; seen: when it was last edited, as the screen knew it."""

    spec: LoopSpec
    seen: datetime


class LoopAdd(Body):
    """One more loop on a machine, from a generic layout. id is the client's."""

    id: UUID
    loop: LoopIn


class MachineEdit(Body):
    """A machine as it shall be; seen: when it was last edited, as the screen knew it.

    owner null: the depot's own; left out: as it is.
    """

    fleet_number: str = Field(max_length=16)
    kind: str = Field(max_length=60)
    description: str = Field(default="", max_length=120)
    year: int | None = Field(default=None, ge=1900, le=2100)
    owner: OwnerIn | None = None
    seen: datetime


class LoopDetail(Answer):
    """A loop, as entered. cautions: what follows from it; level: where its level belongs; capacity_note: how it is known.

    usual: its layout is a generic one, nobody entered anything of it.
    """

    id: int
    uuid: UUID
    position: int
    spec: LoopSpec
    edited_at: datetime
    open: bool
    capacity_note: str
    room_l: float | None
    usual: bool
    level: Message
    cautions: list[Message]
    recipes: list[BleedRecipe]


class MachineDetail(Answer):
    """A machine with all that is entered of its loops."""

    machine: MachineListed
    owner: OwnerOut | None
    edited_at: datetime
    loops: list[LoopDetail]


class KindIn(Body):
    """A machine as its kind usually is. capacity_l: of its first loop; null: not known, the range of the kind counts.

    high_voltage: of the whole machine; null: not known, which counts as yes. believed: what is said to be inside.
    """

    key: str = Field(max_length=40)
    capacity_l: Litres | None = None
    capacity_source: CapacitySource = CapacitySource.KIND
    high_voltage: bool | None
    believed_base: Base | None = None
    believed_family: Family | None = None


class MachineKindLoopOut(Answer):
    """One loop of a kind: its layout, and its litres from low to high."""

    name: str
    layout: str
    low_l: float
    high_l: float


class MachineKindOut(Answer):
    """A kind of machine, as usually built. source: where its figures are from."""

    key: str
    name: str
    source: str
    loops: list[MachineKindLoopOut]


class MachineKinds(Answer):
    """MachineKinds of machine, in the order of the form."""

    kinds: list[MachineKindOut]


class MachineIn(Body):
    """A new machine: of a kind, with a loop of its own, or like a sister machine (copy_of), loops and all.

    id is the client's, and what it is known by. apart: taken in without a network: a number that is taken meanwhile gets a
    count behind it instead of a refusal.
    """

    id: UUID
    fleet_number: str = Field(max_length=16)
    kind: str = Field(max_length=60)
    description: str = Field(default="", max_length=120)
    year: int | None = Field(default=None, ge=1900, le=2100)
    of_kind: KindIn | None = None
    loop: LoopIn | None = None
    copy_of: int | None = None
    apart: bool = False
    owner: OwnerIn | None = None


class NamedIn(Answer):
    """Free text that still names an owner: where, and what it says. to: the page that shows it."""

    where: str
    said: str
    to: str


class OwnerDetail(Answer):
    """An owner with their machines, and what stays in free text when they are erased."""

    owner: OwnerOut
    machines: list[MachineListed]
    named_in: list[NamedIn]


class OwnersFound(Answer):
    """Numbers of the machines whose owner was looked for."""

    machine_ids: list[int]


class OwnerErased(Answer):
    """What stays in older free text: to be looked over by whoever erased them."""

    named_in: list[NamedIn]


class MachineAdded(Answer):
    """The machine and its loops, as they are numbered here. fleet_number: as it was taken in."""

    id: int
    loop_ids: list[int]
    fleet_number: str
