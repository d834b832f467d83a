"""What a bleed does to the state of a loop."""

from __future__ import annotations

from temper_core.job.entries import Entry
from temper_core.job.fill.facts import BleedEnded, BleedGoesOn, BleedHeld, BleedStarted, BleedStepped
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.effects import engine_ran, gate_at
from temper_core.job.open.facts import EngineRun
from temper_core.machine.bleed_run import BleedRun, Mark, heated
from temper_core.machine.bleeding import HOT_SIGNS, THERMOSTAT_SIGNS, BleedOutcome, FinishSign


def bleed_started(t: LedgerFold, facts: BleedStarted, entry: Entry) -> None:
    """The bleed runs from now; whether it may be opened is as it is now."""
    gate = gate_at(t, entry.happened_at)
    may_open = gate.passed_before or gate.never_under_pressure
    t.job.fill.run = BleedRun(entry.id, facts.recipe, entry.happened_at, entry.person, may_open)


def bleed_stepped(t: LedgerFold, facts: BleedStepped, entry: Entry) -> None:
    """A hand moved it on."""
    _mark(t, entry, Mark.STEPPED, facts.step)


def bleed_held(t: LedgerFold, facts: BleedHeld, entry: Entry) -> None:
    """Its clock is held."""
    _mark(t, entry, Mark.HELD)


def bleed_goes_on(t: LedgerFold, facts: BleedGoesOn, entry: Entry) -> None:
    """Its clock goes on."""
    _mark(t, entry, Mark.GOES_ON)


def _mark(t: LedgerFold, entry: Entry, mark: Mark, step: int = 0) -> None:
    """One mark of the bleed that runs; of one that was taken back, nothing."""
    if t.job.fill.run is not None:
        t.job.fill.run.marks.append((entry.happened_at, mark, step))


def bleed_ended(t: LedgerFold, facts: BleedEnded, entry: Entry) -> None:
    """What circulated is one fluid; what was felt before no longer counts, unless the neck stood open throughout."""
    run = t.job.fill.run
    steps = heated(run, entry.happened_at) if run else []
    signs = set(facts.signs)
    finished = facts.outcome is BleedOutcome.FINISHED
    hot = bool(signs & HOT_SIGNS) or facts.outcome in (BleedOutcome.OVERHEATING, BleedOutcome.NO_HEAT)
    if steps or hot:  # what was felt says that it ran, whatever the guided step was
        neck_open = bool(steps) and all(step.neck_open for step in steps) if run else facts.neck_open
        minutes = (entry.happened_at - run.started_at).total_seconds() / 60 if run else None
        opened = finished and bool(signs & THERMOSTAT_SIGNS)
        ran = EngineRun(
            minutes=min(1440.0, minutes) if minutes is not None else None,
            opened=opened,
            heater_full=finished and FinishSign.HEATER_HOT in signs,
            neck_open=neck_open,
        )
        engine_ran(t, ran, entry)
    elif finished and FinishSign.SWIRL in signs:  # an electric pump moved it all
        t.contents, t.job.circulated = t.contents.circulate(), True
    t.job.fill.ended.append((entry.id, entry.happened_at, facts))
    t.job.fill.run = None
