"""An additive dose as a job: strips first, by its label, run hot, strips again, then signed; the account beside it."""

from dataclasses import replace
from datetime import timedelta

import pytest

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.dose.facts import Dosed
from temper_core.job.dose.state import DoseStep, DoseVerdict
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.identify.facts import ReportedContents, ToppedUp
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.inspect.facts import Check
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JobType
from temper_core.job.verify.facts import SignedOff
from temper_core.machine.equipment import CoolantFilter, Equipment
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.chemistry import Base, Family, Fluid, Form, Material, Product, Requirement
from temper_core.products.shelf import Can, CanKind, Taken
from tests.core.test_ledger import HOT, START, Book, a_loop, pour, weighed

CARD = (0, 400, 800, 1600, 3200)
LINERS = a_loop(need=Requirement(materials=frozenset({Material.WET_LINERS})), believed=Fluid(Base.ETHYLENE, Family.NOAT))
AGENT = Agent("Linerdose", AgentKind.ADDITIVE, 500, 20, nitrite_mg_l=1200, families=(Family.NOAT,))
NOAT = Product("9", "Ridge N", Base.ETHYLENE, Family.NOAT, Form.READY_MIX, 52.0)


def strip(nitrite, card=CARD):
    return Checked(Check.INHIBITOR, figures={"nitrite_mg_l": nitrite}, card={"nitrite_mg_l": card} if card else {})


def dosing(nitrite=400, loop=LINERS):
    """A job that doses, its strips read."""
    book = Book(loop)
    book.add(JobOpened(JobType.CHECK), strip(nitrite))
    advised = book.state.advice.job_type
    book.add(JobTypeChosen(JobType.DOSE, advised, "" if advised is JobType.DOSE else "asked by its owner"))
    return book


def between(book, facts, job=None):
    """Recorded between services, or in a job without asking whether it may be."""
    at = START + timedelta(minutes=len(book.entries))
    book.entries.append(Entry(f"e{len(book.entries)}", job, at, at, "IH", facts))


def test_the_whole_job():
    """400 on its card is at most 800; 32 l, 500 ml raise 20 l by 1200: 530 ml raise 795 mg/l, to at most 1595 of 3200."""
    book = dosing()
    assert book.state.advice.job_type is JobType.DOSE
    assert book.state.dose.step is DoseStep.POUR
    book.add(Dosed(AGENT, 530))
    row = book.state.inhibitor[0]
    assert (row.low_mg_l, row.high_mg_l) == (pytest.approx(795), pytest.approx(1595))
    assert book.state.dose.step is DoseStep.RUN
    with pytest.raises(Conflict, match="not mixed yet"):
        book.add(strip(800))
    with pytest.raises(Conflict, match="strips again"):
        book.add(SignedOff("checked"))
    book.add(HOT)
    assert book.state.dose.step is DoseStep.AGAIN
    book.add(strip(1600))
    assert book.state.dose.verdict is DoseVerdict.PROTECTED
    book.add(SignedOff("checked"))
    assert book.state.signed_at is not None
    assert book.state.inhibitor[0].doses == 0


@pytest.mark.parametrize(
    ("agent", "code"),
    [
        (Agent("Bare", AgentKind.ADDITIVE, 500, 20, families=(Family.NOAT,)), "no_strength"),
        (Agent("Mute", AgentKind.ADDITIVE, 500, 20, nitrite_mg_l=1200), "no_families"),
        (Agent("Other", AgentKind.ADDITIVE, 500, 20, nitrite_mg_l=1200, families=(Family.OAT,)), "other_family"),
        (Agent("Moly", AgentKind.ADDITIVE, 500, 20, molybdate_mg_l=300, families=(Family.NOAT,)), "strip_first"),
    ],
)
def test_what_the_label_does_not_cover_is_refused(agent, code):
    with pytest.raises(CoreError) as caught:
        dosing().add(Dosed(agent, 100))
    assert (caught.value.code, caught.value.field) == (code, "agent_id")


def test_an_overdose_is_refused_and_says_what_it_would_come_to():
    with pytest.raises(CoreError, match="3950 mg/l, over 3200"):
        dosing().add(Dosed(AGENT, 2100))


def test_an_additive_goes_in_by_its_own_job_and_on_its_own_strips():
    book = Book(LINERS)
    book.add(JobOpened(JobType.CHECK), strip(400))
    with pytest.raises(Conflict, match="its own job"):
        book.add(Dosed(AGENT, 100))
    book.add(JobTypeChosen(JobType.DOSE, JobType.DOSE), Dosed(AGENT, 100), HOT, strip(800), SignedOff("checked"))
    book.job = "job 2"
    book.add(JobOpened(JobType.DOSE))
    book.add(JobTypeChosen(JobType.DOSE, book.state.advice.job_type, "again"))
    assert book.state.dose.step is DoseStep.STRIPS
    with pytest.raises(CoreError, match="Read the strip for nitrite first"):
        book.add(Dosed(AGENT, 100))
    assert book.state.inhibitor[0].low_mg_l is None  # used up since: of an older strip only "at most" holds


def test_the_family_inside_has_to_be_known():
    unknown = a_loop(need=LINERS.need, believed=Fluid(Base.ETHYLENE, None))
    with pytest.raises(CoreError) as caught:
        dosing(loop=unknown).add(Dosed(AGENT, 100))
    assert caught.value.code == "family_unknown"


@pytest.mark.parametrize(
    ("ml", "after", "verdict"),
    [
        (200, 400, DoseVerdict.STILL_LOW),
        (200, 800, DoseVerdict.PROTECTED),
        (400, 0, DoseVerdict.DISAGREES),
        (200, 3300, DoseVerdict.OVERDOSED),
    ],
)
def test_the_strips_after_the_dose_decide(ml, after, verdict):
    """200 ml on 0 to 800 mg/l come to 300 to 1100; 400 ml to 600 to 1400, where a band of 0 to 400 cannot be."""
    book = dosing()
    book.add(Dosed(AGENT, ml), HOT, strip(after, (*CARD, 3300)))
    assert book.state.dose.verdict is verdict
    if verdict is DoseVerdict.PROTECTED:
        return
    with pytest.raises(CoreError) as caught:
        book.add(SignedOff("checked"))
    assert caught.value.code == ("overdosed" if verdict is DoseVerdict.OVERDOSED else "required")
    if verdict is DoseVerdict.STILL_LOW:
        assert book.add(SignedOff("checked", "the owner wants it back")).signed_at is not None


def test_water_thins_new_coolant_opens_and_a_drain_ends_the_account():
    book = dosing()
    book.add(Dosed(AGENT, 100), HOT, strip(800), SignedOff("checked"))
    between(book, pour(None, 0.0, 3.2))
    assert book.state.inhibitor[0].high_mg_l == pytest.approx(1440)
    between(book, pour(NOAT, 1.0, 0.0, None))
    assert book.state.inhibitor[0].high_mg_l is None
    book.job = "job 2"
    book.add(JobOpened(JobType.REFILL), ReportedContents(Base.ETHYLENE, Family.NOAT, ToppedUp.NOTHING))
    between(book, weighed(24.0), book.job)
    between(book, pour(NOAT, 23.0, 0.0, None), book.job)
    assert not book.state.inhibitor


def test_a_strip_is_matched_to_its_card():
    with pytest.raises(CoreError, match="none of its card"):
        strip(500)
    with pytest.raises(CoreError, match="values of a card rise"):
        strip(400, (400, 0))


def test_a_dose_comes_out_of_its_own_container():
    own = Can("1", "C-001", CanKind.AGENT, agent="Linerdose")
    assert Dosed(AGENT, 500, (Taken(own, 0.5),)).taken
    for can, litres in (
        (Can("2", "C-002", CanKind.COOLANT), 0.5),
        (Can("3", "C-003", CanKind.AGENT, agent="X"), 0.5),
        (own, 2),
    ):
        with pytest.raises(CoreError):
            Dosed(AGENT, 500, (Taken(can, litres),))


def test_a_charged_filter_opens_an_older_account():
    charged = replace(LINERS, equipment=Equipment(coolant_filter=CoolantFilter.CHARGED))
    book = dosing(loop=charged)
    book.add(Dosed(AGENT, 100), HOT, strip(800))
    assert book.state.inhibitor[0].high_mg_l == 1600
    book.add(SignedOff("checked"))
    book.job = "job 2"
    book.add(JobOpened(JobType.CHECK))
    assert book.state.inhibitor[0].high_mg_l is None
    assert "charged filter added some" in book.state.inhibitor[0].said.sentence


def test_a_strip_of_something_else_does_not_answer_for_the_dose():
    book = dosing()
    book.add(Dosed(AGENT, 200), HOT, Checked(Check.INHIBITOR, figures={"molybdate_mg_l": 300.0}))
    assert book.state.dose.step is DoseStep.AGAIN
    with pytest.raises(Conflict, match="Strips again first"):
        book.add(Dosed(AGENT, 100))
    assert book.add(strip(800)).dose.verdict is DoseVerdict.PROTECTED


def test_no_additive_goes_into_a_low_conductivity_loop():
    electronics = a_loop(need=Requirement(low_conductivity=True), believed=Fluid(Base.ETHYLENE, Family.NOAT))
    with pytest.raises(CoreError) as caught:
        dosing(loop=electronics).add(Dosed(AGENT, 100))
    assert caught.value.code == "low_conductivity"
