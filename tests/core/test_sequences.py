"""Any order of facts that is admitted can be folded, and stays within what can be: seeded walks, no reference needed."""

import random
from collections import Counter

import pytest

from temper_core.entries import JobOpened, Route, Routed, SignedOff, Voided
from temper_core.errors import Conflict, CoreError
from temper_core.filling import Level, LevelSeen
from temper_core.flushing import FlushEnded
from temper_core.inspection import Check, Look, Sampled, Spot
from temper_core.inspection import Tested as Checked
from temper_core.ledger import standing
from temper_core.opening import EngineRun, Ran
from temper_core.readings import Place, Read
from temper_core.timing import Paused, Resumed, TemperatureLogged
from tests.core.test_ledger import BLED, FELT, GLASS, HOT, NEW, PG, RINSE, Book, planned, pour, read, weighed

WALKS, LEAST = 30, 8


def choices(rng, book):
    """What somebody may try next; most of it does not belong where the job stands, and is refused."""
    litres = rng.choice((0.2, 4.0, 12.0, 24.5, 31.9))
    acting = [entry.id for entry in standing(book.entries) if not isinstance(entry.facts, JobOpened)]
    return [
        JobOpened(rng.choice(list(Route))),
        planned(product=rng.choice((NEW, PG))),
        planned(rng.choice((-20.0, -45.0)), concentrate_l=litres / 2, water_l=litres / 4),
        Read(rng.choice((-3.0, -19.0, -36.0)), Place.AS_FOUND),
        Read(rng.choice((-2.0, -6.0)), Place.RINSE, instrument=GLASS, zero=-0.4, sample_c=20.0),
        read(rng.choice((-12.0, -38.0, -46.0))),
        Sampled(Spot.NECK, (rng.choice(list(Look)),)),
        Checked(Check.HOSES, rng.choice(("sound", "soft"))),
        Routed(rng.choice((Route.CHANGE_OUT, Route.RENEW)), Route.RENEW, "for the walk"),
        FELT,
        EngineRun(rng.choice(list(Ran)), rng.choice((3.0, 25.0))),
        HOT,
        weighed(litres),
        weighed(litres),
        RINSE,
        FlushEnded("for the walk"),
        pour(rng.choice((NEW, PG)), litres / 2, litres / 4, at_mark=rng.random() < 0.4),
        pour(None, 0.0, litres / 3, at_mark=rng.random() < 0.3),
        BLED,
        TemperatureLogged(rng.choice((35.0, 60.0, 80.0))),
        Paused("lunch"),
        Resumed(),
        LevelSeen(rng.choice(list(Level))),
        *([Voided(rng.choice(acting), "for the walk")] if acting and rng.random() < 0.3 else []),
        SignedOff(rng.choice(("proven", "too_weak")), "for the walk"),
    ]


def walk(seed):
    """One walk: facts tried in any order, those that are admitted are in the book, folded after each."""
    rng, book, kinds = random.Random(seed), Book(), Counter()
    book.add(JobOpened(rng.choice((Route.CHANGE_OUT, Route.RENEW, Route.TOP_UP, Route.CLEAN))))
    for _ in range(60):
        facts = rng.choice(choices(rng, book))
        try:
            state = book.add(facts)
        except (CoreError, Conflict):
            continue
        kinds[type(facts).__name__] += 1
        inside = state.inside
        assert inside.litres >= -1e-6
        assert inside.sd_l >= 0
        assert inside.old_percent is None or 0 <= inside.old_percent <= 100 + 1e-6
        assert all(row.litres >= -1e-6 for row in state.vessels)
        if state.claim.safe_to_c is not None and state.claim.freeze_c is not None:
            assert state.claim.safe_to_c >= state.claim.freeze_c - 1e-6  # never surer than the figure itself
        if sum(kinds.values()) >= 20:
            break
    return kinds


@pytest.mark.parametrize("block", range(5))
def test_what_is_admitted_can_be_folded_and_stays_within_what_can_be(block):
    long, seen = 0, Counter()
    for seed in range(block * WALKS, (block + 1) * WALKS):
        kinds = walk(seed)
        long += sum(kinds.values()) >= LEAST
        seen += kinds
    assert long >= 0.6 * WALKS
    assert len(seen) >= 15, sorted(seen)
    assert min(seen[name] for name in ("Drained", "Poured", "Read", "GateObserved", "Voided")) >= 8
