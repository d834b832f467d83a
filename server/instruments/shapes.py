"""What the instruments API takes and gives."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from config.boundary import Answer, Body, Number
from temper_core.judge.zero import ZeroState
from temper_core.reading import Scale


class InstrumentOut(Answer):
    """An instrument; resolution: one division; zero as water last read, both in the scale's unit.

    state: its zero by its checks; in_doubt: readings since the last good zero, while it is not good.
    """

    id: int
    name: str
    scale: Scale
    resolution: float
    zero: float
    zeroed_at: datetime | None
    state: ZeroState
    in_doubt: int


class Instruments(Answer):
    """The depot's instruments."""

    instruments: list[InstrumentOut]


class ZeroIn(Body):
    """What demineralised water reads now, in the scale's unit; adjusted: it was then set to zero. id is the client's."""

    id: UUID | None = None
    zero: Number
    water_c: Number = 20.0
    adjusted: bool = False
