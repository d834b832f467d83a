"""The account of the inhibitors and the dose, as a loop shows them."""

from __future__ import annotations

from temper_core.basis.message import Message, capitalised, say
from temper_core.job.dose.state import Account, DosePoured, DoseState, DoseStep, DoseVerdict, InhibitorState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.job_types import JobType
from temper_core.machine.equipment import CoolantFilter
from temper_core.products.additive import INHIBITOR_NAMES, Inhibitor, allowed


def inhibitor_of(t: LedgerFold) -> tuple[InhibitorState, ...]:
    """The account of each inhibitor that a strip ever read in this filling."""
    return tuple(_row(t, t.life.inhibitor[one]) for one in Inhibitor if one in t.life.inhibitor)


def _row(t: LedgerFold, row: Account) -> InhibitorState:
    limits, own = allowed(row.inhibitor, t.policy), row.job_id == t.job.id
    charged = t.loop.equipment.coolant_filter is CoolantFilter.CHARGED
    low = row.band.low_mg_l if own else None  # it is used up in service: of an older strip only "at most" holds
    shown = {"name": capitalised(INHIBITOR_NAMES[row.inhibitor]), "read": f"{row.read_mg_l:g}"}
    high = row.band.high_mg_l if own or not charged else None  # a charged filter adds more in service
    shown["doses"] = f"{row.doses} dose{'' if row.doses == 1 else 's'} since: " if row.doses else ""
    if high is None:
        words = "{name}: read {read} mg/l; {doses}how much it is at most is open. Strips again."
        if charged and not own:
            words = "{name}: read {read} mg/l; since then its charged filter added some. Strips again."
            shown.pop("doses")
        said = say("open", words, **shown)
    elif low is None or low == high:
        said = say("at_most", "{name}: read {read} mg/l; {doses}at most {high} mg/l.", high=f"{high:.0f}", **shown)
    else:
        words = "{name}: read {read} mg/l; {doses}{low} to {high} mg/l."
        said = say("between", words, low=f"{low:.0f}", high=f"{high:.0f}", **shown)
    return InhibitorState(
        row.inhibitor, row.read_mg_l, row.read_at, low, high, limits.low_mg_l, limits.high_mg_l, row.doses, said
    )


def dose_state(t: LedgerFold) -> DoseState | None:
    """How far the dose stands; None on any other job, and before it is decided."""
    if t.job.job_type is not JobType.DOSE or t.job.inspect.chosen is None:
        return None
    dosing = t.job.dosing
    poured = tuple(DosePoured(entry_id, facts.agent.name, facts.dose_ml) for entry_id, facts in dosing.poured)
    if not any(row.job_id == t.job.id for row in t.life.inhibitor.values()):
        return DoseState(DoseStep.STRIPS, say("strips", "Strips first: nitrite, molybdate."), poured, None)
    if not poured:
        return DoseState(DoseStep.POUR, say("pour", "Dose by the strips."), poured, None)
    if not dosing.circulated:
        return DoseState(DoseStep.RUN, say("run", "Run it hot: the dose is not mixed yet."), poured, None)
    if dosing.unread:
        names = " and ".join(INHIBITOR_NAMES[one] for one in sorted(dosing.unread))
        return DoseState(DoseStep.AGAIN, say("again", "Strips again, loop cold: {names}.", names=names), poured, None)
    verdict, said = _verdict(t)
    return DoseState(DoseStep.DONE, said, poured, verdict)


def _verdict(t: LedgerFold) -> tuple[DoseVerdict, Message]:
    """What the strips after the dose say; one inhibitor in its range protects the liners."""
    rows = [row for row in t.life.inhibitor.values() if row.job_id == t.job.id]
    for row in rows:
        if row.read_mg_l > allowed(row.inhibitor, t.policy).high_mg_l:
            words = "{name} {mg} mg/l: overdosed, drain part of it."
            return DoseVerdict.OVERDOSED, say("overdosed", words, **_shown(row))
    for row in rows:
        if row.expected is not None and not row.expected.meets(row.band):
            words = (
                "{name} reads {mg} mg/l, the dose should have brought it to {low} or more, {high} at most. Run it longer, "
                "dip again."
            )
            high = "open" if row.expected.high_mg_l is None else f"{row.expected.high_mg_l:.0f}"
            shown = _shown(row) | {"low": f"{row.expected.low_mg_l:.0f}", "high": high}
            return DoseVerdict.DISAGREES, say("disagrees", words, **shown)
    enough = [row for row in rows if row.read_mg_l >= allowed(row.inhibitor, t.policy).low_mg_l]
    if enough:
        words = "{name} {mg} mg/l: the liners are protected."
        return DoseVerdict.PROTECTED, say("protected", words, **_shown(enough[0]))
    return DoseVerdict.STILL_LOW, say("still_low", "Still low: dose again by these strips, or refill.")


def _shown(row: Account) -> dict[str, str]:
    return {"name": capitalised(INHIBITOR_NAMES[row.inhibitor]), "mg": f"{row.read_mg_l:g}"}
