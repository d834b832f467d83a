"""Any order of facts that is accepted can be folded, and stays within what can be: seeded walks, no reference needed."""

import os
import random
from collections import Counter
from dataclasses import fields, replace
from datetime import timedelta

import pytest

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.job.editing.outcome import edit_of, editable
from temper_core.job.entries import Edited, Entry, standing
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


def an_edit(rng, loop, entries, at, kinds):
    """A figure of an earlier entry is typed differently; what is accepted is kept and folded. How many entries it took."""
    open_ = sorted(editable(entries, at))
    if not open_:
        return 0
    chosen = rng.choice(open_)
    target = next(entry for entry in standing(entries) if entry.id == chosen)
    figures = [row.name for row in fields(target.facts) if isinstance(getattr(target.facts, row.name), float)]
    if not figures:
        return 0
    name = rng.choice(figures)
    try:
        facts = replace(target.facts, **{name: getattr(target.facts, name) * rng.choice((0.5, 0.9, 1.1, 2.0))})
        edit_of(loop, entries, target.id, facts, Policy(), at, person_id=target.person_id)
    except (CoreError, Conflict):
        return 0
    by = Entry(f"e{len(entries)}", target.job_id, at, at, "IH", facts, seq=len(entries))
    mark = Entry(f"e{len(entries) + 1}", target.job_id, at, at, "IH", Edited(target.id, by.id), seq=len(entries) + 1)
    entries += [by, mark]
    kinds["edited"] += 1
    within_what_can_be(fold(loop, entries, now=at))
    return 2


def walk(seed, kinds):
    """Fact tried one after the other; what is accepted is in the ledger and folded. Returns how many were."""
    rng, edits, loop, entries = random.Random(seed), random.Random(-1 - seed), a_loop(), []
    signed, longest = False, rng.choice((9, 10, 12, 20))
    for facts in steps(rng, entries, kinds, tries=24):
        at = START + timedelta(minutes=10 * len(entries))
        between = signed and isinstance(facts, BETWEEN)
        job = None if between else "job"
        before = with_gate(entries, facts, job, at)
        if isinstance(facts, BleedStarted):
            before = [*entries, Entry("felt", job, at, at, "IH", FELT)]
        if len(before) > len(entries):
            before = [*entries, replace(before[-1], seq=len(entries))]
        try:
            check_entry(loop, before, facts, now=at, between=between)
        except (CoreError, Conflict):
            continue
        entries.append(Entry(f"e{len(entries)}", job, at, at, "IH", facts, seq=len(entries)))
        state = fold(loop, entries, now=at)
        within_what_can_be(state)
        signed = state.signed_at is not None
        kinds[REGISTRY.of(facts).name] += 1
        if seed % 8 == 0 and edits.random() < 0.3:  # an edit seldom leaves a job that comes to its sign-off
            longest += an_edit(edits, loop, entries, at, kinds)
        if len(entries) >= longest:
            break
    within_what_can_be(fold(loop, entries, now=START + timedelta(days=rng.choice((1, 400, 4000)))))
    return len(entries)


def test_every_kind_of_entry_is_tried():
    assert set(MAKERS) | {Edited} == {kind.facts for kind in REGISTRY}  # an edit needs two entries: see an_edit


@pytest.mark.parametrize("block", range(BLOCKS))
def test_what_is_admitted_can_be_folded_and_stays_within_what_can_be(block):
    kinds, long, seed = Counter(), 0, block * 1_000_000
    while long < WALKS:
        long += walk(seed, kinds) >= LEAST
        seed += 1
    assert seed - block * 1_000_000 <= 2 * WALKS  # most walks get somewhere
    few = {kind: kinds[kind] for kind in (row.name for row in REGISTRY) if kinds[kind] < EACH}
    assert not few, few
