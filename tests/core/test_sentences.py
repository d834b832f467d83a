"""How the record tells every kind of entry; the words are ours (docs/words), the figures each case's own."""

from datetime import UTC, datetime
from random import Random

import pytest

from temper_core.basis.in_units import System, shown_in
from temper_core.basis.message import join, say
from temper_core.calculate.vacuum import Held
from temper_core.instruments import InstrumentKind, Scale
from temper_core.job.apart.facts import SetAside
from temper_core.job.drain.facts import Caught, Drained, Measured
from temper_core.job.entries import Edited, JobOpened, Voided
from temper_core.job.fill.facts import LookedUnder, Poured, VacuumPulled, Water
from temper_core.job.identify.facts import Metered, ReportedContents, ToppedUp
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Check, Look, Sampled, Spot
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JOB_TYPE_NAMES, JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.mix.facts import Planned
from temper_core.job.open.facts import EngineRun, GateObserved, Pressure, Warmth
from temper_core.job.parking.facts import Parked, Parking
from temper_core.job.read.facts import Instrument, Place, Read
from temper_core.job.verify.facts import FinishChecked, LeakMethod, LeakProof, Level, SignedOff
from temper_core.job.waiting.facts import Paused
from temper_core.products.chemistry import Base, Family, Form, Product
from temper_core.views.names import NAMES
from tests.walks import MAKERS

WINTERLINE = Product("p", "Winterline O", Base.ETHYLENE, Family.OAT, Form.CONCENTRATE, 94.0)
GLASS = Instrument("g", "Glass 3", Scale.FREEZE_ETHYLENE, 1.0)
STEPS = Instrument("s", "Steps 1", Scale.FREEZE_ETHYLENE, 1.0, InstrumentKind.STEPS, freezes_c=(-10.0, -20.0))
BRIX = Instrument("b", "Brix 2", Scale.BRIX, 0.2)
NOON = datetime(2026, 11, 27, 12, tzinfo=UTC)

CASES = [
    (JobOpened(JobType.CHANGE_TYPE), "Job started: change type"),
    (Edited("e3", "e9"), "Entry edited"),
    (SetAside("drained", "24.5 L out", "{}", NOON), "Set aside, does not count: 24.5 L out"),
    (
        SetAside("drained", "24.5 L out", "{}", NOON, "drained twice"),
        "Set aside, does not count: 24.5 L out (drained twice)",
    ),
    (Parked(Parking.INDOORS), "Parked indoors"),
    (Paused("Fuse is on order.", Parking.OUTDOORS), "Paused, parked outdoors: Fuse is on order."),
    (Planned(WINTERLINE, -35, 3), "Coolant: Winterline O"),
    (
        Planned(WINTERLINE, -35, 3, -45, 18.3, 6.6),
        "Mix accepted: 18.3 L Winterline O + 6.6 L water, to −45 °C",
    ),
    (Drained(24.5, Measured.WEIGHED), "24.5 L out, weighed"),
    (Drained(24.5, Measured.MARKS), "24.5 L out, jug marks"),
    (
        Drained(caught=(Caught("a", 14.2, 1.1), Caught("b", marks_l=3.0)), corrected_l=15.0),
        "15.0 L out, corrected; as recorded: a 13.10 kg, b 3.0 L by marks",
    ),
    (
        Poured(WINTERLINE, 18.3, 6.6, Water.TAP, at_mark=True),
        "Poured 18.3 L Winterline O + 6.6 L tap water, at the mark",
    ),
    (Poured(None, 0, 0.4, Water.DEMINERALISED), "Poured 0.4 L demineralised water"),
    (Poured(None, 0, 0.4, Water.TAP, mistake=True), "Poured 0.4 L tap water, by mistake"),
    (Read(-46.6, Place.FINISHED, GLASS), "Read −46.6 °C on Glass 3"),
    (Read(-19, Place.AS_FOUND), "As found −19.0 °C, reported"),
    (Read(2, Place.AS_FOUND, STEPS), "As found 2 steps on Steps 1"),
    (Read(31.2, Place.RINSE, BRIX), "Rinse read 31.2 Brix on Brix 2"),
    (SignedOff("too_weak", "race tonight"), "Signed off: too weak (race tonight)"),
    (Voided("x"), "Entry undone"),
    (
        ReportedContents(Base.ETHYLENE, Family.IAT, ToppedUp.WATER),
        "Reported inside: silicate type, ethylene glycol; topped up with water",
    ),
    (
        ReportedContents(changed_km=120000, changed_hours=5100),
        "Reported inside: family unknown, base unknown; topped up with not known; changed at 120000 km, 5100 h",
    ),
    (Metered(128400, 5210), "Meters: 128400 km, 5210 h"),
    (Metered(None, 12, replaced=True), "Meters: 12 h, meter replaced"),
    (
        Sampled(Spot.NECK, (Look.ORANGE_RUST, Look.FINE_SAND), 4),
        "Sample at the neck: orange rust, sand-like rust, 4 mm sediment",
    ),
    (VacuumPulled(72, 15, Held(10, 0.5)), "Vacuum 72.0 kPa below ambient, 0.5 kPa lost in 10 min"),
    (Checked(Check.COMBUSTION_GAS, "negative"), "Combustion gas: no change"),
    (Checked(Check.INHIBITOR, figures={"ph": 7, "nitrite_mg_l": 420}), "Strips: pH 7, nitrite 420 mg/l"),
    (
        Checked(Check.PRESSURE, figures={"start_kpa": 100, "end_kpa": 98, "minutes": 5}),
        "Pressure hold: start 100 kPa, end 98 kPa, after 5 min",
    ),
    (Skipped((Check.HOSES, Check.CAP), "no time"), "Left out: hoses, cap and neck (no time)"),
    (GateObserved(Warmth.HAND, Pressure.HOSE, held=True, soft=False), "Safe-to-open check: can be held, hose hard"),
    (
        GateObserved(Warmth.PROBE, Pressure.GAUGE, temperature_c=31, gauge_kpa=0),
        "Safe-to-open check: 31 °C, gauge 0 kPa",
    ),
    (EngineRun(minutes=12, opened=True), "Engine ran 12 min, thermostat opened"),
    (LookedUnder(False, "pump joint"), "Drips at pump joint"),
    (
        FinishChecked(Level.AT_MARK, 18, LeakProof(LeakMethod.PRESSURE, 95, 1.5, 10)),
        "Final check: level at the cold mark at 18 °C, 1.5 kPa lost in 10 min",
    ),
]


@pytest.mark.parametrize(("facts", "told"), CASES, ids=lambda value: type(value).__name__)
def test_an_entry_is_told_in_plain_words(facts, told):
    assert REGISTRY.sentence(facts).sentence == told


def test_the_decision_says_whether_it_follows_the_advice():
    clean, renew = JOB_TYPE_NAMES[JobType.CLEAN], JOB_TYPE_NAMES[JobType.REFILL]
    said = REGISTRY.sentence(JobTypeChosen(JobType.CLEAN, JobType.CLEAN)).sentence
    assert said == f"{clean[:1].upper()}{clean[1:]}, as advised"
    against = REGISTRY.sentence(JobTypeChosen(JobType.REFILL, JobType.CLEAN, "leaves at noon")).sentence
    assert against == f"{renew[:1].upper()}{renew[1:]}, against advice ({clean}): leaves at noon"


def test_figures_are_told_in_the_units_of_the_reader():
    """US customary by NIST SP 811: 1 US quart is 0.946353 l, 1 mile 1.609344 km, 1 psi 6.894757 kPa."""
    assert shown_in(REGISTRY.sentence(Drained(24.5, Measured.WEIGHED)), System.US) == "25.9 US qt out, weighed"
    assert shown_in(REGISTRY.sentence(Metered(128400)), System.US) == "Meters: 79784 mi"
    pulled = shown_in(REGISTRY.sentence(VacuumPulled(72, 15)), System.US)
    assert pulled == "Vacuum 10.4 psi below ambient"


def test_joined_messages_keep_their_figures_apart():
    said = join("x", [say("a", "{in_l} here", in_l=1.0), say("b", "{in_l} there", in_l=2.0)], " and ")
    assert said.sentence == "1.0 L here and 2.0 L there"
    assert shown_in(said, System.US) == "1.1 US qt here and 2.1 US qt there"


def test_every_kind_is_told_and_no_code_shows_through():
    """Whatever a walk makes: no underscore, no class name, no empty end."""
    told = {REGISTRY.named_by(kind) for kind in (*MAKERS, Edited)}
    assert told == {kind.name for kind in REGISTRY}
    rng = Random(7)
    for kind, make in MAKERS.items():
        for _ in range(5):
            facts = made(make, rng)
            if facts is None:
                continue
            said = REGISTRY.sentence(facts).sentence
            assert "_" not in said, kind
            assert said == said.strip().rstrip(":,"), kind


def made(make, rng):
    """Facts by a maker of the walks; None where it needs entries before it."""
    try:
        return make(rng, [])
    except (IndexError, StopIteration, ValueError):
        return None


def test_names_have_every_code_of_their_list():
    assert set(NAMES["family"]) == set(Family)
    assert set(NAMES["job_type"]) == set(NAMES["job_type_means"]) == set(JobType)
    assert set(NAMES["base"]) == set(Base)
    assert all(name and "_" not in name for rows in NAMES.values() for name in rows.values())
