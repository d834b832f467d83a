"""What each additive of the depot comes to by the strips of a job, before anything is poured."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from temper_core.basis.errors import CoreError
from temper_core.job.dose.state import DoseStep
from temper_core.job.dose.validate import dose_of
from temper_core.job.dose.view import dose_state
from temper_core.job.fold_state import LedgerFold
from temper_core.products.additive import AdditiveDose
from temper_core.products.agents import Agent


@dataclass(frozen=True, slots=True)
class AdditiveOffer:
    """An additive of the depot: what to pour of it now, or why nothing."""

    agent_id: str
    dose: AdditiveDose | None
    refused: str


def offered(t: LedgerFold, additives: Mapping[str, Agent]) -> tuple[AdditiveOffer, ...]:
    """The additives by their number; none where the job does not dose, or a dose is in and not read again."""
    dose = dose_state(t)
    if dose is None or t.job.signed_at is not None or dose.step in (DoseStep.RUN, DoseStep.AGAIN):
        return ()
    return tuple(_offer(t, agent_id, agent) for agent_id, agent in additives.items())


def _offer(t: LedgerFold, agent_id: str, agent: Agent) -> AdditiveOffer:
    try:
        return AdditiveOffer(agent_id, dose_of(t, agent), "")
    except CoreError as refused:
        return AdditiveOffer(agent_id, None, str(refused))
