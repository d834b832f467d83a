"""What strips, reserve and conductivity speak for."""

from __future__ import annotations

from collections.abc import Iterator

from temper_core.basis.message import capitalised, say
from temper_core.basis.policy import Policy
from temper_core.job.inspect.case import Case
from temper_core.job.inspect.facts import Check, Sign, Tested
from temper_core.job.inspect.state import Finding, Weight
from temper_core.job.job_types import JobType
from temper_core.products.conductivity import at_reference, limit_for


def tired(case: Case) -> Iterator[Finding]:
    """Strips that say the inhibitor is spent; two signs decide."""
    signs, policy = case.signs(Sign.TIRED), case.policy
    for entry_id, where, what in signs:
        weight = Weight.DECIDES if len(signs) > 1 else Weight.HINT
        said = say("tired", "{what}, {where}: nearly used up.", what=capitalised(what), where=where)
        yield Finding("tired", JobType.REFILL, weight, said, entry_id)
    strip = case.last(Check.INHIBITOR)
    if not strip:
        return
    ph = strip[1].figures.get("ph")
    if ph is not None and ph < policy["strip_ph_low"]:
        said = say("ph_low", "pH {ph}: the inhibitor is spent.", ph=f"{ph:g}")
        yield Finding("ph_low", JobType.REFILL, Weight.DECIDES, said, strip[0])
    if ph is not None and ph > policy["strip_ph_high"]:
        said = say("ph_high", "pH {ph}: cleaner left inside, or an overdose. Drain it.", ph=f"{ph:g}")
        yield Finding("ph_high", JobType.CHANGE_TYPE, Weight.DECIDES, said, strip[0])
    yield from _liner_dose(strip, policy)


def _liner_dose(strip: tuple[str, Tested], policy: Policy) -> Iterator[Finding]:
    nitrite, molybdate = (strip[1].figures.get(key) for key in ("nitrite_mg_l", "molybdate_mg_l"))
    if nitrite is not None and nitrite > policy["nitrite_high_mg_l"]:
        said = say("nitrite_high", "Nitrite {mg} mg/l: overdosed, drain part of it.", mg=f"{nitrite:g}")
        yield Finding("nitrite_high", JobType.ADJUST_STRENGTH, Weight.DECIDES, said, strip[0])
    enough = [
        value >= policy[key]
        for value, key in ((nitrite, "nitrite_low_mg_l"), (molybdate, "molybdate_low_mg_l"))
        if value is not None
    ]
    if enough and not any(enough):
        words = "Neither nitrite nor molybdate protects the liners: dose additive by the strips, or refill."
        yield Finding("dose_additive", JobType.DOSE, Weight.DECIDES, say("dose_additive", words), strip[0])


def conductivity(case: Case) -> Iterator[Finding]:
    """A conductivity over the limit of what it cools."""
    found = case.last(Check.CONDUCTIVITY)
    if not found:
        return
    facts, limit = found[1], limit_for(case.need.use, case.conductivity_limit_us_cm, case.policy)
    figures = facts.figures
    value = at_reference(figures["us_cm"], figures["sample_c"], bool(facts.compensated), case.policy)
    if limit is None:
        words = (
            "Conductivity {value} µS/cm at 25 °C, but neither the maker's limit nor the use is entered. Ask a "
            "lead to enter them."
        )
        yield Finding("no_limit", JobType.CHECK, Weight.HINT, say("no_limit", words, value=f"{value:.3g}"), found[0])
        return
    shown = {"value": f"{value:.3g}", "limit": f"{limit.us_cm:g}", "origin": limit.origin}
    if value > limit.us_cm:
        said = say("conducts", "Conductivity {value} µS/cm at 25 °C, over {limit} ({origin}).", **shown)
        yield Finding("conducts", JobType.REFILL, Weight.DECIDES, said, found[0])
    else:
        said = say("insulates", "Conductivity {value} µS/cm at 25 °C, under {limit} ({origin}).", **shown)
        yield Finding("insulates", JobType.CHECK, Weight.FOR, said, found[0])
