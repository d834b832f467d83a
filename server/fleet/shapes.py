"""What the fleet API gives."""

from __future__ import annotations

from datetime import datetime

from config.boundary import Answer


class MachineOut(Answer):
    """A machine, as shown."""

    id: int
    fleet_number: str
    kind: str
    description: str


class LoopCard(Answer):
    """A loop in the list of machines. open: it has a job in work."""

    id: int
    name: str
    capacity_l: float
    open: bool
    last_freeze_c: float | None
    last_signed_at: datetime | None


class MachineCard(Answer):
    """A machine in the list."""

    machine: MachineOut
    loops: list[LoopCard]


class Machines(Answer):
    """The depot's machines."""

    machines: list[MachineCard]
