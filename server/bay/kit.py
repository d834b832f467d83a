"""What a tablet keeps for work without a network; no Django in here.

answers: what the server last said at addresses that do not change by work in the bay, word for word. loops: the records
that go on being written, with what is needed to work them out.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from pydantic import ConfigDict, TypeAdapter

from catalogue.schemas import AgentOut, ProductOut, WaterOut
from config.shapes import Answer
from fleet.schemas import MachineOut
from jobs.schemas import DraftOut, LoopOut
from jobs.stored import Stored
from people.shown import PersonOut
from temper_core.instruments import InstrumentKind
from temper_core.job.loop import Loop
from temper_core.job.read.facts import Instrument
from temper_core.products.shelf import Can
from temper_core.views.supplies import Stock


class KitInstrument(Answer):
    """An instrument as entries need it. core null: it reads no strength; zero: what demineralised water last read."""

    id: int
    name: str
    kind: InstrumentKind
    core: Instrument | None
    zero: float


class KitDepot(Answer):
    """The depot: its clock's zone, its currency, its rules where they differ from those that ship, its lists."""

    id: int
    name: str
    time_zone: str
    currency: str
    coldest_c: float | None = None
    altitude_m: float = 0.0
    rules: dict[str, float]
    products: list[ProductOut]
    agents: list[AgentOut]
    waters: list[WaterOut]
    instruments: list[KitInstrument]
    cans: list[Can]
    stock: Stock


class KitRow(Answer):
    """One entry as it is stored. facts: as the text that is stored; person: the name."""

    id: UUID
    job_id: UUID | None
    happened_at: datetime
    recorded_at: datetime
    person_id: int
    seq: int
    kind: str
    facts: str
    person: str

    @property
    def stored(self) -> Stored:
        """As rows are read everywhere."""
        return Stored(**dict(self))


class KitLoop(Answer):
    """One loop with its whole record. listed: the newest readings imported from lists, which act on nothing.

    opener, job_opened_at: of the job in work, null where there is none.
    """

    id: int
    loop: dict[str, Any]
    machine: MachineOut
    shown: LoopOut
    rows: list[KitRow]
    listed: list[KitRow]
    opener: int | None
    job_opened_at: datetime | None
    drafts: list[DraftOut]
    in_doubt: list[UUID]

    @property
    def core(self) -> Loop:
        """The loop as the core knows it."""
        return LOOP.validate_python(self.loop)


class Kit(Answer):
    """A person's kit. made_at: by the server's clock; no_judging_after_h: so long without contact nothing new is judged."""

    model_config = ConfigDict(frozen=True)

    made_at: datetime
    no_judging_after_h: float
    person: PersonOut
    people: list[PersonOut]
    depot: KitDepot
    loops: list[KitLoop]
    answers: dict[str, Any]


LOOP: TypeAdapter[Loop] = TypeAdapter(Loop)
