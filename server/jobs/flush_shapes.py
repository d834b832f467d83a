"""The entries of flushing, waiting and waste that the jobs API takes: their facts."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from config.boundary import Body, Litres, Number
from temper_core.job.flush.facts import Method, WasteKind
from temper_core.job.waiting.facts import Clock
from temper_core.products.water import WaterKind


class CaughtIn(Body):
    """One container: where (a drain's letter, a vessel, or '' for all together), weighed or by marks, and spills.

    at_c: how warm the fluid was, asked for with marks.
    """

    where: Annotated[str, Field(max_length=40)] = ""
    gross_kg: Number | None = None
    tare_kg: Number = 0.0
    marks_l: Number | None = None
    at_c: Number | None = None
    spilled_l: Number = 0.0


class RoundFilledFacts(Body):
    """Water in for a round. water_id: a source of the catalogue, whose kind and analysis then count; else its kind."""

    method: Method
    water: WaterKind | None = None
    water_id: int | None = None
    fill_l: Litres | None = None
    agent_id: int | None = None
    agent_ml: Number | None = None
    run_min: Number | None = None


class SweptFacts(Body):
    """Water through vessels that run out meanwhile; for a blow-out, what came out of each."""

    method: Method
    litres: dict[Annotated[str, Field(max_length=40)], Litres]
    water: WaterKind | None = None
    water_id: int | None = None
    reversed_first: bool = False
    minutes: Number | None = None


class FlushEndedFacts(Body):
    """It is enough; the reason where the stop rule says it is not."""

    reason: Annotated[str, Field(max_length=500)] = ""


class WasteKeptFacts(Body):
    """Containers filled, lidded, labelled."""

    kind: WasteKind
    litres: Litres
    containers: int = 1
    reuse: bool = False


class ClockStartedFacts(Body):
    """A clock from now."""

    clock: Clock
    minutes: Number


class ClockStoppedFacts(Body):
    """The clock that is done with."""

    entry_id: Annotated[str, Field(max_length=40)]


class TemperatureLoggedFacts(Body):
    """How warm it is."""

    c: Number


class PausedFacts(Body):
    """Put aside, with a word for the next person."""

    note: Annotated[str, Field(max_length=500)] = ""


class ResumedFacts(Body):
    """Taken up again by whoever sends it."""
