"""Rounds of a flush as they are run, what ends them, and what is done with what came out: the facts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between, under
from temper_core.calculate.mix import LARGEST_LOOP_L
from temper_core.job.fact import Fact
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.shelf import Taken, check_agent_taken
from temper_core.products.water import WaterKind


class Method(StrEnum):
    """How a round is run. The first two fill the loop, run and drain it; the others rinse vessels while they run out."""

    FILL_RUN_DRAIN = "fill_run_drain"
    CLEANER = "cleaner"
    OPEN_RINSE = "open_rinse"
    HOSE_FLOW = "hose_flow"
    PARTS = "parts"
    BLOW_OUT = "blow_out"


METHOD_NAMES = {
    Method.FILL_RUN_DRAIN: "fill, run, drain",
    Method.CLEANER: "cleaner",
    Method.OPEN_RINSE: "rinse through open drains",
    Method.HOSE_FLOW: "hose flow at the heater",
    Method.PARTS: "part by part, reverse flow first",
    Method.BLOW_OUT: "blow out",
}
SWEEPS = frozenset({Method.OPEN_RINSE, Method.HOSE_FLOW, Method.PARTS, Method.BLOW_OUT})


@dataclass(frozen=True, slots=True)
class RoundFilled(Fact):
    """Water in, for a round that is run and drained again.

    fill_l None: to the cold mark. solids_mg_l: what the water's analysis says is left when it dries; None: not analysed.
    agent, agent_ml: the cleaner by its label and how much went in; run_min: how long it is meant to run. taken: out of
    which containers the cleaner came.
    """

    method: Method
    water: WaterKind
    fill_l: float | None = None
    solids_mg_l: float | None = None
    agent: Agent | None = None
    agent_ml: float | None = None
    run_min: float | None = None
    taken: tuple[Taken, ...] = ()

    def __post_init__(self) -> None:
        if self.method in SWEEPS:
            raise CoreError("method", f"'{METHOD_NAMES[self.method]}' fills nothing. Record it as a rinse.", "not_a_fill")
        if self.fill_l is not None:
            check_between("fill_l", self.fill_l, 0.1, LARGEST_LOOP_L, "L", "Litres of water in.")
        _check_solids(self.solids_mg_l)
        check_agent_taken(self.taken, self.agent, (self.agent_ml or 0.0) / 1000)
        if self.method is not Method.CLEANER:
            if self.agent is not None:
                raise CoreError("agent", "A cleaner needs its own method. Choose “cleaner”.", "not_a_cleaner_round")
            return
        if self.agent is None:
            raise CoreError("agent", "The cleaner is missing. Choose one; its label gives amount and limit.", "required")
        if self.agent.kind is not AgentKind.CLEANER:
            raise CoreError("agent", f"{self.agent.name} is not a cleaner. Choose a cleaner.", "not_a_cleaner")
        if self.agent_ml is None:
            raise CoreError("agent_ml", "The amount of cleaner is missing. Enter the ml poured.", "required")
        check_between("agent_ml", self.agent_ml, 1, 250_000, "ml", "Enter the ml poured.")
        if self.run_min is None:
            raise CoreError("run_min", "The run time is missing. Enter it from the label.", "required")
        check_between("run_min", self.run_min, 1, 14_400, "minutes", "As the label says.")
        if self.agent.limit_min is not None and self.run_min > self.agent.limit_min:
            message = f"{self.run_min:g} minutes is over the label's limit of {self.agent.limit_min:g}. Run it shorter."
            raise CoreError("run_min", message, "over_the_limit")


@dataclass(frozen=True, slots=True)
class VesselRinsed(Fact):
    """Water through vessels that run out meanwhile, or for a blow-out what came out of each [l].

    litres: by vessel. reversed_first: against its flow, then with it. minutes: how long, where it was timed.
    """

    method: Method
    litres: Mapping[str, float]
    water: WaterKind = WaterKind.DEMINERALISED
    solids_mg_l: float | None = None
    reversed_first: bool = False
    minutes: float | None = None

    def __post_init__(self) -> None:
        if self.method not in SWEEPS:
            raise CoreError(
                "method", f"'{METHOD_NAMES[self.method]}' fills, runs and drains. Record the fill.", "not_a_sweep"
            )
        if not self.litres:
            raise CoreError("litres", "Vessels are missing. Enter the litres through each.", "required")
        with under("litres"):
            for vessel, litres in self.litres.items():
                check_between(vessel, litres, 0, 100 * LARGEST_LOOP_L, "L", "Litres cannot be negative.")
        _check_solids(self.solids_mg_l)
        if self.minutes is not None:
            check_between("minutes", self.minutes, 0, 1440, "minutes")


def _check_solids(solids_mg_l: float | None) -> None:
    if solids_mg_l is not None:
        check_between("solids_mg_l", solids_mg_l, 0, 50_000, "mg/l", "As on the water's analysis.")


@dataclass(frozen=True, slots=True)
class FlushEnded(Fact):
    """The person's word that it is enough. reason is asked where the stop rule says it is not."""

    reason: str = ""


class WasteKind(StrEnum):
    """What came out."""

    OLD_COOLANT = "old_coolant"
    RINSE_WATER = "rinse_water"
    CLEANER_WATER = "cleaner_water"
    NEW_MIX = "new_mix"


WASTE_NAMES = {
    WasteKind.OLD_COOLANT: "old coolant",
    WasteKind.RINSE_WATER: "rinse water",
    WasteKind.CLEANER_WATER: "cleaner water",
    WasteKind.NEW_MIX: "new mix, drained again",
}


@dataclass(frozen=True, slots=True)
class WasteKept(Fact):
    """Containers of one kind filled, lidded and labelled; reuse: kept to go back in, which asks for a good reading.

    stands: where they were put.
    """

    kind: WasteKind
    litres: float
    containers: int = 1
    reuse: bool = False
    stands: str = ""

    def __post_init__(self) -> None:
        check_between("litres", self.litres, 0.05, LARGEST_LOOP_L, "L", "Litres in all of them together.")
        check_between("containers", self.containers, 1, 500, "containers")
