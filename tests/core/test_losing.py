"""Does it lose coolant? Lines against SciPy, loops of every kind played through with NumPy, and the record of one."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import linalg, optimize, stats

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.between.facts import LevelSeen, LostWhen, Spilled
from temper_core.job.between.state import RecheckWhy
from temper_core.job.entries import JobOpened
from temper_core.job.identify.facts import Metered
from temper_core.job.inspect import facts as inspect
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.life.account.losing import losing
from temper_core.job.life.account.loss import SUSPECT, WEEK, LossKind, loss_of
from temper_core.job.life.account.movement import POUR_SD, Movement
from temper_core.job.life.account.sentences import deciding_test
from temper_core.job.life.account.shapes import covariance, misfit_of_none, shapes
from temper_core.job.verify.apply import signed_off
from temper_core.job.verify.facts import Level, SignedOff
from temper_core.views.history import history
from tests.core.test_coming_back import Away
from tests.core.test_ledger import NEW, pour

DAY = datetime(2026, 1, 5, 7, tzinfo=UTC)
POLICY = Policy()
LOOK_L = POLICY["level_look_sd_l"]


def look(weeks, in_l=0.0, missing_l=0.0, sd_l=LOOK_L, out_l=0.0):
    """A look so many weeks after the fill: what was poured, what is missing then."""
    return Movement(DAY + weeks * WEEK, in_l, out_l, missing_l, sd_l)


def weekly(litres):
    """A fill, and so many litres to the mark each week after."""
    return [look(0), *(look(n, added) for n, added in enumerate(litres, 1))]


def played(rng, weeks, loss, sd_l=LOOK_L, pours=True):
    """Weekly looks at a loop that loses loss(week) litres; each look errs, what looks missing is poured, a jug errs by 3 %.

    pours False: nobody tops up, the level is written down.
    """
    below, rows = 0.0, [look(0, sd_l=sd_l)]
    for n in range(1, weeks + 1):
        below += loss(n) if callable(loss) else loss
        seen = below + rng.normal(0, sd_l)
        if not pours:
            rows.append(look(n, missing_l=seen, sd_l=sd_l))
            continue
        added = max(0.0, seen)
        below -= added * (1 + rng.normal(0, POUR_SD))
        rows.append(look(n, added, sd_l=sd_l))
    return rows


@given(
    st.lists(st.floats(0, 3), min_size=3, max_size=9),
    st.lists(st.floats(0.02, 0.5), min_size=9, max_size=9),
    st.integers(0, 30),
)
def test_every_line_is_that_of_weighted_least_squares(lost, sds, pick):
    """Against scipy.linalg.lstsq on whitened looks: size, its doubt, and the misfit."""
    n = len(lost)
    weeks, moved = [float(k) for k in range(n)], [0.01 * k for k in range(n)]
    found = shapes(weeks, lost, sds[:n], moved)
    one = found[pick % len(found)]
    effects = {
        "steady": lambda t, k: t - t[0],
        "at_once": lambda t, k: (np.arange(n) >= k).astype(float),
        "starts": lambda t, k: np.maximum(0.0, t - t[k]),
        "stops": lambda t, k: np.minimum(t, t[k]) - t[0],
    }
    effect = effects[one.shape.value](np.array(weeks), one.at)
    sigma = np.array(covariance(sds[:n], moved))
    root, design = linalg.cholesky(sigma, lower=True), np.column_stack([np.ones(n), effect])
    alike = [linalg.solve_triangular(root, rows, lower=True) for rows in (design, lost)]
    best, *_ = linalg.lstsq(*alike)
    assert one.size == pytest.approx(best[1], abs=1e-6)
    assert one.sd == pytest.approx(np.sqrt(linalg.inv(design.T @ linalg.inv(sigma) @ design)[1, 1]), rel=1e-6)
    rest = np.array(lost) - best[0] - best[1] * effect
    assert one.misfit == pytest.approx(rest @ np.linalg.solve(sigma, rest), abs=1e-3, rel=1e-3)
    assert misfit_of_none(lost, sds[:n], moved) >= one.misfit - 1e-6


def test_equal_looks_give_the_plain_line():
    """Against scipy.stats.linregress, where no jug errs: levels written down, nothing poured."""
    missing = [0.0, 0.2, 0.5, 0.6, 1.0, 1.1]
    loss = loss_of([look(0), *(look(n, missing_l=row) for n, row in enumerate(missing, 1))], POLICY)
    line = stats.linregress(range(6), missing)
    assert loss.per_week.value == pytest.approx(line.slope)
    assert loss.per_week.half_width == pytest.approx(1.96 * LOOK_L / np.sqrt(6 * np.var(range(6))), rel=1e-3)


def test_the_rate_lies_within_its_interval():
    """95 times in a hundred, whatever is lost, whether looks are made good each week or only written down."""
    rng = np.random.default_rng(22)
    for loss_l, pours in ((0.2, True), (0.5, True), (0.2, False), (0.5, False)):
        found = [loss_of(played(rng, 10, loss_l, pours=pours), POLICY) for _ in range(1000)]
        held = np.mean([abs(one.per_week.value - loss_l) <= one.per_week.half_width for one in found])
        assert 0.92 <= held <= 1.0


@pytest.mark.parametrize(("loop_l", "looks", "least"), [(18.0, 4, 0.95), (12.0, 4, 0.95), (8.0, 4, 0.6), (8.0, 6, 0.95)])
def test_a_loss_of_two_percent_a_week_is_named_within_four_weekly_looks(loop_l, looks, least):
    """Read to 2 mm in a tank of 0.05 L per mm. In a loop of 8 L it is 0.16 L a week: there it takes six to be as sure."""
    rng = np.random.default_rng(23)
    found = [loss_of(played(rng, looks, 0.02 * loop_l, pours=False), POLICY) for _ in range(600)]
    assert np.mean([one.leaks for one in found]) > least


@pytest.mark.parametrize(("looks", "pours"), [(12, True), (52, True), (52, False)])
def test_a_sound_loop_is_not_accused(looks, pours):
    """At most one in fifty healthy loop-years, whenever somebody asks; topped up at every look that seems low."""
    rng, accused, years = np.random.default_rng(24), 0, 100
    for _ in range(years):
        rows = played(rng, 52, 0.0, pours=pours)
        asked = range(4, 54, 52 // looks)
        accused += any((one := loss_of(rows[:n], POLICY)) is not None and one.leaks for n in asked)
    assert accused <= years / 50


@pytest.mark.parametrize(
    ("loss", "kind", "week"),
    [
        (lambda n: 2.0 if n == 8 else 0.0, LossKind.AT_ONCE, 8),
        (lambda n: 0.5 if n > 5 else 0.0, LossKind.LEAKS, 5),
        (lambda n: 0.5 if n <= 5 else 0.0, LossKind.STOPPED, 5),
        (lambda n: 2.0 if n == 5 else 0.0, LossKind.STOPPED, 5),
        (lambda n: 0.4, LossKind.LEAKS, None),
        (lambda n: 0.0, LossKind.HOLDS, None),
    ],
)
def test_how_a_loss_goes_is_told_apart(loss, kind, week):
    """A burst, a leak from a day on, one that was mended, a steady one, none: 9 of 10 by their name and their week."""
    rng, right = np.random.default_rng(25), 0
    for _ in range(200):
        one = loss_of(played(rng, 9, loss), POLICY)
        turned = None if one.turned_at is None else (one.turned_at - DAY) / WEEK
        right += one.kind in (kind, LossKind.LITTLE if kind is LossKind.HOLDS else kind) and (
            week is None or (turned is not None and abs(turned - week) <= 1)
        )
    assert right >= 180


def test_the_change_point_is_that_of_a_search_by_scipy():
    """The week a loss begins, against scipy.optimize.least_squares over a free change point, within half a week."""
    rng = np.random.default_rng(26)
    rows = played(rng, 14, lambda n: 0.5 if n > 8 else 0.0, pours=False)
    one = loss_of(rows, POLICY)
    weeks, missing = np.arange(1, 15.0), np.array([row.missing_l for row in rows[1:]])
    free = optimize.least_squares(lambda p: missing - p[0] - p[1] * np.maximum(0, weeks - p[2]), [0.0, 0.4, 7.0])
    assert one.kind is LossKind.LEAKS
    assert (one.turned_at - DAY) / WEEK == pytest.approx(free.x[2], abs=0.6)
    assert one.per_week.value == pytest.approx(free.x[1], abs=2 * one.per_week.half_width)


def test_what_a_fill_takes_while_it_settles_is_no_loss():
    """Air comes out over the first heat cycles: half a litre, then a little, then none. Common practice, no source."""
    rows = [look(0), look(1 / 7, 0.5), look(4 / 7, 0.2), *(look(n / 7) for n in (8, 15, 22, 29))]
    loss = loss_of(rows, POLICY)
    assert (loss.added_l, loss.settled_l, loss.kind) == (0.0, pytest.approx(0.7), LossKind.HOLDS)
    assert loss.said.sentence == "The level has held since 13 Jan 2026."


def test_an_open_system_evaporates_and_a_leak_in_it_is_still_one():
    rows = [look(n, 0.3 if n else 0.0, sd_l=0.02) for n in range(9)]
    assert loss_of(rows, POLICY).kind is LossKind.LEAKS
    assert loss_of(rows, POLICY, open_system=True, capacity_l=60.0).kind is LossKind.EVAPORATES
    assert loss_of(rows, POLICY, open_system=True, capacity_l=12.0).kind is LossKind.LEAKS


def test_what_was_spilled_is_no_loss():
    rows = [look(n) for n in range(6)]
    rows[3] = look(3, in_l=1.0, out_l=1.0)
    assert loss_of(rows, POLICY).kind is LossKind.HOLDS


def test_the_rate_by_distance_and_hours_follows_from_the_meters():
    """0.5 L a week at 200 km and 20 h a week: 2.5 L per 1,000 km, 2.5 L per 100 h, with the same relative doubt."""
    rows = [look(n, 0.5 if n else 0.0) for n in range(8)]
    meters = [(DAY + n * WEEK, Metered(1000.0 + 200 * n, 50.0 + 20 * n)) for n in range(8)]
    loss = loss_of(rows, POLICY, meters)
    share = loss.per_week.half_width / loss.per_week.value
    for rate in (loss.per_1000_km, loss.per_100_h):
        assert rate.value == pytest.approx(2.5, rel=1e-6)
        assert rate.half_width / rate.value == pytest.approx(share)
    assert loss_of(rows, POLICY, [*meters[:5], (DAY + 7 * WEEK, Metered(9.0, replaced=True))]).per_1000_km is None
    assert loss_of(rows, POLICY, [(DAY + n * WEEK, Metered(1000.0 + n)) for n in range(8)]).per_1000_km is None


def test_nothing_is_said_of_fewer_than_three_looks():
    assert loss_of([], POLICY) is None
    assert loss_of(weekly([0.0, 0.5]), POLICY) is None


def test_a_low_level_and_what_was_poured_then_are_one_look():
    rows = [look(n + 0.1 if n else 0, 0.5 if n > 1 else 0.0) for n in range(5)]
    early = timedelta(minutes=3)
    found = [Movement(row.at - early, missing_l=row.in_l, sd_l=0.3) for row in rows[1:]]
    twice = [*rows, *found, *(Movement(row.at + early, missing_l=0.0, sd_l=LOOK_L) for row in rows)]
    loss = loss_of(twice, POLICY)
    assert (loss.count, loss.added_l) == (4, pytest.approx(1.5))
    assert loss.per_week.value == pytest.approx(0.5, abs=0.01)


@pytest.mark.parametrize(
    ("lost_when", "tests", "words"),
    [
        (None, (), "A pressure test on the cold loop decides."),
        (LostWhen.COLD, (), "hoses and pump"),
        (LostWhen.HOT, (), "held hot"),
        (LostWhen.NO_TRACE, (), "combustion-gas"),
        (None, (inspect.Tested(inspect.Check.BUBBLES, "endless"),), "combustion-gas"),
        (None, (inspect.Tested(inspect.Check.PRESSURE, None, {"start_kpa": 100, "end_kpa": 100, "minutes": 10}),), "dye"),
    ],
)
def test_the_test_that_decides_is_named(lost_when, tests, words):
    """Common practice, no source: overnight to hose or pump, when hot to cap or joint, without a trace to the head."""
    assert words in deciding_test(lost_when, tests).sentence


# ---- in the record of a loop --------------------------------------------------------------------------------------


def leaking(topped, weeks=6):
    """The groomer after its job: a litre to the mark each week."""
    away = Away()
    for _ in range(weeks):
        away.add(topped, days=7.0)
    return away


@pytest.mark.parametrize("topped", [pour(NEW, 0.6, 0.4, at_mark=True), pour(None, 0.0, 1.0, at_mark=True)])
def test_a_leak_is_found_whatever_made_it_good(topped):
    """With the right mix the strength never moves; the litres tell."""
    away = leaking(topped)
    loss = history(away.loop, away.entries).loss
    assert loss.leaks
    assert loss.per_week.value == pytest.approx(1.0, abs=0.05)
    assert "Leak suspected: 1.00 L a week" in loss.said.sentence
    again = next(row for row in away.state.after.rechecks if row.why is RecheckWhy.LEAK)
    assert again.due_on == (away.at + timedelta(days=7)).date()
    assert "Leak suspected" in again.said.sentence


def test_a_look_at_the_mark_that_stands_there_counts_too():
    away = Away()
    for _ in range(5):
        away.add(LevelSeen(Level.AT_MARK), days=7.0)
    loss = history(away.loop, away.entries).loss
    assert (loss.added_l, loss.kind) == (0.0, LossKind.HOLDS)
    assert RecheckWhy.LEAK not in {row.why for row in away.state.after.rechecks}


def test_the_next_job_is_advised_to_find_it():
    away = leaking(pour(NEW, 0.6, 0.4, at_mark=True))
    away.add(JobOpened(JobType.REFILL))
    assert "Leak suspected" in str(away.state.advice)
    assert history(away.loop, away.entries).loss.leaks


def test_it_is_handed_on_to_whoever_starts_from_the_last_signed_job():
    from temper_core.job.life.snapshot import snapshot_of, start_from

    away = leaking(pour(NEW, 0.6, 0.4, at_mark=True))
    t = walk(away.loop, away.entries, Policy(), now=away.at)
    again = start_from(away.loop, Policy(), snapshot_of(t))
    assert again.life.movements == t.life.movements
    assert again.life.meters == t.life.meters


def test_levels_in_millimetres_of_a_measured_tank_find_it_without_a_drop_poured():
    from dataclasses import replace

    away = Away()
    away.loop = replace(away.loop, equipment=replace(away.loop.equipment, tank_l_per_mm=0.05))
    for week in range(1, 7):
        away.add(LevelSeen(Level.LOW, missing_mm=8.0 * week), days=7.0)
    loss = history(away.loop, away.entries).loss
    assert loss.per_week.value == pytest.approx(0.4)
    assert loss.kind in SUSPECT
    assert loss.per_week.half_width < 0.06


def test_a_spill_is_no_leak():
    away = Away()
    for _ in range(5):
        away.add(LevelSeen(Level.AT_MARK), days=7.0)
    away.add(Spilled(1.0), days=1.0)
    away.add(pour(NEW, 0.6, 0.4, at_mark=True))
    away.add(LevelSeen(Level.AT_MARK), days=7.0)
    assert history(away.loop, away.entries).loss.kind is LossKind.HOLDS
    with pytest.raises(CoreError, match="more than the loop holds"):
        away.add(Spilled(500.0))


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"level": Level.AT_MARK, "missing_l": 1.0}, "low level only"),
        ({"level": Level.LOW, "missing_l": 1.0, "missing_mm": 5.0}, "one of the two"),
        ({"level": Level.LOW, "missing_mm": 5000.0}, "missing_mm"),
    ],
)
def test_a_level_that_cannot_be_is_refused(given, words):
    with pytest.raises(CoreError) as caught:
        LevelSeen(**given)
    assert words in f"{caught.value.field} {caught.value}"


def test_adjusting_the_strength_does_not_forget_a_leak_and_a_refill_begins_anew():
    """Whoever swaps a little for concentrate has mended nothing; a drained loop settles again."""
    for drained, kept in ((False, True), (True, False)):
        away = leaking(pour(NEW, 0.6, 0.4, at_mark=True))
        t = walk(away.loop, away.entries, POLICY, now=away.at)
        t.job.drained = t.job.drained if drained else None
        signed_off(t, SignedOff("proven"), away.entries[-1])
        loss = losing(t)
        assert (loss is not None and loss.leaks) is kept
