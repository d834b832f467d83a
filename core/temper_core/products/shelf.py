"""What stands on the shelf: cans, drums and containers, and how much is left in one after what was taken."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.products.agents import Agent
from temper_core.products.chemistry import Product

JUG_SD, COUNT_SD = 0.03, 0.05  # of what is poured, of what a can holds when it is looked into; common practice, no source
LARGEST_CAN_L = 1500.0


class CanKind(StrEnum):
    """What it holds."""

    COOLANT = "coolant"
    AGENT = "agent"
    WATER = "water"
    RECOVERED = "recovered"


CAN_KIND_NAMES = {
    CanKind.COOLANT: "coolant",
    CanKind.AGENT: "cleaner or additive",
    CanKind.WATER: "mixing water",
    CanKind.RECOVERED: "recovered coolant",
}


@dataclass(frozen=True, slots=True)
class Can:
    """One container by its number, as it was when somebody took from it.

    product: the coolant in it; recovered coolant is a ready-mix of its own strength. since: when recovered coolant first
    went into a loop, None where nobody knows. agent: the name of the cleaner or additive in it.
    loop_id: where recovered coolant came out of, empty where nobody said.
    """

    id: str
    number: str
    kind: CanKind
    product: Product | None = None
    lot: str = ""
    since: date | None = None
    agent: str = ""
    loop_id: str = ""


@dataclass(frozen=True, slots=True)
class Taken:
    """Litres that came out of one container."""

    can: Can
    litres: float

    def __post_init__(self) -> None:
        check_between("litres", self.litres, 0.001, LARGEST_CAN_L, "L", "Litres that came out of this container.")


@dataclass(frozen=True, slots=True)
class Left:
    """Litres left in a container and their standard deviation. over: more was taken than was counted."""

    litres: float
    sd: float
    over: bool


def left_in(counted_l: float, taken: Sequence[float]) -> Left:
    """What is left of what was counted [l], after litres taken since; never raises.

    >>> left_in(20.0, [5.0, 2.5]).litres
    12.5
    """
    left = counted_l - sum(taken)
    sd = math.sqrt((COUNT_SD * counted_l) ** 2 + sum((JUG_SD * litres) ** 2 for litres in taken))
    return Left(max(0.0, left), sd, left < -2 * sd)


def cans_of(taken: Sequence[Taken]) -> str:
    """The containers by their numbers and lots, as the record tells them."""
    return ", ".join(row.can.number + (f" (lot {row.can.lot})" if row.can.lot else "") for row in taken)


def check_taken(taken: Sequence[Taken], product: Product | None, product_l: float, water_l: float) -> None:
    """No more came out of containers than went in, and out of none that holds another coolant; raises CoreError."""
    for n, row in enumerate(taken):
        holds = row.can.product
        if row.can.kind is CanKind.COOLANT and (product is None or holds is None or holds.id != product.id):
            words = f"{row.can.number} holds another coolant. Scan the can in your hand, or choose the coolant that went in."
            raise CoreError(f"taken.{n}.can", words, "other_coolant")
        if row.can.kind is CanKind.RECOVERED and (holds is None or product != holds):
            words = f"{row.can.number} holds recovered coolant. Read its strength, then pour it as a pour of its own."
            raise CoreError(f"taken.{n}.can", words, "recovered")
        if row.can.kind is CanKind.AGENT:
            raise CoreError(f"taken.{n}.can", f"{row.can.number} holds no coolant. Scan the can in your hand.", "no_coolant")
    _check_most(taken, product_l + water_l)


def check_agent_taken(taken: Sequence[Taken], agent: Agent | None, agent_l: float) -> None:
    """A cleaner or an additive comes out of its own containers, and no more than went in; raises CoreError."""
    for n, row in enumerate(taken):
        if row.can.kind is not CanKind.AGENT or agent is None or row.can.agent not in ("", agent.name):
            words = f"{row.can.number} does not hold {agent.name if agent else 'a cleaner'}. Scan the can in your hand."
            raise CoreError(f"taken.{n}.can", words, "other_agent")
    _check_most(taken, agent_l)


def _check_most(taken: Sequence[Taken], most: float) -> None:
    whole = sum(row.litres for row in taken)
    if whole > most * 1.001 + 0.01:
        words = f"{whole:g} L out of containers is more than the {most:g} L that went in. Check the litres."
        raise CoreError("taken", words, "more_than_poured")
