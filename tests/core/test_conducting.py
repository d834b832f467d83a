"""The conductivity account: its line against scipy, its dates by dateutil, its doubt by simulated loops."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from dateutil.relativedelta import relativedelta
from scipy import stats

from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.inspect.facts import Check
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.job.job_types import JobType
from temper_core.job.life.conducting import Conducted, conducting_of
from temper_core.products.chemistry import Base, Family, Fluid, LoopUse, Requirement
from temper_core.products.conductivity import ConductivityLimit
from temper_core.views.history import history
from tests.core.test_ledger import a_loop

START, LIMIT = datetime(2026, 1, 15, 9, tzinfo=UTC), ConductivityLimit(100.0, "rule of this depot")


def monthly(*values):
    return [Conducted(START + relativedelta(months=n), value) for n, value in enumerate(values)]


def test_the_line_is_scipys_and_leads_to_its_day():
    """scipy.stats.linregress on months of 30.44 days; 90 % of the way after ten months at 9 a month."""
    rows = monthly(10.0, 19.5, 28.0, 37.5, 46.0)
    found = conducting_of(rows, LIMIT)
    months = [(row.at - START).total_seconds() / 86400 / 30.436875 for row in rows]
    line = stats.linregress(months, [row.us_cm for row in rows])
    assert found.per_month == pytest.approx(line.slope, rel=1e-4)
    expected = rows[-1].at + timedelta(days=(100 - 46.0) / line.slope * 30.436875)
    assert abs((found.reaches_on - expected.date()).days) <= 1
    assert found.earliest_on < found.reaches_on
    assert "reaches its limit of 100 about" in found.said.sentence


@pytest.mark.parametrize(
    ("values", "limit", "code"),
    [
        ((40.0,), LIMIT, "conducts_once"),
        ((40.0, 41.0), LIMIT, "conducts_once"),
        ((40.0, 40.2, 39.9, 40.1), LIMIT, "conducts_holds"),
        ((40.0, 60.0, 80.0), None, "conducts_holds"),
        ((1.0, 1.2, 1.4, 1.6, 1.8, 2.0), LIMIT, "conducts_far"),
        ((80.0, 95.0, 110.0), LIMIT, "conducts_past"),
    ],
)
def test_it_says_no_more_than_the_readings_show(values, limit, code):
    found = conducting_of(monthly(*values), limit)
    assert found.said.code == code
    if code != "conducts_past":
        assert found.reaches_on is None


def test_no_reading_is_no_account():
    assert conducting_of([], LIMIT) is None


def test_the_true_rise_lies_within_the_doubt():
    """1,000 simulated loops: 5 uS/cm a month, a pen with 3 % of what it shows."""
    rng, inside = np.random.default_rng(5), 0
    for _ in range(1000):
        rows = [Conducted(row.at, row.us_cm * rng.normal(1, 0.03)) for row in monthly(*(20 + 5.0 * n for n in range(6)))]
        found = conducting_of(rows, LIMIT)
        inside += abs(found.per_month - 5.0) <= found.half_width
    assert inside >= 940


def test_it_is_read_off_the_record_at_25_degrees():
    loop = a_loop(
        need=Requirement(low_conductivity=True, use=LoopUse.BATTERY), believed=Fluid(Base.ETHYLENE, Family.LOW_CONDUCTIVITY)
    )
    facts = (
        JobOpened(JobType.CHECK),
        Checked(Check.CONDUCTIVITY, figures={"us_cm": 45.0, "sample_c": 20.0}, compensated=False),
    )
    rows = [Entry(f"e{n}", "job 1", START, START, "IH", one, seq=n) for n, one in enumerate(facts)]
    assert history(loop, rows, Policy()).conducting.points[0].us_cm == pytest.approx(50.0)
    assert history(a_loop(), rows, Policy()).conducting is None
