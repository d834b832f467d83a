"""What rounds and their end do to the state of a loop."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.job.doubt.record import blown_out, note_drained, note_round, swept, water_in
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.entries import Entry
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.effects import note_opened, opened_up
from temper_core.job.inside.questions import enough_of
from temper_core.job.inside.rounds import fill, numbered, sweep


def round_filled(t: LedgerFold, facts: RoundFilled, entry: Entry) -> None:
    """Water goes in for a round."""
    t.contents = fill(t.job.flush, t.contents, numbered(t.job.flush, entry, facts), t.policy)
    water_in(t, facts.fill_l, entry.id)
    note_round(t, t.job.flush.rounds[-1].number, list(t.contents.by_vessel))
    if not t.strength_known:
        t.job.flags.append(say("rinsed_unknown", "Strength as found not read: what is left counts as water."))


def vessels_rinsed(t: LedgerFold, facts: VesselRinsed, entry: Entry) -> None:
    """Water went through these vessels; what stood in them is thinned, and they stand open."""
    t.contents = sweep(t.job.flush, t.contents, numbered(t.job.flush, entry, facts), t.policy)
    note_round(t, t.job.flush.rounds[-1].number, list(t.contents.by_vessel))
    if facts.method is Method.BLOW_OUT:
        blown_out(t, facts.litres, entry.id)
    else:
        swept(t, facts.litres)
    note_drained(t, t.job.flush.rounds[-1].number)
    sd = t.job.drained.sd_l if t.job.drained else 0.0
    missing = t.contents.layout.volume_l - t.contents.total_l
    note_opened(t.job.fill, facts, t.loop.layout)
    opened_up(t, DrainedVolume(missing, sd, {}, missing))


def flush_ended(t: LedgerFold, facts: FlushEnded, entry: Entry) -> None:
    """The flush is over, early or not."""
    t.job.flush.early = not enough_of(t, notes=False).enough
    t.job.flush.ended = facts


def waste_kept(t: LedgerFold, facts: WasteKept, entry: Entry) -> None:
    """Waste is in its containers."""
    t.job.flush.waste.append(facts)
