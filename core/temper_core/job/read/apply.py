"""What a reading does to the state of a loop: as found, of a rinse, of the finished loop, between services."""

from __future__ import annotations

from dataclasses import replace

from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments import Edge, read
from temper_core.instruments.trend import TrendPoint
from temper_core.job.doubt.known import contradicted, relative_change
from temper_core.job.doubt.level import level_of
from temper_core.job.doubt.record import begin, begin_again, ran_through, seen, thickened
from temper_core.job.entries import Entry
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.rounds import groups_of
from temper_core.job.read.facts import Place, Read, answer_of, counted, question_of, steps_of
from temper_core.job.read.rinse import Found, read_rinse
from temper_core.machine.level import less
from temper_core.science import Glycol, mass_fraction_at_freeze, strength_of


def reading(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading of a job, by its place."""
    if facts.place is Place.RINSE:
        _read_rinse(t, facts, entry)
    else:
        _read(t, facts, entry)


def reading_between(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading without a job: what is inside is what it says, where it says anything."""
    told_or_read = facts.instrument is None or counted(facts)
    strength = found_strength(t.glycol, facts, t.policy) if told_or_read else None
    if strength is None:
        return
    t.contents = t.contents.as_found(VolumePercent(strength))
    t.found = replace(t.found, strength_percent=strength)
    t.strength_known = t.strength_read = True
    t.since.read_at, t.since.read_sd = entry.happened_at, _reading_sd(t, facts)
    begin_again(t)
    t.since.reads.append(entry.happened_at)
    _note_strength(t, facts, entry)


def _read_rinse(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading of the last round; without an instrument, or before the first drain, it says nothing."""
    if not counted(facts) or not t.job.flush.rounds:
        return
    row, answer = t.job.flush.rounds[-1], read(question_of(t.glycol, facts), t.policy)
    row.read = (entry.id, answer)
    before = len(t.acts)
    mixed: list[str] = []
    glycol_counts = not any(row.cleaner.get(v, 0.0) > 1.0 for v in row.vessels)
    if row.facts is not None and row.ran is not None and glycol_counts:
        mixed = max(groups_of(t.contents, t.loop.equipment, row.ran), key=len, default=[])
        seen(t, facts, entry.id, mixed, f"round{row.number}")
    sd = t.policy["inside_sd_read" if t.strength_read else "inside_sd_unread"]
    name = f"round{row.number}"
    apart = contradicted(t, before)
    change = relative_change(t, before, name)
    if apart:  # no world explains both: the reading is not taken for one of them
        del t.acts[before:]
    found = Found(t.found.strength_percent if t.strength_known else None, sd, *change, contradicts=apart)
    agreement = t.policy["agreement_sds"]
    was = _old_l(t)
    t.contents, row.said = read_rinse(t.job.flush, t.contents, answer, found, agreement, t.loop.equipment)
    if apart and was > 0 and _old_l(t) > was and row.estimate is not None:
        share = row.estimate.share
        thickened(t, mixed, _old_l(t) / was, share.sd_percent / share.percent, entry.id)


def _old_l(t: LedgerFold) -> float:
    """Old coolant inside by the fold's own litres [l]."""
    return t.contents.total.old_l


def _read(t: LedgerFold, facts: Read, entry: Entry) -> None:
    t.job.verify.readings.append((entry.id, facts))
    t.job.verify.proof = None
    _note_strength(t, facts, entry)
    if facts.place is Place.AS_FOUND and facts.instrument is not None:
        _flag_found(t, facts)
    if facts.edge is not Edge.SHARP:
        return
    if facts.place is Place.AS_FOUND and t.job.drained is None and not t.job.pours:
        strength = found_strength(t.glycol, facts, t.policy)
        if strength is not None:
            t.found = replace(t.found, strength_percent=strength)
            t.strength_known, t.strength_read = True, facts.instrument is None or counted(facts)
            t.contents = less(t.contents.as_found(VolumePercent(strength)), level_of(t)[0])
            seen(t, facts, entry.id)
            begin(t)
    if facts.place is Place.FINISHED and facts.after_hot_run:
        t.contents = t.contents.circulate()
        t.job.circulated = True
        ran_through(t)
        seen(t, facts, entry.id)


def _note_strength(t: LedgerFold, facts: Read, entry: Entry) -> None:
    """A reading of the loop for its history, with what its instrument leaves open; reported ones count without a doubt."""
    if facts.place is Place.RINSE or (facts.place is Place.FINISHED and not facts.after_hot_run):
        return
    if facts.instrument is not None and not counted(facts):
        return
    strength, sd = found_strength(t.glycol, facts, t.policy), _reading_sd(t, facts) or 0.0
    if strength is not None:
        t.life.strengths.append(TrendPoint(entry.happened_at, strength, sd))


def _reading_sd(t: LedgerFold, facts: Read) -> float | None:
    """Standard deviation that its instrument leaves a reading [% by volume]; None where it was reported."""
    if facts.instrument is None or not counted(facts):
        return None
    answer = read(question_of(t.glycol, facts), t.policy)
    return answer.spread.strength_percent if answer.spread else None


def _flag_found(t: LedgerFold, facts: Read) -> None:
    """What is to be known of a reading of the fluid as found: a wrong scale, a mixture, a zero that is off."""
    known = {said.code for said in t.job.flags}
    answer = answer_of(t.base, facts, t.policy, other_on_top=bool(t.job.reported and t.job.reported.other_on_top))
    t.job.flags += [say(flag.code, flag.message) for flag in answer.flags if flag.code not in known]


def found_strength(glycol: Glycol, facts: Read, policy: Policy) -> float | None:
    """Strength [% by volume] of a reading of the fluid as found; of steps, the middle. None off scale."""
    if facts.instrument is None:
        return strength_of(glycol, mass_fraction_at_freeze(glycol, facts.value, facts.branch))
    steps = steps_of(glycol, facts, policy)
    if steps is not None:
        return steps.middle_percent
    answer = read(question_of(glycol, facts), policy)
    if answer.below_detection:
        return 0.0
    return answer.strength_percent
