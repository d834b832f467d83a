"""A machine as it is taken in, worked out to its loops: on a server as in a browser without a network. No Django in here."""

from __future__ import annotations

import re
from dataclasses import dataclass
from uuid import UUID, uuid5

from fleet.schemas import GenericOut, Generics, KindIn, LoopIn, MachineIn, MachineKindOut, MachineKinds, OwnerIn
from temper_core.basis.errors import CoreError, under
from temper_core.job.loop import CapacitySource, Loop
from temper_core.machine.circuit import Layout
from temper_core.machine.equipment import Equipment
from temper_core.machine.layouts import GENERIC, generic_equipment, generic_layout
from temper_core.products.chemistry import Fluid, Requirement
from temper_core.starter.machine_kinds import machine_kind, machine_kinds

FEWEST_DIGITS = 3
_EMAIL = re.compile(r"[^@\s]+@[^@\s]+\.[^@\s.]+")  # only a letter sent there proves more
ONE_WAY = "Say its kind, or a loop, or the machine it is like: one of them."


@dataclass(frozen=True, slots=True)
class NewLoop:
    """A loop to be: as it is entered, with its layout and equipment, and how well its capacity is known."""

    given: LoopIn
    position: int
    layout: Layout
    equipment: Equipment
    capacity_sd_l: float | None = None
    capacity_note: str = ""

    def uuid(self, machine: UUID) -> UUID:
        """What it is known by: whoever takes the machine in knows it before anybody else does."""
        return uuid5(machine, str(self.position))

    def core(self, pk: str, built: int | None, coldest_c: float, altitude_m: float) -> Loop:
        """As the core knows it, at a depot so cold and so high."""
        given = self.given
        return Loop(
            id=pk,
            name=given.name,
            capacity_l=given.capacity_l,
            capacity_source=given.capacity_source,
            layout=self.layout,
            need=Requirement(
                families=tuple(given.maker_families),
                standards=tuple(given.maker_standards),
                stated_in=given.maker_stated_in,
                materials=tuple(given.materials),
                glycol_forbidden=given.glycol_forbidden,
                low_conductivity=given.low_conductivity,
                use=given.use,
            ),
            coldest_c=given.coldest_c if given.coldest_c is not None else coldest_c,
            cap_gauge_kpa=given.cap_gauge_kpa,
            capacity_sd_l=self.capacity_sd_l,
            equipment=self.equipment,
            altitude_m=altitude_m,
            built=built,
            high_voltage=given.high_voltage is not False,
            believed=Fluid(given.believed_base, given.believed_family, given.believed_strength_percent),
        )


def check_named(fleet_number: str, kind: str) -> str:
    """The fleet number, trimmed; refuses a machine nobody could find."""
    for name, text in (("fleet_number", fleet_number), ("kind", kind)):
        if not text.strip():
            raise CoreError(name, f"The {name.replace('_', ' ')} is empty. Enter it.", "required")
    return fleet_number.strip()


def owner_said(given: OwnerIn | None) -> OwnerIn | None:
    """An owner as they are kept, trimmed; None where nothing is said. Raises CoreError for what cannot be."""
    if given is None:
        return None
    name, telephone, email = (" ".join(text.split()) for text in (given.name, given.telephone, given.email))
    if not (name or telephone or email):
        return None
    if not name:
        raise CoreError("owner.name", "The owner has no name. Enter it, or leave all three empty.", "required")
    if telephone and len(re.sub(r"\D", "", telephone)) < FEWEST_DIGITS:
        raise CoreError(
            "owner.telephone", f"'{telephone}' is no telephone number. Correct it, or leave it empty.", "telephone"
        )
    if email and not _EMAIL.fullmatch(email):
        raise CoreError("owner.email", f"'{email}' is no e-mail address. Correct it, or leave it empty.", "email")
    return OwnerIn(name=name, telephone=telephone, email=email)


def check_one_way(given: MachineIn) -> None:
    """Raises CoreError where a machine is described in no way, or in two."""
    if sum(way is not None for way in (given.of_kind, given.loop, given.copy_of)) != 1:
        raise CoreError("loop", ONE_WAY, "one_of_them")


def new_loop(given: LoopIn, position: int = 1) -> NewLoop:
    """A loop from a generic layout for its capacity; raises CoreError for what cannot be."""
    layout = generic_layout(given.layout, given.capacity_l)
    return NewLoop(given, position, layout, given.equipment or generic_equipment(given.layout))


def loops_of_kind(given: KindIn) -> list[NewLoop]:
    """The loops that a kind usually has; what is said of the coolant and the capacity is of the first. Raises CoreError."""
    kind = machine_kind(given.key)
    if given.capacity_l is not None and given.capacity_source is CapacitySource.KIND:
        raise CoreError("of_kind.capacity_source", "Say where the capacity is from: measured, manual or memory.", "required")
    if given.capacity_l is None and given.capacity_source is not CapacitySource.KIND:
        raise CoreError("of_kind.capacity_l", "The capacity is missing. Enter it, or say that it is not known.", "required")
    loops = []
    for position, usual in enumerate(kind.loops, 1):
        said = position == 1 and given.capacity_l is not None
        with under("of_kind"):
            made = new_loop(
                LoopIn(
                    name=usual.name,
                    layout=usual.layout,
                    capacity_l=given.capacity_l if said and given.capacity_l is not None else usual.capacity_l,
                    capacity_source=given.capacity_source if said else CapacitySource.KIND,
                    materials=list(usual.materials),
                    low_conductivity=usual.use is not None,
                    use=usual.use,
                    high_voltage=given.high_voltage,
                    believed_base=given.believed_base if position == 1 else None,
                    believed_family=given.believed_family if position == 1 else None,
                ),
                position,
            )
        if not said:
            note = f"usual for {kind.name.lower()}: {usual.low_l:g} to {usual.high_l:g} L"[:160]
            made = NewLoop(made.given, position, made.layout, made.equipment, usual.sd_l, note)
        loops.append(made)
    return loops


def generics(capacity_l: float) -> Generics:
    """Generic layouts to start from, drawn for a capacity."""
    shown = []
    for row in GENERIC:
        layout = generic_layout(row.key, capacity_l)
        shown.append(GenericOut(key=row.key, name=row.name, says=row.says, layout=layout, room_l=layout.room_l))
    return Generics(layouts=shown)


def kinds() -> MachineKinds:
    """Kinds with their usual loops and litres."""
    return MachineKinds(kinds=[MachineKindOut.model_validate(kind, from_attributes=True) for kind in machine_kinds()])
