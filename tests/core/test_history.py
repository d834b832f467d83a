"""A loop's life on one line, and the slope that means a leak; the straight line against SciPy."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from temper_core.basis.uncertainty import fitted, t95
from temper_core.calculate.mix import TopUpQuestion, top_up
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fold import fold
from temper_core.job.identify.facts import ReportedContents, ToppedUp
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.job_types import JobType
from temper_core.job.mix.facts import Planned
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import SignedOff
from temper_core.products.chemistry import Base, Family, Fluid
from temper_core.science import Glycol, mass_fraction_at_freeze, strength_of
from temper_core.views.history import EventKind, history
from tests.core.test_ledger import GLASS, NEW, a_loop, planned, pour, read, with_gate

START = datetime(2026, 1, 10, 8, tzinfo=UTC)
points = st.lists(st.tuples(st.integers(0, 1000), st.floats(-50, 50, allow_subnormal=False)), min_size=3, max_size=30)


@given(points)
def test_the_line_is_scipys(rows):
    """Reference: scipy.stats.linregress."""
    x, y = [a for a, _ in rows], [b for _, b in rows]
    if max(x) == min(x) or max(y) == min(y):
        return  # SciPy gives no error for these
    slope, error = fitted(x, y)
    expected = stats.linregress(x, y)
    assert slope == pytest.approx(expected.slope, rel=1e-6, abs=1e-7)
    assert error == pytest.approx(expected.stderr, rel=1e-4, abs=1e-6)


@pytest.mark.parametrize("freedom", [*range(1, 40), 80, 300])
def test_students_t_is_scipys(freedom):
    """Reference: scipy.stats.t; the printed table has three decimals."""
    assert t95(freedom) == pytest.approx(stats.t.ppf(0.975, freedom), abs=0.008)


class Years:
    """A ledger over months: each job at its day."""

    def __init__(self, loop=None):
        self.loop, self.entries, self.now, self.job = loop or a_loop(coldest_c=-25.0), [], START, 0

    def on(self, day, job_type, *facts):
        """A job on a day."""
        self.job += 1
        self.now = START + timedelta(days=day)
        for one in (JobOpened(job_type), *facts):
            self.add(one)
        return self

    def add(self, facts):
        """Validate and add, minutes later."""
        self.now += timedelta(minutes=5)
        check_entry(self.loop, with_gate(self.entries, facts, f"j{self.job}", self.now), facts)
        self.entries.append(Entry(f"e{len(self.entries)}", f"j{self.job}", self.now, self.now, "IH", facts))

    def checked(self, day, value):
        """A check with one reading."""
        facts = (ReportedContents(Base.ETHYLENE, Family.OAT, ToppedUp.WATER), Read(value, Place.AS_FOUND, GLASS, -0.4, 18.0))
        self.on(day, JobType.CHECK, *facts)
        state = fold(self.loop, self.entries)
        self.add(JobTypeChosen(JobType.CHECK, state.advice.job_type, "looked at again later"))
        self.add(SignedOff("checked"))
        return self

    @property
    def life(self):
        """Now."""
        return history(self.loop, self.entries)


def strengths(life):
    """Strengths on the line."""
    return [event.strength_percent for event in life.events if event.strength_percent is not None]


def test_readings_services_and_checks_stand_on_the_line_in_order():
    years = Years().checked(0, -46.0).checked(60, -46.0)
    kinds = [event.kind for event in years.life.events if event.kind is not EventKind.OVERRIDE]
    assert kinds == [EventKind.READING, EventKind.CHECK] * 2
    assert [event.at for event in years.life.events] == sorted(event.at for event in years.life.events)


def test_a_falling_strength_is_called_a_leak_and_says_how_much_water_would_do_it():
    years = Years()
    for month, value in enumerate((-46.0, -43.0, -40.0, -37.5)):
        years.checked(30 * month, value)
    slope = years.life.slope
    assert slope.leaks
    first, last = strengths(years.life)[0], strengths(years.life)[-1]
    months = 90 / 30.4375
    assert slope.percent_per_month == pytest.approx((last - first) / months, rel=0.1)
    # plain water that dilutes 32 l from the first strength to the last: g' = g (V - w) / V
    assert slope.lost_l == pytest.approx(32.0 * (1 - last / first), rel=1e-3)
    assert "Look for the leak" in slope.said.sentence


def test_a_steady_strength_is_not_called_a_leak():
    years = Years()
    for month, value in enumerate((-46.0, -45.5, -46.0, -45.5, -46.0)):
        years.checked(30 * month, value)
    assert not years.life.slope.leaks
    assert years.life.slope.said.code == "steady"


def test_two_readings_or_a_few_days_make_no_line():
    assert Years().checked(0, -46.0).checked(60, -40.0).life.slope is None
    years = Years()
    for day in (0, 2, 4):
        years.checked(day, -46.0 + day)
    assert years.life.slope is None


def test_a_division_of_the_instrument_is_never_read_as_certainty():
    """Three readings on one line have no scatter; the doubt of one division stays."""
    years = Years()
    for month, value in enumerate((-46.0, -45.6, -45.2)):
        years.checked(30 * month, value)
    assert years.life.slope.half_width > 0.3
    assert not years.life.slope.leaks


def test_an_override_stands_there_with_its_reason():
    years = Years()
    years.on(0, JobType.REFILL, planned())
    years.add(JobTypeChosen(JobType.CHECK, fold(years.loop, years.entries).advice.job_type, "leaves at noon"))
    said = [event.said.sentence for event in years.life.events if event.kind is EventKind.OVERRIDE]
    assert said == ["Against the advice (change type): check. leaves at noon"]


def test_a_top_up_is_a_dilution_event_with_its_prediction():
    """Predicted by the ledger as by the top-up arithmetic, g' = g V0 / (V0 + w) in mass."""
    loop = a_loop(coldest_c=-25.0, believed=Fluid(Base.ETHYLENE, Family.OAT))
    years = Years(loop)
    years.on(0, JobType.TOP_UP, planned(), Read(-38.0, Place.AS_FOUND, GLASS, 0.0, 20.0))
    years.add(JobTypeChosen(JobType.TOP_UP, fold(loop, years.entries).advice.job_type, "low"))
    years.add(pour(None, 0.0, 2.0, at_mark=True))
    event = years.life.events[-1]
    assert event.kind is EventKind.TOP_UP
    assert event.litres == 2.0
    before = strength_of(Glycol.ETHYLENE, mass_fraction_at_freeze(Glycol.ETHYLENE, -38.0))
    expected = top_up(TopUpQuestion(Glycol.ETHYLENE, 30.0, before, 2.0)).final.strength_percent
    assert event.strength_percent == pytest.approx(expected, abs=0.25)
    assert fold(loop, years.entries).inside.litres == pytest.approx(32.0, abs=0.1)


def test_a_topped_up_loop_is_proven_against_its_prediction_and_the_climate():
    loop = a_loop(coldest_c=-25.0, believed=Fluid(Base.ETHYLENE, Family.OAT))
    years = Years(loop)
    years.on(0, JobType.TOP_UP, Planned(NEW, -25.0, 5.0), Read(-38.0, Place.AS_FOUND, GLASS, 0.0, 20.0))
    years.add(JobTypeChosen(JobType.TOP_UP, fold(loop, years.entries).advice.job_type, "low"))
    years.add(pour(None, 0.0, 2.0, at_mark=True))
    years.add(read(-34.0, zero=0.0))
    proof = fold(loop, years.entries).proof
    assert proof.verdict.value == "proven", proof.said.sentence
