"""From findings and history to a route. Every case below is common practice, no source."""

from datetime import date

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.inspect.case import Case, Strength
from temper_core.job.inspect.facts import Check, Look, Sampled, Spot
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.inspect.judge import advise_job_type
from temper_core.job.inspect.rules import RULES
from temper_core.job.inspect.state import Weight
from temper_core.job.job_types import JobType
from temper_core.job.life.due import life_of, service_due
from temper_core.machine.equipment import ServiceInterval
from temper_core.products.chemistry import Base, Family, Fluid, Material, Requirement
from temper_core.products.unsuitable import wrong_inside

COLD = Strength(-46.0, -43.0, -38.0, 5.0, "r")
THIN = Strength(-42.0, -39.0, -38.0, 5.0, "r")
WEAK = Strength(-30.0, -28.0, -38.0, 5.0, "r")
NEW = service_due(date(2026, 1, 1), None, None, life_of((Family.OAT,), ServiceInterval(), Policy()), date(2026, 11, 25))
OLD = service_due(date(2019, 1, 1), None, None, life_of((Family.OAT,), ServiceInterval(), Policy()), date(2026, 11, 25))


def sample(*looks, spot=Spot.NECK, sediment=None, entry="s"):
    """One sample with its entry."""
    return (f"{entry}{spot.value}", Sampled(spot, tuple(looks), sediment))


def checked(check, outcome=None, **figures):
    """One check with its entry."""
    return (f"t {check.value}", Checked(check, outcome, figures))


def case(asked=JobType.REFILL, samples=(), tests=(), **more):
    """A case of a loop whose filling is known and right."""
    return Case(asked, samples, tests, **more)


CLEAN_BRIGHT = (sample(Look.CLEAN_BRIGHT),)
TABLE = [
    # what speaks, the route advised, whether to stop
    ("nothing found", case(), JobType.REFILL, False),
    ("all is well", case(samples=CLEAN_BRIGHT, strength=COLD, due=NEW), JobType.CHECK, False),
    ("well, but nobody looked at it", case(strength=COLD, due=NEW), JobType.REFILL, False),
    ("well, but its age is unknown", case(samples=CLEAN_BRIGHT, strength=COLD), JobType.REFILL, False),
    ("overdue", case(JobType.CHECK, CLEAN_BRIGHT, strength=COLD, due=OLD), JobType.REFILL, False),
    ("too weak only", case(JobType.CHECK, CLEAN_BRIGHT, strength=WEAK, due=NEW), JobType.ADJUST_STRENGTH, False),
    (
        "stronger than any table",
        case(JobType.CHECK, strength=Strength(None, None, -38, 5, "r", True)),
        JobType.ADJUST_STRENGTH,
        False,
    ),
    ("thin margin is a hint", case(JobType.CHECK, CLEAN_BRIGHT, strength=THIN, due=NEW), JobType.CHECK, False),
    ("low once", case(JobType.CHECK, tests=(checked(Check.LEVEL, "low"),)), JobType.TOP_UP, False),
    ("faded at one place is a hint", case(JobType.CHECK, (sample(Look.FADED),)), JobType.CHECK, False),
    (
        "faded at two places",
        case(JobType.CHECK, (sample(Look.FADED), sample(Look.FADED, spot=Spot.DRAIN))),
        JobType.REFILL,
        False,
    ),
    ("spent by the strip", case(JobType.CHECK, tests=(checked(Check.INHIBITOR, ph=6.8),)), JobType.REFILL, False),
    ("cleaner left inside", case(JobType.CHECK, tests=(checked(Check.INHIBITOR, ph=12.0),)), JobType.CHANGE_TYPE, False),
    ("liners unprotected", case(JobType.CHECK, tests=(checked(Check.INHIBITOR, nitrite_mg_l=300),)), JobType.DOSE, False),
    (
        "molybdate holds the liners instead",
        case(JobType.CHECK, tests=(checked(Check.INHIBITOR, nitrite_mg_l=300, molybdate_mg_l=400),)),
        JobType.CHECK,
        False,
    ),
    ("overdosed", case(JobType.CHECK, tests=(checked(Check.INHIBITOR, nitrite_mg_l=4000),)), JobType.ADJUST_STRENGTH, False),
    ("unknown inside", case(known=False), JobType.CHANGE_TYPE, False),
    ("topped up with another kind", case(other_on_top=True, known=True), JobType.CHANGE_TYPE, False),
    ("gel", case(samples=(sample(Look.GEL),)), JobType.CHANGE_TYPE, False),
    ("cloudy at one place is a hint", case(samples=(sample(Look.CLOUDY),)), JobType.REFILL, False),
    ("rust at one place is a hint", case(samples=(sample(Look.ORANGE_RUST),)), JobType.REFILL, False),
    (
        "rust at two places",
        case(samples=(sample(Look.ORANGE_RUST), sample(Look.BROWN_SWIRL, spot=Spot.BOTTLE))),
        JobType.CLEAN,
        False,
    ),
    ("rust and its sediment", case(samples=(sample(Look.ORANGE_RUST, sediment=4.0),)), JobType.CLEAN, False),
    ("sediment under the limit is none", case(samples=(sample(Look.ORANGE_RUST, sediment=1.0),)), JobType.REFILL, False),
    (
        "rust under the cap too",
        case(samples=(sample(Look.CLAY),), tests=(checked(Check.CAP, "rust"),)),
        JobType.CLEAN,
        False,
    ),
    ("rust back after one clean: repeat once", case(samples=(sample(Look.ORANGE_RUST),), cleans=1), JobType.CLEAN, False),
    ("back again: stop cleaning", case(samples=(sample(Look.ORANGE_RUST),), cleans=2), JobType.CHECK, True),
    (
        "back again, and gas in it",
        case(samples=(sample(Look.ORANGE_RUST),), tests=(checked(Check.COMBUSTION_GAS, "positive"),), cleans=2),
        JobType.CHECK,
        True,
    ),
    (
        "back again, no gas",
        case(samples=(sample(Look.ORANGE_RUST),), tests=(checked(Check.COMBUSTION_GAS, "negative"),), cleans=2),
        JobType.CHANGE_TYPE,
        False,
    ),
    ("oil at one place is a hint", case(samples=(sample(Look.OILY_FILM),)), JobType.REFILL, False),
    (
        "oil at two places",
        case(samples=(sample(Look.OILY_FILM), sample(Look.OILY_FILM, spot=Spot.BOTTLE))),
        JobType.CHECK,
        True,
    ),
    ("the level keeps falling", case(tests=(checked(Check.LEVEL, "keeps_falling"),)), JobType.CHECK, True),
    ("endless bubbles", case(tests=(checked(Check.BUBBLES, "endless"),)), JobType.CHECK, True),
    (
        "it does not hold pressure: leak first, then cleaner",
        case(
            samples=(sample(Look.ORANGE_RUST, sediment=9),),
            tests=(checked(Check.PRESSURE, start_kpa=100, end_kpa=88, minutes=8),),
        ),
        JobType.CHECK,
        True,
    ),
    (
        "it holds",
        case(tests=(checked(Check.PRESSURE, start_kpa=100, end_kpa=99, minutes=8),)),
        JobType.REFILL,
        False,
    ),
    ("radiator sides alike are a hint", case(tests=(checked(Check.RADIATOR, in_c=88, out_c=85),)), JobType.REFILL, False),
    ("a soft hose says nothing of the coolant", case(tests=(checked(Check.HOSES, "soft"),)), JobType.REFILL, False),
    (
        "over the maker's conductivity",
        case(JobType.CHECK, tests=(checked(Check.CONDUCTIVITY, us_cm=180, sample_c=20),), conductivity_limit_us_cm=100),
        JobType.REFILL,
        False,
    ),
]


@pytest.mark.parametrize(("name", "given", "job_type", "stop"), TABLE, ids=[row[0] for row in TABLE])
def test_what_is_counselled(name, given, job_type, stop):
    advice = advise_job_type(given)
    assert (advice.job_type, advice.stop) == (job_type, stop), [reason.said.sentence for reason in advice.reasons]
    assert advice.said.sentence.endswith(".")


def test_reasons_point_to_their_findings_and_the_deciding_ones_stand_first():
    advice = advise_job_type(case(samples=(sample(Look.ORANGE_RUST, sediment=4.0), sample(Look.FADED, spot=Spot.DRAIN))))
    forces = [reason.weight for reason in advice.reasons]
    assert forces == sorted(forces, reverse=True)
    pointed = {reason.code: reason.entry_id for reason in advice.reasons}
    assert pointed["dirt"] == "sneck"
    assert pointed["tired"] == "sdrain"


@pytest.mark.parametrize(
    ("given", "asked"),
    [
        (case(samples=(sample(Look.ORANGE_RUST),), cleans=1), Check.COMBUSTION_GAS),
        (case(samples=(sample(Look.ORANGE_RUST),), cleans=2), Check.COMBUSTION_GAS),
        (case(samples=(sample(Look.OILY_FILM),)), Check.COMBUSTION_GAS),
        (case(tests=(checked(Check.LEVEL, "keeps_falling"),)), Check.PRESSURE),
        (
            case(
                tests=(checked(Check.LEVEL, "keeps_falling"), checked(Check.PRESSURE, start_kpa=100, end_kpa=100, minutes=9))
            ),
            Check.COMBUSTION_GAS,
        ),
        (case(tests=(checked(Check.BUBBLES, "endless"),)), Check.COMBUSTION_GAS),
        (case(watered=True), Check.PRESSURE),
        (case(tests=(checked(Check.PRESSURE, start_kpa=100, end_kpa=99, minutes=1),)), None),
        (case(tests=(checked(Check.RADIATOR, in_c=88, out_c=85),)), Check.FLOW),
        (case(samples=(sample(Look.CLOUDY),)), Check.INHIBITOR),
        (case(samples=CLEAN_BRIGHT), None),
    ],
)
def test_the_tests_that_would_sharpen_it(given, asked):
    advice = advise_job_type(given)
    assert [test.check for test in advice.tests] == ([asked] if asked else [])


def test_a_test_that_was_made_is_not_asked_for_again():
    made = (checked(Check.COMBUSTION_GAS, "negative"),)
    advice = advise_job_type(case(samples=(sample(Look.OILY_FILM),), tests=made))
    assert Check.COMBUSTION_GAS not in {test.check for test in advice.tests}


def test_the_newest_result_of_a_check_counts():
    first, second = checked(Check.LEVEL, "keeps_falling"), ("later", Checked(Check.LEVEL, "at_mark"))
    assert advise_job_type(case(tests=(first,))).stop
    assert not advise_job_type(case(tests=(first, second))).stop


@pytest.mark.parametrize(
    ("tests", "code"),
    [
        ((checked(Check.PRESSURE, start_kpa=60, end_kpa=60, minutes=10),), "held_low"),
        ((checked(Check.PRESSURE, start_kpa=100, end_kpa=100, minutes=2),), "held_short"),
        ((checked(Check.PRESSURE, start_kpa=100, end_kpa=98, minutes=10),), "tight"),
        ((checked(Check.PRESSURE, start_kpa=100, end_kpa=97.9, minutes=10),), "pressure_lost"),
    ],
)
def test_a_pressure_hold_says_what_it_proves(tests, code):
    advice = advise_job_type(case(tests=tests, cap_gauge_kpa=103))
    assert code in {reason.code for reason in advice.reasons}


def test_limits_are_policy():
    given = (sample(Look.ORANGE_RUST, sediment=4.0),)
    strict, lax = Policy({"sediment_mm": 2.0}), Policy({"sediment_mm": 10.0})
    assert advise_job_type(case(samples=given, policy=strict)).job_type is JobType.CLEAN
    assert advise_job_type(case(samples=given, policy=lax)).job_type is JobType.REFILL


def test_without_a_limit_of_the_maker_conductivity_is_only_a_hint():
    advice = advise_job_type(case(tests=(checked(Check.CONDUCTIVITY, us_cm=180, sample_c=20),)))
    assert [(r.code, r.weight) for r in advice.reasons] == [("no_limit", Weight.HINT)]


@pytest.mark.parametrize(
    ("inside", "need", "code"),
    [
        (Fluid(Base.ETHYLENE, Family.IAT), Requirement(families=(Family.OAT,)), "wrong_inside_maker_asks_other"),
        (Fluid(Base.ETHYLENE, Family.OAT), Requirement(families=(Family.OAT,)), None),
        (Fluid(Base.ETHYLENE, Family.OAT), Requirement(standards=("ASTM D6210",)), None),  # cannot be seen
        (
            Fluid(Base.ETHYLENE, Family.OAT),
            Requirement(materials=(Material.COPPER_BRASS_SOLDER,)),
            "wrong_inside_material_copper_brass_solder",
        ),
        (Fluid(Base.ETHYLENE, Family.OAT), Requirement(low_conductivity=True), "wrong_inside_needs_low_conductivity"),
        (Fluid(Base.NONE, Family.GLYCOL_FREE), Requirement(), "wrong_inside_no_frost_protection"),
        (Fluid(Base.ETHYLENE, None), Requirement(families=(Family.OAT,)), None),  # unknown is judged elsewhere
    ],
)
def test_whether_the_filling_belongs_there(inside, need, code):
    found = wrong_inside(inside, need)
    assert (found.code if found else None) == code
    if found:
        assert advise_job_type(case(wrong=found)).job_type is JobType.CHANGE_TYPE


def test_every_rule_can_stay_silent():
    assert all(list(rule(case())) == [] for rule in RULES)
