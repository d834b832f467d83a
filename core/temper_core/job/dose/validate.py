"""May this additive go in now, and so much of it? May the job be signed?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.job.dose.account import litres_inside
from temper_core.job.dose.facts import Dosed
from temper_core.job.dose.state import DoseState, DoseStep, DoseVerdict
from temper_core.job.entry_kind import Attempt
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inspect.facts import Check, Tested
from temper_core.job.job_types import JobType
from temper_core.job.verify.facts import SignedOff
from temper_core.products.additive import (
    AdditiveDose,
    Allowed,
    Band,
    Inhibitor,
    additive_dose,
    allowed,
    check_dose,
    strengths,
)
from temper_core.products.agents import Agent
from temper_core.products.chemistry import FAMILY_NAMES


def dosed(a: Attempt, facts: Dosed) -> None:
    """By its own job, on strips of this job, within the range; raises CoreError or Conflict."""
    if a.state.job_type is not JobType.DOSE or a.state.inspection.job_type_chosen is None:
        words = "An additive goes in by its own job. Choose the job type “dose additive” at Inspect first."
        raise Conflict("job", words, "not_dosing")
    check_agent(a.fold, facts.agent)
    raises, read = strengths(facts.agent), read_in_job(a.fold)
    check_dose(raises, facts.dose_ml, litres_inside(a.fold), read, ranges(a.policy))


def check_agent(t: LedgerFold, agent: Agent) -> None:
    """Its label says what it raises and for which coolant, and that is what is inside; raises CoreError or Conflict."""
    if t.loop.need.low_conductivity:
        words = "No additive goes into a low-conductivity loop: only its own ready-mix."
        raise CoreError("agent_id", words, "low_conductivity")
    if not strengths(agent):
        words = f"What a dose of {agent.name} raises is not entered. Enter it from its label, in Products."
        raise CoreError("agent_id", words, "no_strength")
    if not agent.families:
        raise CoreError("agent_id", f"The coolants that {agent.name} is for are not entered. Enter them.", "no_families")
    if t.found.family is None:
        raise CoreError("agent_id", "The coolant inside is not known. Enter it at Identify first.", "family_unknown")
    if t.found.family not in agent.families:
        named = ", ".join(FAMILY_NAMES[one] for one in agent.families)
        words = f"The label of {agent.name} names {named}; inside is {FAMILY_NAMES[t.found.family]}. Do not dose it."
        raise CoreError("agent_id", words, "other_family")
    if not t.job.dosing.circulated:
        raise Conflict("job", "A dose is in and not mixed yet. Run it hot, then strips again.", "not_mixed")
    if t.job.dosing.unread:
        raise Conflict("job", "A dose is in. Strips again first.", "strips_again")


def read_in_job(t: LedgerFold) -> dict[Inhibitor, Band]:
    """The bands that strips of this job read; an older strip doses nothing."""
    return {one: row.band for one, row in t.life.inhibitor.items() if row.job_id == t.job.id}


def ranges(policy: Policy) -> dict[Inhibitor, Allowed]:
    """What is allowed of each, by the rules."""
    return {one: allowed(one, policy) for one in Inhibitor}


def dose_of(t: LedgerFold, agent: Agent) -> AdditiveDose:
    """What to pour of this additive; raises CoreError or Conflict with the reason where nothing."""
    check_agent(t, agent)
    return additive_dose(strengths(agent), litres_inside(t), read_in_job(t), ranges(t.policy))


def mixed_before_strips(a: Attempt, facts: Tested) -> None:
    """A strip after a dose says nothing before it ran through; raises Conflict."""
    if facts.check is Check.INHIBITOR and not a.fold.job.dosing.circulated:
        raise Conflict("job", "The dose is not mixed yet. Run it hot, open it cold, then strips.", "not_mixed")


def signed_off(dose: DoseState | None, facts: SignedOff) -> None:
    """Strips again after a dose, no overdose left, a reason where it does not protect; raises CoreError, Conflict."""
    if dose is None or not dose.poured:
        return
    if dose.step is not DoseStep.DONE:
        raise Conflict("job", "A dose is in. Run it hot, then strips again, then sign off.", "strips_again")
    if dose.verdict is DoseVerdict.OVERDOSED:
        raise Conflict("job", "Overdosed: drain part of it. Choose another job type at Inspect.", "overdosed")
    if dose.verdict is not DoseVerdict.PROTECTED and not facts.reason.strip():
        raise CoreError("reason", f"{dose.said.sentence} Say why you sign off.", "required")
