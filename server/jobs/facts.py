"""From the API's shapes to the core's facts: products and instruments are written in as they are now."""

from __future__ import annotations

from typing import Any

from django.shortcuts import get_object_or_404

from catalogue.models import Agent, Product, WaterSource
from instruments.models import Instrument
from jobs.entry_shapes import (
    AcknowledgedFacts,
    DrainedFacts,
    EngineRunFacts,
    GateObservedFacts,
    MeteredFacts,
    PlannedFacts,
    PouredFacts,
    ReadyConfirmedFacts,
    RoutedFacts,
    SampledFacts,
    SignedOffFacts,
    SkippedFacts,
    TestedFacts,
    ToldFacts,
    VoidedFacts,
)
from jobs.fill_shapes import (
    AmendedFacts,
    BleedEndedFacts,
    BleedGoesOnFacts,
    BleedHeldFacts,
    BleedStartedFacts,
    BleedSteppedFacts,
    ClosedFacts,
    CorrectedFacts,
    FinishCheckedFacts,
    LevelSeenFacts,
    LookedUnderFacts,
    VacuumPulledFacts,
)
from jobs.flush_shapes import (
    CaughtIn,
    ClockStartedFacts,
    ClockStoppedFacts,
    FlushEndedFacts,
    PausedFacts,
    ResumedFacts,
    RoundFilledFacts,
    SweptFacts,
    TemperatureLoggedFacts,
    WasteKeptFacts,
)
from jobs.read_shapes import ReadFacts
from people.models import Person
from temper_core.basis.errors import CoreError, under
from temper_core.calculate.vacuum import Held
from temper_core.instruments import InstrumentKind
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.drain.facts import Caught, Drained
from temper_core.job.entries import Acknowledged, Facts, Voided
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    Corrected,
    LookedUnder,
    Poured,
    VacuumPulled,
)
from temper_core.job.flush.facts import FlushEnded, Method, RoundFilled, VesselRinsed, WasteKept
from temper_core.job.identify.facts import Metered, ReportedContents
from temper_core.job.inspect.decision import Routed, Skipped
from temper_core.job.inspect.facts import Sampled, Tested
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import EngineRun, GateObserved, ReadyConfirmed
from temper_core.job.readings import Read
from temper_core.job.verify.facts import FinishChecked, LeakProof, SignedOff
from temper_core.job.waiting.facts import ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged
from temper_core.products.water import WaterKind


def facts_of(given: Any, actor: Person) -> Facts:
    """Facts as the core keeps them: products and instruments are written in as they are now."""
    depot = actor.depot

    def product(pk: int | None) -> Any:
        if pk is None:
            return None
        return get_object_or_404(Product, pk=pk, depot=depot).core

    match given:
        case PlannedFacts():
            return Planned(
                product=product(given.product_id),
                coldest_c=given.coldest_c,
                margin_k=given.margin_k,
                target_freeze_c=given.target_freeze_c,
                concentrate_l=given.concentrate_l,
                water_l=given.water_l,
                dilute=given.dilute,
                reason=given.reason,
            )
        case ToldFacts():
            return ReportedContents(
                given.base, given.family, given.topped_up, given.changed_on, given.changed_km, given.changed_hours
            )
        case MeteredFacts():
            return Metered(given.distance_km, given.hours, given.replaced)
        case SampledFacts():
            return Sampled(given.spot, tuple(given.looks), given.sediment_mm, given.note)
        case TestedFacts():
            return Tested(given.check, given.outcome, given.figures, given.note, given.compensated)
        case SkippedFacts():
            return Skipped(tuple(given.checks), given.reason)
        case RoutedFacts():
            return Routed(given.route, given.advised, given.reason)
        case AcknowledgedFacts():
            return Acknowledged(str(given.entry_id))
        case GateObservedFacts():
            return GateObserved(
                warmth=given.warmth,
                pressure=given.pressure,
                held=given.held,
                temperature_c=given.temperature_c,
                soft=given.soft,
                gauge_kpa=given.gauge_kpa,
                ready=tuple(given.ready),
                isolated_by=given.isolated_by,
            )
        case ReadyConfirmedFacts():
            return ReadyConfirmed(tuple(given.ready))
        case EngineRunFacts():
            return EngineRun(given.by, given.minutes, given.opened, given.heater_full, given.neck_open)
        case DrainedFacts():
            caught = tuple(_caught(row, i) for i, row in enumerate(given.caught))
            told = (given.drained_l, given.measured, given.by_vessel)
            return Drained(*told, caught, given.ran_with_cap_on, given.corrected_l)
        case PouredFacts():
            return Poured(
                product(given.product_id),
                given.product_l,
                given.water_l,
                given.water,
                given.at_mark,
                given.method,
                given.point,
                given.bleeding,
                given.mistake,
            )
        case ReadFacts():
            return _read_facts(given, actor)
        case SignedOffFacts():
            return SignedOff(given.proof, given.reason, given.service_mode_ended)
        case VoidedFacts():
            return Voided(str(given.entry_id), given.reason)
    return fill_facts_of(given, actor) or flush_facts_of(given, actor)


def fill_facts_of(given: Any, actor: Person) -> Facts | None:
    """Facts of filling, bleeding, proving and coming back; None for any other."""
    match given:
        case ClosedFacts():
            return Closed(tuple(given.points))
        case LookedUnderFacts():
            return LookedUnder(given.dry, given.where)
        case VacuumPulledFacts():
            with under("held"):
                held = Held(**given.held.model_dump()) if given.held else None
            return VacuumPulled(given.vacuum_kpa, given.loop_c, held)
        case BleedStartedFacts():
            return BleedStarted(given.recipe)
        case BleedSteppedFacts():
            return BleedStepped(given.step)
        case BleedHeldFacts():
            return BleedHeld()
        case BleedGoesOnFacts():
            return BleedGoesOn()
        case BleedEndedFacts():
            return BleedEnded(given.outcome, tuple(given.signs), given.neck_open, given.note)
        case CorrectedFacts():
            product = get_object_or_404(Product, pk=given.product_id, depot=actor.depot).core if given.product_id else None
            return Corrected(given.out_l, product, given.product_l, given.water_l)
        case FinishCheckedFacts():
            with under("leak"):
                leak = LeakProof(**given.leak.model_dump()) if given.leak else None
            return FinishChecked(given.level, given.level_c, leak, given.no_leak_proof, tuple(given.done))
        case LevelSeenFacts():
            return LevelSeen(given.level, given.note)
        case AmendedFacts():
            return Amended(given.text, given.entry_id)
    return None


def flush_facts_of(given: Any, actor: Person) -> Facts:
    """Facts of flushing, waiting and waste; cleaner and water are written in with what their label and analysis say."""
    depot = actor.depot
    match given:
        case RoundFilledFacts():
            agent = get_object_or_404(Agent, pk=given.agent_id, depot=depot).core if given.agent_id is not None else None
            water, solids = _water(given, actor)
            return RoundFilled(given.method, water, given.fill_l, solids, agent, given.agent_ml, given.run_min)
        case SweptFacts():
            water, solids = _water(given, actor)
            return VesselRinsed(given.method, given.litres, water, solids, given.reversed_first, given.minutes)
        case FlushEndedFacts():
            return FlushEnded(given.reason)
        case WasteKeptFacts():
            return WasteKept(given.kind, given.litres, given.containers, given.reuse)
        case ClockStartedFacts():
            return ClockStarted(given.clock, given.minutes)
        case ClockStoppedFacts():
            return ClockStopped(given.entry_id)
        case TemperatureLoggedFacts():
            return TemperatureLogged(given.c)
        case PausedFacts():
            return Paused(given.note)
        case ResumedFacts():
            return Resumed()
    raise TypeError(type(given))


def _caught(given: CaughtIn, place: int) -> Caught:
    if given.marks_l is not None and given.at_c is None:
        raise CoreError(f"caught.{place}.at_c", "How warm is the fluid? By marks, litres depend on it.", "required")
    values = given.model_dump(exclude={"at_c"})
    return Caught(**values, at_c=20.0 if given.at_c is None else given.at_c)


def _water(given: RoundFilledFacts | SweptFacts, actor: Person) -> tuple[WaterKind, float | None]:
    """Kind and residue: of the source, where one is named."""
    if given.water_id is None:
        if given.water is None and given.method is not Method.BLOW_OUT:
            raise CoreError("water", "Which water: demineralised, tap or softened?", "required")
        return given.water or WaterKind.DEMINERALISED, None
    source = get_object_or_404(WaterSource, pk=given.water_id, depot=actor.depot)
    return WaterKind(source.kind), source.solids_mg_l


def _read_facts(given: ReadFacts, actor: Person) -> Read:
    instrument = None
    if given.instrument_id is not None:
        instrument = get_object_or_404(Instrument, pk=given.instrument_id, depot=actor.depot)
        if not instrument.scale:
            message = f"{instrument.name} reads no strength: note what it says at the test, or choose a refractometer."
            raise CoreError("instrument_id", message, "no_scale")
    if instrument is not None and given.sample_c is None:
        raise CoreError(
            "sample_c", "How warm is the sample? Measure it: a reading counts only with its temperature.", "required"
        )
    zero = given.zero
    if zero is None and instrument is not None and instrument.kind != InstrumentKind.STEPS.value:
        zero = instrument.zero
    return Read(
        value=given.value,
        place=given.place,
        instrument=instrument.core if instrument else None,
        zero=zero,
        sample_c=20.0 if given.sample_c is None else given.sample_c,
        after_hot_run=given.after_hot_run,
        edge=given.edge,
        branch=given.branch,
    )
