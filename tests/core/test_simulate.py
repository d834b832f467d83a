"""True worlds: they conserve mass, answer the same twice, err as the rules say, and Temper's claims hold on them."""

import math
import statistics
from collections import defaultdict
from random import Random

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.job_types import JobType
from temper_core.job.loop import CapacitySource
from temper_core.science import Glycol, freeze_point
from temper_core.simulate.cases import DIGITAL, GLASS, LAYOUTS, Case
from temper_core.simulate.jobs import JOB_TYPES, begin_and_drain, play
from temper_core.simulate.machine import show
from temper_core.simulate.truth import Tool, draw_tool
from tools.coverage import SEED, Row, bounds, case_of

CHANGE = Case(JobType.CHANGE_TYPE, "degas_tank")


def test_the_same_seed_is_the_same_truth_and_another_is_not():
    first, again, other = (play(CHANGE, seed) for seed in (1, 1, 2))
    assert [row.facts for row in first.book.entries] == [row.facts for row in again.book.entries]
    assert first.machine.w == again.machine.w
    assert first.machine.layout.volume_l != other.machine.layout.volume_l


@pytest.mark.parametrize("layout", LAYOUTS)
def test_what_is_caught_is_what_left_the_machine(layout):
    """The scale is off by its own error only, and what is inside and out are all there was."""
    case = Case(JobType.REFILL, layout, believed_percent=25.0)  # all of it on the scale, so that its density is known
    off = []
    for seed in range(40):
        machine, state = begin_and_drain(case, seed)
        full_l = machine.layout.volume_l - machine.truth.missing_l
        out_l = state.flush.rounds[0].out_l
        off.append((out_l - (full_l - machine.inside_l)) / out_l)
    assert statistics.fmean(off) == pytest.approx(0, abs=0.005)
    assert statistics.stdev(off) < 0.02


def test_a_perfect_instrument_shows_the_truth_to_its_division():
    rng = Random(4)
    for instrument in (GLASS, DIGITAL):
        perfect = Tool(instrument, 0.0, 0.0, 0.0)
        for _ in range(50):
            w = rng.uniform(0.05, 0.55)
            truth = freeze_point(Glycol.ETHYLENE, w).freeze_c
            assert show(perfect, Glycol.ETHYLENE, w, rng) == pytest.approx(truth, abs=instrument.resolution / 2 + 1e-6)


def test_past_the_end_of_its_scale_it_shows_no_number():
    assert show(Tool(GLASS, 0.0, 0.0, 0.0), Glycol.ETHYLENE, 0.7, Random(1)) < -50


def test_instruments_are_off_as_the_rules_say():
    tools = [draw_tool(GLASS, Random(n), Policy()) for n in range(2000)]
    assert statistics.stdev(tool.off_zero_k for tool in tools) == pytest.approx(Policy()["zero_unchecked_k"], rel=0.05)
    assert statistics.stdev(tool.bias_divisions for tool in tools) == pytest.approx(Policy()["accuracy_divisions"], rel=0.05)


def test_a_short_run_of_whole_jobs_holds_what_it_claims():
    """5 jobs of each type on each layout, seeded: within the 99.9 % binomial bounds; `check --coverage` plays 500."""
    rows = defaultdict(lambda: Row(""))
    for job_type in JOB_TYPES:
        for layout in LAYOUTS[:: 2 if job_type is JobType.CLEAN else 1]:
            for n in range(5):
                case = case_of(job_type, layout, Random(f"{SEED} {job_type.value} {layout} {n}"))
                for one in play(case, SEED + n).claims:
                    rows[one.what].count(one.truth, one.interval.low, one.interval.high)
    assert {"inside after the drain", "old share", "plan", "reading", "learned capacity"} <= set(rows)
    for what, row in rows.items():
        low, _ = bounds(row.worlds, whole_job=False)
        assert row.held >= low, (what, row.held, row.worlds)
        most = 0.035 * row.worlds + 3.29 * math.sqrt(0.035 * row.worlds)
        assert max(row.below, row.above) <= most, what


@pytest.mark.parametrize("tool", ["digital", "glass"])
def test_no_job_that_freezes_too_early_is_signed_green(tool):
    """36 sound jobs and 36 that lost a sixth of the product on the way: nearly all sound ones green, no bad one."""
    green = defaultdict(int)
    for spilled in (0.0, 0.15):
        for n in range(36):
            case = Case(JobType.CHANGE_TYPE, LAYOUTS[n % 6], tool=tool, readings=3, spilled=spilled)
            played = play(case, n)
            safe = played.machine.freezes_c <= case.coldest_c
            signed = played.state.proof is not None and played.state.proof.verdict.value in ("proven", "protected")
            green[spilled, safe, signed] += 1
    assert green[0.0, False, True] + green[0.15, False, True] <= 2  # at most one in a hundred worlds
    sound = green[0.0, True, True] + green[0.0, True, False]
    assert green[0.0, True, True] >= (0.85 if tool == "digital" else 0.75) * sound


def test_a_capacity_from_memory_is_learned_and_its_interval_is_fair():
    held = tried = 0
    for n in range(40):
        played = play(Case(JobType.CHANGE_TYPE, "degas_tank", source=CapacitySource.REMEMBERED, readings=3), n)
        learned = played.state.learned
        if learned is None:
            continue
        tried += 1
        held += abs(learned.combined.value - played.machine.layout.volume_l) <= learned.combined.half
        assert learned.combined.sd < 0.8 * learned.believed.sd
    assert tried >= 20
    assert held >= 0.85 * tried
