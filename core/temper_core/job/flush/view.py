"""How the flush of a loop stands, gathered for the screen from what the walk carried."""

from __future__ import annotations

import math

from temper_core.basis.message import Message, say
from temper_core.job.doubt.known import finished_old_percent, one_fluid_old, relative_sd
from temper_core.job.doubt.quantities import old_finished
from temper_core.job.flush.facts import RoundFilled, WasteKind
from temper_core.job.flush.state import CleanerState, FlushState, Jar, RoundState, RoundVessel, Step, WasteState
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.gate import gate_now
from temper_core.job.inside.questions import cleaner_limit, cleaner_percent, enough_of, limit_of, old_sure
from temper_core.job.inside.rounds import Round, thin_ice
from temper_core.job.inspect.facts import LOOK_ROWS, Sign
from temper_core.job.read.facts import Place
from temper_core.job.read.rinse import source_of
from temper_core.products.agents import runs
from temper_core.products.water import WaterKind

LEAST_LEFT_L = 0.05  # less than a jug shows


def step_of(t: LedgerFold) -> Step:
    """What the flush waits for. A round that never ran is drained cold; one that ran asks for the gate."""
    row = t.job.flush.in_work
    if row is None:
        return Step.PLAN
    if row.ran is None:
        return Step.RUN
    return Step.DRAIN if gate_now(t).open else Step.GATE


def flush_of(t: LedgerFold) -> FlushState | None:
    """The flush of this job; None before the first drain."""
    if t.job.drained is None and not t.job.flush.rounds:
        return None
    percent, old = finished_old_percent(t), old_sure(t)
    return FlushState(
        step=step_of(t),
        rounds=tuple(_round(t, row) for row in t.job.flush.rounds),
        limit_percent=limit_of(t),
        finished_old_percent=percent,
        finished_sd_percent=old.sd,
        finished_likely_percent=old.interval,
        cleaner=cleaner_of(t),
        solids_mg_l=t.contents.total.solids_mg / t.loop.capacity_l,
        enough=enough_of(t),
        ended=t.job.flush.ended is not None,
        early=t.job.flush.ended.reason if t.job.flush.ended and t.job.flush.early else "",
        water_l=_water(t),
        waste=_waste(t),
        no_reuse=no_reuse(t),
    )


def _round(t: LedgerFold, row: Round) -> RoundState:
    names = {node.id: node.name for node in t.loop.layout.nodes}
    shares = [share for share in row.vessels.values() if share is not None]
    facts = row.facts
    step = step_of(t) if row.in_work else Step.PLAN
    doubt, left = one_fluid_old(t, f"round{row.number}"), relative_sd(t, f"left{row.number}", old_finished)
    return RoundState(
        number=row.number,
        entry_id=row.entry_id,
        at=row.at,
        by=row.by,
        method=facts.method if facts else None,
        step=step,
        water=facts.water if facts else None,
        water_l=row.water_l,
        opened=row.ran.opened if row.ran else None,
        out_l=row.out_l,
        vessels=tuple(
            RoundVessel(vessel, names[vessel], share, (share or 0.0) * doubt, row.cleaner[vessel], row.solids[vessel])
            for vessel, share in row.vessels.items()
        ),
        ran_percent=max(shares, default=None) if row.ran or not isinstance(facts, RoundFilled) else None,
        finished_old_percent=row.finished.percent if row.finished else None,
        finished_sd_percent=row.finished.percent * left if row.finished else None,
        source=source_of(row),
        jar=_jar(t, row),
        thin=thin_ice(row, t.contents, t.loop.equipment),
    )


def _jar(t: LedgerFold, row: Round) -> Jar | None:
    sampled = row.sampled
    if sampled is None and row.facts is None:  # the first drain's jar is what was found
        sampled = next(((seen.entry_id, seen.sampled) for seen in reversed(t.job.inspect.seen) if seen.sampled), None)
    if sampled is None and row.read is None:
        return None
    entry_id, facts = sampled or (None, None)
    return Jar(
        entry_id=entry_id,
        looks=facts.looks if facts else (),
        sediment_mm=facts.sediment_mm if facts else None,
        read_entry_id=row.read[0] if row.read else None,
        says=row.said,
    )


def cleaner_of(t: LedgerFold) -> CleanerState | None:
    """The cleaner that is in, or not rinsed below its limit yet."""
    row, limit, percent = t.job.flush.last_cleaner, cleaner_limit(t), cleaner_percent(t)
    if row is None or limit is None or not isinstance(row.facts, RoundFilled) or row.facts.agent is None:
        return None
    if percent <= limit:
        return None
    facts = row.facts
    name = row.facts.agent.name
    return CleanerState(
        row.entry_id, name, row.at, facts.run_min or 0.0, runs(facts.agent, t.policy).limit_min, row.in_work, percent, limit
    )


def _water(t: LedgerFold) -> dict[WaterKind, float]:
    litres: dict[WaterKind, float] = {}
    for row in t.job.flush.rounds:
        if row.facts is not None and row.water_l > 0:
            litres[row.facts.water] = litres.get(row.facts.water, 0.0) + row.water_l
    return litres


def _kind(row: Round) -> WasteKind:
    if row.facts is None:
        return WasteKind.OLD_COOLANT
    dosed = row.with_cleaner or any(share > 1.0 for share in row.cleaner.values())
    return WasteKind.CLEANER_WATER if dosed else WasteKind.RINSE_WATER


def _waste(t: LedgerFold) -> tuple[WasteState, ...]:
    """Litres out by kind, and what of them is in containers."""
    states = []
    for kind in WasteKind:
        out = sum(row.out_l or 0.0 for row in t.job.flush.rounds if _kind(row) is kind)
        out += t.job.flush.new_out_l if kind is WasteKind.NEW_MIX else 0.0
        kept = [facts for facts in t.job.flush.waste if facts.kind is kind]
        if not out and not kept:
            continue
        kept_l = sum(facts.litres for facts in kept)
        states.append(
            WasteState(
                kind,
                out,
                kept_l,
                sum(facts.containers for facts in kept),
                sum(facts.litres for facts in kept if facts.reuse),
                math.ceil(max(0.0, out - kept_l - LEAST_LEFT_L) / t.policy["waste_container_l"]),
            )
        )
    return tuple(states)


def no_reuse(t: LedgerFold) -> tuple[Message, ...]:
    """Why what came out may not be kept to go back in; empty where it may: read with an instrument, and a clean sample."""
    said = []
    if not any(facts.instrument for _, facts in t.job.verify.readings if facts.place is Place.AS_FOUND):
        said.append(say("not_read", "Not read as found: not for reuse."))
    looks = [look for row in t.job.inspect.seen if row.sampled for look in row.sampled.looks]
    if not looks or any(LOOK_ROWS[look].sign is not Sign.SOUND for look in looks):
        said.append(say("not_clean", "No clean sample as found: not for reuse."))
    return tuple(said)


def standing_words(t: LedgerFold, freeze_c: float | None) -> Message:
    """The state in one sentence, for whoever takes the job up."""
    row, cleaner = t.job.flush.in_work, cleaner_of(t)
    if t.job.id is None or t.job.signed_at is not None:
        return say("idle", "No job is open.")
    if cleaner is not None and cleaner.running:
        words = "Water and {cleaner} inside: no frost protection, must not stay overnight."
        return say("cleaner_in", words, cleaner=cleaner.name)
    if row is not None:
        freezes = {} if freeze_c is None else {"freeze_c": freeze_c}
        words = "Rinse water inside: freezes at {freeze_c}." if freezes else "Rinse water inside: no frost protection."
        return say("rinse_water", words, **freezes)
    if t.job.pours:
        level = "at the mark" if t.job.pours[-1].at_mark else "not at the mark yet"
        words = "New coolant inside, {level}; " + ("run hot." if t.job.circulated else "not run hot yet.")
        return say("filled", words, level=level)
    inside = {"inside_l": t.contents.total_l}
    if t.job.drained is None:
        return say("as_found", "Full, as found: {inside_l}.", **inside)
    if cleaner is not None:
        words = "Drained; {inside_l} still inside, {cleaner_percent} {cleaner} after refill: keep rinsing."
        return say("cleaner_left", words, **inside, cleaner_percent=cleaner.percent, cleaner=cleaner.name)
    words = "Drained; {inside_l} still inside. After refill it holds {old_percent} old coolant."
    return say("drained", words, **inside, old_percent=finished_old_percent(t))
