"""Any order of facts that is accepted can be folded, and stays within what can be: seeded walks, no reference needed."""

import os
import random
from collections import Counter
from datetime import timedelta

import pytest

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entries import Entry
from temper_core.job.fill.facts import BleedStarted
from temper_core.job.fold import fold
from temper_core.job.kinds import REGISTRY
from temper_core.job.validate import check_entry
from tests.core.test_ledger import FELT, START, a_loop, with_gate
from tests.walks import BETWEEN, MAKERS, steps

BLOCKS = int(os.environ.get("TEMPER_WALK_BLOCKS", "6"))  # 16 before a release
WALKS, LEAST = 125, 8
EACH = 20 / 16  # so often every kind is accepted in a block, so 20 times and more in all


def within_what_can_be(state):
    """No litres or shares that cannot be, no end of an interval surer than the figure itself."""
    inside = state.inside
    assert inside.litres >= -1e-6
    assert inside.sd_l >= 0
    assert inside.old_percent is None or 0 <= inside.old_percent <= 100 + 1e-6
    assert all(row.litres >= -1e-6 for row in state.vessels)
    if state.claim.safe_to_c is not None and state.claim.freeze_c is not None:
        assert state.claim.safe_to_c >= state.claim.freeze_c - 1e-6


def walk(seed, kinds):
    """Fact tried one after the other; what is accepted is in the ledger and folded. Returns how many were."""
    rng, loop, entries = random.Random(seed), a_loop(), []
    signed, longest = False, rng.choice((9, 10, 12, 20))
    for facts in steps(rng, entries, kinds, tries=24):
        at = START + timedelta(minutes=10 * len(entries))
        between = signed and isinstance(facts, BETWEEN)
        job = None if between else "job"
        before = with_gate(entries, facts, job, at)
        if isinstance(facts, BleedStarted):
            before = [*entries, Entry("felt", job, at, at, "IH", FELT)]
        try:
            check_entry(loop, before, facts, now=at, between=between)
        except (CoreError, Conflict):
            continue
        entries.append(Entry(f"e{len(entries)}", job, at, at, "IH", facts))
        state = fold(loop, entries, now=at)
        within_what_can_be(state)
        signed = state.signed_at is not None
        kinds[REGISTRY.of(facts).name] += 1
        if len(entries) >= longest:
            break
    within_what_can_be(fold(loop, entries, now=START + timedelta(days=rng.choice((1, 400, 4000)))))
    return len(entries)


def test_every_kind_of_entry_is_tried():
    assert set(MAKERS) == {kind.facts for kind in REGISTRY}


@pytest.mark.parametrize("block", range(BLOCKS))
def test_what_is_admitted_can_be_folded_and_stays_within_what_can_be(block):
    kinds, long, seed = Counter(), 0, block * 1_000_000
    while long < WALKS:
        long += walk(seed, kinds) >= LEAST
        seed += 1
    assert seed - block * 1_000_000 <= 2 * WALKS  # most walks get somewhere
    few = {kind: kinds[kind] for kind in (row.name for row in REGISTRY) if kinds[kind] < EACH}
    assert not few, few
