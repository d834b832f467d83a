"""Cleaners and additives: their label's figures, and the dose that follows."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import CoreError, check_between
from temper_core.basis.policy import Policy
from temper_core.products.chemistry import Family


class AgentKind(StrEnum):
    """What it is for."""

    CLEANER = "cleaner"
    ADDITIVE = "additive"


AGENT_KIND_NAMES = {AgentKind.CLEANER: "cleaner", AgentKind.ADDITIVE: "additive"}


@dataclass(frozen=True, slots=True)
class Agent:
    """One product by its label: container [ml], litres of loop one container treats, run times and limit [min].

    rinse_below_percent: the share of it that may stay inside after rinsing. Of an additive: what one label dose raises
    nitrite and molybdate by [mg/l], and the families that its label names.
    """

    name: str
    kind: AgentKind
    container_ml: float
    treats_l: float
    light_min: float | None = None
    heavy_min: float | None = None
    limit_min: float | None = None
    rinse_below_percent: float | None = None
    nitrite_mg_l: float | None = None
    molybdate_mg_l: float | None = None
    families: tuple[Family, ...] = ()

    def __post_init__(self) -> None:
        check_between("container_ml", self.container_ml, 1, 250_000, "ml", "As printed on the container.")
        check_between("treats_l", self.treats_l, 0.1, 5000, "L", "Litres of loop that one container treats.")
        for name in ("light_min", "heavy_min", "limit_min"):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 1, 14_400, "minutes", "As the label says.")
        if self.rinse_below_percent is not None:
            check_between("rinse_below_percent", self.rinse_below_percent, 0.01, 50, "%", "As the label says.")
        for name in ("nitrite_mg_l", "molybdate_mg_l"):
            value = getattr(self, name)
            if value is not None:
                check_between(name, value, 1, 20_000, "mg/l", "What one label dose raises.")
                if self.kind is not AgentKind.ADDITIVE:
                    raise CoreError(name, "A cleaner adds no inhibitor. Leave it empty.", "not_an_additive")
        longest = max((run for run in (self.light_min, self.heavy_min) if run is not None), default=None)
        if longest is not None and self.limit_min is not None and longest > self.limit_min:
            raise CoreError(
                "limit_min",
                f"A run of {longest:g} minutes is longer than the limit of {self.limit_min:g}. Read the label again.",
                "limit_below_run",
            )


@dataclass(frozen=True, slots=True)
class Dose:
    """Whole containers to fetch, and millilitres that the volume really asks for."""

    containers: int
    exact_ml: float


@dataclass(frozen=True, slots=True)
class Runs:
    """How long it runs and may stay in [min]: by its label, and where that is silent as the rules have it."""

    light_min: float
    heavy_min: float
    limit_min: float


def runs(agent: Agent | None, policy: Policy) -> Runs:
    """Run times and limit of a cleaner; never raises."""

    def by_label(name: str) -> float:
        label: float | None = getattr(agent, name, None)
        return policy[f"cleaner_{name}"] if label is None else label

    return Runs(by_label("light_min"), by_label("heavy_min"), by_label("limit_min"))


def dose(agent: Agent, volume_l: float) -> Dose:
    """Dose for a loop's volume [l], as labels ask it: whole containers, rounded up. Raises OutOfRange for no volume.

    >>> dose(Agent("x", AgentKind.CLEANER, 325, 11.4), 32.0)
    Dose(containers=3, exact_ml=912.280701754386)
    """
    check_between("volume_l", volume_l, 0.1, 5000, "L")
    return Dose(math.ceil(volume_l / agent.treats_l - 1e-9), agent.container_ml * volume_l / agent.treats_l)
