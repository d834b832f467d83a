"""What is asked of the fold: litres out, strength, readings that count, limits, when it is enough or cold."""

from __future__ import annotations

from dataclasses import replace

from temper_core.basis.quantity import VolumePercent
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.cooldown import CooldownAnswer, CooldownQuestion, CoolPoint, cooldown
from temper_core.instruments import ReadingQuestion
from temper_core.job.doubt.known import expected, finished_old_percent
from temper_core.job.doubt.quantities import old_finished
from temper_core.job.doubt.solve import Sure
from temper_core.job.drain.facts import Drained
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.drain.volume import Strength, litres_out
from temper_core.job.flush.facts import RoundFilled
from temper_core.job.flush.rules import Enough, Flushed, judge_enough
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.rounds import went_through
from temper_core.job.loop import COOLING
from temper_core.job.read.facts import Place, Read, counted, question_of
from temper_core.products.chemistry import Base
from temper_core.products.compatibility import old_limit_percent


def out_of(t: LedgerFold, facts: Drained) -> DrainedVolume:
    """Litres of a drain as it stands now; raises CoreError for weights and marks that cannot be."""
    return litres_out(facts, t.contents, strength_inside(t), t.policy)


def strength_inside(t: LedgerFold) -> Strength | None:
    """Strength of what is inside with its doubt, for its density; None where it is only believed and nothing thinned it."""
    if t.base is Base.NONE:
        return Strength(VolumePercent(0.0), 0.0)
    if t.strength_read or t.job.pours:
        return Strength(t.contents.strength, t.policy["inside_sd_read"])
    if not t.job.flush.rinsed or t.contents.total_l <= 0:
        return None
    share = t.contents.total.old_l / t.contents.total_l  # of an old strength that nobody read
    return Strength(t.contents.strength, share * t.policy["inside_sd_unread"])


def finished_questions(t: LedgerFold) -> list[ReadingQuestion]:
    """Readings of the finished loop that can prove it: with an instrument, after a hot run."""
    return [question_of(t.glycol, facts) for _, facts in finished_readings(t)]


def finished_readings(t: LedgerFold) -> list[tuple[str, Read]]:
    """The same with their entries."""
    return [
        (entry_id, facts)
        for entry_id, facts in t.job.verify.readings
        if facts.place is Place.FINISHED and counted(facts) and facts.after_hot_run
    ]


def limit_of(t: LedgerFold) -> float | None:
    """Old coolant that the finished loop may hold [%]; None where no limit applies or nothing is chosen."""
    return old_limit_percent(t.job.mix.planned.product, t.found, t.policy) if t.job.mix.planned else None


def old_sure(t: LedgerFold) -> Sure:
    """Old coolant that the finished full loop would hold [%], with its interval, around what the fold says."""
    sure, percent = expected(t).sure(old_finished), finished_old_percent(t)
    ends = Interval(min(percent, sure.interval.low), max(percent, sure.interval.high))
    return replace(sure, value=percent, interval=ends)


def cleaner_limit(t: LedgerFold) -> float | None:
    """Cleaner that may stay [% of its working strength]; None where none went in."""
    row = t.job.flush.last_cleaner
    if row is None or not isinstance(row.facts, RoundFilled) or row.facts.agent is None:
        return None
    label = row.facts.agent.rinse_below_percent
    return t.policy["cleaner_rinse_percent"] if label is None else label


def cleaner_percent(t: LedgerFold) -> float:
    """Cleaner that the finished full loop would hold [% of its working strength]."""
    return 100 * t.contents.total.cleaner_l / t.loop.capacity_l


def enough_of(t: LedgerFold, notes: bool = True) -> Enough:
    """The stop rule, asked now; notes: also what it only just holds by."""
    rounds = t.job.flush.rounds
    sampled = rounds[-1].sampled if rounds else None
    if sampled is None and rounds and rounds[-1].facts is None:  # the jar of what was found
        sampled = next(((row.entry_id, row.sampled) for row in reversed(t.job.inspect.seen) if row.sampled), None)
    percent = finished_old_percent(t)
    return judge_enough(
        Flushed(
            looks=sampled[1].looks if sampled else None,
            sediment_mm=sampled[1].sediment_mm if sampled else None,
            old_percent=percent,
            old_high_percent=old_sure(t).interval.high if notes and t.job.drained is not None else percent,
            old_limit_percent=limit_of(t),
            cleaner_percent=cleaner_percent(t),
            cleaner_limit_percent=cleaner_limit(t),
            solids_mg_l=t.contents.total.solids_mg / t.loop.capacity_l,
            circulated=not rounds or went_through(rounds[-1], t.contents, t.loop.equipment),
        ),
        t.policy,
    )


def cooled(t: LedgerFold, with_points: bool = True) -> CooldownAnswer:
    """When it is hand-warm, from the last run or the first temperature, by Newton's law; raises CoreError.

    Minutes count from there. An estimate for planning, never a proof.
    """
    job = t.job
    policy = t.policy
    start, from_c = (job.waiting.stopped[1], policy["hot_c"]) if job.waiting.stopped else job.waiting.warm[0]
    points = (
        [CoolPoint((at - start).total_seconds() / 60, c) for at, c in job.waiting.warm if at > start] if with_points else []
    )
    bay_c = policy["bay_c"]
    return cooldown(
        CooldownQuestion(
            from_c,
            bay_c,
            max(bay_c + 1.0, policy["gate_probe_c"]),
            t.loop.capacity_l,
            tuple(points),
            time_constant(t),
        ),
        policy,
    )


def time_constant(t: LedgerFold) -> float | None:
    """Minutes of this loop's cooling: by its own last jobs, else as taken over from its sisters; None: not known."""
    own, taught = t.life.cooled_min, t.loop.taught.get(COOLING)
    if own:
        return sum(own) / len(own)
    return taught.value if taught is not None else None


def coldest_of(t: LedgerFold) -> float:
    """The coldest it will stand in [degC]: as planned, else as entered."""
    return t.job.mix.planned.coldest_c if t.job.mix.planned else t.loop.coldest_c
