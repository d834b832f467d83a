"""What somebody may try next on a loop: one maker per kind of entry, and the order a job is usually done in."""

from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from datetime import UTC, datetime
from random import Random

from temper_core.basis.errors import CoreError
from temper_core.calculate.vacuum import Held
from temper_core.job.apart.facts import SetAside
from temper_core.job.between.facts import Amended, LevelSeen, LostWhen, Spilled
from temper_core.job.dose.facts import Dosed
from temper_core.job.entries import Acknowledged, Entry, JobOpened, PhotoAdded, Voided, standing
from temper_core.job.fact import Fact
from temper_core.job.fill.facts import (
    BleedEnded,
    BleedGoesOn,
    BleedHeld,
    BleedStarted,
    BleedStepped,
    Closed,
    LookedUnder,
    StrengthAdjusted,
    VacuumPulled,
)
from temper_core.job.flush.facts import FlushEnded, Method, VesselRinsed, WasteKept, WasteKind
from temper_core.job.identify.facts import Metered, ReportedContents, ToppedUp
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import CHECK_ROWS, Check, Look, Sampled, Spot
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.open.facts import EngineRun, Ran, Ready, ReadyConfirmed
from temper_core.job.parking.facts import Parked, Parking
from temper_core.job.read.facts import Listed, Place, Read
from temper_core.job.verify.facts import FinishChecked, FinishPoint, Level, SignedOff
from temper_core.job.waiting.facts import Clock, ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged
from temper_core.machine.bleed_recipes import shipped_recipes
from temper_core.machine.bleeding import BleedOutcome, FinishSign
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.chemistry import Base, Family
from tests.core.test_ledger import BLED, FELT, GLASS, HOT, LAYOUT, NEW, PG, RINSE, planned, pour, read, weighed

LINERDOSE = Agent("Linerdose", AgentKind.ADDITIVE, 500, 20, nitrite_mg_l=1200, families=tuple(Family))
LITRES = (0.2, 4.0, 12.0, 24.5, 31.9)
SHUT = ("drain:A", "drain:B", "seals", "cap")


def _ids(entries: list[Entry], *kinds: type) -> list[str]:
    return [entry.id for entry in standing(entries) if not kinds or isinstance(entry.facts, kinds)] or ["nothing"]


def _litres(rng: Random) -> float:
    return rng.choice(LITRES)


def _poured(rng: Random) -> Fact:
    if rng.random() < 0.3:
        return pour(None, 0.0, _litres(rng) / 3, at_mark=rng.random() < 0.3)
    return pour(rng.choice((NEW, NEW, PG)), _litres(rng) / 2, _litres(rng) / 4, at_mark=rng.random() < 0.4)


def _checked(rng: Random) -> Fact:
    check = rng.choice([one for one in Check if CHECK_ROWS[one].outcomes])
    return Checked(check, rng.choice(CHECK_ROWS[check].outcomes).key)


def _read(rng: Random) -> Fact:
    return rng.choice(
        (
            Read(rng.choice((-3.0, -19.0, -36.0)), Place.AS_FOUND),
            Read(rng.choice((-2.0, -6.0)), Place.RINSE, instrument=GLASS, zero=-0.4, sample_c=20.0),
            read(rng.choice((-12.0, -38.0, -46.0))),
        )
    )


MAKERS: dict[type[Fact], Callable[[Random, list[Entry]], Fact]] = {
    JobOpened: lambda r, e: JobOpened(r.choice(list(JobType))),
    ReportedContents: lambda r, e: ReportedContents(r.choice(list(Base)), r.choice(list(Family)), r.choice(list(ToppedUp))),
    Metered: lambda r, e: Metered(r.choice((1e3, 2e3)), r.choice((None, 500.0)), r.random() < 0.3),
    Acknowledged: lambda r, e: Acknowledged(r.choice(_ids(e, JobTypeChosen))),
    PhotoAdded: lambda r, e: PhotoAdded(r.choice(_ids(e)), "a" * 64),
    Sampled: lambda r, e: Sampled(r.choice(list(Spot)), (r.choice(list(Look)),)),
    Checked: lambda r, e: _checked(r),
    Skipped: lambda r, e: Skipped((r.choice(list(Check)),), "no time"),
    Dosed: lambda r, e: Dosed(LINERDOSE, r.choice((100.0, 900.0))),
    JobTypeChosen: lambda r, e: JobTypeChosen(
        r.choice((JobType.CHANGE_TYPE, JobType.REFILL, JobType.DOSE)),
        r.choice((JobType.CHANGE_TYPE, JobType.REFILL, JobType.DOSE)),
        "so",
    ),
    type(FELT): lambda r, e: FELT,
    ReadyConfirmed: lambda r, e: ReadyConfirmed((r.choice(list(Ready)),)),
    EngineRun: lambda r, e: EngineRun(r.choice(list(Ran)), r.choice((3.0, 25.0))) if r.random() < 0.5 else HOT,
    TemperatureLogged: lambda r, e: TemperatureLogged(r.choice((35.0, 60.0, 80.0))),
    ClockStarted: lambda r, e: ClockStarted(r.choice(list(Clock)), r.choice((0.5, 10.0, 600.0))),
    ClockStopped: lambda r, e: ClockStopped(r.choice(_ids(e, ClockStarted))),
    Paused: lambda r, e: Paused("lunch"),
    Resumed: lambda r, e: Resumed(),
    type(planned()): lambda r, e: planned(
        r.choice((None, -20.0, -45.0)), r.choice((NEW, NEW, PG)), concentrate_l=_litres(r) / 2, water_l=_litres(r) / 4
    ),
    type(weighed(1.0)): lambda r, e: weighed(_litres(r)),
    type(RINSE): lambda r, e: RINSE,
    VesselRinsed: lambda r, e: VesselRinsed(r.choice(list(Method)), {"block": r.choice((1.0, 8.0))}),
    FlushEnded: lambda r, e: FlushEnded("for the walk"),
    WasteKept: lambda r, e: WasteKept(r.choice(list(WasteKind)), _litres(r), 2, r.random() < 0.3),
    Closed: lambda r, e: Closed(r.choice((("drain:A",), ("drain:B", "seals"), SHUT))),
    LookedUnder: lambda r, e: r.choice((LookedUnder(True), LookedUnder(False, "B"))),
    VacuumPulled: lambda r, e: VacuumPulled(r.choice((30.0, 70.0)), 20.0, r.choice((None, Held(1.0, 10.0)))),
    type(pour(None, 0.0, 1.0)): lambda r, e: _poured(r),
    BleedStarted: lambda r, e: BleedStarted(r.choice(list(shipped_recipes(LAYOUT)))),
    BleedStepped: lambda r, e: BleedStepped(r.choice((0, 0, 0, 1, 2))),
    BleedHeld: lambda r, e: BleedHeld(),
    BleedGoesOn: lambda r, e: BleedGoesOn(),
    BleedEnded: lambda r, e: BleedEnded(r.choice(list(BleedOutcome)), tuple(FinishSign)[:2]),
    StrengthAdjusted: lambda r, e: StrengthAdjusted(_litres(r) / 4, NEW, _litres(r) / 8, _litres(r) / 8),
    FinishChecked: lambda r, e: FinishChecked(r.choice(list(Level)), 20.0, None, "no tool", tuple(FinishPoint)),
    LevelSeen: lambda r, e: r.choice(
        [
            LevelSeen(r.choice(list(Level))),
            LevelSeen(Level.LOW, missing_mm=r.uniform(0, 90), lost_when=r.choice(list(LostWhen))),
        ]
    ),
    Spilled: lambda r, e: Spilled(r.uniform(0.01, 3)),
    Parked: lambda r, e: Parked(r.choice(list(Parking))),
    Read: lambda r, e: _read(r),
    Listed: lambda r, e: Listed(read(r.choice((-12.0, -38.0)))),
    SignedOff: lambda r, e: SignedOff(r.choice(("proven", "protected", "too_weak")), "for the walk"),
    Amended: lambda r, e: Amended("was not wiped", r.choice(_ids(e))),
    SetAside: lambda r, e: SetAside(
        "drained", "24.5 L out, weighed", "{}", datetime(2026, 11, 27, tzinfo=UTC), r.choice(("", "drained twice"))
    ),
    Voided: lambda r, e: Voided(r.choice(_ids(e)), "for the walk"),
}
BETWEEN = (
    LevelSeen,
    Spilled,
    Parked,
    Listed,
    Metered,
    ReportedContents,
    TemperatureLogged,
    EngineRun,
    type(FELT),
    Amended,
    SetAside,
)

FILLING = (planned(-45.0, concentrate_l=18.1, water_l=6.7), Closed(SHUT), pour(NEW, 18.2, 6.6, at_mark=True))
SIGNED = tuple(  # whichever verdict stands; the others are refused
    SignedOff(code, "for the walk")
    for code in ("proven", "protected", "too_weak", "does_not_agree", "read_again", "too_strong")
)
FINISH = FinishChecked(Level.AT_MARK, 20.0, None, "no tool", tuple(FinishPoint))
RECIPE = next(iter(shipped_recipes(LAYOUT)))


def _strips(nitrite_mg_l: float) -> Fact:
    return Checked(Check.INHIBITOR, figures={"nitrite_mg_l": nitrite_mg_l})


JOBS = (  # the usual order; what a walk puts between them sends it elsewhere; a kind alone: of what stands there by then
    (
        *(JobOpened(JobType.CHANGE_TYPE), planned(), Sampled(Spot.NECK, (Look.CLEAN_BRIGHT,)), Checked),
        *(
            JobTypeChosen(JobType.CHANGE_TYPE, JobType.CHANGE_TYPE),
            weighed(24.5),
            RINSE,
            HOT,
            weighed(24.5),
            FlushEnded("enough"),
        ),
        *(*FILLING, LookedUnder(True), BLED, HOT, read(-46.0), FINISH, *SIGNED),
        *(Spilled, LevelSeen(Level.LOW), Amended, SetAside, Listed, JobOpened(JobType.TOP_UP)),
    ),
    (
        *(JobOpened(JobType.REFILL), Read(-19.0, Place.AS_FOUND), planned(), weighed(24.5), *FILLING, LookedUnder(True)),
        *(BleedStarted(RECIPE), BleedStepped(0), BleedHeld(), BleedGoesOn(), BleedStepped(1), BLED, read(-30.0)),
        *(StrengthAdjusted(3.0, NEW, 3.0, 0.0), BLED, read(-46.0)),
    ),
    (
        *(JobOpened(JobType.TOP_UP), ReportedContents(Base.ETHYLENE, Family.OAT, ToppedUp.WATER), Metered(1e3), planned()),
        *(pour(NEW, 0.6, 0.4, at_mark=True), HOT, read(-38.0), FINISH, *SIGNED),
        *(
            Spilled,
            LevelSeen(Level.LOW),
            Amended,
            SetAside,
            Listed,
            Metered(2e3),
            JobOpened(JobType.REFILL),
            planned(),
            weighed(24.5),
        ),
    ),
    (
        *(
            JobOpened(JobType.CLEAN),
            Checked,
            planned(),
            weighed(24.5),
            RINSE,
            ClockStarted(Clock.WARM_UP, 10.0),
            ClockStopped,
        ),
        *(HOT, weighed(24.0), FlushEnded("enough"), planned(-45.0, concentrate_l=18.1, water_l=6.7), Closed(SHUT)),
        *(VacuumPulled(70.0, 20.0, Held(1.0, 10.0)), *FILLING[2:]),
    ),
    (
        *(
            JobOpened(JobType.CHANGE_TYPE),
            planned(),
            JobTypeChosen(JobType.REFILL, JobType.CHANGE_TYPE, "no time"),
            Acknowledged,
        ),
        *(weighed(24.5), VesselRinsed(Method.OPEN_RINSE, {"block": 8.0}), WasteKept(WasteKind.OLD_COOLANT, 12.0, 2)),
        *(FlushEnded("enough"), *FILLING, LookedUnder(True), BLED, Paused("lunch"), Resumed(), read(-46.0)),
    ),
    (
        *(JobOpened(JobType.CHECK), _strips(300), JobTypeChosen(JobType.DOSE, JobType.DOSE), Dosed, HOT, _strips(1000)),
        *(Dosed, HOT, _strips(1200), Paused("lunch"), Resumed(), SignedOff("checked"), pour(NEW, 0.5, 0.5), LevelSeen),
    ),
)


def _made(kind: type[Fact], rng: Random, entries: list[Entry]) -> Iterator[Fact]:
    with suppress(CoreError):  # what was typed cannot be: refused before it is an entry
        yield MAKERS[kind](rng, entries)


def steps(rng: Random, entries: list[Entry], seen: Mapping[str, int], tries: int) -> Iterator[Fact]:
    """So many facts to try, one at a time: mostly the next of a usual job, else whatever kind was seen least so far.

    entries is read anew for each; seen counts the kinds that were accepted so far.
    """
    usual = list(rng.choice(JOBS))
    if rng.random() < 0.3:
        usual[0] = JobOpened(rng.choice(list(JobType)))
    yield usual.pop(0)
    for _ in range(tries):
        if usual and rng.random() < 0.8:
            one = usual.pop(0)
        else:
            one = min(rng.sample(list(MAKERS), 6), key=lambda kind: seen.get(REGISTRY.named_by(kind), 0))
        if isinstance(one, type):
            yield from _made(one, rng, entries)
        else:
            yield one
