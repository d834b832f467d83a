"""What opens a loop stands behind its safe-to-open check, on every route and between services.

Common practice, no source. The check belongs to the loop, and whoever opens it makes it.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum

from temper_core.basis.errors import Conflict
from temper_core.job.between.facts import LevelSeen
from temper_core.job.drain.facts import Drained
from temper_core.job.entries import Entry, Facts
from temper_core.job.fill.facts import BleedStarted, Corrected, Poured
from temper_core.job.flush.facts import RoundFilled, VesselRinsed
from temper_core.job.inspect.facts import CHECK_ROWS, SPOT_OPENS, Check, Opens, Sampled, Tested, opens
from temper_core.job.ledger import standing
from temper_core.job.loop import Loop
from temper_core.job.open.facts import EngineRun
from temper_core.job.open.state import OTHER_DAY, RAN_SINCE, Asked, Gate
from temper_core.job.readings import Place, Read
from temper_core.job.state import LoopState
from temper_core.job.verify.facts import FinishChecked, LeakMethod, SignedOff
from temper_core.job.waiting.facts import Clock, ClockStarted


class Need(StrEnum):
    """What has to hold before a fact is recorded: the check alone, or with stands and tray as well."""

    CAP = "cap"
    DRAIN = "drain"


def need_of(loop: Loop, state: LoopState, facts: Facts) -> Need | None:
    """What this fact opens on this loop; None: nothing."""
    built = loop.equipment
    match facts:
        case Drained() | Corrected():
            return Need.DRAIN
        case Sampled():
            return Need.CAP if opens(SPOT_OPENS[facts.spot], built) else None
        case Tested():
            return Need.CAP if opens(CHECK_ROWS[facts.check].opens, built) else None
        case Read():
            return Need.CAP if facts.instrument is not None and not _jar_at_hand(state, facts) else None
        case LevelSeen():
            return Need.CAP if opens(Opens.LEVEL, built) else None
        case FinishChecked():
            tester = facts.leak is not None and facts.leak.method is LeakMethod.PRESSURE
            return Need.CAP if tester or opens(Opens.LEVEL, built) else None
        case Poured() | RoundFilled() | VesselRinsed():
            return Need.CAP
    return None


def _jar_at_hand(state: LoopState, facts: Read) -> bool:
    """A rinse whose round is drained is read from its jar."""
    rounds = state.flush.rounds if state.flush is not None else ()
    return facts.place is Place.RINSE and bool(rounds) and rounds[-1].out_l is not None


def check_opening(
    loop: Loop, entries: Sequence[Entry], state: LoopState, facts: Facts, person_id: str | None, between: bool = False
) -> None:
    """Refuse what opens a loop without a standing check; raises Conflict.

    A loop that was drained since it last ran stands open: it may be worked on by anybody and on another day, for nothing
    has warmed it. A drain that was taken back is no pass for a hot loop. Two exceptions, both of a loop that stayed open
    since it was cold: topping up while it bleeds, and the result of a gas test on its vented tester.
    """
    need = need_of(loop, state, facts)
    if need is None:
        return
    gate = state.gate
    if isinstance(facts, Read) and facts.after_hot_run and _filled_since(entries, state):
        message = "It ran hot since the last safe-to-open check. Let it cool, confirm it is safe to open, then read."
        raise Conflict("gate", message, "gate_shut")
    if not between and gate.passed_before and opened_since_it_ran(entries, state):
        return
    if not between and gate.never_under_pressure and _stays_open(facts) and _only_ran(gate):
        return
    if not gate.open:
        reason = " ".join(said.sentence for said in gate.reasons)
        raise Conflict("gate", f"This opens the loop. {reason}", "gate_shut")
    if person_id is not None and person_id != gate.by_id:
        message = f"{gate.by} made the safe-to-open check. Whoever opens the loop makes it: check it yourself."
        raise Conflict("gate", message, "gate_of_another")
    if need is Need.DRAIN and gate.asked_drain:
        raise Conflict("gate", _not_ready("Before a drain", gate.asked_drain), "not_ready")


def _stays_open(facts: Facts) -> bool:
    return (isinstance(facts, Poured) and facts.bleeding) or (
        isinstance(facts, Tested) and facts.check is Check.COMBUSTION_GAS
    )


def _only_ran(gate: Gate) -> bool:
    """The check was good, and nothing but a run with the neck open, or midnight, came after it."""
    return all(said.code in (RAN_SINCE, OTHER_DAY) for said in gate.reasons)


def _not_ready(when: str, asked: Sequence[Asked]) -> str:
    return f"{when}: {'; '.join(row.name.lower() for row in asked)}. Confirm what stands ready, then record it."


def check_may_run(state: LoopState, facts: Facts) -> None:
    """An engine is started only where its exhaust is led off; raises Conflict."""
    starts = isinstance(facts, ClockStarted) and facts.clock is Clock.WARM_UP
    starts = starts or (isinstance(facts, BleedStarted) and any(step.heats for step in facts.recipe.steps))
    if starts and state.gate.asked_run:
        raise Conflict("ready", _not_ready("Before the engine runs", state.gate.asked_run), "not_ready")


def opened_since_it_ran(entries: Sequence[Entry], state: LoopState) -> bool:
    """It was drained in this job after whatever ran last; a drain counts even if it was taken back."""
    job = [entry for entry in entries if entry.job_id == state.job_id]
    drains = [entry.order for entry in job if isinstance(entry.facts, Drained)]
    runs = [entry.order for entry in standing(job) if isinstance(entry.facts, EngineRun) or _runs(entry.facts)]
    return bool(drains) and (not runs or max(drains) > max(runs))


def _runs(facts: Facts) -> bool:
    return isinstance(facts, ClockStarted) and facts.clock is Clock.WARM_UP


def _filled_since(entries: Sequence[Entry], state: LoopState) -> bool:
    """Something went in after the last check: a hot run since then, as the reading says, is later than the check too."""
    job = [entry for entry in standing(entries) if entry.job_id == state.job_id]
    filled = [entry.order for entry in job if isinstance(entry.facts, Poured | Corrected)]
    seen = state.gate.observed_at
    return bool(filled) and (seen is None or max(filled)[0] >= seen)


def check_service_mode(loop: Loop, state: LoopState, facts: SignedOff) -> None:
    """What this job had made dead works again before it leaves; raises Conflict."""
    if loop.high_voltage and state.isolated and not facts.service_mode_ended:
        message = "High voltage was made dead for this job. End service mode, confirm it, then sign off."
        raise Conflict("service_mode_ended", message, "service_mode")
