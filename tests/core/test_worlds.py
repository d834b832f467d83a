"""The uncertain inputs walked through a ledger: against the fold, conservation, the GUM, Bayes, and weighted worlds."""

import math
import random
import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from temper_core.basis.linear import cholesky, solved
from temper_core.basis.policy import Policy
from temper_core.job.doubt.acts import Lost, Out, Poured, Ran, Swept, Water
from temper_core.job.doubt.full import Full
from temper_core.job.doubt.inputs import Input, Source
from temper_core.job.doubt.known import expected, known
from temper_core.job.doubt.program import Program
from temper_core.job.doubt.quantities import capacity_l, inside_l, mixed_w, old_finished
from temper_core.job.doubt.seen import AtMark, Between, ReadW
from temper_core.job.doubt.solve import Solved
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.loop import CapacitySource
from temper_core.science import Glycol, density_20c, mass_fraction_of, specific_volume
from temper_core.simulate.cases import LAYOUTS, Case
from temper_core.simulate.jobs import JOB_TYPES, play

CURVE = specific_volume(Glycol.ETHYLENE)
CAPACITY, FOUND, LEVEL = Input("capacity", Source.CAPACITY), Input("found", Source.FOUND), Input("level", Source.LEVEL)
TILT, PRODUCT = Input("tilt", Source.EXCHANGE), Input("product", Source.PRODUCT)
SCALE = Input("scale", Source.DRAINED)


def full(volumes=(20.0, 12.0), w=0.4, sd_w=0.0, capacity_sd=0.0, level_sd=0.0, missing=0.0):
    """A loop as it comes in."""
    return Full(CURVE, volumes, w, w - sd_w, w + sd_w, CAPACITY, capacity_sd, FOUND, LEVEL, missing, level_sd, 0)


def solve(*steps):
    """The most likely world of these acts."""
    return Solved(Program.of(steps))


@given(st.sampled_from(Glycol), st.floats(0, 1))
def test_litres_of_a_kilogram_are_the_density_the_other_way(glycol, w):
    litres = sum(c * w**k for k, c in enumerate(specific_volume(glycol)))
    assert litres == pytest.approx(1000 / density_20c(glycol, w), rel=1e-9)


def test_the_small_systems_are_solved_as_numpy_does():
    rng = np.random.default_rng(3)
    for n in (1, 2, 5, 9):
        a = rng.normal(size=(n, n))
        matrix, right = a @ a.T + np.eye(n), rng.normal(size=n)
        assert np.allclose(solved(cholesky(matrix.tolist()), right.tolist()), np.linalg.solve(matrix, right))
    with pytest.raises(ValueError, match="not positive"):
        cholesky([[1.0, 2.0], [2.0, 1.0]])


# ---- the same walk as the fold's -----------------------------------------------------------------------------------


@pytest.mark.parametrize("job_type", JOB_TYPES)
@pytest.mark.parametrize("layout", LAYOUTS)
def test_with_nothing_off_the_acts_lead_where_the_fold_leads(job_type, layout):
    """Two separate implementations of one walk: kilograms by vessel, old coolant, litres."""
    books = (play(Case(job_type, layout, believed_percent=35.0), seed).book for seed in range(7, 20))
    t = next(t for t in (walk(book.loop, book.entries, Policy()) for book in books) if t.strength_read)
    world = Program.of(t.acts).run([0.0] * len(Program.of(t.acts).inputs))
    now = t.by_litres
    assert sum(world.all_litres()) == pytest.approx(now.total_l, rel=2e-3)
    assert sum(world.glycol) == pytest.approx(now.total.glycol_kg, rel=5e-3)
    assert sum(world.old) == pytest.approx(now.total.old_l, rel=5e-3)
    for node, glycol, old in zip(t.loop.layout.nodes, world.glycol, world.old, strict=True):
        assert glycol == pytest.approx(now.by_vessel[node.id].glycol_kg, rel=0.05, abs=2e-3), node.id
        assert old == pytest.approx(now.by_vessel[node.id].old_l, rel=0.05, abs=2e-3), node.id


@given(st.lists(st.floats(-3, 3), min_size=4, max_size=4), st.floats(0.1, 10), st.floats(0.1, 10))
def test_whatever_is_off_kilograms_are_only_what_went_in_less_what_came_out(z, out_l, in_l):
    steps = (full(capacity_sd=0.1, sd_w=0.1), Ran(((0, 1),)), Lost(out_l), Poured(in_l, 0.0, 0.95, 0.005, PRODUCT, ()))
    before = Program.of(steps[:1]).run(z[:3])
    after = Program.of(steps).run(z)
    share = 1 - min(1.0, out_l / inside_l(before))
    w = 0.95 + 0.005 * z[3]
    poured = in_l / sum(c * w**k for k, c in enumerate(CURVE)) * w
    assert sum(after.glycol) == pytest.approx(share * sum(before.glycol) + poured, rel=1e-9)
    assert all(x >= 0 for x in (*after.glycol, *after.water, *after.old))


def test_what_a_vessel_does_not_hold_comes_out_of_the_others():
    world = Program.of((full((2.0, 10.0)), Out((5.0, 0.0), (), TILT, 0.0))).run([0.0] * 4)
    assert inside_l(world) == pytest.approx(7.0)
    assert world.impossible_l == 0
    empty = Program.of((full((2.0, 10.0)), Out((15.0, 0.0), (), TILT, 0.0))).run([0.0] * 4)
    assert (inside_l(empty), empty.impossible_l) == (pytest.approx(0.0), pytest.approx(3.0))


def test_a_sweep_thins_by_the_exponential():
    """Handbook: a well-stirred vessel of volume V that Q runs through keeps exp(-Q/V)."""
    world = Program.of((full((10.0,)), Swept(0, 15.0, TILT, 0.25))).run([0.0] * 4)
    assert old_finished(world) == pytest.approx(100 * math.exp(-1.5))
    assert inside_l(world) == pytest.approx(10.0, rel=5e-3)


# ---- what goes together ---------------------------------------------------------------------------------------------


def test_errors_that_are_shared_add_up_and_others_add_as_squares():
    """GUM (JCGM 100:2008), 5.2.2, example of ten resistors against one standard; from memory."""
    volumes = (1000.0,)

    def ten(shared):
        outs = [Out((10.0,), ((SCALE if shared else Input(f"{n}", Source.DRAINED), 0.01),), TILT, 0.0) for n in range(10)]
        return solve(full(volumes), *outs).spread(inside_l)[0]

    assert ten(shared=True) == pytest.approx(10 * 0.1, rel=1e-6)
    assert ten(shared=False) == pytest.approx(10**0.5 * 0.1, rel=1e-6)


def test_a_second_drain_never_replaces_the_doubt_of_the_first():
    guessed, weighed = ((Input("guess", Source.DRAINED), 0.12),), ((SCALE, 0.007),)
    once = solve(full(), Out((10.0, 0.0), guessed, TILT, 0.0)).spread(inside_l)[0]
    twice = solve(full(), Out((10.0, 0.0), guessed, TILT, 0.0), Out((0.5, 0.0), weighed, TILT, 0.0)).spread(inside_l)[0]
    assert twice == pytest.approx(math.hypot(once, 0.0035))
    assert once == pytest.approx(1.2)


def test_a_weight_tells_fewer_litres_of_a_stronger_coolant():
    """10 kg of what is believed to be water; were it 40 % by mass, they would be 10 kg over its density."""
    out = Out((10.0, 0.0), (), TILT, 0.0, by_kg=1.0, per_kg=CURVE[0])
    world = Program.of((full(w=0.0, sd_w=0.4), out)).run([0.0, 1.0, 0.0, 0.0])
    gone = 10.0 / CURVE[0] / density_20c(Glycol.ETHYLENE, 0.4) * 1000
    assert inside_l(world) == pytest.approx(32.0 - gone, rel=1e-6)


def test_a_low_level_is_neither_drained_nor_inside():
    world = Program.of((full(missing=3.0), Out((10.0, 0.0), (), TILT, 0.0))).run([0.0] * 4)
    assert inside_l(world) == pytest.approx(32.0 - 3.0 - 10.0)
    assert old_finished(world) == pytest.approx(100 * 19 / 32)


# ---- what is seen -----------------------------------------------------------------------------------------------------


def test_one_reading_of_one_strength_is_bayes_rule():
    """Normal belief and normal reading: inverse variances add (any statistics handbook)."""
    now = solve(full(sd_w=0.10), ReadW((0, 1), 0.50, 0.02, ()))
    weight = (1 / 0.10**2, 1 / 0.02**2)
    assert now.value(mixed_w) == pytest.approx((0.40 * weight[0] + 0.50 * weight[1]) / sum(weight), abs=1e-6)
    assert now.sure(mixed_w).sd == pytest.approx(sum(weight) ** -0.5, rel=1e-4)


def test_two_looks_through_one_bad_glass_leave_its_own_error():
    bias = ((Input("glass", Source.INSTRUMENT), 0.02),)
    once = solve(full(sd_w=0.5), ReadW((0, 1), 0.5, 0.01, bias)).sure(mixed_w).sd
    many = solve(full(sd_w=0.5), *[ReadW((0, 1), 0.5, 0.01, bias)] * 50).sure(mixed_w).sd
    assert once == pytest.approx(math.hypot(0.01, 0.02), rel=0.01)
    assert many == pytest.approx(math.hypot(0.01 / 50**0.5, 0.02), rel=0.01)


@pytest.mark.parametrize("bound", [0.02, 0.05, 0.20])
def test_a_bound_counts_as_what_it_is(bound):
    """Belief N(0.05, 0.02), seen only as "below", blurred by 0.005: against the product on a grid (SciPy), its mode."""
    now = solve(full(w=0.05, sd_w=0.02), ReadW((0, 1), bound, 0.005, (), at_most=True))
    grid = np.linspace(-0.05, 0.2, 200_001)
    mode = grid[np.argmax(stats.norm.logpdf(grid, 0.05, 0.02) + stats.norm.logcdf((bound - grid) / 0.005))]
    assert now.value(mixed_w) == pytest.approx(float(mode), abs=1.5e-3)
    assert now.sure(mixed_w).sd <= 0.02 + 1e-9


def test_steps_narrow_what_is_inside_and_an_open_end_does_not():
    wide = solve(full(sd_w=0.2)).sure(mixed_w).sd
    assert solve(full(sd_w=0.2), Between((0, 1), 0.35, 0.45)).sure(mixed_w).sd < 0.2 * wide


def test_the_level_at_its_mark_says_what_came_out():
    """Guessed litres out, jugged litres in: what fitted is a second measure of what had come out."""
    out = Out((10.0, 6.0), ((Input("guess", Source.DRAINED), 0.12),), TILT, 0.0)
    pour = Poured(8.0, 8.0, 0.95, 0.0, PRODUCT, ((Input("jug", Source.POURED), 0.01),))
    before, after = solve(full(), out, pour), solve(full(), out, pour, AtMark(0.007, 0.01))
    assert after.sure(old_finished).sd < 0.5 * before.sure(old_finished).sd
    assert after.sd_without(old_finished, AtMark) == pytest.approx(before.sure(old_finished).sd, rel=0.15)


# ---- against weighted worlds -----------------------------------------------------------------------------------------


def dot(a, b):
    """Their product, summed."""
    return sum(x * y for x, y in zip(a, b, strict=True))


def weighted(now, of, count, rng):
    """The posterior by brute force: worlds drawn about the most likely one, weighted by belief and by what was seen."""
    program, rows = now.program, now._rows
    sds = [sight.measured(seen)[1] for sight, seen in zip(program.sights, now.world.seen, strict=True)]
    values, logs = [], []
    for _ in range(count):
        z = [rng.gauss(0, 1) for _ in program.inputs]
        off = [rng.gauss(0, sd) - dot(row, z) for row, sd in zip(rows, sds, strict=True)]
        pull = solved(now._root, off) if rows else []
        away = [x + sum(p * row[i] for p, row in zip(pull, rows, strict=True)) for i, x in enumerate(z)]
        at = [x + y for x, y in zip(now.z, away, strict=True)]
        world = program.run(at)
        chance = sum(sight.log_chance(seen) for sight, seen in zip(program.sights, world.seen, strict=True))
        drawn = dot(away, away) / 2 + sum((dot(row, away) / sd) ** 2 / 2 for row, sd in zip(rows, sds, strict=True))
        values.append(of(world))
        logs.append(chance - dot(at, at) / 2 + drawn)
    weights = np.exp(np.array(logs) - max(logs))
    assert weights.sum() ** 2 / (weights**2).sum() > min(count / 20, 200)  # enough of them count
    order = np.argsort(values)
    ordered, heavy = np.array(values)[order], np.cumsum(weights[order])
    heavy /= heavy[-1]
    return [float(ordered[np.searchsorted(heavy, share)]) for share in (0.025, 0.5, 0.975)]


@pytest.mark.parametrize(
    ("changes", "of"),
    [
        ({"source": CapacitySource.REMEMBERED, "rounds": 2}, old_finished),
        ({"source": CapacitySource.MANUAL, "rounds": 1, "read_rinses": True, "tool": "glass"}, old_finished),
        ({"source": CapacitySource.MANUAL, "tool": "glass"}, mixed_w),
        ({"source": CapacitySource.REMEMBERED, "tool": "glass"}, capacity_l),
    ],
)
def test_intervals_are_those_of_weighted_worlds(changes, of):
    """Against 6,000 weighted worlds of one job: ends within a seventh of the width, as wide within a sixth."""
    book = play(Case(JobType.CHANGE_TYPE, "degas_tank", **changes), 3).book
    t = walk(book.loop, book.entries, Policy())
    now = expected(t) if of is old_finished else known(t)
    low, middle, high = weighted(now, of, 6_000, random.Random(5))
    sure = now.sure(of)
    width = high - low
    assert sure.interval.low == pytest.approx(low, abs=width / 7)
    assert sure.interval.high == pytest.approx(high, abs=width / 7)
    assert (sure.interval.high - sure.interval.low) / width == pytest.approx(1.0, abs=1 / 6)
    assert sure.interval.low < middle < sure.interval.high


def test_the_parts_of_a_doubt_are_all_of_it_and_measuring_one_takes_its_part_away():
    better = Input("capacity", Source.CAPACITY, 0.1)
    steps = (
        Full(CURVE, (20.0, 12.0), 0.4, 0.4, 0.4, better, 0.03, FOUND, LEVEL, 0.0, 0.3, 0),
        Out((14.0, 10.0), ((SCALE, 0.02),), TILT, 0.0),
        Water(None),
        Ran(((0, 1),)),
    )
    now = solve(*steps)
    sure = now.sure(old_finished)
    assert sum(part.share_percent for part in sure.parts) == pytest.approx(100)
    assert [part.share_percent for part in sure.parts] == sorted((p.share_percent for p in sure.parts), reverse=True)
    rest = math.sqrt(sum(part.sd**2 for part in sure.parts if part.source is not Source.CAPACITY))
    own = next(part.sd for part in sure.parts if part.source is Source.CAPACITY)
    assert now.sd_if(old_finished, Source.CAPACITY) == pytest.approx(math.hypot(rest, 0.1 * own), rel=1e-6)
    assert now.sd_if(old_finished, Source.ZERO) is None  # nothing better known


def test_the_spread_of_a_share_is_that_of_drawn_worlds():
    """Against 4,000 drawn worlds without anything seen: standard deviation, and the skew that a product has."""
    w = mass_fraction_of(Glycol.ETHYLENE, 40.0)
    steps = [full(w=w, capacity_sd=0.08)]
    for n in range(3):
        steps += [Out((14.0, 10.0), ((SCALE, 0.01), (Input(f"own{n}", Source.DRAINED), 0.01)), TILT, 0.0)]
        steps += [Water(None), Ran(((0, 1),))]
    now, rng = solve(*steps), random.Random(8)
    drawn = sorted(old_finished(now.program.run([rng.gauss(0, 1) for _ in now.program.inputs])) for _ in range(4_000))
    sure = now.sure(old_finished)
    assert sure.interval.low == pytest.approx(drawn[100], abs=0.12 * (drawn[3900] - drawn[100]))
    assert sure.interval.high == pytest.approx(drawn[3900], rel=0.08)
    assert sure.interval.high - sure.value > sure.value - sure.interval.low  # skewed, as a product is
    assert statistics.median(drawn) == pytest.approx(sure.value, rel=0.03)


def test_where_water_is_the_edge_the_other_doubts_still_count():
    """Coolant weaker than water is none: the warm end is then that of capacity and litres, against sampled worlds."""
    program = Program.of(
        [
            Full(CURVE, (20.0,), 0.01, -0.09, 0.11, CAPACITY, 0.05, FOUND, LEVEL, 0.0, 0.0, 0),
            Out((9.0,), ((SCALE, 0.02),), Input("tilt", Source.EXCHANGE), 0.0),
            Poured(8.5, 0.0, 0.95, 0.0, Input("product", Source.PRODUCT), ((Input("jug", Source.POURED), 0.02),)),
        ]
    )
    sure = Solved(program).sure(mixed_w)
    rng = np.random.default_rng(7)
    worlds = [mixed_w(program.run(list(z))) for z in rng.normal(size=(4000, len(program.inputs)))]
    low, high = np.percentile(worlds, [2.5, 97.5])
    assert sure.interval.low <= low + 0.004
    assert sure.interval.high >= high - 0.012
