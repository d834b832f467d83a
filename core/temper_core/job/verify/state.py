"""What the readings ask for, and the final check."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.message import Message
from temper_core.job.verify.facts import FinishChecked, FinishPoint


@dataclass(frozen=True, slots=True)
class Cause:
    """Why reading and litres may disagree: what would have to be so, and how far that is from what is believed [sd]."""

    code: str
    name: str
    said: Message
    sds: float


@dataclass(frozen=True, slots=True)
class CorrectionState:
    """From the reading to the target: take out, put in, up to the mark. feasible False: said says why."""

    feasible: bool
    out_l: float
    product_l: float
    water_l: float
    freeze_c: float | None
    said: Message


@dataclass(frozen=True, slots=True)
class FinishRow:
    """One point of the final check, and its name."""

    point: FinishPoint
    name: str


@dataclass(frozen=True, slots=True)
class FinishState:
    """The final check before sign-off. leak_ok None: no hold by value; missing: what is still to be done, in words."""

    level: Message
    points: tuple[FinishRow, ...]
    checked: FinishChecked | None
    leak_ok: bool | None
    missing: tuple[str, ...]
