"""An additive as it was poured: the fact."""

from __future__ import annotations

from dataclasses import dataclass

from temper_core.basis.errors import CoreError, check_between
from temper_core.job.fact import Fact
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.shelf import Taken, check_agent_taken


@dataclass(frozen=True, slots=True)
class Dosed(Fact):
    """An additive poured into the full loop [ml], by its label; taken: out of which containers."""

    agent: Agent
    dose_ml: float
    taken: tuple[Taken, ...] = ()

    def __post_init__(self) -> None:
        if self.agent.kind is not AgentKind.ADDITIVE:
            raise CoreError("agent_id", f"{self.agent.name} is no additive. Choose an additive.", "not_an_additive")
        check_between("dose_ml", self.dose_ml, 1, 250_000, "ml", "Enter the ml poured.")
        check_agent_taken(self.taken, self.agent, self.dose_ml / 1000)
