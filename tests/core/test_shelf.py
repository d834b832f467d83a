"""What is left on the shelf, what a job will need, and what a pour may take out of which can."""

import math
from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.fill.facts import Poured, Water
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.life.age import AgePart, poured_parts, refilled
from temper_core.job.mix.cost import Prices, change_cost
from temper_core.machine.contents import Contents
from temper_core.products.agents import Agent, AgentKind
from temper_core.products.chemistry import Family, Fluid
from temper_core.products.compatibility import judge_product
from temper_core.products.shelf import Can, CanKind, Taken, left_in
from temper_core.science import Glycol
from temper_core.views.supplies import Stock, SupplyKind, supplies
from tests.core.test_coming_back import Away
from tests.core.test_ledger import NEW, PG, a_loop, pour

POLICY = Policy()
CAN = Can("3", "C-003", CanKind.COOLANT, NEW, "W-2609")
CLEANER = Agent("Rinse", AgentKind.CLEANER, 325, 11.4)


@given(st.floats(1, 200), st.lists(st.floats(0, 20), max_size=6))
def test_what_is_left_is_what_was_counted_less_what_was_taken(counted, taken):
    left = left_in(counted, taken)
    assert left.litres == pytest.approx(max(0.0, counted - sum(taken)))
    assert left.over == (counted - sum(taken) < -2 * left.sd)


def test_its_doubt_is_that_of_drawn_counts_and_jugs():
    """Against 20,000 draws by NumPy: a count within 5 %, each jug within 3 %."""
    rng, taken = np.random.default_rng(31), np.array([4.0, 6.0, 3.0])
    drawn = 20 * (1 + rng.normal(0, 0.05, 20_000)) - (taken * (1 + rng.normal(0, 0.03, (20_000, 3)))).sum(axis=1)
    assert left_in(20.0, list(taken)).sd == pytest.approx(np.std(drawn), rel=0.03)


@pytest.mark.parametrize(
    ("taken", "code"),
    [
        ((Taken(replace(CAN, product=PG), 2.0),), "other_coolant"),
        ((Taken(replace(CAN, kind=CanKind.AGENT, product=None), 2.0),), "no_coolant"),
        ((Taken(CAN, 9.0),), "more_than_poured"),
        ((Taken(replace(CAN, kind=CanKind.RECOVERED), 2.0),), None),
        ((Taken(replace(CAN, kind=CanKind.RECOVERED, product=None), 2.0),), "recovered"),
        ((Taken(CAN, 2.0), Taken(replace(CAN, id="4", number="C-004"), 3.0)), None),
    ],
)
def test_a_pour_takes_no_more_than_went_in_and_out_of_no_other_coolants_can(taken, code):
    if code is None:
        assert Poured(NEW, 5.0, 1.0, Water.DEMINERALISED, taken=taken).taken == taken
        return
    with pytest.raises(CoreError) as caught:
        Poured(NEW, 5.0, 1.0, Water.DEMINERALISED, taken=taken)
    assert caught.value.code == code


NOTHING_COUNTED = Stock()


def needed(job_type, stock=NOTHING_COUNTED, cleaners=None):
    """All that a groomer's job needs with a concentrate of its own family."""
    loop = a_loop()
    contents = Contents.full(loop.layout, Glycol.ETHYLENE, 40.0)
    judged = judge_product(NEW, loop.need, Fluid(NEW.base, Family.OAT, 40.0), POLICY)
    cost = change_cost(loop, contents, NEW, judged, POLICY, Prices(), -25.0)
    return cost, {row.kind: row for row in supplies(loop, job_type, NEW, cost, cleaners or {}, stock, POLICY)}


def test_a_job_needs_what_its_cost_says():
    cost, rows = needed(JobType.CLEAN, cleaners={"1": CLEANER})
    assert rows[SupplyKind.COOLANT].need_l == pytest.approx(cost.product_l)
    assert rows[SupplyKind.CONTAINERS].need_pieces == math.ceil(cost.waste_l / 20)
    assert rows[SupplyKind.CLEANER].need_l == pytest.approx(0.325 * a_loop().capacity_l / 11.4)
    assert all(row.short_l is None and row.have_l is None for row in rows.values())  # nobody counts it there


def test_a_refill_rinses_nothing():
    _, rows = needed(JobType.REFILL, cleaners={"1": CLEANER})
    assert SupplyKind.RINSE_WATER not in rows
    assert SupplyKind.CLEANER not in rows


@given(st.floats(0, 60))
def test_what_is_short_is_said_to_the_litre(have):
    cost, rows = needed(JobType.REFILL, Stock({NEW.id: have}, {}, 0.0))
    row = rows[SupplyKind.COOLANT]
    assert row.have_l == have
    if have < cost.product_l - 0.05:
        assert row.short_l == pytest.approx(cost.product_l - have)
    else:
        assert row.short_l is None


def test_of_several_cleaners_the_one_that_is_here_is_named():
    stock = Stock({}, {"1": 0.2, "2": 3.0}, None)
    _, rows = needed(JobType.CLEAN, stock, {"1": CLEANER, "2": replace(CLEANER, name="Scale")})
    assert (rows[SupplyKind.CLEANER].name, rows[SupplyKind.CLEANER].short_l) == ("Scale", None)


def test_recovered_coolant_stays_as_old_as_it_is():
    """Ten litres of twenty-five were in a loop before: two fifths of what went in keep their age."""
    recovered = replace(CAN, kind=CanKind.RECOVERED, since=date(2024, 3, 1))
    fresh = AgePart(1.0, date(2026, 11, 30), 1000.0, None, Family.OAT)
    parts = refilled((AgePart(1.0, date(2020, 1, 1)),), 0.1, *poured_parts((Taken(recovered, 10.0),), 25.0, fresh))
    assert [(row.on.year, round(row.share, 3)) for row in parts] == [(2020, 0.1), (2024, 0.36), (2026, 0.54)]
    assert poured_parts((Taken(CAN, 10.0),), 25.0, fresh) == (fresh,)


def test_a_top_up_with_it_makes_the_filling_older_than_one_with_new():
    away, of_old = Away(), Away()
    away.add(pour(NEW, 3.0, 0.0), days=1)
    can = replace(CAN, kind=CanKind.RECOVERED, since=date(2021, 3, 1))
    of_old.add(replace(pour(NEW, 3.0, 0.0), taken=(Taken(can, 3.0),)), days=1)
    parts = [walk(row.loop, row.entries, POLICY, now=row.at).life.parts for row in (away, of_old)]
    assert [any(part.on == date(2021, 3, 1) for part in row) for row in parts] == [False, True]
